import { setFlagsFromString } from 'node:v8';
import { Worker } from 'node:worker_threads';
import { builtThread } from '../setup/built';
import { threadFlags } from '../setup/engine';
import type { Unnumbered } from '../setup/numbered';
import { lockFolder } from './lock';
import type { Answer, Request } from './pglite-thread';
import { quoted, StoreError, type Param, type Session, type Store } from './store';
import { Turns } from './turns';

// The database's code is compiled quickly first, and a function again, better and slowly, once it has worked this much (in
// about bytes). The engine's own measure is reached by half of the code while the database starts, to no use.
setFlagsFromString('--wasm-tiering-budget=100000000');

type Asked = Unnumbered<Request>;
type Told = Extract<Answer, { id: number }>;

/**
 * Opens the embedded database.
 * @param folder where it lives, locked until closed; left out: in memory only
 * @throws FolderInUse when another process has the folder
 */
export async function openPglite(folder?: string): Promise<Store> {
  const unlock = folder === undefined ? undefined : await lockFolder(folder);
  const worker = new Worker(builtThread('pglite-thread'), { execArgv: [...threadFlags], workerData: { dataDir: folder === undefined ? undefined : `${folder}/database` } });
  const waiting = new Map<number, { resolve(told: Told): void; reject(error: Error): void }>();
  const ears = new Map<string, Set<(payload: string) => void>>();
  let next = 1;
  let gone: Error | undefined;

  const ready = new Promise<void>((resolve, reject) => {
    worker.on('message', (message: Answer) => {
      if ('ready' in message) return resolve();
      if ('heard' in message) return ears.get(message.heard)?.forEach((heard) => heard(message.payload));
      const asked = waiting.get(message.id);
      waiting.delete(message.id);
      if (message.error) asked?.reject(new StoreError(message.error.message, message.error.code));
      else asked?.resolve(message);
    });
    const fail = (error: Error) => {
      gone ??= error;
      reject(error);
      for (const { reject: rejectAsked } of waiting.values()) rejectAsked(error);
      waiting.clear();
    };
    worker.on('error', fail);
    worker.on('exit', () => fail(new StoreError('The database is closed.')));
  });
  try {
    await ready;
  } catch (error) {
    await unlock?.();
    throw error;
  }

  const ask = (asked: Asked) =>
    new Promise<Told>((resolve, reject) => {
      if (gone) return reject(gone);
      const id = next++;
      waiting.set(id, { resolve, reject });
      worker.postMessage({ id, ...asked });
    });

  // Whoever holds the turn talks alone; a transaction holds it over all its statements.
  const turns = new Turns();

  const session: Session = {
    query: async <T>(sql: string, params: readonly Param[] = []) => (await ask({ op: 'query', sql, params: [...params] })).rows as T[],
    execute: async (sql, params = []) => (await ask({ op: 'query', sql, params: [...params] })).affected ?? 0,
    script: async (sql) => void (await ask({ op: 'script', sql })),
    copyIn: async (table, columns, csv) =>
      void (await ask({ op: 'copyIn', sql: `copy ${quoted(table)} (${columns.map(quoted).join(', ')}) from '/dev/blob' with (format csv)`, csv })),
    copyOut: async (query, { separator = ',', quoteAll = false } = {}) => (await ask({ op: 'copyOut', sql: `copy (${query}) to '/dev/blob' with (format csv, delimiter '${separator.replaceAll("'", "''")}'${quoteAll ? ', force_quote *' : ''})` })).bytes!,
  };
  const inTurn = <T>(work: () => Promise<T>) => turns.take(work);
  const talking = (patient: boolean): Session & Pick<Store, 'transaction'> => {
    const each = <Args extends unknown[], T>(call: (...args: Args) => Promise<T>) => (...args: Args) => turns.take(() => call(...args), patient);
    return {
      query: each(session.query) as Session['query'],
      execute: each(session.execute),
      script: each(session.script),
      copyIn: each(session.copyIn),
      copyOut: each(session.copyOut),
      transaction: (work) =>
        turns.take(async () => {
          await session.script('begin');
          try {
            const result = await work(session);
            await session.script('commit');
            return result;
          } catch (error) {
            await session.script('rollback').catch(() => undefined);
            throw error;
          }
        }, patient),
    };
  };

  const shared: Omit<Store, keyof Session | 'transaction' | 'patient'> = {
    listen: async (channel, heard) => {
      const own = ears.get(channel) ?? new Set();
      ears.set(channel, own.add(heard));
      if (own.size === 1) await inTurn(() => ask({ op: 'listen', channel }));
      return async () => {
        own.delete(heard);
        if (own.size === 0) {
          ears.delete(channel);
          await inTurn(() => ask({ op: 'unlisten', channel }));
        }
      };
    },
    notify: async (channel, payload) => void (await inTurn(() => session.query('select pg_notify($1, $2)', [channel, payload]))),
    close: async () => {
      await turns.idle();
      await inTurn(async () => {
        if (!gone) await ask({ op: 'close' });
        gone ??= new StoreError('The database is closed.');
        await worker.terminate();
        await unlock?.();
      });
    },
  };
  const patient: Store = {
    ...talking(true),
    ...shared,
    get patient() {
      return patient;
    },
  };
  return { ...talking(false), ...shared, patient };
}
