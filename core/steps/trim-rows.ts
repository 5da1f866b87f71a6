import * as v from 'valibot';
import { field, hold, step } from './step';

const count = v.pipe(v.number(), v.integer(), v.minValue(0));

export const trimRows = step({
  kind: 'trim rows',
  title: 'Trim rows',
  group: 'rows',
  help: 'Holds rows by their place: some from the top, some from the bottom, or a range.',
  settings: {
    top: field(v.optional(count, 0), 'From the top'),
    bottom: field(v.optional(count, 0), 'From the bottom'),
    from: field(v.optional(count, 0), 'Range from row', 'Counted from 1; 0: no range.'),
    to: field(v.optional(count, 0), 'Range to row'),
  },
  commutesWithAppend: false,
  describe: ({ top, bottom, from, to }) =>
    [top > 0 && `first ${top}`, bottom > 0 && `last ${bottom}`, from > 0 && `rows ${from} to ${to}`]
      .filter(Boolean)
      .join(', ') || 'Nothing trimmed',
  run: (sheet, { top, bottom, from, to }, around) =>
    hold(sheet, around, (row) => {
      if (row < top) return `among the first ${top} rows`;
      if (row >= sheet.rows.length - bottom) return `among the last ${bottom} rows`;
      return from > 0 && row + 1 >= from && row + 1 <= to ? `in rows ${from} to ${to}` : undefined;
    }),
});
