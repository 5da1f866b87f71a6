import * as v from 'valibot';
import { valueText } from './selection';

export const ways = ['sum', 'mean', 'count', 'least', 'most'] as const;
export type Way = (typeof ways)[number];
export const periodsBy = ['month', 'quarter', 'year'] as const;

/** A column that rows are grouped by; dates and times may be taken by month, quarter or year. */
const key = v.object({ column: v.pipe(v.string(), v.minLength(1)), by: v.optional(v.picklist(periodsBy)) });
export type SummaryKey = v.InferOutput<typeof key>;

const atMost = 4;

/** A summary of the dataset: what stands down, what stands across, and what is worked out where they meet. */
export const summaryAsked = v.object({
  rows: v.pipe(
    v.array(key),
    v.minLength(1, 'Choose at least one column to stand down.'),
    v.maxLength(atMost, `At most ${atMost} columns stand down.`),
  ),
  columns: v.optional(v.pipe(v.array(key), v.maxLength(2, 'At most 2 columns stand across.')), []),
  /** The column that is worked out; none: rows are counted. */
  value: v.optional(v.string()),
  how: v.optional(v.picklist(ways), 'count'),
  where: v.optional(v.array(v.string()), []),
});
export type SummaryAsked = v.InferOutput<typeof summaryAsked>;

export const shows = ['values', 'share of all', 'share of its row', 'difference to the one before'] as const;
export const charts = ['none', 'bar', 'line', 'area', 'heat'] as const;

/** A summary that is kept with the pipeline under a name. */
export const savedView = v.object({
  name: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'A summary needs a name.'),
    v.maxLength(80, 'The name of a summary has at most 80 characters.'),
  ),
  asked: summaryAsked,
  show: v.optional(v.picklist(shows), 'values'),
  chart: v.optional(v.picklist(charts), 'bar'),
  /** How many levels of the keys down are open; left out: all. */
  levels: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(atMost))),
});
export type SavedView = v.InferOutput<typeof savedView>;

/** Rows that are alike in all keys: how many, how many have a number, and what these are together. */
export interface SummaryGroup {
  /** Of the rows, then of the columns; null: blank. */
  readonly keys: readonly (string | null)[];
  readonly rows: number;
  readonly numbers: number;
  /** Exact, as decimals are written. */
  readonly sum: string | null;
  readonly least: string | null;
  readonly most: string | null;
}

/** The sum of two decimals as they are written, exactly. */
export function plus(a: string, b: string): string {
  const [, fraction = ''] = a.split('.');
  const [, other = ''] = b.split('.');
  const digits = Math.max(fraction.length, other.length);
  const whole = (text: string) =>
    BigInt(text.replace('.', '') + '0'.repeat(digits - (text.split('.')[1]?.length ?? 0)));
  const sum = whole(a) + whole(b);
  const signs = String(sum < 0n ? -sum : sum).padStart(digits + 1, '0');
  const [left, right] = [
    signs.slice(0, signs.length - digits),
    digits > 0 ? signs.slice(-digits).replace(/0+$/, '') : '',
  ];
  return `${sum < 0n ? '-' : ''}${left}${right === '' ? '' : `.${right}`}`;
}

const either = (a: string | null, b: string | null, better: (x: number, y: number) => boolean): string | null =>
  a === null ? b : b === null ? a : better(Number(a), Number(b)) ? a : b;

/** Two groups as one. */
export const joined = (a: SummaryGroup, b: SummaryGroup): SummaryGroup => ({
  keys: a.keys,
  rows: a.rows + b.rows,
  numbers: a.numbers + b.numbers,
  sum: a.sum === null ? b.sum : b.sum === null ? a.sum : plus(a.sum, b.sum),
  least: either(a.least, b.least, (x, y) => x <= y),
  most: either(a.most, b.most, (x, y) => x >= y),
});

/** Groups of which those with the same keys are joined. */
export function merged(groups: Iterable<SummaryGroup>): SummaryGroup[] {
  const byKeys = new Map<string, SummaryGroup>();
  for (const group of groups) {
    const id = JSON.stringify(group.keys);
    const known = byKeys.get(id);
    byKeys.set(id, known ? joined(known, group) : group);
  }
  return [...byKeys.values()];
}

/** What a group shows; undefined where it has no number. */
export function valueOf({ rows, numbers, sum, least, most }: SummaryGroup, how: Way): number | undefined {
  switch (how) {
    case 'count':
      return rows;
    case 'sum':
      return sum === null ? undefined : Number(sum);
    case 'mean':
      return sum === null || numbers === 0 ? undefined : Number((Number(sum) / numbers).toPrecision(15));
    case 'least':
      return least === null ? undefined : Number(least);
    case 'most':
      return most === null ? undefined : Number(most);
  }
}

/** A summary laid out: keys down and across, a figure where they meet, and what all together are. */
export interface SummaryTable {
  readonly down: readonly (readonly (string | null)[])[];
  readonly across: readonly (readonly (string | null)[])[];
  /** By row and column; undefined: no rows meet there, or none has a number. */
  readonly figures: readonly (readonly (number | undefined)[])[];
  /** All columns of a row together, all rows of a column, and all. */
  readonly ofRows: readonly (number | undefined)[];
  readonly ofColumns: readonly (number | undefined)[];
  readonly all: number | undefined;
}

/** Texts by their letters, numbers by their size, blanks last. */
function byKeys(a: readonly (string | null)[], b: readonly (string | null)[]): number {
  for (let i = 0; i < a.length; i++) {
    const [x, y] = [a[i], b[i]];
    if (x === y) continue;
    if (x === null) return 1;
    if (y === null) return -1;
    const [m, n] = [Number(x), Number(y)];
    return !Number.isNaN(m) && !Number.isNaN(n) && x !== '' && y !== '' ? m - n : x < y ? -1 : 1;
  }
  return 0;
}

/** @param groups each once @param depth how many of the keys stand down */
export function summaryTable(groups: readonly SummaryGroup[], depth: number, how: Way): SummaryTable {
  const distinct = (of: (group: SummaryGroup) => readonly (string | null)[]) =>
    [...new Map(groups.map((group) => [JSON.stringify(of(group)), of(group)])).values()].sort(byKeys);
  const [down, across] = [distinct(({ keys }) => keys.slice(0, depth)), distinct(({ keys }) => keys.slice(depth))];
  const under = (part: (group: SummaryGroup) => readonly (string | null)[]) =>
    new Map(
      merged(groups.map((group) => ({ ...group, keys: part(group) }))).map((group) => [
        JSON.stringify(group.keys),
        group,
      ]),
    );
  const figure = (group: SummaryGroup | undefined) => group && valueOf(group, how);
  const cells = under(({ keys }) => keys);
  const rows = under(({ keys }) => keys.slice(0, depth));
  const columns = under(({ keys }) => keys.slice(depth));
  return {
    down,
    across,
    figures: down.map((row) => across.map((column) => figure(cells.get(JSON.stringify([...row, ...column]))))),
    ofRows: down.map((row) => figure(rows.get(JSON.stringify(row)))),
    ofColumns: across.map((column) => figure(columns.get(JSON.stringify(column)))),
    all: figure(under(() => []).get('[]')),
  };
}

/** The figures as something else: their share, or what they are more than the one before across (down, where nothing stands across). */
export function shownAs(table: SummaryTable, show: (typeof shows)[number]): (number | undefined)[][] {
  const { figures, ofRows, all, across } = table;
  const of = (figure: number | undefined, whole: number | undefined) =>
    figure === undefined || whole === undefined || whole === 0
      ? undefined
      : Number(((100 * figure) / whole).toPrecision(15));
  const less = (figure: number | undefined, before: number | undefined) =>
    figure === undefined || before === undefined ? undefined : Number((figure - before).toPrecision(15));
  switch (show) {
    case 'values':
      return figures.map((row) => [...row]);
    case 'share of all':
      return figures.map((row) => row.map((figure) => of(figure, all)));
    case 'share of its row':
      return figures.map((row, i) => row.map((figure) => of(figure, ofRows[i])));
    case 'difference to the one before':
      return across.length > 1
        ? figures.map((row) => row.map((figure, i) => (i === 0 ? undefined : less(figure, row[i - 1]))))
        : figures.map((row, i) => row.map((figure, c) => (i === 0 ? undefined : less(figure, figures[i - 1][c]))));
  }
}

/** A line of a summary by levels: rows that are alike in some of the keys down, or in all. */
export interface SummaryLine {
  /** From the first on; fewer than there are: the lines below it, up to the next with as few, make it up. */
  readonly keys: readonly (string | null)[];
  readonly figures: readonly (number | undefined)[];
  /** All columns together. */
  readonly ofRow: number | undefined;
}

/** The summary by levels: above the rows that share their first keys stands what they are together. @param depth how many of the keys stand down */
export function summaryLines(
  groups: readonly SummaryGroup[],
  depth: number,
  how: Way,
  show: (typeof shows)[number],
): SummaryLine[] {
  const level = (count: number): Map<string, SummaryLine> => {
    const table = summaryTable(
      merged(groups.map((group) => ({ ...group, keys: [...group.keys.slice(0, count), ...group.keys.slice(depth)] }))),
      count,
      how,
    );
    const figures = shownAs(table, show);
    return new Map(
      table.down.map((keys, r) => [JSON.stringify(keys), { keys, figures: figures[r], ofRow: table.ofRows[r] }]),
    );
  };
  const levels = Array.from({ length: depth }, (_, n) => level(n + 1));
  const told = new Set<string>();
  return [...levels[depth - 1].values()].flatMap(({ keys }) =>
    levels.flatMap((lines, n) => {
      const id = JSON.stringify(keys.slice(0, n + 1));
      if (told.has(id)) return [];
      told.add(id);
      return [lines.get(id)!];
    }),
  );
}

/** The lines in sight: those whose lines above, which they are parts of, are open. @param isOpen by the keys of a line */
export function linesInSight(
  lines: readonly SummaryLine[],
  isOpen: (keys: readonly (string | null)[]) => boolean,
): SummaryLine[] {
  return lines.filter(({ keys }) => keys.every((_, n) => n === 0 || isOpen(keys.slice(0, n))));
}

/** The conditions, as addresses have them, that the rows behind a key meet. */
export function conditionsOf({ column, by }: SummaryKey, value: string | null): string[] {
  if (value === null) return [`${column} is blank`];
  if (by === undefined) return [`${column} = ${valueText(value)}`];
  const [from, behind] = endsOf(value, by);
  return [`${column} >= ${from}`, `${column} < ${behind}`];
}

/** First day of a month, quarter or year as it is written here, and of the one behind it. */
function endsOf(value: string, by: (typeof periodsBy)[number]): [string, string] {
  const year = Number(value.slice(0, 4));
  const first = by === 'year' ? 1 : by === 'month' ? Number(value.slice(5)) : 3 * Number(value.slice(-1)) - 2;
  const months = { month: 1, quarter: 3, year: 12 }[by];
  const dayOne = (month: number) =>
    `${year + Math.floor((month - 1) / 12)}-${String(((month - 1) % 12) + 1).padStart(2, '0')}-01`;
  return [dayOne(first), dayOne(first + months)];
}
