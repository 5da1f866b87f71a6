import { availableParallelism, totalmem } from 'node:os';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { builtThread } from '../setup/built';
import { threadFlags } from '../setup/engine';
import { Stopping } from './stopping';
import type * as allLooks from './looks/all';
import type { Progress } from './progress';
import type { SkippedPage } from '../pdf/read-pages';
import type { Pulse, ReportTask } from './session';
import type * as allTasks from './tasks/all';
import type { behind } from './thread';

type NamesIn<Module> = {
  [Name in keyof Module]: Module[Name] extends (task: never) => Promise<unknown> ? Name : never;
}[keyof Module] &
  string;
type AskedBy<Work> = Work extends (task: infer Task) => Promise<unknown> ? Omit<Task, 'port' | 'pulse'> : never;
type AnswerOf<Work> = Work extends (task: never) => Promise<infer Answer> ? Answer : never;

type TaskName = NamesIn<typeof allTasks>;
export type LookName = NamesIn<typeof allLooks>;
/** What a look is asked, but for what the pool adds itself. */
export type LookOf<Name extends LookName> = AskedBy<(typeof allLooks)[Name]>;

/** Worker threads for everything slow: parsing, reading, running steps. */
export interface Pool {
  /**
   * Runs a task in a free thread.
   * @param options.signal nobody waits any more: what has not begun is not done, what has begun ends before its next page or step
   * @param options.progress hears of pages as they are read, from tasks that read
   */
  run<Name extends TaskName>(
    name: Name,
    task: AskedBy<(typeof allTasks)[Name]>,
    options?: { signal?: AbortSignal; progress?: (told: Progress) => void },
  ): Promise<AnswerOf<(typeof allTasks)[Name]>>;
  /** Has a look at a report, in the thread for looks and in the order asked for. */
  look<Name extends LookName>(
    name: Name,
    task: LookOf<Name>,
    options?: { signal?: AbortSignal },
  ): Promise<AnswerOf<(typeof allLooks)[Name]>>;
  /** How many tasks of one folder may run at a time. */
  readonly threads: number;
  /** Once a thread has answered. @throws ThreadsBroken */
  started(): Promise<void>;
  close(): Promise<void>;
}

/** Threads end before they can be asked anything: nothing can be read. */
export class ThreadsBroken extends Error {
  constructor(because: Error) {
    const why = because.message.replace(/\s+/g, ' ').trim();
    super(
      `The threads that read reports cannot be started: ${why}. Build the program anew (npm run build), and see that memory is free.`,
    );
    this.name = 'ThreadsBroken';
  }
}

/**
 * Megabytes that a thread may need before it is ended; the others live on. A report of 400 pages fits into the least; a
 * machine with more memory reads longer ones.
 */
const leastMemory = 512;
const mostMemory = 4096;
const memoryLimit = (threads: number) =>
  Math.round(Math.min(mostMemory, Math.max(leastMemory, totalmem() / 2 ** 21 / threads)));

/** Work that shows no progress for so long, in milliseconds, is ended: a page or a step that never comes to an end. */
const usualPatience = 60_000;

/** Work that stood still: its thread was ended, others go on. */
export class StandsStill extends Error {
  constructor(readonly patience: number) {
    super(`it made no progress for ${Math.round(patience / 1000)} s and was given up`);
    this.name = 'StandsStill';
  }
}

const newPulse = (): Pulse => new Int32Array(new SharedArrayBuffer(12));

/** So many pages of a report may be given up before it is given up as a whole. */
const mostSkipped = 5;

/** Why a page was given up, if that is why the work ended. */
function givenUp(error: unknown): string | undefined {
  if (error instanceof StandsStill) return `no progress was made for ${Math.round(error.patience / 1000)} s`;
  return (error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY'
    ? 'it needs more memory than a thread may have'
    : undefined;
}

/**
 * @param patience how long work may stand still, in milliseconds
 * @param failed told of threads that end without having been asked anything
 */
export function openPool(
  threads = Math.max(1, availableParallelism()),
  patience = usualPatience,
  failed: (error: Error) => void = () => undefined,
): Pool {
  const filename = fileURLToPath(builtThread('work-thread'));
  // One more than work on folders may use: a page to look at never waits for long reports. And one for the looks.
  const resourceLimits = { maxOldGenerationSizeMb: memoryLimit(threads + 2), maxYoungGenerationSizeMb: 96 };
  const execArgv = [...threadFlags];
  const work = new Piscina({
    filename,
    execArgv,
    minThreads: 1,
    maxThreads: threads + 1,
    idleTimeout: 60_000,
    resourceLimits,
    argv: ['behind'] satisfies [typeof behind],
  });
  const bench = new Piscina({ filename, execArgv, minThreads: 0, maxThreads: 1, idleTimeout: 600_000, resourceLimits });
  // What waits for a thread would wait for ever where none can be started.
  const unbegun = new Set<{ readonly pulse: Pulse; readonly fail: (error: Error) => void }>();
  for (const each of [work, bench])
    each.on('error', (error: Error) => {
      failed(error);
      if (each.threads.length > 0) return;
      for (const { pulse, fail } of unbegun) if (Atomics.load(pulse, 1) === 0) fail(new ThreadsBroken(error));
    });
  let closing = false;
  let last: Promise<unknown> = Promise.resolve();
  /** One that is not waited for any more is passed over, or stops before its next step; the thread lives on. */
  function inLine(name: LookName, task: object, signal: AbortSignal | undefined): Promise<never> {
    const run = last.then(() =>
      skipping(task, (attempt, pulse) => {
        signal?.throwIfAborted();
        signal?.addEventListener('abort', () => Atomics.store(pulse, 0, 1), { once: true });
        return watched(pulse, undefined, (own) => bench.run(attempt, { name, signal: own }) as Promise<never>);
      }),
    );
    last = run.catch(() => undefined);
    return run;
  }

  /** Does work on a report. A page that ends its thread, or stands still, is skipped and named in the next attempt; the others are read. */
  async function skipping<T>(task: object, work: (attempt: object, pulse: Pulse) => Promise<T>): Promise<T> {
    const source = 'source' in task ? (task.source as ReportTask) : undefined;
    const skip: SkippedPage[] = [];
    for (;;) {
      const pulse = newPulse();
      try {
        return await work(
          { ...task, pulse, ...(source ? { source: { ...source, skip, patience: patience / 1000 } } : {}) },
          pulse,
        );
      } catch (error) {
        const because = givenUp(error);
        const page = Atomics.load(pulse, 2);
        if (
          because === undefined ||
          !source ||
          page === 0 ||
          skip.length === mostSkipped ||
          skip.some((each) => each.page === page)
        )
          throw error;
        skip.push({ page, because });
      }
    }
  }

  /**
   * Ends the work, and its thread, once it has stood still for too long after it has begun. Who asked for it may leave at any
   * time: what has not begun is taken out of the line, what has begun ends before its next page or step, and its thread lives on
   * with what it keeps.
   */
  async function watched<T>(
    pulse: Pulse,
    signal: AbortSignal | undefined,
    work: (signal: AbortSignal) => Promise<T>,
  ): Promise<T> {
    signal?.throwIfAborted();
    if (closing) throw new Stopping();
    const still = new AbortController();
    const outOfLine = new AbortController();
    let leave: (() => void) | undefined;
    const waiting = { pulse, fail: (_: Error): void => undefined };
    const left = new Promise<never>((_, reject) => {
      waiting.fail = reject;
      unbegun.add(waiting);
      leave = () => {
        Atomics.store(pulse, 0, 1);
        if (Atomics.load(pulse, 1) === 0) outOfLine.abort();
        reject(signal!.reason as Error);
      };
      signal?.addEventListener('abort', leave, { once: true });
    });
    let [seen, since] = [0, performance.now()];
    const timer = setInterval(() => {
      const now = Atomics.load(pulse, 1);
      if (now !== seen || now === 0) [seen, since] = [now, performance.now()];
      else if (performance.now() - since > patience) still.abort();
    }, patience / 20);
    const done = work(AbortSignal.any([still.signal, outOfLine.signal])).finally(() => clearInterval(timer));
    done.catch(() => undefined);
    try {
      return await Promise.race([done, left]);
    } catch (error) {
      // That its thread is ended, or its place in the line, is no fault then.
      if (closing) throw new Stopping();
      throw still.signal.aborted ? new StandsStill(patience) : error;
    } finally {
      unbegun.delete(waiting);
      if (leave) signal?.removeEventListener('abort', leave);
    }
  }

  return {
    threads,
    started: () =>
      watched(newPulse(), undefined, (signal) => work.run({}, { name: 'started' satisfies TaskName, signal })).catch(
        (error: Error) => {
          throw error instanceof ThreadsBroken ? error : new ThreadsBroken(error);
        },
      ),
    look: (name, task, { signal } = {}) => inLine(name, task, signal),
    async run(name, task, { signal, progress } = {}) {
      return skipping(task, async (attempt, pulse) => {
        if (!progress) return watched(pulse, signal, (own) => work.run(attempt, { name, signal: own }));
        const { port1, port2 } = new MessageChannel();
        port1.on('message', progress);
        try {
          return await watched(pulse, signal, (own) =>
            work.run({ ...attempt, port: port2 }, { name, signal: own, transferList: [port2] }),
          );
        } finally {
          port1.close();
        }
      });
    },
    close: async () => {
      closing = true;
      await Promise.all([work.destroy(), bench.destroy()]);
    },
  };
}
