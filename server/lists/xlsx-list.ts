import Xlsx, { type CellValue } from 'exceljs';
import type { List } from '../../core/sheet/list';
import { plainNumber } from '../../core/values/plain-number';
import { listOf, NotAList } from './list-of';

/**
 * The rows of the first sheet of a workbook that holds any, its first row being the names of its columns. Dates become ISO text, numbers
 * stay as exact as they are stored, formulas give the value that was stored with them.
 * @throws NotAList
 */
export async function listFromXlsx(bytes: Uint8Array, name: string): Promise<List> {
  const workbook = new Xlsx.Workbook();
  try {
    await workbook.xlsx.load(Buffer.from(bytes) as unknown as Xlsx.Buffer);
  } catch {
    throw new NotAList(
      `${name} cannot be read as an XLSX workbook. Save it anew, or as CSV in UTF-8, and upload it again.`,
    );
  }
  const sheet = workbook.worksheets.find(({ state, actualRowCount }) => state === 'visible' && actualRowCount > 0);
  if (!sheet)
    throw new NotAList(`${name} is empty. The first row of its first sheet must be the names of its columns.`);
  const lines: string[][] = [];
  const width = sheet.actualColumnCount === 0 ? 0 : sheet.columnCount;
  sheet.eachRow({ includeEmpty: false }, (row) => {
    const texts = Array.from({ length: width }, (_, i) => textOf(row.getCell(i + 1).value));
    if (texts.some((text) => text !== '')) lines.push(texts);
  });
  // Columns at the right that hold nothing at all are formatting only.
  const used = Math.max(0, ...lines.map((line) => line.findLastIndex((text) => text !== '') + 1));
  return listOf(
    name,
    lines.map((line) => line.slice(0, used)),
  );
}

function textOf(value: CellValue): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return plainNumber(value);
  if (typeof value === 'boolean') return String(value);
  if (value instanceof Date) return dateText(value);
  if ('richText' in value) return value.richText.map(({ text }) => text).join('');
  if ('error' in value) return value.error;
  if ('hyperlink' in value) return textOf(value.text);
  if ('result' in value) return textOf(value.result);
  return '';
}

/** Without the time where it is midnight. */
const dateText = (date: Date): string =>
  date
    .toISOString()
    .replace(/\.\d+Z$/, '')
    .replace(/T00:00:00$/, '');
