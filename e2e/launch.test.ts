// The program as its users start it: the very command lines, in a clean copy of the tree.
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { cp, mkdir, readFile, symlink } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { By } from 'selenium-webdriver';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { temporaryFolder, root } from '../server/testing/folders';
import { demoFolder, demoPipeline } from '../server/testing/demo';
import { isLong } from '../server/testing/tier';
import { openBrowser, type Browser } from './browser';
import { PipelinesScreen } from './pages/pipelines';

let copy: string;
let browser: Browser;
const running = new Set<ChildProcess>();

beforeAll(async () => {
  copy = await temporaryFolder();
  const tracked = execFileSync('git', ['ls-files', '-z', '--cached', '--others', '--exclude-standard'], { cwd: root });
  for (const file of String(tracked)
    .split('\0')
    .filter((name) => name !== '' && existsSync(join(root, name)))) {
    await mkdir(join(copy, dirname(file)), { recursive: true });
    await cp(join(root, file), join(copy, file));
  }
  await cp(join(root, 'dist'), join(copy, 'dist'), { recursive: true });
  await symlink(join(root, 'node_modules'), join(copy, 'node_modules'));
  browser = await openBrowser();
});
afterEach(() => {
  for (const child of running)
    if (child.pid !== undefined && child.exitCode === null) process.kill(-child.pid, 'SIGKILL');
  running.clear();
});
afterAll(() => browser?.close());

/** Starts a command line in the copy, as the head of a group of its own. */
function launch(line: string, env: Record<string, string> = {}) {
  const [command, ...args] = line.split(' ');
  const child = spawn(command, args, {
    cwd: copy,
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...env },
  });
  running.add(child);
  const said = { printed: '', failed: '' };
  child.stdout.on('data', (bytes: Buffer) => (said.printed += String(bytes)));
  child.stderr.on('data', (bytes: Buffer) => (said.failed += String(bytes)));
  const ended = once(child, 'close').then(([code]) => code as number | null);
  return { child, said, ended };
}

/** The address that a server prints once it answers. */
async function addressOf({ said, ended }: ReturnType<typeof launch>): Promise<string> {
  const address = () => /^Able Sieve is at (\S+)$/m.exec(said.printed)?.[1];
  void ended.then((code) => (said.printed += address() ? '' : `Able Sieve is at ended:${code}`));
  await expect.poll(address).toBeDefined();
  expect(address(), said.failed).toMatch(/^http:/);
  return address()!;
}

describe('npm run demo', () => {
  it('shows the rows and totals of the demo, all of its pipelines, and ends by a signal with the folder free', async () => {
    const demo = launch('npm run demo -- --port 0');
    const home = new PipelinesScreen(browser.driver);
    await home.open(await addressOf(demo));
    await expect.poll(async () => (await home.cards()).length).toBe(7);
    const [landings] = (await home.cards()).filter((card) => card.startsWith('Landings by species'));
    expect(landings).toMatch(/885 rows/);
    expect(landings).toMatch(/259 of 260 printed totals tie out, 1 is off/);
    // The others are refreshed behind, and their cards say so without being asked again.
    await home.until('the berth notes to be there', async () =>
      (await home.cards()).some((card) => /^Berth notes.*144 rows/.test(card)),
    );
    await (await browser.driver.findElement(By.partialLinkText('Landings by species'))).click();
    await home.find('sieve-pipeline-page');
    demo.child.kill('SIGTERM');
    expect(await demo.ended).toBe(0);
    expect(demo.said.failed).not.toMatch(/Error|\bat .*:\d+:\d+/);
    expect(existsSync(join(copy, 'demo-data/able-sieve.json'))).toBe(true);
    expect(existsSync(join(copy, 'demo-data/lock'))).toBe(false);
  });
});

describe('npm start', () => {
  it('begins with an empty page, and ends by a signal with the folder free', async () => {
    const data = await temporaryFolder();
    const server = launch(`npm start -- --port 0 --data ${data}`);
    const home = new PipelinesScreen(browser.driver);
    await home.open(await addressOf(server));
    await home.untilText('sieve-notice', /^No pipeline yet/);
    server.child.kill('SIGTERM');
    expect(await server.ended).toBe(0);
    expect(existsSync(join(data, 'lock'))).toBe(false);
  });
});

describe('a terminal', () => {
  it('asks the whole group, and npm its child once more: the folder is free all the same', async () => {
    const data = await temporaryFolder();
    const server = launch(`npm start -- --port 0 --data ${data}`);
    await addressOf(server);
    expect(existsSync(join(data, 'lock'))).toBe(true);
    process.kill(-server.child.pid!, 'SIGINT');
    await server.ended;
    expect(existsSync(join(data, 'lock'))).toBe(false);
    expect(server.said.failed).not.toMatch(/Error|\bat .*:\d+:\d+/);
  });
});

describe('bin/able-sieve.mjs', () => {
  it('is started by its shebang, whose flags are those of the one place that has them', async () => {
    const [shebang] = (await readFile(join(copy, 'bin/able-sieve.mjs'), 'utf8')).split('\n');
    const flags = JSON.parse(await readFile(join(copy, 'bin/engine.json'), 'utf8')) as { program: string[] };
    expect(shebang).toBe(`#!/usr/bin/env -S node ${flags.program.join(' ')}`);
    const out = join(await temporaryFolder(), 'out.csv');
    const run = launch(`${join(copy, 'bin/able-sieve.mjs')} run ${demoPipeline} --reports ${demoFolder} --out ${out}`);
    expect([await run.ended, run.said.failed]).toEqual([0, '']);
    expect(run.said.printed).toMatch(/^published: 885 rows\./m);
  });
});

describe('the package', () => {
  it('is packed with all that it needs, and started from there by its name alone', async () => {
    const into = await temporaryFolder();
    const pack = launch(`npm pack --pack-destination ${into}`);
    expect(await pack.ended, pack.said.failed).toBe(0);
    const { version, name } = JSON.parse(await readFile(join(root, 'package.json'), 'utf8')) as Record<string, string>;
    const file = join(into, `${name}-${version}.tgz`);
    expect(existsSync(file)).toBe(true);
    const once = `npm exec --yes --prefer-offline --package=file:${file} -- able-sieve`;
    const told = launch(`${once} --version`);
    expect(await told.ended, told.said.failed).toBe(0);
    expect(told.said.printed.trim().split('\n').at(-1)).toBe(version);
    const data = join(into, 'data');
    const server = launch(`${once} serve --port 0 --data ${data}`);
    const home = new PipelinesScreen(browser.driver);
    await home.open(await addressOf(server));
    await home.untilText('sieve-notice', /^No pipeline yet/);
    // Npm hands the signal on to its shell alone: the group is asked, as a terminal does.
    process.kill(-server.child.pid!, 'SIGTERM');
    await server.ended;
    await expect.poll(() => existsSync(join(data, 'lock'))).toBe(false);
  });
});

/** Every benchmark of package.json, with what it needs to be told; those that read much even so run only in the long tier. */
const benches: Readonly<Record<string, string>> = {
  score: 'bench/truth --only ^grid-pdfkit',
  reading: '--random 2 --seed 9001',
};
const slow = ['breakages', 'offers', 'fuzz', 'ui', 'load', 'checks'];

describe('npm run bench:*', async () => {
  const { scripts } = JSON.parse(await readFile(join(root, 'package.json'), 'utf8')) as {
    scripts: Record<string, string>;
  };
  const names = Object.keys(scripts).flatMap((name) => /^bench:(.*)/.exec(name)?.[1] ?? []);
  it.each(names.filter((name) => isLong || !slow.includes(name)))(
    '%s ends well with a size of nearly nothing',
    async (name) => {
      const bench = launch(`npm run bench:${name} -- ${benches[name] ?? ''}`.trim(), { BENCH_SHARE: '0.001' });
      expect(await bench.ended, bench.said.failed.slice(-2000)).toBe(0);
      expect(bench.said.printed.trim().split('\n').length).toBeGreaterThan(2);
    },
  );
});
