import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import { freeNames, type Column, type ValueType } from '../sheet/column';
import { grouped, rowOf, wordsOf } from '../sheet/joined-rows';
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
const wantsType = ({ type }: Column, how: Way): boolean => ofNumbers.has(how) || (ofOrdered.has(how) && type === 'text');

const value = v.object({
  columns: field(columnChoice, 'Of'),
  how: field(v.optional(v.picklist(ways), 'sum'), 'Worked out as'),
  into: field(v.optional(v.string(), ''), 'Into column', 'Blank: the name of the column, with what is worked out of it.'),
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
  describe: ({ by, values }) => `One row for each ${describeChoice(by) || 'sheet'}: ${values.map(({ columns, how }) => `${how} of ${describeChoice(columns)}`).join(', ') || 'no values yet'}`,
  run(sheet, { by, values }) {
    const { columns: keys, problems } = chosen(sheet, by);
    const wanted = values.map((each) => ({ ...each, ...chosen(sheet, each.columns) }));
    problems.push(...wanted.flatMap((each) => each.problems));
    if (problems.length > 0) return { sheet, problems };
    const { book, numbers } = sheet.rows;
    const groups = grouped(keys, sheet.rows.length);
    const free = freeNames(keys);
    const made: Column[] = keys.map((column) => ({
      ...column,
      cells: groups.map(([first]) => column.cells[first]),
      origins: Int32Array.from(groups, (rows) => wordsOf(book, rows.map((row) => column.origins[row]))),
    }));
    for (const { columns, how, into, joiner } of wanted)
      for (const column of columns) {
        const told = uncounted(column, how);
        if (told) problems.push(told);
        const results = groups.map((rows) => summary(column, rows, how, joiner));
        made.push({
          name: free(into === '' ? (how === 'sum' ? column.name : `${column.name} ${how}`) : columns.length > 1 ? `${into} ${column.name}` : into),
          ...(column.namedBy === undefined ? {} : { namedBy: column.namedBy }),
          type: typeOf(column.type, how),
          ...(column.unit === undefined || how.startsWith('count') || how === 'list' ? {} : { unit: column.unit }),
          cells: results.map((each) => each.cell),
          origins: Int32Array.from(results, (each) => wordsOf(book, each.rows.map((row) => column.origins[row]))),
        });
      }
    const rows = new Rows(book, Int32Array.from(groups, (places) => rowOf(book, places.map((row) => numbers[row]))));
    return { sheet: makeSheet(made, rows), leftOut: sheet.columns.filter((column) => !keys.includes(column)), added: groups.length - sheet.rows.length, problems };
  },
});

function typeOf(type: ValueType, how: Way): ValueType {
  if (how === 'count' || how === 'count of different') return 'integer';
  if (how === 'list') return 'text';
  return how === 'mean' ? (type === 'percent' ? 'percent' : 'decimal') : how === 'sum' && type === 'text' ? 'decimal' : type;
}

/** Does a cell count? Blanks and misfits never do, texts not where numbers, or values with an order, are wanted. */
const counts = (column: Column, cell: Cell, how: Way): boolean => !isBlank(cell) && !isError(cell) && (!wantsType(column, how) || typeof cell === 'number');

/** What does not count, in a sentence's parts. */
function uncounted(column: Column, how: Way): Problem | undefined {
  const { name, cells } = column;
  const blank = cells.filter(isBlank).length;
  const misfits = cells.filter(isError).length;
  const texts = wantsType(column, how) ? cells.filter((cell) => !isBlank(cell) && !isError(cell) && typeof cell !== 'number') : [];
  if (blank + misfits + texts.length === 0) return undefined;
  const parts = [blank > 0 ? `${blank} blank` : '', misfits > 0 ? `${misfits} ${misfits === 1 ? 'misfit' : 'misfits'}` : '', texts.length > 0 ? `${texts.length} ${texts.length === 1 ? 'text' : 'texts'} such as “${cellText(texts[0])}”` : ''].filter(Boolean);
  return { kind: 'step', column: name, expected: `a value in every row that is summarised (${how})`, came: parts.join(', '), remedy: `They do not count. ${texts.length > 0 ? 'Set the type of the column in a step above, or hold' : 'Hold'} these rows above if they should not be here.` };
}

/** One result, and the rows that it comes from. */
function summary(column: Column, all: readonly number[], how: Way, joiner: string): { cell: Cell; rows: readonly number[] } {
  const { cells } = column;
  const rows = all.filter((row) => counts(column, cells[row], how));
  const values = rows.map((row) => cells[row]);
  const end = (better: (a: Cell, b: Cell) => boolean) => {
    let best = 0;
    for (let at = 1; at < values.length; at++) if (better(values[at], values[best])) best = at;
    return { cell: values[best], rows: [rows[best]] };
  };
  switch (how) {
    case 'count':
      return { cell: rows.length, rows };
    case 'count of different':
      return { cell: new Set(values).size, rows };
  }
  if (rows.length === 0) return { cell: null, rows };
  switch (how) {
    case 'sum':
      return { cell: exactSum(values as number[]), rows };
    case 'mean':
      return { cell: Number((exactSum(values as number[]) / rows.length).toPrecision(15)), rows };
    case 'least':
      return end((a, b) => a! < b!);
    case 'most':
      return end((a, b) => a! > b!);
    case 'first':
      return { cell: values[0], rows: [rows[0]] };
    case 'last':
      return { cell: values.at(-1)!, rows: [rows.at(-1)!] };
    case 'list':
      return { cell: values.map(cellText).join(joiner), rows };
  }
}
