import { Component, computed, inject, input } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { Splitter } from 'primeng/splitter';
import { TableModule } from 'primeng/table';
import { noteSentence, stateSentence } from '../../../../core/runs/run';
import { kinds } from '../../../../core/steps/kinds';
import type { RunReport, StoredRun } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { KeptSizes } from '../shared/kept-sizes';
import { addressNumber } from '../shared/look';
import { Notice } from '../shared/notice';
import { dayOf, plural, titleIn } from '../shared/words';
import { ChangedCells } from './changed-cells';

/** Every refresh: what came in, what was held, what failed. */
@Component({
  selector: 'sieve-runs-page',
  imports: [ButtonDirective, ChangedCells, KeptSizes, Splitter, Notice, RouterLink, RouterLinkActive, TableModule],
  template: `
    <p-splitter sieveSizes="runs" [usual]="[20, 80]" [handles]="['Width of the list of runs']" [gutterSize]="1" [step]="16">
    <ng-template #panel>
    <section class="pane" aria-labelledby="runs">
      <div class="pane-head"><h2 id="runs">Runs</h2></div>
      <div class="scroll">
        @if (asked.failure(); as failure) {
          <sieve-notice kind="failed" [retry]="asked.again">{{ failure.message }}</sieve-notice>
        }
        @if (runs(); as runs) {
          <ul>
            @for (run of runs; track run.id) {
              <li>
                <a [routerLink]="['/pipelines', state.id(), 'runs', run.id]" routerLinkActive="here" [class.here]="run.id === shown()">
                  <b>{{ day(run.startedAt) }} <span class="small">run {{ run.id }}</span></b>
                  <span [class]="tone(run)"><i class="pi" [class]="icon(run)" aria-hidden="true"></i> {{ run.state }}</span>
                  <small>{{ run.rows === null ? '' : counted(run.rows, 'row') }}</small><small>{{ duration(run) }}</small>
                </a>
              </li>
            } @empty {
              <sieve-notice kind="empty">No refresh yet. Press “Run refresh” above.</sieve-notice>
            }
          </ul>
        } @else if (asked.waiting()) {
          <sieve-notice kind="loading">Fetching the runs</sieve-notice>
        }
      </div>
    </section>
    </ng-template>
    <ng-template #panel>
    <section class="pane detail" aria-label="What came of each report">
      @if (detail(); as detail) {
        <div class="pane-head">
          <h2>Run {{ detail.run.id }} of {{ day(detail.run.startedAt) }}</h2>
          {{ detail.run.state }}, {{ counted(detail.reports.length, 'file') }}, {{ duration(detail.run) }}
        </div>
        <div class="scroll" tabindex="0" role="region" aria-label="Reports of the run">
          @for (sentence of ofRun(); track $index) {
            <p class="message">{{ sentence }}</p>
          }
          @for (kind of offersOfRun(); track kind) {
            <p class="message"><a pButton severity="secondary" size="small" [outlined]="true" [routerLink]="['/pipelines', state.id(), 'bench']" [queryParams]="{ add: kind }">Add the step “{{ titleOfKind(kind) }}”</a></p>
          }
          @if (madeAnew()) {
            <sieve-changed-cells [run]="detail.run.id" />
          }
          <p-table [value]="$any(detail.reports)" dataKey="report">
            <ng-template #header>
              <tr>
                <th scope="col">Report</th>
                <th scope="col">Period</th>
                <th scope="col">State</th>
                <th scope="col" class="number">Rows</th>
                <th scope="col" class="number">Held</th>
                <th scope="col" class="number">Misfits</th>
                <th scope="col">Taken</th>
                <th scope="col">Problems</th>
              </tr>
            </ng-template>
            <ng-template #body let-report>
                <tr>
                  <th scope="row"><a [routerLink]="['/pipelines', state.id(), 'bench']" [queryParams]="{ report: report.report }">{{ report.path }}</a></th>
                  <td>{{ report.period ?? '' }}</td>
                  <td [class]="report.state === 'failed' ? 'error' : report.state === 'stale' || report.state === 'held back' ? 'needs' : ''">{{ report.state }}@if (report.parsed) {<span class="small">, parsed</span>}</td>
                  <td class="number">{{ report.rows }}</td>
                  <td class="number">{{ report.held }}</td>
                  <td class="number">{{ report.misfits }}</td>
                  <td>
                    @for (match of report.matches; track match.rule) {
                      {{ match.rule }}, p. {{ match.pages[0] }}{{ match.pages.length > 1 ? '–' + match.pages.at(-1) : '' }}, sure {{ match.sure }}
                    }
                  </td>
                  <td class="problems">
                    @for (sentence of ofReport(report); track $index) {
                      <p>{{ sentence }}</p>
                    }
                    @for (kind of offersOf(report); track kind) {
                      <a pButton severity="secondary" size="small" [outlined]="true" [routerLink]="['/pipelines', state.id(), 'bench']" [queryParams]="{ report: report.report, add: kind }">Add the step “{{ titleOfKind(kind) }}”</a>
                    }
                  </td>
                </tr>
            </ng-template>
          </p-table>
        </div>
      } @else if (detailAsked.failure(); as failure) {
        <sieve-notice kind="failed" [retry]="detailAsked.again">{{ failure.message }}</sieve-notice>
      } @else if (detailAsked.waiting()) {
        <sieve-notice kind="loading">Fetching what came of each report</sieve-notice>
      }
    </section>
    </ng-template>
    </p-splitter>
  `,
  styles: `
    :host {
      flex: 1;
      display: flex;
      min-height: 0;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li a {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 8px;
      padding: 5px 12px;
      border-bottom: 1px solid var(--line-soft);
      color: var(--ink);
      text-decoration: none;
    }
    li a:focus-visible {
      outline-offset: -2px;
    }
    li a.here {
      background: var(--copper-soft);
      box-shadow: inset 3px 0 var(--copper);
    }
    li .pi {
      font-size: 11px;
    }
    small {
      font-size: 12px;
      color: var(--muted);
    }
    th,
    td {
      padding: 5px 10px;
      text-align: left;
      vertical-align: top;
      border-bottom: 1px solid var(--line-soft);
    }
    th[scope='col'] {
      position: sticky;
      top: 0;
      background: var(--head);
      font-weight: 600;
      color: var(--muted);
    }
    th[scope='row'] {
      font-weight: 600;
      white-space: nowrap;
      border-bottom: 1px solid var(--line);
    }
    .number {
      text-align: right;
    }
    td:nth-child(2) {
      white-space: nowrap;
    }
    td:nth-child(7) {
      min-width: 250px;
    }
    .problems {
      color: var(--ochre);
      width: 45%;
    }
    .problems p,
    .message {
      margin: 0 0 2px;
    }
    .message {
      padding: 1px 12px;
    }
    .message:first-child {
      padding-top: 8px;
    }
    p-table {
      display: block;
      margin-top: 8px;
    }
  `,
})
export class RunsPage {
  protected readonly state = inject(PipelineState);
  private readonly api = inject(Api);
  readonly run = input(undefined, { transform: addressNumber });
  protected readonly counted = plural;
  protected readonly day = dayOf;

  protected readonly asked = asked(
    () => ({ pipeline: this.state.id(), version: this.state.version(), run: this.state.running.now()?.run }),
    ({ pipeline }) => this.api.runs(pipeline),
    { keeps: true },
  );
  protected readonly runs = this.asked.value;
  protected readonly shown = computed(() => this.run() ?? this.runs()?.[0]?.id);
  protected readonly detailAsked = asked(
    () => (this.shown() === undefined ? undefined : { run: this.shown()!, state: this.runs()?.find((each) => each.id === this.shown())?.state }),
    ({ run }) => this.api.run(run),
    { keeps: true },
  );
  protected readonly detail = this.detailAsked.value;

  /** What there is to say of the run as a whole. */
  protected readonly ofRun = computed(() => {
    const detail = this.detail();
    if (!detail) return [];
    const { notes, whole, version } = detail.run;
    return [`With version ${version} of the pipeline.`, ...notes.map(noteSentence), ...(whole?.problems ?? []).map((problem) => this.state.sentenceOf(problem, { step: titleIn(whole!.layers) }))];
  });
  /** Rows that an older build had made were made anew in it. */
  protected readonly madeAnew = computed(() => this.detail()?.run.notes.some(({ kind }) => kind === 'made anew') ?? false);
  /** Kinds of steps that are the usual answer to what is wrong with a report. */
  protected offersOf = (report: RunReport): string[] => [...new Set(report.problems.flatMap(({ offer }) => offer ?? []))];
  protected readonly offersOfRun = computed(() => [...new Set((this.detail()?.run.notes ?? []).flatMap((note) => (note.kind === 'not stored' ? (note.problem.offer ?? []) : [])))]);
  protected titleOfKind = (kind: string) => kinds.get(kind)?.title ?? kind;
  protected ofReport(report: RunReport): string[] {
    const title = titleIn([...report.layers, ...(this.detail()?.run.whole?.layers ?? [])]);
    return [stateSentence(report) ?? [], ...report.problems.map((problem) => this.state.sentenceOf(problem, { ofOne: true, step: title }))].flat();
  }

  protected tone = (run: StoredRun) => (run.state === 'published' ? 'passes' : run.state === 'failed' || run.state === 'nothing published' ? 'error' : 'small');
  protected icon = (run: StoredRun) => (run.state === 'published' ? 'pi-check' : run.state === 'failed' || run.state === 'nothing published' ? 'pi-times' : 'pi-minus');

  protected duration(run: StoredRun): string {
    if (!run.endedAt) return 'under way';
    const time = (moment: string) => new Date(moment.replace(' ', 'T').replace(/([+-]\d\d)$/, '$1:00')).getTime();
    const seconds = (time(run.endedAt) - time(run.startedAt)) / 1000;
    return seconds < 90 ? `${seconds.toFixed(1)} s` : `${Math.round(seconds / 60)} min`;
  }
}
