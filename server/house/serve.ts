import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { app } from '../api/app';
import { cacheIn, droppedIn, type Config } from '../setup/config';
import { ownKey } from './key';
import { openHouse } from './open';

/** How long requests under way may take to end once the server is asked to stop, in milliseconds. */
const patience = 3000;

/** A server that is running. */
export interface Serving {
  readonly url: string;
  /** What its owner sends with every request; a browser is given it once, as `?key=...` behind the address. */
  readonly key: string;
  /** Stops it gracefully. */
  stop(): Promise<void>;
}

/**
 * Starts the server.
 * @throws FolderInUse
 */
export async function serve(config: Config): Promise<Serving> {
  const log = pino({ level: config.logLevel }, pino.destination(2));
  const roots = [...config.roots, droppedIn(config.data)];
  const house = await openHouse(config.data, cacheIn(config.data), { failed: (error) => log.error(error), told: (sentence) => log.warn(sentence), roots, patience: config.patience });
  const key = await ownKey(config.data);
  const server = createServer(app({ ...house, key, config: { ...config, roots }, log }));
  server.listen(config.port, config.host);
  try {
    await once(server, 'listening');
  } catch (error) {
    await house.close();
    if ((error as NodeJS.ErrnoException).code === 'EADDRINUSE') throw new Error(`Port ${config.port} is taken by another program. Choose another with --port.`);
    throw error;
  }
  // What a killed process left unfinished goes on by itself.
  for (const pipeline of house.interrupted) await house.runs.start(pipeline);
  let stopping: Promise<void> | undefined;
  const stop = () =>
    (stopping ??= (async () => {
      const closed = once(server, 'close');
      server.close();
      server.closeIdleConnections();
      const late = setTimeout(() => server.closeAllConnections(), patience);
      await house.close();
      await closed;
      clearTimeout(late);
    })());
  return { url: `http://${config.host}:${(server.address() as AddressInfo).port}/`, key, stop };
}
