import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import type { Problem } from '../sheet/problem';
import type { Column } from '../sheet/column';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { exactSum } from '../values/exact';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { between, betweenInWords, field, hold, type Overwritten, step, when } from './step';

const ways = ['joined', 'kept', 'added up'] as const;

const byColumn = v.object({
  columns: field(columnChoice, 'Columns'),
  how: field(
    v.optional(v.picklist(ways), 'joined'),
    'Are',
    'Kept: the row keeps its own value, and takes the other only where it is blank.',
  ),
  joiner: field(when(between(v.optional(v.string(), ' ')), 'how', 'joined'), 'Joined with'),
});

export const foldLines = step({
  kind: 'fold lines',
  title: 'Fold lines',
  group: 'rows',
  help: 'A row whose key columns are blank goes on from the row above (or below): its cells go into it, and the row is held.',
  settings: {
    keys: field(columnChoice, 'Blank in'),
    into: field(v.optional(v.picklist(['the row above', 'the row below']), 'the row above'), 'Into'),
    joiner: field(between(v.optional(v.string(), ' ')), 'Joined with'),
    by: field(
      v.optional(v.array(byColumn), []),
      'Other columns',
      'Columns that are joined otherwise, kept, or added up.',
    ),
  },
  commutesWithAppend: false,
  describe: ({ keys, into, joiner, by }) =>
    [
      `Rows blank in ${describeChoice(keys)} into ${into}${joiner === ' ' ? '' : `, joined with ${betweenInWords(joiner)}`}`,
      ...by.map(({ columns, how }) => `${describeChoice(columns)} ${how}`),
    ].join('; '),
  run(sheet, { keys, into, joiner, by }, around) {
    const { columns: keyed, problems } = chosen(sheet, keys);
    const own = by.map((each) => ({ ...each, ...chosen(sheet, each.columns) }));
    problems.push(...own.flatMap((each) => each.problems));
    if (keyed.length === 0 || problems.length > 0) return { sheet, problems };
    const up = into === 'the row above';
    const target = targetsOf(
      sheet,
      up,
      (row) => around.letPass(sheet, row) || keyed.some((column) => !isBlank(column.cells[row])),
    );
    const overwritten: Overwritten[] = [];
    const columns = sheet.columns.map((column): Column => {
      const { how, joiner: mark } = own.find((each) => each.columns.includes(column)) ?? {
        how: 'joined' as const,
        joiner,
      };
      const lines = linesOf(column, target);
      if (lines.size === 0) return column;
      const cells: Cell[] = [...column.cells];
      const origins = Int32Array.from(column.origins);
      const changed: number[] = [];
      for (const [to, from] of lines) {
        // The texts keep the order of the paper.
        const all = up ? [to, ...from] : [...from, to];
        const filled = all.filter((row) => !isBlank(column.cells[row]));
        const used = how === 'kept' ? [isBlank(column.cells[to]) ? filled[0] : to] : filled;
        const written =
          how === 'added up'
            ? added(used.map((row) => column.cells[row]))
            : used.length === 1
              ? column.cells[used[0]]
              : used.map((row) => cellText(column.cells[row])).join(mark);
        if (written === undefined) {
          problems.push(
            notAdded(
              column,
              sheet,
              used.find((row) => typeof column.cells[row] !== 'number')!,
            ),
          );
          continue;
        }
        if (used.length === 1 && used[0] === to) continue;
        cells[to] = written;
        origins[to] = sheet.rows.book.origins.union(used.map((row) => column.origins[row]));
        changed.push(to);
      }
      if (changed.length > 0)
        overwritten.push({
          column: column.name,
          rows: changed,
          old: changed.map((row) => column.cells[row]),
          why:
            how === 'added up'
              ? 'added up with the lines that go on from it'
              : 'joined with the lines that go on from it',
        });
      return changed.length > 0 ? { ...column, cells, origins } : column;
    });
    const result = hold(makeSheet(columns, sheet.rows.merged(target.map((to) => to ?? -1))), around, (row) =>
      target[row] === undefined ? undefined : `folded into ${into}`,
    );
    // Places are told in the sheet that passes.
    let passed = 0;
    const placeOf = target.map((to) => (to === undefined ? passed++ : -1));
    return {
      ...result,
      overwritten: overwritten.map((each) => ({ ...each, rows: each.rows.map((row) => placeOf[row]) })),
      problems,
    };
  },
});

/** The row that each continuing row goes into. Lines never fold over into another report or table. */
function targetsOf(sheet: Sheet, up: boolean, isKey: (row: number) => boolean): (number | undefined)[] {
  const target = sheet.rows.map((): number | undefined => undefined);
  const order = sheet.rows.map((row) => row);
  if (!up) order.reverse();
  let open: number | undefined;
  for (const row of order) {
    if (open !== undefined && !sheet.rows.inSameTable(open, row)) open = undefined;
    if (isKey(row)) open = row;
    else target[row] = open;
  }
  return target;
}

/** The rows with a text in this column that go into each row, from top to bottom. */
function linesOf(column: Column, target: readonly (number | undefined)[]): Map<number, number[]> {
  const lines = new Map<number, number[]>();
  target.forEach((to, row) => {
    if (to !== undefined && !isBlank(column.cells[row])) lines.set(to, [...(lines.get(to) ?? []), row]);
  });
  return lines;
}

/** The sum of number cells; undefined when one is none. */
const added = (cells: readonly Cell[]): number | undefined =>
  cells.every((cell) => typeof cell === 'number') ? exactSum(cells) : undefined;

const notAdded = (column: Column, { rows }: Sheet, row: number): Problem => ({
  kind: 'step',
  column: column.name,
  report: rows.report(row),
  page: rows.page(row),
  row: rows.id(row),
  expected: 'numbers to add up',
  came: `“${cellText(column.cells[row])}”`,
  remedy: 'Set the type of this column in a step above; the row kept its own value, the other is in the held row.',
});
