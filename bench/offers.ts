// How long proposals and offers take on the register of 300 pages, beside carrying it through its own steps: `npm run bench:offers`.
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { carryReport } from '../core/pipeline/carry';
import { parsePipeline } from '../core/pipeline/document';
import { findTables } from '../core/reading/find-tables';
import { offersFor } from '../core/suggest/for-selection';
import { proposeSteps } from '../core/suggest/propose';
import { streamPages } from '../server/pdf/read-pages';
import { registerFolder, registerPipeline } from '../server/testing/demo';
import { sized } from './size';

const rounds = sized(5);
const median = (numbers: number[]) => numbers.sort((a, b) => a - b)[Math.floor(numbers.length / 2)];
function timed(work: () => unknown): number {
  const times = Array.from({ length: rounds }, () => {
    const began = performance.now();
    work();
    return performance.now() - began;
  });
  return median(times);
}

const path = 'register-2025.pdf';
const pages = [];
for await (const each of streamPages(await readFile(join(registerFolder, path)), path, {}))
  if ('page' in each) pages.push(each.page);
const read = { key: path, path, pages, tables: findTables(pages) };
const known = parsePipeline(JSON.parse(await readFile(registerPipeline, 'utf8')));
const without = { ...known, eachTable: [], eachReport: [], allReports: [] };
const { sheet, paper } = carryReport(without, read);
const around = { papers: () => paper, lists: () => undefined, letPass: () => false };
const ofCell = () => offersFor(sheet, { rows: [40, 40], columns: [3, 3] }, around, { key: path, paper });
const ofColumn = () =>
  offersFor(sheet, { rows: [0, sheet.rows.length - 1], columns: [4, 4] }, around, { key: path, paper });

const carried = timed(() => carryReport(known, read));
const line = (what: string, time: number) =>
  console.log(
    `${what.padEnd(34)} ${time.toFixed(0).padStart(6)} ms   ${(time / carried).toFixed(1).padStart(5)} x carrying   ${((time * 50_000) / sheet.rows.length).toFixed(0).padStart(6)} ms for 50,000 rows`,
  );
console.log(`${pages.length} pages, ${sheet.rows.length.toLocaleString('en')} rows, median of ${rounds}`);
line('carried through its own steps', carried);
line(
  'steps proposed',
  timed(() => proposeSteps(without, [read])),
);
line(
  'nothing more proposed',
  timed(() => proposeSteps(known, [read])),
);
line('offers for a cell', timed(ofCell));
line('offers for a column', timed(ofColumn));
