// Runs the embedded database in a thread of its own: a statement of seconds must not stop the server's event loop.
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite, types } from '@electric-sql/pglite';
import { emptyDatabase } from './empty-database';

/** Where the database lies; in memory only where no folder is named. */
export interface Place {
  readonly dataDir?: string | undefined;
  /** Whether a database may be made where there is none. */
  readonly begin: boolean;
}

/** What the store asks of this thread, and the answers. */
export type Request =
  | { id: number; op: 'query'; sql: string; params: unknown[] }
  | { id: number; op: 'script'; sql: string }
  | { id: number; op: 'copyIn'; sql: string; csv: string }
  | { id: number; op: 'copyOut'; sql: string }
  | { id: number; op: 'listen' | 'unlisten'; channel: string }
  | { id: number; op: 'close' };
export type Answer =
  | { id: number; rows?: unknown[]; affected?: number; bytes?: Uint8Array; error?: { message: string; code?: string } }
  | { heard: string; payload: string }
  | { ready: true }
  | { broken: string };

const asText = (text: string) => text;
// Exact or calendar values must never become floats or Date objects.
const exact = [types.NUMERIC, types.INT8, types.DATE, types.TIMESTAMP, types.TIMESTAMPTZ, types.INTERVAL, 1231];
const { dataDir, begin } = workerData as Place;
const port = parentPort!;

async function opened(): Promise<PGlite> {
  const loadDataDir = emptyDatabase(dataDir);
  if (dataDir !== undefined && loadDataDir && !begin) throw new Error(`its files in ${dataDir} are gone.`);
  return PGlite.create({ dataDir, loadDataDir, parsers: Object.fromEntries(exact.map((oid) => [oid, asText])) });
}

const db = await opened().catch((error: Error) => {
  port.postMessage({ broken: error.message } satisfies Answer);
  throw error;
});
const listening = new Map<string, () => Promise<void>>();

async function answer(request: Request): Promise<Omit<Extract<Answer, { id: number }>, 'id'>> {
  switch (request.op) {
    case 'query': {
      const result = await db.query(request.sql, request.params);
      return { rows: result.rows, affected: result.affectedRows ?? 0 };
    }
    case 'script':
      await db.exec(request.sql);
      return {};
    case 'copyIn':
      await db.query(request.sql, [], { blob: new Blob([request.csv]) });
      return {};
    case 'copyOut': {
      const result = await db.query(request.sql);
      return { bytes: new Uint8Array((await result.blob?.arrayBuffer()) ?? new ArrayBuffer(0)) };
    }
    case 'listen':
      listening.set(
        request.channel,
        await db.listen(request.channel, (payload) =>
          port.postMessage({ heard: request.channel, payload } satisfies Answer),
        ),
      );
      return {};
    case 'unlisten':
      await listening.get(request.channel)?.();
      listening.delete(request.channel);
      return {};
    case 'close':
      await db.close();
      return {};
  }
}

// One request at a time, in the order they came.
let last: Promise<void> = Promise.resolve();
port.on('message', (request: Request) => {
  last = last.then(async () => {
    try {
      port.postMessage({ id: request.id, ...(await answer(request)) } satisfies Answer);
    } catch (error) {
      const { message, code } = error as { message: string; code?: string };
      port.postMessage({ id: request.id, error: { message, code } } satisfies Answer);
      // The database has stopped in the middle of something: nothing that it says from now on can be trusted.
      if (error instanceof WebAssembly.RuntimeError || message.startsWith('Aborted(')) process.exit(1);
    }
    if (request.op === 'close') port.close();
  });
});
port.postMessage({ ready: true } satisfies Answer);
