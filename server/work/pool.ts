import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { builtThread } from '../built';
import type * as thread from './thread';
import type { Progress } from './thread';

type Tasks = typeof thread;
export type TaskName = { [Name in keyof Tasks]: Tasks[Name] extends (task: never) => Promise<unknown> ? Name : never }[keyof Tasks];

/** Worker threads for everything slow: parsing, reading, running steps. */
export interface Pool {
  /**
   * Runs a task in a free thread.
   * @param options.signal ends the task, and its thread, at once
   * @param options.progress hears of pages as they are read, from tasks that read
   */
  run<Name extends TaskName>(
    name: Name,
    task: Omit<Parameters<Tasks[Name]>[0], 'port'>,
    options?: { signal?: AbortSignal; progress?: (told: Progress) => void },
  ): Promise<Awaited<ReturnType<Tasks[Name]>>>;
  /** How many tasks of one folder may run at a time. */
  readonly threads: number;
  close(): Promise<void>;
}

/** A thread that needs more than this many megabytes is ended; the others live on. */
const memoryLimit = 512;

export function openPool(threads = Math.max(1, availableParallelism())): Pool {
  const piscina = new Piscina({
    filename: fileURLToPath(builtThread('work-thread')),
    minThreads: 1,
    // One more than work on folders may use: a look at a page never waits for long reports.
    maxThreads: threads + 1,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: memoryLimit, maxYoungGenerationSizeMb: 96 },
  });
  return {
    threads,
    async run(name, task, { signal, progress } = {}) {
      if (!progress) return piscina.run(task, { name, signal });
      const { port1, port2 } = new MessageChannel();
      port1.on('message', progress);
      try {
        return await piscina.run({ ...task, port: port2 }, { name, signal, transferList: [port2] });
      } finally {
        port1.close();
      }
    },
    close: () => piscina.destroy(),
  };
}
