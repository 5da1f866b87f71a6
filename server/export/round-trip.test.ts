import { existsSync } from 'node:fs';
// Every format is read back by a reader that is not ours, and is the dataset cell by cell.
import { DuckDBInstance } from '@duckdb/node-api';
import { parse, type Options } from 'csv-parse/sync';
import { Package } from 'datapackage';
import Xlsx from 'exceljs';
import { unzipSync } from 'fflate';
import { parquetMetadata, parquetReadObjects } from 'hyparquet';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { conditionFrom, orderFrom } from '../../core/dataset/selection';
import { conditionsOf } from '../../core/dataset/summary';
import { parsePipeline } from '../../core/pipeline/document';
import type { ValueType } from '../../core/sheet/column';
import { csvDialect, plainCsv, type CsvOptions } from '../../core/dataset/file-options';
import { openHouse, type House } from '../house/open';
import { publicationOf, type Publication } from '../store/dataset';
import { addPipeline, type StoredPipeline } from '../store/pipelines';
import { csvCell, loadPart, publish, reservePart } from '../store/publish';
import { startRun } from '../store/runs';
import { selectedRows } from '../store/selected-rows';
import { summaryGroups } from '../store/summary';
import { temporaryFolder } from '../testing/folders';
import { postgresPrograms, startPostgres } from '../testing/postgres';
import { isLong } from '../testing/tier';
import { guarded } from './csv';
import { datasetFile, type FileAsked } from './dataset-file';
import { cellValue, numberFormat, sheetName } from './xlsx';
import { thisBuild } from '../setup/build';

let house: House;
let pipeline: StoredPipeline;
let publication: Publication;
let folder: string;

const columns: { heading: string; type: ValueType; unit?: string }[] = [
  { heading: 'Code', type: 'text' },
  { heading: 'Boxes, “all”', type: 'integer' },
  { heading: 'Value', type: 'decimal', unit: 'EUR' },
  { heading: 'Share', type: 'percent' },
  { heading: 'Landed', type: 'date' },
  { heading: 'At', type: 'time' },
  { heading: 'Seen', type: 'datetime' },
  { heading: 'Month', type: 'period' },
  { heading: 'Open', type: 'boolean' },
];
type Value = string | number | boolean | null;
const rows: Value[][] = [
  ['007', 12, 1234567.25, 12.5, '2025-06-09', '14:30:00', '2025-06-09 14:30:05', '2025-06', true],
  ['=1+1', -3, -0.05, 0, '1899-12-31', '00:00:00', '1970-01-01 00:00:00', '2025-W24', false],
  ['Say "hake", or;\nsole', 0, 0.1, null, '2025-12-31', '23:59:59', '2025-12-31 23:59:59', null, null],
  [null, null, null, null, null, null, null, null, null],
  ['-', 2_000_000_000_000, 123456789012.345, 100, '2024-02-29', '06:05:00', '2024-02-29 06:05:00', '2025-Q2', true],
  ['@Λιμάνι – quay №5', 7, 8589, 99.99, '2000-01-01', '12:00:00', '2000-01-01 12:00:00', '2025', false],
  // A text that would end the rows of a script, and run what follows it; tabs and backslashes beside it.
  ...['x\n\\.\n\\! touch owned\ndrop table a;\t\\N\\', '\\.', '＝1+1'].map((hostile): Value[] => [
    hostile,
    -1,
    1,
    1,
    '2000-01-02',
    '12:00:00',
    '2000-01-01 12:00:00',
    '2025',
    false,
  ]),
];
/** A text that is no number, in the fourth row. */
const misfit = { ordinal: 3, heading: 'Value', text: 'n/a', expected: 'a decimal number' };

beforeAll(async () => {
  folder = await temporaryFolder();
  house = await openHouse(undefined, folder);
  pipeline = await addPipeline(
    house.store,
    parsePipeline({
      format: 'able-sieve/pipeline',
      version: 1,
      name: 'Landings / all',
      take: [],
      checks: [{ id: 'filled', kind: 'range', column: 'Share', least: 0, most: 100 }],
    }),
    folder,
  );
  const run = await startRun(house.store, pipeline.id, 1);
  const part = await reservePart(house.store, pipeline.id, 1, 'key', {
    version: 1,
    build: thisBuild,
    inputs: [{ report: 1, path: 'week-24.pdf', sha256: 'ab12', period: '2025-W24' }],
  });
  const batch = rows.map((row, at) => `${part},${at},1,p1t1,${at},2,${row.map(csvCell).join(',')}\n`).join('');
  await loadPart(
    house.store,
    pipeline.id,
    part,
    { rows: rows.length, held: 2, columns, batches: [batch], misfits: [misfit], totals: [] },
    { matches: [], layers: [], problems: [] },
  );
  await publish(house.store, pipeline.id, run, 1, [{ part, stale: false }], columns, () => undefined);
  publication = (await publicationOf(house.store, pipeline.id))!;
});
afterAll(() => house.close());

async function file(asked: FileAsked): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  for await (const piece of datasetFile(house.store, pipeline, publication, asked))
    pieces.push(typeof piece === 'string' ? new TextEncoder().encode(piece) : piece);
  return new Uint8Array(Buffer.concat(pieces));
}
const text = async (asked: FileAsked) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(await file(asked));
const dialect = (options: CsvOptions) => v.parse(csvDialect, options);
const texts = (decimal = '.') =>
  rows.map((row) =>
    row.map((value) =>
      value === null ? '' : typeof value === 'number' ? String(value).replace('.', decimal) : String(value),
    ),
  );
const headings = columns.map(({ heading }) => heading);

describe('delimited text', () => {
  it('is the dataset, texts that look like formulas guarded, and not so where that is switched off', async () => {
    const expected = texts();
    for (const row of [1, 5, 8]) expected[row][0] = `'${expected[row][0]}`;
    expect(parse(await text({ format: 'csv' }))).toEqual([headings, ...expected]);
    expect(parse(await text({ format: 'csv', dialect: { ...plainCsv, guard: false } }))).toEqual([
      headings,
      ...texts(),
    ]);
  });

  it.each<[string, CsvOptions, Options]>([
    [
      'semicolons, decimal commas, a mark and DOS line ends',
      { separator: 'semicolon', decimal: 'comma', mark: true, lineEnds: 'crlf', guard: false },
      { delimiter: ';', bom: true, record_delimiter: '\r\n' },
    ],
    ['tabs', { separator: 'tab', guard: false }, { delimiter: '\t' }],
    ['bars and quotes throughout', { separator: 'bar', quotes: 'all', guard: false }, { delimiter: '|' }],
  ])('may have %s', async (_, options, read) => {
    const written = await text({ format: 'csv', dialect: dialect(options) });
    expect(parse(written, read)).toEqual([headings, ...texts(options.decimal === 'comma' ? ',' : '.')]);
    expect([written.startsWith('\ufeff'), /[^\r]\n"?Say|hake", or;\n/.test(written.replaceAll('""', '"'))]).toEqual([
      options.mark ?? false,
      true,
    ]);
    if (options.quotes === 'all')
      expect(written.split('\n')[1]).toBe(
        texts()[0]
          .map((value) => `"${value}"`)
          .join('|'),
      );
  });

  it('says beside a row where it comes from, and what did not fit', async () => {
    const [names, ...all] = parse(await text({ format: 'csv', dialect: dialect({ trace: true }) })) as string[][];
    expect(names.slice(-3)).toEqual(['Report', 'Page', 'Problems']);
    expect(all.map((row) => row.slice(-2))).toEqual(
      rows.map((_, at) => ['2', at === misfit.ordinal ? 'Value: n/a' : '']),
    );
  });

  it.each([
    ['=1+1', true],
    [' =1+1', true],
    ['\u3000＝1+1', true],
    ['\tx', true],
    ['＠sum', true],
    ['- 5 kg', true],
    ['-5', false],
    [' -5,00', false],
    ['a=1', false],
    ['–', false],
  ])('guards “%s”: %s', (said, guards) => expect(guarded(said)).toBe(guards ? `'${said}` : said));

  it('refuses a decimal comma between commas', () =>
    expect(() => dialect({ decimal: 'comma' })).toThrow(/another separator than a comma/));

  it('has some of the columns and rows, in the order asked for', async () => {
    const where = [conditionFrom('Boxes, “all” >= 0', headings), conditionFrom('Code != 007', headings)];
    const places = await selectedRows(house.store, publication, { where, order: orderFrom('Value desc', headings) });
    const [code, value] = ['Code', 'Value'].map(
      (heading) => publication.columns.find((column) => column.heading === heading)!.identifier,
    );
    expect(
      parse(await text({ format: 'csv', places, columns: [value, code], dialect: { ...plainCsv, guard: false } })),
    ).toEqual([
      ['Value', 'Code'],
      ['123456789012.345', '-'],
      ['8589', '@Λιμάνι – quay №5'],
      ['0.1', 'Say "hake", or;\nsole'],
    ]);
  });
});

describe('a summary of texts', () => {
  it('has the rows behind each of its keys, whatever signs and spaces stand in them', async () => {
    const { store } = house;
    const odds = ['A|B', 'A', 'B', ' A ', String.raw`back\slash`, '', '   ', 'a', null];
    const other = await addPipeline(
      store,
      parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'Odd texts', take: [] }),
      folder,
    );
    const run = await startRun(store, other.id, 1);
    const part = await reservePart(store, other.id, 2, 'key', { version: 1, build: thisBuild, inputs: [] });
    const own = [{ heading: 'Name', type: 'text' as const }];
    await loadPart(
      store,
      other.id,
      part,
      {
        rows: odds.length,
        held: 0,
        columns: own,
        batches: [odds.map((odd_, at) => `${part},${at},2,p1t1,${at},1,${csvCell(odd_)}\n`).join('')],
        misfits: [],
        totals: [],
      },
      {},
    );
    await publish(store, other.id, run, 1, [{ part, stale: false }], own, () => undefined);
    const odd = (await publicationOf(store, other.id))!;
    const key = { column: 'Name' };
    const groups = await summaryGroups(store, odd, { rows: [key], columns: [], how: 'count', where: [] }, []);
    expect(new Map(groups.map(({ keys, rows: count }) => [keys[0], count]))).toEqual(
      new Map([
        ['A|B', 1],
        ['A', 2],
        ['B', 1],
        [String.raw`back\slash`, 1],
        ['a', 1],
        [null, 3],
      ]),
    );
    for (const { keys, rows: count } of groups) {
      const where = conditionsOf(key, keys[0]).map((condition) => conditionFrom(condition, ['Name']));
      expect([keys[0], (await selectedRows(store, odd, { where, order: [] })).length]).toEqual([keys[0], count]);
    }
  });
});

describe('JSON', () => {
  const told = rows.map((row, at) => ({
    ...Object.fromEntries(row.map((value, i) => [headings[i], value])),
    ...(at === misfit.ordinal ? { $problems: { Value: 'n/a' } } : {}),
  }));
  it('is the dataset, numbers as numbers, and error cells named', async () => {
    expect(JSON.parse(await text({ format: 'json' }))).toEqual(told);
    expect(
      (await text({ format: 'jsonl' }))
        .trimEnd()
        .split('\n')
        .map((line) => JSON.parse(line) as unknown),
    ).toEqual(told);
    expect(JSON.parse(await text({ format: 'json', places: new Uint32Array(0) }))).toEqual([]);
  });
});

describe('Parquet', () => {
  it('is the dataset with exact decimals, dates and nulls, read by two readers', async () => {
    const bytes = await file({ format: 'parquet' });
    const buffer = bytes.buffer as ArrayBuffer;
    const metadata = parquetMetadata(buffer);
    expect(
      metadata.schema
        .slice(1)
        .map(({ type, converted_type, scale, precision }) =>
          [type, converted_type, scale, precision].filter((each) => each !== undefined).join(' '),
        ),
    ).toEqual([
      'BYTE_ARRAY UTF8',
      'INT64',
      'INT64 DECIMAL 3 18',
      'INT64 DECIMAL 2 18',
      'INT32 DATE',
      'INT64 TIME_MICROS',
      'INT64 TIMESTAMP_MICROS',
      'BYTE_ARRAY UTF8',
      'BOOLEAN',
    ]);
    expect(new Map(metadata.key_value_metadata!.map(({ key, value }) => [key, value])).get('error cells')).toBe('1');
    const read = await parquetReadObjects({ file: buffer });
    expect(read.map((row) => row['Value'])).toEqual(rows.map((row) => row[2]));
    const path = join(folder, 'dataset.parquet');
    await writeFile(path, bytes);
    const instance = await DuckDBInstance.create(':memory:');
    const connection = await instance.connect();
    const selected = `select "Code", "Boxes, “all”"::varchar, "Value"::varchar, "Share"::varchar, "Landed"::varchar, "At"::varchar, "Seen"::varchar, "Month", "Open" from '${path}'`;
    const found = (await connection.runAndReadAll(selected)).getRows();
    const exact = (value: Value, digits: number) =>
      value === null ? null : digits === 0 ? String(value) : Number(value).toFixed(digits);
    expect(found).toEqual(
      rows.map(([code, boxes, value, share, ...more]) => [
        code,
        exact(boxes, 0),
        exact(value, 3),
        exact(share, 2),
        ...more,
      ]),
    );
    connection.closeSync();
  });
});

describe('an XLSX workbook', () => {
  it('has typed cells, real dates, a frozen heading, error cells shaded with a comment, and says where it comes from', async () => {
    const book = new Xlsx.Workbook();
    await book.xlsx.load(Buffer.from(await file({ format: 'xlsx' })) as unknown as Xlsx.Buffer);
    expect(book.worksheets.map(({ name }) => name)).toEqual(['Landings all', 'Where it comes from']);
    const [sheet, about] = book.worksheets;
    const dateOf = (cell: Xlsx.CellValue) => (cell instanceof Date ? cell.toISOString().replace('.000Z', '') : cell);
    const cells = rows.map((_, at) => columns.map((__, i) => dateOf(sheet.getCell(at + 2, i + 1).value)));
    const wanted = rows.map((row) =>
      row.map((value, i) => {
        if (value === null) return null;
        if (columns[i].type === 'date') return value === '1899-12-31' ? value : `${String(value)}T00:00:00`;
        if (columns[i].type === 'datetime') return String(value).replace(' ', 'T');
        if (columns[i].type === 'time') return `1899-12-30T${String(value)}`;
        return value;
      }),
    );
    expect(cells).toEqual(wanted);
    expect(sheet.getRow(1).values).toEqual([undefined, ...headings]);
    expect([sheet.views[0]?.state, sheet.autoFilter]).toEqual(['frozen', 'A1:I1']);
    expect([2, 3, 4].map((column) => sheet.getCell(2, column).numFmt)).toEqual(['#,##0', '#,##0.000 "EUR"', '0.00"%"']);
    // A formula as text stays text.
    expect(sheet.getCell('A3').type).toBe(Xlsx.ValueType.String);
    const error = sheet.getCell(misfit.ordinal + 2, 3);
    expect([error.value, JSON.stringify(error.note)]).toEqual([
      null,
      expect.stringContaining('“n/a” is printed here: expected a decimal number.'),
    ]);
    expect((about.getColumn(1).values as string[]).filter(Boolean)).toEqual(
      expect.arrayContaining(['Published', 'Error cells', 'Report', 'week-24.pdf']),
    );
  });

  it('has times and days as the fractions that they are', () => {
    const times: [string, number][] = [
      ['11:24:00', 0.475],
      ['00:00:00', 0],
      ['18:00:00', 0.75],
      ['23:59:59', 86_399 / 86_400],
    ];
    for (const [time, days] of times) expect(cellValue(time, 'time')).toBe(days);
    expect(cellValue('2025-06-09', 'date')).toBe(45_817);
    expect(cellValue('2025-06-09 11:24:00', 'datetime')).toBe(45_817.475);
    // The calendar of workbooks is another before March 1900.
    expect(cellValue('1899-12-31', 'date')).toBe('1899-12-31');
  });

  it('has names of sheets and formats as workbooks take them', () => {
    expect(sheetName("'Fees [2025]: a/b * c?'", ' 2')).toBe('Fees 2025 a b c 2');
    expect(sheetName('x'.repeat(40), ' 12')).toHaveLength(31);
    expect(sheetName('///')).toBe('Dataset');
    expect(numberFormat({ identifier: 'a', heading: 'A', type: 'decimal', digits: 2 })).toBe('#,##0.00');
  });
});

/** A value of COPY's text form, as its manual says to read it. */
const unescaped = (value: string): string | null =>
  value === '\\N'
    ? null
    : value.replace(
        /\\(.)/g,
        (_, sign: string) => ({ n: '\n', t: '\t', r: '\r', b: '\b', f: '\f', v: '\v' })[sign] ?? sign,
      );

describe('a SQL script', () => {
  it('makes the table in a database and loads its rows, comments with headings and units', async () => {
    const script = await text({ format: 'sql' });
    const [before, rest] = script.split(/copy [^;]*;\n/);
    const lines = rest.split('\n');
    // One line a row, and the first that psql takes for the end is the end.
    expect(lines.indexOf('\\.')).toBe(rows.length);
    expect(lines.slice(rows.length + 1).join('\n')).toBe('\ncommit;\n');
    const { store } = house;
    await store.script(before.replace(/^begin;$/m, '').replace(/set client_encoding[^;]*;/, ''));
    const table = pipeline.viewName;
    const copied = lines.slice(0, rows.length).map((line) => line.split('\t').map(unescaped));
    await store.copyIn(
      table,
      publication.columns.map(({ identifier }) => identifier),
      copied.map((row) => row.map(csvCell).join(',') + '\n').join(''),
    );
    const [{ json }] = await store.query<{ json: string }>(`select json_agg(t)::text as json from "${table}" t`);
    const read = (JSON.parse(json) as Record<string, Value>[]).map((row) =>
      publication.columns.map(({ identifier }) =>
        typeof row[identifier] === 'string' ? row[identifier].replace(/^(\d{4}-\d\d-\d\d)T/, '$1 ') : row[identifier],
      ),
    );
    expect(read).toEqual(rows);
    const [{ comment }] = await store.query<{ comment: string }>(
      `select col_description('"${table}"'::regclass, 3) as comment`,
    );
    expect(comment).toBe('Value, in EUR');
    await store.script(`drop table "${table}"`);
  });
});

describe.runIf(isLong && postgresPrograms)('a SQL script, run by psql', () => {
  it('loads every text as it is, and none of them is run', async () => {
    const server = startPostgres();
    try {
      const script = join(server.folder, 'dataset.sql');
      await writeFile(script, await file({ format: 'sql' }));
      server.psql('-q', '-f', script);
      const table = pipeline.viewName;
      const read = server.psql('-At', '-c', `select json_agg(t.code order by t.ctid) from "${table}" t`);
      expect(JSON.parse(read)).toEqual(rows.map(([code]) => code));
      expect(existsSync(join(server.folder, 'owned'))).toBe(false);
    } finally {
      server.stop();
    }
  });
});

describe('a data package', () => {
  it('holds by the validator of the standard, which reads its rows by their schema', async () => {
    const files = unzipSync(await file({ format: 'zip' }));
    const place = await temporaryFolder();
    for (const [name, content] of Object.entries(files)) await writeFile(join(place, name), content);
    const loaded = await Package.load(join(place, 'datapackage.json'));
    expect([loaded.errors, loaded.valid, loaded.resources[0].tabular]).toEqual([[], true, true]);
    const read = await loaded.resources[0].read();
    const said = (value: unknown) => (value instanceof Date ? value.getTime() : value);
    expect(read.map((row) => row.slice(0, 4).map(said))).toEqual(rows.map((row) => row.slice(0, 4)));
    expect(read.map((row) => row.slice(7))).toEqual(rows.map((row) => row.slice(7)));
    const day = (value: unknown) =>
      value instanceof Date
        ? `${value.getFullYear()}-${String(value.getMonth() + 1).padStart(2, '0')}-${String(value.getDate()).padStart(2, '0')}`
        : value;
    expect(read.map((row) => day(row[4]))).toEqual(rows.map((row) => row[4]));
  });

  it('has the rows, their schema with units and constraints, and its sources with hashes', async () => {
    const files = unzipSync(await file({ format: 'zip' }));
    const read = (name: string) => new TextDecoder().decode(files[name]);
    expect(parse(read('data.csv'))).toEqual([headings, ...texts()]);
    const descriptor = JSON.parse(read('datapackage.json')) as {
      name: string;
      sources: unknown;
      errorCells: number;
      resources: { path: string; schema?: { fields: Record<string, unknown>[] } }[];
    };
    expect([descriptor.name, descriptor.errorCells, descriptor.sources]).toEqual([
      'landings-all',
      1,
      [{ title: 'week-24.pdf (2025-W24)', path: 'week-24.pdf', hash: 'sha256:ab12' }],
    ]);
    expect(descriptor.resources.map(({ path }) => path).every((path) => files[path])).toBe(true);
    const { fields } = descriptor.resources[0].schema!;
    expect(fields.map(({ type }) => type)).toEqual([
      'string',
      'integer',
      'number',
      'number',
      'date',
      'time',
      'datetime',
      'string',
      'boolean',
    ]);
    expect([fields[2], fields[3]]).toEqual([
      expect.objectContaining({ unit: 'EUR' }),
      expect.objectContaining({ unit: '%', constraints: { minimum: 0, maximum: 100 } }),
    ]);
  });
});
