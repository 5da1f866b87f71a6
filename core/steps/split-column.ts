import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../sheet/cell';
import { nowhere } from '../sheet/origin';
import { freeName, sheet as makeSheet, type Column } from '../sheet/sheet';
import { missingColumn, sameName } from './column-choice';
import { field, step } from './step';

const cutWays = ['at a mark', 'at every mark', 'between quantity and unit', 'after so many letters'] as const;

export const splitColumn = step({
  kind: 'split column',
  title: 'Split column',
  group: 'columns',
  help: 'Cuts the texts of a column and puts the parts into columns of their own, each traced to the same words.',
  settings: {
    column: field(v.string(), 'Column'),
    where: field(v.optional(v.picklist(cutWays), 'at a mark'), 'Cut'),
    mark: field(v.optional(v.string(), ' '), 'Mark'),
    nth: field(v.optional(v.pipe(v.number(), v.integer(), v.minValue(1)), 1), 'Which mark', 'The first, the second ...; or so many letters.'),
    counted: field(v.optional(v.picklist(['from the left', 'from the right']), 'from the left'), 'Counted'),
    into: field(v.optional(v.array(v.string()), []), 'Into', 'Names of the parts; others get the name of the column with a number.'),
    keep: field(v.optional(v.boolean(), false), 'Keep the column too'),
  },
  commutesWithAppend: false,
  describe: ({ column, where, mark, nth, counted }) => `${column || '(no column yet)'} ${where}${where === 'at a mark' ? ` “${mark}”, number ${nth} ${counted}` : where === 'at every mark' ? ` “${mark}”` : ''}`,
  run(sheet, { column: name, where, mark, nth, counted, into, keep }) {
    const column = sheet.columns.find((each) => sameName(each.name, name));
    if (!column) return { sheet, problems: [missingColumn(sheet, name)] };
    const parts = column.cells.map((cell) => (isBlank(cell) ? [] : partsOf(cellText(cell), where, mark, nth, counted).map((part) => part.trim())));
    const count = parts.reduce((most, own) => Math.max(most, own.length), Math.max(into.length, where === 'at every mark' ? 1 : 2));
    const taken = sheet.columns.filter((each) => keep || each !== column).map((each) => each.name);
    const made = Array.from({ length: count }, (_, i): Column => {
      const free = freeName(taken, into[i] ?? `${column.name} ${i + 1}`);
      taken.push(free);
      const cells = parts.map((own): Cell => own[i] || null);
      return { name: free, type: 'text', cells, origins: Int32Array.from(cells, (cell, row) => (cell === null ? nowhere : column.origins[row])) };
    });
    return {
      sheet: makeSheet(sheet.columns.flatMap((each) => (each === column ? [...(keep ? [each] : []), ...made] : [each])), sheet.rows),
      ...(keep ? {} : { leftOut: [column] }),
    };
  },
});

function partsOf(text: string, where: (typeof cutWays)[number], mark: string, nth: number, counted: 'from the left' | 'from the right'): string[] {
  if (where === 'between quantity and unit') {
    const parts = /^([-−–+(]?\d[\d\s.,'’\u00a0\u202f\u2009]*[-−–)]?)\s*(\D.*)?$/u.exec(text.trim());
    return parts ? [parts[1], parts[2] ?? ''] : ['', text];
  }
  if (where === 'after so many letters') return counted === 'from the left' ? [text.slice(0, nth), text.slice(nth)] : [text.slice(0, -nth), text.slice(-nth)];
  const all = mark === '' ? [text] : text.split(mark);
  if (where === 'at every mark') return all;
  const at = counted === 'from the left' ? nth : all.length - nth;
  return at < 1 || at >= all.length ? [text] : [all.slice(0, at).join(mark), all.slice(at).join(mark)];
}
