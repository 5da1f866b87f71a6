import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { placeFiles } from '../../core/intake/file-names';
import { mergedNames } from '../../core/pipeline/append';
import { resultDependsOn, splitAllReports } from '../../core/pipeline/document';
import { readerVersion } from '../../core/reading/find-tables';
import type { ValueType } from '../../core/sheet/sheet';
import { inventory } from '../folder/inventory';
import type { StoredPipeline } from '../store/pipelines';
import { Cancelled, clearLeftovers, loadPart, publish, reservePart, type PublishedPart, type Watch } from '../store/publish';
import { recordFolder, reportsOf, type StoredReport } from '../store/reports';
import { endRun, noteRun, recordReports, type RunDetails, type RunReport, type RunState } from '../store/runs';
import type { Store } from '../store/store';
import { inParallel } from '../work/in-parallel';
import type { Pool } from '../work/pool';
import type { CarriedSummary, ReportTask } from '../work/thread';

export interface RefreshOptions {
  readonly cacheFolder: string;
  readonly signal?: AbortSignal;
  readonly progress?: (done: number, total: number, now: string) => void;
  /** Publications that somebody is still reading; their rows are not cleared. */
  readonly inUse?: ReadonlySet<number>;
  readonly watch?: Watch;
}

export interface RefreshResult {
  readonly state: RunState;
  readonly rows: number;
  readonly reports: readonly RunReport[];
  readonly message: string | null;
}

interface KnownPart {
  id: number;
  report: number | null;
  result_key: string;
  rows: number;
  held: number;
  misfits: number;
  columns: string;
  details: string;
  stale: boolean;
}

/** What became of one counting report: the part that holds its rows, if any. */
interface Outcome {
  readonly line: RunReport;
  readonly part?: PublishedPart;
  readonly columns: readonly { heading: string; type: ValueType }[];
}

const hash = (text: string) => createHash('sha256').update(text).digest('hex');
const noDetails: RunDetails = { matches: [], layers: [], problems: [] };

/**
 * One refresh: looks at the folder, carries what is new or changed, and publishes in one switch. A report that cannot
 * be had whole keeps its rows of the last good version, marked stale; the others come.
 * @throws Cancelled when the signal ended it; the dataset before it stays published
 */
export async function refresh(store: Store, pool: Pool, pipeline: StoredPipeline, run: number, options: RefreshOptions): Promise<RefreshResult> {
  const { signal, progress = () => undefined, watch = () => undefined } = options;
  const stopped = () => signal?.aborted === true;
  const document = JSON.stringify(pipeline.document);
  progress(0, 0, 'Looking at the folder');
  await clearLeftovers(store, pipeline.id, options.inUse);
  const before = await reportsOf(store, pipeline.id);
  const files = await inventory(pipeline.folder, new Map(before.map((report) => [report.path, report])));
  const reports = await recordFolder(store, pipeline.id, placeFiles(files, pipeline.document.reports));
  const counting = reports.filter((report) => report.standing === 'counts');
  const undecided = reports.filter((report) => report.standing === 'undecided');
  const parts = await publishedParts(store, pipeline.id);
  const catalogue = new Map(
    (await store.query<{ identifier: string; heading: string; type: ValueType }>('select identifier, heading, type from dataset_column where pipeline = $1', [pipeline.id])).map((c) => [c.identifier, c]),
  );
  const columnsOf = (part: KnownPart): { heading: string; type: ValueType }[] => (JSON.parse(part.columns) as string[]).flatMap((identifier) => catalogue.get(identifier) ?? []).map(({ heading, type }) => ({ heading, type }));
  const needsWhole = splitAllReports(pipeline.document).whole.length > 0;
  const keyOf = (report: StoredReport) => hash(resultDependsOn(pipeline.document, { sha256: report.sha256, readerVersion, path: report.path }));
  const taskOf = (report: StoredReport): ReportTask => ({
    file: join(pipeline.folder, report.path),
    sha256: report.sha256,
    cacheFolder: options.cacheFolder,
    key: String(report.id),
    path: report.path,
  });

  let done = 0;
  const carryOne = async (report: StoredReport): Promise<Outcome> => {
    if (stopped()) throw new Cancelled();
    const known = parts.find((part) => part.report === report.id);
    const resultKey = keyOf(report);
    if (!needsWhole && known && known.result_key === resultKey) {
      progress(++done, counting.length, report.path);
      return { line: lineOf(report, known.stale ? 'changed' : 'unchanged', false, known, JSON.parse(known.details) as RunDetails), part: { part: known.id, stale: false }, columns: columnsOf(known) };
    }
    const part = needsWhole ? null : await reservePart(store, pipeline.id, report.id, resultKey);
    const answer = await pool
      .run('carry', { document, source: taskOf(report), part }, { signal, progress: (told) => progress(done, counting.length, `${report.path}, page ${told.done} of ${told.total}`) })
      .catch((error: Error): { unreadable: string } => {
        if (stopped()) throw new Cancelled();
        // One report that breaks its thread (too large for its memory, a fault of the reader) must not stop the others.
        return { unreadable: `${report.path} could not be read: ${error.message.replace(/\s+/g, ' ')}` };
      });
    progress(++done, counting.length, report.path);
    const refused = 'unreadable' in answer ? answer.unreadable : answer.heldBack;
    if (refused !== null || 'unreadable' in answer) return heldBack(report, known, refused!, 'unreadable' in answer ? undefined : answer, columnsOf);
    if (part !== null) await loadPart(store, pipeline.id, part, answer.part, watch, stopped);
    const counts = { rows: answer.part.rows, held: answer.part.held, misfits: answer.part.misfits.length };
    return {
      line: lineOf(report, known ? 'changed' : 'added', answer.parsed, counts, answer.details),
      ...(part === null ? {} : { part: { part, stale: false } }),
      columns: answer.part.columns,
    };
  };

  const carriedNow = await inParallel(counting, pool.threads, carryOne);
  // Neither of two issues replaces the other unasked: what was published of them stays.
  const waiting = undecided.map((report) => heldBack(report, parts.find((part) => part.report === report.id), undecidedBecause(report), undefined, columnsOf));
  const outcomes = alike([...carriedNow, ...waiting], ({ line }, why, fits) => {
    // Rows of the last good version stay only if their columns are of the types that the others have now.
    const known = parts.find((part) => part.report === line.report && fits(columnsOf(part)));
    return heldBack(reports.find((report) => report.id === line.report)!, known, why, undefined, columnsOf);
  });
  const others = reports.filter((report) => report.standing !== 'counts' && report.standing !== 'undecided').map((report) => lineOf(report, otherState(report), false, noCounts, { ...noDetails, problems: otherSentence(report) }));
  const good = outcomes.filter((outcome) => outcome.line.state !== 'failed');
  const lines = inOrder(reports, [...outcomes.map((outcome) => outcome.line), ...others.filter((line) => line.state !== 'removed' || parts.some((part) => part.report === line.report))]);
  if (stopped()) throw new Cancelled();

  let published = good.flatMap((outcome) => outcome.part ?? []);
  let columns = mergedColumns(good.map((outcome) => outcome.columns));
  let message: string | null = null;
  let wholeRows: number | undefined;
  if (needsWhole && undecided.length > 0 && parts.length > 0) {
    // Computed from all reports at once, the rows of the period would be lost, not kept.
    const why = `${undecidedBecause(undecided[0])} A step needs all reports at once, so the dataset stays as it was published.`;
    await recordReports(store, run, lines);
    await endRun(store, run, 'nothing published', why);
    return { state: 'nothing published', rows: 0, reports: lines, message: why };
  }
  if (needsWhole && good.length > 0) {
    const resultKey = hash(JSON.stringify([good.map(({ line }) => [line.report, keyOf(reports.find((r) => r.id === line.report)!)]), pipeline.document.allReports]));
    const known = parts.find((part) => part.report === null && part.result_key === resultKey);
    if (known) {
      published = [{ part: known.id, stale: false }];
      columns = columnsOf(known);
      wholeRows = known.rows;
      message = inMessage((JSON.parse(known.details) as RunDetails).problems);
    } else {
      progress(done, counting.length, 'Steps that need all reports at once');
      const part = await reservePart(store, pipeline.id, null, resultKey);
      const sources = good.map(({ line }) => taskOf(reports.find((r) => r.id === line.report)!));
      const answer: CarriedSummary = await pool.run('whole', { document, sources, part }, { signal }).catch((error: Error) => {
        if (stopped()) throw new Cancelled();
        throw new Error(`the steps that need all reports at once could not be run: ${error.message}`);
      });
      await loadPart(store, pipeline.id, part, answer.part, watch, stopped);
      published = [{ part, stale: false }];
      columns = [...answer.part.columns];
      wholeRows = answer.part.rows;
      message = ['All rows were computed anew, because a step needs all reports at once.', inMessage(answer.details.problems)].filter(Boolean).join(' ');
    }
  }
  if (stopped()) throw new Cancelled();

  const rows = wholeRows ?? lines.reduce((sum, line) => sum + (line.state === 'failed' ? 0 : line.rows), 0);
  await recordReports(store, run, lines);
  if (published.length === 0) {
    const why = counting.length === 0 ? `No PDF report was found in ${pipeline.folder}.` : 'No report could be carried; see the sentence of each.';
    await endRun(store, run, 'nothing published', why);
    return { state: 'nothing published', rows: 0, reports: lines, message: why };
  }
  if (samePublication(parts, published)) {
    const said = ['Nothing has changed since the last refresh.', message].filter(Boolean).join(' ');
    await endRun(store, run, 'nothing new', said);
    return { state: 'nothing new', rows, reports: lines, message: said };
  }
  progress(done, counting.length, 'Publishing');
  const result = await publish(store, pipeline.id, run, published, columns, watch);
  if (message) await noteRun(store, run, message);
  return { state: 'published', rows: result.rows, reports: lines, message };
}

/** So many problems of the steps that need all reports at once are told in a run's message. */
const toldProblems = 3;

const inMessage = (problems: readonly string[]): string | null =>
  problems.length === 0 ? null : `${problems.slice(0, toldProblems).join(' ')}${problems.length > toldProblems ? ` And ${problems.length - toldProblems} more.` : ''}`;

/** The parts of the dataset as it is published now, in order. */
const publishedParts = (store: Store, pipeline: number) =>
  store.query<KnownPart>(
    `select t.id, t.report, t.result_key, t.rows, t.held, t.misfits, t.columns, t.details, pp.stale
     from part t join publication_part pp on pp.part = t.id join pipeline p on p.publication = pp.publication
     where p.id = $1 order by pp.position`,
    [pipeline],
  );

const samePublication = (before: readonly KnownPart[], now: readonly PublishedPart[]) =>
  before.length === now.length && before.every((part, i) => part.id === now[i].part && part.stale === now[i].stale);

const noCounts = { rows: 0, held: 0, misfits: 0 };

const lineOf = (report: StoredReport, state: RunReport['state'], parsed: boolean, { rows, held, misfits }: { rows: number; held: number; misfits: number }, details: RunDetails): RunReport => ({
  report: report.id,
  path: report.path,
  period: report.period,
  state,
  parsed,
  rows,
  held,
  misfits,
  details,
});

/** A report whose rows cannot be had now: those of its last good version stay, marked stale. */
function heldBack(report: StoredReport, known: KnownPart | undefined, why: string, answer: CarriedSummary | undefined, columnsOf: (part: KnownPart) => Outcome['columns']): Outcome {
  const details: RunDetails = { ...(answer?.details ?? noDetails), problems: [why, ...(answer?.details.problems ?? []).filter((problem) => !why.includes(problem))] };
  if (known) return { line: lineOf(report, 'stale', false, known, details), part: { part: known.id, stale: true }, columns: columnsOf(known) };
  return { line: lineOf(report, 'failed', answer?.parsed ?? false, noCounts, details), columns: [] };
}

/** A report in which a column has another type than in most others is held back: one column has one type. */
function alike(outcomes: readonly Outcome[], refuse: (outcome: Outcome, why: string, fits: (columns: Outcome['columns']) => boolean) => Outcome): Outcome[] {
  const votes = new Map<string, Map<ValueType, number>>();
  for (const { columns } of outcomes)
    for (const { heading, type } of columns) {
      const own = votes.get(heading) ?? new Map<ValueType, number>();
      votes.set(heading, own.set(type, (own.get(type) ?? 0) + 1));
    }
  const usual = new Map([...votes].map(([heading, types]) => [heading, [...types].sort((a, b) => b[1] - a[1])[0][0]]));
  const odd = (columns: Outcome['columns']) => columns.find(({ heading, type }) => (usual.get(heading) ?? type) !== type);
  return outcomes.map((outcome) => {
    const column = odd(outcome.columns);
    if (!column) return outcome;
    const why = `${outcome.line.path}: expected column “${column.heading}” to be of type ${usual.get(column.heading)} as in the other reports, got ${column.type}. Set its type in a step that reaches every report.`;
    return refuse(outcome, why, (columns) => odd(columns) === undefined);
  });
}

function mergedColumns(lists: readonly (readonly { heading: string; type: ValueType }[])[]): { heading: string; type: ValueType }[] {
  const types = new Map(lists.flat().map(({ heading, type }) => [heading, type]));
  return mergedNames(lists.map((list) => list.map(({ heading }) => heading))).map((heading) => ({ heading, type: types.get(heading)! }));
}

const undecidedBecause = ({ path, period, standingOf }: StoredReport): string =>
  `${path} and ${standingOf} are both for ${period}, and their names do not tell which is the later issue. Say in the intake which one counts, or that both do.`;

const otherState = (report: StoredReport): RunReport['state'] => (report.standing === 'gone' ? 'removed' : (report.standing as RunReport['state']));

function otherSentence(report: StoredReport): string[] {
  switch (report.standing) {
    case 'replaced':
      return [`${report.path} is replaced by ${report.standingOf}, a later issue for the same period.`];
    case 'set aside':
      return [`${report.path} is set aside by hand; its rows are not in the dataset.`];
    case 'a copy':
      return [`${report.path} has the same content as ${report.standingOf} and is counted once.`];
    case 'gone':
      return [`${report.path} is no longer in the folder; its rows left the dataset.`];
    default:
      return [`${report.path} is not a PDF and was left alone.`];
  }
}

const inOrder = (reports: readonly StoredReport[], lines: readonly RunReport[]): RunReport[] => reports.flatMap((report) => lines.filter((line) => line.report === report.id));
