import Xlsx from 'exceljs';
import { describe, expect, it } from 'vitest';
import { listFromFile } from './list-from-file';
import { NotAList } from './list-of';

async function workbook(fill: (book: Xlsx.Workbook) => void): Promise<Uint8Array> {
  const book = new Xlsx.Workbook();
  fill(book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}
const sheetOf = (rows: unknown[][]) => workbook((book) => void book.addWorksheet('Codes').addRows(rows));
const rowsOf = async (bytes: Uint8Array) => {
  const { columns, rows } = await listFromFile(bytes, 'l.xlsx');
  return [
    columns.map(({ name }) => name),
    ...Array.from({ length: rows }, (_, row) => columns.map(({ cells }) => cells[row])),
  ];
};

describe('a list from an XLSX file', () => {
  it('says every value as text: numbers exactly, dates as ISO text, formulas by what was stored with them', async () => {
    const bytes = await sheetOf([
      [' Code ', 'Boxes', 'Landed', 'Open', 'Value'],
      ['007', 1234567.25, new Date(Date.UTC(2025, 5, 9)), true, { formula: '1+1', result: 2 }],
      [
        { richText: [{ text: 'HK' }, { font: { bold: true }, text: '1' }] },
        0.1,
        new Date(Date.UTC(2025, 5, 9, 14, 30)),
        false,
        { error: '#REF!' },
      ],
    ]);
    expect(await rowsOf(bytes)).toEqual([
      ['Code', 'Boxes', 'Landed', 'Open', 'Value'],
      ['007', '1234567.25', '2025-06-09', 'true', '2'],
      ['HK1', '0.1', '2025-06-09T14:30:00', 'false', '#REF!'],
    ]);
  });

  it('is the first visible sheet that holds anything, without blank rows and columns at the end', async () => {
    const bytes = await workbook((book) => {
      book.addWorksheet('Nothing');
      book.addWorksheet('Hidden', { state: 'hidden' }).addRows([['X'], ['1']]);
      const sheet = book.addWorksheet('Codes');
      sheet.addRows([['Code', 'Name'], [], ['HK1', null], ['HK2', 'Hake']]);
      sheet.getCell('F9').style = { font: { bold: true } };
    });
    expect(await rowsOf(bytes)).toEqual([
      ['Code', 'Name'],
      ['HK1', null],
      ['HK2', 'Hake'],
    ]);
  });

  it('says what is wrong with one that is none', async () => {
    const refusal = (bytes: Promise<Uint8Array> | Uint8Array) =>
      Promise.resolve(bytes)
        .then((own) => listFromFile(own, 'l.xlsx'))
        .then(
          () => 'taken',
          (error: Error) => (error instanceof NotAList ? error.message : `other: ${error.message}`),
        );
    expect(await refusal(Uint8Array.from([0x50, 0x4b, 3, 4, 0, 0, 0, 1, 2]))).toBe(
      'l.xlsx cannot be read as an XLSX workbook. Save it anew, or as CSV in UTF-8, and upload it again.',
    );
    expect(await refusal(sheetOf([]))).toMatch(/^l\.xlsx is empty/);
    expect(
      await refusal(
        sheetOf([
          ['A', null, 'C'],
          ['1', '2', '3'],
        ]),
      ),
    ).toMatch(/^Column 2 of l\.xlsx has no name/);
    expect(
      await refusal(
        sheetOf([
          ['Code', 'code'],
          ['1', '2'],
        ]),
      ),
    ).toMatch(/two columns named “code”/);
  });
});
