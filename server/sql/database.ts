import { rm } from 'node:fs/promises';
import { Worker } from 'node:worker_threads';
import { builtThread } from '../setup/built';
import { threadFlags } from '../setup/engine';
import type { Unnumbered } from '../setup/numbered';
import type { Asked, Told } from './thread';

interface Waiting {
  readonly piece: (piece: Uint8Array) => void;
  readonly resolve: (rows: unknown[]) => void;
  readonly reject: (error: Error) => void;
}

/** The statement was ended before it was done, and with it the thread. */
export class Ended extends Error {}

/** The tables in their thread; after one was ended another is opened over the same folder. */
export class Database {
  private thread: Promise<Worker> | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 1;
  /** Counts the threads: what a session had set or prepared in one before is gone. */
  generation = 0;

  private ending: Promise<unknown> = Promise.resolve();

  /** @param folder left out: in memory @param emptied told when what was there could not be opened any more */
  constructor(
    private readonly folder: string | undefined,
    private readonly emptied: () => void,
  ) {}

  /** Runs messages of the protocol, telling the answer in pieces. @throws Ended */
  async talk(messages: Uint8Array, piece: (piece: Uint8Array) => void): Promise<void> {
    try {
      await this.ask({ messages }, piece);
    } catch (error) {
      // Faults in statements are answered in messages; this one the thread did not stand.
      if (!(error instanceof Ended)) this.end('');
      throw error instanceof Ended
        ? error
        : new Ended('The database could not stand this statement, and was opened anew.');
    }
  }

  async script(script: string): Promise<void> {
    await this.ask({ script });
  }

  async rows<T>(rows: string): Promise<T[]> {
    return (await this.ask({ rows })) as T[];
  }

  async load(into: string, csv: Uint8Array): Promise<void> {
    await this.ask({ into, csv });
  }

  /** Ends what runs now. */
  end(because: string): void {
    const thread = this.thread;
    this.thread = undefined;
    this.generation++;
    // Two threads must never have one folder.
    this.ending = this.ending.then(async () => (await thread)?.terminate()).catch(() => undefined);
    for (const { reject } of this.waiting.values()) reject(new Ended(because));
    this.waiting.clear();
  }

  private async ask(
    question: Unnumbered<Asked>,
    piece: (piece: Uint8Array) => void = () => undefined,
  ): Promise<unknown[]> {
    const thread = await (this.thread ??= this.opened());
    return new Promise((resolve, reject) => {
      const id = this.next++;
      this.waiting.set(id, { piece, resolve, reject });
      thread.postMessage({ id, ...question });
    });
  }

  private async opened(): Promise<Worker> {
    await this.ending;
    try {
      return await this.open();
    } catch {
      // Nothing is in it that the house does not have.
      if (this.folder) await rm(this.folder, { recursive: true, force: true });
      this.emptied();
      return this.open();
    }
  }

  private open(): Promise<Worker> {
    return new Promise((resolve, reject) => {
      const thread = new Worker(builtThread('sql-thread'), {
        execArgv: [...threadFlags],
        workerData: { folder: this.folder },
      });
      thread.on('message', (told: Told) => {
        if ('ready' in told) return resolve(thread);
        const asker = this.waiting.get(told.id);
        if ('piece' in told) return asker?.piece(told.piece);
        this.waiting.delete(told.id);
        if ('failed' in told) asker?.reject(new Error(told.failed));
        else asker?.resolve(told.rows);
      });
      const gone = (error: Error) => {
        reject(error);
        this.thread?.then(
          (current) => {
            if (current === thread) this.end(error.message);
          },
          () => (this.thread = undefined),
        );
      };
      thread.on('error', gone);
      thread.on('exit', () => gone(new Error('The database has ended.')));
    });
  }
}
