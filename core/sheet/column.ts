import { isBlank, type Cell } from '../values/cell';
import { nowhere } from './origin';
import type { Problem } from './problem';

/** Calendar values are ISO 8601 text; decimals are exact to 15 significant digits; percent keeps the printed number. */
export const valueTypes = [
  'text',
  'integer',
  'decimal',
  'percent',
  'date',
  'time',
  'datetime',
  'period',
  'boolean',
] as const;
export type ValueType = (typeof valueTypes)[number];

export interface Column {
  readonly name: string;
  /** The words of the paper that name it, as an id into the origins of the sheet's rows; none: no print names it. */
  readonly namedBy?: number;
  readonly type: ValueType;
  /** Unit of the values, with the scale in which they are printed where that was kept beside: "kg", "thousands t". */
  readonly unit?: string;
  readonly cells: readonly Cell[];
  /** One id an entry into the origins of the sheet's rows; -1: not from the paper. */
  readonly origins: Int32Array;
}

/** Names compare without case and with white space folded, as they vary in print. */
export const sameName = (a: string, b: string) => folded(a) === folded(b);
const folded = (name: string) => name.trim().replace(/\s+/g, ' ').toLowerCase();

const isNumber = (type: ValueType) => type === 'integer' || type === 'decimal';
/** What the values of a column are of: those of one family may stand in one column, and numbers of one may be added. */
export const familyOf = ({ type, unit }: Pick<Column, 'type' | 'unit'>): string =>
  isNumber(type) ? (unit ?? 'number') : type;

/** Are the values numbers, of whatever kind? */
export const isNumeric = (type: ValueType): boolean => type === 'integer' || type === 'decimal' || type === 'percent';

interface Columns {
  readonly columns: readonly Column[];
}

/** The column of this name, however it is spelled. */
export const columnNamed = <Named extends { readonly name: string }>(
  { columns }: { readonly columns: readonly Named[] },
  name: string,
): Named | undefined => columns.find((column) => sameName(column.name, name));

/** The problem that a sheet has no column of this name. */
export const missingColumn = ({ columns }: Columns, name: string): Problem => ({
  kind: 'step',
  column: name,
  expected: `a column “${name}”`,
  came: `columns ${columns.map((column) => `“${column.name}”`).join(', ') || 'none'}`,
  remedy: 'Add a spelling to a rename step above, or choose another column.',
});

/** Gives out names that no column bears yet: the name itself, or with a number behind it. */
export function freeNames(columns: readonly Pick<Column, 'name'>[] = []): (wanted: string) => string {
  const taken = new Set(columns.map(({ name }) => name));
  return (wanted) => {
    let free = wanted;
    for (let n = 2; taken.has(free); n++) free = `${wanted} ${n}`;
    taken.add(free);
    return free;
  };
}

/** A column that is not from the paper. */
export const madeColumn = (name: string, cells: readonly Cell[], type: ValueType = 'text'): Column => ({
  name,
  type,
  cells,
  origins: new Int32Array(cells.length).fill(nowhere),
});

/** A column made out of another, row by row: what is filled comes from the same words. */
export const columnFrom = (
  source: Pick<Column, 'origins'>,
  name: string,
  cells: readonly Cell[],
  type: ValueType = 'text',
): Column => ({
  name,
  type,
  cells,
  origins: Int32Array.from(cells, (cell, row) => (isBlank(cell) ? nowhere : source.origins[row])),
});
