import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import { freeNames, sameName, type Column } from '../sheet/column';
import { grouped, rowOf, wordsOf } from '../sheet/joined-rows';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import { Rows } from '../sheet/row';
import { rowsAt, sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice, type ColumnChoice } from './column-choice';
import { between, field, step } from './step';

const meetings = ['a problem', 'added up', 'the first', 'the last'] as const;

/** The columns that a choice lists; none where a rule tells them. */
const namedIn = (choice: ColumnChoice): readonly string[] => (choice.by === 'names' ? choice.names : []);

export const pivot = step({
  kind: 'pivot',
  title: 'Pivot',
  group: 'shape',
  help: 'Values in rows go across: a column for each name that another column holds. Rows that are alike in all else become one.',
  settings: {
    names: field(columnChoice, 'Names from'),
    values: field(columnChoice, 'Values from'),
    meet: field(
      v.optional(v.picklist(meetings), 'a problem'),
      'Two for one place are',
      'Those that are not used are held.',
    ),
    expected: field(
      v.optional(v.array(v.string()), []),
      'Names expected',
      'In this order, so that columns do not come and go. Another name is told, and gets a column, too.',
    ),
    joiner: field(
      between(v.optional(v.string(), ' ')),
      'Joined with',
      'Between the names of several columns, and before the name of the values where there are several.',
    ),
  },
  commutesWithAppend: false,
  renames(before, after) {
    const [old, now] = [namedIn(before.values), namedIn(after.values)];
    const [several, joins] = [
      [before, after].every(({ values }) => namedIn(values).length > 1),
      before.joiner !== after.joiner,
    ];
    return (name) => {
      const at =
        several && old.length === now.length
          ? old.findLastIndex((value) => name.endsWith(`${before.joiner}${value}`))
          : -1;
      const own = at < 0 ? name : name.slice(0, name.length - before.joiner.length - old[at].length);
      // The names of several columns are joined as well.
      const put =
        joins && before.joiner !== '' && namedIn(before.names).length > 1
          ? own.split(before.joiner).join(after.joiner)
          : own;
      const next = at < 0 ? put : `${put}${after.joiner}${now[at]}`;
      return next === name ? undefined : next;
    };
  },
  describe: ({ names, values, meet }) =>
    `${describeChoice(values) || '(no values yet)'} across by ${describeChoice(names) || '(no names yet)'}; two for one place: ${meet}`,
  run(sheet, { names, values, meet, expected, joiner }) {
    const { columns: naming, problems } = chosen(sheet, names);
    const { columns: wanted, problems: missing } = chosen(sheet, values);
    const given = wanted.filter((column) => !naming.includes(column));
    problems.push(...missing);
    if (problems.length > 0) return { sheet, problems };
    if (naming.length === 0 || given.length === 0)
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: 'columns with names and columns with values',
            came: naming.length === 0 ? 'no names' : 'no values',
            remedy: 'Choose both.',
          },
        ],
      };
    const { book, numbers } = sheet.rows;
    const rest = sheet.columns.filter((column) => !naming.includes(column) && !given.includes(column));
    const {
      entries,
      found,
      at: entryAt,
    } = acrossOf(
      sheet.rows.map((row) => naming.map((column) => cellText(column.cells[row]))),
      expected,
      joiner,
    );
    const rowsByEntry = entries.map((): number[] => []);
    entryAt.forEach((entry, row) => rowsByEntry[entry].push(row));
    for (const { name, parts, like } of entries)
      if (parts !== undefined && like !== undefined)
        problems.push({
          kind: 'drift',
          column: name,
          expected: `one printed name for “${name}”`,
          came: `${inWords(like)} and ${inWords(parts)}`,
          remedy: 'They have a column each. Recode one of them above, or join them with another sign.',
        });
    if (expected.length > 0)
      for (const name of found)
        problems.push({
          kind: 'drift',
          column: name,
          expected: `one of the names ${expected.map((each) => `“${each}”`).join(', ')}`,
          came: `“${name}”`,
          remedy: 'It has a column of its own; add it to the names expected, or recode it above.',
        });
    const groups = grouped(rest, sheet.rows.length).places;

    const held = new Map<number, string>();
    /** Of each group the rows behind each column. */
    const isEmpty = (row: number) => given.every((column) => isBlank(column.cells[row]));
    const behind = groups.map((rows) => {
      const byEntry = new Map<number, number[]>();
      for (const row of rows) {
        const entry = entryAt[row];
        const { name } = entries[entry];
        const before = byEntry.get(entry);
        if (!before) byEntry.set(entry, [row]);
        else if (meet === 'added up') before.push(row);
        else if (meet !== 'a problem' && (isEmpty(row) || isEmpty(before[0]))) {
          // A row without a value is neither the first nor the last that has one.
          const [empty, other] = isEmpty(row) ? [row, before[0]] : [before[0], row];
          held.set(empty, `it has no value for “${name}”, and another row has`);
          byEntry.set(entry, [other]);
        } else if (meet === 'the last') {
          held.set(before[0], `another value for “${name}” came after it`);
          byEntry.set(entry, [row]);
        } else {
          held.set(row, `a value for “${name}” was there before it`);
          if (meet === 'a problem')
            problems.push(twice(sheet.rows.report(row), sheet.rows.page(row), sheet.rows.id(row), name));
        }
      }
      return byEntry;
    });
    const free = freeNames(rest);
    const made = entries.flatMap(({ name }, entry) =>
      given.map((column): Column => {
        const results = behind.map((byEntry) => value(column, byEntry.get(entry) ?? [], meet, problems));
        const words = wordsOf(
          book,
          rowsByEntry[entry].flatMap((row) => naming.map((each) => each.origins[row])),
        );
        return {
          name: free(given.length > 1 ? `${name}${joiner}${column.name}` : name),
          ...(words === nowhere ? {} : { namedBy: words }),
          type: column.type,
          ...(column.unit === undefined ? {} : { unit: column.unit }),
          cells: results.map(({ cell }) => cell),
          origins: Int32Array.from(results, ({ rows }) => wordsOf(book, column.origins, rows)),
        };
      }),
    );
    const passing = groups.map((rows) => rows.filter((row) => !held.has(row)));
    const rows = new Rows(
      book,
      Int32Array.from(passing, (places) => rowOf(book, numbers, places)),
    );
    const kept = rest.map((column): Column => ({
      ...column,
      cells: groups.map(([first]) => column.cells[first]),
      origins: Int32Array.from(passing, (own) => wordsOf(book, column.origins, own)),
    }));
    const places = [...held.keys()].sort((a, b) => a - b);
    return {
      sheet: makeSheet([...kept, ...made], rows),
      ...(places.length > 0
        ? { held: { rows: rowsAt(sheet, places), reasons: places.map((row) => held.get(row)!) } }
        : {}),
      // The names stand above the columns now, and a value may be the sum of several.
      leftOut: [...naming, ...given],
      added: groups.length + places.length - sheet.rows.length,
      problems,
    };
  },
});

/** A column that values go to. */
interface Entry {
  readonly name: string;
  /** What is printed in the columns of names; undefined where the name is expected and was not found. */
  parts?: readonly string[];
  /** Other prints that have the same name: (Cod, large) and “Cod large” alone. */
  like?: readonly string[];
}

/**
 * The columns that rows go to: one for each print of the columns of names, however these look when they are joined.
 * @param prints of each row what stands in each column of names
 * @returns the columns, those expected first; the names that were not expected; of each row its column
 */
function acrossOf(prints: readonly (readonly string[])[], expected: readonly string[], joiner: string) {
  const entries: Entry[] = expected.map((name) => ({ name }));
  const found: string[] = [];
  const byKey = new Map<string, number>();
  const at = prints.map((parts) => {
    const key = JSON.stringify(parts);
    const known = byKey.get(key) ?? entryFor(parts);
    byKey.set(key, known);
    return known;
  });
  function entryFor(parts: readonly string[]): number {
    const isLike = (other: readonly string[]) =>
      other.every((part, i) => part === parts[i] || sameName(part, parts[i]));
    const alike = entries.findIndex((entry) => entry.parts !== undefined && isLike(entry.parts));
    if (alike >= 0) return alike;
    const name = parts.filter(Boolean).join(joiner) || '(blank)';
    const awaited = entries.findIndex((entry) => entry.parts === undefined && sameName(entry.name, name));
    if (awaited >= 0) {
      entries[awaited].parts = parts;
      return awaited;
    }
    const like = entries.find((entry) => entry.parts !== undefined && sameName(entry.name, name))?.parts;
    if (!like) found.push(name);
    entries.push({ name, parts, ...(like ? { like } : {}) });
    return entries.length - 1;
  }
  return { entries, found, at };
}

const inWords = (parts: readonly string[]): string =>
  parts.map((part) => (part === '' ? 'a blank' : `“${part}”`)).join(' with ');

const twice = (report: string, page: number, row: Problem['row'], name: string): Problem => ({
  kind: 'step',
  report,
  page,
  ...(row ? { row } : {}),
  column: name,
  expected: 'one row for each place',
  came: `another row for “${name}”`,
  remedy:
    'The first is used, this one is held. Say that they are added up, or that the first or the last counts, or leave out a column by which they differ.',
});

function value(
  column: Column,
  rows: readonly number[],
  meet: (typeof meetings)[number],
  problems: Problem[],
): { cell: Cell; rows: readonly number[] } {
  const filled = rows.filter((row) => !isBlank(column.cells[row]));
  if (filled.length === 0) return { cell: null, rows: [] };
  if (filled.length === 1 || meet !== 'added up') return { cell: column.cells[filled[0]], rows: [filled[0]] };
  const cells = filled.map((row) => column.cells[row]);
  if (cells.every((cell) => typeof cell === 'number')) return { cell: exactSum(cells), rows: filled };
  problems.push({
    kind: 'step',
    column: column.name,
    expected: 'numbers to add up',
    came: `“${cellText(cells.find((cell) => typeof cell !== 'number')!)}”`,
    remedy: 'Set the type of the column in a step above; the cell is an error until then.',
  });
  return { cell: { text: cells.map(cellText).join(' + '), expected: 'numbers to add up' }, rows: filled };
}
