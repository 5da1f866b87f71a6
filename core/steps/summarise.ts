import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import { freeNames, type Column, type ValueType } from '../sheet/column';
import { grouped, type Grouped, rowOf, wordsOf } from '../sheet/joined-rows';
import type { Problem } from '../sheet/problem';
import { Rows } from '../sheet/row';
import { sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { between, field, step, when } from './step';

const ways = ['sum', 'mean', 'least', 'most', 'count', 'count of different', 'first', 'last', 'list'] as const;
type Way = (typeof ways)[number];
const ofNumbers: ReadonlySet<Way> = new Set<Way>(['sum', 'mean']);
/** Texts have no order that means something: as a text 9 is more than 10. */
const ofOrdered: ReadonlySet<Way> = new Set<Way>(['least', 'most']);
const wantsType = ({ type }: Column, how: Way): boolean =>
  ofNumbers.has(how) || (ofOrdered.has(how) && type === 'text');

const value = v.object({
  columns: field(columnChoice, 'Of'),
  how: field(v.optional(v.picklist(ways), 'sum'), 'Worked out as'),
  into: field(
    v.optional(v.string(), ''),
    'Into column',
    'Blank: the name of the column, with what is worked out of it.',
  ),
  joiner: field(when(between(v.optional(v.string(), ', ')), 'how', 'list'), 'Joined with'),
});

export const summarise = step({
  kind: 'summarise',
  title: 'Summarise',
  group: 'shape',
  help: 'Rows with the same values become one, with sums, counts and the like of their other columns. Each result is traced to all of its rows.',
  settings: {
    by: field(columnChoice, 'One row for each'),
    values: field(v.optional(v.array(value), []), 'Values'),
  },
  commutesWithAppend: false,
  describe: ({ by, values }) =>
    `One row for each ${describeChoice(by) || 'sheet'}: ${values.map(({ columns, how }) => `${how} of ${describeChoice(columns)}`).join(', ') || 'no values yet'}`,
  run(sheet, { by, values }) {
    const { columns: keys, problems } = chosen(sheet, by);
    const wanted = values.map((each) => ({ ...each, ...chosen(sheet, each.columns) }));
    problems.push(...wanted.flatMap((each) => each.problems));
    if (problems.length > 0) return { sheet, problems };
    const { book, numbers } = sheet.rows;
    const rowsBy = grouped(keys, sheet.rows.length);
    const groups = rowsBy.places;
    const free = freeNames(keys);
    const made: Column[] = keys.map((column) => ({
      ...column,
      cells: groups.map(([first]) => column.cells[first]),
      origins: Int32Array.from(groups, (rows) => wordsOf(book, column.origins, rows)),
    }));
    // Several ways of one column look at the same cells.
    const known = new Map<string, Counted>();
    const countedOf = (column: Column, how: Way): Counted => {
      const key = `${sheet.columns.indexOf(column)} ${wantsType(column, how)}`;
      const own = known.get(key) ?? countedIn(column, rowsBy, wantsType(column, how));
      known.set(key, own);
      return own;
    };
    for (const { columns, how, into, joiner } of wanted)
      for (const column of columns) {
        const counted = countedOf(column, how);
        const told = uncounted(column, how, counted);
        if (told) problems.push(told);
        const results = counted.rows.map((rows, group) =>
          summary(column.cells, rows, how, {
            joiner,
            numbers: counted.numbers[group],
            sum: () => (counted.sums[group] ??= exactSum(counted.numbers[group]!)),
          }),
        );
        made.push({
          name: free(
            into === ''
              ? how === 'sum'
                ? column.name
                : `${column.name} ${how}`
              : columns.length > 1
                ? `${into} ${column.name}`
                : into,
          ),
          ...(column.namedBy === undefined ? {} : { namedBy: column.namedBy }),
          type: typeOf(column.type, how),
          ...(column.unit === undefined || how.startsWith('count') || how === 'list' ? {} : { unit: column.unit }),
          cells: results.map(({ cell }) => cell),
          origins: Int32Array.from(results, ({ from }, group) =>
            from === undefined
              ? (counted.words[group] ??= wordsOf(book, column.origins, counted.rows[group]))
              : column.origins[from],
          ),
        });
      }
    const rows = new Rows(
      book,
      Int32Array.from(groups, (places) => rowOf(book, numbers, places)),
    );
    return {
      sheet: makeSheet(made, rows),
      leftOut: sheet.columns.filter((column) => !keys.includes(column)),
      added: groups.length - sheet.rows.length,
      problems,
    };
  },
});

function typeOf(type: ValueType, how: Way): ValueType {
  if (how === 'count' || how === 'count of different') return 'integer';
  if (how === 'list') return 'text';
  return how === 'mean'
    ? type === 'percent'
      ? 'percent'
      : 'decimal'
    : how === 'sum' && type === 'text'
      ? 'decimal'
      : type;
}

/** The cells of a column that count, group by group. Blanks and misfits never do, texts not where numbers, or values with an order, are wanted. */
interface Counted {
  /** The rows of each group whose cells count. */
  readonly rows: readonly Int32Array[];
  /** What was passed over. */
  readonly blank: number;
  readonly misfits: number;
  readonly texts: number;
  readonly firstText: string;
  /** The numbers of each group, where no text counts beside them: sums and the like then need not go through the column once more. */
  readonly numbers: readonly (Float64Array | undefined)[];
  /** The words behind all that count, of each group, as far as they were asked for. */
  readonly words: (number | undefined)[];
  /** The sum of each group, as far as it was asked for. */
  readonly sums: (number | undefined)[];
}

function countedIn({ cells }: Column, { of, places }: Grouped, numbersOnly: boolean): Counted {
  let [blank, misfits, texts, firstText] = [0, 0, 0, ''];
  const rows = places.map(({ length }) => new Int32Array(length));
  const numbers = places.map(({ length }) => new Float64Array(length));
  const counts = new Int32Array(places.length);
  const mixed = new Uint8Array(places.length);
  // Row by row, whatever their group: cells that stand beside each other are fetched together.
  for (let row = 0; row < of.length; row++) {
    const cell = cells[row];
    const group = of[row];
    if (typeof cell === 'number') {
      numbers[group][counts[group]] = cell;
      rows[group][counts[group]++] = row;
    } else if (isBlank(cell)) blank++;
    else if (isError(cell)) misfits++;
    else if (!numbersOnly) {
      rows[group][counts[group]++] = row;
      mixed[group] = 1;
    } else if (texts++ === 0) firstText = cellText(cell);
  }
  return {
    rows: rows.map((own, group) => own.subarray(0, counts[group])),
    numbers: numbers.map((own, group) => (mixed[group] ? undefined : own.subarray(0, counts[group]))),
    blank,
    misfits,
    texts,
    firstText,
    words: [],
    sums: [],
  };
}

/** What does not count, in a sentence's parts. */
function uncounted({ name }: Column, how: Way, { blank, misfits, texts, firstText }: Counted): Problem | undefined {
  if (blank + misfits + texts === 0) return undefined;
  const parts = [
    blank > 0 ? `${blank} blank` : '',
    misfits > 0 ? `${misfits} ${misfits === 1 ? 'misfit' : 'misfits'}` : '',
    texts > 0 ? `${texts} ${texts === 1 ? 'text' : 'texts'} such as “${firstText}”` : '',
  ].filter(Boolean);
  return {
    kind: 'step',
    column: name,
    expected: `a value in every row that is summarised (${how})`,
    came: parts.join(', '),
    remedy: `They do not count. ${texts > 0 ? 'Set the type of the column in a step above, or hold' : 'Hold'} these rows above if they should not be here.`,
  };
}

/** One result. @param given.numbers the cells that count, where all are numbers @param given.sum of these @returns `from`: the one row that it comes from; left out, all of them */
function summary(
  cells: readonly Cell[],
  rows: Int32Array,
  how: Way,
  { joiner, numbers, sum }: { joiner: string; numbers: Float64Array | undefined; sum: () => number },
): { cell: Cell; from?: number } {
  const one = (row: number) => ({ cell: cells[row], from: row });
  /** The least, or with -1 the most; the first of several. */
  const end = (sign: 1 | -1) => {
    let best = 0;
    if (numbers) for (let i = 1; i < numbers.length; i++) best = sign * numbers[i] < sign * numbers[best] ? i : best;
    else
      for (let i = 1; i < rows.length; i++)
        if (sign === 1 ? cells[rows[i]]! < cells[rows[best]]! : cells[rows[i]]! > cells[rows[best]]!) best = i;
    return one(rows[best]);
  };
  switch (how) {
    case 'count':
      return { cell: rows.length };
    case 'count of different':
      return { cell: new Set(Array.from(rows, (row) => cells[row])).size };
  }
  if (rows.length === 0) return { cell: null };
  switch (how) {
    case 'sum':
      return { cell: sum() };
    case 'mean':
      return { cell: Number((sum() / rows.length).toPrecision(15)) };
    case 'least':
      return end(1);
    case 'most':
      return end(-1);
    case 'first':
      return one(rows[0]);
    case 'last':
      return one(rows.at(-1)!);
    case 'list':
      return { cell: Array.from(rows, (row) => cellText(cells[row])).join(joiner) };
  }
}
