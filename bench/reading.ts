// Scores `able-sieve tables` against the files of truth/ and pages/, then times it: our reading against the parser's own
// work, two threads against one, and a report of 400 pages while it is being read. With --random COUNT [--seed N]
// [--worst N] [--keep FOLDER] it reads so many random papers instead and tells failures by property.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { findTables } from '../core/reading/find-tables';
import { northOffice } from '../demo/layout';
import { pdfkitPen } from '../demo/pdfkit-pen';
import { drawRegister } from '../demo/vessel-register';
import { vessels } from '../demo/vessels';
import { openBrowser } from '../e2e/browser';
import { openPdf } from '../server/pdf/document';
import { pageContent } from '../server/pdf/page-content';
import { pdfjs } from '../server/pdf/parser';
import { inParallel } from '../server/work/in-parallel';
import { openPool } from '../server/work/pool';
import { readRandom, reportRandom } from './random/read-random';

const root = fileURLToPath(new URL('..', import.meta.url));
const truth = join(root, 'bench/truth');
const ownPages = join(root, 'bench/pages');
const scratch = mkdtempSync(join(tmpdir(), 'bench-'));
const readableIn = (folder: string) =>
  readdirSync(folder)
    .filter((file) => file.endsWith('.pdf') && !/^(?:broken|encrypted-pdfkit)/.test(file))
    .map((file) => join(folder, file));
const ms = (time: number) => `${Math.round(time)} ms`;

function score(folder: string) {
  console.log(`\nFiles of ${folder === truth ? 'truth/' : 'pages/'}`);
  const command = `${process.execPath} ${join(root, 'bin/able-sieve.mjs')} tables {file} --json`;
  spawnSync(
    process.execPath,
    [
      join(truth, 'score.mjs'),
      '--dir',
      folder,
      '--run',
      command,
      '--password-flag',
      '--password {password}',
      ...process.argv.slice(2),
    ],
    { cwd: root, stdio: 'inherit' },
  );
}

/** What the parser needs for text and graphics of all readable files, and what we need from open file to tables. */
async function againstParser() {
  const time = { parser: 0, operators: 0, ours: 0, pages: 0 };
  for (const file of [...readableIn(truth), ...readableIn(ownPages)]) {
    const bytes = readFileSync(file);
    const plain = await openPdf(bytes, file).catch(() => undefined);
    if (!plain) continue;
    let began = performance.now();
    for (let n = 1; n <= plain.numPages; n++) {
      const page = await plain.getPage(n);
      await page.getTextContent();
      const half = performance.now();
      await page.getOperatorList({ annotationMode: pdfjs.AnnotationMode.DISABLE });
      time.operators += performance.now() - half;
      page.cleanup();
    }
    time.parser += performance.now() - began;
    await plain.loadingTask.destroy();
    const document = await openPdf(bytes, file);
    began = performance.now();
    const marked = (await document.getMarkInfo())?.Marked === true;
    const content = [];
    for (let n = 1; n <= document.numPages; n++) {
      const page = await document.getPage(n);
      content.push(await pageContent(page, { marked }));
      page.cleanup();
    }
    findTables(content);
    time.ours += performance.now() - began;
    time.pages += document.numPages;
    await document.loadingTask.destroy();
  }
  return time;
}

const sourceOf = (file: string, cacheFolder: string) => ({
  file,
  sha256: createHash('sha256').update(readFileSync(file)).digest('hex'),
  cacheFolder,
  key: '1',
  path: file,
});

/** Time for all files of a folder, read into an empty cache by so many threads. */
async function folderTime(threads: number): Promise<number> {
  const pool = openPool(threads);
  const files = readableIn(ownPages);
  const all = async () => {
    const cacheFolder = mkdtempSync(join(scratch, 'cache-'));
    await inParallel(files, threads, (file) =>
      pool.run('read', {
        source: { ...sourceOf(file, cacheFolder), sha256: `${basename(cacheFolder)}-${basename(file)}` },
      }),
    );
  };
  // Each thread compiles the program for itself while it first runs.
  await all();
  await all();
  const began = performance.now();
  await all();
  const time = performance.now() - began;
  await pool.close();
  return time;
}

async function longReport() {
  const { pen, end } = pdfkitPen(northOffice, 'Register', new Date('2025-01-06T09:00:00Z'));
  drawRegister(pen, vessels(19_200));
  const file = join(scratch, 'register.pdf');
  writeFileSync(file, await end());
  const pool = openPool(1);
  const source = sourceOf(file, mkdtempSync(join(scratch, 'cache-')));
  await pool.run('read', { source: sourceOf(readableIn(ownPages)[0], mkdtempSync(join(scratch, 'warm-'))) });
  const began = performance.now();
  let first = 0;
  const at: number[] = [];
  await pool.run(
    'read',
    { source },
    {
      progress: ({ done, found }) => {
        if (first === 0 && found.tables.length > 0) first = performance.now() - began;
        at[done] = performance.now() - began;
      },
    },
  );
  const pages = at.length - 1;
  const perPage = (from: number, to: number) => (at[to] - at[from]) / (to - from);
  const flat = perPage(pages - 100, pages - 1) / perPage(10, 110);
  let asked = performance.now();
  await pool.run('page', { source, number: 200 });
  const again = performance.now() - asked;
  const abort = new AbortController();
  const work = pool
    .run('read', { source: { ...source, sha256: 'anew' } }, { signal: abort.signal })
    .catch(() => undefined);
  await new Promise((resolve) => setTimeout(resolve, 1500));
  asked = performance.now();
  abort.abort();
  await work;
  const cancel = performance.now() - asked;
  await pool.close();
  const memory = spawnSync(
    process.execPath,
    ['--max-old-space-size=512', join(root, 'bin/able-sieve.mjs'), 'tables', file, '--json'],
    { cwd: root, maxBuffer: 1 << 29 },
  );
  return { pages, first, flat, again, cancel, whole: at[pages], fits: memory.status === 0 };
}

const { values: wanted } = parseArgs({
  options: {
    random: { type: 'string' },
    seed: { type: 'string', default: '7' },
    worst: { type: 'string', default: '0' },
    keep: { type: 'string' },
  },
  strict: false,
});
if (wanted.random) {
  const browser = await openBrowser();
  const seed = Number(wanted.seed);
  reportRandom(
    await readRandom({
      seed,
      count: Number(wanted.random),
      browser: browser.driver,
      ...(wanted.keep ? { keep: String(wanted.keep) } : {}),
    }),
    seed,
    Number(wanted.worst),
  );
  await browser.close();
  process.exit();
}

score(truth);
score(ownPages);

await againstParser(); // warms both ways up
const { parser, operators, ours, pages } = await againstParser();
console.log(
  `\n${pages} pages: the parser's text content and operator list ${ms(parser)}, of it the operator list, which ours needs as well, ${ms(operators)};`,
);
console.log(
  `page content, tables and readings ${ms(ours)}: ${(ours / parser).toFixed(2)} of the parser's time, ${((ours - operators) / parser).toFixed(2)} of it beyond the operator list.`,
);
const [one, two] = [await folderTime(1), await folderTime(2)];
console.log(`Files of pages/: one thread ${ms(one)}, two ${ms(two)}: ${(one / two).toFixed(2)} times as fast.`);
const long = await longReport();
console.log(
  `A report of ${long.pages} pages: first tables after ${ms(long.first)}, all after ${ms(long.whole)}; a page late in it takes ${long.flat.toFixed(2)} of the time of an early one;`,
);
console.log(
  `a page again, from the cache, ${ms(long.again)}; cancelled in ${ms(long.cancel)}; ${long.fits ? 'fits' : 'does NOT fit'} into 512 MB.`,
);
rmSync(scratch, { recursive: true, force: true });
