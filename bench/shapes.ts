// A million values turned into rows, and summarised, against an analytic SQL engine on one thread; the results are compared cell by cell.
import { DuckDBInstance, type DuckDBConnection } from '@duckdb/node-api';
import * as v from 'valibot';
import { random } from '../demo/random';
import type { Cell } from '../core/values/cell';
import { noLists } from '../core/sheet/list';
import { RowBook, Rows } from '../core/sheet/row';
import { sheet as makeSheet, type Sheet } from '../core/sheet/sheet';
import { kinds } from '../core/steps/kinds';
import { sized } from './size';

const values = sized(1_000_000);
const months = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October'];
const keys = ['Quay', 'Vessel'];

/** Amounts of so many months beside each other, in hundredths; some are blank. */
function crosstab(): { rows: (string | number | null)[][]; sheet: Sheet } {
  const draw = random(17);
  const rows = Array.from({ length: values / months.length }, (_, n) => [
    draw.one(['Saltby', 'Tern Point', 'Old Lantern', 'Marrow Quay']),
    `Vessel ${n % 5000}`,
    ...months.map(() => (draw.chance(0.05) ? null : draw.whole(1, 900_000) / 100)),
  ]);
  const book = new RowBook();
  const names = [...keys, ...months];
  const columns = names.map((name, c) => ({
    name,
    type: c < keys.length ? ('text' as const) : ('decimal' as const),
    cells: rows.map((row): Cell => row[c]),
    origins: Int32Array.from(rows, (_, n) => book.origins.intern('r', 1 + (n >> 6), [(n & 63) * names.length + c])),
  }));
  return {
    rows,
    sheet: makeSheet(
      columns,
      new Rows(
        book,
        Int32Array.from(rows, (_, n) =>
          book.add(
            { report: 'r', table: 'p1t1', page: 1 + (n >> 6), role: 'body', indent: 0, bold: false, shaded: false },
            n,
          ),
        ),
      ),
    ),
  };
}

function run(kind: string, sheet: Sheet, settings: object): Sheet {
  const declaration = kinds.get(kind)!;
  const result = declaration.run(sheet, v.parse(declaration.settings, settings), {
    papers: () => {
      throw new Error('No paper is asked for.');
    },
    letPass: () => false,
    lists: noLists,
  });
  const [problem] = (result.problems ?? []).filter(({ came }) => !/blank/.test(came));
  if (problem) throw new Error(JSON.stringify(problem));
  return result.sheet;
}

/** Throws where two results differ, cell by cell; sums are exact here and of floating point there. */
async function compare(connection: DuckDBConnection, sql: string, ours: Sheet): Promise<void> {
  const reader = await connection.runAndReadAll(sql);
  const found = reader.getRows();
  if (found.length !== ours.rows.length) throw new Error(`${found.length} rows there, ${ours.rows.length} here.`);
  ours.columns.forEach(({ name, cells }, c) => {
    const wrong = found.findIndex((row, r) => {
      const there = typeof row[c] === 'bigint' ? Number(row[c]) : row[c];
      return typeof there === 'number' && typeof cells[r] === 'number'
        ? Math.abs(there - cells[r]) > 1e-9 * Math.abs(there)
        : there !== cells[r];
    });
    if (wrong >= 0)
      throw new Error(`${name}, row ${wrong + 1}: “${String(found[wrong][c])}” there, “${String(cells[wrong])}” here.`);
  });
}

const timed = async <Made>(work: () => Made | Promise<Made>): Promise<[Made, number]> => {
  const began = performance.now();
  const made = await work();
  return [made, performance.now() - began];
};
const told = (what: string, own: number, there: number) =>
  console.log(
    `${what}, the same: ${Math.round(own)} ms here with origins, ${Math.round(there)} ms there: ${(own / there).toFixed(1)} times.`,
  );

export async function shapes(): Promise<void> {
  const { rows, sheet } = crosstab();
  const database = await DuckDBInstance.create(':memory:', { threads: '1' });
  const connection = await database.connect();
  await connection.run(
    `create table wide (n integer, ${keys.map((name) => `"${name}" varchar`).join(', ')}, ${months.map((name) => `"${name}" double`).join(', ')})`,
  );
  const appender = await connection.createAppender('wide');
  rows.forEach((row, n) => {
    appender.appendInteger(n);
    for (const cell of row)
      if (cell === null) appender.appendNull();
      else if (typeof cell === 'number') appender.appendDouble(cell);
      else appender.appendVarchar(cell);
    appender.endRow();
  });
  appender.closeSync();

  const [long, own] = await timed(() =>
    run('unpivot', sheet, { columns: { by: 'all but', names: keys }, into: 'Month', value: 'Value' }),
  );
  const [, there] = await timed(() =>
    connection.run(
      'create table long as unpivot wide on columns(* exclude (n, "Quay", "Vessel")) into name "Month" value "Value"',
    ),
  );
  await compare(
    connection,
    `select "Quay", "Vessel", "Month", "Value" from long order by n, array_position([${months.map((name) => `'${name}'`).join(', ')}], "Month")`,
    long,
  );
  told(
    `${values.toLocaleString('en-GB')} values unpivoted to ${long.rows.length.toLocaleString('en-GB')} rows`,
    own,
    there,
  );

  const ways = ['sum', 'count', 'mean', 'least', 'most'];
  const [summed, ownSummed] = await timed(() =>
    run('summarise', long, {
      by: { by: 'names', names: ['Quay', 'Month'] },
      values: ways.map((how) => ({ columns: { by: 'names', names: ['Value'] }, how })),
    }),
  );
  const [, thereSummed] = await timed(() =>
    connection.run(
      'create table summed as select "Quay", "Month", sum("Value") as s, count("Value") as c, avg("Value") as m, min("Value") as l, max("Value") as h, min(n * 100 + array_position([' +
        months.map((name) => `'${name}'`).join(', ') +
        '], "Month")) as first from long group by all',
    ),
  );
  await compare(connection, 'select "Quay", "Month", s, c, m, l, h from summed order by first', summed);
  told(
    `${long.rows.length.toLocaleString('en-GB')} rows summarised in ${ways.length} ways to ${summed.rows.length}`,
    ownSummed,
    thereSummed,
  );
  connection.closeSync();
}
