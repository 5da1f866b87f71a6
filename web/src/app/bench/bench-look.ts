import { computed, inject, Injectable, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, EMPTY, filter, map, of, startWith, switchMap } from 'rxjs';
import type { Pipeline } from '../../../../core/pipeline/document';
import { builtIn, isBuiltIn, layerAbove } from '../../../../core/pipeline/layers';
import { titleOf } from '../../../../core/steps/kinds';
import { zones } from '../../../../core/steps/step';
import type { PageAnswer, SheetWindow, StoredReport, ValuesSubject } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import type { GridSource } from '../shared/sheet-grid';

type Looked = { readonly key: string; readonly sheet?: SheetWindow; readonly failure?: string };

/** Which of the grids a cell stands in. */
export type CellOf = 'sheet' | 'held' | 'left out';

/** How far a sheet goes. */
type Extent = SheetWindow['held'];

/** What the address says. */
export interface Address {
  readonly report?: number | undefined;
  readonly page?: number | undefined;
  readonly step?: string | undefined;
  /** Pages on which the steps are designed, as `3-8`. */
  readonly pages?: string | undefined;
}

/** What is looked at on the bench, a report at a step, and what the server tells of it. */
@Injectable()
export class BenchLook {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly address = signal<Address>({});

  readonly shown = computed((): StoredReport | undefined => this.state.reports().find((report) => report.id === this.address().report) ?? this.state.guide());
  readonly summary = computed(() => (this.shown() ? this.state.summaryOf(this.shown()!.id) : undefined));
  readonly file = computed(() => this.api.fileAddress(this.state.id(), this.shown()!.id));
  readonly steps = computed(() => zones.flatMap((zone) => this.state.document()?.[zone] ?? []));
  /** The layer looked at: the one of the address, or the last. */
  readonly stepShown = computed(() => {
    const asked = this.address().step;
    if (asked && (isBuiltIn(asked) || this.steps().some((step) => step.id === asked))) return asked;
    return this.steps().at(-1)?.id ?? builtIn.taken;
  });
  readonly step = computed(() => this.steps().find((each) => each.id === this.stepShown()));
  readonly stepTitle = computed(() => (this.step() ? titleOf(this.step()!) : (this.layers().find((layer) => layer.id === this.stepShown())?.title ?? 'Taken')));
  readonly pageShown = computed(() => this.address().page ?? this.summary()?.matches[0]?.pages[0] ?? 1);
  readonly pagesShown = computed(() => (/^[1-9]\d*-[1-9]\d*$/.test(this.address().pages ?? '') ? this.address().pages : undefined));

  /** Changes with everything that the sheet depends on. */
  readonly lookKey = computed(() => `${this.state.id()} ${this.shown()?.id} ${this.stepShown()} ${this.pagesShown() ?? ''} ${this.state.version()}`);
  /** Changes with everything that the sheet above the step looked at depends on, once it is saved: not with the step's own settings. */
  private readonly aboveKey = computed(() => {
    const saved = this.state.pipeline()?.document as Pipeline | undefined;
    const report = this.shown()?.id;
    const steps = zones.flatMap((zone) => saved?.[zone].map((step) => ({ zone, ...step })) ?? []);
    const at = steps.findIndex((step) => step.id === this.stepShown());
    return saved && report !== undefined && at >= 0 ? JSON.stringify([this.state.id(), report, this.pagesShown(), saved.take, saved.spellings, steps.slice(0, at), steps[at].zone, steps[at].id]) : undefined;
  });
  readonly looked = toSignal(
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
  readonly sheet = computed(() => this.looked()?.sheet);
  readonly workingOut = computed(() => this.looked()?.key !== this.lookKey());
  /** How the report falls through all layers: asked for when the sheet looked at has come, which is waited for. */
  readonly fall = toSignal(
    toObservable(computed(() => ({ key: `${this.state.id()} ${this.shown()?.id} ${this.pagesShown() ?? ''} ${this.state.version()}`, ready: !this.workingOut() }))).pipe(
      filter(({ ready }) => ready),
      distinctUntilChanged((a, b) => a.key === b.key),
      switchMap(() => this.api.layers(this.state.id(), this.shown()!.id, { pages: this.pagesShown() }).pipe(catchError(() => of(undefined)))),
    ),
  );
  readonly layers = computed(() => this.fall()?.layers ?? []);
  /** The error cells of the sheet, each with the step at which it starts. */
  private readonly errorsFound = toSignal(
    toObservable(computed(() => ({ key: this.looked()?.key, any: this.sheet()?.columns.some((column) => column.misfits > 0) ?? false }))).pipe(
      distinctUntilChanged((a, b) => a.key === b.key && a.any === b.any),
      switchMap(({ any }) => (any ? this.api.errors(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.stepShown() }).pipe(catchError(() => of(undefined))) : of(undefined))),
    ),
  );
  readonly errors = computed(() => this.errorsFound()?.errors ?? []);
  readonly errorCount = computed(() => this.errorsFound()?.count ?? 0);
  readonly problems = computed(() => {
    const problems = this.fall()?.problems.filter(({ step = builtIn.taken }) => step === this.stepShown()) ?? [];
    return problems.slice(0, 50).map((problem) => this.state.sentenceOf(problem));
  });

  readonly pageContent = toSignal(
    toObservable(computed(() => ({ report: this.shown()?.id, page: this.pageShown() }))).pipe(
      filter(({ report }) => report !== undefined),
      distinctUntilChanged((a, b) => a.report === b.report && a.page === b.page),
      switchMap(({ report, page }) => this.api.page(this.state.id(), report!, page).pipe(map((answer): PageAnswer | undefined => answer), catchError(() => of(undefined)), startWith(undefined))),
    ),
  );
  readonly words = computed(() => this.pageContent()?.page?.words ?? []);
  readonly pageSize = computed(() => {
    const page = this.pageContent()?.page;
    return page ? ([page.width, page.height] as const) : undefined;
  });
  /** The pieces of taken tables by page. */
  readonly pieces = computed(() => (this.summary()?.matches ?? []).flatMap((match) => match.pieces.map((piece, n) => ({ id: `${match.rule} ${match.table} ${n}`, page: piece.page, box: piece.box }))));

  /** The sheet's columns as they are at a layer, remembered for the forms of the layers below. */
  private readonly columnsAt = signal<ReadonlyMap<string, readonly string[]>>(new Map());
  readonly columnsAbove = (step: string): readonly string[] => this.columnsAt().get(step) ?? [];
  /** Asks for the values above the step looked at; another one for every other sheet above. */
  readonly valuesOf = computed(() => {
    if (this.aboveKey() === undefined) return undefined;
    const [report, step, pages] = untracked(() => [this.shown()!.id, this.stepShown(), this.pagesShown()] as const);
    return (of: ValuesSubject) => this.api.values(this.state.id(), report, { pages, step, of });
  });

  readonly source = computed(() => this.sourceOf(this.sheet(), 'sheet'));
  readonly heldSource = computed(() => {
    const held = this.sheet()?.held;
    return held && held.rows > 0 ? this.sourceOf(held, 'held') : undefined;
  });
  readonly leftOutSource = computed(() => {
    const leftOut = this.sheet()?.leftOut;
    return leftOut && leftOut.columns.length > 0 ? this.sourceOf(leftOut, 'left out') : undefined;
  });
  readonly overwrittenSource = computed(() => {
    const first = this.sheet();
    if (!first || first.overwritten === 0) return undefined;
    const columns = ['Row', 'Column', 'Was', 'Is', 'Why'].map((name) => ({ name, type: 'text' as const, misfits: 0 }));
    return this.sourceOf({ ...first, rows: first.overwritten, columns }, 'overwritten');
  });
  sourceFor = (of: CellOf): GridSource | undefined => (of === 'sheet' ? this.source() : of === 'held' ? this.heldSource() : this.leftOutSource());

  readonly wantsBrackets = signal(false);
  /** The rows that a trim step holds from the ends, while one is looked at. */
  readonly trimmed = computed(() => {
    const step = this.step();
    return step?.kind === 'trim rows' && !step.off ? { top: Number(step.settings['top'] ?? 0), bottom: Number(step.settings['bottom'] ?? 0) } : undefined;
  });
  readonly bracketing = computed(() => this.wantsBrackets() && this.trimmed() !== undefined);
  /** The sheet above the trim step, in whose margin the brackets stand. */
  readonly bracketed = toSignal(
    toObservable(computed(() => ({ key: `${this.bracketing()} ${this.lookKey()}`, wanted: this.bracketing() && !this.workingOut() }))).pipe(
      distinctUntilChanged((a, b) => a.key === b.key && a.wanted === b.wanted),
      switchMap(({ wanted }) => (wanted ? this.api.sheet(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.above(this.stepShown()), start: 0, count: 1 }).pipe(catchError(() => of(undefined))) : EMPTY)),
    ),
  );
  readonly bracketSource = computed(() => {
    const first = this.bracketed();
    return first && this.windows(first, { step: untracked(() => this.above(this.stepShown())), of: 'sheet' });
  });

  constructor() {
    // The form of a step offers the columns of the layer above it.
    toObservable(computed(() => ({ key: this.aboveKey(), report: this.shown()?.id, step: this.stepShown(), above: this.above(this.stepShown()) })))
      .pipe(
        filter(({ key }) => key !== undefined),
        distinctUntilChanged((a, b) => a.key === b.key),
        switchMap(({ report, step, above }) => this.api.sheet(this.state.id(), report!, { pages: this.pagesShown(), step: above, start: 0, count: 1 }).pipe(map((sheet) => ({ step, names: sheet.columns.map((column) => column.name) })), catchError(() => of(undefined)))),
      )
      .subscribe((found) => found && this.columnsAt.update((known) => new Map(known).set(found.step, found.names)));
  }

  /** One row of what is shown, and what is printed behind one of its cells. */
  cellAt(which: CellOf, row: number, column: string) {
    const report = this.shown()!.id;
    const at = { pages: this.pagesShown(), step: this.stepShown(), of: which };
    // The row that is shown there has a name; it is traced by that, wherever it may stand by then.
    return this.api
      .sheet(this.state.id(), report, { ...at, start: row, count: 1 })
      .pipe(switchMap(({ window: [found] }) => (found ? this.api.trace(this.state.id(), report, { ...at, table: found.id.table, ordinal: found.id.ordinal, row, column }).pipe(map((traced) => ({ row: found, traced }))) : of(undefined))));
  }
  overwrittenAt = (row: number) => this.api.sheet(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.stepShown(), of: 'overwritten', start: row, count: 1 }).pipe(map(({ window: [line] }) => line));
  wordAt = (word: number) => this.api.word(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), page: this.pageShown(), word, step: this.stepShown() });

  private above(step: string): string {
    return layerAbove(this.state.document()!, step);
  }

  private sourceOf(first: Extent | undefined, of: CellOf | 'overwritten'): GridSource | undefined {
    return first && this.windows(first, { step: untracked(() => this.stepShown()), of });
  }

  private windows(first: Extent, { step, of }: { step: string; of: CellOf | 'overwritten' }): GridSource {
    const pipeline = this.state.id();
    const report = untracked(() => this.shown()!.id);
    const pages = untracked(() => this.pagesShown());
    return {
      rows: first.rows,
      columns: first.columns,
      fetch: (start, count) =>
        this.api.sheet(pipeline, report, { pages, step, of, start, count }).pipe(map((sheet) => sheet.window.map((row) => ({ label: row.line === undefined ? String(row.page) : `${row.page}·${row.line}`, cells: row.cells, ...(row.reason ? { reason: row.reason } : {}) })))),
    };
  }
}
