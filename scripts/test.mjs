// The README's test command: installs what is missing, builds, checks types and style, runs all tests. With --long, what is long
// by number (random papers, broken files, breakages, benchmarks) runs in full; else with a small count of its own.
import { spawn } from 'node:child_process';
import { build, chromium, dependencies, lockIsWhole, root, run, tool } from './prepare.mjs';

lockIsWhole();
dependencies();
const { browser, driver } = chromium();
const given = process.argv.slice(2);
const named = given.filter((each) => each !== '--long');
const tier = given.includes('--long') ? 'long' : 'short';
const env = { ...process.env, NG_CLI_ANALYTICS: 'false', CHROME_BIN: browser, CHROMEDRIVER: driver, TEST_TIER: tier };
const types = [tool('tsc'), '-p', root, '--noEmit'];
const tests = (...projects) => [tool('vitest'), 'run', ...projects.flatMap((project) => ['--project', project])];

// Each part may be named alone: npm test -- --project core
if (named.length > 0) {
  build();
  run(types[0], types.slice(1));
  run(tool('vitest'), ['run', ...named], { env });
} else {
  // To build the screens and test their parts keeps one core busy; what needs nothing built goes beside it, and the style last.
  const all = await Promise.all([
    oneByOne([process.execPath, 'scripts/build.mjs'], [tool('ng'), 'test'], tests('server', 'e2e')),
    oneByOne(types, tests('core', 'memory'), [process.execPath, 'scripts/lint.mjs']),
  ]);
  if (all.includes(false)) process.exit(1);
}

/**
 * Runs commands one after the other, until one fails; what each prints is shown when it is done, so that two rows of them do not mix.
 * @returns whether all went well
 */
async function oneByOne(...commands) {
  for (const [command, ...args] of commands) {
    const [status, output] = await new Promise((done) => {
      const child = spawn(command, args, { cwd: root, env });
      const output = [];
      for (const stream of [child.stdout, child.stderr]) stream.on('data', (bytes) => output.push(bytes));
      child.on('error', (error) => done([error.message, output]));
      child.on('close', (code, signal) => done([signal ?? code, output]));
    });
    process.stdout.write(Buffer.concat(output));
    if (status === 0) continue;
    console.error(`${[command, ...args].join(' ')} failed (${status}).`);
    return false;
  }
  return true;
}
