import type { RunEvent, RunProgress } from '../contract/answers';
import { keepFiles } from '../export/kept-files';
import { pipelineById, type StoredPipeline } from '../store/pipelines';
import { Cancelled, type Watch } from '../store/publish';
import { endRun, startRun, tellRun } from '../store/runs';
import type { Store } from '../store/store';
import type { RunNote } from '../../core/runs/run';
import type { Pool } from '../work/pool';
import { Stopping } from '../work/stopping';
import type { RefreshOptions } from './refresh/plan';
import type { RefreshResult } from './refresh/publishing';
import { refresh } from './refresh/refresh';

interface Active {
  readonly run: number;
  readonly pipeline: number;
  readonly abort: AbortController;
  readonly ears: Set<(event: RunEvent) => void>;
  progress: RunProgress;
  finished: Promise<RefreshResult | undefined>;
}

/** Runs of all pipelines: at most one at a time for each; whoever asks again joins the one under way. */
export class RunManager {
  private readonly active = new Map<number, Active>();
  /** By pipeline, from the moment somebody asks: a second asker must not start a second run. */
  private readonly started = new Map<number, Promise<Active>>();
  private readonly readers = new Map<number, number>();
  private closed = false;

  private readonly endedEars: (() => void)[] = [];

  constructor(
    private readonly store: Store,
    private readonly pool: Pool,
    private readonly cacheFolder: string,
    private readonly failed: (error: Error) => void,
    private readonly watch?: Watch,
    private readonly roots?: readonly string[],
  ) {}

  /** Calls back whenever a refresh has ended. */
  onEnded(heard: () => void): void {
    this.endedEars.push(heard);
  }

  /** Starts a refresh, or joins the one under way. @param options.letGo reports that are gone may leave, however many @returns its run, and a promise of how it ended */
  async start(
    pipelineId: number,
    { letGo = false }: { letGo?: boolean } = {},
  ): Promise<{ run: number; finished: Promise<RefreshResult | undefined> }> {
    if (this.closed) throw new Stopping();
    const under = this.started.get(pipelineId);
    if (under) return under;
    const starting = this.begin(pipelineId, letGo);
    this.started.set(pipelineId, starting);
    const forget = () => this.started.delete(pipelineId);
    starting.then((active) => active.finished.finally(forget), forget);
    return starting;
  }

  private async begin(pipelineId: number, letGo: boolean): Promise<Active> {
    const pipeline = await pipelineById(this.store, pipelineId);
    if (!pipeline) throw new Error(`There is no pipeline ${pipelineId}.`);
    const run = await startRun(this.store, pipelineId, pipeline.version);
    const abort = new AbortController();
    const active: Active = {
      run,
      pipeline: pipelineId,
      abort,
      ears: new Set(),
      progress: { run, done: 0, total: 0, now: { kind: 'folder' } },
      finished: Promise.resolve(undefined),
    };
    this.active.set(run, active);
    // Its statements let those of readers go first.
    const options: RefreshOptions = {
      cacheFolder: this.cacheFolder,
      signal: abort.signal,
      inUse: new Set(this.readers.keys()),
      watch: this.watch,
      roots: this.roots,
      letGo,
      reading: (publication, work) => this.reading(publication, work),
      progress: (done, total, now) => {
        active.progress = { run, done, total, now };
        this.tell(active, { kind: 'progress', ...active.progress });
      },
    };
    active.finished = refresh({ store: this.store.patient, pool: this.pool, pipeline, run, options })
      .then(
        async (refreshed) => {
          const result = await this.withFiles(pipeline, run, refreshed, abort.signal);
          this.tell(active, { kind: 'ended', state: result.state, notes: result.notes });
          return result;
        },
        async (error: Error) => {
          const cancelled = error instanceof Cancelled;
          const state = cancelled ? 'cancelled' : 'failed';
          const notes: RunNote[] = [cancelled ? { kind: 'cancelled' } : { kind: 'failed', error: error.message }];
          if (!cancelled) this.failed(error);
          await endRun(this.store, run, state, notes).catch(() => undefined);
          this.tell(active, { kind: 'ended', state, notes });
          return undefined;
        },
      )
      .finally(() => {
        this.active.delete(run);
        for (const heard of this.endedEars) heard();
      });
    return active;
  }

  /** Writes the kept files; that one could not be is told with the run, and undoes nothing. */
  private async withFiles(
    pipeline: StoredPipeline,
    run: number,
    result: RefreshResult,
    signal: AbortSignal,
  ): Promise<RefreshResult> {
    const note = await keepFiles(this.store, pipeline, result, this.roots, signal).catch(
      (error: Error): RunNote | undefined => {
        if (!signal.aborted) this.failed(error);
        return undefined;
      },
    );
    if (!note) return result;
    const notes = [...result.notes, note];
    await tellRun(this.store, run, notes);
    return { ...result, notes };
  }

  /** @returns whether there was a run to cancel */
  cancel(run: number): boolean {
    const active = this.active.get(run);
    active?.abort.abort();
    return active !== undefined;
  }

  /** The run under way for a pipeline. */
  underWay(pipeline: number): RunProgress | undefined {
    return [...this.active.values()].find((each) => each.pipeline === pipeline)?.progress;
  }

  /** Hears the events of a run under way, its progress so far first. @returns undefined when it has ended; else stops hearing */
  follow(run: number, heard: (event: RunEvent) => void): (() => void) | undefined {
    const active = this.active.get(run);
    if (!active) return undefined;
    heard({ kind: 'progress', ...active.progress });
    active.ears.add(heard);
    return () => active.ears.delete(heard);
  }

  /** Keeps the rows of a publication from being cleared while somebody reads them. */
  async reading<T>(publication: number, work: () => Promise<T>): Promise<T> {
    this.readers.set(publication, (this.readers.get(publication) ?? 0) + 1);
    try {
      return await work();
    } finally {
      const left = this.readers.get(publication)! - 1;
      if (left > 0) this.readers.set(publication, left);
      else this.readers.delete(publication);
    }
  }

  /** The server is being stopped. */
  get isClosed(): boolean {
    return this.closed;
  }

  /** Cancels everything and waits until it has ended. */
  async close(): Promise<void> {
    this.closed = true;
    await Promise.allSettled(this.started.values());
    const all = [...this.active.values()];
    all.forEach((each) => each.abort.abort());
    await Promise.all(all.map((each) => each.finished));
  }

  private tell(active: Active, event: RunEvent) {
    for (const heard of active.ears) heard(event);
  }
}
