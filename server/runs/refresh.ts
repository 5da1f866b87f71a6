import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { heldByChecks } from '../../core/checks/check';
import { gapsIn } from '../../core/intake/periods';
import { resultDependsOn, splitAllReports } from '../../core/pipeline/document';
import { nothingTold, type CarriedTold } from '../../core/pipeline/told';
import { inputOf, oddTypes, planOf, type Fate, type PartInput } from '../../core/runs/plan';
import type { RunNote, RunReport, RunState, ToldOfWhole, WholeTold } from '../../core/runs/run';
import { severityOf, type Problem } from '../../core/sheet/problem';
import type { RunProgress } from '../contract/answers';
import { boundDocument } from '../lists/bind';
import { listFileContent } from '../lists/list-files';
import { thisBuild } from '../setup/build';
import type { NewColumn } from '../store/data-table';
import type { StoredPipeline } from '../store/pipelines';
import {
  Cancelled,
  clearLeftovers,
  loadPart,
  makeRoomForColumns,
  publish,
  reservePart,
  type PublishedPart,
  type Watch,
} from '../store/publish';
import { publishedParts, type PublishedRows } from '../store/published';
import { endRun, recordRun } from '../store/runs';
import { StoreError, type Store } from '../store/store';
import { inParallel } from '../work/in-parallel';
import type { Pool } from '../work/pool';
import type { ReportTask } from '../work/session';
import { datasetChecks, stoppedBy } from './dataset-checks';
import { Differing, differencesIn } from './differing';
import { madeAnew, type Replaced } from './made-anew';
import {
  cameIn,
  isOut,
  lineOf,
  mergedColumns,
  noCounts,
  notStored,
  otherType,
  tiesOf,
  waitingBeside,
  withShare,
  withTies,
  wrongWithin,
} from './lines';
import { lookAtFolder } from './look-at-folder';

export interface RefreshOptions {
  readonly cacheFolder: string;
  readonly signal?: AbortSignal;
  readonly progress?: (done: number, total: number, now: RunProgress['now']) => void;
  /** Publications that somebody is still reading; their rows are not cleared. */
  readonly inUse?: ReadonlySet<number>;
  readonly watch?: Watch;
  /** Folders below which links may lead; the pipeline's own if left out. */
  readonly roots?: readonly string[] | undefined;
  /** Reports that are gone may leave the dataset, however many. */
  readonly letGo?: boolean;
  /** Keeps the rows of another dataset while they are read. */
  readonly reading?: <T>(publication: number, work: () => Promise<T>) => Promise<T>;
}

export interface RefreshResult {
  readonly state: RunState;
  readonly rows: number;
  readonly reports: readonly RunReport[];
  readonly whole: WholeTold | null;
  readonly notes: readonly RunNote[];
}

/** What became of one report: the part that holds its rows, or (where a step needs the whole) what they are to be made of. */
interface Outcome {
  readonly line: RunReport;
  readonly part?: PublishedPart;
  readonly source?: PartInput;
  readonly columns: readonly NewColumn[];
}

/** So many reports, and this part of those published, may leave the dataset at once without asking. */
const fewGone = 2;
const usuallyMayGo = 0.2;

const hash = (text: string) => createHash('sha256').update(text).digest('hex');

/**
 * One refresh: looks at the folder, makes a plan, carries what is new or changed, and publishes in one switch. A report that
 * cannot be had whole keeps its rows of the last good version, marked stale; the others come.
 * @throws Cancelled when the signal ended it; the dataset before it stays published
 */
export async function refresh(
  store: Store,
  pool: Pool,
  pipeline: StoredPipeline,
  run: number,
  options: RefreshOptions,
): Promise<RefreshResult> {
  const { signal, progress = () => undefined, watch = () => undefined } = options;
  const { version } = pipeline;
  const stop = () => {
    if (signal?.aborted) throw new Cancelled();
  };

  progress(0, 0, { kind: 'folder' });
  await clearLeftovers(store, pipeline.id, options.inUse);
  await makeRoomForColumns(store, pipeline.id);
  const reports = await lookAtFolder(store, pool, pipeline, options.cacheFolder, {
    roots: options.roots,
    signal,
  }).catch((error: Error) => {
    stop();
    throw error;
  });
  const parts = await publishedParts(store, pipeline.id);
  const { document, lists } = await boundDocument(
    { store, cacheFolder: options.cacheFolder, reading: options.reading },
    pipeline,
  );
  const text = JSON.stringify(document);

  const wasIn = (report: number) =>
    parts.some(({ inputs, report: own }) => own === report || inputs.some((input) => input.report === report));
  const gone = reports.filter(({ id, standing }) => standing === 'gone' && wasIn(id));
  const published = reports.filter(({ id }) => wasIn(id)).length;
  if (!options.letGo && gone.length > fewGone && gone.length > published * (document.reports.mayGo ?? usuallyMayGo)) {
    const notes: RunNote[] = [{ kind: 'many gone', reports: gone.map(({ path }) => path), of: published }];
    await endRun(store, run, 'nothing published', notes);
    return { state: 'nothing published', rows: 0, reports: [], whole: null, notes };
  }

  const needsWhole = splitAllReports(document).whole.length > 0;
  const keyOf = ({ sha256, path, period = null }: PartInput) =>
    hash(resultDependsOn(document, { sha256, stages: thisBuild.stages, path, period }));
  const wholeKey = (inputs: readonly PartInput[]) =>
    hash(JSON.stringify([inputs.map((input) => [input.report, keyOf(input)]), document.allReports]));
  const plan = planOf({ reports, parts, keyOf, ...(needsWhole ? { wholeKey } : {}) });
  const toldBefore = parts.find(({ report }) => report === null);
  const sharesBefore = toldBefore && (JSON.parse(toldBefore.told) as ToldOfWhole).reports;

  const madeOf = (inputs: readonly PartInput[]) => ({
    version,
    build: thisBuild,
    inputs,
    lists,
    listContent: (list: string) => listFileContent(options.cacheFolder, list),
  });
  const taskOf = ({ report, path, sha256, period = null }: PartInput): ReportTask => ({
    // What the file was before can be had only from what was read off it.
    file: reports.some((each) => each.id === report && each.path === path && each.sha256 === sha256)
      ? join(pipeline.folder, path)
      : null,
    sha256,
    cacheFolder: options.cacheFolder,
    key: String(report),
    path,
    period,
  });
  const differing = await Differing.of(store, pool, pipeline.id, parts);
  const due = plan.fates.filter(({ does }) => does === 'carry').length;
  let done = 0;

  /** Carries a report; what keeps it from that comes as problems. */
  async function carried(input: PartInput, part: number | null) {
    let read = 0;
    const answer = await pool
      .run(
        'carry',
        { document: text, source: taskOf(input), part },
        {
          signal,
          progress: (told) =>
            progress(done, due, { kind: 'report', path: input.path, page: (read = told.done), pages: told.total }),
        },
      )
      .catch((error: Error): { unreadable: Problem } => {
        stop();
        // One report that breaks its thread (too large for its memory, a fault of the reader) must not stop the others.
        return {
          unreadable: {
            kind: 'not read',
            expected: 'a file that can be read',
            came: `a failure${read > 0 ? ` after page ${read}` : ''}: ${error.message.replace(/\s+/g, ' ')}`,
            remedy: 'Ask the sender for the file again; the other reports are not touched by it.',
          },
        };
      });
    if ('unreadable' in answer) return { refused: [answer.unreadable], told: nothingTold, parsed: false };
    return answer.heldBack.length > 0
      ? { refused: answer.heldBack, told: answer.told, parsed: answer.parsed, traits: answer.traits }
      : { answer, traits: answer.traits };
  }

  /** A report whose rows cannot be had now: those of its last good version stay, marked stale. */
  async function heldBack(
    fate: Exclude<Fate<PublishedRows>, { does: 'leave' }>,
    because: readonly Problem[],
    told: CarriedTold,
    parsed = false,
    fits: (of: Pick<Outcome, 'columns'>) => boolean = () => true,
  ): Promise<Outcome> {
    const { report } = fate;
    const problems = [...because, ...told.problems.filter((problem) => !because.includes(problem))];
    // What is reused is in the dataset as it is now.
    const last = fate.does === 'reuse' ? inputOf(report) : fate.last;
    const part = needsWhole ? undefined : fate.part;
    if (part && fits(part))
      return {
        line: { ...lineOf(report, 'stale', part), ...told, problems, ...tiesOf(JSON.parse(part.told) as CarriedTold) },
        part: { part: part.id, stale: true },
        columns: part.columns,
      };
    if (!part && last) {
      // Its rows are not by themselves in the dataset: they are made anew, of what the report was when it last was good.
      const own = needsWhole ? null : await reservePart(store, pipeline.id, report.id, keyOf(last), madeOf([last]));
      const { answer } = await carried(last, own);
      if (answer && fits(answer.rows)) {
        if (own !== null)
          await loadPart(store, pipeline.id, own, answer.rows, answer.told, watch, () => signal?.aborted === true);
        const counts = { rows: answer.rows.rows, held: answer.rows.held, misfits: answer.rows.misfits.length };
        return {
          line: { ...lineOf(report, 'stale', counts), ...answer.told, problems },
          ...(own === null ? { source: last } : { part: { part: own, stale: true } }),
          columns: answer.rows.columns,
        };
      }
    }
    const waits = because.some(({ kind }) => kind === 'differs' || kind === 'check');
    return {
      line: { ...lineOf(report, waits ? 'held back' : 'failed', noCounts), ...told, problems, parsed },
      columns: [],
    };
  }

  async function carry(fate: Extract<Fate<PublishedRows>, { does: 'carry' }>): Promise<Outcome> {
    stop();
    const { report } = fate;
    const input = inputOf(report);
    const part = needsWhole ? null : await reservePart(store, pipeline.id, report.id, keyOf(input), madeOf([input]));
    const { answer, ...refusal } = await carried(input, part);
    if (refusal.traits) differing.saw(report, refusal.traits);
    progress(++done, due, { kind: 'report', path: report.path });
    if (!answer) return heldBack(fate, refusal.refused!, refusal.told!, refusal.parsed);
    const { rows, told, parsed } = answer;
    if (part !== null) {
      const refused = await takenBy(
        loadPart(store, pipeline.id, part, rows, told, watch, () => signal?.aborted === true),
      );
      // What the database does not take of one report must not stop the others.
      if (refused) return heldBack(fate, [notStored(refused)], told, parsed);
    }
    const counts = { rows: rows.rows, held: rows.held, misfits: rows.misfits.length };
    return {
      line: { ...lineOf(report, fate.last || fate.part ? 'changed' : 'added', counts), ...told, parsed },
      ...(part === null ? { source: input } : { part: { part, stale: false } }),
      columns: rows.columns,
    };
  }

  function reused({ report, part }: Extract<Fate<PublishedRows>, { does: 'reuse' }>): Outcome {
    if (part.report === null) {
      const { rows, held, misfits, ...told } = sharesBefore![String(report.id)];
      return {
        line: { ...lineOf(report, 'unchanged', { rows, held, misfits }), ...told },
        source: inputOf(report),
        columns: [],
      };
    }
    return {
      line: {
        ...lineOf(report, part.stale ? 'changed' : 'unchanged', part),
        ...(JSON.parse(part.told) as CarriedTold),
      },
      part: { part: part.id, stale: false },
      columns: part.columns,
    };
  }

  const outcomes = await inParallel(plan.fates, pool.threads, async (fate): Promise<Outcome> => {
    switch (fate.does) {
      case 'reuse':
        return reused(fate);
      case 'carry':
        return carry(fate);
      case 'hold back':
        return plan.whole
          ? {
              line: {
                ...lineOf(
                  fate.report,
                  fate.last ? 'stale' : 'failed',
                  sharesBefore?.[String(fate.report.id)] ?? noCounts,
                ),
                problems: [fate.because],
                ...tiesOf(sharesBefore?.[String(fate.report.id)]),
              },
              ...(fate.last ? { source: fate.last } : {}),
              columns: [],
            }
          : heldBack(fate, [fate.because], nothingTold);
      case 'leave':
        return { line: lineOf(fate.report, fate.state, noCounts), columns: [] };
    }
  });
  stop();

  // A report that differs waits for an answer, as does one that fails a check which holds it back; its rows of the last good version stay.
  const { differences, compared } = await differing.found(document, plan.fates, signal);
  const gaps = gapsIn(reports, document.reports.none);
  const ofGaps: RunNote[] = gaps.length > 0 ? [{ kind: 'gaps', periods: gaps }] : [];
  const ofDifferences: RunNote[] =
    differences.length > 0 ? [{ kind: 'differences', differences, reports: compared }] : [];
  const answered = await inParallel(outcomes, 1, async (outcome, i) => {
    const fate = plan.fates[i];
    const { holding, others } = differencesIn(differences, fate.report.id);
    if (fate.does === 'leave' || isOut(outcome.line.state)) return outcome;
    const { matches, layers, problems, parsed } = outcome.line;
    holding.push(...heldByChecks(problems, document.checks));
    return holding.length > 0
      ? heldBack(fate, holding, { matches, layers, problems: [...others, ...problems] }, parsed)
      : { ...outcome, line: { ...outcome.line, problems: [...others, ...problems] } };
  });

  // A report in which a column has another type than in most others is held back: one column has one type.
  const odd = oddTypes(answered);
  const settled = await inParallel(answered, 1, async (outcome, i) => {
    const column = odd(outcome);
    const fate = plan.fates[i];
    if (!column || fate.does === 'leave') return outcome;
    const { matches, layers, problems, parsed } = outcome.line;
    return heldBack(
      fate,
      [otherType(outcome.line, column)],
      { matches, layers, problems },
      parsed,
      (of) => odd(of) === undefined,
    );
  });
  const lines = settled.map(({ line }) => line).filter(({ state, report }) => state !== 'removed' || wasIn(report));

  async function end(
    state: RunState,
    notes: readonly RunNote[],
    all: readonly RunReport[] = lines,
    whole: WholeTold | null = null,
  ): Promise<RefreshResult> {
    await recordRun(store, run, all, whole, notes);
    if (state !== 'published') await endRun(store, run, state, notes);
    return {
      state,
      rows: state === 'nothing published' ? 0 : all.reduce((sum, line) => sum + line.rows, 0),
      reports: all,
      whole,
      notes,
    };
  }

  /** What waits for an answer is said as well where nothing is published. */
  const unpublished = (notes: readonly RunNote[], all?: readonly RunReport[], whole?: WholeTold | null) =>
    end('nothing published', [...notes, ...ofDifferences], all, whole);
  const none = (): RunNote =>
    reports.some(({ standing }) => standing === 'counts')
      ? { kind: 'none carried' }
      : { kind: 'no report found', folder: pipeline.folder };

  const ended = stoppedBy(document.checks, lines);
  if (ended.length > 0) return unpublished(ended);

  if (!needsWhole) {
    const published = settled.flatMap(({ part }) => part ?? []);
    if (published.length === 0) return unpublished([none()]);
    return switchTo(published, mergedColumns(settled.map(({ columns }) => columns)), []);
  }

  // Left out of what is made anew, rows that are published would be gone without an answer: the dataset waits.
  const lost = settled.find(
    ({ line, source }) => isOut(line.state) && line.state !== 'stale' && !source && wasIn(line.report),
  );
  if (lost) return unpublished([{ kind: 'whole waits', report: lost.line.path }]);
  const inputs = settled.flatMap(({ source }) => source ?? []);
  if (inputs.length === 0) return unpublished([none()]);
  const key = wholeKey(inputs);
  const known = parts.find((part) => part.report === null && part.key === key);
  if (known) {
    const told = JSON.parse(known.told) as ToldOfWhole;
    const all = lines.map((line) => ({
      ...line,
      ...(told.reports[String(line.report)] ?? {}),
      problems: line.problems,
    }));
    return switchTo([{ part: known.id, stale: false }], known.columns, [], all, told.whole);
  }
  progress(done, due, { kind: 'whole' });
  const part = await reservePart(store, pipeline.id, null, key, madeOf(inputs));
  const answer = await pool
    .run('whole', { document: text, sources: inputs.map(taskOf), part }, { signal })
    .catch((error: Error) => {
      stop();
      throw new Error(`The steps that need all reports at once could not be run: ${error.message}`);
    });
  if ('unreadable' in answer) return unpublished([{ kind: 'whole waits', report: answer.unreadable.report ?? '' }]);
  const stopping = answer.told.problems.find((problem) => severityOf(problem) === 'stops');
  if (stopping) return unpublished([{ kind: 'not stored', problem: stopping }]);
  const all = lines.map((line) => withShare(line, answer.shares[String(line.report)]));
  const told: ToldOfWhole = {
    whole: answer.told,
    reports: Object.fromEntries(
      all.map(({ report, rows, held, misfits, matches, layers, problems, ties }) => [
        String(report),
        { rows, held, misfits, matches, layers, problems, ...tiesOf({ ties }) },
      ]),
    ),
  };
  const refused = await takenBy(
    loadPart(store, pipeline.id, part, answer.rows, told, watch, () => signal?.aborted === true),
  );
  if (refused) return unpublished([{ kind: 'not stored', problem: notStored(refused) }]);
  return switchTo(
    [{ part, stale: false }],
    answer.rows.columns,
    [
      {
        kind: 'computed anew',
        steps: answer.told.layers.flatMap(({ title, took }) => (took === undefined ? [] : [{ title, took }])),
      },
    ],
    all,
    answer.told,
  );

  /** Rows that are published, and those that take their place: of each report by itself, or of all. */
  function replacedBy(published: readonly PublishedPart[]): Replaced[] {
    if (needsWhole) {
      const before = parts.find(({ report }) => report === null);
      return before && published[0] && before.id !== published[0].part
        ? [{ before, after: published[0].part, inputs: settled.flatMap(({ source }) => source ?? []) }]
        : [];
    }
    return settled.flatMap(({ part }, i) => {
      const { report } = plan.fates[i];
      const before = parts.find((each) => each.report === report.id);
      return before && part && !part.stale && before.id !== part.part
        ? [{ before, after: part.part, inputs: [inputOf(report)] }]
        : [];
    });
  }

  /** Publishes, unless that is what is published already. */
  async function switchTo(
    published: readonly PublishedPart[],
    columns: Outcome['columns'],
    notes: readonly RunNote[],
    all: readonly RunReport[] = lines,
    whole: WholeTold | null = null,
  ): Promise<RefreshResult> {
    stop();
    const ofDataset = await datasetChecks(
      { store, cacheFolder: options.cacheFolder, reading: options.reading },
      pipeline.id,
      document.checks,
      published.map((each) => each.part),
    );
    if (
      parts.length === published.length &&
      parts.every((each, i) => each.id === published[i].part && each.stale === published[i].stale)
    ) {
      const waiting = all.filter(({ state }) => isOut(state)).length;
      return end(
        'nothing new',
        [
          { kind: 'nothing changed', ...(waiting > 0 ? { waiting } : {}) },
          ...ofDifferences,
          ...ofGaps,
          ...ofDataset,
          ...wrongWithin(document.checks, all),
        ],
        all,
        whole,
      );
    }
    if (ofDataset.some(({ stops }) => stops)) return unpublished(ofDataset, all, whole);
    progress(done, due, { kind: 'publishing' });
    const anew = await madeAnew(store, pipeline.id, run, document, replacedBy(published));
    const said = withTies(
      [
        ...cameIn(all),
        ...(anew ? [anew] : []),
        ...waitingBeside(all),
        ...notes,
        ...ofDataset,
        ...(compared < 2 ? ofDifferences : [{ kind: 'differences' as const, differences, reports: compared }]),
        ...wrongWithin(document.checks, all),
        ...ofGaps,
      ],
      all,
      whole,
    );
    await end('published', said, all, whole);
    const { rows } = await publish(store, pipeline.id, run, version, published, columns, watch);
    return { state: 'published', rows, reports: all, whole, notes: said };
  }
}

/** Waits for rows to be loaded. @returns why the database does not take them, if so */
const takenBy = (load: Promise<void>): Promise<StoreError | undefined> =>
  load.then(
    () => undefined,
    (error: Error) => {
      if (!(error instanceof StoreError)) throw error;
      return error;
    },
  );
