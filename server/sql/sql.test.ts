// Published datasets over the PostgreSQL protocol: a real server, and a client of the registry.
import { spawnSync } from 'node:child_process';
import { cp, readFile } from 'node:fs/promises';
import { connect, type Socket } from 'node:net';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { Client, type ClientConfig } from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PipelineFull } from '../contract/contract';
import { serve, type Serving } from '../house/serve';
import { configFrom } from '../setup/config';
import { demoFolder, demoPipeline, temporaryFolder } from '../testing/folders';
import { asOwner } from '../testing/owner';

const dataset = 'landings_by_species';
const limit = 2;
let server: Serving;
let folder: string;
let id: number;
let password: string;
const owner = (path: string, init: RequestInit = {}) => asOwner(server)(path, init);

async function refreshed() {
  const { run } = (await (
    await owner(`/api/pipelines/${id}/runs`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    })
  ).json()) as { run: number };
  await (await owner(`/api/runs/${run}/events`)).text();
}

const configured = (more: ClientConfig = {}): ClientConfig => ({
  host: server.sql!.host,
  port: server.sql!.port,
  user: 'Fish office',
  password,
  database: 'datasets',
  ...more,
});

async function connected<T>(work: (client: Client) => Promise<T>, more: ClientConfig = {}): Promise<T> {
  const client = new Client(configured(more));
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** The dataset comes in as it is copied: asked for until it says so. */
async function until(told: (client: Client) => Promise<boolean>): Promise<void> {
  await connected(async (client) => {
    for (let n = 0; !(await told(client)); n++) {
      if (n > 200) throw new Error('The dataset did not come in.');
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  });
}
const reportsAre = (count: number) => async (client: Client) =>
  (await client.query<{ n: string }>('select count(*) as n from about.reports')).rows[0].n === String(count);

beforeAll(async () => {
  const roots = await temporaryFolder();
  folder = join(roots, 'sheets');
  for (const week of [28, 29]) await cp(join(demoFolder, `week-${week}.pdf`), join(folder, `week-${week}.pdf`));
  server = await serve({
    data: await temporaryFolder(),
    host: '127.0.0.1',
    port: 0,
    roots: [roots],
    uploadLimit: 1,
    logLevel: 'silent',
    sql: { host: '127.0.0.1', port: 0, limit },
  });
  const made = await owner('/api/pipelines', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ document: JSON.parse(await readFile(demoPipeline, 'utf8')), folder }),
  });
  ({ id } = (await made.json()) as PipelineFull);
  ({ token: password } = (await (await owner('/api/readers/Fish%20office', { method: 'PUT' })).json()) as {
    token: string;
  });
  await refreshed();
  await until(reportsAre(2));
});
afterAll(() => server?.stop());

describe('SQL over the PostgreSQL protocol', () => {
  it('gives the dataset cell by cell as the CSV has it, with its types', async () => {
    const printed = parse(await (await owner(`/datasets/${dataset}.csv?guard=no`)).text()) as string[][];
    await connected(async (client) => {
      const { rows, fields } = await client.query<(string | null)[]>({
        text: `select * from ${dataset} order by ordinal`,
        rowMode: 'array',
        types: { getTypeParser: () => (text: string) => text },
      });
      expect(fields.slice(0, 3).map(({ name }) => name)).toEqual(['ordinal', 'report', 'page']);
      expect(rows.map((row) => row.slice(3).map((cell) => cell ?? ''))).toEqual(printed.slice(1));
      expect(rows.map(([ordinal]) => Number(ordinal))).toEqual(rows.map((_, i) => i + 1));
      const typeOf = new Map(fields.map(({ name, dataTypeID }) => [name, dataTypeID]));
      expect([typeOf.get('boxes'), [...typeOf.values()].includes(1700)]).toEqual([20, true]);
    });
  });

  it('tells the printed heading and unit of each column, the reports, the problems and the printed totals', async () => {
    await connected(async (client) => {
      const columns = await client.query<{ column_name: string; says: string }>(
        `select column_name, col_description('published.${dataset}'::regclass, ordinal_position::int) as says from information_schema.columns where table_schema = 'published' and table_name = $1 order by ordinal_position`,
        [dataset],
      );
      expect(columns.rows).toContainEqual({ column_name: 'species', says: 'Species' });
      const reports = await client.query('select file_name, period, rows, stale from reports order by period');
      expect(reports.rows.map(({ file_name, period, stale }) => [file_name, period, stale])).toEqual([
        ['week-28.pdf', '2025-W28', false],
        ['week-29.pdf', '2025-W29', false],
      ]);
      const off = await client.query(
        `select file_name, t.printed, t.computed from printed_totals t join reports r using (dataset, report) where outcome = 'off'`,
      );
      expect(off.rows).toHaveLength(1);
      expect(off.rows[0].file_name).toBe('week-29.pdf');
      expect((await client.query('select count(*)::int as n from problems')).rows).toEqual([{ n: 0 }]);
    });
  });

  it('runs prepared statements with values, transactions and cursors of several programs at once, each with its own settings', async () => {
    await connected((one) =>
      connected(async (two) => {
        await one.query("set datestyle to 'German, DMY'");
        await two.query("set timezone to 'Asia/Tokyo'");
        const asked = (client: Client) =>
          client.query<{ n: number }>({
            name: 'named',
            text: `select count(*)::int as n from ${dataset} where page >= $1`,
            values: [1],
          });
        const [first] = (await asked(one)).rows;
        for (let n = 0; n < 3; n++)
          for (const client of [one, two]) expect((await asked(client)).rows[0]).toEqual(first);
        const settings = async (client: Client) => [
          (await client.query('show datestyle')).rows[0].DateStyle,
          (await client.query('show timezone')).rows[0].TimeZone,
        ];
        expect((await settings(one))[0]).toBe('German, DMY');
        expect((await settings(two)).join()).toContain('ISO, MDY,Asia/Tokyo');
        // In a transaction one program keeps its turn; the other waits and comes after it.
        await one.query('begin');
        await one.query(`declare c cursor for select ordinal from ${dataset} order by ordinal`);
        const later = asked(two);
        expect((await one.query('fetch 2 from c')).rows).toEqual([{ ordinal: '1' }, { ordinal: '2' }]);
        await one.query('commit');
        expect((await later).rows[0]).toEqual(first);
        // Pools begin anew with this.
        await one.query('discard all');
        expect((await settings(one))[0]).toBe('ISO, MDY');
        await expect(two.query('select * from nowhere')).rejects.toMatchObject({ code: '42P01' });
        expect((await two.query('select 1 as one')).rows).toEqual([{ one: 1 }]);
      }),
    );
  });

  it('keeps what was set in a transaction, and a statement prepared anew after one that failed, when another program comes between', async () => {
    await connected((one) =>
      connected(async (two) => {
        await one.query('begin');
        await one.query("set datestyle to 'German, DMY'");
        await one.query('commit');
        await expect(one.query({ name: 'mended', text: 'select no_such_column' })).rejects.toMatchObject({
          code: '42703',
        });
        expect((await one.query({ name: 'mended', text: 'select 7 as n' })).rows).toEqual([{ n: 7 }]);
        await two.query('select 1');
        expect((await one.query('show datestyle')).rows[0].DateStyle).toBe('German, DMY');
        await two.query('select 1');
        expect((await one.query({ name: 'mended', text: 'select 7 as n' })).rows).toEqual([{ n: 7 }]);
      }),
    );
  });

  it('serves on when programs hang up in the middle of what they asked', async () => {
    const hangingUp = Array.from({ length: 12 }, async () => {
      const client = new Client(configured());
      client.on('error', () => undefined);
      await client.connect();
      client.query(`select count(*) from ${dataset} a, ${dataset} b`).catch(() => undefined);
      (client as unknown as { connection: { stream: Socket } }).connection.stream.destroy();
    });
    await Promise.all(hangingUp);
    await connected(async (client) => {
      for (let n = 0; n < 3; n++)
        expect((await client.query({ name: 'again', text: 'select current_user as me' })).rows).toEqual([
          { me: 'dataset_reader' },
        ]);
    });
  });

  it('writes nothing, reads no file, and lifts no right, whatever is asked', async () => {
    await connected(async (client) => {
      for (const sql of [
        `delete from ${dataset}`,
        'create table x (a int)',
        'reset role',
        'set role postgres',
        `copy ${dataset} from stdin`,
        `with gone as (delete from ${dataset} returning 1) select * from gone`,
        `select * into published.x from ${dataset}`,
        'select * into temporary x from (select 1 as a) b',
        "select pg_read_file('PG_VERSION')",
        "select pg_ls_dir('.')",
        "select set_config('role', 'postgres', false)",
        'select lo_create(0)',
        'select * from house.dataset',
        'select rolpassword from pg_authid',
        "update pg_settings set setting = 'postgres' where name = 'role'",
        "select query_to_xml('reset role', true, true, '')",
        'begin read write; select lo_from_bytea(0, $$a$$)',
        'set default_transaction_read_only = off; create table published.x (a int)',
      ]) {
        await expect(client.query(sql), sql).rejects.toHaveProperty('code');
        await client.query('rollback');
        // The same asked with values, as most drivers do.
        await expect(
          client.query({ text: sql.replace(/^(?:begin|set)[^;]*; /, ''), values: [] }),
          sql,
        ).rejects.toHaveProperty('code');
      }
      expect((await client.query('select current_user as me')).rows).toEqual([{ me: 'dataset_reader' }]);
    });
  });

  it('ends a statement that takes too long or is cancelled, and serves on', async () => {
    const endless = 'select count(*) from generate_series(1, 2000000000) a, generate_series(1, 1000) b';
    await connected(async (client) => {
      await expect(client.query(endless)).rejects.toMatchObject({
        code: '57014',
        message: `The statement took longer than ${limit} seconds, and was ended.`,
      });
      expect((await client.query(`select count(*) > 0 as there from ${dataset}`)).rows).toEqual([{ there: true }]);
      const { processID, secretKey } = client as unknown as { processID: number; secretKey: number };
      const asked = expect(client.query(endless)).rejects.toMatchObject({
        code: '57014',
        message: 'The statement was cancelled.',
      });
      await new Promise((resolve) => setTimeout(resolve, 300));
      await spoken([16, 80877102, processID, secretKey]);
      await asked;
      expect((await client.query({ text: 'select $1::int as one', values: [1] })).rows).toEqual([{ one: 1 }]);
    });
  });

  it('lets nobody in without the token of that reader', async () => {
    for (const wrong of [{ password: 'wrong' }, { user: 'Somebody' }, { password: server.key }])
      await expect(connected((client) => client.query('select 1'), wrong)).rejects.toMatchObject({
        code: '28P01',
        message: expect.stringContaining('There is no such reader'),
      });
  });

  it('shuts a reader out whose token was taken back, also one that is connected', async () => {
    const { token } = (await (await owner('/api/readers/Second', { method: 'PUT' })).json()) as { token: string };
    await connected(
      async (client) => {
        expect((await client.query('select 1 as one')).rows).toEqual([{ one: 1 }]);
        const out = new Promise((resolve) => client.once('error', resolve));
        await owner('/api/readers/Second', { method: 'DELETE' });
        expect(await out).toMatchObject({ code: '57P01', message: 'The token of this reader was taken back.' });
      },
      { user: 'Second', password: token },
    ).catch((error: Error) => expect(error.message).toMatch(/closed|not queryable/i));
    await expect(
      connected((client) => client.query('select 1'), { user: 'Second', password: token }),
    ).rejects.toMatchObject({ code: '28P01' });
  });

  it('takes no harm from a flood of bad beginnings', async () => {
    const flood = Array.from({ length: 200 }, (_, n) => {
      const junk = [
        [8, 80877103],
        [2 ** 31 - 1, 196608],
        [0, 0],
        [9, 131072],
        [1195725856, 0x2f204854],
      ][n % 5];
      return spoken(junk, n % 2 === 0 ? Buffer.alloc(n * 100, n) : undefined);
    });
    await Promise.all(flood);
    expect(await connected(async (client) => (await client.query('select 1 as one')).rows)).toEqual([{ one: 1 }]);
    // So one that is known.
    await connected(async (client) => {
      (client as unknown as { connection: { stream: Socket } }).connection.stream.write(
        Buffer.from([0x51, 0x7f, 0xff, 0xff, 0xff]),
      );
      await new Promise((resolve) => client.once('end', resolve));
    }).catch(() => undefined);
    expect(await connected(async (client) => (await client.query('select 1 as one')).rows)).toEqual([{ one: 1 }]);
  });

  it('has what is published, while somebody is connected and after a report came', async () => {
    await connected(async (client) => {
      const counted = async () =>
        (await client.query<{ n: number }>({ name: 'counted', text: `select count(*)::int as n from ${dataset}` }))
          .rows[0].n;
      const before = await counted();
      await cp(join(demoFolder, 'week-30.pdf'), join(folder, 'week-30.pdf'));
      await refreshed();
      await until(reportsAre(3));
      expect(await counted()).toBeGreaterThan(before);
    });
    await owner(`/api/pipelines/${id}`, { method: 'DELETE' });
    await until(
      async (client) =>
        (await client.query("select 1 from information_schema.tables where table_schema = 'published'")).rows.length ===
        0,
    );
  });
});

describe('a server that serves SQL', () => {
  it('speaks under a certificate where it has one, and needs one to be reached from elsewhere', async () => {
    const files = await temporaryFolder();
    const made = spawnSync('openssl', [
      'req',
      '-x509',
      '-newkey',
      'ec',
      '-pkeyopt',
      'ec_paramgen_curve:prime256v1',
      '-nodes',
      '-days',
      '2',
      '-subj',
      '/CN=localhost',
      '-keyout',
      join(files, 'key.pem'),
      '-out',
      join(files, 'cert.pem'),
    ]);
    expect(made.status).toBe(0);
    const secured = await serve({
      data: await temporaryFolder(),
      host: '127.0.0.1',
      port: 0,
      roots: [files],
      uploadLimit: 1,
      logLevel: 'silent',
      sql: { host: '127.0.0.1', port: 0, limit, tls: { cert: join(files, 'cert.pem'), key: join(files, 'key.pem') } },
    });
    try {
      const { token } = (await (await asOwner(secured)('/api/readers/One', { method: 'PUT' })).json()) as {
        token: string;
      };
      const client = new Client({
        host: '127.0.0.1',
        port: secured.sql!.port,
        user: 'One',
        password: token,
        database: 'datasets',
        ssl: { ca: await readFile(join(files, 'cert.pem'), 'utf8'), servername: 'localhost' },
      });
      await client.connect();
      expect((await client.query('select count(*)::int as n from about.reports')).rows).toEqual([{ n: 0 }]);
      await client.end();
    } finally {
      await secured.stop();
    }
    const given = { data: '.', port: 0, uploadLimit: 1, logLevel: 'silent', patience: 1, sqlPort: 0, sqlLimit: 1 };
    expect(() => configFrom({ ...given, sqlHost: '0.0.0.0' })).toThrow(
      'Tokens would go over the network for everybody to read',
    );
    expect(() => configFrom({ ...given, sqlHost: '127.0.0.1', sqlCert: 'cert.pem' })).toThrow(
      'give both --sql-cert and --sql-key',
    );
    expect(configFrom({ ...given, sqlHost: '0.0.0.0', sqlCert: 'cert.pem', sqlKey: 'key.pem' }).sql).toMatchObject({
      host: '0.0.0.0',
    });
  });
});

/** Says numbers to the port, and waits until the other side hangs up or a moment has passed. */
function spoken(numbers: readonly number[], more?: Buffer): Promise<void> {
  return new Promise((resolve) => {
    const bytes = Buffer.alloc(4 * numbers.length);
    numbers.forEach((number, i) => bytes.writeUInt32BE(number, 4 * i));
    const socket = connect(server.sql!.port, server.sql!.host, () =>
      socket.write(more ? Buffer.concat([bytes, more]) : bytes),
    );
    const left = () => {
      socket.destroy();
      resolve();
    };
    socket.on('error', left).on('close', left).setTimeout(500, left);
  });
}
