import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../sheet/cell';
import { sheet as makeSheet, type Column } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, hold, step, type Overwritten } from './step';

export const foldLines = step({
  kind: 'fold lines',
  title: 'Fold lines',
  group: 'rows',
  help: 'A row whose key columns are blank goes on from the row above (or below): its texts are joined into it, and the row is held.',
  settings: {
    keys: field(columnChoice, 'Blank in'),
    into: field(v.optional(v.picklist(['the row above', 'the row below']), 'the row above'), 'Into'),
    joiner: field(v.optional(v.string(), ' '), 'Joined with'),
  },
  commutesWithAppend: false,
  describe: ({ keys, into }) => `Rows blank in ${describeChoice(keys)} into ${into}`,
  run(sheet, { keys, into, joiner }, papers) {
    const { columns: keyed, problems } = chosen(sheet, keys);
    if (keyed.length === 0 || problems.length > 0) return { sheet, problems };
    const isKey = (row: number) => keyed.some((column) => !isBlank(column.cells[row]));
    const target = sheet.rows.map((): number | undefined => undefined);
    const order = sheet.rows.map((_, row) => row);
    if (into === 'the row below') order.reverse();
    let open: number | undefined;
    for (const row of order) {
      // Lines never fold over into another report or table.
      if (open !== undefined && (sheet.rows[open].report !== sheet.rows[row].report || sheet.rows[open].table !== sheet.rows[row].table)) open = undefined;
      if (isKey(row)) open = row;
      else target[row] = open;
    }
    const overwritten: Overwritten[] = [];
    const columns = sheet.columns.map((column): Column => {
      const cells: Cell[] = [...column.cells];
      const origins = Int32Array.from(column.origins);
      const changed = new Set<number>();
      order.forEach((row) => {
        const to = target[row];
        if (to === undefined || isBlank(column.cells[row])) return;
        // Rows are gone through away from the one they join, so that their texts keep the order of the paper.
        const texts = (into === 'the row above' ? [cells[to], column.cells[row]] : [column.cells[row], cells[to]]).filter((cell) => !isBlank(cell)).map(cellText);
        cells[to] = texts.join(joiner);
        origins[to] = papers(sheet.rows[to].report).origins.union([origins[to], column.origins[row]]);
        changed.add(to);
      });
      if (changed.size > 0) overwritten.push({ column: column.name, rows: [...changed], old: [...changed].map((row) => column.cells[row]), why: 'joined with the lines that go on from it' });
      return changed.size > 0 ? { ...column, cells, origins } : column;
    });
    const result = hold(makeSheet(columns, sheet.rows), (row) => (target[row] === undefined ? undefined : `folded into ${into}`));
    // Places are told in the sheet that passes.
    const before = sheet.rows.reduce<number[]>((counts, _, row) => [...counts, counts[row] + (target[row] === undefined ? 1 : 0)], [0]);
    return { ...result, overwritten: overwritten.map((each) => ({ ...each, rows: each.rows.map((row) => before[row]) })), problems };
  },
});
