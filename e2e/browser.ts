import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder, type WebDriver } from 'selenium-webdriver';
import type { Serving } from '../server/house/serve';
import * as chrome from 'selenium-webdriver/chrome.js';

/** Nothing moves by itself, and nothing is fetched or prepared that no test asks for. */
const flags = [
  '--headless=new',
  '--no-sandbox',
  '--disable-dev-shm-usage',
  '--disable-gpu',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-quic',
  '--no-first-run',
  '--force-prefers-reduced-motion',
  '--disable-features=PreloadTopChromeWebUI,Translate,MediaRouter,OptimizationHints',
  '--disable-extensions',
];

export interface Browser {
  readonly driver: WebDriver;
  /** A command of the browser's own protocol for developers. */
  tell(command: string, params?: object): Promise<void>;
  close(): Promise<void>;
}

/** A headless Chromium of 1280 by 800, with an empty profile of its own, that knows the key of the server. */
export async function openBrowser(server?: Pick<Serving, 'url' | 'key'>): Promise<Browser> {
  const profile = mkdtempSync(join(tmpdir(), 'able-sieve-browser-'));
  const options = new chrome.Options();
  options.addArguments(
    ...flags,
    `--user-data-dir=${profile}`,
    '--window-size=1280,800',
    '--force-device-scale-factor=1',
  );
  options.setChromeBinaryPath(process.env.CHROME_BIN ?? '/usr/bin/chromium');
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder(process.env.CHROMEDRIVER ?? '/usr/bin/chromedriver'))
    .build();
  // The window has a frame of its own, also when it is not shown: the page is to be 1280 by 800.
  await driver.manage().window().setRect({ width: 1280, height: 800 });
  const inner = await driver.executeScript<[number, number]>('return [innerWidth, innerHeight]');
  await driver
    .manage()
    .window()
    .setRect({ width: 1280 + (1280 - inner[0]), height: 800 + (800 - inner[1]) });
  if (server) await driver.get(`${server.url}?key=${server.key}`);
  return {
    driver,
    tell: (command, params = {}) => (driver as unknown as chrome.Driver).sendDevToolsCommand(command, params),
    close: async () => {
      await driver.quit();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}
