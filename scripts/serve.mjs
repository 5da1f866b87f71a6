import { engineFlags, root } from './prepare.mjs';
import { spawn } from 'node:child_process';
import { join } from 'node:path';

/** Runs the server until it is stopped; signals go on to it, so that it ends gracefully. */
export function serve(args) {
  const server = spawn(process.execPath, [...engineFlags, join(root, 'bin/able-sieve.mjs'), 'serve', ...args], { cwd: root, stdio: 'inherit' });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
  server.on('exit', (code) => (process.exitCode = code ?? 1));
}
