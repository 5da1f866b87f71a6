import fc from 'fast-check';
import { copyFile, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { zones } from '../../core/steps/step';
import { random } from '../../demo/random';
import type { Traced } from '../contract/answers';
import { openHouse, type House } from '../house/open';
import { publicationOf } from '../store/dataset';
import { addPipeline, pipelineById, savePipeline } from '../store/pipelines';
import { demoFolder, demoPipeline, someReports, temporaryFolder } from '../testing/folders';
import { asPublished, publishedRow } from './as-published';

let house: House;
let demo: Record<string, unknown>;
beforeAll(async () => {
  house = await openHouse(undefined, await temporaryFolder());
  demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as Record<string, unknown>;
});
afterAll(() => house.close());

/** A published dataset of two reports; `whole`: with steps that need all reports at once. */
async function published(name: string, whole: readonly object[] = []) {
  const folder = await someReports(['week-22.pdf', 'week-24.pdf']);
  const document = parsePipeline({ ...demo, name, allReports: [...(demo['allReports'] as object[]), ...whole] });
  const { id } = await addPipeline(house.store, document, folder);
  const { finished } = await house.runs.start(id);
  expect((await finished)!.state).toBe('published');
  return { id, folder, document };
}

async function traced(id: number, folder: string, row: number, column: string): Promise<Traced> {
  const pipeline = (await pipelineById(house.store, id))!;
  const found = (await publishedRow(house.store, id, row))!;
  const {
    version: _,
    steps: __,
    ...look
  } = (await asPublished(
    { store: house.store, cacheFolder: house.cacheFolder, fileOf: async (path) => join(folder, path) },
    pipeline,
    found.row.report,
  ))!;
  const answer = await house.pool.look('trace', { ...look, of: 'sheet', row: found.named, column });
  if ('unreadable' in answer) throw new Error(JSON.stringify(answer));
  return answer;
}

const squeezed = (text: string) => text.replace(/[\s,]+/g, '').toLowerCase();

let put = 0;
/** Another document: steps taken out, switched off, put elsewhere, or put in, as an analyst may do after a refresh. */
function edited(document: Pipeline, seed: number): Pipeline {
  const draw = random(seed);
  const changes: ((of: Pipeline) => Pipeline)[] = [
    (of) => ({
      ...of,
      eachReport: [
        { id: `t${++put}`, kind: 'trim rows', settings: { top: draw.whole(1, 9), bottom: 0, from: 0, to: 0 } },
        ...of.eachReport,
      ],
    }),
    (of) => ({
      ...of,
      allReports: [
        ...of.allReports,
        { id: `p${++put}`, kind: 'pick columns', settings: { columns: { by: 'all after', name: 'Species' } } },
      ],
    }),
    (of) => ({ ...of, take: [] }),
    (of) => {
      const zone = draw.one(zones.filter((each) => of[each].length > 0));
      const at = draw.whole(0, of[zone].length - 1);
      return { ...of, [zone]: of[zone].filter((_, i) => i !== at) };
    },
    (of) => ({ ...of, eachReport: of.eachReport.map((step) => (draw.chance(0.5) ? { ...step, off: true } : step)) }),
    (of) => ({ ...of, eachTable: [...of.eachTable].reverse() }),
  ];
  return Array.from({ length: draw.whole(1, 3) }).reduce<Pipeline>((of) => draw.one(changes)(of), document);
}

describe('a trace of a published cell', () => {
  it('is answered by what published it, after any edit of the document, and names the words that say the cell', async () => {
    const { id, folder, document } = await published('Edited after publishing');
    const publication = (await publicationOf(house.store, id))!;
    const said = new Map<string, Traced>();
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 0, max: 2 ** 31 }),
        fc.nat(publication.rows - 1),
        fc.nat(publication.columns.length - 1),
        async (seed, row, at) => {
          const { heading } = publication.columns[at];
          const key = `${row} ${heading}`;
          const before = said.get(key) ?? (await traced(id, folder, row, heading));
          said.set(key, before);
          const { version } = (await pipelineById(house.store, id))!;
          await savePipeline(house.store, id, parsePipeline(edited(document, seed)), { from: version });
          expect(await traced(id, folder, row, heading)).toEqual(before);
          const cell = (await publishedRow(house.store, id, row))!.row.cells[at];
          if (typeof cell === 'string' && heading === 'Species')
            expect(squeezed(before.places.flatMap(({ words }) => words.map(({ text }) => text)).join(''))).toBe(
              squeezed(cell),
            );
        },
      ),
      { numRuns: 40 },
    );
  });

  it('finds the row by its name where steps over all reports moved, held and split rows', async () => {
    const { id, folder } = await published('Whole', [
      { id: 'order', kind: 'sort', settings: { by: [{ column: 'Species', order: 'down' }] } },
      {
        id: 'parts',
        kind: 'split column',
        settings: { column: 'Species', where: 'at every mark', mark: ' ', to: 'rows' },
      },
      { id: 'trim', kind: 'trim rows', settings: { top: 3 } },
    ]);
    const publication = (await publicationOf(house.store, id))!;
    const species = publication.columns.findIndex(({ heading }) => heading === 'Species');
    for (let row = 0; row < publication.rows; row += 7) {
      const { row: found } = (await publishedRow(house.store, id, row))!;
      const { places, rows } = await traced(id, folder, row, 'Species');
      expect(rows).toEqual([{ report: String(found.report), table: found.table, ordinal: found.ordinal }]);
      expect(places.map(({ report }) => report)).toEqual([found.report]);
      // A part of the text: the words behind it are those of the whole text.
      expect(squeezed(places[0].words.map(({ text }) => text).join(''))).toContain(
        squeezed(String(found.cells[species])),
      );
    }
  });

  it('is answered from what was read, when the file is another by now or gone', async () => {
    const { id, folder } = await published('Gone');
    const before = await traced(id, folder, 5, 'Species');
    await copyFile(join(demoFolder, 'week-25.pdf'), join(folder, 'week-22.pdf'));
    expect(await traced(id, folder, 5, 'Species')).toEqual(before);
    await rm(join(folder, 'week-22.pdf'));
    expect(await traced(id, folder, 5, 'Species')).toEqual(before);
  });
});

describe('a step that needs all reports at once', () => {
  const trim = { id: 'trim', kind: 'trim rows', settings: { top: 80 } };
  const twins = { id: 'twins', kind: 'deduplicate', settings: { columns: { by: 'names', names: ['Species'] } } };

  it('counts for each report what it kept and held of it', async () => {
    const { id } = await published('Counted', [trim]);
    const result = (await (await house.runs.start(id)).finished)!;
    expect(result.reports.map(({ path, rows, held }) => [path, rows, held])).toEqual([
      ['week-22.pdf', 3, 15 + 80],
      ['week-24.pdf', 81, 15],
    ]);
  });

  it('keeps the rows of a report that is damaged now, of what it was when it last was good, though the steps are others', async () => {
    const { id, folder, document } = await published('Damaged', [trim]);
    const bytes = await readFile(join(folder, 'week-24.pdf'));
    await writeFile(join(folder, 'week-24.pdf'), bytes.subarray(0, 3000));
    const { version } = (await pipelineById(house.store, id))!;
    await savePipeline(house.store, id, parsePipeline({ ...document, allReports: [...document.allReports, twins] }), {
      from: version,
    });
    const result = (await (await house.runs.start(id)).finished)!;
    expect(result.state).toBe('published');
    expect(result.reports.map(({ path, state }) => [path, state])).toEqual([
      ['week-22.pdf', 'changed'],
      ['week-24.pdf', 'stale'],
    ]);
    expect(result.reports[1].rows).toBeGreaterThan(0);
    expect(result.reports[1].problems[0]).toMatchObject({ kind: 'damaged' });
    expect((await (await house.runs.start(id)).finished)!.state).toBe('nothing new');
  });

  it('leaves the dataset as it was when a report in it cannot be had in any way', async () => {
    const { id, document } = await published('Waits', [trim]);
    const { version } = (await pipelineById(house.store, id))!;
    // What is taken is no longer found in either report.
    const take = document.take.map((rule) => ({
      ...rule,
      title: 'No such table',
      heading: ['Nothing', 'like', 'it'],
      least: 0.9,
    }));
    await savePipeline(house.store, id, parsePipeline({ ...document, take }), { from: version });
    const result = (await (await house.runs.start(id)).finished)!;
    expect([result.state, result.notes]).toEqual([
      'nothing published',
      [{ kind: 'whole waits', report: 'week-22.pdf' }],
    ]);
    expect((await publicationOf(house.store, id))!.rows).toBe(84);
  });
});
