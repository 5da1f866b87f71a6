import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parsePipeline } from '../../core/pipeline/document';
import type { ValueType } from '../../core/sheet/column';
import { PublishedWindows } from '../runs/published-windows';
import { TooManyColumns } from './data-table';
import { csv as csvPieces } from '../export/csv';
import { plainCsv } from '../../core/dataset/file-options';
import { publicationOf } from './dataset';
import { migrate } from './migrate';
import { openPglite } from './pglite-store';
import { addPipeline } from './pipelines';
import { clearLeftovers, csvLine, loadPart, makeRoomForColumns, publish, reservePart } from './publish';
import { startRun } from './runs';
import type { Store } from './store';
import { thisBuild } from '../setup/build';

let store: Store;
beforeAll(async () => {
  store = await openPglite();
  await migrate(store);
});
afterAll(() => store.close());

let made = 0;
const pipelineNow = async () =>
  (
    await addPipeline(
      store,
      parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: `Table ${++made}`, take: [] }),
      '/nowhere',
    )
  ).id;

/** Publishes a part of three rows for each list of headings. */
async function published(pipeline: number, ...parts: readonly string[][]) {
  const run = await startRun(store, pipeline, 1);
  const ids: number[] = [];
  for (const [i, headings] of parts.entries()) {
    const id = await reservePart(store, pipeline, i + 1, `${headings.join()}`, {
      version: 1,
      build: thisBuild,
      inputs: [],
    });
    const columns = headings.map((heading) => ({ heading, type: 'text' as ValueType }));
    await loadPart(
      store,
      pipeline,
      id,
      {
        rows: 3,
        held: 0,
        columns,
        batches: [
          [0, 1, 2]
            .map((row) => csvLine([id, row, i + 1, 't', row, 1, ...headings.map((heading) => `${heading} ${row}`)]))
            .join(''),
        ],
        misfits: [{ ordinal: 1, heading: headings[0], text: 'n/k', expected: 'x' }],
        totals: [],
      },
      {},
    );
    ids.push(id);
  }
  await publish(
    store,
    pipeline,
    run,
    1,
    ids.map((part) => ({ part, stale: false })),
    [...new Set(parts.flat())].map((heading) => ({ heading, type: 'text' })),
    () => undefined,
  );
  await clearLeftovers(store, pipeline);
}

const csvOf = async (pipeline: number) => {
  let csv = '';
  for await (const piece of csvPieces(store, (await publicationOf(store, pipeline))!, plainCsv))
    csv += typeof piece === 'string' ? piece : Buffer.from(piece).toString();
  return csv;
};
const tables = async (pipeline: number) =>
  (
    await store.query<{ name: string }>(
      "select relname as name from pg_class where relkind = 'r' and relname like $1 order by 1",
      [`data\\_${pipeline}%`],
    )
  ).map(({ name }) => name);

describe('a data table that has gathered many columns', () => {
  it('is replaced by its next generation with those in use, and every reader sees the same rows', async () => {
    const pipeline = await pipelineNow();
    const weeks = (from: number) => Array.from({ length: 8 }, (_, i) => `Week ${from + i}`);
    for (let from = 0; from < 40; from += 8) await published(pipeline, ['Quay', ...weeks(from)]);
    await published(pipeline, ['Quay', 'Week 7', 'New'], ['Quay', 'Other']);
    const windows = new PublishedWindows(store);
    const [csv, window] = [await csvOf(pipeline), (await windows.window(pipeline, 0, 10))!.rows];
    const view = async () =>
      store.query(`select "quay", "new", "other" from published."table_${made}" order by report, "quay"`);
    const seen = await view();
    expect(seen).toHaveLength(6);

    // With few columns nothing is done.
    await makeRoomForColumns(store, pipeline);
    expect(await tables(pipeline)).toEqual([`data_${pipeline}`]);

    const exporting = csvPieces(store, (await publicationOf(store, pipeline))!, plainCsv);
    let exported = String((await exporting.next()).value);
    await makeRoomForColumns(store, pipeline, 40);
    expect(await tables(pipeline)).toEqual([`data_${pipeline}_2`]);
    expect(await csvOf(pipeline)).toBe(csv);
    expect(await view()).toEqual(seen);
    expect((await windows.window(pipeline, 0, 10))!.rows).toEqual(window);
    expect((await new PublishedWindows(store).window(pipeline, 0, 10))!.rows).toEqual(window);
    // An export that had begun before comes to its end.
    for await (const piece of exporting) exported += Buffer.from(piece as Uint8Array).toString();
    expect(exported).toBe(csv);

    // And the next report goes on from there.
    await published(pipeline, ['Quay', 'New', 'Newer']);
    expect(await csvOf(pipeline)).toBe(
      'Quay,New,Newer\n"Quay 0","New 0","Newer 0"\n"Quay 1","New 1","Newer 1"\n"Quay 2","New 2","Newer 2"\n'.replaceAll(
        '"',
        '',
      ),
    );
  });

  it('stays as it is where most of them are in use, and what was begun before a kill is begun anew', async () => {
    const pipeline = await pipelineNow();
    const many = Array.from({ length: 30 }, (_, i) => `Column ${i}`);
    await published(pipeline, many);
    await makeRoomForColumns(store, pipeline, 20);
    expect(await tables(pipeline)).toEqual([`data_${pipeline}`]);
    await store.script(`create table data_${pipeline}_2 (left_over integer)`);
    await published(pipeline, ['Column 1']);
    const csv = await csvOf(pipeline);
    await makeRoomForColumns(store, pipeline, 20);
    expect([await tables(pipeline), await csvOf(pipeline)]).toEqual([[`data_${pipeline}_2`], csv]);
  });

  it('refuses what goes beyond the most that it can have, and takes the next', async () => {
    const pipeline = await pipelineNow();
    await expect(
      published(
        pipeline,
        Array.from({ length: 1_600 }, (_, i) => `Column ${i}`),
      ),
    ).rejects.toThrow(TooManyColumns);
    await published(pipeline, ['Quay']);
    expect((await publicationOf(store, pipeline))!.rows).toBe(3);
  });
});
