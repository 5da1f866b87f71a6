import fc from 'fast-check';
import { stringify } from 'csv-stringify/sync';
import { describe, expect, it } from 'vitest';
import { listFromCsv } from './csv-list';
import { NotAList } from './list-of';

const bytes = (text: string) => new TextEncoder().encode(text);
const rows = (text: string) => {
  const { columns, rows: count } = listFromCsv(bytes(text), 'l.csv');
  return [
    columns.map(({ name }) => name),
    ...Array.from({ length: count }, (_, row) => columns.map(({ cells }) => cells[row])),
  ];
};
const refusal = (of: Uint8Array | string) => {
  try {
    listFromCsv(typeof of === 'string' ? bytes(of) : of, 'l.csv');
  } catch (error) {
    expect(error).toBeInstanceOf(NotAList);
    return (error as Error).message;
  }
  throw new Error('It was taken.');
};

describe('a list from a CSV file', () => {
  it.each([
    ['commas', 'Code,Name\nHK1,Hake\n'],
    ['semicolons', 'Code;Name\r\nHK1;Hake\r\n'],
    ['tabs', 'Code\tName\nHK1\tHake'],
    ['bars', 'Code|Name\nHK1|Hake'],
    ['commas, with a byte order mark', '\ufeffCode,Name\nHK1,Hake\n'],
    ['commas, with blank lines', 'Code,Name\n\nHK1,Hake\n\n'],
  ])('is parted by %s', (_, text) =>
    expect(rows(text)).toEqual([
      ['Code', 'Name'],
      ['HK1', 'Hake'],
    ]),
  );

  it('keeps what stands in quotes as it is, marks and line ends too', () => {
    expect(rows('Code,"Name; long, and more"\nHK1,"Hake, ""lantern""\nsmall"\n')).toEqual([
      ['Code', 'Name; long, and more'],
      ['HK1', 'Hake, "lantern"\nsmall'],
    ]);
  });

  it('keeps every text as written: zeros in front, spaces, dates; what is empty is blank', () => {
    expect(rows('A,B,C\n007, x ,\n1.50,2025-06-01,-\n')).toEqual([
      ['A', 'B', 'C'],
      ['007', ' x ', null],
      ['1.50', '2025-06-01', '-'],
    ]);
  });

  it('reads UTF-16 by its mark', () => {
    const text = '\ufeffCode,Name\nHK1,Hëke\n';
    const utf16 = Uint8Array.from(
      [...text].flatMap((letter) => [letter.charCodeAt(0) & 255, letter.charCodeAt(0) >> 8]),
    );
    expect(listFromCsv(utf16, 'l.csv').columns[1].cells).toEqual(['Hëke']);
  });

  it('may have a heading and no rows', () => expect(rows('Code,Name')).toEqual([['Code', 'Name']]));

  it('names the line in which values are missing or too many', () => {
    expect(refusal('A,B\n1,2\n3\n')).toBe(
      'Line 3 of l.csv has another number of values than its first line. Mend it and upload it again.',
    );
    expect(refusal('A,B\n1,2,3\n')).toMatch(/^Line 2 of l\.csv/);
  });

  it('names the line in which a quotation is wrong', () => {
    expect(refusal('A,B\n1,"2\n')).toMatch(/quotation mark is not closed/);
    expect(refusal('A,B\n1,x"2"\n')).toMatch(/^l\.csv cannot be read as CSV from line 2 on/);
  });

  it('needs a name for each column, each once', () => {
    expect(refusal('')).toMatch(/^l\.csv is empty/);
    expect(refusal('A,,C\n1,2,3\n')).toMatch(/^Column 2 of l\.csv has no name/);
    expect(refusal('Code,B,code\n1,2,3\n')).toMatch(/two columns named “code”/);
  });

  it('says that a file of another encoding is not UTF-8, and never shows wrong letters', () => {
    expect(refusal(Uint8Array.from([0x41, 0x0a, 0xe4, 0x0a]))).toBe(
      'l.csv is not written in UTF-8. Save it as CSV in UTF-8 and upload it again.',
    );
  });

  it('is what was written, for any texts and any mark between them', () => {
    const text = fc.string({
      unit: fc.constantFrom('a', 'B', '7', ',', ';', '\t', '|', '"', ' ', '\n', 'é'),
      maxLength: 6,
    });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(text, text, text), { maxLength: 8 }),
        fc.constantFrom(',', ';', '\t', '|'),
        (lines, delimiter) => {
          const written = stringify([['A', 'B', 'C'], ...lines], { delimiter, quoted: true });
          expect(rows(written)).toEqual([
            ['A', 'B', 'C'],
            ...lines.map((line) => line.map((each) => (each === '' ? null : each))),
          ]);
        },
      ),
    );
  });
});
