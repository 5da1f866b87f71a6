// What a thread keeps between two questions, and how it gets what it does not have.
import type { MessagePort } from 'node:worker_threads';
import {
  CarryCache,
  Stale,
  carryReport,
  carryWhole,
  type CarriedReport,
  type Layer,
  type PageRange,
} from '../../core/pipeline/carry';
import { parsePipeline, splitAllReports, type Pipeline } from '../../core/pipeline/document';
import { runChecks } from '../../core/checks/run-checks';
import { tied, tiedWhole, tiesBefore, type TiedReport, type TiedWhole, type TiesBefore } from '../../core/ties/tied';
import { at, type Problem } from '../../core/sheet/problem';
import type { Paper } from '../../core/steps/step';
import { listsIn } from '../lists/lists-in';
import type { OrUnreadable } from '../contract/answers';
import { UnreadableReport } from '../pdf/document';
import type { ReportContent } from './content';
import { foundOn } from './facts';
import { Recent } from './recent';
import { reportContent, type ReportSource } from './report-content';
import type { Progress } from './progress';
import type { LoadedRows } from '../store/publish';
import { totalsOf } from './carried-rows';

export interface ReportTask extends ReportSource {
  /** Key of the report, its database id as text. */
  readonly key: string;
  /** ISO text; null: none is known. Answers may hold from a period on. */
  readonly period?: string | null;
}

/** What is looked at: a report, or some of its pages, carried through a document. */
export interface Look {
  readonly document: string;
  readonly source: ReportTask;
  readonly pages?: PageRange | undefined;
  /** All reports, where the steps that need them at once are to be answered for as they were published. */
  readonly among?: readonly ReportTask[] | undefined;
  readonly pulse?: Pulse | undefined;
}

/**
 * Memory shared with the server. Its first number is 1 once nobody waits for the answer; its second counts what has been done,
 * so that work that stands still is noticed; its third is the page being read, 0 for none.
 */
export type Pulse = Int32Array;

export const beat = (pulse: Pulse | undefined): void => void (pulse && Atomics.add(pulse, 1, 1));

/** Tells which page is being read, so that it can be named should it never come to an end. */
export const readingPage = (pulse: Pulse | undefined, page: number): void => {
  beat(pulse);
  if (pulse) Atomics.store(pulse, 2, page);
};

/** Counts as done what was done, and asks whether anybody still waits. */
export const staleBy = (pulse: Pulse | undefined) => () => {
  beat(pulse);
  return pulse !== undefined && Atomics.load(pulse, 0) === 1;
};

/** Pages kept in memory by one thread; a longer report is kept alone. */
const mostPages = 400;
const contents = new Recent<ReportContent>(mostPages, (content) => Math.max(content.pages.length, mostPages / 4));
const carried = new Recent<TiedReport>(3);
const wholes = new Recent<WholeWithTotals>(1);
const caches = new Recent<CarryCache>(4);
const documents = new Recent<Pipeline>(4);

const keyOf = ({ sha256, key, path, period, reading }: ReportTask) =>
  JSON.stringify([sha256, key, path, period ?? null, reading ?? null]);

/** @throws UnreadableReport */
export async function contentOf(
  source: ReportSource,
  { port, pulse }: { port?: MessagePort | undefined; pulse?: Pulse | undefined } = {},
): Promise<{ content: ReportContent; parsed: boolean }> {
  let parsed = false;
  const isStale = staleBy(pulse);
  beat(pulse);
  const content = await contents.get(JSON.stringify([source.sha256, source.reading ?? null]), async () => {
    const read = await reportContent(source, {
      begins: (page) => readingPage(pulse, page),
      read: (done, total, pages) => {
        if (isStale()) throw new Stale();
        port?.postMessage({ done, total, found: foundOn(pages, total) } satisfies Progress);
      },
    });
    readingPage(pulse, 0);
    parsed = read.parsed;
    return read.content;
  });
  return { content, parsed };
}

export const pipelineFrom = (document: string): Promise<Pipeline> =>
  documents.get(document, async () => parsePipeline(JSON.parse(document)));

/** One report carried as far as it can be by itself. @throws UnreadableReport */
export async function carriedOf(
  document: string,
  task: ReportTask,
  {
    pages,
    until,
    pulse,
    port,
  }: {
    pages?: PageRange | undefined;
    until?: string | undefined;
    pulse?: Pulse | undefined;
    port?: MessagePort | undefined;
  } = {},
) {
  const pipeline = await pipelineFrom(document);
  const { content, parsed } = await contentOf(task, { port, pulse });
  const key = JSON.stringify([document, keyOf(task), pages ?? null, until ?? null]);
  const cache = await caches.get(keyOf(task), async () => new CarryCache());
  const result = await carried.get(key, async () => {
    const all = carryReport(
      pipeline,
      { key: task.key, path: task.path, period: task.period ?? null, pages: content.pages, tables: content.tables },
      { pages, until, cache, lists: listsIn(task.cacheFolder), isStale: staleBy(pulse) },
    );
    // Up to some step, or of a few pages, totals do not have all of their rows.
    if (until !== undefined || pages !== undefined) return { ...all, ties: [] };
    const whole = tied(pipeline, all);
    return {
      ...whole,
      problems: [...whole.problems, ...runChecks(pipeline.checks, whole.sheet, task.key, whole.paper)],
    };
  });
  return { pipeline, content, parsed, result };
}

/** All reports carried to the end, with the printed totals that steps kept of any of them or of all. */
export interface WholeWithTotals extends TiedWhole {
  readonly totals: LoadedRows['totals'];
}

/** Several reports carried through the steps that need all at once. @throws UnreadableReport */
export const wholeOf = (document: string, sources: readonly ReportTask[], pulse?: Pulse): Promise<WholeWithTotals> =>
  wholes.get(JSON.stringify([document, sources.map(keyOf)]), async () => {
    const pipeline = await pipelineFrom(document);
    const withTotals: Pick<Layer, 'id' | 'held'>[] = [];
    const reports: { key: string; sheet: CarriedReport['sheet']; paper: Paper; before: TiesBefore }[] = [];
    for (const source of sources) {
      const { result } = await carriedOf(document, source, { pulse });
      withTotals.push(...result.layers.flatMap(({ id, held }) => (held.kept === 'totals' ? [{ id, held }] : [])));
      reports.push({
        key: source.key,
        sheet: result.sheet,
        paper: result.paper,
        before: tiesBefore(pipeline, source.key, result),
      });
    }
    const carriedWhole = carryWhole(pipeline, reports, {
      lists: listsIn(sources[0].cacheFolder),
      isStale: staleBy(pulse),
      now: () => performance.now(),
    });
    const whole = tiedWhole(
      pipeline,
      carriedWhole,
      reports.map(({ before }) => before),
    );
    return { ...whole, totals: totalsOf([...withTotals, ...whole.layers], whole.ties) };
  });

export interface LookedAt {
  readonly content: ReportContent;
  readonly paper: Paper;
  readonly layers: readonly Layer[];
  readonly problems: readonly Problem[];
}

/**
 * The layers of one report. While steps are designed, those that need all reports are run on it alone; of a published report
 * they are run on all that went into the dataset.
 * @param until the step after which nothing is asked for
 * @throws UnreadableReport
 */
export async function lookedAt({ document, source, pages, pulse, among }: Look, until?: string): Promise<LookedAt> {
  const { pipeline, content, result } = await carriedOf(document, source, { pages, pulse, until });
  const needsWhole = splitAllReports(pipeline).whole.length > 0 && !result.layers.some((layer) => layer.id === until);
  const whole = !needsWhole
    ? undefined
    : among
      ? await wholeOf(document, among, pulse)
      : carryWhole(pipeline, [{ key: source.key, sheet: result.sheet, paper: result.paper }], {
          lists: listsIn(source.cacheFolder),
        });
  return {
    content,
    paper: result.paper,
    layers: [...result.layers, ...(whole?.layers ?? [])],
    problems: [...at({ report: source.key }, content.problems), ...result.problems, ...(whole?.problems ?? [])],
  };
}

/** The layers from the top to a step, with it, or all of them; none where there is no such step. */
export function layersUntil(layers: readonly Layer[], step: string | undefined): readonly Layer[] {
  return step === undefined ? layers : layers.slice(0, layers.findIndex((layer) => layer.id === step) + 1);
}

export async function readable<T>(work: () => Promise<T>): Promise<OrUnreadable<T>> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof UnreadableReport) return { unreadable: error.problem };
    throw error;
  }
}
