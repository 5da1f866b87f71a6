import { build, chromium, dependencies, run, tool } from './prepare.mjs';

dependencies();
const { browser, driver } = chromium();
build();
run(tool('tsx'), ['e2e/screenshots.ts'], { env: { ...process.env, CHROME_BIN: browser, CHROMEDRIVER: driver } });
