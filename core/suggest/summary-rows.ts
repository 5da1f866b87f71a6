import { cellText } from '../values/cell';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { plural, reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** What heads a row that sums the rows above up otherwise than by adding them, in several languages. */
const summaryWords =
  /^(?:mean|average|avg|median|max(?:imum|ima)?|min(?:imum|ima)?|highest|lowest|std\.?\s?dev|mittel(?:wert)?|durchschnitt|schnitt|ø|höchstwert|tiefstwert|moyenne|médiane|media|promedio|máxim[oa]|mínim[oa]|máx|mín|massimo|minimo|gemiddelde?|hoogste|laagste|medel(?:värde)?|högst|lägst|średnia|najwyższ[ay]|najniższ[ay]|média)(?![\p{L}\d])/iu;

/** So many of them end a table at most. */
const most = 4;

/** Rows at the end of tables with the mean, the most or the least of those above: values that are counted twice where they stay. */
export const summaryRows: Detector = ({ reports }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  const found = sheets.map(rowsAtEnd);
  const having = found.filter((rows) => rows.length > 0).length;
  if (having === 0 || having * 2 < sheets.length) return [];
  const labels = found.flatMap((rows, i) => rows.map((row) => labelOf(sheets[i], row)!));
  const { name } = labels[0];
  const values = [...new Set(labels.map(({ text }) => text))];
  // Said elsewhere, or in another column, it may be a name.
  const elsewhere = sheets.some((sheet, i) =>
    sheet.columns.some(
      (column) =>
        column.name === name &&
        column.cells.some((cell, row) => values.includes(cellText(cell)) && !found[i].includes(row)),
    ),
  );
  if (elsewhere || labels.some((label) => label.name !== name)) return [];
  return [
    {
      zone: 'eachReport',
      kind: 'sift rows',
      settings: { conditions: [{ of: { is: 'column', name }, test: 'is one of', values }] },
      name: 'Hold means and extremes',
      reason: `${plural(labels.length, 'row at the end says', 'rows at the end say')} what the rows above come to otherwise than by adding, such as “${values[0]}”`,
    },
  ];
};

/** The first text of a row, where it is such a word, with the column that it stands in. */
function labelOf(sheet: Sheet, row: number): { name: string; text: string } | undefined {
  const [first, second] = filledColumns(sheet, row);
  if (first === undefined || second === undefined) return undefined;
  const { name, cells } = sheet.columns[first];
  const text = cellText(cells[row]);
  return summaryWords.test(text) ? { name, text } : undefined;
}

/** The rows with such words at the end of each table, where others stand above them. */
function rowsAtEnd(sheet: Sheet): number[] {
  const { rows } = sheet;
  const ends = rows.map((row) => row).filter((row) => row + 1 === rows.length || !rows.inSameTable(row, row + 1));
  return ends.flatMap((end) => {
    const own: number[] = [];
    for (let row = end; row >= 0 && rows.inSameTable(row, end) && labelOf(sheet, row); row--) own.unshift(row);
    const first = own[0] ?? 0;
    return own.length > 0 && own.length <= most && first > own.length && rows.inSameTable(first - own.length - 1, end)
      ? own
      : [];
  });
}
