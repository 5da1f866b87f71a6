// Installs, builds, and serves the demo: its pipelines are there at once, the first with its dataset; the others are refreshed behind.
import { build, dependencies, root } from './prepare.mjs';
import { serve } from './serve.mjs';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Pipelines beside their documents, each with the folder of its reports; the first is refreshed before the address is printed. */
const pipelines = [
  ['landing-sheets', 'landing-sheets'],
  ['quarter-throughput', 'quarter-throughput'],
  ['berth-notes', 'berth-notes'],
  ['licence-roll', 'licence-roll'],
  ['tide-tables', 'tide-tables'],
  ['tide-waters', 'tide-tables'],
  ['vessel-register', 'vessel-register'],
];
/** Milliseconds from one look at a run to the next. */
const pause = 300;

dependencies();
build();
const demo = join(root, 'demo');
const data = ['--data', join(root, 'demo-data'), '--root', demo, '--log-level', 'warn'];
serve([...data, ...process.argv.slice(2)], async (address) => {
  const ask = asking(address);
  const there = new Map((await ask('/api/pipelines')).map(({ name, id }) => [name, id]));
  const ids = [];
  for (const [name, folder] of pipelines) {
    const document = JSON.parse(readFileSync(join(demo, `${name}.sieve.json`), 'utf8'));
    ids.push(there.get(document.name) ?? (await ask('/api/pipelines', { document, folder: join(demo, folder) })).id);
  }
  const [first, ...others] = ids;
  await refreshed(ask, first);
  // The server may be stopped meanwhile.
  void (async () => {
    for (const id of others) await refreshed(ask, id);
  })().catch(() => undefined);
});

/** Asks the server as its owner does. */
function asking(address) {
  const headers = { Authorization: `Bearer ${address.searchParams.get('key')}`, 'Content-Type': 'application/json' };
  return async (path, body) => {
    const init = body === undefined ? { headers } : { method: 'POST', headers, body: JSON.stringify(body) };
    const response = await fetch(new URL(path, address), init);
    const answer = await response.json();
    if (!response.ok) throw new Error(`The demo cannot be set up: ${answer.error.message}`);
    return answer;
  };
}

async function refreshed(ask, pipeline) {
  const { run } = await ask(`/api/pipelines/${pipeline}/runs`, {});
  while ((await ask(`/api/runs/${run}`)).run.state === 'running')
    await new Promise((resolve) => setTimeout(resolve, pause));
}
