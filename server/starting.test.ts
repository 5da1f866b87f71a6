// The program started as its users start it, where something is wrong: one sentence, a code other than 0, the folder free.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { chmod, cp, mkdir, mkdtemp, readdir, readFile, rename, rm, symlink, writeFile } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { serve } from './house/serve';
import { root, temporaryFolder } from './testing/folders';
import { asOwner } from './testing/owner';

/** A copy of the program that a test may break. */
async function program(): Promise<string> {
  const folder = await temporaryFolder();
  await symlink(join(root, 'node_modules'), join(folder, 'node_modules'));
  await cp(join(root, 'package.json'), join(folder, 'package.json'));
  for (const part of ['bin', 'dist']) await cp(join(root, part), join(folder, part), { recursive: true });
  return folder;
}

interface Ended {
  readonly code: number | null;
  readonly said: string;
  readonly printed: string;
}

/** Starts a server and lets it go on for as long as the test says. */
async function start(args: readonly string[], { at = root, uid, until }: Starting = {}): Promise<Ended> {
  const owner = uid === undefined ? {} : { uid, gid: uid };
  const child = spawn(join(at, 'bin/able-sieve.mjs'), ['serve', '--port', '0', ...args], { cwd: at, ...owner });
  let [said, printed] = ['', ''];
  child.stderr.on('data', (bytes: Buffer) => (said += String(bytes)));
  child.stdout.on('data', (bytes: Buffer) => {
    printed += String(bytes);
    if (printed.includes('Able Sieve is at')) child.kill(until ?? 'SIGKILL');
  });
  const late = setTimeout(() => child.kill('SIGKILL'), 200_000);
  const [code] = (await once(child, 'close')) as [number | null];
  clearTimeout(late);
  return { code, said, printed };
}
interface Starting {
  readonly at?: string;
  readonly uid?: number;
  readonly until?: NodeJS.Signals;
}

const isRoot = process.getuid?.() === 0;
const nobody = 65_534;

/** One sentence or two, a code other than 0, no stack trace, and nobody holds the folder. */
function refused({ code, said, printed }: Ended, data: string, sentence: RegExp): void {
  expect(said).toMatch(sentence);
  expect(said.trim().split('\n')).toHaveLength(1);
  expect(said).not.toMatch(/\bat .*:\d+:\d+/);
  expect([code, printed]).toEqual([1, '']);
  expect(existsSync(join(data, 'lock'))).toBe(false);
}

describe('a program of which something is missing', () => {
  let copy: string;
  const thread = () => join(copy, 'dist/server/work-thread.mjs');
  beforeAll(async () => void (copy = await program()));

  it.each([
    [
      'its thread file',
      async () => rm(thread()),
      /is not built yet: .*work-thread\.mjs is missing\. Run: npm run build/,
    ],
    [
      'what a thread begins with',
      async () => writeFile(thread(), 'throw new Error("cannot begin");'),
      /threads that read reports cannot be started: cannot begin\. Build the program anew/,
    ],
    [
      'memory for a thread',
      async () => writeFile(thread(), 'const all = []; for (;;) all.push(new Array(1e6).fill(all.length + 0.5));'),
      /threads that read reports cannot be started: .*memory/,
    ],
    [
      'the thread of the database',
      async () => writeFile(join(copy, 'dist/server/pglite-thread.mjs'), 'throw new Error("no database");'),
      /cannot be opened: no database/,
    ],
  ])('says so and ends: %s', async (_, take, sentence) => {
    await take();
    const data = join(await temporaryFolder(), 'data');
    refused(await start(['--data', data, '--log-level', 'silent'], { at: copy }), data, sentence);
  });
});

describe('a data folder that cannot be used', () => {
  it('says that a file is in its place', async () => {
    const data = join(await temporaryFolder(), 'data');
    await writeFile(data, 'a file');
    refused(
      await start(['--data', data]),
      data,
      /data folder .* cannot be used: (?:there is a file of that name|a part of the way to it is no folder)/,
    );
  });

  it('says that its user may not use it', async () => {
    const outer = await mkdtemp(join(tmpdir(), 'able-sieve-shut-'));
    try {
      await chmod(outer, isRoot ? 0o700 : 0o500);
      // Root may do anything: somebody else starts the program.
      refused(
        await start(['--data', join(outer, 'data')], isRoot ? { uid: nobody } : {}),
        join(outer, 'data'),
        /cannot be used: the user that this program runs as may not use it/,
      );
    } finally {
      await chmod(outer, 0o700);
      await rm(outer, { recursive: true, force: true });
    }
  });

  it('says that the port is taken', async () => {
    const other = createServer().listen(0, '127.0.0.1');
    await once(other, 'listening');
    const { port } = other.address() as AddressInfo;
    const data = join(await temporaryFolder(), 'data');
    refused(
      await start(['--data', data, '--port', String(port)]),
      data,
      new RegExp(`^Port ${port} is taken by another program\\. Choose another with --port\\.$`, 'm'),
    );
    other.close();
  });
});

const small = mkdtempSmall();
/** A disk of some megabytes, where the machine lets us have one. */
function mkdtempSmall(): string | undefined {
  const folder = join(tmpdir(), `able-sieve-small-${process.pid}`);
  try {
    execFileSync('mkdir', ['-p', folder]);
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=170m', 'tmpfs', folder], { stdio: 'ignore' });
    return folder;
  } catch {
    return undefined;
  }
}
afterAll(() => {
  if (small) execFileSync('sh', ['-c', 'umount "$1" && rmdir "$1"', 'sh', small]);
});

describe.skipIf(small === undefined)('a disk that is full', () => {
  const filler = join(small ?? '', 'filler');
  const fill = (leave: number) =>
    execFileSync('sh', [
      '-c',
      `free=$(df --output=avail -k "$1" | tail -1); head -c $(((free - ${leave}) * 1024)) /dev/zero > "$2"`,
      'sh',
      small!,
      filler,
    ]);

  it('is named before anything is begun, and when what was begun is opened again', async () => {
    const data = join(small!, 'data');
    fill(30_000);
    refused(
      await start(['--data', data]),
      data,
      /disk of the data folder .* is full: \d+ MB are free, 80 MB are needed\. Make room and start again; nothing was changed\./,
    );
    await rm(filler);
    await rm(data, { recursive: true });
    expect((await start(['--data', data, '--log-level', 'silent'], { until: 'SIGTERM' })).code).toBe(0);
    fill(1000);
    refused(await start(['--data', data]), data, /is full: 1 MB are free, 24 MB are needed/);
    await rm(filler);
    expect((await start(['--data', data, '--log-level', 'silent'], { until: 'SIGTERM' })).code).toBe(0);
  });

  it('refuses what is saved while the program runs, says why, and the program goes on', async () => {
    const data = join(small!, 'running');
    const server = await serve({
      data,
      host: '127.0.0.1',
      port: 0,
      roots: [small!],
      uploadLimit: 10,
      logLevel: 'silent',
    });
    try {
      const ask = asOwner(server);
      const save = (name: string, note: string) =>
        ask('/api/pipelines', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({
            folder: small,
            document: {
              format: 'able-sieve/pipeline',
              version: 1,
              name,
              take: [],
              eachTable: [{ id: 'trim', kind: 'trim rows', note, settings: { top: 1 } }],
            },
          }),
        });
      expect((await save('Before', 'short')).status).toBe(201);
      fill(100);
      // Longer than what its table has room for as it is, and nothing that can be packed.
      const long = Array.from({ length: 60_000 }, () => crypto.randomUUID()).join('');
      const refusedSave = await save('Refused', long);
      expect([refusedSave.status, await refusedSave.json()]).toEqual([
        409,
        { error: { kind: 'conflict', message: 'The disk is full. Make room and try again; nothing was changed.' } },
      ]);
      await rm(filler);
      expect((await save('After', long)).status).toBe(201);
      const names = ((await (await ask('/api/pipelines')).json()) as { name: string }[]).map(({ name }) => name);
      expect(names).toEqual(['After', 'Before']);
    } finally {
      await rm(filler, { force: true });
      await server.stop();
      await rm(data, { recursive: true });
    }
  });
});

describe('a data folder whose database is not whole', () => {
  let data: string;
  const database = () => join(data, 'database');
  const all = async () => (await readdir(data, { recursive: true })).sort();
  beforeAll(async () => {
    data = join(await temporaryFolder(), 'data');
    expect((await start(['--data', data, '--log-level', 'silent'], { until: 'SIGTERM' })).code).toBe(0);
    await writeFile(join(data, 'cache-of-old'), 'not ours');
    await mkdir(join(data, 'cache'), { recursive: true });
    await writeFile(join(data, 'cache/abc.json'), '{}');
  });

  it.each([
    [
      'a file is missing',
      /PG_VERSION is missing/,
      () => rename(join(database(), 'PG_VERSION'), join(data, 'kept')),
      () => rename(join(data, 'kept'), join(database(), 'PG_VERSION')),
    ],
    [
      'the folder is empty',
      /is missing or empty/,
      async () => {
        await rename(database(), join(data, 'kept'));
        await mkdir(database());
      },
      async () => {
        await rm(database(), { recursive: true });
        await rename(join(data, 'kept'), database());
      },
    ],
    [
      'the folder is gone',
      /is missing or empty/,
      () => rename(database(), join(data, 'kept')),
      () => rename(join(data, 'kept'), database()),
    ],
    [
      'it cannot be opened',
      /cannot be opened/,
      () => swap('global/pg_control', 'pg_control', Buffer.alloc(8192)),
      () => back('global/pg_control', 'pg_control'),
    ],
    [
      'it is of a newer release',
      /written by a newer program \(release 99, this one knows 18\)/,
      () => swap('PG_VERSION', 'kept-version', '99\n'),
      () => back('PG_VERSION', 'kept-version'),
    ],
  ])('is refused in a sentence and left alone, and opens once it is put back: %s', async (_, sentence, take, put) => {
    await take();
    const before = await all();
    const ended = await start(['--data', data]);
    refused(ended, data, sentence);
    expect(await all()).toEqual(before);
    await put();
    expect((await start(['--data', data, '--log-level', 'silent'], { until: 'SIGTERM' })).code).toBe(0);
  });

  it('is begun anew only when that is asked for, what was there beside it', async () => {
    expect((await start(['--data', data, '--begin-anew', '--log-level', 'warn'], { until: 'SIGTERM' })).said).toBe('');
    expect((await readdir(data)).filter((name) => name.startsWith('aside'))).toEqual([]);
    await rm(join(database(), 'PG_VERSION'));
    const key = await readFile(join(data, 'key'), 'utf8');
    const ended = await start(['--data', data, '--begin-anew', '--log-level', 'warn'], { until: 'SIGTERM' });
    expect([ended.code, ended.said]).toEqual([
      0,
      expect.stringMatching(/As --begin-anew was given, what was there is in .*aside-/),
    ]);
    const [aside] = (await readdir(data)).filter((name) => name.startsWith('aside-'));
    expect(await readFile(join(data, aside, 'key'), 'utf8')).toBe(key);
    expect((await readdir(join(data, aside))).sort()).toEqual(['able-sieve.json', 'cache', 'database', 'key']);
    expect(await readFile(join(data, 'cache-of-old'), 'utf8')).toBe('not ours');
  });

  async function swap(name: string, kept: string, content: string | Buffer) {
    await rename(join(database(), name), join(data, kept));
    await writeFile(join(database(), name), content);
  }
  const back = (name: string, kept: string) => rename(join(data, kept), join(database(), name));
});

describe('a data folder that was begun and not finished', () => {
  it('goes on from nothing, as nothing was in it', async () => {
    const data = join(await temporaryFolder(), 'data');
    await mkdir(join(data, 'database/base'), { recursive: true });
    await writeFile(
      join(data, 'able-sieve.json'),
      JSON.stringify({ format: 'able-sieve/data-folder', database: 'begun', since: '2026-12-01T00:00:00Z' }),
    );
    expect((await start(['--data', data, '--log-level', 'silent'], { until: 'SIGTERM' })).code).toBe(0);
    expect(JSON.parse(await readFile(join(data, 'able-sieve.json'), 'utf8'))).toMatchObject({
      database: 'whole',
      since: '2026-12-01T00:00:00Z',
    });
  });

  it('of a program that kept no such file is taken as it is', async () => {
    const data = join(await temporaryFolder(), 'data');
    await start(['--data', data, '--log-level', 'silent'], { until: 'SIGTERM' });
    await rm(join(data, 'able-sieve.json'));
    expect((await start(['--data', data, '--log-level', 'silent'], { until: 'SIGTERM' })).code).toBe(0);
    expect(existsSync(join(data, 'able-sieve.json'))).toBe(true);
  });
});
