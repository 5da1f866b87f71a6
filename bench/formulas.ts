// Random formulas over random values, held against the embedded database, which is the judge: how often each function agrees.
// Then a million rows of expressions of three parts, against an analytic SQL engine on one thread doing the same, results compared.
import { DuckDBInstance } from '@duckdb/node-api';
import { formulaOf, type FormulaRows } from '../core/formula/formula';
import { isFault } from '../core/formula/parse';
import type { Cell } from '../core/values/cell';
import type { ValueType } from '../core/sheet/column';
import { random } from '../demo/random';
import { agree, Judge, stated, type Case } from '../server/testing/formula-judge';
import { FormulaMaker } from '../server/testing/formula-maker';
import { sized } from './size';

const formulas = sized(4000);
const rowsEach = 5;

const draw = random(Number(process.argv[2] ?? 41));
const maker = new FormulaMaker(draw);
const judge = await Judge.over(draw, rowsEach, maker);
const parts = new Map<string, { cases: number; values: number; agree: number; stated: number }>();
const unlike: Case[] = [];
const reasons = new Map<string, number>();
let [cases, values] = [0, 0];
for (let n = 0; n < formulas; n++)
  for (const one of await judge.cases(maker.nth(n, 3))) {
    cases++;
    const hasValue = !one.theirs?.startsWith('!');
    if (hasValue) values++;
    const why = agree(one) ? undefined : stated(one);
    if (why) reasons.set(why, (reasons.get(why) ?? 0) + 1);
    else if (!agree(one)) unlike.push(one);
    for (const part of new Set(one.parts)) {
      const known = parts.get(part) ?? { cases: 0, values: 0, agree: 0, stated: 0 };
      parts.set(part, {
        cases: known.cases + 1,
        values: known.values + (hasValue ? 1 : 0),
        agree: known.agree + (agree(one) ? 1 : 0),
        stated: known.stated + (why ? 1 : 0),
      });
    }
  }
await judge.close();
console.log(
  `${cases.toLocaleString('en-GB')} cases; the database has a value in ${((100 * values) / cases).toFixed(1)} %; the same in ${((100 * (cases - unlike.length - [...reasons.values()].reduce((a, b) => a + b, 0))) / cases).toFixed(2)} %, ${unlike.length} unlike.`,
);
for (const [why, count] of reasons) console.log(`  ${count} stated: ${why}`);
for (const { formula, row, ours, theirs } of unlike.slice(0, 20))
  console.log(`  unlike: ${formula}\n    over ${JSON.stringify(row)}: ${ours} here, ${theirs} there`);
console.log('part                      cases  values  agree  stated');
for (const [part, { cases: all, values: some, agree: same, stated: told }] of [...parts].sort(([a], [b]) =>
  a < b ? -1 : 1,
))
  console.log(
    `${part.padEnd(22)} ${String(all).padStart(8)} ${String(some).padStart(7)} ${String(same).padStart(6)} ${String(told).padStart(7)}`,
  );

const count = sized(1_000_000);
const columns: { name: string; type: ValueType; cells: Cell[] }[] = [
  { name: 'Whole', type: 'decimal', cells: Array.from({ length: count }, () => draw.whole(1, 90_000) / 10) },
  { name: 'Price', type: 'decimal', cells: Array.from({ length: count }, () => draw.whole(90, 2100) / 100) },
  { name: 'Boxes', type: 'integer', cells: Array.from({ length: count }, () => draw.whole(1, 2400)) },
  {
    name: 'Code',
    type: 'text',
    cells: Array.from({ length: count }, () => draw.one(['HK1', 'SL2', 'CR1', 'MK1', 'TB1'])),
  },
  {
    name: 'Day',
    type: 'date',
    cells: Array.from(
      { length: count },
      () => `2025-${String(draw.whole(1, 12)).padStart(2, '0')}-${String(draw.whole(1, 28)).padStart(2, '0')}`,
    ),
  },
];
const expressions: [formula: string, sql: string][] = [
  ['round("Whole" * "Price", 2) - "Boxes"', '(round("Whole" * "Price", 2) - "Boxes")::double'],
  [
    `case when "Boxes" >= 1000 then 'large' when "Boxes" >= 200 then 'medium' else 'small' end`,
    `case when "Boxes" >= 1000 then 'large' when "Boxes" >= 200 then 'medium' else 'small' end`,
  ],
  [`upper(left("Code", 2)) || '-' || "Boxes"`, `upper(left("Code", 2)) || '-' || "Boxes"`],
  [`"Day" + 30`, `("Day" + 30)::date::varchar`],
];
const median = (times: number[]) => [...times].sort((a, b) => a - b)[times.length >> 1];
const database = await DuckDBInstance.create(':memory:', { threads: '1' });
const connection = await database.connect();
await connection.run(
  'create table rows (n integer, "Whole" decimal(18, 1), "Price" decimal(18, 2), "Boxes" integer, "Code" varchar, "Day" date)',
);
const csv = columns[0].cells
  .map((_, row) => `${row},${columns.map(({ cells }) => String(cells[row])).join(',')}`)
  .join('\n');
const { mkdtemp, rm, writeFile } = await import('node:fs/promises');
const { tmpdir } = await import('node:os');
const { join } = await import('node:path');
const folder = await mkdtemp(join(tmpdir(), 'able-sieve-bench-'));
await writeFile(join(folder, 'rows.csv'), csv);
await connection.run(`copy rows from '${join(folder, 'rows.csv')}' (header false)`);
await rm(folder, { recursive: true });
const sheet: FormulaRows = { length: count, columns, report: () => null, reportOf: () => '' };
for (const [text, sql] of expressions) {
  const formula = formulaOf(text, columns);
  if (isFault(formula)) throw new Error(formula.says);
  const [own, other]: [number[], number[]] = [[], []];
  let cells: Cell[] = [];
  for (let run = 0; run < 4; run++) {
    let began = performance.now();
    const result = formula.over(sheet);
    cells = new Array<Cell>(count);
    for (let row = 0; row < count; row++) cells[row] = result(row);
    if (run > 0) own.push(performance.now() - began);
    began = performance.now();
    await connection.run(`create or replace table result as select n, ${sql} as v from rows`);
    if (run > 0) other.push(performance.now() - began);
  }
  const found = (await (await connection.runAndReadAll('select v from result order by n')).getRows()).map(([v]) => v);
  const wrong = found.findIndex((v, row) => v !== cells[row]);
  if (wrong >= 0)
    throw new Error(`${text}, row ${wrong}: “${String(found[wrong])}” there, “${String(cells[wrong])}” here.`);
  console.log(
    `${text}: ${Math.round(median(own))} ms for a million rows, ${Math.round(median(other))} ms there: ${(median(own) / median(other)).toFixed(1)} times; the same results.`,
  );
}
