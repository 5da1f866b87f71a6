import * as v from 'valibot';
import { cellText } from '../values/cell';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { holdTotals } from '../steps/hold-totals';
import { aroundOf, plural, reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** So many of the rows that look so must add up what stands under them. */
const mostAdd = 0.9;

/** Bold rows that say a section and what it comes to, above its rows: lifted, and held as the totals that they are. */
export const sectionTotals: Detector = ({ reports, locale }) => {
  const seen = reports.map((report) => ({ report, sheet: reportSheet(report) })).filter(({ sheet }) => sheet.rows.length > 0);
  if (seen.length === 0 || !seen.every(({ sheet }) => isHead(sheet, 0))) return [];
  const heads = seen.flatMap(({ sheet }) => sheet.rows.map((row) => row).filter((row) => isHead(sheet, row)).map((row) => cellText(sheet.columns[0].cells[row])));
  // Where every row is bold, or one alone, nothing is told by it.
  if (heads.length < 2 * seen.length || seen.some(({ sheet }) => sheet.rows.map((row) => sheet.rows.bold(row)).every(Boolean))) return [];
  const settings = { wording: [], marked: false, bold: true, ...(locale() === 'en-GB' ? {} : { locale: locale() }) };
  const full = v.parse(holdTotals.settings, settings);
  const covers = seen.flatMap(({ report, sheet }) => holdTotals.run(sheet, full, aroundOf(report)).held?.covers ?? []).filter(({ rows }) => rows.length > 0);
  const agree = covers.filter(({ differs }) => differs.length === 0).length;
  if (covers.length < heads.length / 2 || agree < mostAdd * covers.length) return [];
  const such = `${plural(heads.length, 'bold row heads', 'bold rows head')} the rows that ${heads.length === 1 ? 'it adds' : 'they add'} up, such as “${heads[0]}”`;
  return [
    { zone: 'eachReport', kind: 'lift sections', settings: { levels: [{ into: 'Section', known: 'bold print and amounts' }], stays: true }, reason: such },
    { zone: 'eachReport', kind: 'hold totals', settings, name: 'Hold the totals of sections', reason: `${such}; ${agree} of ${covers.length} add up to the rows below` },
  ];
};

/** Bold, its text in the first column, with amounts. */
function isHead(sheet: Sheet, row: number): boolean {
  const [first, ...others] = filledColumns(sheet, row);
  return first === 0 && sheet.rows.bold(row) && /\p{L}/u.test(cellText(sheet.columns[0].cells[row])) && others.some((at) => /\d/.test(cellText(sheet.columns[at].cells[row])));
}
