import { engineFlags, root } from './prepare.mjs';
import { spawn } from 'node:child_process';
import { join } from 'node:path';

/**
 * Runs the server until it is stopped; signals go on to it, so that it ends gracefully.
 * @param began called with its address, key and all, before that is printed
 */
export function serve(args, began = async () => undefined) {
  const program = [...engineFlags, join(root, 'bin/able-sieve.mjs'), 'serve', ...args];
  const server = spawn(process.execPath, program, { cwd: root, stdio: ['inherit', 'pipe', 'inherit'] });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
  server.on('exit', (code) => (process.exitCode = code ?? 1));
  server.stdout.setEncoding('utf8');
  server.stdout.once('data', async (first) => {
    server.stdout.pause();
    const address = /http:\S+/.exec(first)?.[0];
    try {
      if (address) await began(new URL(address));
    } catch (error) {
      console.error(error.message);
    }
    process.stdout.write(first);
    server.stdout.pipe(process.stdout);
  });
}
