import { continuedWords } from '../values/carry-over';
import { cellText } from '../values/cell';
import { mostCommon, plural, reportSheet } from './sheets-seen';
import type { Detector, SeenReport } from './suggestion';

/** Tables of one form that titles above them tell apart, as sections do: appended, their rows would not say of which they are. */
export const tableTitles: Detector = ({ reports }) => {
  const titled = reports.map(titlesOf);
  const several = titled.filter((tables) => new Set(tables.map(({ title }) => title)).size > 1);
  if (several.length * 2 < reports.length || several.length === 0) return [];
  const titles = titled.flatMap((tables) => tables.map(({ title }) => title));
  // One that goes on would be a section of its own.
  if (titles.some((title) => title !== undefined && continuedWords.test(title))) return [];
  // Of sections most come again in other reports; a table that has none would be blank.
  if (
    titles.some((title) => title === undefined) ||
    (reports.length > 1 &&
      titles.filter((title) => titled.filter((tables) => tables.some((each) => each.title === title)).length > 1)
        .length *
        2 <
        titles.length)
  )
    return [];
  if (isSaid(reports, titled)) return [];
  return [
    {
      zone: 'eachReport',
      kind: 'stamp',
      settings: { from: 'table title', column: 'Section' },
      name: 'Stamp the title of each table',
      reason: `Titles tell ${plural(new Set(titles).size, 'section')} apart, such as “${mostCommon(titles)}”`,
    },
  ];
};

interface Titled {
  readonly table: string;
  readonly title: string | undefined;
}

/** The tables of a report, where it has several, with their titles. */
function titlesOf(report: SeenReport): Titled[] {
  const { rows } = reportSheet(report);
  const tables = [...new Set(rows.map(rows.table))];
  return tables.length < 2 ? [] : tables.map((table) => ({ table, title: report.carried.paper.title(table)?.text }));
}

/** Does a column say the title, or a part of it that tells it from the others, on all rows of its table? */
function isSaid(reports: readonly SeenReport[], titled: readonly (readonly Titled[])[]): boolean {
  return reportSheet(reports[0]).columns.some(({ name }) =>
    reports.every((report, i) => {
      const { columns, rows } = reportSheet(report);
      const cells = columns.find((column) => column.name === name)?.cells;
      const titleOf = new Map(titled[i].map(({ table, title = '' }) => [table, title]));
      return (
        cells !== undefined &&
        rows
          .map(
            (row) => cellText(cells[row]) !== '' && (titleOf.get(rows.table(row)) ?? '').includes(cellText(cells[row])),
          )
          .every(Boolean)
      );
    }),
  );
}
