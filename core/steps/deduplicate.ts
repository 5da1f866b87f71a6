import * as v from 'valibot';
import { groupsOf } from '../sheet/joined-rows';
import { sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, hold, step } from './step';

export const deduplicate = step({
  kind: 'deduplicate',
  title: 'Deduplicate',
  group: 'rows',
  help: 'Of rows that are alike in the columns chosen one passes, the others are held.',
  settings: {
    columns: field(columnChoice, 'Alike in'),
    keep: field(v.optional(v.picklist(['the first', 'the last']), 'the first'), 'Keep'),
  },
  commutesWithAppend: false,
  describe: ({ columns, keep }) => `Alike in ${describeChoice(columns)}, keeps ${keep}`,
  run(sheet, { columns, keep }, around) {
    const { columns: keys, problems } = chosen(sheet, columns);
    // With a key gone more rows would look alike than are.
    if (keys.length === 0 || problems.length > 0) return { sheet, problems };
    const own = groupsOf(keys, sheet.rows.length);
    const kept: number[] = [];
    own.forEach((group, row) => {
      if (keep === 'the last' || kept[group] === undefined) kept[group] = row;
    });
    const into = own.map((group, row) => (kept[group] === row || around.letPass(sheet, row) ? -1 : kept[group]));
    return hold(makeSheet(sheet.columns, sheet.rows.merged(into)), around, (row) => {
      const one = kept[own[row]];
      return one === row ? undefined : `the same ${describeChoice(columns)} as row ${one + 1}`;
    });
  },
});
