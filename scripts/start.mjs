import { build, dependencies, root } from './prepare.mjs';
import { spawn } from 'node:child_process';
import { join } from 'node:path';

dependencies();
build();
spawn(process.execPath, [join(root, 'bin/able-sieve.mjs'), 'serve', ...process.argv.slice(2)], { stdio: 'inherit' }).on('exit', (code) => (process.exitCode = code ?? 1));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => undefined);
