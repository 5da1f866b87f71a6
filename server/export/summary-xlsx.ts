import Xlsx from 'exceljs';
import {
  shownAs,
  summaryLines,
  summaryTable,
  type shows,
  type SummaryAsked,
  type SummaryGroup,
} from '../../core/dataset/summary';
import { fractionDigits } from '../../core/values/exact';
import type { Publication } from '../store/dataset';
import { sheetName } from './xlsx';

/** Digits behind the point that figures have at most. */
const mostDigits = 4;

/** A summary as a workbook: its figures as numbers, and a second sheet that says of what. */
export async function summaryWorkbook(
  name: string,
  publication: Publication,
  asked: SummaryAsked,
  show: (typeof shows)[number],
  groups: readonly SummaryGroup[],
): Promise<Uint8Array> {
  const table = summaryTable(groups, asked.rows.length, asked.how);
  const figures = shownAs(table, show);
  const several = table.across.length > 1;
  const book = new Xlsx.Workbook();
  book.creator = 'Able Sieve';
  book.created = new Date(publication.publishedAt);
  const sheet = book.addWorksheet('Summary', { views: [{ state: 'frozen', ySplit: 1, xSplit: asked.rows.length }] });
  const label = (keys: readonly (string | null)[]) => keys.map((key) => key ?? '(blank)').join(', ');
  sheet.addRow([
    ...asked.rows.map(({ column, by }) => (by ? `${column} by ${by}` : column)),
    ...(table.across.length === 1 && table.across[0].length === 0 ? [asked.value ?? 'rows'] : table.across.map(label)),
    ...(several ? ['all'] : []),
  ]).font = { bold: true };
  // Rows under a line that sums them up can be folded away.
  for (const { keys, figures: own, ofRow } of summaryLines(groups, asked.rows.length, asked.how, show)) {
    const row = sheet.addRow([
      ...keys.map((key) => key ?? '(blank)'),
      ...Array<string>(asked.rows.length - keys.length).fill(''),
      ...own.map((figure) => figure ?? null),
      ...(several ? [ofRow ?? null] : []),
    ]);
    row.outlineLevel = keys.length - 1;
    if (keys.length < asked.rows.length) row.font = { bold: true };
  }
  sheet.properties.outlineProperties = { summaryBelow: false, summaryRight: false };
  if (show === 'values')
    sheet.addRow([
      ...asked.rows.map((_, i) => (i === 0 ? 'all' : '')),
      ...table.ofColumns.map((figure) => figure ?? null),
      ...(several ? [table.all ?? null] : []),
    ]).font = { bold: true };
  const digits = Math.min(
    mostDigits,
    figures
      .flat()
      .reduce<number>((most, figure) => (figure === undefined ? most : Math.max(most, fractionDigits(figure))), 0),
  );
  const format = `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}${show === 'share of all' || show === 'share of its row' ? '" %"' : ''}`;
  sheet.columns.forEach((column, i) => {
    column.width = i < asked.rows.length ? 28 : 16;
    if (i >= asked.rows.length) column.numFmt = format;
  });
  const about = book.addWorksheet(sheetName('Where it comes from'));
  about.columns = [{ width: 24 }, { width: 60 }];
  about.addRows([
    ['Dataset', name],
    ['Published', publication.publishedAt],
    ['Version of the pipeline', publication.version],
    ['Worked out', `${asked.how}${asked.value === undefined ? '' : ` of ${asked.value}`}, shown as ${show}`],
    ['Rows', asked.where.length === 0 ? 'all' : `those where ${asked.where.join(' and ')}`],
  ]);
  return new Uint8Array(await book.xlsx.writeBuffer());
}
