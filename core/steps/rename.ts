import * as v from 'valibot';
import type { Problem } from '../sheet/problem';
import { sheet as makeSheet } from '../sheet/sheet';
import { sameName } from './column-choice';
import { field, step } from './step';

export const rename = step({
  kind: 'rename',
  title: 'Rename columns',
  group: 'columns',
  help: 'Gives columns new names; several spellings may become one name.',
  settings: {
    names: field(v.array(v.object({ from: field(v.array(v.string()), 'Printed as'), to: field(v.pipe(v.string(), v.minLength(1)), 'New name') })), 'Names', 'The new name, and every spelling that becomes it.'),
  },
  commutesWithAppend: true,
  describe: ({ names }) => names.map(({ to, from }) => `${from.join(' / ')} → ${to}`).join(', ') || 'No names yet',
  run(sheet, { names }) {
    const problems: Problem[] = [];
    const taken = new Set<string>();
    const columns = sheet.columns.map((column) => {
      const to = names.find(({ from }) => from.some((name) => sameName(name, column.name)))?.to ?? column.name;
      if (!taken.has(to) && (to === column.name || !sheet.columns.some((other) => other !== column && other.name === to && !names.some(({ from }) => from.some((name) => sameName(name, other.name)))))) {
        taken.add(to);
        return { ...column, name: to };
      }
      problems.push({
        kind: 'step',
        column: column.name,
        expected: `one column to be named “${to}”`,
        came: 'two of them in one sheet',
        remedy: 'Give one of the spellings another name.',
      });
      taken.add(column.name);
      return column;
    });
    return { sheet: makeSheet(columns, sheet.rows), problems };
  },
});
