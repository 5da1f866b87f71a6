import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { resultDependsOn, splitAllReports, type Pipeline } from '../../../core/pipeline/document';
import { planOf, type PartInput, type Plan } from '../../../core/runs/plan';
import type { RunNote, ToldOfWhole } from '../../../core/runs/run';
import type { RunProgress } from '../../contract/answers';
import { boundDocument } from '../../lists/bind';
import { listFileContent } from '../../lists/list-files';
import { thisBuild } from '../../setup/build';
import type { StoredPipeline } from '../../store/pipelines';
import {
  Cancelled,
  clearLeftovers,
  makeRoomForColumns,
  type LoadedRows,
  loadPart,
  reservePart,
  type Watch,
} from '../../store/publish';
import { publishedParts, type PublishedRows } from '../../store/published';
import { StoreError, type Store } from '../../store/store';
import type { Pool } from '../../work/pool';
import type { ReportTask } from '../../work/session';
import { lookAtFolder } from '../look-at-folder';

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

/** What a refresh is of, and with what. */
export interface Refreshed {
  readonly store: Store;
  readonly pool: Pool;
  readonly pipeline: StoredPipeline;
  readonly run: number;
  readonly options: RefreshOptions;
}

/** So many reports, and this part of those published, may leave the dataset at once without asking. */
const fewGone = 2;
const usuallyMayGo = 0.2;

const hash = (text: string) => createHash('sha256').update(text).digest('hex');

/** One refresh under way: the folder and the dataset as they are, and what is to be done with each report. */
export class Planned {
  /** The document as the threads get it. */
  readonly text: string;
  /** Does a step need the rows of all reports at once? */
  readonly needsWhole: boolean;
  readonly plan: Plan<PublishedRows>;
  /** What of the rows of all reports is each one's, where they are published as one. */
  readonly sharesBefore: ToldOfWhole['reports'] | undefined;
  /** How many reports are made anew. */
  readonly due: number;

  private constructor(
    readonly of: Refreshed,
    readonly document: Pipeline,
    private readonly lists: Awaited<ReturnType<typeof boundDocument>>['lists'],
    readonly reports: Awaited<ReturnType<typeof lookAtFolder>>,
    /** The dataset as it is published. */
    readonly parts: readonly PublishedRows[],
  ) {
    this.text = JSON.stringify(document);
    this.needsWhole = splitAllReports(document).whole.length > 0;
    this.plan = planOf({
      reports,
      parts,
      keyOf: (input) => this.keyOf(input),
      ...(this.needsWhole ? { wholeKey: (inputs) => this.wholeKey(inputs) } : {}),
    });
    const whole = parts.find(({ report }) => report === null);
    this.sharesBefore = whole && (JSON.parse(whole.told) as ToldOfWhole).reports;
    this.due = this.plan.fates.filter(({ does }) => does === 'carry').length;
  }

  /**
   * Clears what runs before left behind, and looks at the folder and at the dataset.
   * @throws Cancelled when the signal ended it
   */
  static async of(refreshed: Refreshed): Promise<Planned> {
    const { store, pool, pipeline, options } = refreshed;
    options.progress?.(0, 0, { kind: 'folder' });
    await clearLeftovers(store, pipeline.id, options.inUse);
    await makeRoomForColumns(store, pipeline.id);
    const { cacheFolder, roots, signal, reading } = options;
    const reports = await lookAtFolder(store, pool, pipeline, cacheFolder, { roots, signal }).catch((error: Error) => {
      throw signal?.aborted ? new Cancelled() : error;
    });
    const parts = await publishedParts(store, pipeline.id);
    const { document, lists } = await boundDocument({ store, cacheFolder, reading }, pipeline);
    return new Planned(refreshed, document, lists, reports, parts);
  }

  /** @throws Cancelled when the signal ended the refresh */
  stop(): void {
    if (this.cancelled()) throw new Cancelled();
  }
  readonly cancelled = (): boolean => this.of.options.signal?.aborted === true;

  get watch(): Watch {
    return this.of.options.watch ?? (() => undefined);
  }

  progress(done: number, now: RunProgress['now']): void {
    this.of.options.progress?.(done, this.due, now);
  }

  /** Has the dataset rows of this report? */
  wasIn(report: number): boolean {
    return this.parts.some(
      ({ inputs, report: own }) => own === report || inputs.some((input) => input.report === report),
    );
  }

  /** So many published reports are gone from the folder that it may be the folder that is wrong: then nothing is done. */
  manyGone(): RunNote | undefined {
    const gone = this.reports.filter(({ id, standing }) => standing === 'gone' && this.wasIn(id));
    const published = this.reports.filter(({ id }) => this.wasIn(id)).length;
    const mayGo = published * (this.document.reports.mayGo ?? usuallyMayGo);
    if (this.of.options.letGo || gone.length <= fewGone || gone.length <= mayGo) return undefined;
    return { kind: 'many gone', reports: gone.map(({ path }) => path), of: published };
  }

  /** Of everything that the rows of a report depend on. */
  keyOf({ sha256, path, period = null }: PartInput): string {
    return hash(resultDependsOn(this.document, { sha256, stages: thisBuild.stages, path, period }));
  }

  /** Of everything that the rows of all reports depend on. */
  wholeKey(inputs: readonly PartInput[]): string {
    return hash(JSON.stringify([inputs.map((input) => [input.report, this.keyOf(input)]), this.document.allReports]));
  }

  taskOf({ report, path, sha256, period = null }: PartInput): ReportTask {
    const { pipeline, options } = this.of;
    return {
      // What the file was before can be had only from what was read off it.
      file: this.reports.some((each) => each.id === report && each.path === path && each.sha256 === sha256)
        ? join(pipeline.folder, path)
        : null,
      sha256,
      cacheFolder: options.cacheFolder,
      key: String(report),
      path,
      period,
    };
  }

  /** A place for rows that are made of these. @param report null: of all at once */
  reserve(report: number | null, key: string, inputs: readonly PartInput[]): Promise<number> {
    const { store, pipeline, options } = this.of;
    return reservePart(store, pipeline.id, report, key, {
      version: pipeline.version,
      build: thisBuild,
      inputs,
      lists: this.lists,
      listContent: (list) => listFileContent(options.cacheFolder, list),
    });
  }

  /** Loads rows into their place. @returns why the database does not take them, if so */
  async load(part: number, rows: LoadedRows, told: unknown): Promise<StoreError | undefined> {
    const { store, pipeline } = this.of;
    try {
      await loadPart(store, pipeline.id, part, rows, told, this.watch, this.cancelled);
      return undefined;
    } catch (error) {
      if (!(error instanceof StoreError)) throw error;
      return error;
    }
  }
}
