import { Origins } from './origin';
import { NumberLists } from './number-lists';
import { PairTable } from './pair-table';

/** What a row is in its table, as far as print tells. */
export const rowRoles = ['heading', 'section', 'body', 'subtotal', 'total', 'note'] as const;
export type RowRole = (typeof rowRoles)[number];

/** A row's name: the report (its key), the found table, and its place there from 0. A row that was not printed has the place -1. */
export interface RowId {
  readonly report: string;
  readonly table: string;
  readonly ordinal: number;
}

/** What is known of a row beside its cells. */
export interface RowMark {
  /** Key of the report the row comes from. */
  readonly report: string;
  /** Id of the found table, e.g. `p2t1`. */
  readonly table: string;
  /** Page the row is printed on, from 1. */
  readonly page: number;
  readonly role: RowRole;
  /** In points from the table's left edge. */
  readonly indent: number;
  readonly bold: boolean;
  readonly shaded: boolean;
  /** More white space above it than is usual between the rows. */
  readonly spaced?: boolean;
  /** A rule between it and the row above. */
  readonly ruled?: boolean;
}

const boldBit = 8;
const shadedBit = 16;
const spacedBit = 32;
const ruledBit = 64;

/** Numbers of rows that became one are above it; from it down stand lists of them. */
const firstList = -(2 ** 30);

/** Where a cell's row and words are in a book, by their numbers. */
export interface NumberedCell {
  readonly row: number;
  readonly origin: number;
}

/** How the numbers of one of several books are told in the one that they became. */
interface Renumbered {
  row(row: number): number;
  origin(origin: number): number;
  cell(cell: NumberedCell): NumberedCell;
}

/**
 * The rows as they were taken, each known by a number from 0, and the word sets that cells come from: what the numbers in a
 * sheet stand for. A number below 0 stands for rows that became one. 17 bytes a row.
 */
export class RowBook {
  private count = 0;
  private tableOf = new Int32Array(64);
  private ordinalOf = new Int32Array(64);
  private pageOf = new Int32Array(64);
  private lookOf = new Uint8Array(64);
  private indentOf = new Float32Array(64);
  private readonly tables: { readonly report: string; readonly table: string }[] = [];
  private readonly tableNumbers = new Map<string, number>();
  /** Pairs of numbers that became one; the second may be a list of them: `firstList` less its place among `lists`. */
  private readonly merged = new PairTable();
  private readonly lists = new NumberLists();

  constructor(readonly origins = Origins.empty()) {}

  /** Writes a taken row down. @returns its number */
  add({ report, table, page, role, indent, bold, shaded, spaced, ruled }: RowMark, ordinal: number): number {
    if (this.count === this.tableOf.length) this.grow(this.count * 2);
    const row = this.count++;
    this.tableOf[row] = this.tableNumber(report, table);
    this.ordinalOf[row] = ordinal;
    this.pageOf[row] = page;
    this.lookOf[row] =
      rowRoles.indexOf(role) |
      (bold ? boldBit : 0) |
      (shaded ? shadedBit : 0) |
      (spaced ? spacedBit : 0) |
      (ruled ? ruledBit : 0);
    this.indentOf[row] = indent;
    return row;
  }

  /** The number of two rows that became one; marks and name are those of the first. */
  merge(first: number, second: number): number {
    return first === second ? first : -1 - this.merged.id(first, second);
  }

  /** The number of many rows that became one; marks and name are those of the first. */
  mergeMany(rows: ArrayLike<number>): number {
    if (rows.length <= 2) return this.merge(rows[0], rows[rows.length - 1]);
    return -1 - this.merged.id(rows[0], firstList - this.lists.add(rows));
  }

  /** The numbers of the taken rows behind a number: itself, or those that became one. */
  sources = (row: number): number[] => [...this.gather(row, new Set())];

  private gather(row: number, found: Set<number>): Set<number> {
    if (row >= 0) return found.add(row);
    const right = this.merged.right(-1 - row);
    if (right > firstList) return this.gather(right, this.gather(this.merged.left(-1 - row), found));
    for (const each of this.lists.at(firstList - right)) this.gather(each, found);
    return found;
  }

  /** The taken row that gives name and marks. */
  head(row: number): number {
    let own = row;
    while (own < 0) own = this.merged.left(-1 - own);
    return own;
  }

  id(row: number): RowId {
    const own = this.head(row);
    return { ...this.tables[this.tableOf[own]], ordinal: this.ordinalOf[own] };
  }
  /** A number for the table: rows of one table of one report have the same. */
  table = (row: number): number => this.tableOf[this.head(row)];
  tableName = (row: number): string => this.tables[this.table(row)].table;
  report = (row: number): string => this.tables[this.table(row)].report;
  ordinal = (row: number): number => this.ordinalOf[this.head(row)];
  page = (row: number): number => this.pageOf[this.head(row)];
  role = (row: number): RowRole => rowRoles[this.lookOf[this.head(row)] & 7];
  bold = (row: number): boolean => (this.lookOf[this.head(row)] & boldBit) !== 0;
  shaded = (row: number): boolean => (this.lookOf[this.head(row)] & shadedBit) !== 0;
  spaced = (row: number): boolean => (this.lookOf[this.head(row)] & spacedBit) !== 0;
  ruled = (row: number): boolean => (this.lookOf[this.head(row)] & ruledBit) !== 0;
  indent = (row: number): number => this.indentOf[this.head(row)];

  /** One book of several: numbers of the rows and of the word sets of each are told anew. */
  static joined(books: readonly RowBook[]): { book: RowBook; renumbered: Renumbered[] } {
    const { origins, starts } = Origins.joined(books.map((each) => each.origins));
    const book = new RowBook(origins);
    book.grow(books.reduce((sum, each) => sum + each.count, 64));
    const renumbered = books.map((own, i) => {
      const start = book.count;
      const tables = own.tables.map(({ report, table }) => book.tableNumber(report, table));
      for (let row = 0; row < own.count; row++) book.tableOf[start + row] = tables[own.tableOf[row]];
      book.ordinalOf.set(own.ordinalOf.subarray(0, own.count), start);
      book.pageOf.set(own.pageOf.subarray(0, own.count), start);
      book.lookOf.set(own.lookOf.subarray(0, own.count), start);
      book.indentOf.set(own.indentOf.subarray(0, own.count), start);
      book.count += own.count;
      const row = (number: number): number => {
        if (number >= 0) return number + start;
        const [left, right] = [own.merged.left(-1 - number), own.merged.right(-1 - number)];
        return right > firstList
          ? book.merge(row(left), row(right))
          : book.mergeMany(own.lists.at(firstList - right).map(row));
      };
      const origin = (id: number) => (id < 0 ? id : id + starts[i]);
      return { row, origin, cell: (cell: NumberedCell) => ({ row: row(cell.row), origin: origin(cell.origin) }) };
    });
    return { book, renumbered };
  }

  private tableNumber(report: string, table: string): number {
    const key = `${report} ${table}`;
    let number = this.tableNumbers.get(key);
    if (number === undefined) {
      number = this.tables.push({ report, table }) - 1;
      this.tableNumbers.set(key, number);
    }
    return number;
  }

  private grow(to: number): void {
    const grown = <Numbers extends Int32Array | Uint8Array | Float32Array>(
      numbers: Numbers,
      larger: Numbers,
    ): Numbers => {
      larger.set(numbers);
      return larger;
    };
    this.tableOf = grown(this.tableOf, new Int32Array(to));
    this.ordinalOf = grown(this.ordinalOf, new Int32Array(to));
    this.pageOf = grown(this.pageOf, new Int32Array(to));
    this.lookOf = grown(this.lookOf, new Uint8Array(to));
    this.indentOf = grown(this.indentOf, new Float32Array(to));
  }
}

/** The rows of a sheet: their numbers in the book, 4 bytes a row. Rows keep their number through every step. */
export class Rows {
  constructor(
    readonly book: RowBook,
    readonly numbers: Int32Array,
  ) {}

  get length(): number {
    return this.numbers.length;
  }
  id = (at: number): RowId => this.book.id(this.numbers[at]);
  report = (at: number): string => this.book.report(this.numbers[at]);
  table = (at: number): string => this.book.tableName(this.numbers[at]);
  page = (at: number): number => this.book.page(this.numbers[at]);
  role = (at: number): RowRole => this.book.role(this.numbers[at]);
  indent = (at: number): number => this.book.indent(this.numbers[at]);
  bold = (at: number): boolean => this.book.bold(this.numbers[at]);
  shaded = (at: number): boolean => this.book.shaded(this.numbers[at]);
  spaced = (at: number): boolean => this.book.spaced(this.numbers[at]);
  ruled = (at: number): boolean => this.book.ruled(this.numbers[at]);
  /** All rows that this one came from. */
  sources = (at: number): RowId[] => this.book.sources(this.numbers[at]).map((row) => this.book.id(row));
  mark = (at: number): RowMark => ({
    report: this.report(at),
    table: this.table(at),
    page: this.page(at),
    role: this.role(at),
    indent: this.indent(at),
    bold: this.bold(at),
    shaded: this.shaded(at),
    spaced: this.spaced(at),
    ruled: this.ruled(at),
  });

  inSameTable = (a: number, b: number): boolean =>
    this.book.table(this.numbers[a]) === this.book.table(this.numbers[b]);
  inSameReport = (a: number, b: number): boolean => this.inSameTable(a, b) || this.report(a) === this.report(b);

  /** What is made of every row, from top to bottom. */
  map<Made>(make: (at: number) => Made): Made[] {
    const made = new Array<Made>(this.length);
    for (let at = 0; at < this.length; at++) made[at] = make(at);
    return made;
  }
  /** How many rows pass the test. */
  count(test: (at: number) => boolean): number {
    let count = 0;
    for (let at = 0; at < this.length; at++) if (test(at)) count++;
    return count;
  }
  /** The first row that passes the test; -1 for none. */
  find(test: (at: number) => boolean): number {
    for (let at = 0; at < this.length; at++) if (test(at)) return at;
    return -1;
  }
  /** The rows at the given places, in that order. */
  at(places: ArrayLike<number>): Rows {
    const numbers = new Int32Array(places.length);
    for (let i = 0; i < places.length; i++) numbers[i] = this.numbers[places[i]];
    return new Rows(this.book, numbers);
  }
  /** These rows, each that took in others known by all of them. @param target of each row the one that took it in; -1: none */
  merged(target: ArrayLike<number>): Rows {
    const numbers = Int32Array.from(this.numbers);
    for (let at = 0; at < numbers.length; at++)
      if (target[at] >= 0) numbers[target[at]] = this.book.merge(numbers[target[at]], this.numbers[at]);
    return new Rows(this.book, numbers);
  }
}

export const noRows = new Rows(new RowBook(), new Int32Array(0));

/** Name of a row as one text. */
export const rowKey = ({ report, table, ordinal }: RowId): string => `${report} ${table} ${ordinal}`;

/** Rows of one found table, from one place to another, with both. */
export interface RowSpan {
  readonly report: string;
  readonly table: string;
  readonly from: number;
  readonly to: number;
}

/** Rows by their numbers as spans of the tables that they were taken from. */
export function rowSpans(book: RowBook, rows: Iterable<number>): RowSpan[] {
  const spans: { report: string; table: string; from: number; to: number }[] = [];
  for (const row of rows) {
    const { report, table, ordinal } = book.id(row);
    const last = spans.at(-1);
    if (last && last.report === report && last.table === table && last.to + 1 === ordinal) last.to = ordinal;
    else spans.push({ report, table, from: ordinal, to: ordinal });
  }
  return spans;
}
