// Random formulas over random values, worked out here and by the embedded PostgreSQL, which is the judge.
import { PGlite } from '@electric-sql/pglite';
import { everyPart, type Expression } from '../../core/formula/ast';
import { outsideCalendar } from '../../core/formula/calendar';
import { formulaOf, type FormulaRows } from '../../core/formula/formula';
import type { FormulaFunction } from '../../core/formula/functions/function';
import { parsed, toNumber } from '../../core/formula/numeric';
import { isFault, parseFormula } from '../../core/formula/parse';
import { printFormula, quotedName, quotedText, type Dialect } from '../../core/formula/print';
import type { ValueType } from '../../core/sheet/column';
import { isError, type Cell } from '../../core/values/cell';
import { plainNumber } from '../../core/values/plain-number';
import { cellOf, columns, type FormulaMaker, type Random } from './formula-maker';

const sqlTypes: Readonly<Record<ValueType, string>> = {
  text: 'text',
  integer: 'numeric',
  decimal: 'numeric',
  percent: 'numeric',
  date: 'date',
  time: 'time',
  datetime: 'timestamp',
  period: 'text',
  boolean: 'boolean',
};

/** What is written otherwise for the judge: all its numbers are numeric, as they are here; whole ones are asked for where they must be. */
const judged =
  (ways: WeakMap<Expression, FormulaFunction>): Dialect =>
  (of, print) => {
    // Not as constants, of which the database would make one of all that it stands in before it looks at a row.
    if (of.kind === 'number') return `(select ${of.text}::numeric)`;
    if (of.kind === 'boolean') return `(select ${of.value})`;
    if (of.kind === 'text') return `(select ${quotedText(of.value)}::text)`;
    if (of.kind === 'cast' && of.of.kind === 'null') return `(select null::${of.into})`;
    if (of.kind === 'cast' && of.of.kind === 'text') return `(select ${quotedText(of.of.value)}::${of.into})`;
    if (of.kind === 'cast' && of.into === 'integer') return `(${print(of.of)})::integer::numeric`;
    const way = ways.get(of);
    if (of.kind !== 'call' || !way) return undefined;
    const args = of.args.map((arg, nth) => {
      const own = print(arg);
      if ((way.args[nth] ?? way.rest) === 'integer') return `whole(${own})`;
      // A date alone would be taken for a moment in a zone.
      return of.name === 'date_trunc' && nth === 1 ? `(${own})::timestamp` : own;
    });
    if (way.name === 'extract') return `extract(${(of.args[0] as { value: string }).value} from ${args[1]})::numeric`;
    if (way.name === 'position') return `position((${args[0]}) in (${args[1]}))::numeric`;
    if (['upper', 'lower', 'initcap'].includes(way.name)) return `${way.name}((${args[0]}) collate "pg_c_utf8")`;
    if (/^\w/.test(way.name) && !/^i?like$/.test(way.name))
      return `${way.name}(${args.join(', ')})${way.result === 'integer' || way.result === 'numeric' ? '::numeric' : ''}`;
    // How strongly signs bind is judged too: brackets stand only where a whole number is asked for.
    return way.args.includes('integer') || way.result === 'integer'
      ? `(${args.map((arg) => `(${arg})`).join(` ${way.name} `)})${way.result === 'integer' ? '::numeric' : ''}`
      : undefined;
  };

/** One case: a formula in a row, what came here and there. */
export interface Case {
  readonly formula: string;
  readonly sql: string;
  readonly row: readonly Cell[];
  readonly parts: readonly string[];
  /** `!`: it has no value, and why. */
  readonly ours: string | null;
  readonly theirs: string | null;
}
/** What is another than the database's, and stated in the docs: years have four digits, numbers and intervals are not without end. */
export function stated({ ours, theirs }: Case): string | undefined {
  if (ours?.includes(outsideCalendar) && theirs !== null && !theirs.startsWith('!')) return 'years have four digits';
  return /too many digits|interval that is too long/.test(ours ?? '')
    ? 'numbers have at most 2,000 digits, intervals are shorter than 285 years in hours'
    : undefined;
}

export const agree = ({ ours, theirs }: Case): boolean =>
  ours === theirs || (ours !== null && theirs !== null && ours.startsWith('!') && theirs.startsWith('!'));

const comparable = (text: string | null, type: ValueType): string | null => {
  if (text === null || text === '') return null;
  if (type !== 'decimal' && type !== 'integer') return text;
  const value = parsed(text);
  try {
    return value ? plainNumber(toNumber(value) + 0) : text;
  } catch {
    return '! too large';
  }
};

/** Works formulas out in some rows, here and in the database. */
export class Judge {
  private constructor(
    private readonly database: PGlite,
    readonly rows: readonly (readonly Cell[])[],
    private readonly maker: FormulaMaker,
  ) {}

  static async over(draw: Random, count: number, maker: FormulaMaker): Promise<Judge> {
    const database = await PGlite.create();
    await database.exec(
      `create function whole(n numeric) returns integer language plpgsql volatile as $$ begin if n <> trunc(n) then raise exception 'not whole'; end if; return n::integer; end $$; create table cells (n integer, ${columns.map(({ name, type }) => `${quotedName(name)} ${sqlTypes[type]}`).join(', ')})`,
    );
    const rows = Array.from({ length: count }, () => columns.map(({ type }) => cellOf(draw, type)));
    const written = (cell: Cell, type: ValueType) =>
      cell === null
        ? 'null'
        : typeof cell === 'number'
          ? `${plainNumber(cell)}::numeric`
          : typeof cell === 'boolean'
            ? String(cell)
            : `${quotedText(String(cell))}::${sqlTypes[type]}`;
    await database.exec(
      `insert into cells values ${rows.map((row, n) => `(${n}, ${row.map((cell, c) => written(cell, columns[c].type)).join(', ')})`).join(', ')}`,
    );
    return new Judge(database, rows, maker);
  }

  close = () => this.database.close();

  async cases(of: Expression): Promise<Case[]> {
    const text = printFormula(of);
    const again = parseFormula(text);
    if (isFault(again)) throw new Error(`${text} was printed and is no formula: ${again.says}`);
    if (printFormula(again) !== text) throw new Error(`${text} was parsed as ${printFormula(again)}`);
    const formula = formulaOf(text, columns);
    if (isFault(formula))
      return this.rows
        .slice(0, 1)
        .map((row) => ({ formula: text, sql: '', row, parts: [], ours: `! ${formula.says}`, theirs: '! not asked' }));
    const sheet: FormulaRows = {
      length: this.rows.length,
      columns: columns.map((column, c) => ({ ...column, cells: this.rows.map((row) => row[c]) })),
      report: () => null,
      reportOf: () => '',
    };
    const own = formula.over(sheet);
    const sql = printFormula(of, judged(this.maker.ways));
    const theirs = await this.asked(sql);
    const parts = [...everyPart(of)].map((part) => (part.kind === 'call' ? part.name : part.kind));
    return this.rows.map((row, n) => {
      const cell = own(n);
      return {
        formula: text,
        sql,
        row,
        parts,
        ours:
          cell !== null && isError(cell)
            ? `! ${cell.text}`
            : comparable(
                cell === null ? null : typeof cell === 'number' ? plainNumber(cell) : String(cell),
                formula.type,
              ),
        theirs: theirs[n]?.startsWith('!') ? theirs[n] : comparable(theirs[n], formula.type),
      };
    });
  }

  /** The result in each row; where the whole fails, row by row. */
  private async asked(sql: string): Promise<(string | null)[]> {
    try {
      const { rows } = await this.database.query<{ v: string | null }>(
        `select (${sql})::text as v from cells order by n`,
      );
      return rows.map(({ v }) => v);
    } catch {
      const all: (string | null)[] = [];
      for (let n = 0; n < this.rows.length; n++)
        try {
          const { rows } = await this.database.query<{ v: string | null }>(
            `select (${sql})::text as v from cells where n = ${n}`,
          );
          all.push(rows[0].v);
        } catch (error) {
          all.push(`! ${(error as Error).message}`);
        }
      return all;
    }
  }
}
