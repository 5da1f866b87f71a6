import type { Config } from '../setup/config';
import { serve } from '../house/serve';

/** Serves until the process is asked to stop. */
export async function serveUntilStopped(config: Config): Promise<void> {
  // What is written is its owner's alone.
  process.umask(0o077);
  const { url, key, sql, stop } = await serve(config);
  process.stdout.write(`Able Sieve is at ${url}?key=${key}\n`);
  if (sql) process.stdout.write(`Published datasets can be queried with SQL at ${sql.host}, port ${sql.port}\n`);
  await new Promise<void>((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => resolve());
  });
  await stop();
}
