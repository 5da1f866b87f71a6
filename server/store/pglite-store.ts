import { databaseIn } from '../setup/config';
import { DatabaseThread, type Asked } from './database-thread';
import { DataFolderRefused, entered, folderTrouble, moveAside, notOpened, roomIn } from './data-folder';
import { lockFolder } from './lock';
import { quoted, type Param, type Session, type Store } from './store';
import { Turns } from './turns';

/** Milliseconds that one statement may take before the database is given up and started again. */
const usualPatience = 600_000;

/** So often within so many milliseconds the database is started again; then it is lost. */
const [mostStarts, startsWithin] = [3, 60_000];

export interface PgliteOptions {
  /** A folder without a whole database is begun anew, and what is there moved aside. */
  readonly beginAnew?: boolean | undefined;
  /** Told what was done with the folder. */
  readonly told?: ((sentence: string) => void) | undefined;
  /** How long one statement may take, in milliseconds. */
  readonly patience?: number | undefined;
  /** The database's thread has ended: it was started again, or (`for good`) it could not be. */
  readonly ended?: ((error: Error, forGood: boolean) => void) | undefined;
}

/**
 * Opens the embedded database.
 * @param folder the data folder, locked until closed; left out: in memory only
 * @throws FolderInUse when another process has the folder
 * @throws DataFolderRefused when there is no whole database where there was one
 * @throws Error when it cannot be used for other reasons
 */
export async function openPglite(folder?: string, options: PgliteOptions = {}): Promise<Store> {
  if (folder === undefined) return storeOf(await Threads.open(undefined, options), async () => undefined);
  const unlock = await lockFolder(folder).catch((error) => Promise.reject(folderTrouble(folder, error)));
  try {
    return storeOf(await threadsIn(folder, options), unlock);
  } catch (error) {
    await unlock();
    throw folderTrouble(folder, error);
  }
}

async function threadsIn(folder: string, { beginAnew, ...options }: PgliteOptions): Promise<Threads> {
  await roomIn(folder);
  try {
    const opened = await entered(folder);
    const threads = await Threads.open(databaseIn(folder), options).catch(async (error: Error) => {
      throw await notOpened(folder, error);
    });
    await opened();
    return threads;
  } catch (error) {
    if (!beginAnew || !(error instanceof DataFolderRefused)) throw error;
    options.told?.(`${error.message} As --begin-anew was given, what was there is in ${await moveAside(folder)} now.`);
    return threadsIn(folder, options);
  }
}

function storeOf(threads: Threads, unlock: () => Promise<void>): Store {
  const turns = new Turns();
  const inTurn = <T>(work: () => Promise<T>) => turns.take(work);
  const shared = {
    listen: async (channel: string, heard: (payload: string) => void) => {
      if (threads.hear(channel, heard)) await inTurn(() => threads.ask({ op: 'listen', channel }));
      return async () => {
        if (threads.hearNoMore(channel, heard)) await inTurn(() => threads.ask({ op: 'unlisten', channel }));
      };
    },
    notify: async (channel: string, payload: string) =>
      void (await inTurn(() =>
        threads.ask({ op: 'query', sql: 'select pg_notify($1, $2)', params: [channel, payload] }),
      )),
    close: async () => {
      await turns.idle();
      await inTurn(() => threads.close());
      await unlock();
    },
  };
  const patient: Store = {
    ...talking(threads, turns, true),
    ...shared,
    get patient() {
      return patient;
    },
  };
  return { ...talking(threads, turns, false), ...shared, patient };
}

/** The thread of the database, and the next one where it ends by itself. */
class Threads {
  private thread!: DatabaseThread;
  private readonly ears = new Map<string, Set<(payload: string) => void>>();
  private starts: number[] = [];
  private starting: Promise<void> = Promise.resolve();
  private closed = false;
  private lost: Error | undefined;

  private constructor(
    private readonly dataDir: string | undefined,
    private readonly options: PgliteOptions,
  ) {}

  static async open(dataDir: string | undefined, options: PgliteOptions): Promise<Threads> {
    const threads = new Threads(dataDir, options);
    await threads.start(true);
    return threads;
  }

  private async start(begin: boolean): Promise<void> {
    this.thread = await DatabaseThread.open({ dataDir: this.dataDir, begin }, this.options.patience ?? usualPatience, {
      heard: (channel, payload) => this.ears.get(channel)?.forEach((heard) => heard(payload)),
      ended: (error) => {
        if (!this.closed) this.starting = this.again(error);
      },
    });
    for (const channel of this.ears.keys()) await this.thread.ask({ op: 'listen', channel });
  }

  /** What was written stands in the folder; what only memory held is lost with its thread. */
  private async again(error: Error): Promise<void> {
    const now = performance.now();
    this.starts = [...this.starts.filter((at) => now - at < startsWithin), now];
    try {
      await this.thread.terminate();
      if (this.dataDir === undefined || this.starts.length > mostStarts) throw error;
      await this.start(false);
      this.options.ended?.(error, false);
    } catch (failure) {
      this.lost = failure as Error;
      this.options.ended?.(this.lost, true);
    }
  }

  /** The thread as it is now: a transaction stays with the one that it began in. */
  async current(): Promise<DatabaseThread> {
    await this.starting;
    if (this.lost) throw this.lost;
    return this.thread;
  }

  async ask(asked: Asked) {
    return (await this.current()).ask(asked);
  }

  /** @returns whether nobody listened there before */
  hear(channel: string, heard: (payload: string) => void): boolean {
    const own = this.ears.get(channel) ?? new Set();
    this.ears.set(channel, own.add(heard));
    return own.size === 1;
  }

  /** @returns whether nobody listens there any more */
  hearNoMore(channel: string, heard: (payload: string) => void): boolean {
    const own = this.ears.get(channel);
    own?.delete(heard);
    return own?.size === 0 && this.ears.delete(channel);
  }

  async close(): Promise<void> {
    this.closed = true;
    await this.starting;
    await this.thread.close().catch(() => undefined);
  }
}

/** Statements asked of one thread. */
function sessionOf(ask: (asked: Asked) => ReturnType<DatabaseThread['ask']>): Session {
  return {
    query: async <T>(sql: string, params: readonly Param[] = []) =>
      (await ask({ op: 'query', sql, params: [...params] })).rows as T[],
    execute: async (sql, params = []) => (await ask({ op: 'query', sql, params: [...params] })).affected ?? 0,
    script: async (sql) => void (await ask({ op: 'script', sql })),
    copyIn: async (table, columns, csv) => {
      const into = `${quoted(table)} (${columns.map(quoted).join(', ')})`;
      await ask({ op: 'copyIn', sql: `copy ${into} from '/dev/blob' with (format csv)`, csv });
    },
    copyOut: async (query, { separator = ',', quoteAll = false, escaped = false } = {}) => {
      const csv = `format csv, delimiter '${separator.replaceAll("'", "''")}'${quoteAll ? ', force_quote *' : ''}`;
      const how = escaped ? 'format text' : csv;
      const { bytes } = await ask({ op: 'copyOut', sql: `copy (${query}) to '/dev/blob' with (${how})` });
      return bytes ?? new Uint8Array();
    },
  };
}

/** Each statement in a turn of its own; a transaction holds its turn over all of its statements. */
function talking(threads: Threads, turns: Turns, patient: boolean): Session & Pick<Store, 'transaction'> {
  const session = sessionOf((asked) => threads.ask(asked));
  const each =
    <Args extends unknown[], T>(call: (...args: Args) => Promise<T>) =>
    (...args: Args) =>
      turns.take(() => call(...args), patient);
  return {
    query: each(session.query) as Session['query'],
    execute: each(session.execute),
    script: each(session.script),
    copyIn: each(session.copyIn),
    copyOut: each(session.copyOut),
    transaction: (work) => turns.take(async () => inTransaction(await threads.current(), work), patient),
  };
}

async function inTransaction<T>(thread: DatabaseThread, work: (session: Session) => Promise<T>): Promise<T> {
  const session = sessionOf((asked) => thread.ask(asked));
  await session.script('begin');
  try {
    const result = await work(session);
    await session.script('commit');
    return result;
  } catch (error) {
    await session.script('rollback').catch(() => undefined);
    throw error;
  }
}
