// How long a preview takes after a change of settings on a report of 50,000 rows, over HTTP as the bench asks for it: the
// document is saved, then the first hundred rows of the sheet as it leaves the step are asked for; the counts of the layers
// below come after that. Beside it, as a measure of the machine, the same on a report of 500 rows.
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { northOffice } from '../demo/layout';
import { pdfkitPen } from '../demo/pdfkit-pen';
import { drawRegister } from '../demo/vessel-register';
import { vessels } from '../demo/vessels';
import { serve } from '../server/house/serve';
import { asOwner } from '../server/testing/owner';
import type { StoredReport } from '../server/contract/contract';
import { registerPipeline } from '../server/testing/demo';
import { sized } from './size';

const rows = sized(50_000, process.argv[2]);
const changes = sized(60);

type Json = Record<string, unknown>;
const base = await mkdtemp(join(tmpdir(), 'able-sieve-preview-'));
const server = await serve({
  host: '127.0.0.1',
  port: 0,
  data: join(base, 'data'),
  roots: [base],
  logLevel: 'silent',
  uploadLimit: 200,
});
const call = async <T>(path: string, method = 'GET', body?: unknown, version?: number): Promise<T> => {
  const response = await asOwner(server)(`/api${path}`, {
    method,
    ...(body === undefined
      ? {}
      : {
          headers: {
            'content-type': 'application/json',
            ...(version === undefined ? {} : { 'if-match': `"${version}"` }),
          },
          body: JSON.stringify(body),
        }),
  });
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()) as T;
};

/** Settings as an analyst changes them, one letter or number at a time, at steps from the top of the stack to its end. */
const edits: ((document: Json, n: number) => string)[] = [
  (document, n) =>
    put(document, 'eachReport', 'sift', {
      conditions: [{ of: { is: 'column', name: 'Vessel' }, test: 'contains', value: 'abcdefghij'[n % 10] }],
    }),
  (document, n) => put(document, 'eachReport', 'trim', { top: n, bottom: 0 }),
  (document, n) =>
    put(document, 'eachReport', 'tidy', {
      columns: { by: 'names', names: ['Owner'] },
      letters: ['capitals', 'small letters', 'as printed'][n % 3],
    }),
  (document, n) =>
    put(document, 'eachReport', 'change', {
      columns: { by: 'names', names: ['Type'] },
      text: 'aeiou'[n % 5],
      replace: 'y',
    }),
];
function put(document: Json, zone: string, id: string, settings: Json): string {
  const steps = document[zone] as Json[];
  steps.find((step) => step['id'] === id)!['settings'] = settings;
  return id;
}

const percentile = (values: readonly number[], part: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(part * values.length))];
const told = (values: readonly number[]) =>
  `median ${percentile(values, 0.5).toFixed(0)} ms, 95th percentile ${percentile(values, 0.95).toFixed(0)} ms, worst ${Math.max(...values).toFixed(0)} ms (${values.length} changes)`;

async function measured(name: string, count: number): Promise<{ times: number[]; below: number[]; saving: number[] }> {
  const folder = join(base, name);
  await mkdir(folder);
  const { pen, end } = pdfkitPen(northOffice, 'Register of vessels', new Date('2025-01-06T09:00:00Z'));
  drawRegister(pen, vessels(count));
  await writeFile(join(folder, 'register-2025.pdf'), await end());
  const document = JSON.parse(await readFile(registerPipeline, 'utf8')) as Json;
  document['name'] = name;
  (document['eachReport'] as Json[]).push(
    { id: 'sift', kind: 'sift rows', settings: { conditions: [] } },
    { id: 'trim', kind: 'trim rows', settings: {} },
    { id: 'tidy', kind: 'tidy text', settings: { columns: { by: 'names', names: ['Owner'] } } },
    { id: 'change', kind: 'find and replace', settings: { columns: { by: 'names', names: ['Type'] } } },
  );
  let { id, version } = await call<{ id: number; version: number }>('/pipelines', 'POST', { document, folder });
  const [report] = await call<StoredReport[]>(`/pipelines/${id}/reports`, 'POST', {});
  const began = performance.now();
  const first = await call<{ rows: number }>(`/pipelines/${id}/reports/${report.id}/sheet?count=100`);
  console.log(
    `${name}: ${first.rows.toLocaleString('en-GB')} rows read and carried in ${((performance.now() - began) / 1000).toFixed(1)} s.`,
  );
  const times: number[] = [];
  const below: number[] = [];
  const saving: number[] = [];
  const byStep: Record<string, number[]> = {};
  for (let n = 0; n < changes; n++) {
    const step = edits[n % edits.length](document, n);
    const start = performance.now();
    ({ version } = await call<{ version: number }>(`/pipelines/${id}`, 'PUT', { document }, version));
    saving.push(performance.now() - start);
    await call(`/pipelines/${id}/reports/${report.id}/sheet?step=${step}&count=100`);
    times.push(performance.now() - start);
    (byStep[step] ??= []).push(times.at(-1)!);
    await call(`/pipelines/${id}/reports/${report.id}/layers`);
    below.push(performance.now() - start);
  }
  for (const [step, own] of Object.entries(byStep)) console.log(`  after a change of ${step}: ${told(own)}`);
  return { times, below, saving };
}

const small = await measured('500 rows', 500);
const large = await measured(`${rows.toLocaleString('en-GB')} rows`, rows);
console.log(`500 rows: ${told(small.times)}; with the layers below it ${told(small.below)}`);
console.log(
  `${rows.toLocaleString('en-GB')} rows: ${told(large.times)}, of which saving ${told(large.saving)}; with the layers below it ${told(large.below)}`,
);
console.log(
  `At the 95th percentile the large report takes ${(percentile(large.times, 0.95) / percentile(small.times, 0.95)).toFixed(1)} times as long as the small one.`,
);
await server.stop();
await rm(base, { recursive: true, force: true });
