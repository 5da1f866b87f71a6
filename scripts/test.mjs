// The README's test command: installs what is missing, builds, checks types, runs all tests.
import { build, chromium, dependencies, lockIsWhole, root, run, tool } from './prepare.mjs';

lockIsWhole();
dependencies();
const { browser, driver } = chromium();
build();
run(tool('tsc'), ['-p', root, '--noEmit']);
// Each part may be named alone: npm test -- --project core
if (process.argv.length === 2) run(tool('ng'), ['test'], { env: { ...process.env, NG_CLI_ANALYTICS: 'false' } });
run(tool('vitest'), ['run', ...process.argv.slice(2)], { env: { ...process.env, CHROME_BIN: browser, CHROMEDRIVER: driver } });
