import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { app } from '../api/app';
import { cacheIn, droppedIn, sqlIn, type Config, type SqlConfig } from '../setup/config';
import { folderTrouble } from '../store/data-folder';
import { ownKey } from './key';
import { openHouse, type House } from './open';
import { readFile } from 'node:fs/promises';
import { SqlSnapshot } from '../sql/snapshot';

/** How long requests under way may take to end once the server is asked to stop, in milliseconds. */
const patience = 3000;

/** A server that is running. */
export interface Serving {
  readonly url: string;
  /** What its owner sends with every request; a browser is given it once, as `?key=...` behind the address. */
  readonly key: string;
  /** Where the published datasets can be queried with SQL. */
  readonly sql?: { readonly host: string; readonly port: number };
  /** Resolves when the database is lost for good, with why: nothing can be answered any more. */
  readonly lost: Promise<Error>;
  /** Stops it gracefully. */
  stop(): Promise<void>;
}

/**
 * Starts the server.
 * @throws FolderInUse
 * @throws DataFolderRefused
 */
export async function serve(config: Config): Promise<Serving> {
  const log = pino({ level: config.logLevel }, pino.destination(2));
  const failed = (error: Error) => log.error(error);
  const roots = [...config.roots, droppedIn(config.data)];
  let lose: (error: Error) => void = failed;
  const lost = new Promise<Error>((resolve) => (lose = resolve));
  const house = await openHouse(config.data, cacheIn(config.data), {
    failed,
    lost: (error) => lose(error),
    told: (sentence) => log.warn(sentence),
    beginAnew: config.beginAnew,
    roots,
    patience: config.patience,
    cacheLimit: config.cacheLimit,
  });
  let sql: SqlSnapshot | undefined;
  try {
    const key = await ownKey(config.data);
    const server = createServer(app({ ...house, key, config: { ...config, roots }, log, sql: () => sql }));
    sql = config.sql && (await openSql(house, config.data, config.sql, failed));
    server.listen(config.port, config.host);
    await once(server, 'listening');
    // What a killed process left unfinished goes on by itself.
    for (const pipeline of house.interrupted) await house.runs.start(pipeline);
    const address = sql && config.sql ? { sql: { host: config.sql.host, port: sql.port } } : {};
    const url = `http://${config.host}:${(server.address() as AddressInfo).port}/`;
    return { url, key, ...address, stop: stopOnce(server, house, sql), lost };
  } catch (error) {
    await sql?.close();
    await house.close();
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'EADDRINUSE')
      throw new Error(`Port ${config.port} is taken by another program. Choose another with --port.`);
    if (code === 'EACCES' && (error as NodeJS.ErrnoException).syscall === 'listen')
      throw new Error(`Port ${config.port} may not be used by this user. Choose one above 1023 with --port.`);
    throw folderTrouble(config.data, error);
  }
}

function stopOnce(server: Server, house: House, sql: SqlSnapshot | undefined): () => Promise<void> {
  let stopping: Promise<void> | undefined;
  return () =>
    (stopping ??= (async () => {
      const closed = once(server, 'close');
      server.close();
      server.closeIdleConnections();
      const late = setTimeout(() => server.closeAllConnections(), patience);
      await sql?.close();
      await house.close();
      await closed;
      clearTimeout(late);
    })());
}

/** @throws Error when its port is taken, or its certificate is none */
async function openSql(
  { store, runs }: House,
  data: string,
  { host, port, tls, limit }: SqlConfig,
  failed: (error: Error) => void,
): Promise<SqlSnapshot> {
  const pem = (path: string) =>
    readFile(path, 'utf8').catch((error: Error) => {
      throw new Error(`The certificate cannot be read: ${error.message}.`);
    });
  const secured = tls && { cert: await pem(tls.cert), key: await pem(tls.key) };
  try {
    const sql = await SqlSnapshot.open(
      store,
      { folder: sqlIn(data), host, port, tls: secured, limit },
      (publication, work) => runs.reading(publication, work),
      failed,
    );
    runs.onEnded(() => void sql.follow());
    return sql;
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException;
    if (code === 'EADDRINUSE')
      throw new Error(`Port ${port} is taken by another program. Choose another with --sql-port.`);
    throw new Error(`SQL cannot be served at ${host}: ${message}`);
  }
}
