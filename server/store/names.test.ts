import { chmod, mkdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parsePipeline } from '../../core/pipeline/document';
import { openHouse, type House } from '../house/open';
import { temporaryFolder } from '../testing/folders';
import { publishMade } from '../testing/rows';
import { publicationOf } from './dataset';
import { addPipeline } from './pipelines';
import { loadPart, publish, reservePart } from './publish';
import { startRun } from './runs';
import { thisBuild } from '../setup/build';

let house: House;
beforeAll(async () => {
  house = await openHouse(undefined, await temporaryFolder());
});
afterAll(() => house.close());
const pipelineNamed = (name: string) =>
  addPipeline(house.store, parsePipeline({ format: 'able-sieve/pipeline', version: 1, name, take: [] }), '/nowhere');

describe('names in the database', () => {
  it('of pipelines never meet those of our own tables', async () => {
    for (const name of ['data 1', 'data 2', 'part pkey', 'pipeline', 'report', 'pg_class', 'Select']) {
      const { id, viewName } = await pipelineNamed(name);
      await publishMade(house.store, id, 3);
      expect(await house.store.query(`select count(*) as rows from published."${viewName}"`)).toEqual([{ rows: '3' }]);
    }
  });

  it('of headings never meet those that every table has', async () => {
    const { id, viewName } = await pipelineNamed('System columns');
    const headings = ['xmin', 'ctid', 'tableoid', 'oid', 'part', 'Ordinal', 'select', 'Cmax'];
    const columns = headings.map((heading) => ({ heading, type: 'text' as const }));
    const part = await reservePart(house.store, id, 1, 'k', { version: 1, build: thisBuild, inputs: [] });
    await loadPart(
      house.store,
      id,
      part,
      {
        rows: 1,
        held: 0,
        columns,
        batches: [`${part},0,1,p1t1,0,1${headings.map((_, i) => `,"v${i}"`).join('')}\n`],
        misfits: [],
        totals: [],
      },
      {},
    );
    await publish(
      house.store,
      id,
      await startRun(house.store, id, 1),
      1,
      [{ part, stale: false }],
      columns,
      () => undefined,
    );
    const identified = (await publicationOf(house.store, id))!.columns;
    expect(identified.map(({ heading }) => heading)).toEqual(headings);
    expect(
      await house.store.query(
        `select ${identified.map(({ identifier }) => `"${identifier}"`).join(', ')} from published."${viewName}"`,
      ),
    ).toEqual([Object.fromEntries(identified.map(({ identifier }, i) => [identifier, `v${i}`]))]);
  });
});

describe('a data folder', () => {
  it('is its owner’s alone, and one that others could look into is mended with a word', async () => {
    const folder = join(await temporaryFolder(), 'data');
    await mkdir(folder);
    await chmod(folder, 0o755);
    const told: string[] = [];
    const own = await openHouse(folder, join(folder, 'cache'), { told: (sentence) => told.push(sentence) });
    await own.close();
    expect((await stat(folder)).mode & 0o777).toBe(0o700);
    expect(told).toEqual([`Other users of this machine could look into ${folder}; now only its owner can.`]);
  });
});
