#!/usr/bin/env -S node --single-threaded-gc
import { existsSync } from 'node:fs';

const built = new URL('../dist/server/cli.mjs', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  process.stderr.write('Able Sieve is not built yet. Run: npm run build\n');
  process.exitCode = 1;
}
