import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { builtThread } from '../built';
import type * as thread from './thread';

type Tasks = typeof thread;
export type TaskName = { [Name in keyof Tasks]: Tasks[Name] extends (task: never) => Promise<unknown> ? Name : never }[keyof Tasks];

/** Worker threads for everything slow: parsing, reading, running steps. */
export interface Pool {
  /**
   * Runs a task in a free thread.
   * @param options.signal ends the task, and its thread, at once
   * @param options.progress hears pages done and in all, from tasks that read
   */
  run<Name extends TaskName>(
    name: Name,
    task: Omit<Parameters<Tasks[Name]>[0], 'port'>,
    options?: { signal?: AbortSignal; progress?: (done: number, total: number) => void },
  ): Promise<Awaited<ReturnType<Tasks[Name]>>>;
  readonly threads: number;
  close(): Promise<void>;
}

/** A thread that needs more than this many megabytes is ended; the others live on. */
const memoryLimit = 1024;

export function openPool(threads = Math.max(1, availableParallelism())): Pool {
  const piscina = new Piscina({
    filename: fileURLToPath(builtThread('work-thread')),
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: memoryLimit },
  });
  return {
    threads,
    async run(name, task, { signal, progress } = {}) {
      if (!progress) return piscina.run(task, { name, signal });
      const { port1, port2 } = new MessageChannel();
      port1.on('message', ({ done, total }: { done: number; total: number }) => progress(done, total));
      try {
        return await piscina.run({ ...task, port: port2 }, { name, signal, transferList: [port2] });
      } finally {
        port1.close();
      }
    },
    close: () => piscina.destroy(),
  };
}
