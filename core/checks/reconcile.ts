import { columnNamed } from '../sheet/column';
import type { List } from '../sheet/list';
import { amountIn, amountReader } from '../values/amounts';
import { cellText, isBlank, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import type { Check } from './check';

export type AgreesWith = Extract<Check, { kind: 'agrees with' }>;

/** A row of the dataset as far as it is compared: the cells of the keys, then those of the columns. */
export interface RowHere {
  /** Its place in the dataset, from 0. */
  readonly row: number;
  readonly keys: readonly Cell[];
  readonly cells: readonly Cell[];
}

/** One way in which dataset and list do not agree. */
export interface Unlike {
  readonly kind: 'only here' | 'only there' | 'differs' | 'twice here' | 'twice there';
  readonly key: string;
  /** Place in the dataset, where the row is there. */
  readonly row?: number;
  readonly column?: string;
  readonly here?: string;
  readonly there?: string;
  /** How much more is here, of numbers. */
  readonly by?: number;
}

export interface Reconciled {
  /** Rows that agree in every column. */
  readonly same: number;
  readonly unlike: readonly Unlike[];
  /** What cannot be compared: columns that the list does not have. */
  readonly lacks: readonly string[];
}

/** Numbers of a list are read as they are written in most files, with a point. */
const read = amountReader('en-GB');
const told = (cell: Cell) => cellText(cell).trim();
const keyText = (cells: readonly Cell[]) => JSON.stringify(cells.map((cell) => sameForm(cell)));

/** "007" is no number; 7, 7.0 and "7.00" are the same key. */
function sameForm(cell: Cell): string {
  const text = told(cell);
  const amount = /^0\d/.test(text) ? undefined : amountIn(cell, read);
  return amount === undefined ? text : String(amount);
}

const shownKey = (cells: readonly Cell[]) => (cells.every(isBlank) ? '(blank)' : cells.map(told).join(', '));

/** Compares a dataset with a list by keys, a piece of the dataset after the other: what only one of them has, and where both say otherwise. */
export class Reconciliation {
  private readonly unlike: Unlike[] = [];
  private readonly lacks: readonly string[];
  /** Rows of the list by their keys. */
  private readonly there = new Map<string, number>();
  private readonly met = new Set<string>();
  /** Rows of the list that nothing can be found by, though they say something. */
  private readonly keyless: Unlike[] = [];
  private readonly keysThere: readonly (readonly Cell[])[];
  private readonly cellsThere: readonly (readonly Cell[])[];
  private same = 0;

  constructor(
    private readonly check: AgreesWith,
    list: List,
  ) {
    const columnsOf = (pairs: AgreesWith['keys']) => pairs.map(({ of }) => columnNamed(list, of)?.cells ?? []);
    [this.keysThere, this.cellsThere] = [columnsOf(check.keys), columnsOf(check.columns)];
    this.lacks = [...check.keys, ...check.columns].map(({ of }) => of).filter((name) => !columnNamed(list, name));
    if (this.lacks.length > 0) return;
    for (let row = 0; row < list.rows; row++) {
      const keys = this.keysThere.map((cells) => cells[row]);
      if (keys.every(isBlank)) {
        if (!list.columns.every(({ cells }) => isBlank(cells[row])))
          this.keyless.push({ kind: 'only there', key: shownKey(keys) });
        continue;
      }
      const key = keyText(keys);
      if (this.there.has(key)) this.unlike.push({ kind: 'twice there', key: shownKey(keys) });
      else this.there.set(key, row);
    }
  }

  add(here: Iterable<RowHere>): void {
    if (this.lacks.length > 0) return;
    for (const { row, keys, cells } of here) {
      if (keys.every(isBlank)) {
        this.unlike.push({ kind: 'only here', key: shownKey(keys), row });
        continue;
      }
      const key = keyText(keys);
      const other = this.there.get(key);
      if (other === undefined) this.unlike.push({ kind: 'only here', key: shownKey(keys), row });
      else if (this.met.has(key)) this.unlike.push({ kind: 'twice here', key: shownKey(keys), row });
      else {
        const differing = this.cellsThere.flatMap((there, i) =>
          unlikeCells(cells[i], there[other]).map((found): Unlike => ({
            kind: 'differs',
            key: shownKey(keys),
            row,
            column: this.check.columns[i].column,
            ...found,
          })),
        );
        this.unlike.push(...differing);
        if (differing.length === 0) this.same++;
      }
      this.met.add(key);
    }
  }

  /** How they stand when all of the dataset has been added. */
  end(): Reconciled {
    if (this.lacks.length > 0) return { same: 0, unlike: [], lacks: this.lacks };
    const onlyThere = [...this.there].flatMap(([key, row]): Unlike[] =>
      this.met.has(key) ? [] : [{ kind: 'only there', key: shownKey(this.keysThere.map((cells) => cells[row])) }],
    );
    return { same: this.same, unlike: [...this.unlike, ...onlyThere, ...this.keyless], lacks: [] };
  }
}

function unlikeCells(here: Cell, there: Cell): Pick<Unlike, 'here' | 'there' | 'by'>[] {
  const [a, b] = [amountIn(here, read), amountIn(there, read)];
  if (a !== undefined && b !== undefined)
    return a === b ? [] : [{ here: told(here), there: told(there), by: exactSum([a, -b]) }];
  return told(here) === told(there) ? [] : [{ here: told(here), there: told(there) }];
}

/** How they stand, in words; nothing where they agree. */
export function reconciledWords({ same, unlike, lacks }: Reconciled): string | undefined {
  if (lacks.length > 0) return `the list has no column ${lacks.map((name) => `“${name}”`).join(', ')}`;
  if (unlike.length === 0) return undefined;
  const count = (kind: Unlike['kind']) => unlike.filter((each) => each.kind === kind).length;
  const parts = [
    [count('only here'), 'only here'],
    [count('only there'), 'only there'],
    [count('differs'), 'different'],
    [count('twice here'), 'twice here'],
    [count('twice there'), 'twice there'],
  ] as const;
  return `${parts.flatMap(([n, what]) => (n > 0 ? [`${n} ${what}`] : [])).join(', ')}; ${same} ${same === 1 ? 'agrees' : 'agree'}`;
}
