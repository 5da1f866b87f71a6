import Xlsx from 'exceljs';
import { PassThrough } from 'node:stream';
import { once } from 'node:events';
import { isErrorCell, type OutRow } from './out-row';
import { isNumeric } from '../../core/sheet/column';
import type { OutColumn } from './out-rows';
import { totalsInWords, type Provenance } from './provenance';
import { Gathered, type Head, type Writer } from './writer';

/** Rows of a sheet (ISO/IEC 29500, SpreadsheetML); columns it takes more than a dataset can have. */
export const mostSheetRows = 1_048_576;
/** Signs of a cell, and of a sheet's name. */
const mostSigns = 32_767;
const mostNameSigns = 31;

/** Comments are kept in memory until the sheet is written: beyond these, error cells are marked by their colour alone. */
const mostComments = 20_000;

/** Of a row, in points. */
const usualHeight = 15;

/** So long, in milliseconds, nothing comes of packing when it is done. */
const packingPause = 8;

/** Columns are as wide as what stands in their first rows, in signs. */
const widest = 48;
const narrowest = 8;

/** A sheet's name without the signs that none may have. */
export const sheetName = (name: string, more = ''): string =>
  `${
    name
      .replace(/[[\]*?/\\:]/g, ' ')
      .replace(/^'+|'+$/g, '')
      .replace(/\s+/g, ' ')
      .trim()
      .slice(0, mostNameSigns - more.length)
      .trim() || 'Dataset'
  }${more}`;

/** How numbers and calendar values are shown: thousands apart, as many decimals as the column has, its unit behind. */
export function numberFormat({ type, digits = 0, unit }: OutColumn): string | undefined {
  const behind = unit ? ` "${unit.replace(/["\\]/g, '')}"` : '';
  if (type === 'integer') return `#,##0${behind}`;
  if (type === 'decimal') return `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}${behind}`;
  // The printed number is kept: 12.5 stands for 12.5 %.
  if (type === 'percent') return `0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}"%"`;
  if (type === 'date') return 'yyyy-mm-dd';
  if (type === 'datetime') return 'yyyy-mm-dd hh:mm:ss';
  if (type === 'time') return 'hh:mm:ss';
  return undefined;
}

/** Days are counted from here; the year 1900 is taken for a leap year, so that earlier dates stay text. */
const firstDay = Date.UTC(1900, 2, 1);
const dayZero = Date.UTC(1899, 11, 30);
const msOfDay = 86_400_000;

/** Calendar values as the number of days that a workbook keeps, divided once: 11:24 is 0.475, and no second before it. */
export function cellValue(cell: Exclude<OutRow['cells'][number], object>, type: OutColumn['type']): Xlsx.CellValue {
  if (cell === null || typeof cell === 'number' || typeof cell === 'boolean') return cell;
  if (type === 'date' || type === 'datetime') {
    const at = Date.parse(`${cell.replace(' ', 'T')}${type === 'date' ? 'T00:00:00' : ''}Z`);
    return Number.isNaN(at) || at < firstDay ? cell : (at - dayZero) / msOfDay;
  }
  if (type === 'time') return (Date.parse(`1970-01-01T${cell}Z`) || 0) / msOfDay;
  return cell.length > mostSigns ? `${cell.slice(0, mostSigns - 1)}…` : cell;
}

/** A workbook with typed cells, and a second sheet that says what they were made of. Cut into sheets at the rows that one can hold. */
export class XlsxWriter implements Writer {
  private readonly bytes = new Gathered();
  private readonly stream = new PassThrough();
  private readonly book: Xlsx.stream.xlsx.WorkbookWriter;
  private sheet: Xlsx.Worksheet | undefined;
  private sheets = 0;
  private inSheet = 0;
  private comments = 0;
  private cut = 0;

  constructor(private readonly head: Head) {
    this.stream.on('data', (bytes: Buffer) => this.bytes.add(bytes));
    this.book = new Xlsx.stream.xlsx.WorkbookWriter({ stream: this.stream, useStyles: true, useSharedStrings: false });
    this.book.creator = 'Able Sieve';
    this.book.created = new Date(head.provenance.publishedAt);
  }

  async rows(piece: readonly OutRow[]): Promise<Uint8Array> {
    for (const row of piece) {
      if (!this.sheet || this.inSheet === mostSheetRows) this.begin(piece);
      this.add(row);
    }
    await this.packed();
    return this.bytes.take();
  }

  async end(): Promise<Uint8Array> {
    if (!this.sheet) this.begin([]);
    this.finishSheet();
    this.addProvenance();
    const ended = once(this.stream, 'end');
    await this.book.commit();
    await ended;
    return this.bytes.take();
  }

  /** Packing is done beside: waits until nothing more comes of it, so that rows do not pile up. */
  private async packed(): Promise<void> {
    for (let before = -1; before < this.bytes.size;) {
      before = this.bytes.size;
      await new Promise((resolve) => setTimeout(resolve, packingPause));
    }
  }

  private begin(piece: readonly OutRow[]): void {
    this.finishSheet();
    const { columns, provenance } = this.head;
    const many = this.head.rows + 1 > mostSheetRows;
    this.sheets++;
    this.sheet = this.book.addWorksheet(sheetName(provenance.dataset, many ? ` ${this.sheets}` : ''), {
      views: [{ state: 'frozen', ySplit: 1 }],
    });
    this.sheet.columns = columns.map((column, i) => {
      const format = numberFormat(column);
      return {
        header: column.heading,
        width: widthOf(column, piece, i),
        style: {
          ...(format ? { numFmt: format } : {}),
          alignment: { vertical: 'top', ...(isNumeric(column.type) ? { horizontal: 'right' as const } : {}) },
        },
      };
    });
    const heading = this.sheet.getRow(1);
    heading.font = { bold: true };
    heading.alignment = { wrapText: true, vertical: 'bottom' };
    heading.commit();
    if (columns.length > 0)
      this.sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: 1, column: columns.length } };
    this.inSheet = 1;
  }

  private add({ cells }: OutRow): void {
    const { columns } = this.head;
    const row = this.sheet!.addRow(
      cells.map((cell, i) => (cell === null || isErrorCell(cell) ? null : this.typed(cell, columns[i].type))),
    );
    cells.forEach((cell, i) => {
      if (cell === null || !isErrorCell(cell)) return;
      const own = row.getCell(i + 1);
      own.fill = { type: 'pattern', pattern: 'solid', fgColor: { argb: 'FFF6E3C5' } };
      if (this.comments++ < mostComments) own.note = `“${cell.text}” is printed here: expected ${cell.expected}.`;
    });
    // A row without a value is written only if it has a height.
    if (cells.some((cell) => cell !== null && isErrorCell(cell))) row.height = usualHeight;
    row.commit();
    this.inSheet++;
  }

  private typed(cell: string | number | boolean, type: OutColumn['type']): Xlsx.CellValue {
    if (typeof cell === 'string' && cell.length > mostSigns) this.cut++;
    return cellValue(cell, type);
  }

  private finishSheet(): void {
    this.sheet?.commit();
    this.sheet = undefined;
  }

  private addProvenance(): void {
    const sheet = this.book.addWorksheet('Where it comes from');
    sheet.columns = [
      { width: 34 },
      { width: 16 },
      { width: 16 },
      { width: 12 },
      { width: 12 },
      { width: 20 },
      { width: 66 },
    ];
    for (const line of provenanceLines(this.head.provenance, {
      sheets: this.sheets,
      cut: this.cut,
      uncommented: Math.max(0, this.comments - mostComments),
    })) {
      const row = sheet.addRow(line.cells);
      if (line.bold) row.font = { bold: true };
      row.commit();
    }
    sheet.commit();
  }
}

function widthOf({ heading, type, unit = '' }: OutColumn, piece: readonly OutRow[], at: number): number {
  const texts = piece
    .slice(0, 200)
    .map(({ cells }) =>
      cells[at] === null || isErrorCell(cells[at])
        ? 0
        : String(cells[at]).length + (isNumeric(type) ? 2 + unit.length : 0),
    );
  return Math.min(widest, Math.max(narrowest, ...texts, ...heading.split(/\s+/).map((word) => word.length + 2)) + 2);
}

/** What the dataset was made of, as lines of a sheet. */
export function provenanceLines(
  of: Provenance,
  { sheets, cut, uncommented }: { sheets: number; cut: number; uncommented: number },
): { cells: (string | number | null)[]; bold?: boolean }[] {
  const line = (...cells: (string | number | null)[]) => ({ cells });
  const title = (...cells: string[]) => ({ cells, bold: true });
  return [
    title(of.dataset),
    line('Published', of.publishedAt),
    line('Version of the pipeline', of.version),
    line('Rows', of.rows),
    line(
      'Error cells',
      of.errorCells,
      of.errorCells === 0 ? '' : 'They are blank and shaded here; the comment says what is printed.',
    ),
    ...(uncommented > 0
      ? [line('', '', `${uncommented} of them have no comment: they are too many for one workbook.`)]
      : []),
    ...(sheets > 1
      ? [
          line(
            'Sheets',
            sheets,
            `A sheet holds ${mostSheetRows.toLocaleString('en')} rows; the dataset goes on in the next.`,
          ),
        ]
      : []),
    ...(cut > 0 ? [line('Texts that were cut', cut, `A cell holds ${mostSigns.toLocaleString('en')} signs.`)] : []),
    line('Printed totals', totalsInWords(of) || 'none kept'),
    line(),
    title('Report', 'Period', 'Rows', 'Held', 'Stale', 'SHA-256', 'Needs a look'),
    ...of.reports.map(({ path, period, rows, held, stale, sha256, problems }) =>
      line(path, period, rows, held, stale ? 'yes' : '', sha256, problems.join('\n').slice(0, mostSigns)),
    ),
    ...(of.totals.length === 0
      ? []
      : [line(), title('Printed total', 'Report', 'Column', 'Printed', 'Its rows give', 'Stands', 'Why')]),
    ...of.totals.map(({ label, report, page, column, printed, computed, outcome, why }) =>
      line(label || 'Total', `${report}, page ${page}`, column, printed, computed, outcome, why),
    ),
  ];
}
