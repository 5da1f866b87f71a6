// Installs, builds, carries the demo pipeline over the demo folder, and serves the result.
import { build, dependencies, engineFlags, root, run } from './prepare.mjs';
import { serve } from './serve.mjs';
import { join } from 'node:path';

dependencies();
build();
const data = join(root, 'demo-data');
run(process.execPath, [...engineFlags, 'bin/able-sieve.mjs', 'run', 'demo/landing-sheets.sieve.json', '--reports', 'demo/landing-sheets', '--data', data]);
serve(['--data', data, '--root', join(root, 'demo'), '--log-level', 'warn', ...process.argv.slice(2)]);
