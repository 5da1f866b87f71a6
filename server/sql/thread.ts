// Holds the tables that other programs look into, in a thread of its own: a statement that takes too long is ended with the thread.
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';
import { emptyDatabase } from '../store/empty-database';
import { prepareDatabase } from './prepared';

export type Asked =
  /** Messages of the protocol, answered in pieces. */
  | { id: number; messages: Uint8Array }
  /** Statements of the house itself, with its rights. */
  | { id: number; script: string }
  | { id: number; rows: string }
  | { id: number; into: string; csv: Uint8Array };
export type Told =
  | { ready: true }
  | { id: number; piece: Uint8Array }
  | { id: number; rows: unknown[] }
  | { id: number; failed: string };

const port = parentPort!;
const { folder } = workerData as { folder?: string };
const db = await PGlite.create({ dataDir: folder, loadDataDir: emptyDatabase(folder) });
await prepareDatabase(db);

async function answer(asked: Asked): Promise<unknown[]> {
  if ('messages' in asked) {
    await db.execProtocolRawStream(asked.messages, {
      syncToFs: false,
      onRawData: (data) => port.postMessage({ id: asked.id, piece: data.slice() } satisfies Told),
    });
    return [];
  }
  if ('script' in asked) await db.exec(asked.script);
  else if ('into' in asked)
    await db.query(`copy ${asked.into} from '/dev/blob' with (format csv)`, [], {
      blob: new Blob([asked.csv as Uint8Array<ArrayBuffer>]),
    });
  else return (await db.query(asked.rows)).rows;
  return [];
}

let last: Promise<void> = Promise.resolve();
port.on('message', (asked: Asked) => {
  last = last.then(async () => {
    try {
      port.postMessage({ id: asked.id, rows: await answer(asked) } satisfies Told);
    } catch (error) {
      port.postMessage({ id: asked.id, failed: (error as Error).message } satisfies Told);
    }
  });
});
port.postMessage({ ready: true } satisfies Told);
