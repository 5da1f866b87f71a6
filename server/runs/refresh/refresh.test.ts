import { copyFile, readFile, rename, rm, symlink, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Answer } from '../../../core/drift/answers';
import { answerTo } from '../../../core/drift/differences';
import { parsePipeline, type Pipeline } from '../../../core/pipeline/document';
import { noteSentence } from '../../../core/runs/run';
import { sentence } from '../../../core/sheet/problem';
import { openHouse, type House } from '../../house/open';
import { csv as csvPieces } from '../../export/csv';
import { plainCsv } from '../../../core/dataset/file-options';
import { datasetWindow, publicationOf } from '../../store/dataset';
import { keptTotals } from '../../store/published';
import { addPipeline, pipelineById, savePipeline } from '../../store/pipelines';
import { endRun, runById, runsOf, startRun } from '../../store/runs';
import { demoExpected, demoFolder, demoPipeline, someReports, temporaryFolder } from '../../testing/folders';
import type { RefreshResult } from './publishing';

let house: House;
let demo: Record<string, unknown>;
let made = 0;
beforeAll(async () => {
  house = await openHouse(undefined, await temporaryFolder());
  demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as Record<string, unknown>;
});
afterAll(() => house.close());

const demoNamed = (changes: object = {}): Pipeline => parsePipeline({ ...demo, ...changes, name: `Demo ${++made}` });
const start = async (folder: string, document = demoNamed()) => (await addPipeline(house.store, document, folder)).id;
async function refreshed(pipeline: number): Promise<RefreshResult> {
  const { finished } = await house.runs.start(pipeline);
  return (await finished)!;
}
const line = (result: RefreshResult, path: string) => result.reports.find((report) => report.path === path)!;
/** The problems of a report in words, and what there is to say of a run. */
const told = (result: RefreshResult, path: string) =>
  line(result, path).problems.map((problem) =>
    sentence(problem, {
      report: () => path,
      step: (id) =>
        [...line(result, path).layers, ...(result.whole?.layers ?? [])].find((layer) => layer.id === id)!.title,
    }),
  );
const noted = ({ notes }: RefreshResult) => notes.map(noteSentence).join(' ');
const saved = async (pipeline: number, document: Pipeline) =>
  savePipeline(house.store, pipeline, document, { from: (await pipelineById(house.store, pipeline))!.version });
const states = (result: RefreshResult) =>
  Object.fromEntries(result.reports.map((report) => [report.path, report.state]));
const parsed = (result: RefreshResult) => result.reports.filter((report) => report.parsed).map((report) => report.path);
async function csv(pipeline: number): Promise<string> {
  let text = '';
  for await (const piece of csvPieces(house.store, (await publicationOf(house.store, pipeline))!, plainCsv))
    text += typeof piece === 'string' ? piece : Buffer.from(piece).toString();
  return text;
}

describe('a refresh of the demo folder', () => {
  it('gives the expected dataset, names what does not contribute, and costs nothing when run again', async () => {
    const pipeline = await start(demoFolder);
    const first = await refreshed(pipeline);
    expect(first.state).toBe('published');
    expect(await csv(pipeline)).toBe(await readFile(demoExpected, 'utf8'));
    expect(first.reports.filter((report) => report.state === 'added')).toHaveLength(13);
    expect(states(first)).toMatchObject({
      'week-32.pdf': 'failed',
      'week-33.pdf': 'failed',
      'week-34.pdf': 'replaced',
      'notes.txt': 'not a PDF',
    });
    expect(told(first, 'week-32.pdf')[0]).toContain('scanned picture');
    expect(told(first, 'week-33.pdf')[0]).toContain('got a damaged one');
    expect(line(first, 'week-24.pdf').matches).toEqual([
      { rule: 'Landings by species', table: 'p2t1', pages: [2, 3, 4], sure: 1, lacks: [] },
    ]);
    expect(line(first, 'week-24.pdf').held).toBe(2 + 4 + 4 + 5);

    const again = await refreshed(pipeline);
    expect([again.state, again.rows, parsed(again)]).toEqual(['nothing new', 885, []]);
    expect(new Set(again.reports.filter((r) => r.rows > 0).map((r) => r.state))).toEqual(new Set(['unchanged']));
    const totals = await house.store.query<{ cells: string }>(
      'select t.cells from kept_total t join part p on p.id = t.part where p.pipeline = $1',
      [pipeline],
    );
    expect(totals).toHaveLength(13 * 5);
    expect(JSON.parse(totals[0].cells)).toMatchObject({ Species: 'Total Saltby' });
  });
});

describe('a refresh of a folder that changes', () => {
  it('parses no file twice: touched, renamed or unchanged ones keep their rows', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(folder);
    expect(parsed(await refreshed(pipeline))).toEqual([]);
    // The demo run above has read the same content: the cache goes by content.
    await utimes(join(folder, 'week-22.pdf'), new Date(), new Date());
    const touched = await refreshed(pipeline);
    expect([touched.state, parsed(touched)]).toEqual(['nothing new', []]);

    const before = line(touched, 'week-23.pdf').report;
    await rename(join(folder, 'week-23.pdf'), join(folder, 'week-25.pdf'));
    const renamed = await refreshed(pipeline);
    expect(line(renamed, 'week-25.pdf')).toMatchObject({ report: before, parsed: false, rows: 64, state: 'changed' });
    expect(renamed.reports).toHaveLength(2);
    // The week comes from the file name, so it follows the new one.
    expect((await csv(pipeline)).split('\n').filter((row) => row.startsWith('25,'))).toHaveLength(64);
  });

  it('keeps the very rows of a renamed file when no step needs the name', async () => {
    const folder = await someReports(['week-22.pdf']);
    const pipeline = await start(folder, demoNamed({ eachReport: [], allReports: [] }));
    await refreshed(pipeline);
    await rename(join(folder, 'week-22.pdf'), join(folder, 'other.pdf'));
    const renamed = await refreshed(pipeline);
    expect([renamed.state, line(renamed, 'other.pdf').state]).toEqual(['nothing new', 'unchanged']);
  });

  it('replaces the rows of a replaced file, adds those of a new one, takes out those of a removed one', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(folder);
    await refreshed(pipeline);
    const versions = await house.store.query<{ report: number; id: number }>(
      'select report, id from part where pipeline = $1',
      [pipeline],
    );

    await copyFile(join(demoFolder, 'week-26.pdf'), join(folder, 'week-22.pdf'));
    await copyFile(join(demoFolder, 'week-24.pdf'), join(folder, 'week-24.pdf'));
    const changed = await refreshed(pipeline);
    expect(states(changed)).toEqual({ 'week-22.pdf': 'changed', 'week-23.pdf': 'unchanged', 'week-24.pdf': 'added' });
    expect(changed.rows).toBe(64 + 64 + 81);
    const now = await house.store.query<{ report: number; part: number }>(
      'select t.report, pp.part from publication_part pp join part t on t.id = pp.part join pipeline p on p.publication = pp.publication where p.id = $1',
      [pipeline],
    );
    const unchanged = line(changed, 'week-23.pdf').report;
    expect(now.find((part) => part.report === unchanged)!.part).toBe(
      versions.find((part) => part.report === unchanged)!.id,
    );

    await rm(join(folder, 'week-23.pdf'));
    const removed = await refreshed(pipeline);
    expect(removed.rows).toBe(64 + 81);
    expect(line(removed, 'week-23.pdf')).toMatchObject({ state: 'removed', rows: 0 });
  });

  it('lets neither of two issues replace the other unasked: what was published stays, marked stale, until it is said which counts', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const document = demoNamed();
    const pipeline = await start(folder, document);
    await refreshed(pipeline);
    await rename(join(folder, 'week-22.pdf'), join(folder, 'week-22-r2.pdf'));
    await copyFile(join(demoFolder, 'week-24.pdf'), join(folder, 'week-22-rB.pdf'));
    const open = await refreshed(pipeline);
    expect(states(open)).toEqual({ 'week-22-r2.pdf': 'stale', 'week-22-rB.pdf': 'failed', 'week-23.pdf': 'unchanged' });
    expect(open.rows).toBe(83 + 64);
    expect(told(open, 'week-22-rB.pdf')).toEqual([
      'week-22-rB.pdf: expected one report for 2025-W22, got week-22-r2.pdf as well, and their names do not tell which is the later issue. Say in the intake which one counts, or that both do.',
    ]);

    const contents = await house.store.query<{ sha256: string; path: string }>(
      "select sha256, path from report where pipeline = $1 and standing = 'undecided'",
      [pipeline],
    );
    const { sha256 } = contents.find(({ path }) => path === 'week-22-rB.pdf')!;
    await saved(
      pipeline,
      parsePipeline({
        ...document,
        reports: { ...document.reports, answers: [{ among: contents.map((each) => each.sha256), counts: [sha256] }] },
      }),
    );
    const said = await refreshed(pipeline);
    expect(states(said)).toEqual({
      'week-22-r2.pdf': 'replaced',
      'week-22-rB.pdf': 'added',
      'week-23.pdf': 'unchanged',
    });
    expect(said.rows).toBe(81 + 64);

    await saved(pipeline, parsePipeline({ ...document, reports: { ...document.reports, aside: [sha256] } }));
    expect(states(await refreshed(pipeline))).toEqual({
      'week-22-r2.pdf': 'added',
      'week-22-rB.pdf': 'set aside',
      'week-23.pdf': 'unchanged',
    });
  });

  it('keeps the rows of a report whose issues are undecided where a step needs all reports at once', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(
      folder,
      demoNamed({ allReports: [{ id: 'trim', kind: 'trim rows', settings: { top: 80 } }] }),
    );
    await refreshed(pipeline);
    const before = await csv(pipeline);
    await rename(join(folder, 'week-22.pdf'), join(folder, 'week-22-r2.pdf'));
    await copyFile(join(demoFolder, 'week-24.pdf'), join(folder, 'week-22-rB.pdf'));
    const open = await refreshed(pipeline);
    expect(states(open)).toEqual({ 'week-22-r2.pdf': 'stale', 'week-22-rB.pdf': 'failed', 'week-23.pdf': 'unchanged' });
    expect(open.state).toBe('nothing new');
    expect(await csv(pipeline)).toBe(before);
  });

  it('keeps the last good rows of a report that is damaged now, marked stale', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(folder);
    const good = await refreshed(pipeline);
    const bytes = await readFile(join(folder, 'week-22.pdf'));
    await writeFile(join(folder, 'week-22.pdf'), bytes.subarray(0, 3000));
    const result = await refreshed(pipeline);
    // Its printed totals are those of the rows that stay.
    expect(line(result, 'week-22.pdf')).toMatchObject({ state: 'stale', rows: 83, ties: { equal: 20, off: 0 } });
    // One report alone cannot be compared with others.
    expect(result.notes).toEqual([
      { kind: 'waiting', reports: 1 },
      ...good.notes.filter(({ kind }) => kind === 'totals'),
    ]);
    expect(result.rows).toBe(83 + 64);
    await writeFile(join(folder, 'week-22.pdf'), bytes);
    expect(line(await refreshed(pipeline), 'week-22.pdf')).toMatchObject({ state: 'changed', rows: 83 });
  });

  it('keeps the last good rows of a report in which a stream is not what was written, instead of publishing what is left of it', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(folder);
    await refreshed(pipeline);
    const bytes = await readFile(join(folder, 'week-22.pdf'));
    bytes[bytes.indexOf('stream') + 200] ^= 4;
    await writeFile(join(folder, 'week-22.pdf'), bytes);
    const result = await refreshed(pipeline);
    expect(line(result, 'week-22.pdf')).toMatchObject({ state: 'stale', rows: 83 });
    expect(line(result, 'week-22.pdf').problems[0]).toMatchObject({ kind: 'damaged', page: expect.any(Number) });
  });

  it('concludes nothing from a folder that is empty all at once, and asks before many reports leave the dataset', async () => {
    const weeks = [22, 23, 24, 25, 26].map((week) => `week-${week}.pdf`);
    const folder = await someReports(weeks);
    const pipeline = await start(folder);
    const { rows } = await refreshed(pipeline);
    for (const week of weeks.slice(0, 3)) await rm(join(folder, week));
    const asked = await refreshed(pipeline);
    expect([asked.state, asked.notes]).toEqual([
      'nothing published',
      [{ kind: 'many gone', reports: weeks.slice(0, 3), of: 5 }],
    ]);
    expect((await publicationOf(house.store, pipeline))!.rows).toBe(rows);
    const { finished } = await house.runs.start(pipeline, { letGo: true });
    expect((await finished)!.rows).toBe(55 + 64);

    for (const week of weeks.slice(3)) await rm(join(folder, week));
    const { run, finished: failed } = await house.runs.start(pipeline);
    expect(await failed).toBeUndefined();
    expect((await runById(house.store, run))!.run).toMatchObject({
      state: 'failed',
      notes: [{ kind: 'failed', error: expect.stringContaining('has no PDF report now, though it held 2') }],
    });
    expect((await publicationOf(house.store, pipeline))!.rows).toBe(55 + 64);
  });

  it('keeps the rows of reports in a subfolder that cannot be looked into', async () => {
    const [folder, disk] = [await someReports(['week-22.pdf']), await someReports(['week-23.pdf'])];
    await symlink(disk, join(folder, 'disk'));
    const other = await openHouse(undefined, await temporaryFolder(), { roots: [folder, disk] });
    try {
      const { id } = await addPipeline(other.store, demoNamed(), folder);
      const states = async () =>
        (await (await other.runs.start(id)).finished)!.reports.map(({ path, state, rows }) => [path, state, rows]);
      expect(await states()).toEqual([
        ['week-22.pdf', 'added', 83],
        ['disk/week-23.pdf', 'added', 64],
      ]);
      // The disk is not there now.
      await rename(disk, `${disk}-away`);
      expect(await states()).toEqual([
        ['week-22.pdf', 'unchanged', 83],
        ['disk/week-23.pdf', 'stale', 64],
        ['disk', 'left out', 0],
      ]);
      await rename(`${disk}-away`, disk);
      expect(await states()).toEqual([
        ['week-22.pdf', 'unchanged', 83],
        ['disk/week-23.pdf', 'changed', 64],
      ]);
    } finally {
      await other.close();
    }
  });

  it('holds back a report that the database does not take, with what it said', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    // More columns than a table may have.
    const wide = {
      id: 'wide',
      kind: 'split column',
      settings: { column: 'Wide', where: 'at cuts', cuts: Array.from({ length: 1700 }, (_, i) => i + 1) },
    };
    const put = { id: 'put', kind: 'constant column', settings: { name: 'Wide', value: 'x'.repeat(1700) } };
    const pipeline = await start(folder, demoNamed({ allReports: [put, wide] }));
    const result = await refreshed(pipeline);
    expect(states(result)).toEqual({ 'week-22.pdf': 'failed', 'week-23.pdf': 'failed' });
    expect(line(result, 'week-22.pdf').problems[0]).toMatchObject({
      kind: 'not read',
      came: expect.stringContaining('1,711 columns, and can have 1,590'),
      remedy: expect.stringContaining('“Unpivot”'),
      offer: 'unpivot',
    });
    expect([result.state, noted(result)]).toEqual([
      'nothing published',
      'No report could be carried; see the sentence of each.',
    ]);
    // Of steps over the whole it is said of the run; the dataset before stays.
    const whole = await start(folder, demoNamed({ allReports: [] }));
    await refreshed(whole);
    const rows = (await publicationOf(house.store, whole))!.rows;
    const before = (await pipelineById(house.store, whole))!;
    await saved(
      whole,
      parsePipeline({
        ...before.document,
        allReports: [{ id: 'number', kind: 'number rows', settings: {} }, put, wide],
      }),
    );
    const refused = await refreshed(whole);
    expect([refused.state, noted(refused)]).toEqual([
      'nothing published',
      expect.stringMatching(
        /^Expected rows that the database takes, got a refusal \(the dataset would have 1,7\d\d columns.*The dataset stays as it was published\.$/,
      ),
    ]);
    expect((await publicationOf(house.store, whole))!.rows).toBe(rows);
  });

  it('runs only the steps anew, without parsing, when the pipeline changes', async () => {
    const folder = await someReports(['week-22.pdf']);
    const document = demoNamed();
    const pipeline = await start(folder, document);
    await refreshed(pipeline);
    const holding = {
      id: 'adj',
      kind: 'sift rows',
      settings: { conditions: [{ of: { is: 'column', name: 'Boxes' }, test: 'is at most', value: 50 }] },
    };
    await saved(pipeline, parsePipeline({ ...document, allReports: [...document.allReports, holding] }));
    const result = await refreshed(pipeline);
    expect([result.state, parsed(result)]).toEqual(['published', []]);
    expect(result.rows).toBeLessThan(83);
    expect(result.rows + line(result, 'week-22.pdf').held).toBe(83 + 15);
  });

  it('keeps types apart when a column changes its type, and publishes what the step says', async () => {
    const folder = await someReports(['week-22.pdf']);
    const document = demoNamed();
    const pipeline = await start(folder, document);
    await refreshed(pipeline);
    await saved(pipeline, parsePipeline({ ...document, allReports: [] }));
    await refreshed(pipeline);
    const publication = (await publicationOf(house.store, pipeline))!;
    expect(new Set(publication.columns.map((column) => column.type))).toEqual(new Set(['text']));
    const [row] = await datasetWindow(house.store, publication, 0, 1);
    expect(row.cells[1]).toBe('31 May 2025');
  });

  it('names a report in which a column is of another type than in the others, and leaves no blank for it in silence', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf', 'week-30.pdf']);
    const typed = {
      id: 'types',
      kind: 'set types',
      settings: { types: [{ columns: { by: 'names matching', pattern: 'Boxes' }, type: 'integer' }] },
    };
    const named = { id: 'late', kind: 'rename', settings: { names: [{ to: 'Boxes', from: ['No. of boxes'] }] } };
    const tables = (demo['eachTable'] as { id: string }[]).filter((step) => step.id !== 'names');
    const result = await refreshed(
      await start(folder, demoNamed({ eachTable: tables, eachReport: [typed], allReports: [named] })),
    );
    expect(states(result)).toEqual({ 'week-22.pdf': 'added', 'week-23.pdf': 'added', 'week-30.pdf': 'failed' });
    expect(told(result, 'week-30.pdf')[0]).toMatch(
      /column “Boxes”: expected the type integer as in the other reports, got text/,
    );
    expect(result.rows).toBe(83 + 5 + 4 + 64 + 5 + 4);
  });

  it('computes all rows anew where a step needs the whole, and says so', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(
      folder,
      demoNamed({ allReports: [{ id: 'trim', kind: 'trim rows', settings: { top: 80 } }] }),
    );
    const result = await refreshed(pipeline);
    expect(noted(result)).toContain('computed anew');
    expect(noted(result)).toMatch(
      /^2 reports added: 67 rows, \d+ held\. All rows were computed anew, as “Trim rows” \(\d+\.\d s\) needs all reports at once\. Nothing differs in 2 reports\. 40 printed totals cannot be compared\.$/,
    );
    expect(result.rows).toBe(83 + 64 - 80);
    const rows = await datasetWindow(house.store, (await publicationOf(house.store, pipeline))!, 0, 100);
    expect(rows.map((row) => row.cells[0]).slice(0, 4)).toEqual(['22', '22', '22', '23']);
    // The totals are kept as those of any other pipeline.
    expect((await keptTotals(house.store, pipeline)).flatMap(({ ties }) => ties)).toHaveLength(40);
    // What is published, not what went into the step.
    expect(await refreshed(pipeline)).toMatchObject({ state: 'nothing new', rows: 83 + 64 - 80 });
  });

  it('says what a step over the whole could not do, each time', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(
      folder,
      demoNamed({
        allReports: [
          { id: 'trim', kind: 'trim rows', settings: { top: 80 } },
          { id: 'twins', kind: 'deduplicate', settings: { columns: { by: 'names', names: ['Gone'] } } },
        ],
      }),
    );
    for (const note of ['computed anew', 'nothing changed']) {
      const { notes, whole } = await refreshed(pipeline);
      // No step sets types: what the totals are of is text.
      expect(notes).toEqual(
        note === 'computed anew'
          ? [
              expect.objectContaining({ kind: 'came', rows: 67 }),
              {
                kind: note,
                steps: [
                  { title: 'Trim rows', took: expect.any(Number) },
                  { title: 'Deduplicate', took: expect.any(Number) },
                ],
              },
              { kind: 'differences', differences: [], reports: 2 },
              { kind: 'totals', ties: { equal: 0, rounded: 0, off: 0, accepted: 0, notComparable: 40 } },
            ]
          : [{ kind: note }],
      );
      expect(whole!.problems).toMatchObject([{ kind: 'step', step: 'twins', column: 'Gone' }]);
    }
  });

  it('calls cancelling in a step over the whole cancelling, and keeps what was published', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const document = demoNamed({ allReports: [{ id: 'trim', kind: 'trim rows', settings: { top: 1 } }] });
    const pipeline = await start(folder, document);
    const before = await refreshed(pipeline);
    await saved(
      pipeline,
      parsePipeline({ ...document, allReports: [{ id: 'trim', kind: 'trim rows', settings: { top: 2 } }] }),
    );
    const { run, finished } = await house.runs.start(pipeline);
    house.runs.follow(run, (event) => {
      if (event.kind === 'progress' && event.now.kind === 'whole') house.runs.cancel(run);
    });
    expect(await finished).toBeUndefined();
    expect((await runById(house.store, run))!.run.state).toBe('cancelled');
    expect(await datasetWindow(house.store, (await publicationOf(house.store, pipeline))!, 0, 1000)).toHaveLength(
      before.rows,
    );
  });

  it('publishes misfits as error cells and counts them', async () => {
    const folder = await someReports(['week-22.pdf']);
    const types = [{ columns: { by: 'names', names: ['Species'] }, type: 'date' }];
    const pipeline = await start(
      folder,
      demoNamed({ allReports: [{ id: 'types', kind: 'set types', settings: { types } }] }),
    );
    const result = await refreshed(pipeline);
    expect(line(result, 'week-22.pdf').misfits).toBe(83);
    expect(told(result, 'week-22.pdf')).toHaveLength(3);
    expect(told(result, 'week-22.pdf')[2]).toMatch(
      /^week-22\.pdf, page 2, step “Set types”, column “Species”: .* 80 more like it are marked in the sheet\.$/,
    );
    const [row] = await datasetWindow(house.store, (await publicationOf(house.store, pipeline))!, 0, 1);
    expect(row.cells[4]).toEqual({ text: 'Reef brill', expected: 'a date like 14 June 2025' });
  });

  it('publishes nothing, and says why, when no report can be carried', async () => {
    const result = await refreshed(await start(await someReports(['week-33.pdf', 'notes.txt'])));
    expect([result.state, noted(result)]).toEqual([
      'nothing published',
      'No report could be carried; see the sentence of each.',
    ]);
    expect(noted(await refreshed(await start(await temporaryFolder())))).toMatch(/^No PDF report was found in /);
  });

  it('ends when cancelled, the dataset before it staying published; a second asker joins the run under way', async () => {
    const folder = await someReports(['week-22.pdf']);
    const pipeline = await start(folder);
    await refreshed(pipeline);
    await copyFile(join(demoFolder, 'week-23.pdf'), join(folder, 'week-23.pdf'));
    const [one, two] = await Promise.all([house.runs.start(pipeline), house.runs.start(pipeline)]);
    expect(two.run).toBe(one.run);
    expect(house.runs.cancel(one.run)).toBe(true);
    expect(await one.finished).toBeUndefined();
    expect((await runById(house.store, one.run))!.run).toMatchObject({ state: 'cancelled' });
    expect((await publicationOf(house.store, pipeline))!.rows).toBe(83);
    expect((await refreshed(pipeline)).rows).toBe(83 + 64);
  });
});

describe('a report that differs', () => {
  const weeks = ['week-22.pdf', 'week-23.pdf', 'week-24.pdf'];
  const differencesIn = ({ notes }: RefreshResult) =>
    notes.flatMap((note) => (note.kind === 'differences' ? note.differences : []));
  const columns = async (pipeline: number) =>
    (await publicationOf(house.store, pipeline))!.columns.map(({ heading }) => heading);
  /** The answer of this kind to the one difference of a run, put into the document. */
  async function answered(pipeline: number, result: RefreshResult, decided: Answer['decided']): Promise<RefreshResult> {
    const [difference] = differencesIn(result);
    const reports = result.reports.filter(({ report }) => difference.reports.includes(String(report)));
    const { document } = (await pipelineById(house.store, pipeline))!;
    await saved(pipeline, {
      ...document,
      answers: [
        answerTo(
          difference,
          difference.proposals.find((each) => each.decided === decided)!,
          reports,
        ),
      ],
    });
    return refreshed(pipeline);
  }

  it('waits for an answer; the others are published, and no run says that all is well', async () => {
    const folder = await someReports(weeks);
    const pipeline = await start(folder, demoNamed({ answers: [] }));
    expect(noted(await refreshed(pipeline))).toContain('Nothing differs in 3 reports.');
    for (const path of ['week-28.pdf', 'week-29.pdf']) await copyFile(join(demoFolder, path), join(folder, path));
    const result = await refreshed(pipeline);
    expect(states(result)).toMatchObject({
      'week-24.pdf': 'unchanged',
      'week-28.pdf': 'held back',
      'week-29.pdf': 'held back',
    });
    expect(noted(result)).toBe(
      'Nothing new came into the dataset; 2 reports wait or could not be had. From 2025-W28 on (2 reports), a column “Quota left (t)” stands after “Value”. There is no report for 2025-W25, 2025-W26 and 2025-W27.',
    );
    expect(told(result, 'week-28.pdf')).toEqual([
      'week-28.pdf, page 2, column “Quota left (t)”: expected what the reports before look like, got something else: a column “Quota left (t)” stands after “Value”. Answer it once under “What needs you”; the report is held back until then.',
    ]);
    expect(await columns(pipeline)).not.toContain('Quota left (t)');

    const after = await answered(pipeline, result, 'as it is');
    expect([after.state, states(after)]).toMatchObject([
      'published',
      { 'week-28.pdf': 'added', 'week-29.pdf': 'added', 'week-22.pdf': 'unchanged' },
    ]);
    expect(await columns(pipeline)).toContain('Quota left (t)');
    // The next report that has it is not asked about.
    await copyFile(join(demoFolder, 'week-30.pdf'), join(folder, 'week-30.pdf'));
    expect(states(await refreshed(pipeline))).toMatchObject({ 'week-30.pdf': 'added' });
  });

  it('has its column left out by the answer, where it can still be looked at', async () => {
    const pipeline = await start(await someReports([...weeks, 'week-28.pdf']), demoNamed({ answers: [] }));
    const after = await answered(pipeline, await refreshed(pipeline), 'leave out');
    expect(states(after)).toMatchObject({ 'week-28.pdf': 'added', 'week-22.pdf': 'unchanged' });
    expect(await columns(pipeline)).not.toContain('Quota left (t)');
  });

  it('is asked about again once the answer by which it came in is withdrawn, whatever the answer was', async () => {
    for (const decided of ['as it is', 'leave out'] as const) {
      const pipeline = await start(await someReports([...weeks, 'week-28.pdf']), demoNamed({ answers: [] }));
      const after = await answered(pipeline, await refreshed(pipeline), decided);
      expect([decided, states(after)]).toMatchObject([decided, { 'week-28.pdf': 'added' }]);
      const { rows } = after;
      await saved(pipeline, { ...(await pipelineById(house.store, pipeline))!.document, answers: [] });
      for (let run = 0; run < 2; run++) {
        const again = await refreshed(pipeline);
        expect(differencesIn(again).map(({ what, column, holds }) => [what, column, holds])).toEqual([
          ['new column', 'Quota left (t)', true],
        ]);
        expect([line(again, 'week-28.pdf').state, (await publicationOf(house.store, pipeline))!.rows]).toEqual([
          'stale',
          rows,
        ]);
      }
    }
  });

  it('in what holds nothing back is told at each refresh until it is answered', async () => {
    const folder = await someReports([...weeks, 'week-25.pdf', 'week-26.pdf']);
    const pipeline = await start(folder, demoNamed({ answers: [] }));
    await refreshed(pipeline);
    // Those before look as if they had many more rows.
    const seen = await house.store.query<{ report: number; traits: string }>(
      'select t.report, t.traits from report_traits t join report r on r.id = t.report where r.pipeline = $1',
      [pipeline],
    );
    for (const { report, traits } of seen)
      await house.store.execute('update report_traits set traits = $2 where report = $1', [
        report,
        traits.replace(/"rows":\d+/, '"rows":700'),
      ]);
    await copyFile(join(demoFolder, 'week-27.pdf'), join(folder, 'week-27.pdf'));
    const first = await refreshed(pipeline);
    expect(differencesIn(first).map(({ what, holds }) => [what, holds])).toEqual([['rows', false]]);
    for (let run = 0; run < 2; run++) {
      const again = await refreshed(pipeline);
      expect([again.state, differencesIn(again)]).toEqual(['nothing new', differencesIn(first)]);
    }
    expect(differencesIn(await answered(pipeline, first, 'as it is'))).toEqual([]);
    expect(differencesIn(await refreshed(pipeline))).toEqual([]);
  });

  it('is kept out by the answer, and told so each time', async () => {
    const pipeline = await start(await someReports([...weeks, 'week-28.pdf']), demoNamed({ answers: [] }));
    const after = await answered(pipeline, await refreshed(pipeline), 'hold back');
    expect(states(after)).toMatchObject({ 'week-28.pdf': 'held back' });
    expect(noted(after)).toContain('It is held back, as you decided.');
  });

  it('keeps the rows of its last good version, marked stale, when it comes anew with a difference', async () => {
    const folder = await someReports([...weeks, 'week-25.pdf']);
    const pipeline = await start(folder, demoNamed({ answers: [] }));
    const rows = line(await refreshed(pipeline), 'week-25.pdf').rows;
    await copyFile(join(demoFolder, 'week-28.pdf'), join(folder, 'week-25.pdf'));
    const result = await refreshed(pipeline);
    expect(line(result, 'week-25.pdf')).toMatchObject({ state: 'stale', rows });
    // Back again as it was: nothing is asked any more.
    await copyFile(join(demoFolder, 'week-25.pdf'), join(folder, 'week-25.pdf'));
    expect(line(await refreshed(pipeline), 'week-25.pdf')).toMatchObject({ state: 'changed', rows, problems: [] });
  });

  it('waits as well where a step needs all reports at once', async () => {
    const folder = await someReports(weeks);
    const whole = demoNamed({
      answers: [],
      allReports: [
        ...(demo['allReports'] as object[]),
        { id: 'sorted', kind: 'sort', settings: { by: [{ column: 'Value' }] } },
      ],
    });
    const pipeline = await start(folder, whole);
    const before = (await refreshed(pipeline)).rows;
    await copyFile(join(demoFolder, 'week-28.pdf'), join(folder, 'week-28.pdf'));
    const result = await refreshed(pipeline);
    expect(line(result, 'week-28.pdf')).toMatchObject({ state: 'held back', rows: 0 });
    expect((await publicationOf(house.store, pipeline))!.rows).toBe(before);
    expect(line(await answered(pipeline, result, 'as it is'), 'week-28.pdf')).toMatchObject({ state: 'added' });
    // The answer is withdrawn: its rows are in the dataset, and stay until it is answered again.
    await saved(pipeline, { ...(await pipelineById(house.store, pipeline))!.document, answers: [] });
    const withdrawn = await refreshed(pipeline);
    expect([withdrawn.state, line(withdrawn, 'week-28.pdf').state]).toEqual(['nothing new', 'stale']);
    expect(noted(withdrawn)).toContain('a column “Quota left (t)” stands after “Value”.');
  });
});

describe('the runs of a pipeline', () => {
  it('tell which of them came to the reports: one that was cancelled says nothing of how they stand', async () => {
    const pipeline = await start(await someReports(['week-22.pdf']));
    await refreshed(pipeline);
    await endRun(house.store, await startRun(house.store, pipeline, 1), 'cancelled', [{ kind: 'cancelled' }]);
    expect((await runsOf(house.store, pipeline)).map(({ state, told: ofReports }) => [state, ofReports])).toEqual([
      ['cancelled', false],
      ['published', true],
    ]);
  });
});

describe('checks', () => {
  const checking = (...checks: object[]) => demoNamed({ checks: checks.map((each, i) => ({ id: `c${i}`, ...each })) });
  const filled = { kind: 'filled', columns: ['Weight (kg) Gutted'] };

  it('that fail are told with row and page; the report is published', async () => {
    const pipeline = await start(
      await someReports(['week-22.pdf', 'week-23.pdf']),
      checking(
        filled,
        { kind: 'rows', least: 70 },
        { kind: 'product', columns: ['Weight (kg) Whole', 'Price per kg'], is: 'Value' },
      ),
    );
    const result = await refreshed(pipeline);
    expect(states(result)).toEqual({ 'week-22.pdf': 'added', 'week-23.pdf': 'added' });
    expect(told(result, 'week-23.pdf').filter((each) => each.includes('what is checked'))).toEqual(
      expect.arrayContaining([
        expect.stringContaining('expected what is checked: A report has at least 70 rows, got 64 rows.'),
        expect.stringMatching(
          /^week-23\.pdf, page 2, column “Weight \(kg\) Gutted”: expected what is checked: “Weight \(kg\) Gutted” is never blank, got a blank\./,
        ),
      ]),
    );
    // Of many only the first are told one by one.
    const blanks = line(result, 'week-23.pdf').problems.filter(
      ({ check, column }) => check === 'c0' && column !== undefined,
    );
    expect([blanks.length, blanks.at(-1)!.more]).toEqual([3, expect.any(Number)]);
    expect(line(result, 'week-22.pdf').problems.some(({ check }) => check === 'c1')).toBe(false);
    // Published as it is, and not without a word; nor where the next refresh has nothing new.
    expect(noted(result)).toContain(
      '2 reports fail what is checked: “Weight (kg) Gutted” is never blank. So with 1 more check.',
    );
    expect(noted(await refreshed(pipeline))).toContain(
      '2 reports fail what is checked: “Weight (kg) Gutted” is never blank. So with 1 more check.',
    );
  });

  it('that hold back keep the report out, the others come; those that stop keep the dataset as it was', async () => {
    const folder = await someReports(['week-22.pdf', 'week-23.pdf']);
    const pipeline = await start(folder, checking({ kind: 'rows', least: 70, severity: 'hold back' }));
    const result = await refreshed(pipeline);
    expect(states(result)).toEqual({ 'week-22.pdf': 'added', 'week-23.pdf': 'held back' });
    await saved(pipeline, {
      ...(await pipelineById(house.store, pipeline))!.document,
      checks: [{ id: 'few', kind: 'rows', most: 70, severity: 'stop' }],
    });
    const stopped = await refreshed(pipeline);
    expect([stopped.state, noted(stopped)]).toEqual([
      'nothing published',
      'Checked: A report has at most 70 rows; week-22.pdf fails. The dataset stays as it was published.',
    ]);
    expect((await publicationOf(house.store, pipeline))!.rows).toBe(83);
  });

  it('say what differs as well when they stop a refresh, and are not failed by what waits anyway', async () => {
    const fewer = { id: 'few', kind: 'rows', least: 60, severity: 'stop' };
    const folder = await someReports(['week-22.pdf', 'week-23.pdf', 'week-28.pdf']);
    // Week 28 has 51 rows, but waits for an answer.
    const pipeline = await start(folder, demoNamed({ answers: [], checks: [fewer] }));
    expect((await refreshed(pipeline)).state).toBe('published');
    await saved(pipeline, {
      ...(await pipelineById(house.store, pipeline))!.document,
      checks: [{ ...fewer, least: 70 } as never],
    });
    const stopped = await refreshed(pipeline);
    expect([stopped.state, noted(stopped)]).toEqual([
      'nothing published',
      expect.stringMatching(
        /^Checked: A report has at least 70 rows; week-23\.pdf fails\. .* a column “Quota left \(t\)” stands after “Value”\.$/,
      ),
    ]);
  });

  it('with another severity hold back what is there, without making rows anew', async () => {
    const pipeline = await start(
      await someReports(['week-22.pdf', 'week-23.pdf']),
      checking({ kind: 'rows', least: 70 }),
    );
    await refreshed(pipeline);
    const { document } = (await pipelineById(house.store, pipeline))!;
    await saved(pipeline, {
      ...document,
      checks: document.checks.map((each) => ({ ...each, severity: 'hold back' as const })),
    });
    expect(states(await refreshed(pipeline))).toEqual({ 'week-22.pdf': 'unchanged', 'week-23.pdf': 'stale' });
  });

  it('over the dataset are asked of the database, each time', async () => {
    const pipeline = await start(
      await someReports(['week-22.pdf', 'week-23.pdf']),
      checking(
        { kind: 'unique', columns: ['Week', 'Code', 'Quay'], over: 'dataset' },
        { kind: 'unique', columns: ['Quay'], over: 'dataset' },
        { kind: 'unique', columns: ['Gone'], over: 'dataset' },
      ),
    );
    for (let times = 0; times < 2; times++) {
      const { notes } = await refreshed(pipeline);
      const failing = notes.filter((note) => note.kind === 'check');
      expect(failing.map(({ check }) => check).filter((id) => id !== 'c0')).toEqual(['c1', 'c2']);
      expect(noteSentence(failing.find(({ check }) => check === 'c1')!)).toMatch(
        /^Checked: “Quay” is unique in the dataset; 4 keys are there more than once: “[^”]+” in \d+ rows/,
      );
    }
  });
});
