import type { Config } from '../setup/config';
import { serve } from '../house/serve';

/** Milliseconds after which asking again ends the process at once. */
const impatient = 3000;

/** Serves until the process is asked to stop. */
export async function serveUntilStopped(config: Config): Promise<void> {
  // What is written is its owner's alone.
  process.umask(0o077);
  // Heard from the beginning, so that a start can be stopped as well, and gives the folder free.
  const asked = new Promise<undefined>((resolve) => {
    let first: number | undefined;
    const hear = () => {
      // A terminal asks the whole group, and npm asks once more: only who asks again later does not want to wait.
      if (first !== undefined && performance.now() - first > impatient) process.exit(1);
      first ??= performance.now();
      resolve(undefined);
    };
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, hear);
  });
  const { url, key, sql, stop, lost } = await serve(config);
  process.stdout.write(`Able Sieve is at ${url}?key=${key}\n`);
  if (sql) process.stdout.write(`Published datasets can be queried with SQL at ${sql.host}, port ${sql.port}\n`);
  const error = await Promise.race([asked, lost]);
  await stop();
  if (error) throw new Error(`Able Sieve has ended, as its database is lost: ${error.message} Start it again.`);
}
