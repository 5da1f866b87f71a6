import * as v from 'valibot';
import { cellText } from '../values/cell';
import { freeNames, sameName, type Column } from '../sheet/column';
import { nowhere } from '../sheet/origin';
import { filledColumns, isBlankRow, rowsAt, sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { field, step, when, type Printed } from './step';
import { wildcard } from './wildcard';

const ways = [
  'at blank rows',
  'at white space',
  'below rules',
  'before rows that match',
  'after rows that match',
  'at a row number',
  'where the heading comes again',
] as const;

export const splitTable = step({
  kind: 'split table',
  title: 'Split table',
  group: 'shape',
  help: 'One table that holds several falls into its parts. In the zone of each table they are tables of their own: the steps below, promote header rows first, run on each.',
  settings: {
    where: field(v.optional(v.picklist(ways), 'at blank rows'), 'Split'),
    row: field(
      when(v.optional(v.pipe(v.number(), v.integer(), v.minValue(2)), 2), 'where', 'at a row number'),
      'A part begins at row',
    ),
    text: field(
      when(v.optional(v.string(), ''), 'where', 'before rows that match', 'after rows that match'),
      'Row with the text',
      'A * stands for any text: the first filled cell of the row is looked at.',
    ),
    into: field(
      when(v.optional(v.string(), ''), 'where', 'before rows that match', 'after rows that match'),
      'Text of the splitting row into',
      'A column; the row is held then. Blank: it stays in its part.',
    ),
    title: field(
      when(v.optional(v.boolean(), false), 'where', 'before rows that match', 'after rows that match'),
      'It is the title of the part',
      'For a stamp of the table title below, in this zone; the row is held then.',
    ),
  },
  // In the zone of each table only; elsewhere nothing but the text is put beside the rows.
  commutesWithAppend: ({ where }) => where !== 'at a row number' && where !== 'where the heading comes again',
  describe: ({ where, row, text, into, title }) =>
    `${where === 'at a row number' ? `At row ${row}` : where === 'at blank rows' || where === 'at white space' || where === 'below rules' || where === 'where the heading comes again' ? where[0].toUpperCase() + where.slice(1) : `${where === 'before rows that match' ? 'Before' : 'After'} “${text}”`}${into === '' ? '' : `, its text into ${into}`}${title ? ', its text the title of the part' : ''}`,
  run(sheet, { where, row: number, text, into: wanted, title: asTitle }, { letPass }) {
    const byText = where === 'before rows that match' || where === 'after rows that match';
    const into = byText ? wanted : '';
    const entitles = byText && asTitle;
    const pattern = wildcard(text);
    const first = (row: number) => filledColumns(sheet, row)[0];
    const firstText = (row: number) =>
      first(row) === undefined ? '' : cellText(sheet.columns[first(row)].cells[row]).trim();
    const isSplit = (row: number): boolean => {
      switch (where) {
        case 'at blank rows':
          return isBlankRow(sheet, row);
        // Only inside a table: above its first row there is nothing to be parted from.
        case 'at white space':
          return row > 0 && sheet.rows.inSameTable(row, row - 1) && sheet.rows.spaced(row);
        case 'below rules':
          return row > 0 && sheet.rows.inSameTable(row, row - 1) && sheet.rows.ruled(row);
        case 'at a row number':
          return row === number - 1;
        case 'where the heading comes again':
          return (
            row > 0 &&
            sheet.columns.every((column) => sameName(cellText(column.cells[row]), cellText(column.cells[0]))) &&
            firstText(row) !== ''
          );
        default:
          return text !== '' && pattern.test(firstText(row));
      }
    };
    if (byText && text === '')
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: 'the text of a row at which the table is split',
            came: 'none',
            remedy: 'Write it; a * stands for any text.',
          },
        ],
      };
    const starts: number[] = [];
    const held: number[] = [];
    const labelAt: (number | undefined)[] = [];
    let label: number | undefined;
    for (let row = 0; row < sheet.rows.length; row++) {
      if (row > 0 && !sheet.rows.inSameTable(row, row - 1)) label = undefined;
      if (isSplit(row) && !letPass(sheet, row)) {
        starts.push(where === 'after rows that match' || where === 'at blank rows' ? row + 1 : row);
        if (into !== '' || entitles) label = row;
        if (into !== '' || entitles || where === 'at blank rows') held.push(row);
      }
      labelAt.push(label);
    }
    const gone = new Set(held);
    const labels: Column[] =
      into === ''
        ? []
        : [
            {
              name: freeNames(sheet.columns)(into),
              type: 'text',
              cells: labelAt.map((at) => (at === undefined ? null : firstText(at))),
              origins: Int32Array.from(labelAt, (at) =>
                at === undefined ? nowhere : (sheet.columns[first(at)]?.origins[at] ?? nowhere),
              ),
            },
          ];
    const labelled = labels.length > 0 ? makeSheet([...labels, ...sheet.columns], sheet.rows) : sheet;
    const places = sheet.rows.map((row) => row).filter((row) => !gone.has(row));
    const cuts = [0, ...starts, sheet.rows.length];
    const parts: Sheet[] = [];
    const titles: (Printed | undefined)[] = [];
    cuts.slice(1).forEach((end, n) => {
      const own = places.filter((row) => row >= cuts[n] && row < end);
      if (own.length === 0) return;
      const at = entitles ? labelAt[own[0]] : undefined;
      const [print] = at === undefined ? [] : sheet.rows.book.origins.places(sheet.columns[first(at)].origins[at]);
      parts.push(rowsAt(labelled, own));
      titles.push(print && { text: firstText(at!), page: print.page, words: print.words });
    });
    return {
      sheet: rowsAt(labelled, places),
      parts,
      ...(entitles ? { titles } : {}),
      ...(held.length > 0
        ? {
            held: {
              rows: rowsAt(sheet, held),
              reasons: held.map(() =>
                where === 'at blank rows'
                  ? 'blank: the table is split here'
                  : into === ''
                    ? 'the table is split here; its text is the title of what follows'
                    : `the table is split here; its text is in “${into}”`,
              ),
            },
          }
        : {}),
    };
  },
});
