// Ten steps over a million rows, against an analytic SQL engine on one thread doing the same in the same run; the results are
// compared cell by cell. Then the same steps over ten and a hundred times fewer rows, to see that time grows with the rows.
import { DuckDBInstance } from '@duckdb/node-api';
import * as v from 'valibot';
import { landingSheet } from '../demo/landings';
import { random } from '../demo/random';
import { printed } from '../demo/sheet-rows';
import { vessels } from '../demo/vessels';
import type { Cell } from '../core/values/cell';
import { noLists } from '../core/sheet/list';
import { RowBook, Rows } from '../core/sheet/row';
import { sheet as makeSheet, type Sheet } from '../core/sheet/sheet';
import { kinds } from '../core/steps/kinds';
import { shapes } from './shapes';
import type { Paper } from '../core/steps/step';
import { sized } from './size';

const most = sized(1_000_000);
const names = ['Day', 'Quay', 'Item', 'Flag', 'Note', 'Boxes', 'Weight', 'Price', 'Value', 'Berth', 'Vessel', 'Agent'];

/** Rows like those of landing sheets: a quay on the first row of its block, amounts as printed. */
function rowsOf(count: number): (string | null)[][] {
  const draw = random(11);
  const landings = Array.from({ length: 12 }, (_, i) => landingSheet(22 + i)).flatMap((sheet) =>
    sheet.quays.flatMap((quay) => quay.landings),
  );
  const fleet = vessels(400);
  return Array.from({ length: count }, (_, n) => {
    const landing = landings[n % landings.length];
    const value = draw.whole(-9_000, 9_000_000);
    return [
      `${String(draw.whole(1, 28)).padStart(2, '0')}/${String(draw.whole(1, 12)).padStart(2, '0')}/2025`,
      n % 9 === 0 ? draw.one(['Saltby', 'Tern Point', 'Old Lantern', 'Marrow Quay']) : null,
      `${landing.code} - ${landing.species}`,
      draw.one(['Y', 'N', 'Y', 'x']),
      draw.chance(0.5) ? '  seen  at   the scales ' : 'sold',
      printed(draw.whole(1, 2400), 0),
      printed(draw.whole(1, 90_000), 1),
      printed(draw.whole(90, 2100), 2),
      printed(value, 2),
      `${draw.one(['N', 'S', 'W'])}${draw.whole(1, 9)}`,
      fleet[draw.whole(0, 399)].name,
      draw.one(['Tern & Quarr', 'Embleton', 'Lorton']),
    ];
  });
}

const column = (...all: string[]) => ({ by: 'names', names: all });
const steps: [kind: string, settings: object][] = [
  ['sift rows', { conditions: [{ of: { is: 'column', name: 'Flag' }, test: 'is', value: 'x' }] }],
  ['tidy text', { columns: column('Note') }],
  ['carry values', { columns: column('Quay') }],
  [
    'set types',
    {
      types: [
        { columns: column('Boxes'), type: 'integer' },
        { columns: column('Weight', 'Price', 'Value'), type: 'decimal' },
        { columns: column('Day'), type: 'date' },
      ],
    },
  ],
  ['split column', { column: 'Item', mark: ' - ', into: ['Code', 'Species'] }],
  [
    'recode',
    {
      columns: column('Flag'),
      values: [
        { from: ['Y'], to: 'landed' },
        { from: ['N'], to: 'returned' },
      ],
    },
  ],
  ['find and replace', { columns: column('Vessel'), text: 'Grey', replace: 'Gray' }],
  ['concatenate columns', { columns: column('Quay', 'Berth'), joiner: '/', into: 'Place' }],
  ['deduplicate', { columns: column('Day', 'Code', 'Vessel') }],
  ['sort', { by: [{ column: 'Code' }, { column: 'Day' }, { column: 'Vessel' }] }],
];

const sql = `
create table result as
with sifted as (select * from rows where lower("Flag") <> 'x'),
typed as (
  select n, strptime("Day", '%d/%m/%Y')::date as "Day", last_value("Quay" ignore nulls) over (order by n) as "Quay",
    split_part("Item", ' - ', 1) as "Code", split_part("Item", ' - ', 2) as "Species",
    case "Flag" when 'Y' then 'landed' when 'N' then 'returned' else "Flag" end as "Flag",
    trim(regexp_replace("Note", '\\s+', ' ', 'g')) as "Note", replace("Boxes", ',', '')::integer as "Boxes",
    replace("Weight", ',', '')::decimal(18, 1) as "Weight", replace("Price", ',', '')::decimal(18, 2) as "Price",
    case when starts_with("Value", '(') then -replace(trim("Value", '()'), ',', '')::decimal(18, 2) else replace("Value", ',', '')::decimal(18, 2) end as "Value",
    "Berth", regexp_replace("Vessel", 'grey', 'Gray', 'gi') as "Vessel", "Agent" from sifted),
numbered as (select *, row_number() over (partition by "Day", "Code", "Vessel" order by n) as copy from typed)
select "Day"::varchar as "Day", concat_ws('/', "Quay", "Berth") as "Place", "Code", "Species", "Flag", "Note", "Boxes", "Weight"::double as "Weight", "Price"::double as "Price", "Value"::double as "Value", "Vessel", "Agent"
from numbered where copy = 1 order by "Code", numbered."Day", "Vessel", n`;

function sheetOf(rows: readonly (string | null)[][]): { sheet: Sheet; paper: Paper } {
  const book = new RowBook();
  const columns = names.map((name, c) => ({
    name,
    type: 'text' as const,
    cells: rows.map((row): Cell => row[c]),
    origins: Int32Array.from(rows, (row, n) =>
      row[c] === null ? -1 : book.origins.intern('r', 1 + (n >> 6), [(n & 63) * names.length + c]),
    ),
  }));
  const numbers = Int32Array.from(rows, (_, n) =>
    book.add(
      { report: 'r', table: 'p1t1', page: 1 + (n >> 6), role: 'body', indent: 0, bold: false, shaded: false },
      n,
    ),
  );
  return {
    sheet: makeSheet(columns, new Rows(book, numbers)),
    paper: { path: 'r.pdf', pages: [], lines: () => [], title: () => undefined, pieces: [], labelled: () => [] },
  };
}

function ours(input: Sheet, paper: Paper): Sheet {
  let sheet = input;
  for (const [kind, settings] of steps) {
    const declaration = kinds.get(kind)!;
    const result = declaration.run(sheet, v.parse(declaration.settings, settings), {
      papers: () => paper,
      letPass: () => false,
      lists: noLists,
    });
    if (result.problems?.length) throw new Error(JSON.stringify(result.problems[0]));
    sheet = result.sheet;
  }
  return sheet;
}

const ms = (time: number) => `${Math.round(time).toLocaleString('en-GB')} ms`;
const megabytes = () => `${Math.round(process.memoryUsage().rss / 1e6).toLocaleString('en-GB')} MB`;

for (const count of [most / 100, most / 10, most]) {
  const rows = rowsOf(count);
  const { sheet, paper } = sheetOf(rows);
  const before = megabytes();
  let began = performance.now();
  const result = ours(sheet, paper);
  const own = performance.now() - began;
  const after = megabytes();

  const database = await DuckDBInstance.create(':memory:', { threads: '1' });
  const connection = await database.connect();
  await connection.run(`create table rows (n integer, ${names.map((name) => `"${name}" varchar`).join(', ')})`);
  const appender = await connection.createAppender('rows');
  rows.forEach((row, n) => {
    appender.appendInteger(n);
    for (const text of row)
      if (text === null) appender.appendNull();
      else appender.appendVarchar(text);
    appender.endRow();
  });
  appender.closeSync();
  began = performance.now();
  await connection.run(sql);
  const theirs = performance.now() - began;
  const reader = await connection.runAndReadAll('select * from result');
  const found = reader.getRows();
  const wanted = reader.columnNames();
  if (found.length !== result.rows.length) throw new Error(`${found.length} rows there, ${result.rows.length} here.`);
  for (const [c, name] of wanted.entries()) {
    const { cells } = result.columns.find((each) => each.name === name)!;
    const wrong = found.findIndex((row, r) => row[c] !== cells[r]);
    if (wrong >= 0)
      throw new Error(`${name}, row ${wrong + 1}: “${String(found[wrong][c])}” there, “${String(cells[wrong])}” here.`);
  }
  connection.closeSync();
  console.log(
    `${count.toLocaleString('en-GB')} rows of ${names.length} columns, ${result.rows.length.toLocaleString('en-GB')} come out, the same: ${ms(own)} here with origins (${before} before, ${after} after), ${ms(theirs)} there: ${(own / theirs).toFixed(1)} times; ${((own / count) * 1000).toFixed(1)} µs a row.`,
  );
}

await shapes();
