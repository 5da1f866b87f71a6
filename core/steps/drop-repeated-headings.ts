import * as v from 'valibot';
import { cellText } from '../sheet/cell';
import type { Sheet } from '../sheet/sheet';
import { field, hold, step } from './step';

const texts = (sheet: Sheet, row: number) => sheet.columns.map((column) => cellText(column.cells[row])).filter((text) => text !== '');
const squeezed = (parts: readonly string[]) => parts.join('|').toLowerCase().replace(/\s+/g, '');

export const dropRepeatedHeadings = step({
  kind: 'drop repeated headings',
  title: 'Drop repeated headings',
  group: 'rows',
  help: 'Holds rows that print the heading again, as it is done on top of each page.',
  settings: {
    rows: field(v.optional(v.pipe(v.number(), v.integer(), v.minValue(0)), 0), 'Heading rows', '0: as many as are marked as heading; after a promotion, the column names count too.'),
  },
  commutesWithAppend: false,
  describe: ({ rows }) => (rows === 0 ? 'Rows that say the heading again' : `Rows that say one of the first ${rows} again`),
  run(sheet, { rows }) {
    const marked = sheet.rows.findIndex((row) => row.role !== 'heading');
    const count = rows > 0 ? rows : marked < 0 ? 0 : marked;
    const heading = new Set(Array.from({ length: Math.min(count, sheet.rows.length) }, (_, row) => squeezed(texts(sheet, row))));
    heading.add(squeezed(sheet.columns.map((column) => column.name)));
    return hold(sheet, (row) => (row >= count && heading.has(squeezed(texts(sheet, row))) ? 'says the heading again' : undefined));
  },
});
