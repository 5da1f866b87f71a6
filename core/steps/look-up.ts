import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import { columnNamed, freeNames, missingColumn, type Column } from '../sheet/column';
import { wordsOf } from '../sheet/joined-rows';
import type { List, ListSource } from '../sheet/list';
import type { Problem } from '../sheet/problem';
import { nowhere } from '../sheet/origin';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { field, hold, step, widget, type StepResult } from './step';

/** Keys that are named one by one; the others are counted. */
const namedKeys = 5;

const listSource = v.object({ is: v.picklist(['file', 'dataset']), name: v.string() });

export const lookUp = step({
  kind: 'look up',
  title: 'Look up',
  group: 'columns',
  help: 'Brings columns of another table, an uploaded file or the dataset of another pipeline, found by one or more key columns. Never more rows: a key that is found twice is a misfit.',
  settings: {
    from: field(widget(v.optional(listSource, { is: 'file', name: '' }), { widget: 'list source' }), 'In'),
    keys: field(
      v.optional(
        v.array(
          v.object({
            column: field(widget(v.string(), { widget: 'column' }), 'Column here'),
            of: field(v.string(), 'Column of the list'),
          }),
        ),
        [],
      ),
      'Found by',
      'Texts are compared whatever their case and spaces, numbers by their value.',
    ),
    columns: field(
      v.optional(
        v.array(
          v.object({
            name: field(v.string(), 'Column of the list'),
            into: field(v.optional(v.string(), ''), 'Into column', 'Blank: its own name.'),
          }),
        ),
        [],
      ),
      'Brings',
    ),
    missing: field(
      v.optional(v.picklist(['pass and are told', 'are held']), 'pass and are told'),
      'Rows that are not found',
    ),
    twice: field(
      v.optional(v.picklist(['is a misfit', 'is taken where all say the same']), 'is a misfit'),
      'What is found more than once',
    ),
    version: field(
      v.optional(v.string(), ''),
      'Version of the list',
      'Filled in by the program whenever the steps run.',
    ),
  },
  commutesWithAppend: true,
  describe: ({ from, keys, columns }) =>
    `${columns.map(({ name, into }) => (into && into !== name ? `${name} as ${into}` : name)).join(', ') || 'No columns yet'} of ${from.name ? `“${from.name}”` : 'no list yet'}, found by ${keys.map(({ column }) => column).join(' and ') || 'nothing yet'}`,
  run(sheet, { from, keys, columns, missing, twice, version }, around) {
    const list = around.lists(version);
    const own = keys.map(({ column }) => columnNamed(sheet, column));
    const problems: Problem[] = keys.flatMap(({ column }, i) => (own[i] ? [] : [missingColumn(sheet, column)]));
    if (from.name === '' || keys.length === 0) problems.push(unsaid(from));
    else if (!list) problems.push(noList(from));
    else
      problems.push(
        ...[...keys.map(({ of }) => of), ...columns.map(({ name }) => name)].flatMap((name) =>
          columnNamed(list, name) ? [] : [lacking(list, name)],
        ),
      );
    const theirs = keys.flatMap(({ of }) => (list && columnNamed(list, of)) ?? []);
    if (!list || keys.length === 0 || theirs.length < keys.length || own.some((column) => !column))
      return {
        sheet: withBrought(
          sheet,
          own,
          columns.map((each) => ({ ...each, cells: () => null })),
        ),
        problems,
      };

    const finderIn = (of: Sheet) =>
      finder(
        list,
        keys.map(({ column }) => columnNamed(of, column)!),
        theirs,
      );
    const all = finderIn(sheet);
    const result: StepResult =
      missing === 'are held'
        ? hold(sheet, around, (row) => (all.at(row).length > 0 ? undefined : notFound(list, all.says(row))))
        : { sheet };
    if (missing !== 'are held') problems.push(...unmatched(list, keys[0].column, sheet.rows.length, all));

    // What passes stands at other places than before.
    const find = result.sheet === sheet ? all : finderIn(result.sheet);
    const brought = columns.map((each) => ({ ...each, column: columnNamed(list, each.name) }));
    const agree = (places: readonly number[]) =>
      brought.every(
        ({ column }) =>
          !column || places.every((place) => cellText(column.cells[place]) === cellText(column.cells[places[0]])),
      );
    const clashes = (places: readonly number[]) => places.length > 1 && (twice === 'is a misfit' || !agree(places));
    const { rows } = result.sheet;
    const clashing = Array.from({ length: rows.length }, (_, row) => row).filter((row) => clashes(find.at(row)));
    if (clashing.length > 0) problems.push(foundTwice(list, keys[0].column, clashing.length, find, clashing[0]));
    const origins = Int32Array.from({ length: rows.length }, (_, row) =>
      find.at(row).length === 0
        ? nowhere
        : wordsOf(
            rows.book,
            find.columns.map((column) => column.origins[row]),
          ),
    );
    return {
      ...result,
      sheet: withBrought(
        result.sheet,
        find.columns,
        brought.map(({ column, ...each }) => ({
          ...each,
          ...(column ? { column } : {}),
          origins,
          cells(row) {
            const places = find.at(row);
            if (!column || places.length === 0) return null;
            return clashes(places) ? clash(list, column, places) : column.cells[places[0]];
          },
        })),
      ),
      problems,
    };
  },
});

/** A column that is brought: of the list, as what, and its cell in each row. */
interface Brought {
  readonly name: string;
  readonly into: string;
  readonly column?: List['columns'][number];
  readonly origins?: Int32Array;
  cells(row: number): Cell;
}

/** The sheet with the columns brought behind those by which they were found. */
function withBrought(sheet: Sheet, keys: readonly (Column | undefined)[], brought: readonly Brought[]): Sheet {
  const free = freeNames(sheet.columns);
  const count = sheet.rows.length;
  const made = brought.map(({ name, into, column, origins, cells }): Column => ({
    name: free(into || name),
    type: column?.type ?? 'text',
    ...(column?.unit === undefined ? {} : { unit: column.unit }),
    cells: Array.from({ length: count }, (_, row) => cells(row)),
    origins: origins ?? new Int32Array(count).fill(nowhere),
  }));
  const at =
    Math.max(...keys.map((key) => sheet.columns.findIndex((column) => column === key))) + 1 || sheet.columns.length;
  return makeSheet([...sheet.columns.slice(0, at), ...made, ...sheet.columns.slice(at)], sheet.rows);
}

interface Finder {
  readonly columns: readonly Column[];
  /** The rows of the list that a row finds; none where its key is blank. */
  at(row: number): readonly number[];
  /** The key of a row as it is told. */
  says(row: number): string;
}

/** Numbers up to this many digits are compared by value; a longer one is a code. */
const mostDigits = 15;

function keyText(cell: Cell, byValue: boolean): string {
  const text = cellText(cell).trim().replace(/\s+/g, ' ').toLowerCase();
  return byValue && /^-?\d+(\.\d+)?$/.test(text) && text.replace(/\D/g, '').length <= mostDigits
    ? String(Number(text))
    : text;
}

const numbers: ReadonlySet<string> = new Set(['integer', 'decimal', 'percent']);

/** Rows of a list by their keys, kept as long as the list is. */
const indexes = new WeakMap<List, Map<string, ReadonlyMap<string, readonly number[]>>>();

function indexOf(
  list: List,
  columns: List['columns'],
  byValue: readonly boolean[],
): ReadonlyMap<string, readonly number[]> {
  const known = indexes.get(list) ?? new Map<string, ReadonlyMap<string, readonly number[]>>();
  indexes.set(list, known);
  const spec = JSON.stringify([columns.map(({ name }) => name), byValue]);
  const before = known.get(spec);
  if (before) return before;
  const index = new Map<string, number[]>();
  for (let row = 0; row < list.rows; row++) {
    const key = keyOf(columns, byValue, row);
    if (key === undefined) continue;
    const rows = index.get(key);
    if (rows) rows.push(row);
    else index.set(key, [row]);
  }
  known.set(spec, index);
  return index;
}

/** The key of a row; undefined where a part of it is blank. */
function keyOf(
  columns: readonly { readonly cells: readonly Cell[] }[],
  byValue: readonly boolean[],
  row: number,
): string | undefined {
  if (columns.length === 1)
    return isBlank(columns[0].cells[row]) ? undefined : keyText(columns[0].cells[row], byValue[0]);
  const parts = columns.map((column, i) => keyText(column.cells[row], byValue[i]));
  return parts.includes('') ? undefined : JSON.stringify(parts);
}

const none: readonly number[] = [];

function finder(list: List, columns: readonly Column[], theirs: List['columns']): Finder {
  const byValue = columns.map(({ type }, i) => numbers.has(type) || numbers.has(theirs[i].type));
  const index = indexOf(list, theirs, byValue);
  const found = columns[0].cells.map((_, row) => {
    const key = keyOf(columns, byValue, row);
    return (key === undefined ? undefined : index.get(key)) ?? none;
  });
  return {
    columns,
    at: (row) => found[row],
    says: (row) => columns.map((column) => cellText(column.cells[row])).join(' / '),
  };
}

const notFound = ({ name }: List, key: string): string =>
  key.replace(/[ /]/g, '') === '' ? `no key to look up in “${name}”` : `“${key}” is not in “${name}”`;

/** The keys that are not in the list, each once with its rows counted. */
function unmatched({ name }: List, column: string, rows: number, find: Finder): Problem[] {
  const counts = new Map<string, number>();
  for (let row = 0; row < rows; row++)
    if (find.at(row).length === 0) counts.set(find.says(row), (counts.get(find.says(row)) ?? 0) + 1);
  if (counts.size === 0) return [];
  const told = [...counts]
    .slice(0, namedKeys)
    .map(
      ([key, count]) =>
        `${key.replace(/[ /]/g, '') === '' ? 'a blank' : `“${key}”`} (${count} ${count === 1 ? 'row' : 'rows'})`,
    );
  return [
    {
      kind: 'step',
      column,
      expected: `every key in “${name}”`,
      came: `${told.join(', ')}${counts.size > namedKeys ? ` and ${counts.size - namedKeys} more` : ''} that are not there`,
      remedy: 'What was to be brought is blank there. Add them to the list, or let such rows be held.',
    },
  ];
}

const foundTwice = ({ name }: List, column: string, count: number, find: Finder, row: number): Problem => ({
  kind: 'step',
  column,
  expected: `each key once in “${name}”`,
  came: `“${find.says(row)}” ${find.at(row).length} times${count > 1 ? `, and such keys in ${count - 1} more rows` : ''}`,
  remedy: 'What it should bring is a misfit. Mend the list, or find rows by more columns.',
});

const clash = ({ name }: List, { cells }: List['columns'][number], places: readonly number[]): Cell => ({
  text: [...new Set(places.map((place) => cellText(cells[place])))].slice(0, namedKeys).join(' / '),
  expected: `one row of “${name}”, not rows ${places
    .slice(0, namedKeys)
    .map((place) => place + 1)
    .join(', ')}${places.length > namedKeys ? ' …' : ''}`,
});

const unsaid = ({ name }: ListSource): Problem => ({
  kind: 'no list',
  expected: name === '' ? 'a list to look into' : 'columns by which rows are found',
  came: 'none yet',
  remedy: 'Choose it in the form of this step.',
});

const noList = ({ is, name }: ListSource): Problem => ({
  kind: 'no list',
  expected: is === 'file' ? `an uploaded list “${name}”` : `a published dataset “${name}” of another pipeline`,
  came: 'none of that name',
  remedy:
    is === 'file' ? 'Upload it in the form of this step.' : 'Refresh that pipeline first, or choose another list.',
});

const lacking = ({ name, columns }: List, wanted: string): Problem => ({
  kind: 'no list',
  column: wanted,
  expected: `a column “${wanted}” in “${name}”`,
  came: `columns ${columns.map((column) => `“${column.name}”`).join(', ') || 'none'}`,
  remedy: 'Choose another column of the list, or upload the list anew.',
});
