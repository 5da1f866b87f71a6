// How long a page and a CSV of the dataset take under 30 readers and 5 refreshes, over HTTP to a server of its own process; beside it, as a measure of the
// machine, a page with nothing else going on. tsx bench/load.ts [seconds]
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { random } from '../demo/random';
import type { DatasetAnswer, PipelineFull } from '../server/contract/contract';
import { openHouse } from '../server/house/open';
import { programFlags } from '../server/setup/engine';
import { cacheIn } from '../server/setup/config';
import { parsePipeline } from '../core/pipeline/document';
import { addPipeline } from '../server/store/pipelines';
import { demoFolder, demoPipeline, root } from '../server/testing/demo';
import { asOwner } from '../server/testing/owner';
import { publishMade } from '../server/testing/rows';
import { sized } from './size';

const seconds = sized(30, process.argv[2]);
const rows = Math.max(1000, sized(200_000));
const [pageReaders, csvReaders, refreshers] = [26, 4, 5];
/** Where readers look: now and then anywhere, mostly at what others look at too. */
const places = 40;

const data = await mkdtemp(join(tmpdir(), 'able-sieve-bench-'));
const house = await openHouse(data, cacheIn(data));
const { id } = await addPipeline(
  house.store,
  parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'Read by many', take: [] }),
  data,
);
await publishMade(house.store, id, rows);
await house.close();

const server = spawn(
  process.execPath,
  [
    ...programFlags,
    join(root, 'bin/able-sieve.mjs'),
    'serve',
    '--data',
    data,
    '--port',
    '0',
    '--root',
    join(demoFolder, '..'),
    '--log-level',
    'silent',
  ],
  { stdio: ['ignore', 'pipe', 'inherit'] },
);
// However the benchmark ends.
process.on('exit', () => server.kill('SIGKILL'));
const [printed] = (await once(server.stdout, 'data')) as [Buffer];
const address = new URL(/http\S+/.exec(String(printed))![0]);
const ask = asOwner({ url: address.origin, key: address.searchParams.get('key')! });
const send = async <T>(
  method: string,
  path: string,
  body: unknown,
  headers: Record<string, string> = {},
): Promise<T> => {
  const response = await ask(path, {
    method,
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()) as T;
};
const percentile = (values: readonly number[], part: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(part * values.length))];
const told = (values: readonly number[]) =>
  `median ${percentile(values, 0.5).toFixed(0)} ms, 95th percentile ${percentile(values, 0.95).toFixed(0)} ms, worst ${Math.max(...values).toFixed(0)} ms (${values.length})`;

async function timed(times: number[], path: string): Promise<Response> {
  const began = performance.now();
  const response = await ask(path);
  if (!response.ok) throw new Error(await response.text());
  await response.clone().arrayBuffer();
  times.push(performance.now() - began);
  return response;
}
const draw = random(3);
async function page(times: number[]): Promise<void> {
  const start = draw.chance(0.3) ? draw.whole(0, rows - 100) : Math.min(draw.whole(0, places - 1) * 500, rows - 100);
  const { window } = (await (
    await timed(times, `/api/pipelines/${id}/dataset?start=${start}&count=100`)
  ).json()) as DatasetAnswer;
  if (window.length !== 100 || window[0].row !== start)
    throw new Error(`The page from row ${start} on is not what was asked for.`);
}

const idle: number[] = [];
for (let i = 0; i < 50; i++) await page(idle);

let over = false;
const until =
  <T>(work: () => Promise<T>) =>
  async () => {
    while (!over) await work();
  };
const [pages, csvs, runs]: number[][] = [[], [], []];
const document = JSON.parse(await readFile(demoPipeline, 'utf8')) as Record<string, unknown>;
const refreshing = await Promise.all(
  Array.from({ length: refreshers }, async (_, n) => {
    let { id: own, version } = await send<PipelineFull>('POST', '/api/pipelines', {
      document: { ...document, name: `Refreshed ${n}` },
      folder: demoFolder,
    });
    let edit = 0;
    return until(async () => {
      // Another constant in each row: every report is carried and loaded anew.
      const steps = [
        ...(document['allReports'] as object[]),
        { id: 'edit', kind: 'constant column', settings: { name: 'Edit', value: String(++edit) } },
      ];
      ({ version } = await send<PipelineFull>(
        'PUT',
        `/api/pipelines/${own}`,
        { document: { ...document, name: `Refreshed ${n}`, allReports: steps } },
        { 'if-match': `"${version}"` },
      ));
      const began = performance.now();
      const { run } = await send<{ run: number }>('POST', `/api/pipelines/${own}/runs`, {});
      await (await ask(`/api/runs/${run}/events`)).text();
      runs.push(performance.now() - began);
    });
  }),
);
const work = [
  ...Array.from({ length: pageReaders }, () => until(() => page(pages))),
  ...Array.from({ length: csvReaders }, () => until(() => timed(csvs, `/api/pipelines/${id}/dataset.csv`))),
  ...refreshing,
];
setTimeout(() => (over = true), seconds * 1000);
await Promise.all(work.map((each) => each()));

console.log(`A page of 100 of ${rows.toLocaleString('en')} rows, nothing else going on: ${told(idle)}`);
console.log(`Under ${pageReaders + csvReaders} readers and ${refreshers} refreshes for ${seconds} s:`);
console.log(`  a page: ${told(pages)}`);
console.log(`  a CSV of all rows: ${csvs.length > 0 ? told(csvs) : 'none came to an end'}`);
console.log(`  a refresh of 15 reports: ${runs.length > 0 ? told(runs) : 'none came to an end'}`);
console.log(
  `At the 95th percentile a page takes ${(percentile(pages, 0.95) / percentile(idle, 0.95)).toFixed(1)} times as long as alone.`,
);
server.kill();
await once(server, 'exit');
await rm(data, { recursive: true, force: true });
