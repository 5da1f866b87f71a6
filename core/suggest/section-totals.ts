import * as v from 'valibot';
import { cellText } from '../values/cell';
import { filledColumns, type Sheet } from '../sheet/sheet';
import { holdTotals } from '../steps/hold-totals';
import { indentLevels, standsOverIndented } from '../steps/indents';
import { levelsOf, mostLevels } from './section-rows';
import { aroundOf, plural, reportSheet } from './sheets-seen';
import type { Detector, Seen, Suggestion } from './suggestion';

/** So many of the rows that look so must add up what stands under them. */
const mostAdd = 0.9;

/** How rows that head others and say what these come to are known. */
interface HeadedBy {
  readonly says: (heads: number) => string;
  readonly known: string;
  readonly settings: { readonly bold?: true; readonly indented?: true };
  readonly isHead: (sheet: Sheet, row: number) => boolean;
  /** Do they stand at several levels? */
  readonly levels: boolean;
}
const ways: readonly HeadedBy[] = [
  {
    says: (heads) =>
      plural(heads, 'row adds up the rows further in below it', 'rows add up the rows further in below them'),
    known: 'indented rows below',
    settings: { indented: true },
    isHead: standsOverIndented,
    levels: true,
  },
  {
    says: (heads) =>
      plural(heads, 'bold row heads the rows that it adds up', 'bold rows head the rows that they add up'),
    known: 'bold print and amounts',
    settings: { bold: true },
    isHead: ({ rows }, row) => rows.bold(row),
    levels: false,
  },
];

/** Rows that say a section and what it comes to, above its rows: lifted, and held as the totals that they are. */
export const sectionTotals: Detector = (seen) =>
  ways.map((way) => headedBy(way, seen)).find((suggestions) => suggestions.length > 0) ?? [];

function headedBy(
  { says, known, settings: knownBy, isHead, levels }: HeadedBy,
  { reports, locale }: Seen,
): Suggestion[] {
  const seen = reports
    .map((report) => ({ report, sheet: reportSheet(report) }))
    .filter(({ sheet }) => sheet.rows.length > 0);
  const isOne = (sheet: Sheet, row: number) => isHead(sheet, row) && hasAmounts(sheet, row);
  if (seen.length === 0 || !seen.every(({ sheet }) => isOne(sheet, 0))) return [];
  const heads = seen.flatMap(({ sheet }) =>
    sheet.rows
      .map((row) => row)
      .filter((row) => isOne(sheet, row))
      .map((row) => ({ text: cellText(sheet.columns[0].cells[row]), indent: sheet.rows.indent(row) })),
  );
  // Where every row looks so, or one alone, nothing is told by it.
  if (
    heads.length < 2 * seen.length ||
    seen.some(({ sheet }) => sheet.rows.map((row) => isHead(sheet, row)).every(Boolean))
  )
    return [];
  const settings = { wording: [], marked: false, ...knownBy, ...(locale() === 'en-GB' ? {} : { locale: locale() }) };
  const full = v.parse(holdTotals.settings, settings);
  const covers = seen
    .flatMap(({ report, sheet }) => holdTotals.run(sheet, full, aroundOf(report)).held?.covers ?? [])
    .filter(({ rows }) => rows.length > 0);
  const agree = covers.filter(({ differs }) => differs.length === 0).length;
  if (covers.length < heads.length / 2 || agree < mostAdd * covers.length) return [];
  const depth = levels ? indentLevels(heads.map(({ indent }) => indent)).length : 1;
  if (depth > mostLevels) return [];
  const such = `${says(heads.length)}, such as “${heads[0].text}”`;
  return [
    {
      zone: 'eachReport',
      kind: 'lift sections',
      settings: { levels: levelsOf(depth, known), stays: true },
      reason: such,
    },
    {
      zone: 'eachReport',
      kind: 'hold totals',
      settings,
      name: 'Hold the totals of sections',
      reason: `${such}; ${agree} of ${covers.length} add up to the rows below`,
    },
  ];
}

/** A text in the first column, with amounts beside it. */
function hasAmounts(sheet: Sheet, row: number): boolean {
  const [first, ...others] = filledColumns(sheet, row);
  return (
    first === 0 &&
    /\p{L}/u.test(cellText(sheet.columns[0].cells[row])) &&
    others.some((at) => /\d/.test(cellText(sheet.columns[at].cells[row])))
  );
}
