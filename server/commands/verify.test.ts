import { execFile } from 'node:child_process';
import { copyFile, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bundleFiles } from '../../core/evidence/bundle';
import { evidenceIn, type Evidence } from '../../core/evidence/evidence';
import { slipHtml } from '../../core/evidence/slip';
import type { Pipeline } from '../../core/pipeline/document';
import type { PipelineFull, PublishedAnswer } from '../contract/contract';
import { serve, type Serving } from '../house/serve';
import { demoFolder, demoPipeline, root, someReports, temporaryFolder } from '../testing/folders';
import { asOwner } from '../testing/owner';
import { verified } from './verify';

let server: Serving;
let folder: string;
let id: number;
const get = async <T>(path: string) => (await (await asOwner(server)(path)).json()) as T;
const evidenceOf = (row: number, column: string) =>
  get<Evidence>(`/api/pipelines/${id}/dataset/evidence?row=${row}&column=${encodeURIComponent(column)}`);
const wrong = async (evidence: Evidence, where = folder) =>
  (await verified(evidence, where)).flatMap((check) => check.wrong ?? []);

beforeAll(async () => {
  folder = await someReports(['week-22.pdf', 'week-29.pdf']);
  server = await serve({
    data: await temporaryFolder(),
    host: '127.0.0.1',
    port: 0,
    roots: [dirname(folder)],
    uploadLimit: 1,
    logLevel: 'silent',
  });
  const demo = JSON.parse(await readFile(demoPipeline, 'utf8')) as Pipeline;
  const made = await asOwner(server)('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: demo, folder }),
  });
  ({ id } = (await made.json()) as PipelineFull);
  const { run } = (await (
    await asOwner(server)(`/api/pipelines/${id}/runs`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    })
  ).json()) as { run: number };
  await (await asOwner(server)(`/api/runs/${run}/events`)).text();
});
afterAll(() => server?.stop());

describe('the evidence of a published figure', () => {
  it('names print, file, steps, what was held nearby and the totals that it adds up to', async () => {
    const evidence = await evidenceOf(1, 'Value');
    expect(evidence).toMatchObject({
      format: 'able-sieve/evidence',
      pipeline: { name: 'Landings by species', version: 1 },
      file: { path: 'week-22.pdf', period: '2025-W22' },
      figure: { kind: 'cell', column: 'Value' },
    });
    expect(evidence.file.sha256).toMatch(/^[0-9a-f]{64}$/);
    const { figure } = evidence;
    if (figure.kind !== 'cell') throw new Error('no cell');
    expect(evidence.print.flatMap(({ words }) => words.map(({ text }) => text.replace(',', '')))).toEqual([
      Number(figure.text).toFixed(2),
    ]);
    expect(figure.beside.find(({ column }) => column === 'Code')!.text).toBe('CD1');
    // Taken as text under a number, named by its heading, set to a decimal.
    expect(evidence.passed.map(({ title, column, text }) => [title, column, text.replace(',', '')])).toEqual([
      ['Taken', 'Column 7', Number(figure.text).toFixed(2)],
      ['Promote header rows', 'Value', Number(figure.text).toFixed(2)],
      ['Set types', 'Value', figure.text],
    ]);
    expect(evidence.held.map(({ title }) => title)).toContain('Promote header rows');
    expect(evidence.ties.map(({ label, column, outcome }) => [label, column, outcome])).toEqual([
      ['Total Saltby', 'Value', 'equal'],
      ['Marrow Quay Total all quays', 'Value', 'equal'],
    ]);
  });

  it('is a page that stands alone, says nothing as markup, and can be read again', async () => {
    const evidence = await evidenceOf(1, 'Value');
    const html = slipHtml(
      { ...evidence, held: [{ title: '<b>', reason: '</script><script>alert(1)</script>', page: 2, text: '&' }] },
      [{ page: 2, image: 'data:image/png;base64,AA' }],
    );
    expect(html).not.toContain('<script>alert');
    expect(html).not.toContain('<b>');
    expect(html).not.toMatch(/\b(?:src|href)="https?:/);
    expect(evidenceIn(html).held[0]).toEqual({
      title: '<b>',
      reason: '</script><script>alert(1)</script>',
      page: 2,
      text: '&',
    });
    expect(() => evidenceIn('<html></html>')).toThrow('no evidence slip');
    expect(() => evidenceIn(html.replace('"format"', '"format'))).toThrow('damaged');
  });
});

const run = (...args: string[]) =>
  new Promise<{ code: number; out: string }>((resolve) =>
    execFile(process.execPath, [join(root, 'bin/able-sieve.mjs'), 'verify', ...args], (error, out, said) =>
      resolve({ code: error ? Number(error.code) : 0, out: out + said }),
    ),
  );

describe('a slip is checked against the files', () => {
  it('holds where nothing has changed, also under another name of the file', async () => {
    expect(await wrong(await evidenceOf(1, 'Value'))).toEqual([]);
    const elsewhere = await someReports([]);
    await copyFile(join(demoFolder, 'week-22.pdf'), join(elsewhere, 'renamed.pdf'));
    expect(await wrong(await evidenceOf(1, 'Boxes'), elsewhere)).toEqual([]);
  });

  it('does not hold where a figure, a word or the file is another', async () => {
    const evidence = await evidenceOf(1, 'Value');
    const { figure } = evidence;
    if (figure.kind !== 'cell') throw new Error('no cell');
    expect(await wrong({ ...evidence, figure: { ...figure, text: '12' } })).toEqual([
      `the steps give “${figure.text}”, the slip says “12”`,
    ]);
    const print = evidence.print.map((place) => ({
      ...place,
      words: place.words.map((word) => ({ ...word, text: '9,999.99' })),
    }));
    expect(await wrong({ ...evidence, print })).toEqual(['“9,999.99” does not stand there']);
    const changed = await someReports([]);
    await copyFile(join(demoFolder, 'week-23.pdf'), join(changed, 'week-22.pdf'));
    expect((await wrong(evidence, changed))[0]).toMatch(
      /^no file in .* has the content that the slip names \(SHA-256 [0-9a-f]{12}\.\.\.\); it is missing or was changed$/,
    );
  });

  it('of a printed total is compared again, by the command too', async () => {
    const { totals } = await get<PublishedAnswer>(`/api/pipelines/${id}/dataset/made-of`);
    const kept = totals.find(({ ties }) => ties.some(({ outcome }) => outcome === 'off'))!;
    const evidence = await get<Evidence>(
      `/api/pipelines/${id}/dataset/evidence/total?report=${kept.row.report}&step=${kept.step}&table=${kept.row.table}&ordinal=${kept.row.ordinal}&column=Value`,
    );
    expect(evidence.figure).toMatchObject({
      kind: 'total',
      tie: { printed: 217409.42, computed: 217369.42, outcome: 'off', rows: 16 },
    });
    expect(await wrong(evidence)).toEqual([]);
    const slip = join(await temporaryFolder(), 'slip.html');
    await writeFile(slip, slipHtml(evidence, []));
    expect(await run(slip, '--reports', folder)).toEqual({
      code: 0,
      out: 'as it says   the file week-29.pdf, by its SHA-256\nas it says   the words on page 2\nas it says   the total “Total Tern Point” of Value\nThe slip holds.\n',
    });
    await writeFile(
      slip,
      slipHtml(
        {
          ...evidence,
          figure: {
            ...evidence.figure,
            tie: { ...(evidence.figure as { tie: object }).tie, computed: 217409.42, outcome: 'equal' },
          } as Evidence['figure'],
        },
        [],
      ),
    );
    const tampered = await run(slip, '--reports', folder);
    expect([tampered.code, tampered.out]).toEqual([
      1,
      expect.stringContaining(
        'differs      the total “Total Tern Point” of Value: printed 217409.42, its rows give 217369.42: off\nThe slip does not hold.',
      ),
    ]);
    expect((await run(join(folder, 'none.html'), '--reports', folder)).out).toMatch(
      /^There is no file .*none\.html\.\n$/,
    );
  });

  it('stands in a bundle with others, led to by its first page, and all are checked by one command', async () => {
    const [good, other] = [await evidenceOf(1, 'Value'), await evidenceOf(2, 'Code')];
    const bundle = join(await temporaryFolder(), 'bundle.zip');
    const written = (evidences: Evidence[]) => {
      const files = bundleFiles(
        'Evidence <of> two',
        evidences.map((evidence, at) => ({ name: `Value / row ${at}`, evidence, html: slipHtml(evidence, []) })),
      );
      return { files, bytes: zipSync(Object.fromEntries(files.map(({ name, html }) => [name, strToU8(html)]))) };
    };
    const { files, bytes } = written([good, other]);
    expect(files.map(({ name }) => name)).toEqual(['index.html', '1 Value row 0.html', '2 Value row 1.html']);
    expect(files[0].html).toContain('Evidence &lt;of&gt; two');
    for (const { name } of files.slice(1)) expect(files[0].html).toContain(`href="${encodeURIComponent(name)}"`);
    expect(files[0].html).toContain('<td>week-22.pdf</td><td>2</td>');
    await writeFile(bundle, bytes);
    const { code, out } = await run(bundle, '--reports', folder);
    expect([code, out.split('\n').filter((line) => /slip|html/.test(line))]).toEqual([
      0,
      ['1 Value row 0.html', '2 Value row 1.html', 'All 2 slips hold.'],
    ]);
    await writeFile(
      bundle,
      written([good, { ...other, figure: { ...other.figure, text: 'XX9' } as Evidence['figure'] }]).bytes,
    );
    const tampered = await run(bundle, '--reports', folder);
    expect([tampered.code, tampered.out]).toEqual([
      1,
      expect.stringMatching(/2 Value row 1\.html\n[^]*the slip says “XX9”\n1 of 2 slips does not hold\.\n$/),
    ]);
    await writeFile(bundle, zipSync({ 'notes.txt': strToU8('none') }));
    expect((await run(bundle, '--reports', folder)).out).toContain('is no bundle of evidence slips');
    await writeFile(bundle, bytes.subarray(0, 400));
    expect((await run(bundle, '--reports', folder)).out).toContain('is damaged: it cannot be unpacked');
  });
});
