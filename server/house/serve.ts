import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { pino } from 'pino';
import { app } from '../api/app';
import type { Config } from '../setup/config';
import { cacheIn, openHouse } from './open';

/** How long requests under way may take to end once the server is asked to stop, in milliseconds. */
const patience = 3000;

/**
 * Starts the server. @returns its address, and a way to stop it gracefully
 * @throws FolderInUse
 */
export async function serve(config: Config): Promise<{ url: string; stop(): Promise<void> }> {
  const log = pino({ level: config.logLevel }, pino.destination(2));
  const roots = [...config.roots, join(config.data, 'dropped')];
  const house = await openHouse(config.data, cacheIn(config.data), { failed: (error) => log.error(error), told: (sentence) => log.warn(sentence), roots });
  const server = createServer(app({ ...house, config: { ...config, roots }, log }));
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
  return { url: `http://${config.host}:${(server.address() as AddressInfo).port}/`, stop };
}
