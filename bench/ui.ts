// How the screens keep up, in real Chromium: frames while a million rows, and 200 columns, are scrolled through, beside those of
// a page that only scrolls itself on the same machine; and the time from a key to the sheet that follows it, on the register
// of some 300 pages.
import { cp, mkdir, mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { By, Key } from 'selenium-webdriver';
import { parsePipeline } from '../core/pipeline/document';
import { openBrowser } from '../e2e/browser';
import type { PipelineFull } from '../server/contract/contract';
import { openHouse } from '../server/house/open';
import { serve } from '../server/house/serve';
import { cacheIn } from '../server/setup/config';
import { addPipeline } from '../server/store/pipelines';
import { registerFolder, registerPipeline } from '../server/testing/demo';
import { asOwner } from '../server/testing/owner';
import { publishMade } from '../server/testing/rows';
import { sized } from './size';

const rows = sized(1_000_000, process.argv[2]);
const strokes = sized(40);

interface Frames {
  /** Milliseconds between two frames. */
  readonly times: number[];
  /** Frames in which a row in sight had no cells yet. */
  readonly blank: number;
}

const percentile = (values: readonly number[], part: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(part * values.length))];
const told = (values: readonly number[]) =>
  `median ${percentile(values, 0.5).toFixed(1)} ms, 95th percentile ${percentile(values, 0.95).toFixed(1)} ms, worst ${Math.max(...values).toFixed(1)} ms`;
const slow = ({ times }: Frames) => times.filter((time) => time > 50).length;

const base = await mkdtemp(join(tmpdir(), 'able-sieve-ui-'));
const data = join(base, 'data');
await mkdir(join(base, 'empty'), { recursive: true });
await mkdir(data);
const house = await openHouse(data, cacheIn(data));
const made = async (name: string) =>
  (
    await addPipeline(
      house.store,
      parsePipeline({ format: 'able-sieve/pipeline', version: 1, name, take: [] }),
      join(base, 'empty'),
    )
  ).id;
const [long, wide] = [await made('Long'), await made('Wide')];
await publishMade(house.store, long, rows);
await publishMade(house.store, wide, 5000, { extra: 198 });
await house.close();
await cp(registerFolder, join(base, 'register'), { recursive: true });
const server = await serve({ data, host: '127.0.0.1', port: 0, roots: [base], uploadLimit: 10, logLevel: 'silent' });
const browser = await openBrowser(server);
const { driver } = browser;

/** Scrolls an element frame by frame for some seconds, a step each, and takes the time of every frame after the first second. */
const scrolled = (css: string, step: readonly [down: number, right: number], seconds = 6): Promise<Frames> =>
  driver.executeAsyncScript<Frames>(
    `const [css, [down, right], seconds, done] = arguments;
     const frame = document.querySelector(css);
     const times = []; let blank = 0; let last; const began = performance.now();
     const next = (now) => {
       if (last !== undefined && now - began > 1000) {
         times.push(now - last);
         const box = frame.getBoundingClientRect();
         const cells = [...frame.querySelectorAll('tbody tr:not(.space)')].filter((row) => { const own = row.getBoundingClientRect(); return own.top > box.top + 60 && own.bottom < box.bottom; });
         if (cells.some((row) => row.querySelector('th').textContent === '')) blank++;
       }
       last = now;
       frame.scrollTop = (frame.scrollTop + down) % Math.max(1, frame.scrollHeight - frame.clientHeight);
       frame.scrollLeft = (frame.scrollLeft + right) % Math.max(1, frame.scrollWidth - frame.clientWidth);
       if (now - began < seconds * 1000) requestAnimationFrame(next); else done({ times, blank });
     };
     requestAnimationFrame(next);`,
    css,
    step,
    seconds,
  );

await driver.manage().setTimeouts({ script: 60_000 });
/** A page that does nothing but scroll. */
const bare =
  'data:text/html,<div class=frame style="height:700px;overflow:auto"><div style="height:3000000px;width:9000px;background:linear-gradient(red,blue)"></div></div>';
await driver.get(bare);
const plain = await scrolled('.frame', [60, 0]);
console.log(
  `A page that only scrolls itself: ${told(plain.times)}; ${slow(plain)} of ${plain.times.length} frames over 50 ms.`,
);

/** Waits until something that is asked of the page is true. */
const until = (asked: string) =>
  driver.wait(async () => driver.executeScript<boolean>(`return ${asked}`).catch(() => false), 120_000, asked);
for (const [what, id, step] of [
  [`${rows.toLocaleString('en-GB')} rows, two rows a frame`, long, [60, 0]],
  [`${rows.toLocaleString('en-GB')} rows, a screen every frame`, long, [700, 0]],
  ['200 columns, sideways', wide, [0, 40]],
] as const) {
  await driver.get(`${server.url}pipelines/${id}/dataset`);
  await until(`(document.querySelector('sieve-grid tbody tr:not(.space) th')?.innerText ?? '') !== ''`);
  const frames = await scrolled('sieve-grid .frame', step);
  console.log(
    `${what}: ${told(frames.times)}; ${slow(frames)} of ${frames.times.length} frames over 50 ms; ${frames.blank} with a row that was still to come. At the 95th percentile ${(percentile(frames.times, 0.95) / percentile(plain.times, 0.95)).toFixed(1)} times the plain page.`,
  );
}

const document = JSON.parse(await readFile(registerPipeline, 'utf8')) as { eachReport: unknown[] };
document.eachReport.push({
  id: 'sift',
  kind: 'sift rows',
  settings: { conditions: [{ of: { is: 'column', name: 'Vessel' }, test: 'contains', value: '' }] },
});
const answer = await asOwner(server)('/api/pipelines', {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ document, folder: join(base, 'register') }),
});
if (!answer.ok) throw new Error(await answer.text());
const { id } = (await answer.json()) as PipelineFull;
await driver.get(`${server.url}pipelines/${id}/bench?step=sift`);
await until(
  `/^After “Sift rows” [\\d,]+ rows/.test(document.querySelector('[aria-label="Sheet"] .pane-head').innerText.replace(/\\s+/g, ' '))`,
);
const field = await driver.findElement(By.css('[aria-label="Value, condition 1"]'));
/** Types and takes the time from each key to its sheet. @param apart milliseconds from a sheet to the next key */
async function typed(keys: number, apart: number): Promise<number[]> {
  const times: number[] = [];
  for (let n = 0; n < keys; n++) {
    await driver.executeScript(
      `const head = document.querySelector('[aria-label="Sheet"] .pane-head'); const before = head.innerText; window.took = undefined; let began;
       document.addEventListener('keydown', () => { began ??= performance.now(); }, { capture: true, once: true });
       const seen = new MutationObserver(() => { const now = head.innerText; if (began !== undefined && now !== before && !now.includes('working out')) { window.took = performance.now() - began; seen.disconnect(); } });
       seen.observe(head, { subtree: true, childList: true, characterData: true });`,
    );
    // A letter more, and away again: what is held is another number of rows each time.
    await field.sendKeys(n % 2 === 0 ? 'aeio'[(n / 2) % 4] : Key.BACK_SPACE);
    await until('window.took !== undefined');
    times.push(await driver.executeScript<number>('return window.took'));
    await setTimeout(apart);
  }
  return times;
}
console.log(
  `From a key to the sheet, register of some 300 pages, while all warms up: ${told(await typed(20, 0))} (20 keys).`,
);
for (const [how, apart] of [
  ['one key after the other', 0],
  ['a key, and a second to look at its sheet', 1000],
] as const)
  console.log(`${how}: ${told(await typed(strokes, apart))} (${strokes} keys).`);

await browser.close();
await server.stop();
await rm(base, { recursive: true, force: true });
process.exit(0);
