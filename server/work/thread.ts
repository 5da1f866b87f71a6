// What worker threads of the pool do: read reports, carry them through a pipeline, look at sheets, trace cells.
import type { MessagePort } from 'node:worker_threads';
import { parsePipeline, splitAllReports, type Pipeline } from '../../core/pipeline/document';
import { CarryCache, Stale, carryReport, carryWhole, type CarriedReport, type Layer, type PageRange, type PartialColumn } from '../../core/pipeline/carry';
import { around, type Box } from '../../core/page/box';
import { sentence } from '../../core/sheet/problem';
import { columnsWorkedOut, type PrintedSheet, type ProposedColumn } from '../../core/pipeline/columns-worked-out';
import { errorsOf, type ErrorPlace } from '../../core/pipeline/errors';
import { builtIn } from '../../core/pipeline/layers';
import { locales, type LocaleName } from '../../core/values/locale';
import { cellText, isError, type Cell } from '../../core/sheet/cell';
import { chosen, type ColumnChoice } from '../../core/steps/column-choice';
import type { Paper } from '../../core/steps/step';
import { rowSays } from '../../core/steps/let-pass';
import type { Sheet, ValueType } from '../../core/sheet/sheet';
import type { Column } from '../../core/sheet/sheet';
import { findText, type Hit } from '../../core/intake/find-text';
import type { TakeMatch } from '../../core/intake/take';
import type { PageTables } from '../../core/reading/table-finder';
import { UnreadableReport } from '../pdf/document';
import type { LoadedPart } from '../store/publish';
import type { RunDetails } from '../store/runs';
import { misfitsOf, rowBatches, totalsOf } from './carried-rows';
import { Recent } from './recent';
import { baseName } from '../../core/values/file-name';
import { foundIn, isScanned, pageFacts, tableFacts, type FoundFacts } from './facts';
import { reportContent, reportPage, type ReportContent, type ReportSource } from './report-content';

export interface ReportTask extends ReportSource {
  /** Key of the report, its database id as text. */
  readonly key: string;
  /** Path below the folder. */
  readonly path: string;
}

/** A report that could not be read answers with the sentence why. */
export type OrUnreadable<T> = T | { readonly unreadable: string };

/** Pages kept in memory by one thread; a longer report is kept alone. */
const mostPages = 400;
const contents = new Recent<ReportContent>(mostPages, (content) => Math.max(content.pages.length, mostPages / 4));
const carried = new Recent<CarriedReport>(3);
const caches = new Recent<CarryCache>(4);
const documents = new Recent<Pipeline>(4);

/** What a thread tells while it reads: pages done and in all, and what was found on those done since it told last. */
export interface Progress {
  readonly done: number;
  readonly total: number;
  readonly found: FoundFacts;
}

const foundOn = (read: readonly PageTables[], pageCount: number): FoundFacts => ({
  pageCount,
  pages: read.map(({ page: each }) => pageFacts(each)),
  tables: read.flatMap(({ pieces, tables }) => pieces.map((piece, i) => tableFacts({ id: tables[i], ...(piece.title ? { title: piece.title } : {}), pieces: [piece] }))),
});

async function contentOf(source: ReportSource, port?: MessagePort, isStale = () => false): Promise<{ content: ReportContent; parsed: boolean }> {
  let parsed = false;
  const content = await contents.get(source.sha256, async () => {
    const read = await reportContent(source, (done, total, pages) => {
      if (isStale()) throw new Stale();
      port?.postMessage({ done, total, found: foundOn(pages, total) } satisfies Progress);
    });
    parsed = read.parsed;
    return read.content;
  });
  return { content, parsed };
}

async function readable<T>(work: () => Promise<T>): Promise<OrUnreadable<T>> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof UnreadableReport) return { unreadable: error.message };
    throw error;
  }
}

const pipelineFrom = (document: string) => documents.get(document, async () => parsePipeline(JSON.parse(document)));

async function carriedOf(document: string, task: ReportTask, { pages, until, stale, port }: { pages?: PageRange | undefined; until?: string | undefined; stale?: Int32Array | undefined; port?: MessagePort | undefined } = {}) {
  const pipeline = await pipelineFrom(document);
  const isStale = () => stale !== undefined && Atomics.load(stale, 0) === 1;
  const { content, parsed } = await contentOf(task, port, isStale);
  const key = JSON.stringify([document, task.sha256, task.key, task.path, pages ?? null, until ?? null]);
  const cache = await caches.get(JSON.stringify([task.sha256, task.key, task.path]), async () => new CarryCache());
  const result = await carried.get(key, async () => carryReport(pipeline, { key: task.key, path: task.path, pages: content.pages, tables: content.tables }, { pages, until, cache, isStale }));
  return { pipeline, content, parsed, result };
}

/** What is looked at: a report, or some of its pages, carried through a document. */
interface Look {
  readonly document: string;
  readonly source: ReportTask;
  readonly pages?: PageRange | undefined;
  /** Memory shared with the server: its first number is 1 once nobody waits for the answer. */
  readonly stale?: Int32Array | undefined;
}

/**
 * For a look at one report: steps that need the whole are run on it alone.
 * @param until the step after which nothing is asked for
 */
async function lookedAt({ document, source: task, pages, stale }: Look, until?: string) {
  const { pipeline, content, result } = await carriedOf(document, task, { pages, stale, until });
  const needsWhole = splitAllReports(pipeline).whole.length > 0 && !result.layers.some((layer) => layer.id === until);
  const whole = needsWhole ? carryWhole(pipeline, [{ key: task.key, sheet: result.sheet, paper: result.paper }]).layers : [];
  return { content, paper: result.paper, layers: [...result.layers, ...whole], result };
}

const countsOf = (layers: readonly Layer[]): RunDetails['layers'] =>
  layers.map(({ id, zone, title, rowsIn, sheet, held, problems }) => ({ id, zone, title, rowsIn, rows: sheet.rows.length, held: held.rows.rows.length, problems: problems.length }));

const heldIn = (layers: readonly Layer[]) => layers.reduce((sum, { held }) => sum + held.rows.rows.length, 0);
/** Sentences shown of one report; the rest is counted. */
const mostProblems = 200;
/** Misfits of one column that are told one by one; the others are counted, and marked in the sheet. */
const mostMisfits = 3;

function problemsOf(content: ReportContent, result: CarriedReport, path: string): string[] {
  const told: string[] = [];
  const misfits = new Map<string, { step?: string; column?: string; count: number }>();
  for (const problem of [...content.problems, ...result.problems]) {
    if (problem.kind === 'misfit') {
      const key = `${problem.step} ${problem.column}`;
      const group = misfits.get(key) ?? { step: problem.step, column: problem.column, count: 0 };
      misfits.set(key, { ...group, count: group.count + 1 });
      if (group.count >= mostMisfits) continue;
    }
    told.push(sentence({ ...problem, report: path }));
  }
  for (const { step, column, count } of misfits.values())
    if (count > mostMisfits) told.push(`${path}, step “${step}”, column “${column}”: ${count - mostMisfits} more misfits, marked in the sheet.`);
  return told.length > mostProblems ? [...told.slice(0, mostProblems), `... and ${told.length - mostProblems} more.`] : told;
}

export interface ReadSummary extends FoundFacts {
  readonly parsed: boolean;
  readonly scanned: boolean;
  readonly problems: readonly string[];
}

const readSummary = (content: ReportContent, parsed: boolean): Omit<ReadSummary, 'problems'> => ({ parsed, scanned: isScanned(content), ...foundIn(content) });

/** Reads a report into the cache and tells what was found. */
export async function read({ source, port }: { source: ReportTask; port?: MessagePort }): Promise<OrUnreadable<ReadSummary>> {
  return readable(async () => {
    const { content, parsed } = await contentOf(source, port);
    return { ...readSummary(content, parsed), problems: content.problems.map((problem) => sentence({ ...problem, report: source.path })) };
  });
}

/** The content of one page, and the pieces of found tables on it with all of their readings. */
export async function page({ source, number }: { source: ReportTask; number: number }) {
  return readable(async () => {
    const { pageCount, page: found, pieces } = await reportPage(source, number);
    return { pageCount, page: found ?? null, pieces };
  });
}

/** Every place of a report where a text stands. */
export async function find({ source, text }: { source: ReportTask; text: string }): Promise<OrUnreadable<{ hits: Hit[] }>> {
  return readable(async () => {
    const { content } = await contentOf(source);
    return { hits: content.pages.flatMap((each) => findText(each, text)) };
  });
}

/** What a run keeps of its matches; where they stand on paper can be worked out again. */
const matchesOf = (result: CarriedReport): RunDetails['matches'] => result.matches.map(({ rule, table, pages, sure, rival, lacks }) => ({ rule, table, pages, sure, ...(rival ? { rival } : {}), ...(lacks.length > 0 ? { lacks } : {}) }));

/** A report as Intake, the ruler and the match strip show it: what was found, what was taken, what became of it. */
export interface ReportSummary extends ReadSummary {
  readonly matches: readonly TakeMatch[];
  readonly layers: RunDetails['layers'];
  /** The columns of the report as it is appended to the others. */
  readonly columns: readonly string[];
  readonly rows: number;
  readonly held: number;
  readonly misfits: number;
  readonly heldBack: string | null;
}

/** Reads a report and carries it through the pipeline as it is now, for a look. */
export async function summary({ document, source, port }: { document: string; source: ReportTask; port?: MessagePort }): Promise<OrUnreadable<ReportSummary>> {
  return readable(async () => {
    const { content, parsed, result } = await carriedOf(document, source, { port });
    return {
      ...readSummary(content, parsed),
      problems: problemsOf(content, result, source.path),
      matches: result.matches,
      layers: countsOf(result.layers),
      columns: (result.layers.find((layer) => layer.id === builtIn.appended)?.sheet ?? result.sheet).columns.map((column) => column.name),
      rows: result.sheet.rows.length,
      held: heldIn(result.layers),
      misfits: misfitsOf(result.sheet).length,
      heldBack: heldBackBecause(content, result, source.path),
    };
  });
}

export interface CarriedSummary {
  readonly parsed: boolean;
  readonly part: Omit<LoadedPart, 'batches'> & { readonly batches: readonly string[] };
  readonly details: RunDetails;
  /** Why nothing of it may be published, if so: a page that could not be read, no table taken. */
  readonly heldBack: string | null;
}

/**
 * Carries a report through the pipeline and hands over its rows ready to be loaded.
 * @param part id of the part they are loaded under; null: the rows are not wanted here
 */
export async function carry({ document, source, part, port }: { document: string; source: ReportTask; part: number | null; port?: MessagePort }): Promise<OrUnreadable<CarriedSummary>> {
  return readable(async () => {
    const { content, parsed, result } = await carriedOf(document, source, { port });
    const details: RunDetails = { matches: matchesOf(result), layers: countsOf(result.layers), problems: problemsOf(content, result, source.path) };
    return {
      parsed,
      details,
      heldBack: heldBackBecause(content, result, source.path),
      part: {
        rows: result.sheet.rows.length,
        held: heldIn(result.layers),
        columns: result.sheet.columns.map(({ name, type }) => ({ heading: name, type })),
        batches: part === null ? [] : rowBatches(result.sheet, part, Number),
        misfits: misfitsOf(result.sheet),
        totals: totalsOf(result.layers),
        details,
      },
    };
  });
}

function heldBackBecause(content: ReportContent, result: CarriedReport, path: string): string | null {
  if (isScanned(content)) return `${path} has no text on its ${content.pageCount} ${content.pageCount === 1 ? 'page' : 'pages'}: it is a scanned picture. Its text must be recognised before it can be read.`;
  const damaged = content.problems.find((problem) => problem.kind === 'unreadable');
  if (damaged) return `${sentence({ ...damaged, report: path })} The report is held back whole.`;
  if (result.matches.length === 0) return result.problems.map((problem) => sentence({ ...problem, report: path })).join(' ') || `${path}: nothing was taken.`;
  return null;
}

/** Carries all reports through the steps that need the whole. */
export async function whole({ document, sources, part }: { document: string; sources: readonly ReportTask[]; part: number }): Promise<CarriedSummary> {
  const pipeline = await pipelineFrom(document);
  const reports = [];
  for (const source of sources) {
    const { result } = await carriedOf(document, source);
    reports.push({ key: source.key, sheet: result.sheet, paper: result.paper });
  }
  const { layers, sheet, problems } = carryWhole(pipeline, reports);
  const details: RunDetails = { matches: [], layers: countsOf(layers), problems: problems.slice(0, mostProblems).map(sentence) };
  return {
    parsed: false,
    details,
    heldBack: null,
    part: {
      rows: sheet.rows.length,
      held: heldIn(layers),
      columns: sheet.columns.map(({ name, type }) => ({ heading: name, type })),
      batches: rowBatches(sheet, part, Number),
      misfits: misfitsOf(sheet),
      totals: totalsOf(layers),
      details,
    },
  };
}

export interface SheetWindow {
  readonly rows: number;
  readonly columns: readonly { readonly name: string; readonly type: ValueType; readonly unit?: string; readonly misfits: number }[];
  readonly start: number;
  readonly window: readonly { readonly page: number; readonly role: string; readonly table: string; readonly reason?: string; /** What a held row said above the step: an exception that lets it pass says the same. */ readonly says?: string; readonly cells: readonly Cell[] }[];
  /** The columns that the step left out, to be asked for by windows. */
  readonly leftOut: SheetWindow['held'];
  /** How many cells the step overwrote. */
  readonly overwritten: number;
  /** What the step held, to be asked for by windows. */
  readonly held: { readonly rows: number; readonly columns: readonly Pick<SheetWindow['columns'][number], 'name' | 'type' | 'unit'>[] };
}

/** How a report falls through all layers: what a change of settings does below the step that is looked at. */
export interface LayersAnswer {
  readonly layers: RunDetails['layers'];
  /** Columns that some of the appended tables lack. */
  readonly partial: readonly PartialColumn[];
  readonly problems: readonly string[];
}

/** The counts of all layers, and the problems of all steps. */
export async function layers(task: Look): Promise<OrUnreadable<LayersAnswer>> {
  return readable(async () => {
    const { layers: all, result, content } = await lookedAt(task);
    return { layers: countsOf(all), partial: all.find((each) => each.partial)?.partial ?? [], problems: problemsOf(content, result, task.source.path) };
  });
}

/** A window of the sheet as it leaves a step, of what the step held, or of the cells that it overwrote. */
export async function look(task: Look & { step?: string; of: 'sheet' | 'held' | 'left out' | 'overwritten'; start: number; count: number }): Promise<OrUnreadable<SheetWindow>> {
  return readable(async () => {
    const { layers } = await lookedAt(task, task.step);
    const layer = task.step === undefined ? layers.at(-1)! : layers.find((each) => each.id === task.step);
    const sheet: Sheet = layer ? (task.of === 'held' ? layer.held.rows : task.of === 'left out' ? layer.leftOut : task.of === 'overwritten' ? overwrittenCells(layer) : layer.sheet) : { columns: [], rows: [] };
    return {
      rows: sheet.rows.length,
      columns: sheet.columns.map(columnFacts),
      start: task.start,
      window: sheet.rows.slice(task.start, task.start + task.count).map(({ page, role, table }, i) => ({
        page,
        role,
        table,
        ...(layer && task.of === 'held' ? { reason: layer.held.reasons[task.start + i], says: saysAbove(layers, layer, task.start + i) } : {}),
        cells: sheet.columns.map((column) => column.cells[task.start + i]),
      })),
      leftOut: extentOf(layer?.leftOut),
      overwritten: layer?.overwritten.reduce((sum, each) => sum + each.rows.length, 0) ?? 0,
      held: extentOf(layer?.held.rows),
    };
  });
}

const extentOf = (sheet?: Sheet): SheetWindow['held'] => ({ rows: sheet?.rows.length ?? 0, columns: sheet?.columns.map(({ name, type, unit }) => ({ name, type, ...(unit ? { unit } : {}) })) ?? [] });

/** What a held row said in the sheet above the step, which may have named or put in columns. */
function saysAbove(layers: readonly Layer[], layer: Layer, row: number): string {
  const above = layers[layers.indexOf(layer) - 1]?.sheet;
  const at = above?.rows.indexOf(layer.held.rows.rows[row]) ?? -1;
  const { columns } = at < 0 ? layer.held.rows : above;
  return rowSays(columns.map((column) => cellText(column.cells[at < 0 ? row : at])));
}

/** The cells that a layer overwrote, one a row: where in its sheet, what stood there, what stands there now, and why. */
function overwrittenCells({ overwritten, sheet }: Layer): Sheet {
  const cells = overwritten.flatMap(({ column, rows, old, why }) => {
    const now = sheet.columns.find((each) => each.name === column)?.cells;
    return rows.map((row, i) => ({ row, column, old: old[i], now: now?.[row] ?? null, why }));
  });
  cells.sort((a, b) => a.row - b.row);
  const told = (name: string, of: (cell: (typeof cells)[number]) => Cell): Column => ({ name, type: 'text', cells: cells.map(of), origins: new Int32Array(cells.length).fill(-1) });
  return {
    columns: [told('Row', ({ row }) => row + 1), told('Column', ({ column }) => column), told('Was', ({ old }) => old), told('Is', ({ now }) => now), told('Why', ({ why }) => why)],
    rows: cells.map(({ row }) => sheet.rows[row]),
  };
}

/** Misfits of columns counted already: a step shares the columns that it leaves alone. */
const misfitsIn = new WeakMap<Column, number>();

function columnFacts(column: Column): SheetWindow['columns'][number] {
  const { name, type, unit, cells } = column;
  // In a text column every text fits.
  let misfits = type === 'text' ? 0 : misfitsIn.get(column);
  if (misfits === undefined) {
    misfits = 0;
    for (let row = 0; row < cells.length; row++) if (isError(cells[row])) misfits++;
    misfitsIn.set(column, misfits);
  }
  return { name, type, ...(unit ? { unit } : {}), misfits };
}

/** The error cells of a sheet that are told one by one. */
const mostErrors = 1000;

/** The error cells after a step (or at the end), each with the step at which it starts. */
export async function errors(task: Look & { step?: string }): Promise<OrUnreadable<{ count: number; errors: ErrorPlace[] }>> {
  return readable(async () => {
    const { layers } = await lookedAt(task, task.step);
    const until = task.step === undefined ? layers.length - 1 : layers.findIndex((layer) => layer.id === task.step);
    const found = until < 0 ? [] : errorsOf(layers, until);
    return { count: found.length, errors: found.slice(0, mostErrors) };
  });
}

/** Different values that are listed one by one; the rest is counted. */
const mostValues = 500;

export interface ColumnValues {
  /** The values that come most often first, each with how often; blanks are counted apart. */
  readonly values: readonly { readonly text: string; readonly count: number }[];
  readonly different: number;
  readonly blanks: number;
  readonly rows: number;
}

/** The different values in some columns of the sheet above a step, or what is printed elsewhere for its rows. */
export async function values(task: Look & { step: string; of: ColumnChoice | { by: 'print'; from: 'file name' | 'table title' | 'page text' } }): Promise<OrUnreadable<ColumnValues>> {
  return readable(async () => {
    const { layers, paper } = await lookedAt(task, task.step);
    const at = layers.findIndex((layer) => layer.id === task.step);
    const sheet = layers[at < 0 ? layers.length - 1 : Math.max(0, at - 1)].sheet;
    const { of: subject } = task;
    const texts = subject.by === 'print' ? printedFor(sheet, paper, subject.from) : chosen(sheet, subject).columns.flatMap((column) => column.cells.map(cellText));
    const counts = new Map<string, number>();
    for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
    const blanks = counts.get('') ?? 0;
    counts.delete('');
    const sorted = [...counts].map(([text, count]) => ({ text, count })).sort((a, b) => b.count - a.count || (a.text < b.text ? -1 : 1));
    return { values: sorted.slice(0, mostValues), different: sorted.length, blanks, rows: sheet.rows.length };
  });
}

/** The file name, the titles of the tables, or the lines of the pages that rows come from, each once. */
function printedFor({ rows }: Sheet, paper: Paper, from: 'file name' | 'table title' | 'page text'): string[] {
  if (from === 'file name') return [baseName(paper.path)];
  if (from === 'table title') return [...new Set(rows.map((mark) => mark.table))].flatMap((table) => paper.title(table)?.text ?? []);
  return [...new Set(rows.map((mark) => mark.page))].flatMap((page) => paper.lines(page).map((line) => line.text));
}

/** What the columns above a step are read as, worked out over all reports given. */
export async function workOutColumns({ document, sources, step, locale }: { document: string; sources: readonly ReportTask[]; step: string; locale: LocaleName }): Promise<{ columns: ProposedColumn[]; rows: number; reports: number; unreadable: string[] }> {
  const sheets: PrintedSheet[] = [];
  const unreadable: string[] = [];
  for (const source of sources) {
    const looked = await readable(() => lookedAt({ document, source }));
    if ('unreadable' in looked) {
      unreadable.push(looked.unreadable);
      continue;
    }
    const at = looked.layers.findIndex((layer) => layer.id === step);
    if (at > 0 && looked.layers[at - 1].sheet.rows.length > 0) sheets.push({ key: source.key, sheet: looked.layers[at - 1].sheet, paper: looked.paper });
  }
  return { columns: columnsWorkedOut(sheets, locales[locale]), rows: sheets.reduce((sum, { sheet }) => sum + sheet.rows.length, 0), reports: sheets.length, unreadable };
}

export interface Traced {
  /** The step at which the error of this cell starts, if it is an error cell. */
  readonly error?: ErrorPlace;
  readonly places: readonly { readonly page: number; readonly box: Box; readonly words: readonly { readonly text: string; readonly box: Box; /** Its place among the words of the page. */ readonly at: number }[] }[];
}

/**
 * Where on paper the words behind a cell stand.
 * @param at a row of the sheet after `step`, of what the step held, or (without a step) a row of the report's result
 */
export async function trace(task: Look & { step?: string; of?: CellPlace['of']; ordinal: number; column: string }): Promise<OrUnreadable<Traced>> {
  return readable(async () => {
    const { layers, paper, content } = await lookedAt(task, task.step);
    const origin = originOf(layers, task);
    const error = errorAt(layers, task);
    return {
      ...(error ? { error } : {}),
      places: paper.origins.places(origin).map(({ page: number, words }) => {
        const all = content.pages.find((p) => p.number === number)!.words;
        return { page: number, box: around(words.map((w) => all[w].box))!, words: words.map((at) => ({ text: all[at].text, box: all[at].box, at })) };
      }),
    };
  });
}

type CellPlace = { step?: string; of?: 'sheet' | 'held' | 'left out'; ordinal: number; column: string };

/** The row of the result is known by its ordinal, as steps over the whole may have moved it. */
const rowOf = ({ rows }: Sheet, { step, ordinal }: CellPlace): number => (step !== undefined ? ordinal : rows.findIndex((mark, at) => (mark.ordinals[0] ?? at) === ordinal));

function errorAt(layers: readonly Layer[], place: CellPlace): ErrorPlace | undefined {
  const until = place.step === undefined ? layers.length - 1 : layers.findIndex((layer) => layer.id === place.step);
  if (until < 0 || (place.of ?? 'sheet') !== 'sheet') return undefined;
  const row = rowOf(layers[until].sheet, place);
  const cell = layers[until].sheet.columns.find((each) => each.name === place.column)?.cells[row];
  return cell !== undefined && isError(cell) ? errorsOf(layers, until).find((each) => each.row === row && each.column === place.column) : undefined;
}

function originOf(layers: readonly Layer[], place: CellPlace): number {
  const layer = place.step === undefined ? layers.at(-1) : layers.find((each) => each.id === place.step);
  const sheet = place.of === 'held' ? layer?.held.rows : place.of === 'left out' ? layer?.leftOut : layer?.sheet;
  return sheet?.columns.find((each) => each.name === place.column)?.origins[rowOf(sheet, place)] ?? -1;
}

/** What became of a word of the paper: the cell of the last sheet, or the step that held it. */
export interface WordFate {
  readonly cells: readonly { readonly row: number; readonly column: string }[];
  readonly held: readonly { readonly step: string; readonly title: string; readonly row: number; readonly column: string; readonly reason: string }[];
  /** The step after which it stands in no cell, where it was not held. */
  readonly gone?: { readonly step: string; readonly title: string; readonly how: 'left out' | 'overwritten' };
  readonly taken: boolean;
}

/** From a word on a page to its cells after `step` (or at the end), or to the step that held it. */
export async function word(task: Look & { page: number; word: number; step?: string }): Promise<OrUnreadable<WordFate>> {
  return readable(async () => {
    const { layers, paper } = await lookedAt(task, task.step);
    const { origins } = paper;
    const memo = new Map<number, boolean>();
    const has = (origin: number) => {
      let known = memo.get(origin);
      if (known === undefined) memo.set(origin, (known = origins.places(origin).some((place) => place.page === task.page && place.words.includes(task.word))));
      return known;
    };
    const cellsIn = (sheet: Sheet) =>
      sheet.columns.flatMap((column) => [...column.origins.keys()].filter((row) => column.cells[row] !== null && has(column.origins[row])).map((row) => ({ row, column: column.name })));
    const until = task.step === undefined ? layers.length - 1 : layers.findIndex((layer) => layer.id === task.step);
    const cells = layers[until] ? cellsIn(layers[until].sheet) : [];
    const isGone = (layer: Layer, i: number) => i > 0 && i <= until && cellsIn(layer.sheet).length === 0 && cellsIn(layer.held.rows).length === 0;
    const held = layers.slice(0, until + 1).flatMap((each) => cellsIn(each.held.rows).map((cell) => ({ step: each.id, title: each.title, ...cell, reason: each.held.reasons[cell.row] })));
    const last = cells.length > 0 || held.length > 0 || cellsIn(layers[0].sheet).length === 0 ? undefined : layers.find(isGone);
    const how = last?.leftOut.columns.some((column) => column.origins.some(has)) ? 'left out' : 'overwritten';
    return {
      cells,
      ...(last ? { gone: { step: last.id, title: last.title, how } } : {}),
      held,
      taken: cellsIn(layers[0].sheet).length > 0,
    };
  });
}
