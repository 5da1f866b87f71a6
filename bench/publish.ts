// How long a page of the dataset takes to be answered while 1,000,000 rows are being published, over the same store.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parsePipeline } from '../core/pipeline/document';
import { openHouse } from '../server/house/open';
import { publicationOf, publishedWindow } from '../server/store/dataset';
import { addPipeline } from '../server/store/pipelines';
import { publishMade } from '../server/testing/rows';
import { sized } from './size';

const rows = sized(1_000_000, process.argv[2]);
const folder = await mkdtemp(join(tmpdir(), 'able-sieve-bench-'));
const house = await openHouse(folder, join(folder, 'cache'));
const { id } = await addPipeline(
  house.store,
  parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'Bench', take: [] }),
  folder,
);
await publishMade(house.store, id, 100_000);

async function pageTime(): Promise<number> {
  const began = performance.now();
  await publishedWindow(house.store, id, 50_000, 100);
  return performance.now() - began;
}
const percentile = (values: number[], part: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(part * values.length))];
const told = (values: number[]) =>
  `median ${percentile(values, 0.5).toFixed(0)} ms, 95th percentile ${percentile(values, 0.95).toFixed(0)} ms, worst ${Math.max(...values).toFixed(0)} ms (${values.length} pages)`;

const idle: number[] = [];
for (let i = 0; i < 50; i++) idle.push(await pageTime());

const busy: number[] = [];
let publishing = true;
const began = performance.now();
const published = publishMade(house.store, id, rows, { report: 2 }).finally(() => (publishing = false));
while (publishing) {
  busy.push(await pageTime());
  await new Promise((resolve) => setTimeout(resolve, 20));
}
await published;
const seconds = (performance.now() - began) / 1000;
const after = (await publicationOf(house.store, id))!;
console.log(`A page of 100 rows, nothing else going on: ${told(idle)}`);
console.log(`A page of 100 rows while ${rows.toLocaleString('en')} rows are published: ${told(busy)}`);
console.log(
  `Publishing took ${seconds.toFixed(1)} s (${Math.round(rows / seconds).toLocaleString('en')} rows a second); the dataset has ${after.rows.toLocaleString('en')} rows now.`,
);
await house.close();
await rm(folder, { recursive: true, force: true });
