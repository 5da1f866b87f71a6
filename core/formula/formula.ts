import { columnNamed, type ValueType } from '../sheet/column';
import { isError, type Cell } from '../values/cell';
import { columnsUsedIn, everyPart, type Expression, type ReportField } from './ast';
import { dayFrom, momentFrom, timeFrom, type Moment } from './calendar';
import { checked, type FormulaColumn } from './check';
import type { Checked, Source, Worked } from './checked';
import { Faulty, type FormulaFault } from './fault';
import { Mishap } from './mishap';
import { fromNumber, toNumber, type Numeric } from './numeric';
import { isFault, parseFormula } from './parse';
import { textOf, type FormulaType, type Value } from './value';

/** What values of columns are in formulas. */
const formulaTypes: Readonly<Record<ValueType, FormulaType>> = {
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
const columnTypes: Readonly<Record<FormulaType, ValueType>> = {
  text: 'text',
  numeric: 'decimal',
  date: 'date',
  time: 'time',
  timestamp: 'datetime',
  interval: 'text',
  boolean: 'boolean',
};

export const asFormulaColumn = ({
  name,
  type,
}: {
  readonly name: string;
  readonly type: ValueType;
}): FormulaColumn => ({ name, type: formulaTypes[type], whole: type === 'integer' });

/** What a formula asks of the rows beside the values of columns. */
export interface FormulaRows {
  readonly length: number;
  readonly columns: readonly { readonly name: string; readonly type: ValueType; readonly cells: readonly Cell[] }[];
  report(field: ReportField, row: number): Cell;
  /** Rows of one report have the same. */
  reportOf(row: number): string;
}

/** A formula that has been checked against the columns that there are. */
export interface Formula {
  readonly text: string;
  readonly expression: Expression;
  /** Of the column that its results make. */
  readonly type: ValueType;
  /** Columns whose values it uses, each once. */
  readonly uses: readonly string[];
  readonly asksReport: ReadonlySet<ReportField>;
  /** Does it look at other rows of the report? */
  readonly looksAround: boolean;
  /** The result in each row. */
  over(rows: FormulaRows): (row: number) => Cell;
}

/** @param columns as they are called above */
export function formulaOf(
  text: string,
  columns: readonly { readonly name: string; readonly type: ValueType }[],
): Formula | FormulaFault {
  const expression = parseFormula(text);
  if (isFault(expression)) return expression;
  const byName = new Map(columns.map((column) => [column.name, asFormulaColumn(column)]));
  const named = (name: string) => {
    const column = columnNamed({ columns }, name);
    return column && asFormulaColumn(column);
  };
  try {
    const own = checked(expression, (name) => byName.get(name) ?? named(name));
    return made(text, expression, own);
  } catch (error) {
    if (error instanceof Faulty) return error.fault;
    throw error;
  }
}

function made(text: string, expression: Expression, own: Checked): Formula {
  const parts = [...everyPart(expression)];
  const type: FormulaType = own.type === 'open' ? 'text' : own.type;
  return {
    text,
    expression,
    type: type === 'numeric' && own.whole ? 'integer' : columnTypes[type],
    uses: columnsUsedIn(expression),
    asksReport: new Set(parts.flatMap((part) => (part.kind === 'report' ? [part.field] : []))),
    looksAround: parts.some((part) => part.kind === 'call' && part.over !== undefined),
    over: (rows) => {
      const work = own.work(sourceOf(rows));
      return (row) => {
        try {
          return cellOf(work(row), type);
        } catch (error) {
          // What the engine refuses as too large is this cell's fault, never the report's.
          if (!(error instanceof Mishap || error instanceof RangeError)) throw error;
          const why = error instanceof RangeError ? 'more than can be worked out' : error.message;
          return {
            text: error instanceof MisfitUsed ? error.text : why,
            expected:
              error instanceof MisfitUsed ? error.message : `a result of ${text.replace(/\s+/g, ' ').slice(0, 80)}`,
          };
        }
      };
    },
  };
}

/** A cell that is used holds a misfit: so does what is worked out of it. */
class MisfitUsed extends Mishap {
  constructor(
    readonly text: string,
    expected: string,
  ) {
    super(expected);
  }
}

function cellOf(value: Value, type: FormulaType): Cell {
  if (value === null) return null;
  if (type === 'numeric') return toNumber(value as Numeric);
  if (type === 'boolean') return value as boolean;
  const text = textOf(value, type);
  return text === '' ? null : text;
}

const read: Readonly<Record<FormulaType, (cell: Exclude<Cell, null>) => Value>> = {
  numeric: (cell) => (typeof cell === 'number' ? fromNumber(cell) : null),
  text: String,
  date: (cell) => dayFrom(String(cell)),
  time: (cell) => timeFrom(String(cell)),
  timestamp: (cell): Moment => momentFrom(String(cell)),
  interval: String,
  boolean: (cell) => cell === true,
};

function sourceOf(rows: FormulaRows): Source {
  const known = new Map<string, Worked>();
  return {
    rows: rows.length,
    reportOf: rows.reportOf,
    column(name) {
      const own = known.get(name);
      if (own) return own;
      const column = rows.columns.find((each) => each.name === name)!;
      const { cells } = column;
      const type = formulaTypes[column.type];
      const reading = read[type];
      const worked: Worked = (row) => {
        const cell = cells[row];
        if (cell === null || cell === '') return null;
        if (typeof cell === 'object' && isError(cell)) throw new MisfitUsed(cell.text, `${cell.expected} in “${name}”`);
        return reading(cell);
      };
      known.set(name, worked);
      return worked;
    },
    report: (field) => (row) => {
      const cell = rows.report(field as ReportField, row);
      return cell === null || cell === '' ? null : typeof cell === 'number' ? fromNumber(cell) : String(cell);
    },
  };
}
