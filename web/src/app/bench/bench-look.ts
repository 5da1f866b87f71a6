import { computed, inject, Injectable, signal, untracked } from '@angular/core';
import { map, of, switchMap, type Observable } from 'rxjs';
import type { Pipeline } from '../../../../core/pipeline/document';
import { builtIn, isBuiltIn, layerAbove } from '../../../../core/pipeline/layers';
import type { RowId } from '../../../../core/sheet/row';
import type { Above } from '../../../../core/steps/follow-names';
import { titleOf } from '../../../../core/steps/kinds';
import { zones } from '../../../../core/steps/step';
import type { SheetWindow, StoredReport, ValuesSubject } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked, askFailedAgain } from '../shared/asked';
import type { PaperFrame } from '../shared/paper';
import { pageRows } from '../shared/grid-windows';
import type { GridRow, GridSource } from '../shared/sheet-grid';

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
  /** A kind of step to be added. */
  readonly add?: string | undefined;
}

/** Kinds of steps that leave marks on the paper. */
const marking: ReadonlySet<string> = new Set(['split table', 'lines to records']);

const gridRows = (window: SheetWindow['window']): GridRow[] =>
  window.map((row) => ({ label: row.line === undefined ? String(row.page) : `${row.page}·${row.line}`, cells: row.cells, ...(row.begins ? { begins: true } : {}), ...(row.reason ? { reason: row.reason } : {}) }));

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
  private readonly looked = asked(
    () => (this.shown() ? { key: this.lookKey(), report: this.shown()!.id, step: this.stepShown(), pages: this.pagesShown() } : undefined),
    ({ report, step, pages }) => this.api.sheet(this.state.id(), report, { pages, step, start: 0, count: pageRows }),
    // A sheet stays in sight until the next has come.
    { keeps: true, ready: () => !this.state.saving() },
  );
  readonly sheet = this.looked.value;
  readonly workingOut = this.looked.waiting;
  readonly failure = this.looked.failure;
  /** How the report falls through all layers: asked for when the sheet looked at has come, which is waited for. */
  private readonly fallen = asked(
    () => (this.shown() ? { report: this.shown()!.id, pages: this.pagesShown(), pipeline: this.state.id(), version: this.state.version() } : undefined),
    ({ report, pages, pipeline }) => this.api.layers(pipeline, report, { pages }),
    // The next key's sheet does not wait for it.
    { keeps: true, rest: 120, ready: () => !this.workingOut() },
  );
  readonly fall = this.fallen.value;
  readonly layers = computed(() => this.fall()?.layers ?? []);
  /** The error cells of the sheet, each with the step at which it starts. */
  private readonly errorsAsked = asked(
    () => (this.sheet()?.columns.some((column) => column.misfits > 0) ? { key: this.lookKey(), report: this.shown()!.id, step: this.stepShown(), pages: this.pagesShown() } : undefined),
    ({ report, step, pages }) => this.api.errors(this.state.id(), report, { pages, step }),
    { ready: () => !this.workingOut() },
  );
  readonly errors = computed(() => this.errorsAsked.value()?.errors ?? []);
  readonly errorCount = computed(() => this.errorsAsked.value()?.count ?? 0);
  readonly problems = computed(() => {
    const problems = this.fall()?.problems.filter(({ step = builtIn.taken }) => step === this.stepShown()) ?? [];
    return problems.slice(0, 50).map((problem) => this.state.sentenceOf(problem));
  });

  private readonly pageAsked = asked(
    () => (this.shown() ? { pipeline: this.state.id(), report: this.shown()!.id, page: this.pageShown() } : undefined),
    ({ pipeline, report, page }) => this.api.page(pipeline, report, page),
  );
  readonly pageContent = this.pageAsked.value;
  readonly words = computed(() => this.pageContent()?.page?.words ?? []);
  readonly pageSize = computed(() => {
    const page = this.pageContent()?.page;
    return page ? ([page.width, page.height] as const) : undefined;
  });
  /** The pieces of taken tables by page. */
  readonly pieces = computed(() => (this.summary()?.matches ?? []).flatMap((match) => match.pieces.map((piece, n) => ({ id: `${match.rule} ${match.table} ${n}`, page: piece.page, box: piece.box }))));

  /** The names of the columns above the step looked at: its form offers them. */
  private readonly aboveAsked = asked(
    () => (this.aboveKey() === undefined ? undefined : { key: this.aboveKey(), report: this.shown()!.id, step: this.stepShown(), above: this.layerAbove(this.stepShown()), pages: this.pagesShown() }),
    ({ report, step, above, pages }) => this.api.sheet(this.state.id(), report, { pages, step: above, start: 0, count: 12 }).pipe(map((sheet) => ({ step, sheet, names: sheet.columns.map((column) => column.name) }))),
    { keeps: true },
  );
  readonly columnsAbove = (step: string): readonly string[] => (this.aboveAsked.value()?.step === step ? this.aboveAsked.value()!.names : []);
  /** The columns above a step with the first rows, as far as they are known. */
  above(step: string): Above {
    const above = this.aboveAsked.value();
    return above?.step === step ? { names: above.names, rows: above.sheet.window } : { names: [] };
  }
  /** The first rows above a step: those of the data, where there are some, or all. */
  rowsAbove(step: string, all = false): Pick<SheetWindow, 'columns' | 'window'> | undefined {
    const above = this.aboveAsked.value();
    if (above?.step !== step) return undefined;
    const { columns, window } = above.sheet;
    const data = window.filter(({ role }) => role === 'body');
    return { columns, window: data.length > 0 && !all ? data : window };
  }
  /** A row of the sheet above a step, wherever it stands there; none where it does not. */
  rowAbove = (step: string, { table, ordinal }: RowId): Observable<SheetWindow['window']> =>
    this.api.sheet(this.state.id(), this.shown()!.id, { pages: this.pagesShown(), step: this.layerAbove(step), start: 0, count: 0, beside: `${table}:${ordinal}` }).pipe(map(({ beside }) => (beside ? [beside] : [])));
  /** Asks for the values above the step looked at; another one for every other sheet above. */
  readonly valuesOf = computed(() => {
    if (this.aboveKey() === undefined) return undefined;
    const [report, step, pages] = untracked(() => [this.shown()!.id, this.stepShown(), this.pagesShown()] as const);
    return (of: ValuesSubject) => this.api.values(this.state.id(), report, { pages, step, of });
  });

  readonly source = computed(() => {
    const sheet = this.sheet();
    const source = this.sourceOf(sheet, 'sheet');
    return source && { ...source, first: gridRows(sheet!.window) };
  });
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
  readonly bracketed = asked(
    () => (this.bracketing() ? { key: this.lookKey(), report: this.shown()!.id, step: this.layerAbove(this.stepShown()), pages: this.pagesShown() } : undefined),
    ({ report, step, pages }) => this.api.sheet(this.state.id(), report, { pages, step, start: 0, count: 1 }),
    { keeps: true, ready: () => !this.workingOut() },
  ).value;
  readonly bracketSource = computed(() => {
    const first = this.bracketed();
    return first && this.windows(first, { step: untracked(() => this.layerAbove(this.stepShown())), of: 'sheet' });
  });

  /** What could not be had beside the sheet. */
  /** Where the step looked at split tables on the page shown, and which lines it made records of. */
  private readonly marksAsked = asked(
    () => (this.step() && marking.has(this.step()!.kind) && !this.step()!.off && this.shown() ? { key: this.lookKey(), report: this.shown()!.id, step: this.stepShown(), page: this.pageShown(), pages: this.pagesShown() } : undefined),
    ({ report, step, page, pages }) => this.api.marks(this.state.id(), report, { step, page, pages }),
    { keeps: true, ready: () => !this.workingOut() },
  );
  readonly marks = computed((): readonly PaperFrame[] => {
    const { splits = [], records = [] } = (this.step() && marking.has(this.step()!.kind) && this.marksAsked.value()) || {};
    return [...splits.map((box): PaperFrame => ({ box, kind: 'split' })), ...records.map((box): PaperFrame => ({ box, kind: 'record' }))];
  });

  readonly beside = [this.fallen, this.errorsAsked, this.pageAsked, this.aboveAsked, this.marksAsked];
  askAgain = () => askFailedAgain([this.looked, ...this.beside]);

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

  private layerAbove(step: string): string {
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
      measure: (ranges) => this.api.measure(pipeline, report, { pages, step, of, ranges }),
      find: (text, from, back) => this.api.findCell(pipeline, report, { pages, step, of, text, ...from, back }),
      fetch: (start, count) =>
        this.api.sheet(pipeline, report, { pages, step, of, start, count }).pipe(map((sheet) => gridRows(sheet.window))),
    };
  }
}
