import * as v from 'valibot';
import { cellText } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import { field, hold, step } from './step';

export const cropBetweenMarks = step({
  kind: 'crop between marks',
  title: 'Crop between marks',
  group: 'rows',
  help: 'Passes the rows from the one that has a text to the one that has another, and holds the rest.',
  settings: {
    from: field(v.optional(v.string(), ''), 'From the row with', 'Blank: from the first row.'),
    to: field(v.optional(v.string(), ''), 'To the row with', 'Blank: to the last row.'),
    withFrom: field(v.optional(v.boolean(), true), 'That row passes too'),
    withTo: field(v.optional(v.boolean(), false), 'The last row passes too'),
    which: field(
      v.optional(v.picklist(['each', 'first', 'last']), 'each'),
      'Which stretch',
      'Where the marks come more than once.',
    ),
  },
  commutesWithAppend: false,
  describe: ({ from, to, which }) =>
    `${which === 'each' ? '' : `${which}: `}${from ? `from “${from}”` : 'from the top'} ${to ? `to “${to}”` : 'to the end'}`,
  run(sheet, { from, to, withFrom, withTo, which }, around) {
    const stretches = stretchesOf(sheet, from, to);
    if (stretches.length === 0)
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: `a row with “${from}”`,
            came: 'none; every row passed',
            remedy: 'Write a text that stands in a row of this sheet.',
          },
        ],
      };
    const open = stretches.filter(({ end }) => end === undefined);
    const chosen = which === 'first' ? stretches.slice(0, 1) : which === 'last' ? stretches.slice(-1) : stretches;
    const passes = (row: number) =>
      chosen.some(
        ({ start, end }) =>
          (withFrom || from === '' ? row >= start : row > start) &&
          (end === undefined || (withTo ? row <= end : row < end)),
      );
    return {
      ...hold(sheet, around, (row) => (passes(row) ? undefined : 'outside the marks')),
      ...(to !== '' && open.some((stretch) => chosen.includes(stretch))
        ? {
            problems: [
              {
                kind: 'step' as const,
                expected: `a row with “${to}” below`,
                came: 'none; the rows to the end passed',
                remedy: 'Write a text that stands in the row after the last one wanted.',
              },
            ],
          }
        : {}),
    };
  },
});

/** Stretches of rows that begin at a row with the one text and end at the next with the other. */
function stretchesOf(sheet: Sheet, from: string, to: string): { start: number; end: number | undefined }[] {
  const texts = sheet.rows.map((row) => rowText(sheet, row));
  const find = (mark: string, at: number) => texts.findIndex((text, row) => row >= at && text.includes(plain(mark)));
  const stretches: { start: number; end: number | undefined }[] = [];
  for (let at = 0; at < sheet.rows.length;) {
    const start = from === '' ? at : find(from, at);
    if (start < 0) break;
    const end = to === '' ? -1 : find(to, from === '' ? start : start + 1);
    stretches.push({ start, end: end < 0 ? undefined : end });
    // Without a first mark there is one stretch, from the top.
    if (end < 0 || from === '') break;
    at = end + (plain(from) === plain(to) ? 0 : 1);
  }
  return stretches;
}

const plain = (text: string) => text.toLowerCase().replace(/\s+/g, ' ').trim();

const rowText = (sheet: Sheet, row: number): string =>
  plain(
    sheet.columns
      .map((column) => cellText(column.cells[row]))
      .filter((text) => text !== '')
      .join(' '),
  );
