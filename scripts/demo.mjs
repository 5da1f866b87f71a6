// Installs, builds, carries the demo pipeline over the demo folder, and serves the result.
import { build, dependencies, root, run } from './prepare.mjs';
import { spawn } from 'node:child_process';
import { join } from 'node:path';

dependencies();
build();
const program = join(root, 'bin/able-sieve.mjs');
const data = join(root, 'demo-data');
run(process.execPath, [program, 'run', 'demo/landing-sheets.sieve.json', '--reports', 'demo/landing-sheets', '--data', data]);
spawn(process.execPath, [program, 'serve', '--data', data, '--root', join(root, 'demo'), '--log-level', 'warn', ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' }).on(
  'exit',
  (code) => (process.exitCode = code ?? 1),
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => undefined);
