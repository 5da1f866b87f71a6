import { Worker } from 'node:worker_threads';
import { builtThread } from '../setup/built';
import { threadFlags } from '../setup/engine';
import type { Unnumbered } from '../setup/numbered';
import type { Answer, Place, Request } from './pglite-thread';
import { DatabaseEnded, StoreError } from './store';

export type Asked = Unnumbered<Request>;
export type Told = Extract<Answer, { id: number }>;

interface Waiting {
  readonly resolve: (told: Told) => void;
  readonly reject: (error: Error) => void;
}

/** Who is told what the database tells by itself. */
export interface Hears {
  readonly heard: (channel: string, payload: string) => void;
  /** The thread has ended, or was given up. */
  readonly ended: (error: Error) => void;
}

/** The thread in which the embedded database runs, over one folder; another may be opened once it has ended. */
export class DatabaseThread {
  private readonly waiting = new Map<number, Waiting>();
  private next = 1;
  private gone: Error | undefined;

  private constructor(
    private readonly worker: Worker,
    private readonly patience: number,
    private readonly hears: Hears,
  ) {
    worker.on('message', (message: Answer) => {
      if ('heard' in message) this.hears.heard(message.heard, message.payload);
      if ('id' in message) this.answered(message);
      if ('broken' in message) this.end(new Error(message.broken));
    });
    worker.on('error', (error: Error) => this.end(error));
    worker.on('exit', () => this.end(new DatabaseEnded('The database has ended.')));
  }

  /**
   * @param patience how long a statement may take, in milliseconds, before the thread is given up
   * @throws Error when the database cannot be opened
   */
  static open({ dataDir, begin }: Place, patience: number, hears: Hears): Promise<DatabaseThread> {
    const worker = new Worker(builtThread('pglite-thread'), {
      execArgv: [...threadFlags],
      workerData: { dataDir, begin } satisfies Place,
    });
    return new Promise((resolve, reject) => {
      let opened = false;
      const ended = (error: Error) => {
        if (opened) hears.ended(error);
        else void worker.terminate().then(() => reject(error));
      };
      const thread = new DatabaseThread(worker, patience, { heard: hears.heard, ended });
      worker.on('message', (message: Answer) => {
        if (!('ready' in message)) return;
        opened = true;
        resolve(thread);
      });
    });
  }

  ask(asked: Asked): Promise<Told> {
    return new Promise<Told>((resolve, reject) => {
      if (this.gone) return reject(this.gone);
      const id = this.next++;
      const timer = setTimeout(() => this.giveUp(), this.patience).unref();
      const settled =
        <T>(settle: (value: T) => void) =>
        (value: T) => {
          clearTimeout(timer);
          settle(value);
        };
      this.waiting.set(id, { resolve: settled(resolve), reject: settled(reject) });
      this.worker.postMessage({ id, ...asked });
    });
  }

  async close(): Promise<void> {
    if (!this.gone) await this.ask({ op: 'close' });
    this.gone ??= new StoreError('The database is closed.');
    await this.terminate();
  }

  /** Two threads must never have one folder: resolves once this one has let it go. */
  async terminate(): Promise<void> {
    await this.worker.terminate();
  }

  private answered(message: Told): void {
    const asked = this.waiting.get(message.id);
    this.waiting.delete(message.id);
    if (message.error) asked?.reject(new StoreError(message.error.message, message.error.code));
    else asked?.resolve(message);
  }

  private giveUp(): void {
    const seconds = Math.round(this.patience / 1000);
    this.end(new DatabaseEnded(`The database did not answer for ${seconds} s and was given up.`));
  }

  /** Told before those who wait are, so that what they ask next is asked of the next thread. */
  private end(error: Error): void {
    if (this.gone) return;
    this.gone = error;
    this.hears.ended(error);
    for (const { reject } of this.waiting.values()) reject(error);
    this.waiting.clear();
  }
}
