import { sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, step } from './step';

export const pickColumns = step({
  kind: 'pick columns',
  title: 'Pick columns',
  group: 'columns',
  help: 'Keeps the chosen columns in the order given; the rest is left out.',
  settings: { columns: field(columnChoice, 'Keep') },
  commutesWithAppend: true,
  describe: ({ columns }) => describeChoice(columns),
  run(sheet, { columns }) {
    const { columns: kept, problems } = chosen(sheet, columns);
    if (kept.length === 0) return { sheet, problems };
    return {
      sheet: makeSheet(kept, sheet.rows),
      leftOut: sheet.columns.filter((column) => !kept.includes(column)),
      problems,
    };
  },
});
