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
    const printed = sheet.rows.map(
      (row) =>
        naming
          .map((column) => cellText(column.cells[row]))
          .filter(Boolean)
          .join(joiner) || '(blank)',
    );
    const found: string[] = [];
    /** What each printed name is called: as it is expected, or as it came first. */
    const called = new Map<string, string>();
    for (const name of new Set(printed)) {
      const known = [...expected, ...found].find((each) => sameName(each, name));
      if (known === undefined) found.push(name);
      called.set(name, known ?? name);
    }
    const nameAt = printed.map((name) => called.get(name)!);
    const rowsByName = new Map<string, number[]>();
    nameAt.forEach((name, row) => {
      const own = rowsByName.get(name);
      if (own) own.push(row);
      else rowsByName.set(name, [row]);
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
    const across = [...expected, ...found];
    const groups = grouped(rest, sheet.rows.length).places;

    const held = new Map<number, string>();
    /** Of each group the rows behind each name. */
    const behind = groups.map((rows) => {
      const byName = new Map<string, number[]>();
      for (const row of rows) {
        const name = nameAt[row];
        const before = byName.get(name);
        if (!before) byName.set(name, [row]);
        else if (meet === 'added up') before.push(row);
        else if (meet === 'the last') {
          held.set(before[0], `another value for “${name}” came after it`);
          byName.set(name, [row]);
        } else {
          held.set(row, `a value for “${name}” was there before it`);
          if (meet === 'a problem')
            problems.push(twice(sheet.rows.report(row), sheet.rows.page(row), sheet.rows.id(row), name));
        }
      }
      return byName;
    });
    const free = freeNames(rest);
    const made = across.flatMap((name) =>
      given.map((column): Column => {
        const results = behind.map((byName) => value(column, byName.get(name) ?? [], meet, problems));
        const words = wordsOf(
          book,
          (rowsByName.get(name) ?? []).flatMap((row) => naming.map((each) => each.origins[row])),
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
