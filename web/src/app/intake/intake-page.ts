import { Component, computed, inject, input, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute, RouterLink } from '@angular/router';
import { catchError, distinctUntilChanged, map, of, startWith, switchMap } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import { wordsIn, wordsOf } from '../../../../core/intake/outlines';
import { ruleOf, type Drawing, type LabelSetting, type ReadingChoice, type TakeRule } from '../../../../core/intake/take-rule';
import type { Box } from '../../../../core/page/box';
import type { Pipeline } from '../../../../core/pipeline/document';
import type { Piece } from '../../../../core/reading/found-table';
import { readingsOf } from '../../../../core/reading/page-tables';
import { separatorsOf, wordsAcross } from '../../../../core/reading/readings/drawn';
import type { PageAnswer, StoredReport, TakeMatch } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { addressNumber, Look } from '../shared/look';
import { Notice } from '../shared/notice';
import { newStep } from '../bench/steps-edit';
import { PeriodsDialog } from '../periods/periods-dialog';
import { Paper, type PaperFrame, type PaperTable } from '../shared/paper';
import type { PaperRulers } from '../shared/paper-ruler';
import { plural } from '../shared/words';
import { FindBox, type Hits } from './find-box';
import { LabelsPanel } from './labels-panel';
import { MatchStrip } from './match-strip';
import { anchorsOf, drawingOn, pieceTaken, tablesOn, undrawn } from './on-paper';
import { PageStrip } from './page-strip';
import { ReadingsPanel } from './readings-panel';
import { SeparatorsPanel } from './separators-panel';
import { TakeCard, type CutPlace } from './take-card';
import { TakeMany } from './take-many';
import { freeRuleName, ruleFor, tableName, withCut, withLabel, withoutLabel, withoutRule, withRule, withTable } from './take-rules';

/** What is in the folder, and what to take. */
@Component({
  selector: 'sieve-intake-page',
  imports: [Paper, PageStrip, MatchStrip, Notice, PeriodsDialog, RouterLink, FindBox, LabelsPanel, ReadingsPanel, SeparatorsPanel, TakeCard, TakeMany, ButtonDirective],
  template: `
    <sieve-periods-dialog [(open)]="periods" />
    <div class="panes" [class.wide]="mode().kind === 'separators'" [class.wider]="mode().kind === 'readings'">
      <section class="pane" aria-labelledby="folder">
        <div class="pane-head">
          <h2 id="folder">Reports</h2>
          {{ counted(state.reports().length, 'file') }}
          <span class="grow"></span>
          @if (state.reading()) {
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="state.cancelReading()">Stop reading</button>
          } @else {
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="state.lookAtFolder()">Look again</button>
          }
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="periods.set(true)">Periods</button>
        </div>
        <sieve-find-box [hits]="hits()" (hitsChange)="hits.set($event)" (step)="toHit($event)" />
        <div class="scroll">
          @if (state.reports().length === 0) {
            <sieve-notice kind="empty">No file in {{ state.pipeline()?.folder }} yet. Put PDF reports there, then look again.</sieve-notice>
          }
          <ul>
            @for (report of state.reports(); track report.id) {
              @let standing = state.standingOf(report);
              <li>
                <button [class.here]="report.id === shown()?.id" [attr.aria-current]="report.id === shown()?.id" [disabled]="report.standing === 'not a PDF'" (click)="show(report.id, hits().get(report.id)?.[0]?.page)">
                  <b>{{ report.path }}</b>
                  <span [class]="standing.tone">
                    @if (standing.tone === 'needs' || standing.tone === 'error') {
                      <i class="pi pi-exclamation-triangle" aria-hidden="true"></i>
                    } @else if (standing.tone === 'passes') {
                      <i class="pi pi-check" aria-hidden="true"></i>
                    }
                    {{ report.id === state.guide()?.id && standing.tone === 'passes' ? 'guide' : standing.word }}</span>
                  @if (hits().get(report.id); as found) {
                    <small class="needs">{{ counted(found.length, 'hit') }}, first on page {{ found[0].page }}</small>
                  } @else {
                    <small>{{ standing.detail }}</small>
                  }
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
          @if (mode().kind === 'area') {
            <b class="needs">Draw the area on the paper</b>
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="leaveMode()">Cancel</button>
          } @else if (mode().kind === 'cards' && found()) {
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="mode.set({ kind: 'area' })">Draw an area</button>
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="pointAt(undefined)">Point at a value</button>
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="takeWholePage()">Take whole page</button>
          }
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="turn(-1)" [disabled]="pageShown() <= 1" aria-label="Page before"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="turn(1)" [disabled]="pageShown() >= (found()?.pageCount ?? 1)" aria-label="Next page"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="zoom.set(zoom() / 1.25)" aria-label="Smaller">−</button>
          <span>{{ percent() }}</span>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="zoom.set(zoom() * 1.25)" aria-label="Larger">+</button>
        </div>
        <div class="paper">
          @if (found(); as found) {
            <sieve-page-strip [found]="found" [taken]="takenTables()" [chosen]="pageShown()" [hits]="hitsByPage()" (choose)="turnTo($event)" />
            <sieve-paper
              [file]="file()"
              [name]="shown()!.path"
              [page]="pageShown()"
              [zoom]="zoom()"
              [tables]="tables()"
              [takeable]="mode().kind === 'cards'"
              [frames]="frames()"
              [lines]="lines()"
              [words]="mode().kind === 'labels' ? words() : []"
              [rulers]="rulers()"
              [drawing]="mode().kind === 'area'"
              (toggle)="toggle($event)"
              (word)="pointAt($event)"
              (rulersChange)="moveRulers($event)"
              (area)="takeArea($event)"
            />
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
        @switch (mode().kind) {
          @case ('separators') {
            <div class="pane-head"><h2 id="take-head">Separators</h2> of “{{ draft()?.name }}”</div>
            @if (draft() && answer()?.page) {
              <sieve-separators-panel [rule]="draft()!" [answer]="answer()!" [report]="shown()!" [piece]="drawnPiece()" [words]="drawnWords()" (drawingChange)="redraw($event)" (keepFor)="keepSeparators($event)" />
            } @else {
              <sieve-notice kind="loading">Reading the page</sieve-notice>
            }
          }
          @case ('readings') {
            <div class="pane-head"><h2 id="take-head">Readings</h2> of “{{ modeRule()?.name }}”</div>
            @if (comparedPiece(); as piece) {
              <sieve-readings-panel [piece]="piece" [chosen]="modeRule()!.reading" (use)="useReading($event)" (close)="leaveMode()" />
            } @else {
              <sieve-notice kind="empty">The rule takes nothing from this page. <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="leaveMode()">Back to what is taken</button></sieve-notice>
            }
          }
          @case ('labels') {
            <div class="pane-head"><h2 id="take-head">Values by label</h2> {{ shown()?.path }}</div>
            @if (answer()?.page; as page) {
              <sieve-labels-panel [page]="page" [word]="pointed()" [labels]="labels()" (take)="takeLabel($event)" (stamp)="stampLabel($event)" (leave)="leaveLabel($event)" (close)="leaveMode()" />
            }
          }
          @default {
            <div class="pane-head"><h2 id="take-head">Take</h2> which tables of every report</div>
            <div class="scroll">
              @if (shown(); as shown) {
                @if (shown.standing === 'undecided') {
                  @let issues = issuesOf(shown);
                  <div class="card needing">
                    <h3>{{ counted(issues.length, 'issue') }} for {{ shown.period }}</h3>
                    <p>{{ shown.path }} and {{ shown.standingOf }}: their names do not tell which is the later one. Until that is said, neither replaces what was published.</p>
                    <p class="answers">
                      <button pButton (click)="letCount([shown], issues)">This one counts</button>
                      <button pButton severity="secondary" [outlined]="true" (click)="letCount(issues, issues)">{{ issues.length > 2 ? 'All' : 'Both' }} count</button>
                    </p>
                  </div>
                }
                @if (shown.standing === 'set aside') {
                  <p class="guide"><button pButton severity="secondary" [outlined]="true" (click)="setAside(shown, false)">Take {{ shown.path }} back</button></p>
                } @else if (shown.id !== state.guide()?.id && summary()) {
                  <p class="guide"><button pButton severity="secondary" [outlined]="true" (click)="makeGuide(shown)">Make {{ shown.path }} the guide</button></p>
                }
              }
              @if (told(); as told) {
                <p class="guide passes" role="status">{{ told }}</p>
              }
              @for (rule of rules(); track rule.name) {
                <sieve-take-card
                  [rule]="rule"
                  [report]="shown()"
                  [here]="hereWords(rule)"
                  [match]="matchOf(rule.name)"
                  [piece]="takenPieces().get(rule.name)"
                  (change)="alter(rule, $event)"
                  (leave)="leave(rule.name)"
                  (draw)="drawSeparators(rule)"
                  (compare)="mode.set({ kind: 'readings', rule: rule.name })"
                  (point)="pointAt(undefined)"
                  (cut)="cut(rule, $event)"
                />
              } @empty {
                <sieve-notice kind="empty">Nothing is taken yet. Press “take” above a found table on the paper, draw an area, or point at a value.</sieve-notice>
              }
              @if (found(); as found) {
                @if (unread().length > 0) {
                  <div class="card needing">
                    <h3>{{ counted(unread().length, 'picture') }} that may hold a table</h3>
                    @for (page of unread(); track page) {
                      <p><button pButton type="button" [text]="true" size="small" severity="secondary" class="name" (click)="turnTo(page)">page {{ page }}</button> <span class="small">no text stands over it: what it shows cannot be read as text</span></p>
                    }
                  </div>
                }
                @if (found.tables.length > 1) {
                  <sieve-take-many [tables]="found.tables" [page]="pageShown()" [pageCount]="found.pageCount" [names]="ruleNames()" (take)="takeMany($event)" />
                }
              }
              @if (needing().length > 0) {
                <div class="card needing">
                  <h3>{{ counted(needing().length, 'report needs', 'reports need') }} a look</h3>
                  @for (each of needing(); track each.report.id) {
                    <p><button pButton type="button" [text]="true" size="small" severity="secondary" class="name" (click)="show(each.report.id)">{{ each.report.path }}</button> {{ each.standing.word }}<br /><span class="small">{{ each.standing.detail }}</span></p>
                  }
                </div>
              }
              @if (shown(); as shown) {
                @if (shown.standing === 'counts' || shown.standing === 'undecided') {
                  <p class="guide"><button pButton type="button" [text]="true" size="small" severity="secondary" (click)="setAside(shown, true)">Set {{ shown.path }} aside</button></p>
                }
              }
              @if (rules().length > 0) {
                <p class="guide"><a pButton class="link" [routerLink]="['../bench']" queryParamsHandling="merge">To the bench</a></p>
              }
            </div>
          }
        }
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
    .panes.wide {
      grid-template-columns: 0 minmax(0, 1fr) 560px;
    }
    .panes.wider {
      grid-template-columns: 0 minmax(0, 1fr) 800px;
    }
    .panes.wide > :first-child,
    .panes.wider > :first-child {
      visibility: hidden;
      overflow: hidden;
      border: 0;
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
    .answers {
      display: flex;
      gap: 6px;
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
  protected readonly periods = signal(false);
  protected readonly counted = plural;
  protected readonly rules = computed(() => this.state.document()?.take ?? []);
  protected readonly ruleNames = computed(() => this.rules().map((rule) => rule.name));
  protected readonly shown = computed((): StoredReport | undefined => this.state.reports().find((report) => report.id === this.report()) ?? this.state.guide());
  protected readonly summary = computed(() => (this.shown() ? this.state.summaryOf(this.shown()!.id) : undefined));
  /** While the report is still being read: what was found so far. */
  protected readonly found = computed(() => (this.shown() ? this.state.foundIn(this.shown()!.id) : undefined));
  protected readonly takenTables = computed(() => new Set(this.summary()?.matches.flatMap((match) => match.found) ?? []));
  protected readonly file = computed(() => this.api.fileAddress(this.state.id(), this.shown()!.id));
  /** The page asked for, or the first from which something is taken, or with any table. */
  protected readonly pageShown = computed(() => this.page() ?? this.summary()?.matches[0]?.pages[0] ?? this.found()?.tables[0]?.pieces[0].page ?? 1);
  protected readonly tables = computed((): PaperTable[] => [
    ...(this.found()?.tables ?? []).flatMap((table) =>
      table.pieces.filter((piece) => piece.page === this.pageShown()).map((piece) => ({ id: piece.id, title: tableName(table), box: piece.box, taken: this.takenTables().has(table.id) })),
    ),
    // What is taken without having been found.
    ...(this.summary()?.matches ?? [])
      .filter((match) => match.found.length === 0)
      .flatMap((match) => match.pieces.filter((piece) => piece.page === this.pageShown()).map((piece, n) => ({ id: `${match.rule} ${n}`, title: match.rule, box: piece.box, taken: true }))),
  ]);
  protected readonly needing = computed(() =>
    this.state
      .reports()
      .filter(({ standing }) => standing === 'counts' || standing === 'undecided')
      .map((report) => ({ report, standing: this.state.standingOf(report) }))
      .filter(({ standing }) => standing.tone === 'needs' || standing.tone === 'error'),
  );
  protected readonly unread = computed(() => (this.found()?.pages ?? []).filter((page) => page.unread.length > 0).map((page) => page.number));

  /** What the right pane shows: the rules, or one thing being done by hand. */
  protected readonly mode = signal<{ readonly kind: 'cards' | 'area' | 'labels' } | { readonly kind: 'separators' | 'readings'; readonly rule: string }>({ kind: 'cards' });
  protected readonly modeRule = computed(() => {
    const mode = this.mode();
    return 'rule' in mode ? this.rules().find((rule) => rule.name === mode.rule) : undefined;
  });
  protected readonly told = signal<string | undefined>(undefined);

  /** The page as read, with all readings of the tables on it. */
  protected readonly answer = toSignal(
    toObservable(computed(() => ({ report: this.shown()?.id, page: this.pageShown(), ready: this.found() !== undefined }))).pipe(
      distinctUntilChanged((a, b) => a.report === b.report && a.page === b.page && a.ready === b.ready),
      switchMap(({ report, page, ready }) =>
        report === undefined || !ready ? of(undefined) : this.api.page(this.state.id(), report, page).pipe(map((answer): PageAnswer | undefined => answer), catchError(() => of(undefined)), startWith(undefined)),
      ),
    ),
  );
  protected readonly words = computed(() => this.answer()?.page?.words ?? []);
  /** What each rule takes on this page, with its readings. */
  protected readonly takenPieces = computed(() => {
    const answer = this.answer();
    return new Map(answer ? this.rules().flatMap((rule) => this.pieceOf(rule, answer)) : []);
  });
  private pieceOf(rule: TakeRule, answer: PageAnswer): [string, Piece][] {
    const match = this.matchOf(rule.name);
    if (!match || !match.pages.includes(this.pageShown())) return [];
    const piece = pieceTaken(rule, this.shown()!.path, answer, match.found);
    return piece ? [[rule.name, piece]] : [];
  }
  /** The piece as found, before one of its readings is chosen. */
  protected readonly comparedPiece = computed((): Piece | undefined => {
    const rule = this.modeRule();
    const answer = this.answer();
    const match = rule && this.matchOf(rule.name);
    const found = match && answer ? tablesOn(answer).find((table) => match.found.includes(table.id))?.pieces[0] : undefined;
    const drawn = rule?.drawing && answer ? pieceTaken({ ...rule, reading: 'drawn', readingIn: [] }, this.shown()!.path, answer, match?.found)?.readings[0] : undefined;
    return found && drawn ? { ...found, readings: [drawn, ...found.readings] } : found;
  });

  /** The rule with its drawing as the tabs have it now. */
  protected readonly draft = signal<TakeRule | undefined>(undefined);
  private readonly basePiece = computed(() => {
    const draft = this.draft();
    const answer = this.answer();
    return draft && answer ? pieceTaken(undrawn(draft), this.shown()!.path, answer, this.matchOf(draft.name)?.found) : undefined;
  });
  protected readonly drawnPiece = computed(() => {
    const draft = this.draft();
    const answer = this.answer();
    return draft && answer ? pieceTaken({ ...draft, readingIn: [] }, this.shown()!.path, answer, this.matchOf(draft.name)?.found) : undefined;
  });
  protected readonly drawnWords = computed(() => (this.basePiece() ? wordsOf(this.basePiece()!) : []));
  protected readonly rulers = computed((): PaperRulers | undefined => {
    const drawing = this.draft()?.drawing;
    const base = this.basePiece();
    return this.mode().kind === 'separators' && drawing && base ? { box: base.box, columns: drawing.columns, cuts: drawing.rows === 'drawn' ? drawing.cuts : [], rows: drawing.rows === 'drawn' } : undefined;
  });

  protected readonly hits = signal<Hits>(new Map());
  protected readonly hitsByPage = computed(() => {
    const counts = new Map<number, number>();
    for (const { page } of this.hits().get(this.shown()?.id ?? -1) ?? []) counts.set(page, (counts.get(page) ?? 0) + 1);
    return counts;
  });
  private readonly hitAt = signal(-1);
  /** All hits in the order of the reports. */
  private readonly allHits = computed(() => this.state.reports().flatMap((report) => (this.hits().get(report.id) ?? []).map((hit) => ({ report: report.id, hit }))));
  protected readonly frames = computed((): PaperFrame[] => {
    const page = this.pageShown();
    const current = this.allHits()[this.hitAt()];
    const here = this.hits().get(this.shown()?.id ?? -1)?.filter((hit) => hit.page === page) ?? [];
    const first = current && current.report === this.shown()?.id && current.hit.page === page ? [current.hit] : [];
    const hits = [...first, ...here.filter((hit) => hit !== first[0])].map(({ box }): PaperFrame => ({ box, kind: 'hit' }));
    const pictures = this.found()?.pages.find((each) => each.number === page)?.unread.map((box): PaperFrame => ({ box, kind: 'unread', says: 'a picture that may hold a table' })) ?? [];
    const pointed = this.mode().kind === 'labels' && this.pointed() !== undefined ? [{ box: this.words()[this.pointed()!].box, kind: 'word' as const }] : [];
    const across = this.rulers() ? wordsAcross(this.answer()!.page!, this.drawnWords(), { columns: this.rulers()!.columns, rows: 'as read', cuts: [] }).map((w): PaperFrame => ({ box: this.words()[w].box, kind: 'cut' })) : [];
    return [...pointed, ...across, ...hits, ...pictures];
  });
  /** Separators of drawn readings where nothing is being moved. */
  protected readonly lines = computed((): Box[] =>
    this.mode().kind === 'separators'
      ? []
      : (this.summary()?.matches ?? [])
          .flatMap((match) => match.pieces)
          .filter((piece) => piece.page === this.pageShown() && piece.reading === 'drawn')
          .flatMap(({ separators, box }) => separators.map((x): Box => [x, box[1], x, box[3]])),
  );

  protected readonly pointed = signal<number | undefined>(undefined);
  protected readonly labels = computed(() => this.rules().flatMap((rule) => rule.labels));

  protected show(report: number, page?: number) {
    this.leaveMode();
    this.look.at(this.route, { report, page: page ?? null }, false);
  }
  protected turn(by: number) {
    this.turnTo(this.pageShown() + by);
  }
  protected turnTo(page: number) {
    this.look.at(this.route, { page });
  }
  /** The next hit of the search, or the one before, wherever it is. */
  protected toHit(by: 1 | -1) {
    const all = this.allHits();
    if (all.length === 0) return;
    this.hitAt.set((this.hitAt() + by + all.length) % all.length);
    const { report, hit } = all[this.hitAt()];
    this.look.at(this.route, { report, page: hit.page }, false);
  }

  /** Takes the found table whose piece was pressed, or leaves it. */
  protected toggle(piece: string) {
    const summary = this.summary();
    const document = this.state.document()!;
    const table = this.found()!.tables.find((each) => each.pieces.some((own) => own.id === piece));
    const rule = table ? summary && ruleFor(summary, table.id) : piece.replace(/ \d+$/, '');
    if (!rule && !table) return;
    this.put(rule ? withoutRule(document, rule) : withTable(document, table!));
  }
  /** The report on which the first rule is made becomes the guide. */
  private put(next: Pipeline) {
    this.told.set(undefined);
    this.state.change(this.state.document()!.guide ? next : { ...next, guide: this.shown()!.path });
  }
  protected leave(rule: string) {
    this.put(withoutRule(this.state.document()!, rule));
  }
  protected alter(rule: TakeRule, changes: Partial<TakeRule>) {
    const document = this.state.document()!;
    this.put(withRule(document, rule.name, { ...changes, ...(changes.name && changes.name !== rule.name ? { name: freeRuleName(document, changes.name) } : {}) }));
  }
  protected cut(rule: TakeRule, place: CutPlace) {
    this.put(withCut(this.state.document()!, rule.name, place));
  }
  protected takeMany(rules: readonly TakeRule[]) {
    this.put({ ...this.state.document()!, take: [...this.rules(), ...rules] });
  }
  /** The issues of one period, as far as they are undecided. */
  protected issuesOf = ({ period }: StoredReport): StoredReport[] => this.state.reports().filter((report) => report.standing === 'undecided' && report.period === period);
  /** Says which of the issues asked about count; remembered by their content. */
  protected letCount(counting: readonly StoredReport[], issues: readonly StoredReport[]) {
    const document = this.state.document()!;
    const [among, counts] = [issues, counting].map((reports) => reports.map(({ sha256 }) => sha256));
    this.state.change({ ...document, reports: { ...document.reports, answers: [...(document.reports.answers ?? []), { among, counts }] } });
  }
  protected setAside({ sha256 }: StoredReport, aside: boolean) {
    const document = this.state.document()!;
    const others = (document.reports.aside ?? []).filter((each) => each !== sha256);
    this.state.change({ ...document, reports: { ...document.reports, aside: aside ? [...others, sha256] : others } });
  }

  protected makeGuide(report: StoredReport) {
    this.state.change({ ...this.state.document()!, guide: report.path });
  }

  protected leaveMode() {
    this.mode.set({ kind: 'cards' });
    this.draft.set(undefined);
    this.pointed.set(undefined);
  }

  protected takeWholePage() {
    const page = this.pageShown();
    const document = this.state.document()!;
    this.put({ ...document, take: [...document.take, ruleOf({ name: freeRuleName(document, `Whole page ${page}`), of: 'whole page', pages: { from: page, to: page } })] });
  }

  /** An area was drawn: its separators come next. */
  protected takeArea(box: Box) {
    const answer = this.answer();
    if (!answer?.page) return;
    const document = this.state.document()!;
    const words = wordsIn(answer.page, box);
    if (words.length < 2) return this.told.set('There is no text in the area drawn.');
    const [reading] = readingsOf(answer.page, { box, words, by: 'space' });
    const rule = ruleOf({ name: freeRuleName(document, `Area of page ${this.pageShown()}`), of: 'area', reading: 'drawn', drawing: { ...anchorsOf(answer.page, reading, box), columns: reading ? separatorsOf(reading) : [], box } });
    this.put({ ...document, take: [...document.take, rule] });
    this.draft.set(rule);
    this.mode.set({ kind: 'separators', rule: rule.name });
  }

  protected drawSeparators(rule: TakeRule) {
    const answer = this.answer();
    const base = answer && pieceTaken(undrawn(rule), this.shown()!.path, answer, this.matchOf(rule.name)?.found);
    if (!answer?.page || !base) return;
    this.draft.set({ ...rule, reading: 'drawn', drawing: drawingOn(rule, answer.page, base) });
    this.mode.set({ kind: 'separators', rule: rule.name });
  }
  protected moveRulers(rulers: PaperRulers) {
    this.draft.update((draft) => draft && { ...draft, drawing: { ...draft.drawing!, columns: [...rulers.columns], ...(rulers.rows ? { cuts: [...rulers.cuts] } : {}) } });
  }
  protected redraw(drawing: Drawing) {
    this.draft.update((draft) => draft && { ...draft, drawing });
  }
  protected keepSeparators(of: 'all' | 'this' | 'none') {
    const draft = this.draft()!;
    const { drawing } = draft;
    const columns = [...drawing!.columns].sort((a, b) => a.at - b.at);
    const kept = { drawing: { ...drawing!, columns } };
    const rule = this.rules().find((each) => each.name === draft.name)!;
    const own = { report: this.shown()!.path, reading: 'drawn' as const };
    this.leaveMode();
    if (of === 'all') this.alter(rule, { ...kept, reading: 'drawn' });
    if (of === 'this') this.alter(rule, { ...kept, readingIn: [...rule.readingIn.filter((each) => each.report !== own.report), own] });
  }

  protected useReading({ reading, of }: { reading: ReadingChoice; of: 'all' | 'this' }) {
    const rule = this.modeRule()!;
    const report = this.shown()!.path;
    const others = rule.readingIn.filter((each) => each.report !== report);
    this.leaveMode();
    this.alter(rule, of === 'all' ? { reading, readingIn: others } : { readingIn: [...others, { report, reading }] });
  }

  protected pointAt(word: number | undefined) {
    this.pointed.set(word);
    this.mode.set({ kind: 'labels' });
  }
  protected takeLabel(label: LabelSetting) {
    this.put(withLabel(this.state.document()!, label));
    this.pointed.set(undefined);
  }
  protected leaveLabel(label: LabelSetting) {
    this.put(withoutLabel(this.state.document()!, label));
  }
  protected stampLabel(label: LabelSetting) {
    const document = this.state.document()!;
    this.put({ ...document, eachReport: [...document.eachReport, newStep('stamp', { from: 'label', label: label.label, side: label.side, column: label.name })] });
    this.leaveMode();
    this.told.set(`“${label.name}” is stamped on every row: the step stands at the bench.`);
  }

  protected matchOf(rule: string): TakeMatch | undefined {
    return this.summary()?.matches.find((each) => each.rule === rule);
  }
  /** What the rule takes from the report shown. */
  protected hereWords(rule: TakeRule): string {
    const summary = this.summary();
    if (!summary) return this.state.reading() ? 'This report is still being read.' : 'This report was not read.';
    const matches = summary.matches.filter((each) => each.rule === rule.name);
    if (matches.length === 0) return 'Takes nothing from this report.';
    if (rule.of === 'labels') return `${plural(rule.labels.length - matches[0].lacks.length, 'value')} of this report, one row`;
    const pieces = matches.flatMap((match) => match.pieces);
    const columns = [...new Set(pieces.map((piece) => piece.separators.length + 1))];
    return `${matches.length > 1 ? `${matches.length} tables, ` : ''}${plural(pieces.length, 'piece')} in this report, ${columns.join(' or ')} columns; sure ${matches[0].sure}`;
  }
}
