import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parsePipeline } from '../../core/pipeline/document';
import { openHouse } from '../house/open';
import { root, temporaryFolder } from '../testing/folders';
import { madeRows, publishMade } from '../testing/rows';
import { csv as csvPieces } from '../export/csv';
import { plainCsv } from '../../core/dataset/file-options';
import { datasetWindow, publicationOf } from './dataset';
import { migrate } from './migrate';
import { freeIdentifier, slug } from './names';
import { openPglite } from './pglite-store';
import { addPipeline, deletePipeline, pipelineById } from './pipelines';
import { clearLeftovers, loadPart, publish, reservePart } from './publish';
import { startRun } from './runs';
import type { Store } from './store';
import { thisBuild } from '../setup/build';

let made = 0;
/** What a part was made of, where it does not matter. */
const nothing = { version: 1, build: thisBuild, inputs: [] };
const pipelineIn = (store: Store) =>
  addPipeline(
    store,
    parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: `Made up ${++made}`, take: [] }),
    '/nowhere',
  );
const count = async (store: Store, table: string) =>
  Number((await store.query<{ n: string }>(`select count(*) as n from ${table}`))[0].n);

describe('publishing', () => {
  let store: Store;
  beforeAll(async () => {
    store = await openPglite();
    await migrate(store);
  });
  afterAll(() => store.close());

  it('answers a page of the dataset between two batches, of the version before', async () => {
    const pipeline = await pipelineIn(store);
    await publishMade(store, pipeline.id, 50);
    const seen: number[] = [];
    const reads: Promise<unknown>[] = [];
    let loaded = 0;
    const order: string[] = [];
    await publishMade(store, pipeline.id, 500, {
      size: 100,
      watch: (moment) => {
        order.push(moment);
        if (moment !== 'batch loaded') return;
        loaded++;
        const after = loaded;
        reads.push(
          publicationOf(store, pipeline.id).then(async (publication) => {
            const rows = await datasetWindow(store, publication!, 40, 20);
            seen.push(publication!.rows);
            order.push(`page answered after batch ${after}`);
            expect(rows).toHaveLength(10);
          }),
        );
      },
    });
    await Promise.all(reads);
    expect(seen).toEqual([50, 50, 50, 50, 50]);
    // The first page came while batches were still to be loaded.
    expect(order.indexOf('page answered after batch 1')).toBeLessThan(order.lastIndexOf('batch loaded'));
    expect((await publicationOf(store, pipeline.id))!.rows).toBe(500);
  });

  it.each(['batch loaded', 'before the switch', 'after the switch'])(
    'leaves a complete dataset when killed at: %s',
    async (moment) => {
      const folder = await temporaryFolder();
      const first = await openPglite(folder);
      await migrate(first);
      const pipeline = await pipelineIn(first);
      await publishMade(first, pipeline.id, 120);
      await first.close();

      const child = spawn(
        process.execPath,
        ['--import', 'tsx', join(root, 'server/testing/publish-and-die.fixture.ts'), folder, moment],
        { cwd: root, stdio: 'inherit' },
      );
      const [, signal] = (await once(child, 'exit')) as [number | null, string | null];
      expect(signal).toBe('SIGKILL');

      const house = await openHouse(folder, join(folder, 'cache'));
      const publication = (await publicationOf(house.store, pipeline.id))!;
      expect(publication.rows).toBe(moment === 'after the switch' ? 300 : 120);
      const rows = await datasetWindow(house.store, publication, 0, 1000);
      expect(rows.map((row) => row.cells)).toEqual(
        Array.from({ length: publication.rows }, (_, n) => [`V1-${n}`, n + 0.5]),
      );
      // Leftovers are cleared at start: nothing but the published rows is there.
      expect(await count(house.store, `data_${pipeline.id}`)).toBe(publication.rows);
      expect(await house.store.query("select state from run where state = 'running'")).toEqual([]);
      expect(house.interrupted).toEqual(moment === 'after the switch' ? [] : [pipeline.id]);
      await publishMade(house.store, pipeline.id, 7);
      expect((await publicationOf(house.store, pipeline.id))!.rows).toBe(7);
      await house.close();
    },
  );

  it('rewrites no row of a part that stays', async () => {
    const pipeline = await pipelineIn(store);
    const { publication } = await publishMade(store, pipeline.id, 30);
    const [{ part }] = await store.query<{ part: number }>('select part from publication_part where publication = $1', [
      publication,
    ]);
    const added = await reservePart(store, pipeline.id, 2, 'other', nothing);
    await loadPart(store, pipeline.id, added, madeRows(added, 2, 5), {});
    await publish(
      store,
      pipeline.id,
      await startRun(store, pipeline.id, 1),
      1,
      [
        { part, stale: false },
        { part: added, stale: false },
      ],
      madeRows(1, 1, 1).columns,
      () => undefined,
    );
    await clearLeftovers(store, pipeline.id);
    expect(await count(store, `data_${pipeline.id}`)).toBe(35);
    const now = (await publicationOf(store, pipeline.id))!;
    expect((await datasetWindow(store, now, 28, 4)).map((row) => [row.row, row.cells[0]])).toEqual([
      [28, 'V1-28'],
      [29, 'V1-29'],
      [30, 'V2-0'],
      [31, 'V2-1'],
    ]);
  });

  it('keeps error cells blank, with text and reason beside', async () => {
    const pipeline = await pipelineIn(store);
    const part = await reservePart(store, pipeline.id, 1, 'k', nothing);
    const made = madeRows(part, 1, 2);
    await loadPart(
      store,
      pipeline.id,
      part,
      {
        ...made,
        batches: [`${part},0,1,p1t1,0,1,"A",1\n${part},1,1,p1t1,1,1,"B",\n`],
        misfits: [{ ordinal: 1, heading: 'Value', text: 'n/k', expected: 'a number' }],
      },
      {},
    );
    await publish(
      store,
      pipeline.id,
      await startRun(store, pipeline.id, 1),
      1,
      [{ part, stale: false }],
      made.columns,
      () => undefined,
    );
    const publication = (await publicationOf(store, pipeline.id))!;
    expect(publication.misfits).toBe(1);
    expect((await datasetWindow(store, publication, 0, 9)).map((row) => row.cells[1])).toEqual([
      1,
      { text: 'n/k', expected: 'a number' },
    ]);
    let csv = '';
    for await (const piece of csvPieces(store, publication, plainCsv))
      csv += Buffer.from(piece as Uint8Array).toString();
    expect(csv).toBe('Code,Value\nA,1\nB,\n');
  });

  it('offers the published rows under the documented name, headings as comments', async () => {
    const pipeline = await pipelineIn(store);
    await publishMade(store, pipeline.id, 3);
    await publishMade(store, pipeline.id, 4);
    const view = `published.${pipeline.viewName}`;
    expect(view).toBe(`published.made_up_${made}`);
    expect(await store.query(`select count(*), sum(value) from ${view}`)).toEqual([{ count: '4', sum: '8.0' }]);
    const [{ comment }] = await store.query<{ comment: string }>(
      `select col_description('${view}'::regclass, 4) as comment`,
    );
    expect(comment).toBe('Value');
    await deletePipeline(store, (await pipelineById(store, pipeline.id))!);
    await expect(store.query(`select * from ${view}`)).rejects.toThrow('does not exist');
  });
});

describe('identifiers', () => {
  it('are short and plain', () => {
    expect(slug('Weight (kg) Gutted', 'column')).toBe('weight_kg_gutted');
    expect(slug('Größe – Maß', 'column')).toBe('gro_e_ma');
    expect(slug('2025', 'column')).toBe('column_2025');
    expect(slug('合計', 'column')).toBe('column');
    expect(slug('x'.repeat(200), 'column')).toHaveLength(40);
    expect(freeIdentifier('value', new Set(['value', 'value_2']))).toBe('value_3');
  });
});
