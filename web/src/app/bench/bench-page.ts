import { Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute } from '@angular/router';
import { catchError, distinctUntilChanged, EMPTY, filter, map, of, startWith, Subject, switchMap } from 'rxjs';
import * as v from 'valibot';
import { Dialog } from 'primeng/dialog';
import { formOf, initialSettings } from '../../../../core/steps/fields';
import type { Pipeline } from '../../../../core/pipeline/document';
import { kinds, titleOf, type Step } from '../../../../core/steps/kinds';
import { zones } from '../../../../core/steps/step';
import type { PageAnswer, SheetWindow, StoredReport, Traced, ValuesSubject } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { addressNumber, Look } from '../shared/look';
import { Notice } from '../shared/notice';
import { Paper, type PaperFrame } from '../shared/paper';
import { SheetGrid, type GridCellPlace, type GridSource } from '../shared/sheet-grid';
import { plural } from '../shared/words';
import { AddStep } from './add-step';
import { Stack } from './stack';
import type { LookPlace } from './types-form';
import { builtIn, isBuiltIn, layerAbove, placeBelow, stepAtOrAbove, type StepPlace } from '../../../../core/pipeline/layers';
import { changed, inserted, newStep, withCorrection } from './steps-edit';
import type { Correction } from '../../../../core/steps/correct-cells';
import { cellText } from '../../../../core/values/cell';

type Looked = { readonly key: string; readonly sheet?: SheetWindow; readonly failure?: string };

/** Which of the grids a cell stands in. */
type CellOf = 'sheet' | 'held' | 'left out';

/** How far a sheet goes. */
type Extent = SheetWindow['held'];

/** Where steps are built: left the paper, right the sheet, between them the stack. */
@Component({
  selector: 'sieve-bench-page',
  imports: [Paper, Stack, SheetGrid, Notice, Dialog, AddStep],
  template: `
    <section class="pane" aria-label="Paper">
      <div class="pane-head">
        <h2 class="file">{{ shown()?.path }}</h2>
        {{ shown()?.id === state.guide()?.id ? 'guide' : '' }}
        <span class="grow"></span>
        <button class="btn quiet" (click)="turn(-1)" [disabled]="pageShown() <= 1" aria-label="Page before"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
        <span>page {{ pageShown() }} of {{ summary()?.pageCount ?? '?' }}</span>
        <button class="btn quiet" (click)="turn(1)" [disabled]="pageShown() >= (summary()?.pageCount ?? 1)" aria-label="Next page"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
        <button class="btn quiet" (click)="zoom.set(zoom() / 1.25)" aria-label="Smaller">−</button>
        <button class="btn quiet" (click)="zoom.set(zoom() * 1.25)" aria-label="Larger">+</button>
      </div>
      @if (shown(); as shown) {
        <sieve-paper [file]="file()" [name]="shown.path" [page]="pageShown()" [zoom]="zoom()" [words]="words()" [tables]="tables()" [frames]="frames()" (word)="followWord($event)" />
      }
      @if (fate(); as fate) {
        <p class="fate" role="status">
          “{{ fate.word }}”: {{ fate.sentence }}
          @if (fate.step; as step) {
            <button class="btn quiet" (click)="choose(step)">Show that step</button>
          }
        </p>
      }
    </section>

    <section class="pane" aria-label="Stack of steps">
      <div class="pane-head">
        <h2>Stack</h2>
        <button class="btn quiet" [attr.aria-expanded]="choosingPages()" (click)="choosingPages.set(!choosingPages())" title="Pages of this report on which the steps are designed">{{ pagesShown() ? 'pages ' + pagesShown()!.replace('-', ' to ') : 'all pages' }}</button>
        <span class="grow"></span>
        <button class="btn quiet" (click)="addAfterChosen()">+ step</button>
      </div>
      @if (choosingPages()) {
        <form class="pages" (submit)="$event.preventDefault(); designOn(first.value, last.value)">
          <label for="first-page">Design on pages</label>
          <input class="field" id="first-page" type="number" min="1" [max]="summary()?.pageCount ?? 1" #first [value]="pagesShown()?.split('-')?.[0] ?? pageShown()" />
          <label for="last-page">to</label>
          <input class="field" id="last-page" type="number" min="1" [max]="summary()?.pageCount ?? 1" #last [value]="pagesShown()?.split('-')?.[1] ?? pageShown()" />
          <button class="btn">Use</button>
          @if (pagesShown()) {
            <button class="btn quiet" type="button" (click)="designOn('', '')">All</button>
          }
          <p class="small">Counts and sheets are of these pages; a refresh runs all.</p>
        </form>
      }
      <div class="scroll">
        <sieve-stack [layers]="layers()" [chosen]="stepShown()" [columnsAbove]="columnsAbove" [after]="sheet()?.columns ?? []" [errors]="errors()" [partial]="fall()?.partial ?? []" [valuesOf]="valuesOf()" (look)="lookAtPlace($event)" (choose)="choose($event)" (add)="adding.set($event)" />
      </div>
    </section>

    <section class="pane sheet" aria-label="Sheet">
      <div class="pane-head">
        <h2>{{ bracketing() ? 'Before' : 'After' }} “{{ stepTitle() }}”</h2>
        @if (trimmed()) {
          <button class="btn quiet" [attr.aria-pressed]="bracketing()" (click)="wantsBrackets.set(!wantsBrackets())">{{ bracketing() ? 'Show the sheet after it' : 'Set with brackets' }}</button>
        }
        @if (bracketing() ? bracketed() : sheet(); as sheet) {
          {{ counted(sheet.rows, 'row') }}, {{ counted(sheet.columns.length, 'column') }}
        }
        @if (errors().length > 0) {
          <span class="error">{{ counted(errorCount(), 'error') }}</span>
          <button class="btn quiet" (click)="walk(-1)" aria-label="Error before"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
          <button class="btn quiet" (click)="walk(1)" aria-label="Next error"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
        }
        <span class="grow"></span>
        @if (looked()?.key !== lookKey()) {
          <span role="status">working out</span>
        }
      </div>
      @if (looked()?.failure; as failure) {
        <sieve-notice kind="failed">{{ failure }}</sieve-notice>
      } @else if (source(); as source) {
        @if (source.columns.length === 0) {
          <sieve-notice kind="empty">No table of this report is taken. Take one on Intake, or choose another report above.</sieve-notice>
        } @else if (bracketing() && bracketSource(); as above) {
          <sieve-grid [source]="above" [label]="'Sheet before ' + stepTitle()" [brackets]="trimmed()" (bracketed)="trim($event)" />
        } @else {
          <sieve-grid [source]="source" [label]="'Sheet after ' + stepTitle()" [chosen]="cell()?.of === 'sheet' ? cell()!.place : undefined" (choose)="chooseCell('sheet', $event)" />
        }
      } @else {
        <sieve-notice kind="loading">Working out the sheet</sieve-notice>
      }
      @if (errorHere(); as error) {
        <p class="fate" role="status">
          <span class="error">“{{ error.text }}”: expected {{ error.expected }}.</span> It starts at “{{ error.title }}”.
          @if (error.step !== stepShown()) {
            <button class="btn quiet" (click)="choose(error.step)">Show that step</button>
          }
        </p>
      }
      @if (correctable(); as cell) {
        <form class="fate correct" (submit)="correct($event, cell, value.value, into.value, why.value)">
          <label for="correct-to">Correct “{{ cell.from }}” in {{ cell.column }} to</label>
          <input class="field" id="correct-to" #value autocomplete="off" />
          <select class="field into" #into aria-label="Column that it moves into">
            <option value="">stays here</option>
            @for (column of otherColumns(cell.column); track column) {
              <option [value]="column">moves to {{ column }}</option>
            }
          </select>
          <label for="correct-why">because</label>
          <input class="field" id="correct-why" #why autocomplete="off" />
          <button class="btn">Correct</button>
        </form>
      }
      @if (stepProblems().length > 0) {
        <div class="problems" role="region" tabindex="0" aria-label="Problems of this step">
          @for (problem of stepProblems(); track $index) {
            <p class="needs"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> {{ problem }}</p>
          }
        </div>
      }
      @if (heldSource(); as held) {
        <div class="held">
          <div class="held-head">
            <h3>{{ counted(held.rows, 'row') }} held by “{{ stepTitle() }}”</h3>
            @if (says(); as says) {
              <form (submit)="$event.preventDefault(); letPass(says, scope.value)">
                <select class="field" #scope aria-label="Where these pass">
                  <option value="all">in every report</option>
                  <option value="one">only in this one</option>
                </select>
                <button class="btn" [title]="'Rows that say “' + says + '” pass'">Let these pass</button>
              </form>
            }
          </div>
          <sieve-grid [source]="held" [label]="'Rows held by ' + stepTitle()" [reasons]="true" [chosen]="cell()?.of === 'held' ? cell()!.place : undefined" (choose)="chooseCell('held', $event)" />
        </div>
      }
      @if (sheet(); as sheet) {
        @if (sheet.leftOut.columns.length > 0 || sheet.overwritten > 0) {
          <p class="note">
            @if (sheet.leftOut.columns.length > 0) {
              Left out: {{ leftOutNames() }}.
              <button class="btn quiet" [attr.aria-expanded]="showing() === 'left out'" (click)="show('left out')">{{ showing() === 'left out' ? 'Hide them' : 'Show them' }}</button>
            }
            @if (sheet.overwritten > 0) {
              {{ counted(sheet.overwritten, 'cell') }} overwritten.
              <button class="btn quiet" [attr.aria-expanded]="showing() === 'overwritten'" (click)="show('overwritten')">{{ showing() === 'overwritten' ? 'Hide them' : 'Show them, old and new' }}</button>
            }
          </p>
          @if (showing() === 'left out' && leftOutSource(); as leftOut) {
            <div class="held">
              <sieve-grid [source]="leftOut" [label]="'Columns left out by ' + stepTitle()" [chosen]="cell()?.of === 'left out' ? cell()!.place : undefined" (choose)="chooseCell('left out', $event)" />
            </div>
          }
          @if (showing() === 'overwritten' && overwrittenSource(); as overwritten) {
            <div class="held">
              <sieve-grid [source]="overwritten" [label]="'Cells overwritten by ' + stepTitle()" (choose)="chooseOverwritten($event)" />
            </div>
          }
        }
      }
    </section>

    <p-dialog header="Add a step" [modal]="true" [visible]="adding() !== undefined" (visibleChange)="adding.set(undefined)" [style]="{ width: '560px' }" [draggable]="false" [focusOnShow]="false" closeAriaLabel="Close">
      @if (adding(); as place) {
        <sieve-add-step [zone]="place.zone" (pick)="addStep($event)" (paste)="putIn($event)" />
      }
    </p-dialog>
  `,
  styles: `
    :host {
      flex: 1;
      display: grid;
      grid-template-columns: 372px 292px minmax(0, 1fr);
      grid-template-rows: minmax(0, 1fr);
      min-height: 0;
    }
    .file {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .sheet {
      border-right: 0;
    }
    .held {
      display: flex;
      flex-direction: column;
      height: 210px;
      border-top: 2px solid #c9a45a;
      background: #fffcf4;
    }
    .held h3 {
      padding: 5px 12px;
      font-size: 14px;
      color: var(--ochre);
    }
    .held-head {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    .held-head form {
      display: flex;
      gap: 4px;
      padding-right: 10px;
    }
    .pages {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px;
      padding: 6px 10px;
      border-bottom: 1px solid var(--line);
    }
    .pages .field {
      width: 46px;
    }
    .pages p {
      margin: 0;
      width: 100%;
    }
    .note,
    .fate {
      margin: 0;
      padding: 5px 12px;
      border-top: 1px solid var(--line);
      background: var(--ochre-soft);
    }
    .correct {
      display: flex;
      align-items: center;
      gap: 6px;
      white-space: nowrap;
      background: var(--panel);
    }
    .correct .field {
      flex: 1;
    }
    .correct .into {
      flex: 0 1 130px;
    }
    .correct label {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .problems {
      max-height: 84px;
      overflow: auto;
      padding: 4px 12px;
      border-top: 1px solid var(--line);
      background: var(--ochre-soft);
    }
    .problems p {
      margin: 2px 0;
    }
  `,
})
export class BenchPage {
  protected readonly state = inject(PipelineState);
  private readonly api = inject(Api);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);
  readonly report = input(undefined, { transform: addressNumber });
  readonly page = input(undefined, { transform: addressNumber });
  readonly step = input<string>();
  /** Pages on which the steps are designed, as `3-8`. */
  readonly pages = input<string>();

  protected readonly counted = plural;
  protected readonly zoom = signal(1);
  protected readonly adding = signal<StepPlace | undefined>(undefined);
  protected readonly cell = signal<{ of: CellOf; place: GridCellPlace } | undefined>(undefined);
  protected readonly fate = signal<{ word: string; sentence: string; step?: string } | undefined>(undefined);
  private readonly traced = signal<Traced['places']>([]);

  protected readonly shown = computed((): StoredReport | undefined => this.state.reports().find((report) => report.id === this.report()) ?? this.state.guide());
  protected readonly summary = computed(() => (this.shown() ? this.state.summaryOf(this.shown()!.id) : undefined));
  protected readonly file = computed(() => this.api.fileAddress(this.state.id(), this.shown()!.id));
  private readonly steps = computed(() => zones.flatMap((zone) => this.state.document()?.[zone] ?? []));
  /** The layer looked at: the one of the address, or the last. */
  protected readonly stepShown = computed(() => {
    const asked = this.step();
    if (asked && (isBuiltIn(asked) || this.steps().some((step) => step.id === asked))) return asked;
    return this.steps().at(-1)?.id ?? builtIn.taken;
  });
  protected readonly stepTitle = computed(() => {
    const step = this.steps().find((each) => each.id === this.stepShown());
    return step ? titleOf(step) : (this.layers().find((layer) => layer.id === this.stepShown())?.title ?? 'Taken');
  });
  protected readonly pageShown = computed(() => this.page() ?? this.summary()?.matches[0]?.pages[0] ?? 1);

  protected readonly choosingPages = signal(false);
  protected readonly pagesShown = computed(() => (/^[1-9]\d*-[1-9]\d*$/.test(this.pages() ?? '') ? this.pages() : undefined));
  /** Changes with everything that the sheet depends on. */
  protected readonly lookKey = computed(() => `${this.state.id()} ${this.shown()?.id} ${this.stepShown()} ${this.pagesShown() ?? ''} ${this.state.version()}`);
  /** Changes with everything that the sheet above the step looked at depends on, once it is saved: not with the step's own settings. */
  private readonly aboveKey = computed(() => {
    const saved = this.state.pipeline()?.document as Pipeline | undefined;
    const report = this.shown()?.id;
    const steps = zones.flatMap((zone) => saved?.[zone].map((step) => ({ zone, ...step })) ?? []);
    const at = steps.findIndex((step) => step.id === this.stepShown());
    return saved && report !== undefined && at >= 0 ? JSON.stringify([this.state.id(), report, this.pagesShown(), saved.take, saved.spellings, steps.slice(0, at), steps[at].zone, steps[at].id]) : undefined;
  });
  protected readonly looked = toSignal(
    toObservable(computed(() => ({ key: this.lookKey(), report: this.shown()?.id, step: this.stepShown(), pages: this.pagesShown(), saving: this.state.saving() }))).pipe(
      filter(({ report, saving }) => report !== undefined && !saving),
      distinctUntilChanged((a, b) => a.key === b.key),
      // A newer wish ends the older one.
      switchMap(({ key, report, step, pages }) =>
        this.api.sheet(this.state.id(), report!, { pages, step, start: 0, count: 100 }).pipe(
          map((sheet): Looked => ({ key, sheet })),
          catchError((error: Error) => of<Looked>({ key, failure: error.message })),
        ),
      ),
    ),
  );
  protected readonly sheet = computed(() => this.looked()?.sheet);
  /** How the report falls through all layers: asked for when the sheet looked at has come, which is waited for. */
  protected readonly fall = toSignal(
    toObservable(computed(() => ({ key: `${this.state.id()} ${this.shown()?.id} ${this.pagesShown() ?? ''} ${this.state.version()}`, ready: this.looked()?.key === this.lookKey() }))).pipe(
      filter(({ ready }) => ready),
      distinctUntilChanged((a, b) => a.key === b.key),
      switchMap(() => this.api.layers(this.state.id(), this.shown()!.id, { pages: this.pagesShown() }).pipe(catchError(() => of(undefined)))),
    ),
  );
  /** The error cells of the sheet, each with the step at which it starts. */
  private readonly errorsFound = toSignal(
    toObservable(computed(() => ({ key: this.looked()?.key, any: this.sheet()?.columns.some((column) => column.misfits > 0) ?? false }))).pipe(
      distinctUntilChanged((a, b) => a.key === b.key && a.any === b.any),
      switchMap(({ any }) => (any ? this.api.errors(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.stepShown() }).pipe(catchError(() => of(undefined))) : of(undefined))),
    ),
  );
  protected readonly errors = computed(() => this.errorsFound()?.errors ?? []);
  protected readonly errorCount = computed(() => this.errorsFound()?.count ?? 0);
  protected readonly errorHere = computed(() => {
    const cell = this.cell();
    if (cell?.of !== 'sheet') return undefined;
    const column = this.source()?.columns[cell.place.column]?.name;
    return this.errors().find((error) => error.row === cell.place.row && error.column === column);
  });
  protected readonly layers = computed(() => this.fall()?.layers ?? []);
  protected readonly source = computed(() => this.sourceOf(this.looked()?.sheet, 'sheet'));
  protected readonly heldSource = computed(() => {
    const held = this.sheet()?.held;
    return held && held.rows > 0 ? this.sourceOf(held, 'held') : undefined;
  });
  /** The text of the cell chosen, and where it begins on paper: what a correction by hand is known by. */
  private readonly chosenText = signal('');
  protected readonly correctable = computed(() => {
    const cell = this.cell();
    const place = this.traced()[0];
    const column = cell?.of === 'sheet' ? this.source()?.columns[cell.place.column]?.name : undefined;
    return column && place && this.chosenText() !== '' && place.words.length > 0 ? { column, page: place.page, word: place.words[0].at, from: this.errorHere()?.text ?? this.chosenText(), before: this.errorHere()?.step } : undefined;
  });
  /** What the held row chosen says: an exception that lets it pass says the same. */
  protected readonly says = signal<string | undefined>(undefined);
  /** Asks for the values above the step looked at; another one for every other sheet above. */
  protected readonly valuesOf = computed(() => {
    if (this.aboveKey() === undefined) return undefined;
    const [report, step, pages] = untracked(() => [this.shown()!.id, this.stepShown(), this.pagesShown()] as const);
    return (of: ValuesSubject) => this.api.values(this.state.id(), report, { pages, step, of });
  });
  protected readonly wantsBrackets = signal(false);
  /** The rows that a trim step holds from the ends, while one is looked at. */
  protected readonly trimmed = computed(() => {
    const step = this.steps().find((each) => each.id === this.stepShown());
    return step?.kind === 'trim rows' && !step.off ? { top: Number(step.settings['top'] ?? 0), bottom: Number(step.settings['bottom'] ?? 0) } : undefined;
  });
  protected readonly bracketing = computed(() => this.wantsBrackets() && this.trimmed() !== undefined);
  /** The sheet above the trim step, in whose margin the brackets stand. */
  protected readonly bracketed = toSignal(
    toObservable(computed(() => ({ key: `${this.bracketing()} ${this.lookKey()}`, wanted: this.bracketing() && this.looked()?.key === this.lookKey() }))).pipe(
      distinctUntilChanged((a, b) => a.key === b.key && a.wanted === b.wanted),
      switchMap(({ wanted }) => (wanted ? this.api.sheet(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.above(this.stepShown()), start: 0, count: 1 }).pipe(catchError(() => of(undefined))) : EMPTY)),
    ),
  );
  protected readonly bracketSource = computed(() => {
    const first = this.bracketed();
    return first && this.windows(first, { step: untracked(() => this.above(this.stepShown())), of: 'sheet' });
  });
  /** What is shown beneath the sheet beside what was held. */
  protected readonly showing = signal<'left out' | 'overwritten' | undefined>(undefined);
  protected show(what: 'left out' | 'overwritten') {
    this.showing.update((now) => (now === what ? undefined : what));
  }
  protected readonly leftOutNames = computed(() => this.sheet()?.leftOut.columns.map((column) => column.name).join(', ') ?? '');
  protected readonly leftOutSource = computed(() => {
    const leftOut = this.sheet()?.leftOut;
    return leftOut && leftOut.columns.length > 0 ? this.sourceOf(leftOut, 'left out') : undefined;
  });
  protected readonly overwrittenSource = computed(() => {
    const first = this.sheet();
    if (!first || first.overwritten === 0) return undefined;
    const columns = ['Row', 'Column', 'Was', 'Is', 'Why'].map((name) => ({ name, type: 'text' as const, misfits: 0 }));
    return this.sourceOf({ ...first, rows: first.overwritten, columns }, 'overwritten');
  });
  protected readonly stepProblems = computed(() => {
    const problems = this.fall()?.problems.filter(({ step = builtIn.taken }) => step === this.stepShown()) ?? [];
    return problems.slice(0, 50).map((problem) => this.state.sentenceOf(problem));
  });

  /** The sheet's columns as they are at a layer, remembered for the forms of the layers below. */
  private readonly columnsAt = signal<ReadonlyMap<string, readonly string[]>>(new Map());
  protected readonly columnsAbove = (step: string): readonly string[] => this.columnsAt().get(step) ?? [];

  private readonly pageContent = toSignal(
    toObservable(computed(() => ({ report: this.shown()?.id, page: this.pageShown() }))).pipe(
      filter(({ report }) => report !== undefined),
      distinctUntilChanged((a, b) => a.report === b.report && a.page === b.page),
      switchMap(({ report, page }) => this.api.page(this.state.id(), report!, page).pipe(map((answer): PageAnswer | undefined => answer), catchError(() => of(undefined)), startWith(undefined))),
    ),
  );
  protected readonly words = computed(() => this.pageContent()?.page?.words ?? []);
  protected readonly tables = computed(() =>
    (this.summary()?.matches ?? []).flatMap((match) => match.pieces.filter((piece) => piece.page === this.pageShown()).map(({ box }, n) => ({ id: `${match.rule} ${match.table} ${n}`, title: '', box, taken: true }))),
  );
  protected readonly frames = computed((): PaperFrame[] =>
    this.traced()
      .filter((place) => place.page === this.pageShown())
      .flatMap((place) => place.words.map((word): PaperFrame => ({ box: word.box, kind: this.cell()?.of === 'sheet' ? 'word' : 'held' }))),
  );

  private readonly cellWishes = new Subject<{ of: CellOf; place: GridCellPlace }>();
  private readonly wordWishes = new Subject<number>();

  constructor() {
    effect(() => {
      // Another layer or report: what was chosen in the one before means nothing here.
      this.shown()?.id;
      this.stepShown();
      untracked(() => {
        this.cell.set(undefined);
        this.traced.set([]);
        this.fate.set(undefined);
        this.says.set(undefined);
      });
    });
    // The form of a step offers the columns of the layer above it.
    toObservable(computed(() => ({ key: this.aboveKey(), report: this.shown()?.id, step: this.stepShown(), above: this.above(this.stepShown()) })))
      .pipe(
        filter(({ key }) => key !== undefined),
        distinctUntilChanged((a, b) => a.key === b.key),
        switchMap(({ report, step, above }) => this.api.sheet(this.state.id(), report!, { pages: this.pagesShown(), step: above, start: 0, count: 1 }).pipe(map((sheet) => ({ step, names: sheet.columns.map((column) => column.name) })), catchError(() => of(undefined)))),
      )
      .subscribe((found) => found && this.columnsAt.update((known) => new Map(known).set(found.step, found.names)));
    this.cellWishes
      .pipe(
        switchMap(({ of: which, place }) => {
          const column = (which === 'sheet' ? this.source() : which === 'held' ? this.heldSource() : this.leftOutSource())?.columns[place.column]?.name;
          return column === undefined ? of(undefined) : this.api.trace(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), row: place.row, column, step: this.stepShown(), of: which }).pipe(catchError(() => of(undefined)));
        }),
      )
      .subscribe((traced) => {
        this.traced.set(traced?.places ?? []);
        const page = traced?.places[0]?.page;
        if (page !== undefined && page !== this.pageShown()) this.turnTo(page);
      });
    this.wordWishes
      .pipe(
        switchMap((word) =>
          this.api.word(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), page: this.pageShown(), word, step: this.stepShown() }).pipe(
            map((fate) => ({ word, fate })),
            catchError(() => of(undefined)),
          ),
        ),
      )
      .subscribe((found) => {
        if (!found) return;
        const { word, fate } = found;
        const text = this.words()[word];
        this.traced.set([{ report: this.shown()!.id, page: this.pageShown(), box: text.box, words: [{ text: text.text, box: text.box, at: word }] }]);
        const [cell] = fate.cells;
        const [held] = fate.held;
        if (cell) {
          const column = this.source()!.columns.findIndex((each) => each.name === cell.column);
          this.cell.set({ of: 'sheet', place: { row: cell.row, column } });
          this.fate.set({ word: text.text, sentence: `row ${cell.row + 1}, ${cell.column}${fate.cells.length > 1 ? `, and ${plural(fate.cells.length - 1, 'more cell')}` : ''}` });
        } else if (held) this.fate.set({ word: text.text, sentence: `held by “${held.title}”: ${held.reason}`, step: held.step });
        else if (fate.gone) this.fate.set({ word: text.text, sentence: `${fate.gone.how} by “${fate.gone.title}”`, step: fate.gone.step });
        else if (fate.names.length > 0) this.fate.set({ word: text.text, sentence: `names the column ${fate.names.join(', ')}` });
        else this.fate.set({ word: text.text, sentence: 'in no taken table' });
      });
  }

  private above(step: string): string {
    return layerAbove(this.state.document()!, step);
  }

  private sourceOf(first: Extent | undefined, of: CellOf | 'overwritten'): GridSource | undefined {
    if (!first) return undefined;
    const step = untracked(() => this.stepShown());
    return this.windows(first, { step, of });
  }

  private windows(first: Extent, { step, of }: { step: string; of: CellOf | 'overwritten' }): GridSource {
    const pipeline = this.state.id();
    const report = untracked(() => this.shown()!.id);
    const pages = untracked(() => this.pagesShown());
    return {
      rows: first.rows,
      columns: first.columns,
      fetch: (start, count) =>
        this.api
          .sheet(pipeline, report, { pages, step, of, start, count })
          .pipe(map((sheet) => sheet.window.map((row, i) => ({ label: `${row.page} · ${start + i + 1}`, cells: row.cells, ...(row.reason ? { reason: row.reason } : {}) })))),
    };
  }

  protected choose(step: string) {
    this.look.at(this.route, { step }, false);
  }
  protected turn(by: number) {
    this.turnTo(this.pageShown() + by);
  }
  private turnTo(page: number) {
    this.look.at(this.route, { page });
  }
  protected chooseCell(of: CellOf, place: GridCellPlace) {
    this.cell.set({ of, place });
    this.fate.set(undefined);
    this.chosenText.set('');
    this.says.set(undefined);
    this.api.sheet(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.stepShown(), of, start: place.row, count: 1 }).subscribe({
      next: ({ window: [row] }) => {
        if (of === 'held') this.says.set(row?.says);
        else if (row && of === 'sheet') this.chosenText.set(cellText(row.cells[place.column] ?? null));
      },
      error: () => undefined,
    });
    this.cellWishes.next({ of, place });
  }
  /** Writes an exception into the step: rows that say this pass it. */
  protected letPass(text: string, scope: string) {
    const step = this.steps().find((each) => each.id === this.stepShown());
    if (!step) return;
    const report = this.shown()!.path;
    this.says.set(undefined);
    this.cell.set(undefined);
    this.state.change(changed(this.state.document()!, step.id, { pass: [...(step.pass ?? []), { text, ...(scope === 'one' ? { report } : {}) }] }));
  }
  /** Rows held from the top and from the bottom, as the brackets in the margin say. */
  protected trim(ends: { top: number; bottom: number }) {
    const step = this.steps().find((each) => each.id === this.stepShown());
    if (step) this.state.change(changed(this.state.document()!, step.id, { settings: { ...step.settings, ...ends } }), step.id);
  }
  /** Steps are designed on a few pages of a long report; blank: on all. */
  protected designOn(first: string, last: string) {
    const [from, to] = [Number(first), Number(last)];
    this.choosingPages.set(false);
    this.look.at(this.route, from >= 1 && to >= from ? { pages: `${from}-${to}`, page: from } : { pages: null });
  }
  protected otherColumns = (column: string) => this.source()?.columns.map(({ name }) => name).filter((name) => name !== column) ?? [];
  /** Writes a correction into the step for them above the step at which the error starts, or below the one looked at. */
  protected correct(event: Event, { column, page, word, from, before }: { column: string; page: number; word: number; from: string; before?: string }, to: string, into: string, why: string) {
    event.preventDefault();
    const document = this.state.document()!;
    const correction: Correction = { report: this.shown()!.path, page, word, column, from, to: to.trim(), into, who: '', when: new Date().toISOString().slice(0, 10), why: why.trim() };
    this.state.change(withCorrection(document, correction, before ? { above: before } : { below: stepAtOrAbove(document, this.stepShown()) }));
  }
  /** From a line of the overwritten cells to the cell in the sheet, which is traced to the paper. */
  protected chooseOverwritten({ row }: GridCellPlace) {
    this.api.sheet(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.stepShown(), of: 'overwritten', start: row, count: 1 }).subscribe(({ window: [line] }) => {
      if (line) this.lookAtPlace({ row: Number(line.cells[0]) - 1, column: String(line.cells[1]) });
    });
  }
  /** The next error cell of the sheet, or the one before. */
  protected walk(by: 1 | -1) {
    const errors = this.errors();
    const at = errors.indexOf(this.errorHere()!);
    const next = errors[at < 0 ? (by > 0 ? 0 : errors.length - 1) : (at + by + errors.length) % errors.length];
    if (next) this.lookAtPlace(next);
  }
  /** A cell of the sheet shown, or a page of another report. */
  protected lookAtPlace({ report, page, row, column }: LookPlace) {
    if (report !== undefined && report !== this.shown()?.id) return this.look.at(this.route, { report, page: page ?? null }, false);
    const at = this.source()?.columns.findIndex((each) => each.name === column) ?? -1;
    if (row !== undefined && at >= 0) this.chooseCell('sheet', { row, column: at });
  }
  protected followWord(word: number) {
    this.wordWishes.next(word);
  }

  protected addAfterChosen() {
    this.adding.set(placeBelow(this.state.document()!, this.stepShown()));
  }
  protected addStep(kind: string) {
    const place = this.adding();
    if (!place) return;
    const settings = initialSettings(formOf(kinds.get(kind)!));
    // With every default filled in, as it is saved; what only the analyst can say may be missing yet.
    const whole = v.safeParse(kinds.get(kind)!.settings, settings);
    this.putIn(newStep(kind, whole.success ? whole.output : settings));
  }
  protected putIn(step: Step) {
    this.state.change(inserted(this.state.document()!, this.adding()!, step));
    this.adding.set(undefined);
    this.choose(step.id);
  }
}
