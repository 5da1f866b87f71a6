import * as v from 'valibot';
import { cellText } from '../sheet/cell';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, hold, step } from './step';

/** A control character that stands in no text, between the texts of a key. */
const between = '\u001f';

export const deduplicate = step({
  kind: 'deduplicate',
  title: 'Deduplicate',
  group: 'rows',
  help: 'Of rows that are alike in the columns chosen one passes, the others are held.',
  settings: { columns: field(columnChoice, 'Alike in'), keep: field(v.optional(v.picklist(['the first', 'the last']), 'the first'), 'Keep') },
  commutesWithAppend: false,
  describe: ({ columns, keep }) => `Alike in ${describeChoice(columns)}, keeps ${keep}`,
  run(sheet, { columns, keep }, around) {
    const { columns: keys, problems } = chosen(sheet, columns);
    // With a key gone more rows would look alike than are.
    if (keys.length === 0 || problems.length > 0) return { sheet, problems };
    const own = sheet.rows.map((_, row) => keys.map((column) => cellText(column.cells[row])).join(between));
    const kept = new Map<string, number>();
    own.forEach((key, row) => {
      if (keep === 'the last' || !kept.has(key)) kept.set(key, row);
    });
    return hold(sheet, around, (row) => {
      const one = kept.get(own[row])!;
      return one === row ? undefined : `the same ${describeChoice(columns)} as row ${one + 1}`;
    });
  },
});
