import { of } from 'rxjs';
import { rangesAsText } from './grid-copy';
import { GridSelection } from './grid-selection';
import { measureSentence } from './measure-sentence';
import type { GridSource } from './sheet-grid';

const selection = (rows = 5, columns = 4) => new GridSelection(() => ({ rows, columns }));

describe('what is selected in a grid', () => {
  it('is one cell, a range to another, or several beside each other', () => {
    const grid = selection();
    grid.cell({ row: 1, column: 1 });
    expect([grid.ranges(), grid.several()]).toEqual([[{ rows: [1, 1], columns: [1, 1] }], false]);
    grid.cell({ row: 3, column: 0 }, 'reaching');
    expect([grid.ranges(), grid.several()]).toEqual([[{ rows: [1, 3], columns: [0, 1] }], true]);
    grid.cell({ row: 4, column: 3 }, 'beside');
    expect(grid.ranges()).toHaveLength(2);
    expect([grid.has(2, 1), grid.has(4, 3), grid.has(4, 2)]).toEqual([true, true, false]);
    // Reaching on keeps the end from which it began.
    grid.cell({ row: 0, column: 3 }, 'reaching');
    expect(grid.ranges()[1]).toEqual({ rows: [0, 4], columns: [3, 3] });
  });

  it('is whole columns or whole rows, which are known as such', () => {
    const grid = selection();
    grid.column(1);
    grid.column(2, 'reaching');
    grid.column(0, 'beside');
    expect(grid.columns()).toEqual([0, 1, 2]);
    grid.row(2);
    expect([grid.ranges(), grid.columns()]).toEqual([[{ rows: [2, 2], columns: [0, 3] }], []]);
    grid.row(4, 'reaching');
    expect(grid.ranges()).toEqual([{ rows: [2, 4], columns: [0, 3] }]);
    grid.all();
    expect(grid.columns()).toEqual([0, 1, 2, 3]);
    grid.clear();
    expect([grid.several(), grid.columns()]).toEqual([false, []]);
  });

  it('of a grid without rows or columns is nothing', () => {
    const grid = selection(0, 3);
    grid.column(1);
    grid.all();
    expect([grid.ranges(), grid.columns()]).toEqual([[], []]);
  });
});

describe('selected cells on the clipboard', () => {
  const cells = Array.from({ length: 2500 }, (_, row) => [`a${row}`, row === 1 ? 'two\tparts\nhere' : row, { text: 'n/k', expected: 'a number' }, null]);
  const asked: [number, number][] = [];
  const source: GridSource = {
    rows: cells.length,
    columns: ['A', 'B\tb', 'C', 'D'].map((name) => ({ name, type: 'text' })),
    fetch: (start, count) => (asked.push([start, count]), of(cells.slice(start, start + count).map((each) => ({ label: '', cells: each })))),
  };

  it('are lines of values parted by tabs, a misfit with its text, with headings where wanted', async () => {
    const { text, rows, more } = await rangesAsText(source, [{ rows: [0, 1], columns: [0, 2] }], true);
    expect(text).toBe('A\tB b\tC\na0\t0\tn/k\na1\ttwo parts here\tn/k');
    expect([rows, more]).toEqual([2, false]);
  });

  it('leave what lies between two ranges blank, and ask only for the windows they are in', async () => {
    asked.length = 0;
    const { text } = await rangesAsText(source, [{ rows: [5, 5], columns: [0, 0] }, { rows: [2400, 2400], columns: [1, 1] }], false);
    expect(text).toBe('a5\t\n\t2400');
    expect(asked).toEqual([[0, 1000], [2000, 500]]);
  });

  it('of a sheet without rows are its headings', async () => {
    const none = { ...source, rows: 0 };
    expect((await rangesAsText(none, [{ rows: [0, -1], columns: [0, 3] }], true)).text).toBe('A\tB b\tC\tD');
  });
});

describe('the line on what cells hold', () => {
  it('says count, sum, mean, least and most, with the unit', () => {
    expect(measureSentence({ cells: 1200, blank: 2, misfits: 1, numbers: 1197, columns: 2, sum: 1234567.5, mean: 1031.3847953, least: -4, most: 99.25, unit: 'kg' })).toBe('1,200 cells, 2 blank, 1 misfit, 1,197 numbers, sum 1,234,567.5 kg over 2 columns, mean 1,031.385 kg, least -4, most 99.25');
  });
  it('says why there is no sum, and of days the first and the last', () => {
    expect(measureSentence({ cells: 2, blank: 0, misfits: 0, numbers: 2, columns: 2 })).toBe('2 cells, 2 numbers, not added: of unlike kinds or units');
    expect(measureSentence({ cells: 1, blank: 0, misfits: 0, numbers: 0, columns: 0, least: '2025-01-01', most: '2025-06-30' })).toBe('1 cell, least 2025-01-01, most 2025-06-30');
  });
});
