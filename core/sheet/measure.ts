import { isBlank, isError, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import { familyOf, type Column } from './column';

/** Cells from one place to another, with both; places count from 0. */
export interface CellRange {
  readonly rows: readonly [from: number, to: number];
  readonly columns: readonly [from: number, to: number];
}

/** What some cells of one column hold. Least and most are those of numbers, dates and times. */
export interface ColumnMeasure extends Pick<Column, 'type' | 'unit'> {
  readonly cells: number;
  readonly blank: number;
  readonly misfits: number;
  readonly numbers: number;
  readonly sum?: number;
  readonly least?: Cell;
  readonly most?: Cell;
}

/** What chosen cells hold; sum and mean only where all numbers are of one kind and unit. */
export interface Measured {
  readonly cells: number;
  readonly blank: number;
  readonly misfits: number;
  readonly numbers: number;
  /** In how many columns the numbers stand. */
  readonly columns: number;
  readonly sum?: number;
  readonly mean?: number;
  readonly least?: Cell;
  readonly most?: Cell;
  readonly unit?: string;
}

/** The rows of each column that some ranges take, each once, as stretches in order. */
export function stretchesByColumn(ranges: readonly CellRange[]): Map<number, (readonly [from: number, to: number])[]> {
  const byColumn = new Map<number, (readonly [number, number])[]>();
  for (const { rows, columns } of ranges)
    for (let column = columns[0]; column <= columns[1]; column++)
      byColumn.set(column, [...(byColumn.get(column) ?? []), rows]);
  for (const [column, stretches] of byColumn) {
    const joined: [number, number][] = [];
    for (const [from, to] of [...stretches].sort((a, b) => a[0] - b[0])) {
      const last = joined.at(-1);
      if (last && from <= last[1] + 1) last[1] = Math.max(last[1], to);
      else joined.push([from, to]);
    }
    byColumn.set(column, joined);
  }
  return byColumn;
}

const ordered = new Set(['date', 'time', 'datetime', 'period']);

export function columnMeasure(
  { type, unit, cells: all }: Pick<Column, 'type' | 'unit' | 'cells'>,
  stretches: readonly (readonly [number, number])[],
): ColumnMeasure {
  let [cells, blank, misfits] = [0, 0, 0];
  let least: Cell = null;
  let most: Cell = null;
  const numbers: number[] = [];
  for (const [from, to] of stretches)
    for (let row = from; row <= Math.min(to, all.length - 1); row++) {
      const cell = all[row];
      cells++;
      if (isBlank(cell)) blank++;
      else if (isError(cell)) misfits++;
      else if (typeof cell === 'number') numbers.push(cell);
      if (typeof cell !== 'number' && (!ordered.has(type) || typeof cell !== 'string' || cell === '')) continue;
      if (least === null || cell < least) least = cell;
      if (most === null || cell > most) most = cell;
    }
  return {
    type,
    ...(unit === undefined ? {} : { unit }),
    cells,
    blank,
    misfits,
    numbers: numbers.length,
    ...(numbers.length > 0 ? { sum: exactSum(numbers) } : {}),
    ...(least === null ? {} : { least, most }),
  };
}

/** What the parts of one column hold together. */
export function wholeColumn(parts: readonly ColumnMeasure[]): ColumnMeasure {
  const { columns: _, mean: __, ...whole } = measured(parts);
  return { type: parts[0].type, ...(parts[0].unit === undefined ? {} : { unit: parts[0].unit }), ...whole };
}

/** What several columns hold together. */
export function measured(columns: readonly ColumnMeasure[]): Measured {
  const total = (of: 'cells' | 'blank' | 'misfits' | 'numbers') => columns.reduce((sum, each) => sum + each[of], 0);
  const counts = {
    cells: total('cells'),
    blank: total('blank'),
    misfits: total('misfits'),
    numbers: total('numbers'),
    columns: columns.filter(({ numbers }) => numbers > 0).length,
  };
  const filled = columns.filter(({ least }) => least !== undefined);
  if (filled.length === 0 || filled.some((each) => familyOf(each) !== familyOf(filled[0]))) return counts;
  const ends = {
    least: filled.map(({ least }) => least!).reduce((a, b) => (b < a ? b : a)),
    most: filled.map(({ most }) => most!).reduce((a, b) => (b > a ? b : a)),
    ...(filled[0].unit === undefined ? {} : { unit: filled[0].unit }),
  };
  if (counts.numbers === 0) return { ...counts, ...ends };
  const sum = exactSum(filled.flatMap((each) => each.sum ?? []));
  return { ...counts, sum, mean: Number((sum / counts.numbers).toPrecision(15)), ...ends };
}
