import { isBlank } from '../values/cell';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { field, hold, step } from './step';

export const dropBlankRows = step({
  kind: 'drop blank rows',
  title: 'Drop blank rows',
  group: 'rows',
  help: 'Holds rows in which every chosen column is blank.',
  settings: { columns: field(columnChoice, 'Blank in', 'A row is held when all of these are blank.') },
  commutesWithAppend: true,
  describe: ({ columns }) => `Blank in ${describeChoice(columns)}`,
  run(sheet, { columns }, around) {
    const { columns: looked, problems } = chosen(sheet, columns);
    if (looked.length === 0) return { sheet, problems };
    return {
      ...hold(sheet, around, (row) =>
        looked.every((column) => isBlank(column.cells[row])) ? `blank in ${describeChoice(columns)}` : undefined,
      ),
      problems,
    };
  },
});
