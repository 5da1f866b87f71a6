import { Component, computed, inject, input, signal } from '@angular/core';
import { ActivatedRoute, RouterLink } from '@angular/router';
import type { TakeRule } from '../../../../core/intake/take-rule';
import type { StoredReport } from '../../../../server/api/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { addressNumber, Look } from '../shared/look';
import { Notice } from '../shared/notice';
import { Paper, type PaperTable } from '../shared/paper';
import { plural } from '../shared/words';
import { MatchStrip } from './match-strip';
import { PageStrip } from './page-strip';
import { ruleFor, tableName, withoutRule, withRule, withTable } from './take-rules';

/** What is in the folder, and what to take. */
@Component({
  selector: 'sieve-intake-page',
  imports: [Paper, PageStrip, MatchStrip, Notice, RouterLink],
  template: `
    <div class="panes">
      <section class="pane" aria-labelledby="folder">
        <div class="pane-head">
          <h2 id="folder">Reports</h2>
          {{ counted(state.reports().length, 'file') }}
          <span class="grow"></span>
          @if (state.reading()) {
            <button class="btn quiet" (click)="state.cancelReading()">Stop reading</button>
          } @else {
            <button class="btn quiet" (click)="state.lookAtFolder()">Look again</button>
          }
        </div>
        <div class="scroll">
          @if (state.reports().length === 0) {
            <sieve-notice kind="empty">No file in {{ state.pipeline()?.folder }} yet. Put PDF reports there, then look again.</sieve-notice>
          }
          <ul>
            @for (report of state.reports(); track report.id) {
              @let standing = state.standingOf(report);
              <li>
                <button [class.here]="report.id === shown()?.id" [attr.aria-current]="report.id === shown()?.id" [disabled]="report.standing === 'not a PDF'" (click)="show(report.id)">
                  <b>{{ report.path }}</b>
                  <span [class]="standing.tone">
                    @if (standing.tone === 'needs' || standing.tone === 'error') {
                      <i class="pi pi-exclamation-triangle" aria-hidden="true"></i>
                    } @else if (standing.tone === 'passes') {
                      <i class="pi pi-check" aria-hidden="true"></i>
                    }
                    {{ report.id === state.guide()?.id && standing.tone === 'passes' ? 'guide' : standing.word }}</span>
                  <small>{{ standing.detail }}</small>
                </button>
              </li>
            }
          </ul>
        </div>
      </section>

      <section class="pane" aria-labelledby="page-head">
        <div class="pane-head">
          <h2 id="page-head">Page {{ pageShown() }}</h2>
          @if (found(); as found) {
            of {{ found.pageCount }}
          }
          <span class="grow"></span>
          <button class="btn quiet" (click)="turn(-1)" [disabled]="pageShown() <= 1" aria-label="Page before"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
          <button class="btn quiet" (click)="turn(1)" [disabled]="pageShown() >= (found()?.pageCount ?? 1)" aria-label="Next page"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
          <button class="btn quiet" (click)="zoom.set(zoom() / 1.25)" aria-label="Smaller">−</button>
          <span>{{ percent() }}</span>
          <button class="btn quiet" (click)="zoom.set(zoom() * 1.25)" aria-label="Larger">+</button>
        </div>
        <div class="paper">
          @if (found(); as found) {
            <sieve-page-strip [found]="found" [taken]="takenTables()" [chosen]="pageShown()" (choose)="turnTo($event)" />
            <sieve-paper [file]="file()" [name]="shown()!.path" [page]="pageShown()" [zoom]="zoom()" [tables]="tables()" [takeable]="true" (toggle)="toggle($event)" />
          } @else if (shown(); as shown) {
            @let standing = state.standingOf(shown);
            @if (standing.tone === 'error') {
              <sieve-notice kind="failed">{{ standing.detail }}</sieve-notice>
            } @else {
              <sieve-notice [kind]="state.reading() ? 'loading' : 'empty'">{{ shown.path }}: {{ standing.word }} {{ standing.detail }}</sieve-notice>
            }
          }
        </div>
      </section>

      <section class="pane take" aria-labelledby="take-head">
        <div class="pane-head"><h2 id="take-head">Take</h2> which tables of every report</div>
        <div class="scroll">
          @if (shown(); as shown) {
            @if (shown.id !== state.guide()?.id && summary()) {
              <p class="guide"><button class="btn" (click)="makeGuide(shown)">Make {{ shown.path }} the guide</button></p>
            }
          }
          @for (rule of rules(); track rule.name) {
            <div class="card">
              <h3>{{ rule.name }}</h3>
              <p class="small">{{ hereWords(rule.name) }}</p>
              <dl>
                @if (rule.title) {
                  <dt>Title like</dt>
                  <dd>{{ rule.title }}</dd>
                }
                <dt>Heading words</dt>
                <dd>{{ rule.heading.join(', ') || 'any' }}</dd>
                <dt><label [for]="'reading-' + rule.name">How it is read</label></dt>
                <dd>
                  <select class="field" [id]="'reading-' + rule.name" (change)="setReading(rule, $any($event.target).value)">
                    @for (name of readingNames; track name) {
                      <option [selected]="name === rule.reading">{{ name }}</option>
                    }
                  </select>
                </dd>
                <dt><label [for]="'least-' + rule.name">At least this sure</label></dt>
                <dd><input class="field" [id]="'least-' + rule.name" type="number" min="0" max="1" step="0.05" [value]="rule.least" (change)="setLeast(rule, +$any($event.target).value)" /></dd>
              </dl>
              @for (reading of readingsHere(rule.name); track reading.name) {
                <p class="small"><b>{{ reading.name }}</b>: {{ reading.reason }}</p>
              }
              <button class="btn quiet" (click)="leave(rule.name)">Leave it out</button>
            </div>
          } @empty {
            <sieve-notice kind="empty">Nothing is taken yet. Press “take” above a found table on the paper.</sieve-notice>
          }
          @if (needing().length > 0) {
            <div class="card needing">
              <h3>{{ counted(needing().length, 'report needs', 'reports need') }} a look</h3>
              @for (each of needing(); track each.report.id) {
                <p><button class="btn quiet name" (click)="show(each.report.id)">{{ each.report.path }}</button> {{ each.standing.word }}<br /><span class="small">{{ each.standing.detail }}</span></p>
              }
            </div>
          }
          @if (rules().length > 0) {
            <p class="guide"><a class="btn go link" [routerLink]="['../bench']" queryParamsHandling="merge">To the bench</a></p>
          }
        </div>
      </section>
    </div>
    <sieve-match-strip (choose)="show($event.report, $event.page)" />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
    }
    .panes {
      flex: 1;
      display: grid;
      grid-template-columns: 270px minmax(0, 1fr) 320px;
      min-height: 0;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li button {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 8px;
      width: 100%;
      padding: 5px 12px;
      border: 0;
      border-bottom: 1px solid var(--line-soft);
      background: none;
      text-align: left;
      cursor: pointer;
    }
    li button:hover:not(:disabled) {
      background: var(--panel);
    }
    li button:disabled {
      color: var(--muted);
      cursor: default;
    }
    li button:focus-visible {
      outline-offset: -2px;
    }
    li button.here {
      background: var(--copper-soft);
      box-shadow: inset 3px 0 var(--copper);
    }
    li span {
      font-size: 12px;
    }
    li span .pi {
      font-size: 11px;
    }
    li b {
      font-weight: 600;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    li small {
      grid-column: 1 / -1;
      font-size: 12px;
      color: var(--muted);
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      max-width: 244px;
    }
    .paper {
      flex: 1;
      display: flex;
      min-height: 0;
      background: var(--desk);
    }
    .take {
      border-right: 0;
    }
    .card {
      margin: 10px 12px;
      padding: 9px 11px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--panel);
    }
    .needing h3 {
      color: var(--ochre);
    }
    .needing p {
      margin: 4px 0;
    }
    .needing .name {
      padding: 0;
      color: var(--copper);
      text-decoration: underline;
    }
    .card p {
      margin: 3px 0;
    }
    dl {
      display: grid;
      grid-template-columns: 108px minmax(0, 1fr);
      gap: 5px 8px;
      margin: 6px 0;
      align-items: center;
    }
    dt {
      color: var(--muted);
    }
    dd {
      margin: 0;
    }
    dd .field {
      width: 100%;
    }
    .guide {
      margin: 10px 12px;
    }
    .link {
      display: inline-block;
      text-decoration: none;
    }
  `,
})
export class IntakePage {
  protected readonly state = inject(PipelineState);
  private readonly api = inject(Api);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);
  readonly report = input(undefined, { transform: addressNumber });
  readonly page = input(undefined, { transform: addressNumber });

  protected readonly zoom = signal(1);
  protected readonly percent = computed(() => `${Math.round(this.zoom() * 100)} %`);
  protected readonly counted = plural;
  protected readonly readingNames: readonly TakeRule['reading'][] = ['best', 'tagged', 'ruled', 'aligned', 'line by line'];
  protected readonly rules = computed(() => this.state.document()?.take ?? []);
  protected readonly shown = computed((): StoredReport | undefined => this.state.reports().find((report) => report.id === this.report()) ?? this.state.guide());
  protected readonly summary = computed(() => (this.shown() ? this.state.summaryOf(this.shown()!.id) : undefined));
  /** While the report is still being read: what was found so far. */
  protected readonly found = computed(() => (this.shown() ? this.state.foundIn(this.shown()!.id) : undefined));
  protected readonly takenTables = computed(() => new Set((this.found()?.tables ?? []).flatMap(({ id }) => (this.summary() && ruleFor(this.summary()!, id) !== undefined ? [id] : []))));
  protected readonly file = computed(() => this.api.fileAddress(this.state.id(), this.shown()!.id));
  /** The page asked for, or the first with a table that is taken, or with any. */
  protected readonly pageShown = computed(() => {
    const tables = this.found()?.tables ?? [];
    const taken = tables.find((table) => this.takenTables().has(table.id)) ?? tables[0];
    return this.page() ?? taken?.pieces[0].page ?? 1;
  });
  protected readonly tables = computed((): PaperTable[] =>
    (this.found()?.tables ?? []).flatMap((table) =>
      table.pieces.filter((piece) => piece.page === this.pageShown()).map((piece) => ({ id: piece.id, title: tableName(table), box: piece.box, taken: this.takenTables().has(table.id) })),
    ),
  );
  protected readonly needing = computed(() =>
    this.state
      .counting()
      .map((report) => ({ report, standing: this.state.standingOf(report) }))
      .filter(({ standing }) => standing.tone === 'needs' || standing.tone === 'error'),
  );

  protected show(report: number, page?: number) {
    this.look.at(this.route, { report, page: page ?? null }, false);
  }
  protected turn(by: number) {
    this.turnTo(this.pageShown() + by);
  }
  protected turnTo(page: number) {
    this.look.at(this.route, { page });
  }

  /** Takes the found table whose piece was pressed, or leaves it. */
  protected toggle(piece: string) {
    const summary = this.summary();
    const document = this.state.document()!;
    const table = this.found()!.tables.find((each) => each.pieces.some((own) => own.id === piece))!;
    const rule = summary && ruleFor(summary, table.id);
    const next = rule ? withoutRule(document, rule) : withTable(document, table);
    this.state.change(document.guide ? next : { ...next, guide: this.shown()!.path });
  }
  protected leave(rule: string) {
    this.state.change(withoutRule(this.state.document()!, rule));
  }
  protected setReading(rule: TakeRule, reading: TakeRule['reading']) {
    this.state.change(withRule(this.state.document()!, rule.name, { reading }));
  }
  protected setLeast(rule: TakeRule, least: number) {
    this.state.change(withRule(this.state.document()!, rule.name, { least: Math.min(1, Math.max(0, least)) }));
  }
  protected makeGuide(report: StoredReport) {
    this.state.change({ ...this.state.document()!, guide: report.path });
  }

  /** What the rule takes from the report shown. */
  protected hereWords(rule: string): string {
    const summary = this.summary();
    if (!summary) return this.state.reading() ? 'This report is still being read.' : 'This report was not read.';
    const match = summary.matches.find((each) => each.rule === rule);
    const table = match && summary.tables.find((each) => each.id === match.table);
    if (!match || !table) return 'Takes nothing from this report.';
    return `${plural(table.pieces.length, 'piece')} in this report, ${plural(table.rows, 'row')}, ${table.columns} columns; sure ${match.sure}`;
  }
  protected readingsHere(rule: string) {
    const summary = this.summary();
    const match = summary?.matches.find((each) => each.rule === rule);
    return summary?.tables.find((each) => each.id === match?.table)?.pieces[0].readings.slice(0, 2) ?? [];
  }
}
