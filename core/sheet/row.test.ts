import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { append } from '../pipeline/append';
import { textSheet, wordsBehind } from '../testing/sheets';
import { Origins } from './origin';
import { RowBook, rowSpans, Rows, type RowMark } from './row';

const mark = (more: Partial<RowMark> = {}): RowMark => ({
  report: 'r1',
  table: 'p1t1',
  page: 1,
  role: 'body',
  indent: 0,
  bold: false,
  shaded: false,
  ...more,
});

describe('rows by name', () => {
  it('keep name and marks', () => {
    const marks = fc.record({
      report: fc.constantFrom('r1', 'r2'),
      table: fc.constantFrom('p1t1', 'p2t1'),
      page: fc.nat(400),
      role: fc.constantFrom('heading', 'section', 'body', 'subtotal', 'total', 'note'),
      indent: fc.nat(300),
      bold: fc.boolean(),
      shaded: fc.boolean(),
      spaced: fc.boolean(),
      ruled: fc.boolean(),
    }) as fc.Arbitrary<RowMark>;
    fc.assert(
      fc.property(fc.array(marks, { maxLength: 200 }), (all) => {
        const book = new RowBook();
        const rows = new Rows(
          book,
          Int32Array.from(all, (each, n) => book.add(each, n)),
        );
        expect(rows.map(rows.mark)).toEqual(all);
        expect(rows.map(rows.id)).toEqual(all.map(({ report, table }, ordinal) => ({ report, table, ordinal })));
      }),
    );
  });

  it('that became one know all of them, and bear the name of the first', () => {
    const book = new RowBook();
    const rows = new Rows(
      book,
      Int32Array.from([0, 1, 2, 3], (n) => book.add(mark({ page: n }), n)),
    );
    const folded = rows.merged([-1, -1, 1, 1]).at([0, 1]);
    expect(folded.map(folded.id).map(({ ordinal }) => ordinal)).toEqual([0, 1]);
    expect(folded.sources(1).map(({ ordinal }) => ordinal)).toEqual([1, 2, 3]);
    expect([folded.page(1), rows.sources(1)]).toEqual([1, [rows.id(1)]]);
  });

  it('hold over reports: names, sources and words are the same in the book of all', () => {
    const table = (report: string) =>
      textSheet(
        [
          ['Item', 'Boxes'],
          ['Hake', '3'],
          ['Sole', '5'],
        ],
        [{ report }, { report, page: 2 }],
      );
    const folded = (report: string) => ({ ...table(report), rows: table(report).rows.merged([-1, 0]) });
    const { sheet } = append([folded('r1'), folded('r2'), table('r3')]);
    expect(sheet.rows.map(sheet.rows.report)).toEqual(['r1', 'r1', 'r2', 'r2', 'r3', 'r3']);
    expect(sheet.rows.sources(2)).toEqual([
      { report: 'r2', table: 'p1t1', ordinal: 0 },
      { report: 'r2', table: 'p1t1', ordinal: 1 },
    ]);
    expect(sheet.rows.page(5)).toBe(2);
    expect(wordsBehind(sheet, 'Boxes', 5)).toEqual(wordsBehind(table('r3'), 'Boxes', 1));
  });

  it('are told as spans of the tables they were taken from', () => {
    const book = new RowBook();
    const numbers = [3, 4, 5, 8, 0].map((ordinal) => book.add(mark(), ordinal));
    numbers.push(book.add(mark({ table: 'p2t1' }), 1));
    expect(rowSpans(book, numbers)).toEqual([
      { report: 'r1', table: 'p1t1', from: 3, to: 5 },
      { report: 'r1', table: 'p1t1', from: 8, to: 8 },
      { report: 'r1', table: 'p1t1', from: 0, to: 0 },
      { report: 'r1', table: 'p2t1', from: 1, to: 1 },
    ]);
  });
});

describe('word sets of several reports as one', () => {
  it('keep theirs, and take new ones over all', () => {
    const [a, b] = [Origins.empty(), Origins.empty()];
    const [one, two] = [a.intern('r1', 1, [4, 5]), b.intern('r2', 3, [7, 9])];
    const { origins, starts } = Origins.joined([a, b]);
    expect(origins.places(starts[1] + two)).toEqual([{ report: 'r2', page: 3, words: [7, 9] }]);
    const both = origins.union([starts[0] + one, starts[1] + two]);
    expect(origins.places(both)).toEqual([
      { report: 'r1', page: 1, words: [4, 5] },
      { report: 'r2', page: 3, words: [7, 9] },
    ]);
    expect(origins.places(origins.intern('r1', 2, [1]))).toEqual([{ report: 'r1', page: 2, words: [1] }]);
  });
});
