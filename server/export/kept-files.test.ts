// Files that are written anew after each publication, over a real refresh of the demo's reports.
import { copyFile, mkdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { parse } from 'csv-parse/sync';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { KeptFile } from '../../core/dataset/file-options';
import { parsePipeline } from '../../core/pipeline/document';
import { noteSentence } from '../../core/runs/run';
import { openHouse, type House } from '../house/open';
import { addPipeline, pipelineById, savePipeline } from '../store/pipelines';
import { demoFolder, demoPipeline, someReports, temporaryFolder } from '../testing/folders';

let house: House;
let folder: string;
let out: string;
let pipeline: number;

beforeAll(async () => {
  folder = await someReports(['week-22.pdf', 'week-23.pdf']);
  out = await temporaryFolder();
  house = await openHouse(undefined, await temporaryFolder(), { roots: [folder, out] });
  const demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as object;
  pipeline = (await addPipeline(house.store, parsePipeline({ ...demo, name: 'Kept' }), folder)).id;
});
afterAll(() => house.close());

async function refreshed() {
  const { finished } = await house.runs.start(pipeline);
  const { state, notes } = (await finished)!;
  return {
    state,
    told: notes
      .filter(({ kind }) => kind === 'files')
      .map(noteSentence)
      .join(' '),
  };
}
async function keeping(files: Partial<KeptFile>[]) {
  const { document, version } = (await pipelineById(house.store, pipeline))!;
  await savePipeline(house.store, pipeline, parsePipeline({ ...document, files }), { from: version });
}
const rowsIn = async (name: string, delimiter = ',') =>
  (parse(await readFile(join(out, name)), { delimiter }) as string[][]).slice(1);

describe('kept files', () => {
  it('are written after a publication, those of new reports under their periods, and left alone where they say the same', async () => {
    await keeping([
      { path: join(out, 'all.csv'), csv: { separator: 'semicolon', decimal: 'comma' } },
      { path: join(out, 'new {periods}.csv'), rows: 'new' },
    ]);
    expect(await refreshed()).toEqual({
      state: 'published',
      told: `${out}/all.csv and ${out}/new 2025-W22 to 2025-W23.csv were written.`,
    });
    const [all, news] = [await rowsIn('all.csv', ';'), await rowsIn('new 2025-W22 to 2025-W23.csv')];
    expect([all.length, all.map((row) => row.map((cell) => cell.replace(',', '.')))]).toEqual([
      147,
      news.map((row) => row.map((cell) => cell.replace(',', '.'))),
    ]);
    const { mtimeMs } = await stat(join(out, 'all.csv'));
    expect(await refreshed()).toEqual({ state: 'nothing new', told: '' });
    expect((await stat(join(out, 'all.csv'))).mtimeMs).toBe(mtimeMs);

    await copyFile(join(demoFolder, 'week-24.pdf'), join(folder, 'week-24.pdf'));
    expect(await refreshed()).toEqual({
      state: 'published',
      told: `${out}/all.csv and ${out}/new 2025-W24.csv were written.`,
    });
    expect(new Set((await rowsIn('new 2025-W24.csv')).map(([week]) => week))).toEqual(new Set(['24']));
    expect(await rowsIn('all.csv', ';')).toHaveLength(147 + 81);
  });

  it('come at the next refresh where they are new, or gone, though nothing is published', async () => {
    await keeping([{ path: join(out, 'book.xlsx') }]);
    expect(await refreshed()).toEqual({ state: 'nothing new', told: `${out}/book.xlsx was written.` });
    await rm(join(out, 'book.xlsx'));
    expect(await refreshed()).toEqual({ state: 'nothing new', told: `${out}/book.xlsx was written.` });
    expect((await stat(join(out, 'book.xlsx'))).size).toBeGreaterThan(5000);
  });

  it('that cannot be written are named with the reason, again at each refresh, and nothing is left half written', async () => {
    const outside = await temporaryFolder();
    await mkdir(join(out, 'taken.csv'));
    await keeping([
      { path: join(outside, 'all.csv') },
      { path: join(out, 'all.doc') },
      { path: join(out, 'taken.csv') },
      { path: join(out, 'fine.csv') },
    ]);
    for (let run = 0; run < 2; run++) {
      const { told } = await refreshed();
      expect(told).toContain(
        `${outside}/all.csv could not be written: ${outside} is outside the folders that may be read`,
      );
      expect(told).toContain(`${out}/all.doc could not be written: ${out}/all.doc: a dataset is written as .csv`);
      expect(told).toContain(
        `${out}/taken.csv could not be written: there is a file already that this pipeline did not write.`,
      );
      expect(told.includes(`${out}/fine.csv was written.`)).toBe(run === 0);
    }
    expect((await stat(join(out, 'taken.csv'))).isDirectory()).toBe(true);
  });

  it('never stand in the place of a file that the pipeline did not write', async () => {
    await writeFile(join(out, 'theirs.json'), '{"before":true}');
    await keeping([{ path: join(out, 'theirs.json') }]);
    for (let run = 0; run < 2; run++)
      expect((await refreshed()).told).toBe(
        `${out}/theirs.json could not be written: there is a file already that this pipeline did not write. Move it away, or choose another name.`,
      );
    expect(await readFile(join(out, 'theirs.json'), 'utf8')).toBe('{"before":true}');
    await rm(join(out, 'theirs.json'));
    expect((await refreshed()).told).toBe(`${out}/theirs.json was written.`);
  });
});
