import { availableParallelism, totalmem } from 'node:os';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { builtThread } from '../setup/built';
import * as looks from './looks/all';
import type { Progress } from './progress';
import type * as thread from './thread';

type Tasks = typeof thread;
export type TaskName = { [Name in keyof Tasks]: Tasks[Name] extends (task: never) => Promise<unknown> ? Name : never }[keyof Tasks];

/** What a task or look is asked, but for what the pool adds itself. */
export type TaskOf<Name extends TaskName> = Omit<Parameters<Tasks[Name]>[0], 'port' | 'stale'>;

/** Worker threads for everything slow: parsing, reading, running steps. */
export interface Pool {
  /**
   * Runs a task in a free thread.
   * @param options.signal ends the task at once, and its thread with it; a look ends before its next step
   * @param options.progress hears of pages as they are read, from tasks that read
   */
  run<Name extends TaskName>(
    name: Name,
    task: TaskOf<Name>,
    options?: { signal?: AbortSignal; progress?: (told: Progress) => void },
  ): Promise<Awaited<ReturnType<Tasks[Name]>>>;
  /** How many tasks of one folder may run at a time. */
  readonly threads: number;
  close(): Promise<void>;
}

/**
 * Megabytes that a thread may need before it is ended; the others live on. A report of 400 pages fits into the least; a
 * machine with more memory reads longer ones.
 */
const leastMemory = 512;
const mostMemory = 4096;
const memoryLimit = (threads: number) => Math.round(Math.min(mostMemory, Math.max(leastMemory, totalmem() / 2 ** 21 / threads)));

export function openPool(threads = Math.max(1, availableParallelism())): Pool {
  const filename = fileURLToPath(builtThread('work-thread'));
  // One more than work on folders may use: a page to look at never waits for long reports. And one for the looks.
  const resourceLimits = { maxOldGenerationSizeMb: memoryLimit(threads + 2), maxYoungGenerationSizeMb: 96 };
  const work = new Piscina({ filename, minThreads: 1, maxThreads: threads + 1, idleTimeout: 60_000, resourceLimits });
  const bench = new Piscina({ filename, minThreads: 0, maxThreads: 1, idleTimeout: 600_000, resourceLimits });
  let last: Promise<unknown> = Promise.resolve();
  /** In the order asked for. One that is not waited for any more is passed over, or stops before its next step; the thread lives on. */
  function inLine(name: TaskName, task: object, signal: AbortSignal | undefined): Promise<never> {
    const stale = new Int32Array(new SharedArrayBuffer(4));
    signal?.addEventListener('abort', () => Atomics.store(stale, 0, 1), { once: true });
    const run = last.then(() => {
      signal?.throwIfAborted();
      return bench.run({ ...task, stale }, { name }) as Promise<never>;
    });
    last = run.catch(() => undefined);
    return run;
  }
  return {
    threads,
    async run(name, task, { signal, progress } = {}) {
      if (name in looks) return inLine(name, task, signal);
      if (!progress) return work.run(task, { name, signal });
      const { port1, port2 } = new MessageChannel();
      port1.on('message', progress);
      try {
        return await work.run({ ...task, port: port2 }, { name, signal, transferList: [port2] });
      } finally {
        port1.close();
      }
    },
    close: async () => {
      await Promise.all([work.destroy(), bench.destroy()]);
    },
  };
}
