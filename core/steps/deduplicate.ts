import * as v from 'valibot';
import { cellText } from '../sheet/cell';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, hold, step } from './step';

export const deduplicate = step({
  kind: 'deduplicate',
  title: 'Deduplicate',
  group: 'rows',
  help: 'Of rows that are alike in the columns chosen one passes, the others are held.',
  settings: { columns: field(columnChoice, 'Alike in'), keep: field(v.optional(v.picklist(['the first', 'the last']), 'the first'), 'Keep') },
  commutesWithAppend: false,
  describe: ({ columns, keep }) => `Alike in ${describeChoice(columns)}, keeps ${keep}`,
  run(sheet, { columns, keep }) {
    const { columns: keys, problems } = chosen(sheet, columns);
    // With a key gone more rows would look alike than are.
    if (keys.length === 0 || problems.length > 0) return { sheet, problems };
    const keyOf = (row: number) => JSON.stringify(keys.map((column) => cellText(column.cells[row])));
    const kept = new Map<string, number>();
    sheet.rows.forEach((_, row) => {
      const key = keyOf(row);
      if (keep === 'the last' || !kept.has(key)) kept.set(key, row);
    });
    return hold(sheet, (row) => {
      const one = kept.get(keyOf(row))!;
      return one === row ? undefined : `the same ${describeChoice(columns)} as row ${one + 1}`;
    });
  },
});
