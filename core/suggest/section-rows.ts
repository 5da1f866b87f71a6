import { filledColumns, type Sheet } from '../sheet/sheet';
import { cellText } from '../values/cell';
import { indentLevels } from '../steps/indents';
import { plural, reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** Rows that only say under what the rows below stand. */
export const sectionRows: Detector = ({ reports }) => {
  const sheets = reports.map(reportSheet);
  const sections = sheets.flatMap((sheet) =>
    sheet.rows
      .map((row) => row)
      .filter((row) => sheet.rows.role(row) === 'section')
      .map((row) => ({ sheet, row })),
  );
  if (sections.length === 0) return [];
  // They come again, or there are several: a note under a table is neither.
  const having = sheets.filter((sheet) => sheet.rows.find((row) => sheet.rows.role(row) === 'section') >= 0).length;
  if (having * 2 < sheets.length) return [];
  const example = textOf(sections[0]);
  const known = onlySections(sheets, sections) ? 'one filled cell' : 'marked as section';
  const depth = indentLevels(sections.map(({ sheet, row }) => sheet.rows.indent(row))).length;
  const levels = levelsOf(depth <= mostLevels && known === 'one filled cell' ? depth : 1, known);
  return [
    {
      zone: 'eachReport',
      kind: 'lift sections',
      settings: { levels },
      reason: `${plural(sections.length, 'row says', 'rows say')} only a section, such as “${example}”`,
    },
  ];
};

const into = ['Section', 'Subsection', 'Group'];
/** Sections of so many levels have names. */
export const mostLevels = into.length;

/** The levels of the step that lifts sections, told by how far they stand in where there are several. */
export const levelsOf = (depth: number, known: string) =>
  into
    .slice(0, depth)
    .map((name, i) => ({ into: name, known, ...(depth > 1 ? { indent: ['outermost', 'second', 'third'][i] } : {}) }));

/** Are all rows with one filled cell sections, also those that are not marked: they say what sections say, or look as all of these do? */
function onlySections(sheets: readonly Sheet[], sections: readonly { sheet: Sheet; row: number }[]): boolean {
  const texts = new Set(sections.map(textOf));
  const places = new Set(sections.map(({ sheet, row }) => filledColumns(sheet, row)[0]));
  const bold = sections.every(({ sheet, row }) => sheet.rows.bold(row));
  return sheets.every((sheet) =>
    sheet.rows
      .map((row) => row)
      .every((row) => {
        const filled = filledColumns(sheet, row);
        if (filled.length !== 1 || sheet.rows.role(row) === 'section') return true;
        return places.has(filled[0]) && (texts.has(textOf({ sheet, row })) || (bold && sheet.rows.bold(row)));
      }),
  );
}

const textOf = ({ sheet, row }: { sheet: Sheet; row: number }) =>
  cellText(sheet.columns[filledColumns(sheet, row)[0]]?.cells[row] ?? null);
