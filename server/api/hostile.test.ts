import { chmod, cp, mkdir, readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiError, DatasetAnswer, PipelineFull, StoredReport } from '../contract/contract';
import { openHouse } from '../house/open';
import { serve, type Serving } from '../house/serve';
import { cacheIn, droppedIn } from '../setup/config';
import { demoFolder, temporaryFolder } from '../testing/folders';
import { asOwner } from '../testing/owner';

const config = { host: '127.0.0.1', port: 0, uploadLimit: 1, logLevel: 'silent' };
const plain = { format: 'able-sieve/pipeline', version: 1, take: [] };

let roots: string;
let data: string;
let server: Serving;
beforeAll(async () => {
  roots = await temporaryFolder();
  data = await temporaryFolder();
  server = await serve({ ...config, data, roots: [roots] });
});
afterAll(() => server?.stop());

const call = (path: string, init: RequestInit = {}) => asOwner(server)(path, init);
const send = (method: string, path: string, body: unknown, headers: Record<string, string> = {}) =>
  call(path, {
    method,
    headers: { 'Content-Type': 'application/json', ...headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
const errorOf = async (response: Response) => ({
  status: response.status,
  ...((await response.json()) as ApiError).error,
});
const add = async (name: string) =>
  (await (await send('POST', '/api/pipelines', { document: { ...plain, name } })).json()) as PipelineFull;

describe('hostile documents and folders get a sentence, never a fault', () => {
  const step = (kind: unknown, settings: unknown = {}) => ({
    ...plain,
    name: 'Hostile',
    eachTable: [{ id: 'a', kind, settings }],
  });
  const text = (value: string) => step('tidy text', { columns: { by: 'names', names: [value] } });

  it.each([
    ['a step kind that every object has', JSON.stringify({ document: step('__proto__') }), /^eachTable\.0\.kind: /],
    [
      'a step kind that is a function of every object',
      JSON.stringify({ document: step('constructor') }),
      /^eachTable\.0\.kind: /,
    ],
    [
      'a step kind that is no text',
      '{"document":{"format":"able-sieve/pipeline","version":1,"name":"x","take":[],"eachTable":[{"kind":{"toString":1}}]}}',
      /^eachTable\.0\.kind: /,
    ],
    ['keys that would change what objects are', '{"document":{"__proto__":{"name":"x"},"constructor":1}}', /format: /],
    [
      'a NUL character',
      JSON.stringify({ document: text('Va\u0000lue') }),
      /document\.eachTable\.0\.settings\.columns\.names\.0: The text has a NUL character in it/,
    ],
    [
      'half of a character',
      '{"document":{"format":"able-sieve/pipeline","version":1,"take":[],"name":"a\\ud800b"}}',
      /document\.name: The text has half of a character/,
    ],
    [
      'a byte order mark',
      JSON.stringify({ document: text('\ufeffValue') }),
      /a byte order mark \(U\+FEFF\), which cannot be seen/,
    ],
    ['a NUL character in a name of a part', '{"document":{"a\\u0000":1}}', /NUL/],
    ['arrays without end', `{"document":${'['.repeat(200_000)}${']'.repeat(200_000)}}`, /format/],
    ['a number for a name', JSON.stringify({ document: { ...plain, name: 7 } }), /^name: /],
    ['nothing', 'null', /./],
  ])('%s', async (_, body, says) => {
    const error = await errorOf(await send('POST', '/api/pipelines', body));
    expect(error).toMatchObject({ status: 400, kind: 'bad input' });
    expect(error.message).toMatch(says);
  });

  it('a template hole named like what every object has is a hole like others', async () => {
    const made = await send('POST', '/api/pipelines', {
      document: { ...plain, name: 'Holes', reports: { template: 'week[-{constructor}] {toString}.pdf', year: 2025 } },
    });
    expect(made.status).toBe(201);
    const { id } = (await made.json()) as PipelineFull;
    expect(
      (await call(`/api/pipelines/${id}/files?name=week%20x.pdf`, { method: 'POST', body: '%PDF-1.4' })).status,
    ).toBe(201);
    expect((await send('POST', `/api/pipelines/${id}/reports`, {})).status).toBe(200);
  });

  it('a byte order mark before a body is no part of it', async () => {
    expect(await errorOf(await send('POST', '/api/pipelines', '\ufeff{"document":{}}'))).toMatchObject({
      status: 400,
      kind: 'bad input',
    });
  });

  it('a folder that is a file, or may not be opened, is said to be so', async () => {
    const file = join(roots, 'report.pdf');
    await writeFile(file, '%PDF-');
    await mkdir(join(roots, 'shut'));
    await chmod(join(roots, 'shut'), 0);
    expect(await errorOf(await call(`/api/folders?path=${encodeURIComponent(file)}`))).toMatchObject({
      status: 400,
      message: `${file} is not a folder. Choose the folder that it is in.`,
    });
    expect(
      await errorOf(await send('POST', '/api/pipelines', { document: { ...plain, name: 'File' }, folder: file })),
    ).toMatchObject({ status: 400, kind: 'bad input' });
    // Who runs as root may open everything.
    if (process.getuid?.() !== 0)
      expect(await errorOf(await call(`/api/folders?path=${encodeURIComponent(join(roots, 'shut'))}`))).toMatchObject({
        status: 403,
        kind: 'forbidden',
      });
    await chmod(join(roots, 'shut'), 0o700);
    expect((await call(`/api/folders?path=${encodeURIComponent('/a\u0000b')}`)).status).toBe(403);
  });

  it('of two pipelines of one name at once one is made, and the other is told', async () => {
    const answers = await Promise.all(
      [1, 2, 3, 4].map(() => send('POST', '/api/pipelines', { document: { ...plain, name: 'Twins' } })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409, 409, 409]);
    const refused = answers.find(({ status }) => status === 409)!;
    expect(await errorOf(refused)).toMatchObject({
      kind: 'conflict',
      message: 'There is a pipeline “Twins” already. Choose another name.',
    });
    const { id } = await add('Triplet');
    expect(
      await errorOf(
        await send('PUT', `/api/pipelines/${id}`, { document: { ...plain, name: 'Twins' } }, { 'If-Match': '"1"' }),
      ),
    ).toMatchObject({ status: 409 });
  });
});

describe('the key', () => {
  /** The answer to a bare request, as any user of the machine can make one. */
  const bare = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
    new Promise<{ status: number; cookie: string | undefined; location: string | undefined; body: string }>(
      (resolve, reject) =>
        request({ host: '127.0.0.1', port: new URL(server.url).port, path, method, headers }, (response) => {
          let body = '';
          response.on('data', (piece) => (body += piece));
          response.on('end', () =>
            resolve({
              status: response.statusCode!,
              cookie: response.headers['set-cookie']?.[0],
              location: response.headers.location,
              body,
            }),
          );
        })
          .on('error', reject)
          .end(),
    );

  it('is asked of everybody, for every address', async () => {
    for (const path of ['/', '/api/pipelines', '/api/folders', '/index.html', '/pipelines/1/dataset', '/api/nothing'])
      expect((await bare(path)).status, path).toBe(401);
    for (const headers of [
      { authorization: 'Bearer ' },
      { authorization: `Bearer ${'0'.repeat(64)}` },
      { cookie: 'able-sieve-1=x' },
      { authorization: `Basic ${server.key}` },
    ] as Record<string, string>[])
      expect((await bare('/api/pipelines', headers)).status).toBe(401);
    const refused = await bare('/api/pipelines');
    expect(JSON.parse(refused.body)).toEqual({
      error: { kind: 'key needed', message: expect.stringContaining('the file “key” of its data folder') },
    });
    expect(refused.body).not.toContain(server.key);
  });

  it('in the start address becomes a strict cookie, and leaves the address', async () => {
    const opened = await bare(`/pipelines/3/bench?key=${server.key}&step=a`);
    expect([opened.status, opened.location]).toEqual([303, '/pipelines/3/bench?step=a']);
    expect(opened.cookie).toMatch(/^able-sieve-\d+=[0-9a-f]{64}; .*HttpOnly; SameSite=Strict$/);
    const cookie = opened.cookie!.split(';')[0];
    expect((await bare('/api/pipelines', { cookie: `other=1; ${cookie}` })).status).toBe(200);
    // The way back never leads to another host.
    expect((await bare(`//harbour.example/?key=${server.key}`)).location).toBe('/harbour.example/');
    expect((await bare(`/?key=${'1'.repeat(64)}`)).status).toBe(401);
  });

  it('lies in a file that only the owner reads, and stays the same', async () => {
    const { mode } = await stat(join(data, 'key'));
    expect(mode & 0o777).toBe(0o600);
    expect((await readFile(join(data, 'key'), 'utf8')).trim()).toBe(server.key);
    const other = await temporaryFolder();
    const first = await serve({ ...config, data: other, roots: [roots] });
    await first.stop();
    await chmod(join(other, 'key'), 0o644);
    const second = await serve({ ...config, data: other, roots: [roots] });
    expect([second.key, (await stat(join(other, 'key'))).mode & 0o777]).toEqual([first.key, 0o600]);
    await second.stop();
    expect(first.key).not.toBe(server.key);
  });

  it('of an address serves programs that can send nothing else', async () => {
    expect((await bare(`/api/pipelines?key=${server.key}`)).status).toBe(200);
  });
});

describe('dropped files', () => {
  const drop = async (id: number, name: string, body: string | Buffer, there?: string) =>
    call(
      `/api/pipelines/${id}/files?name=${encodeURIComponent(name)}${there ? `&there=${encodeURIComponent(there)}` : ''}`,
      { method: 'POST', headers: { 'Content-Type': 'application/pdf' }, body: body as never },
    );
  const looked = async (id: number) =>
    ((await (await send('POST', `/api/pipelines/${id}/reports`, {})).json()) as StoredReport[]).map(({ path }) => path);

  it('of a name that is there ask, unless they are the same', async () => {
    const { id, folder } = await add('Asks');
    expect((await drop(id, 'a.pdf', '%PDF-1')).status).toBe(201);
    expect((await drop(id, 'a.pdf', '%PDF-1')).status).toBe(201);
    expect(await errorOf(await drop(id, 'a.pdf', '%PDF-2'))).toMatchObject({
      status: 409,
      kind: 'there already',
      message: expect.stringContaining('“a.pdf” with other content'),
    });
    expect(await readFile(join(folder, 'a.pdf'), 'utf8')).toBe('%PDF-1');
    expect(await (await drop(id, 'a.pdf', '%PDF-2', 'keep both')).json()).toMatchObject({ name: 'a (2).pdf' });
    expect(await (await drop(id, 'a.pdf', '%PDF-2', 'keep both')).json()).toMatchObject({ name: 'a (2).pdf' });
    expect(await (await drop(id, 'a.pdf', '%PDF-3', 'replace')).json()).toMatchObject({ name: 'a.pdf' });
    expect([await readFile(join(folder, 'a.pdf'), 'utf8'), await readFile(join(folder, 'a (2).pdf'), 'utf8')]).toEqual([
      '%PDF-3',
      '%PDF-2',
    ]);
    expect((await looked(id)).sort()).toEqual(['a (2).pdf', 'a.pdf']);
  });

  it('dropped at the same time under one name are never lost: one is there, the others are told', async () => {
    const { id, folder } = await add('At once');
    const answers = await Promise.all([1, 2, 3, 4, 5].map((n) => drop(id, 'a.pdf', `%PDF-${n}`)));
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409, 409, 409, 409]);
    expect(await readdir(folder)).toEqual(['a.pdf']);
  });

  it('may have names as long as the disk takes', async () => {
    const { id } = await add('Long names');
    const long = `${'ä'.repeat(125)}x.pdf`;
    expect(Buffer.byteLength(long)).toBe(255);
    expect((await drop(id, long, '%PDF-1')).status).toBe(201);
    const { name } = (await (await drop(id, long, '%PDF-2', 'keep both')).json()) as { name: string };
    expect([name.endsWith(' (2).pdf'), Buffer.byteLength(name) <= 255]).toEqual([true, true]);
    expect((await looked(id)).sort()).toEqual([long, name].sort());
    expect(await errorOf(await drop(id, `x${long}`, '%PDF-1'))).toMatchObject({
      status: 400,
      message: expect.stringContaining('at most 255 bytes'),
    });
  });

  it('go with their pipeline; what a killed process or a deleted pipeline left is swept at the start', async () => {
    const own = await temporaryFolder();
    const first = await serve({ ...config, data: own, roots: [roots] });
    const ask = asOwner(first);
    const make = async (name: string) =>
      (await (
        await ask('/api/pipelines', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ document: { ...plain, name } }),
        })
      ).json()) as PipelineFull;
    const [stays, goes] = [await make('Stays'), await make('Goes')];
    for (const { id, name } of [stays, goes])
      await ask(`/api/pipelines/${id}/files?name=week-2${name.length}.pdf`, {
        method: 'POST',
        body: (await readFile(join(demoFolder, `week-2${name.length}.pdf`))) as never,
      });
    const read = async ({ id }: PipelineFull) => {
      const [report] = (await (
        await ask(`/api/pipelines/${id}/reports`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: '{}',
        })
      ).json()) as StoredReport[];
      expect((await ask(`/api/pipelines/${id}/reports/${report.id}/tables`)).status).toBe(200);
      return report.sha256;
    };
    const [kept, gone] = [await read(stays), await read(goes)];
    const cached = async () => (await readdir(cacheIn(own))).map((name) => name.slice(0, 64));
    expect(new Set(await cached())).toEqual(new Set([kept, gone]));
    expect((await ask(`/api/pipelines/${goes.id}`, { method: 'DELETE' })).status).toBe(204);
    expect(await readdir(droppedIn(own))).toHaveLength(1);
    await first.stop();
    // As a process leaves it that is killed.
    await mkdir(join(droppedIn(own), 'of-nobody'));
    await writeFile(join(stays.folder, '.half'), '%PDF-');
    await writeFile(join(cacheIn(own), `${kept}-v1.pages.99-x`), '');
    await (await openHouse(own, cacheIn(own))).close();
    expect(new Set(await cached())).toEqual(new Set([kept]));
    expect(await cached()).toHaveLength(2);
    expect(await readdir(droppedIn(own))).toHaveLength(1);
    expect(await readdir(stays.folder)).toEqual(['week-25.pdf']);
    // Of a data folder that is moved or copied nothing is swept, and what is deleted in the copy stays in the other.
    const copy = join(await temporaryFolder(), 'copy');
    await cp(own, copy, { recursive: true });
    const third = await serve({ ...config, data: copy, roots: [roots] });
    expect(await readdir(droppedIn(copy))).toHaveLength(1);
    expect(
      ((await (await asOwner(third)(`/api/pipelines/${stays.id}`)).json()) as PipelineFull).folder.startsWith(copy),
    ).toBe(true);
    expect((await asOwner(third)(`/api/pipelines/${stays.id}`, { method: 'DELETE' })).status).toBe(204);
    await third.stop();
    expect(await readdir(stays.folder)).toEqual(['week-25.pdf']);
  });
});

describe('the CSV', () => {
  it('is told from that of any other data folder by its mark', async () => {
    const marks: string[] = [];
    for (const _ of [1, 2]) {
      const own = await temporaryFolder();
      const house = await serve({ ...config, data: own, roots: [demoFolder, roots] });
      const ask = asOwner(house);
      const post = async (path: string, body: unknown) =>
        (await (
          await ask(path, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify(body),
          })
        ).json()) as { id: number; run: number };
      const document = JSON.parse(await readFile(join(demoFolder, '../landing-sheets.sieve.json'), 'utf8')) as Record<
        string,
        unknown
      >;
      const { id } = await post('/api/pipelines', { document });
      await ask(`/api/pipelines/${id}/files?name=week-22.pdf`, {
        method: 'POST',
        body: (await readFile(join(demoFolder, 'week-22.pdf'))) as never,
      });
      const { run } = await post(`/api/pipelines/${id}/runs`, {});
      await (await ask(`/api/runs/${run}/events`)).text();
      const csv = await ask(`/api/pipelines/${id}/dataset.csv`);
      expect(csv.status).toBe(200);
      marks.push(csv.headers.get('etag')!);
      expect(
        (await ask(`/api/pipelines/${id}/dataset.csv`, { headers: { 'If-None-Match': marks.at(-1)! } })).status,
      ).toBe(304);
      // The same rows again, from memory and from the database.
      const page = async () =>
        (await (await ask(`/api/pipelines/${id}/dataset?start=3&count=7`)).json()) as DatasetAnswer;
      expect((await page()).window.map(({ row }) => row)).toEqual([3, 4, 5, 6, 7, 8, 9]);
      expect(await page()).toEqual(await page());
      await house.stop();
    }
    expect(new Set(marks).size).toBe(2);
  });
});
