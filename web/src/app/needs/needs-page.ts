import { Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { Listbox } from 'primeng/listbox';
import { Splitter } from 'primeng/splitter';
import type { Answer } from '../../../../core/drift/answers';
import type { Difference, Proposal } from '../../../../core/drift/difference';
import { answerTo, usuallyToCome } from '../../../../core/drift/differences';
import { answerSentence, decisionWords } from '../../../../core/drift/words';
import { tiesSentence } from '../../../../core/ties/tied';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { FailedLine } from '../shared/failed-line';
import { KeptSizes } from '../shared/kept-sizes';
import { Notice } from '../shared/notice';
import { Paper, type PaperFrame } from '../shared/paper';
import { plural } from '../shared/words';
import { needsOf, type NeedItem } from './needs';

/** What needs the analyst, one after the other: each a sentence with its answers, and the paper at the place. */
@Component({
  selector: 'sieve-needs-page',
  imports: [ButtonDirective, Checkbox, FailedLine, FormsModule, KeptSizes, Listbox, Notice, Paper, RouterLink, Splitter],
  template: `
    <p-splitter sieveSizes="needs" [usual]="[42, 58]" [handles]="['Width of the list of what needs you']" [gutterSize]="1" [step]="16">
      <ng-template #panel>
        <section class="pane" aria-labelledby="needs">
          <div class="pane-head">
            <h2 id="needs">What needs you</h2>
            {{ items().length > 0 ? items().length : '' }}
            <span class="grow"></span>
            @if (state.changedSince() && !state.running.now()) {
              <span class="small">What was changed counts from the next refresh on.</span>
              <button pButton type="button" size="small" (click)="state.running.start()">Refresh now</button>
            }
          </div>
          <sieve-failed-line [of]="[run, published]" />
          @if (waiting()) {
            <sieve-notice kind="loading">Looking at what the last refresh told</sieve-notice>
          } @else if (items().length > 0) {
            <p-listbox [options]="items()" dataKey="id" optionLabel="says" [ngModel]="chosen()" (onChange)="choose($event.value)" scrollHeight="100%" ariaLabel="What needs you">
              <ng-template #item let-item>
                <span class="item">
                  <i class="pi" [class]="item.mark" aria-hidden="true"></i>
                  <span>{{ item.says }}</span>
                  <span class="small until">{{ item.until }}</span>
                </span>
              </ng-template>
            </p-listbox>
          } @else if (!failed()) {
            <sieve-notice kind="empty">{{ allIsWell() }}</sieve-notice>
          }
          @if (answers().length > 0) {
            <details class="given">
              <summary>{{ counted(answers().length, 'answer') }} given</summary>
              <ul>
                @for (answer of answers(); track $index) {
                  <li>
                    <span>{{ sentenceOf(answer) }}@if (answer.why) {<span class="small"> {{ answer.why }}</span>}</span>
                    <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="withdraw(answer)">Withdraw</button>
                  </li>
                }
              </ul>
            </details>
          }
        </section>
      </ng-template>
      <ng-template #panel>
        <section class="pane" aria-label="What it is about">
          @if (chosen(); as item) {
            <div class="about">
              <p>{{ item.says }}</p>
              @if (item.difference; as difference) {
                <div class="answers" role="group" aria-label="Answers">
                  @for (proposal of difference.proposals; track $index) {
                    <button pButton type="button" size="small" [severity]="$first ? 'primary' : 'secondary'" [outlined]="!$first" (click)="answer(item, difference, proposal)">{{ wordsOf(difference, proposal) }}{{ likeness(proposal) }}</button>
                  }
                </div>
                <label class="to-come"><p-checkbox [binary]="true" [ngModel]="toCome()" (ngModelChange)="wantsToCome.set($event)" inputId="to-come" /> also in reports to come</label>
                @if (among().length > 1) {
                  <p class="small">
                    In
                    @for (report of among(); track report.id; let last = $last) {
                      <button type="button" class="link" [attr.aria-pressed]="report.id === shown()" (click)="looksAt.set(report.id)">{{ report.period ?? report.path }}</button>{{ last ? '' : ', ' }}
                    }
                  </p>
                }
              } @else if (item.kind === 'total') {
                <a pButton size="small" [routerLink]="['../dataset']" [queryParams]="{ beside: 'totals' }">To the total and the rows it covers</a>
              } @else if (item.kind === 'run') {
                <button pButton type="button" size="small" (click)="state.running.start()" [disabled]="state.running.now() !== undefined">Run refresh</button>
              } @else if (item.kind === 'check') {
                <a pButton size="small" [routerLink]="['../dataset']" [queryParams]="{ beside: 'checks' }">To the check and the cells that fail it</a>
              } @else if (item.kind === 'hole') {
                <button pButton type="button" size="small" (click)="none(item.period!)">There was none</button>
              } @else {
                <a pButton size="small" severity="secondary" [outlined]="true" [routerLink]="[item.kind === 'step' ? '../bench' : '../intake']" [queryParams]="{ report: item.report, page: item.page, step: item.step }">{{ item.kind === 'step' ? 'To the step on the bench' : 'To the report in the intake' }}</a>
              }
            </div>
            <sieve-failed-line [of]="[paper]" />
            @if (shown(); as report) {
              <sieve-paper [file]="fileOf(report)" [name]="pathOf(report)" [page]="page()" [zoom]="frames().length > 0 ? 1.4 : 1" [frames]="frames()" />
            }
          } @else {
            <sieve-notice kind="empty">{{ items().length > 0 ? 'Choose one, and its paper and answers stand here.' : '' }}</sieve-notice>
          }
        </section>
      </ng-template>
    </p-splitter>
  `,
  styleUrl: './needs-page.css',
})
export class NeedsPage {
  private readonly api = inject(Api);
  protected readonly state = inject(PipelineState);
  protected readonly counted = plural;
  protected readonly wordsOf = decisionWords;
  protected readonly sentenceOf = answerSentence;
  protected readonly likeness = ({ likeness }: Proposal) => (likeness === undefined ? '' : likeness >= 0.75 ? ', as its values say' : likeness < 0.5 ? ', though its values do not look so' : '');

  protected readonly run = this.state.lastRun;
  protected readonly published = asked(
    () => (this.publication() === undefined ? undefined : { pipeline: this.state.id(), publication: this.publication() }),
    ({ pipeline }) => this.api.datasetMadeOf(pipeline),
    { keeps: true },
  );
  private readonly publication = computed(() => this.state.pipeline()?.lastRuns.find((run) => run.state === 'published')?.id);
  protected readonly waiting = computed(() => (this.run.waiting() && !this.run.value()) || (this.published.waiting() && !this.published.value()) || !this.state.looked());
  protected readonly failed = computed(() => [this.run, this.published].some((each) => each.failure()));

  protected readonly answers = computed(() => this.state.document()?.answers ?? []);
  protected readonly items = computed((): NeedItem[] => {
    const document = this.state.document();
    if (!document || this.waiting()) return [];
    return needsOf({ document, needs: this.state.pipeline()?.needs ?? [], reports: this.state.reports(), run: this.run.value(), published: this.published.value(), sentenceOf: (problem) => this.state.sentenceOf(problem) });
  });
  private readonly chosenId = signal<string | undefined>(undefined);
  protected readonly chosen = computed(() => this.items().find(({ id }) => id === this.chosenId()) ?? this.items()[0]);
  protected readonly allIsWell = computed(() => {
    const run = this.run.value();
    if (!run) return '';
    const reports = run.reports.filter(({ rows }) => rows > 0);
    const ties = run.run.notes.flatMap((note) => (note.kind === 'totals' ? [tiesSentence(note.ties, note.later)] : []));
    return [`Nothing needs you. ${plural(reports.length, 'report')}, ${plural(reports.reduce((sum, { rows }) => sum + rows, 0), 'row')}.`, ...ties].join(' ');
  });

  /** The reports of the difference; the one whose paper is shown was asked for, or is the first. */
  protected readonly among = computed(() => (this.chosen()?.difference?.reports ?? []).flatMap((key) => this.state.reports().find(({ id }) => String(id) === key) ?? []));
  protected readonly looksAt = signal<number | undefined>(undefined);
  protected readonly shown = computed(() => this.looksAt() ?? this.chosen()?.report);
  protected readonly page = computed(() => this.chosen()?.page ?? 1);
  protected readonly wantsToCome = signal<boolean | undefined>(undefined);
  protected readonly toCome = computed(() => this.wantsToCome() ?? (this.chosen()?.difference ? usuallyToCome(this.chosen()!.difference!) : false));
  protected readonly paper = asked(
    () => {
      const words = this.chosen()?.difference?.words;
      const report = this.shown();
      return words && report !== undefined && this.looksAt() === undefined ? { pipeline: this.state.id(), report, page: this.page() } : undefined;
    },
    ({ pipeline, report, page }) => this.api.page(pipeline, report, page),
  );
  protected readonly frames = computed((): PaperFrame[] => {
    const words = this.paper.value()?.page?.words;
    return words ? (this.chosen()?.difference?.words ?? []).flatMap((at) => (words[at] ? [{ box: words[at].box, kind: 'word' as const }] : [])) : [];
  });

  protected fileOf = (report: number) => this.api.fileAddress(this.state.id(), report);
  protected pathOf = (report: number) => this.state.reports().find(({ id }) => id === report)?.path ?? '';

  protected choose(item: NeedItem | null) {
    if (!item) return;
    this.chosenId.set(item.id);
    this.looksAt.set(undefined);
    this.wantsToCome.set(undefined);
  }

  protected answer(item: NeedItem, difference: Difference, proposal: Proposal) {
    const document = this.state.document();
    if (!document) return;
    const given = answerTo(difference, proposal, this.among(), this.toCome());
    const more = this.items().some((other) => other.id !== item.id && other.difference?.holds);
    this.goOnFrom(item);
    this.state.answer({ ...document, answers: [...document.answers, given] }, { more });
  }

  protected withdraw(answer: Answer) {
    const document = this.state.document();
    if (!document) return;
    this.state.answer({ ...document, answers: document.answers.filter((each) => each !== answer) });
  }

  /** A period for which no report will come is no longer asked for. */
  protected none(period: string) {
    const document = this.state.document();
    if (!document) return;
    this.goOnFrom(this.chosen()!);
    this.state.change({ ...document, reports: { ...document.reports, none: [...(document.reports.none ?? []), period] } });
  }

  /** The next one is chosen when this one is answered. */
  private goOnFrom(item: NeedItem) {
    const at = this.items().findIndex(({ id }) => id === item.id);
    this.choose(this.items()[at + 1] ?? this.items()[at - 1] ?? null);
  }
}
