import * as v from 'valibot';
import { cellText, isBlank } from '../values/cell';
import type { Column } from '../sheet/column';
import { nowhere } from '../sheet/origin';
import { parted, sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { between, betweenInWords, field, step, widget } from './step';

export const promoteHeaderRows = step({
  kind: 'promote header rows',
  title: 'Promote header rows',
  group: 'columns',
  help: 'The first rows become the column names and are held. A table without heading rows takes the names of the table before it, if it has as many columns.',
  settings: {
    rows: field(
      widget(v.optional(v.pipe(v.number(), v.integer(), v.minValue(0)), 0), {
        widget: 'number',
        zero: 'as many as are marked as heading',
      }),
      'Rows',
    ),
    spread: field(
      v.optional(v.boolean(), true),
      'Spread spans',
      'A heading over several columns is part of each name.',
    ),
    joiner: field(between(v.optional(v.string(), ' ')), 'Join with'),
    blank: field(
      v.optional(v.string(), ''),
      'Blank names',
      'The name of a column without heading; blank: it keeps the one it has.',
    ),
  },
  commutesWithAppend: false,
  namesFromRows: true,
  describe: ({ rows, joiner }) =>
    `${rows === 0 ? 'Rows marked as heading' : `${rows} ${rows === 1 ? 'row' : 'rows'}`}, joined with ${betweenInWords(joiner)}`,
  run(sheet, { rows, spread, joiner, blank }, { letPass, before }) {
    const marked = sheet.rows.find((row) => sheet.rows.role(row) !== 'heading');
    const count = rows > 0 ? Math.min(rows, sheet.rows.length) : marked < 0 ? sheet.rows.length : marked;
    const heading = Array.from({ length: count }, (_, row) => row).filter((row) => !letPass(sheet, row));
    const named = (names: readonly Pick<Column, 'name' | 'namedBy'>[]) =>
      makeSheet(
        sheet.columns.map((column, i) => ({ ...column, ...names[i] })),
        sheet.rows,
      );
    if (heading.length === 0 && before?.columns.length === sheet.columns.length)
      return {
        sheet: named(
          before.columns.map(({ name, namedBy }) => ({ name, ...(namedBy === undefined ? {} : { namedBy }) })),
        ),
      };
    if (heading.length === 0)
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: 'rows marked as heading at the top',
            came: 'none',
            remedy: 'Say how many rows are the heading.',
          },
        ],
      };
    // A title over all columns tells none of them apart: it names them only where nothing else does.
    const telling = heading.filter((row) => !isOverAll(sheet, row));
    const { passed } = parted(
      named(namesFrom(sheet, telling.length > 0 ? telling : heading, { spread, joiner, blank })),
      (row) => !heading.includes(row),
    );
    const { others } = parted(sheet, (row) => !heading.includes(row));
    return {
      sheet: passed,
      held: {
        rows: others,
        reasons: heading.map((row) =>
          telling.length > 0 && !telling.includes(row) ? 'a heading over all columns' : 'became the column names',
        ),
      },
    };
  },
});

/** Does one text stand over all of the columns? */
function isOverAll({ columns }: Sheet, row: number): boolean {
  const origin = columns[0].origins[row];
  return (
    columns.length > 2 &&
    origin !== nowhere &&
    columns.every((column) => column.origins[row] === origin) &&
    columns.filter((column) => !isBlank(column.cells[row])).length === 1
  );
}

/** The name of each column: its heading texts from top to bottom; a blank under a span takes the span's text. Names are distinct. */
function namesFrom(
  sheet: Sheet,
  heading: readonly number[],
  { spread, joiner, blank }: { spread: boolean; joiner: string; blank: string },
): Pick<Column, 'name' | 'namedBy'>[] {
  const joined = (parts: readonly string[]) => parts.join(joiner).replace(/\s+/g, ' ');
  const headed = sheet.columns.map((column, at) => {
    const parts: string[] = [];
    const origins: number[] = [];
    for (const row of heading) {
      const text = cellText(column.cells[row]).trim();
      const part = text || (spread && isBlank(column.cells[row]) ? spannedText(sheet, row, at) : '');
      // A text under a span is blank, but comes from the words of the span.
      if (part) origins.push(column.origins[row]);
      if (part && parts.at(-1) !== part) parts.push(part);
    }
    return { name: joined(parts) || blank || column.name, origins };
  });
  const wanted = headed.map(({ name }) => name);
  // Doubled names are told apart by the heading over them, else by the name before them.
  const isDoubled = (name: string, at: number, all: readonly string[]) =>
    all.some((other, i) => i !== at && other === name);
  const parented = wanted.map((name, at) =>
    isDoubled(name, at, wanted) ? joined([parentOf(sheet, heading, at).text, name].filter(Boolean)) : name,
  );
  const names: string[] = [];
  parented.forEach((name, at) => {
    let free = name;
    while (names.includes(free)) free = `${free} after ${names[at - 1]}`;
    names.push(free);
  });
  return names.map((name, at) => {
    const words = sheet.rows.book.origins.union([
      ...(wanted[at] === parented[at] ? [] : [parentOf(sheet, heading, at).origin]),
      ...headed[at].origins,
    ]);
    return words === nowhere ? { name } : { name, namedBy: words };
  });
}

/** The text of the cell to the left whose span covers this one: they come from the same words. */
function spannedText(sheet: Sheet, row: number, at: number): string {
  const origin = sheet.columns[at].origins[row];
  if (origin === nowhere) return '';
  const head = sheet.columns
    .slice(0, at)
    .findLast((column) => column.origins[row] === origin && !isBlank(column.cells[row]));
  return head ? cellText(head.cells[row]).trim() : '';
}

/** The heading that stands over a column's own, further left in a row above it; the lowest of them. */
function parentOf(sheet: Sheet, heading: readonly number[], at: number): { text: string; origin: number } {
  const own = heading.findIndex((each) => !isBlank(sheet.columns[at].cells[each]));
  const row = heading
    .slice(0, Math.max(0, own))
    .findLast((each) => sheet.columns.slice(0, at).some((column) => !isBlank(column.cells[each])));
  if (row === undefined) return { text: '', origin: nowhere };
  const { cells, origins } = sheet.columns.slice(0, at).findLast((column) => !isBlank(column.cells[row]))!;
  return { text: cellText(cells[row]).trim(), origin: origins[row] };
}
