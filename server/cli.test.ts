import { exec, execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { copyFile, cp, mkdir, readdir, readFile, stat, symlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { PDFDocument } from '@cantoo/pdf-lib';
import { describe, expect, it } from 'vitest';
import { pageRange } from './commands/tables';
import {
  demoExpected,
  demoFolder,
  demoPipeline,
  notesExpected,
  notesFolder,
  notesPipeline,
  registerExpected,
  registerFolder,
  registerPipeline,
  rollExpected,
  rollFolder,
  rollPipeline,
  root,
  someReports,
  temporaryFolder,
  throughputExpected,
  throughputFolder,
  throughputPipeline,
  tideDatasets,
  tideFolder,
} from './testing/folders';
import { often } from './testing/tier';

const sieve = (...args: string[]) =>
  new Promise<{ code: number; out: string; said: string }>((resolve) =>
    execFile(
      process.execPath,
      [join(root, 'bin/able-sieve.mjs'), ...args],
      { cwd: root, maxBuffer: 1 << 26 },
      (error, out, said) => resolve({ code: error ? Number(error.code) : 0, out, said }),
    ),
  );

describe('able-sieve tables', () => {
  it('prints every piece of every table as JSON, the pieces linked', async () => {
    const { code, out } = await sieve('tables', join(demoFolder, 'week-24.pdf'), '--json');
    expect(code).toBe(0);
    const { pages, tables, problems } = JSON.parse(out) as {
      pages: number;
      tables: {
        id: string;
        page: number;
        continues: string | null;
        title: string | null;
        reading: string;
        box: number[];
        rows: string[][];
        alternatives: { reading: string }[];
      }[];
      problems: string[];
    };
    expect([pages, problems]).toEqual([4, []]);
    expect(tables.map(({ id, page, continues, title }) => ({ id, page, continues, title }))).toEqual([
      { id: 'p2t1', page: 2, continues: null, title: 'Landings by species' },
      { id: 'p3t1', page: 3, continues: 'p2t1', title: null },
      { id: 'p4t1', page: 4, continues: 'p3t1', title: null },
      { id: 'p4t2', page: 4, continues: null, title: 'Vessel calls' },
    ]);
    expect(tables[0].rows[0]).toEqual(['Code', 'Species', 'Boxes', 'Weight (kg)', '', 'Price', 'Value']);
    expect(tables[0].box).toHaveLength(4);
    expect(tables[0].alternatives.map((each) => each.reading)).toContain('line by line');
  });

  it('reads the pages asked for, and offers whole pages', async () => {
    const { out } = await sieve('tables', join(demoFolder, 'week-24.pdf'), '--pages', '1,3', '--whole-pages', '--json');
    expect((JSON.parse(out) as { tables: { id: string }[] }).tables.map((table) => table.id)).toEqual([
      'p3t1',
      'p1w',
      'p3w',
    ]);
    expect([1, 2, 3, 5, 6, 7].filter(pageRange('1, 3-5,7'))).toEqual([1, 3, 5, 7]);
    expect(() => pageRange('a-b')).toThrow('is not a range of pages');
  });

  it('shows the reading asked for, names the tables that cannot be read so, and refuses one that there is not', async () => {
    const { out, said } = await sieve('tables', join(demoFolder, 'week-24.pdf'), '--reading', 'line by line', '--json');
    expect(
      (JSON.parse(out) as { tables: { reading: string; rows: string[][] }[] }).tables.every(
        (table) => table.reading === 'line by line' && table.rows[0].length === 1,
      ),
    ).toBe(true);
    expect(said).toBe('');
    const tagged = await sieve('tables', join(demoFolder, 'week-24.pdf'), '--reading', 'tagged');
    expect(tagged.said).toContain('p2t1 on page 2 cannot be read “tagged”; it is shown as read “ruled”.');
    expect((await sieve('tables', join(demoFolder, 'week-24.pdf'), '--reading', 'sideways')).said).toContain(
      'There is no reading “sideways”. It is one of: tagged, ruled, aligned, aligned by first column, aligned by every line, aligned otherwise, with the line above, with the line below, without the top line, joined with the next table, left of the widest gap, right of the widest gap, column after column, line by line.',
    );
  });

  it.each([
    ['week-33.pdf', 'week-33.pdf: expected a whole PDF, got a damaged one'],
    ['notes.txt', 'notes.txt: expected a PDF, got a file that does not begin with the PDF header'],
    ['none.pdf', 'There is no file'],
  ])('%s: ends with one sentence', async (name, sentence) => {
    const { code, out, said } = await sieve('tables', join(demoFolder, name), '--json');
    expect([code, out]).toEqual([1, '']);
    expect(said).toContain(sentence);
    expect(said.trim().split('\n')).toHaveLength(1);
  });
});

describe('able-sieve run and trace', () => {
  it('gives the expected dataset as a file, without leaving data behind', async () => {
    const out = join(await temporaryFolder(), 'out.csv');
    const result = await sieve('run', demoPipeline, '--reports', demoFolder, '--out', out);
    expect(result.code).toBe(0);
    expect(await readFile(out, 'utf8')).toBe(await readFile(demoExpected, 'utf8'));
    expect(result.out).toMatch(
      /^week-30\.pdf +added +67 +\d+ +0 +0 {2}took “Landings by species” on page 2-3 \(sure 0\.88\)$/m,
    );
    expect(result.out).toMatch(
      /^published: 885 rows\. 13 reports added: 885 rows, \d+ held\. Besides, 2 reports wait or could not be had\. Nothing differs in 13 reports\. There is no report for 2025-W35\. 259 of 260 printed totals tie out, 1 is off\.$/m,
    );
  });

  it('makes one found table of a listing over 300 pages, and the expected dataset of it', async () => {
    const pages = often(300, 40);
    const folder = await temporaryFolder();
    const whole = await PDFDocument.load(await readFile(join(registerFolder, 'register-2025.pdf')));
    expect(whole.getPageCount()).toBe(300);
    for (let last = 300; last > pages; last--) whole.removePage(last - 1);
    await writeFile(join(folder, 'register-2025.pdf'), await whole.save());
    const out = join(await temporaryFolder(), 'out.csv');
    const result = await sieve('run', registerPipeline, '--reports', folder, '--out', out);
    expect(result.out).toMatch(new RegExp(`took “Register” on page 1-${pages} `));
    const [came, expected] = [await readFile(out, 'utf8'), await readFile(registerExpected, 'utf8')];
    // A page has some 48 vessels.
    expect(came.split('\n').length).toBeGreaterThan(45 * pages);
    expect(pages === 300 ? came === expected : expected.startsWith(came)).toBe(true);
  });

  it('reads notes by separators drawn on one of them, also where the first reading is wrong', async () => {
    const out = join(await temporaryFolder(), 'out.csv');
    const result = await sieve('run', notesPipeline, '--reports', notesFolder, '--out', out);
    expect(result.out).not.toContain('expected');
    expect(await readFile(out, 'utf8')).toBe(await readFile(notesExpected, 'utf8'));
    const narrow = JSON.parse((await sieve('tables', join(notesFolder, 'note-1046.pdf'), '--json')).out);
    expect(narrow.tables.find((table: { title: string }) => table.title === 'Stays').rows[0]).not.toContain(
      'Description',
    );
  });

  it('makes records of a directory in two columns that go on in the next column and overleaf', async () => {
    const out = join(await temporaryFolder(), 'out.csv');
    const result = await sieve('run', rollPipeline, '--reports', rollFolder, '--out', out);
    expect(result.out).not.toContain('expected');
    expect(await readFile(out, 'utf8')).toBe(await readFile(rollExpected, 'utf8'));
  });

  it.each(tideDatasets)(
    'makes tidy rows of one of two unlike tables on a page, its days down and headings over headings across: $name',
    async ({ pipeline, expected }) => {
      const out = join(await temporaryFolder(), 'out.csv');
      const result = await sieve('run', pipeline, '--reports', tideFolder, '--out', out);
      expect(result.out).not.toContain('expected');
      expect(await readFile(out, 'utf8')).toBe(await readFile(expected, 'utf8'));
    },
  );

  it('makes one dataset of two series of reports that print numbers in different styles, thousands multiplied in', async () => {
    const out = join(await temporaryFolder(), 'out.csv');
    const result = await sieve('run', throughputPipeline, '--reports', throughputFolder, '--out', out);
    expect(result.out).not.toContain('expected');
    expect(await readFile(out, 'utf8')).toBe(await readFile(throughputExpected, 'utf8'));
  });

  it('keeps its data, adds a new report, and traces a cell to the paper', async () => {
    const folder = await someReports(['week-22.pdf']);
    const data = await temporaryFolder();
    await sieve('run', demoPipeline, '--reports', folder, '--data', data);
    await copyFile(join(demoFolder, 'week-23.pdf'), join(folder, 'week-23.pdf'));
    const second = await sieve('run', demoPipeline, '--reports', folder, '--data', data);
    expect(second.out).toMatch(/^week-22\.pdf +unchanged +83/m);
    expect(second.out).toMatch(/^week-23\.pdf +added +64/m);
    const traced = await sieve('trace', demoPipeline, '84', 'Week ending', '--data', data, '--json');
    expect(JSON.parse(traced.out)).toMatchObject({
      file: 'week-23.pdf',
      value: '2025-06-07',
      places: [{ page: 2, words: [{ text: '7' }, { text: 'June' }, { text: '2025' }] }],
    });
    expect((await sieve('trace', demoPipeline, '999', 'Week', '--data', data)).said).toBe(
      'The dataset has rows 1 to 147; there is no row 999.\n',
    );
  });

  it('looks values up in the file beside the document, and says what is missing there', async () => {
    const folder = await temporaryFolder();
    const document = JSON.parse(await readFile(demoPipeline, 'utf8')) as { allReports: object[] };
    const step = {
      id: 'coast',
      kind: 'look up',
      settings: {
        from: { is: 'file', name: 'quays.csv' },
        keys: [{ column: 'Quay', of: 'Quay' }],
        columns: [{ name: 'Coast' }],
      },
    };
    await writeFile(
      join(folder, 'coasts.sieve.json'),
      JSON.stringify({ ...document, name: 'Coasts', allReports: [...document.allReports, step] }),
    );
    const reports = await someReports(['week-22.pdf']);
    const run = () =>
      sieve('run', join(folder, 'coasts.sieve.json'), '--reports', reports, '--out', join(folder, 'out.csv'));
    const without = await run();
    expect([without.code, without.out]).toEqual([
      1,
      expect.stringMatching(/expected an uploaded list “quays\.csv”, got none of that name/),
    ]);
    await writeFile(join(folder, 'quays.csv'), 'Quay;Coast\nSaltby;north\nTern Point;north\nOld Lantern;south\n');
    const { code, out } = await run();
    expect([code, out]).toEqual([
      0,
      expect.stringMatching(/expected every key in “quays\.csv”, got “Marrow Quay” \(\d+ rows\) that are not there/),
    ]);
    const [heading, ...rows] = (await readFile(join(folder, 'out.csv'), 'utf8'))
      .trim()
      .split('\n')
      .map((line) => line.split(','));
    const [quay, coast] = ['Quay', 'Coast'].map((name) => heading.indexOf(name));
    expect(coast).toBe(quay + 1);
    expect(new Set(rows.map((row) => `${row[quay]} ${row[coast]}`.replaceAll('"', '')))).toEqual(
      new Set(['Saltby north', 'Tern Point north', 'Old Lantern south', 'Marrow Quay ']),
    );
    await writeFile(join(folder, 'quays.csv'), 'Quay;Coast\nSaltby\n');
    expect((await run()).said).toContain('Line 2 of quays.csv has another number of values than its first line.');
  });

  it('ends with a code other than 0 only when nothing could be published', async () => {
    const folder = await someReports(['week-33.pdf']);
    const result = await sieve('run', demoPipeline, '--reports', folder);
    expect(result.code).toBe(1);
    expect(result.out).toContain('nothing published: 0 rows');
  });

  it('names what is wrong with a document', async () => {
    const file = join(await temporaryFolder(), 'wrong.sieve.json');
    await writeFile(file, '{"format": "able-sieve/pipeline", "version": 1, "name": "x", "take": [{"name": ""}]}');
    const { code, said } = await sieve('run', file, '--reports', demoFolder);
    expect(code).toBe(1);
    expect(said).toMatch(/is not a pipeline document: take\.0\.name: /);
    expect((await sieve('run', file)).said).toContain("required option '--reports <folder>' not specified");
  });
});

describe('able-sieve serve', () => {
  /** Starts a server, asks it, and stops it. @param bin the program */
  async function served<T>(
    bin: string,
    args: readonly string[],
    ask: (address: URL) => Promise<T>,
  ): Promise<{ asked: T; code: number | null }> {
    const server = spawn(process.execPath, [bin, 'serve', '--port', '0', '--log-level', 'silent', ...args], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const ended = once(server, 'exit');
    try {
      const [printed] = (await once(server.stdout, 'data')) as [Buffer];
      const address = /^Able Sieve is at (http:\/\/127\.0\.0\.1:\d+\/\?key=[0-9a-f]{64})$/m.exec(String(printed))![1];
      return {
        asked: await ask(new URL(address)),
        code: ((await Promise.all([ended, server.kill('SIGTERM')]))[0] as [number | null])[0],
      };
    } finally {
      server.kill('SIGKILL');
    }
  }

  it('prints the address with the key, answers below a hidden folder too, and what it writes is its owner’s alone', async () => {
    const hidden = join(await temporaryFolder(), '.programs', 'able-sieve');
    await mkdir(hidden, { recursive: true });
    for (const part of ['bin', 'dist', 'server/store/migrations', 'package.json'])
      await cp(join(root, part), join(hidden, part), { recursive: true });
    await symlink(join(root, 'node_modules'), join(hidden, 'node_modules'));
    const data = join(await temporaryFolder(), 'data');
    const { asked, code } = await served(
      join(hidden, 'bin/able-sieve.mjs'),
      ['--data', data, '--root', demoFolder],
      async (address) => {
        const headers = { Authorization: `Bearer ${address.searchParams.get('key')}` };
        const [screen, place, api] = await Promise.all(
          ['/', '/pipelines/1/bench', '/api/pipelines'].map((path) => fetch(new URL(path, address), { headers })),
        );
        return [
          screen.status,
          (await screen.text()).includes('<sieve-root'),
          place.status,
          api.status,
          await api.json(),
        ];
      },
    );
    expect(asked).toEqual([200, true, 200, 200, []]);
    expect(code).toBe(0);
    const open: string[] = [];
    for (const entry of await readdir(data, { recursive: true, withFileTypes: true }))
      if ((await stat(join(entry.parentPath, entry.name))).mode & 0o077) open.push(entry.name);
    expect(open).toEqual([]);
  });

  it('refuses a patience, a port or a limit that cannot be, in a sentence', async () => {
    for (const [option, value] of [
      ['--patience', '0'],
      ['--patience', 'long'],
      ['--port', '99999'],
      ['--upload-limit', 'abc'],
    ]) {
      const { code, said } = await sieve('serve', option, value);
      expect([code, said]).toEqual([1, expect.stringMatching(/Expected a whole number from \d+ to \d+\./)]);
    }
  });
});

describe('what is printed', () => {
  it('may be read only in part, without a stack trace', async () => {
    const { stdout, stderr } = await promisify(exec)(
      `"${process.execPath}" bin/able-sieve.mjs tables demo/vessel-register/register-2025.pdf --pages 1-40 --json | head -c 100; exit "\${PIPESTATUS[0]}"`,
      { cwd: root, shell: '/bin/bash' },
    );
    expect([stdout.length, stderr]).toEqual([100, '']);
  });
});
