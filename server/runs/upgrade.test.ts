// Data folders as older builds left them are opened, migrated and refreshed: nothing is lost, and what changes is named.
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { brotliDecompressSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { openHouse, type House } from '../house/open';
import { cacheIn } from '../setup/config';
import { changedCellsOf } from '../store/changed-cells';
import { publicationOf } from '../store/dataset';
import { catalogue, dataTableOf } from '../store/data-table';
import { addPipeline, allPipelines, moveToFolder, savePipeline, type StoredPipeline } from '../store/pipelines';
import { publishedParts } from '../store/published';
import { reportsOf } from '../store/reports';
import { runsOf } from '../store/runs';
import { parsePipeline } from '../../core/pipeline/document';
import { isThisBuild, thisBuild, type Build } from '../setup/build';
import { demoPipeline, root, someReports, temporaryFolder } from '../testing/folders';
import { asPublished, MadeByAnother, NotExplained } from './as-published';
import { PublishedWindows } from './published-windows';

const folder = join(root, 'server/testing/data-folders');
const releases = readdirSync(folder).filter((name) => name.endsWith('.tar.br'));

/** Unpacks the data folder of a build, its reports, and the dataset that it published. */
async function unpacked(name: string): Promise<string> {
  const into = await temporaryFolder();
  execFileSync('tar', ['x', '-C', into], { input: brotliDecompressSync(readFileSync(join(folder, name))) });
  return into;
}

/** The published rows as text. */
async function rowsIn({ store }: House, { id }: StoredPipeline): Promise<string[]> {
  const { rows } = (await publicationOf(store, id))!;
  const window = await new PublishedWindows(store).window(id, 0, rows);
  return window!.rows.map(({ cells }) =>
    cells.map((cell) => (typeof cell === 'object' && cell !== null ? cell.text : String(cell ?? ''))).join('|'),
  );
}

describe('a data folder of an older build', () => {
  it('is kept for the first build that published, for one in between, and for the last release', () => {
    expect(releases.length).toBeGreaterThanOrEqual(3);
  });

  it.each(releases)('%s: is opened with all that was in it, and refreshed with every change named', async (name) => {
    const into = await unpacked(name);
    const data = join(into, 'data');
    const house = await openHouse(data, cacheIn(data));
    try {
      const [pipeline] = await allPipelines(house.store);
      const before = await rowsIn(house, pipeline);
      const csv = (await readFile(join(into, 'dataset.csv'), 'utf8')).trim().split(/\r?\n/);
      expect(before).toHaveLength(csv.length - 1);
      const runsBefore = await runsOf(house.store, pipeline.id);
      const parts = await publishedParts(house.store, pipeline.id);
      const sameBuild = parts.every(({ build }) => isThisBuild(build));
      // Nothing that another build made is explained by this one.
      const [report] = await reportsOf(house.store, pipeline.id);
      const look = asPublished(
        { store: house.store, cacheFolder: house.cacheFolder, fileOf: async (path) => join(into, 'reports', path) },
        pipeline,
        report.id,
      );
      if (sameBuild) await expect(look).resolves.toBeDefined();
      else
        await expect(look).rejects.toThrow(
          parts.some(({ reading }) => reading === null) ? NotExplained : MadeByAnother,
        );

      await moveToFolder(house.store, pipeline.id, join(into, 'reports'));
      const { finished, run } = await house.runs.start(pipeline.id);
      const result = (await finished)!;
      if (sameBuild) return void expect(result.state).toBe('nothing new');
      expect(result.state).toBe('published');
      expect(result.reports.filter(({ state }) => state === 'changed')).toHaveLength(2);
      const after = await rowsIn(house, pipeline);
      const [note] = result.notes.flatMap((each) => (each.kind === 'made anew' ? [each] : []));
      expect([note.reports, note.unlike]).toEqual([2, 0]);
      expect(note.unknown).toBe(parts.filter(({ version }) => version === null).length);
      // Every cell that is another is named, and nothing that is not.
      const { count, cells } = await changedCellsOf(house.store, run, 0, 10_000);
      expect(count).toBe(note.cells + note.added + note.removed);
      expect(before.length - note.removed + note.added).toBe(after.length);
      const changed = new Set(cells.flatMap(({ row }) => (row === null ? [] : [row - 1])));
      const same = before.filter((row) => after.includes(row)).length;
      expect(after.filter((row, at) => !before.includes(row) && !changed.has(at))).toEqual([]);
      expect(same).toBeGreaterThan(0);
      expect((await runsOf(house.store, pipeline.id)).length).toBe(runsBefore.length + 1);
      await expect(
        asPublished(
          { store: house.store, cacheFolder: house.cacheFolder, fileOf: async (path) => join(into, 'reports', path) },
          pipeline,
          report.id,
        ),
      ).resolves.toBeDefined();
      // Once more: everything is of this build now.
      expect((await (await house.runs.start(pipeline.id)).finished)!.state).toBe('nothing new');
    } finally {
      await house.close();
    }
  });

  it('has the cells named that this build makes otherwise, each with its old value, its new one and its paper', async () => {
    const reports = await someReports(['week-22.pdf', 'week-23.pdf']);
    const house = await openHouse(undefined, await temporaryFolder());
    try {
      const document = parsePipeline(JSON.parse(await readFile(demoPipeline, 'utf8')));
      const { id } = await addPipeline(house.store, document, reports);
      const refreshed = async () => (await (await house.runs.start(id)).finished)!;
      expect((await refreshed()).rows).toBe(147);
      // As if another build had read one cell otherwise, and had not come to the last row.
      const [part] = await publishedParts(house.store, id);
      const table = await dataTableOf(house.store, id);
      const species = (await catalogue(house.store, id)).find(({ heading }) => heading === 'Species')!.identifier;
      await house.store.execute(`update "${table}" set "${species}" = 'Cd' where part = $1 and ordinal = 3`, [part.id]);
      await house.store.execute(`delete from "${table}" where part = $1 and ordinal = $2`, [part.id, part.rows - 1]);
      const another: Build = { release: '0.0.9', stages: { ...thisBuild.stages, values: 'another' } };
      await house.store.execute("update part set build = $2, result_key = 'another', rows = rows - 1 where id = $1", [
        part.id,
        JSON.stringify(another),
      ]);

      const { notes } = await refreshed();
      const [run] = await runsOf(house.store, id);
      expect(notes.find(({ kind }) => kind === 'made anew')).toMatchObject({
        reports: 1,
        unlike: 0,
        cells: 1,
        added: 1,
        removed: 0,
      });
      const { count, cells } = await changedCellsOf(house.store, run.id, 0, 10);
      const rows = (await new PublishedWindows(house.store).window(id, 0, 147))!.rows;
      const column = (await publicationOf(house.store, id))!.columns.findIndex(({ heading }) => heading === 'Species');
      expect(count).toBe(2);
      expect(cells[0]).toEqual({
        kind: 'cell',
        report: part.report,
        page: rows[3].page,
        heading: 'Species',
        before: 'Cd',
        after: rows[3].cells[column],
        row: 4,
      });
      expect(cells[1]).toMatchObject({
        kind: 'row added',
        row: part.rows,
        page: rows[part.rows - 1].page,
        before: null,
      });
      // With another document as well, it cannot be told what changed by which.
      await house.store.execute("update part set build = $2, result_key = 'another' where pipeline = $1", [
        id,
        JSON.stringify(another),
      ]);
      await savePipeline(
        house.store,
        id,
        { ...document, allReports: document.allReports.slice(0, -1) },
        { from: 1, who: '' },
      );
      expect((await refreshed()).notes.find(({ kind }) => kind === 'made anew')).toMatchObject({
        reports: 0,
        unlike: 2,
        cells: 0,
      });
    } finally {
      await house.close();
    }
  });
});
