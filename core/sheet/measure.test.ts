import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exactSum } from '../values/exact';
import { textSheet } from '../testing/sheets';
import { findCell, soughtFrom } from './find-cell';
import { columnMeasure, measured, stretchesByColumn, type CellRange } from './measure';

const whole = (
  cells: (string | number | null | { text: string; expected: string })[],
  about: { type: 'text' | 'decimal' | 'date' | 'integer'; unit?: string },
) => columnMeasure({ ...about, cells }, [[0, cells.length - 1]]);

describe('what chosen cells hold', () => {
  it('is counted, and numbers are added exactly', () => {
    expect(measured([whole([0.1, 0.2, null, { text: 'n/k', expected: 'a number' }], { type: 'decimal' })])).toEqual({
      cells: 4,
      blank: 1,
      misfits: 1,
      numbers: 2,
      columns: 1,
      sum: 0.3,
      mean: 0.15,
      least: 0.1,
      most: 0.2,
    });
  });

  it('is not added where units or kinds are unlike, but counted', () => {
    const kilos = whole([1, 2], { type: 'decimal', unit: 'kg' });
    expect(measured([kilos, whole([3], { type: 'decimal', unit: 't' })])).toEqual({
      cells: 3,
      blank: 0,
      misfits: 0,
      numbers: 3,
      columns: 2,
    });
    expect(measured([kilos, whole([5], { type: 'integer', unit: 'kg' })])).toMatchObject({ sum: 8, unit: 'kg' });
    // A text beside the numbers does not hinder.
    expect(measured([kilos, whole(['a'], { type: 'text' })])).toMatchObject({ cells: 3, sum: 3 });
  });

  it('has a first and a last day, and no sum', () => {
    expect(measured([whole(['2025-03-01', null, '2024-12-31'], { type: 'date' })])).toEqual({
      cells: 3,
      blank: 1,
      misfits: 0,
      numbers: 0,
      columns: 0,
      least: '2024-12-31',
      most: '2025-03-01',
    });
  });

  it('counts a cell once, however many ranges take it', () => {
    const range = fc.tuple(fc.nat(9), fc.nat(9), fc.nat(3), fc.nat(3)).map(([a, b, c, d]): CellRange => ({
      rows: [Math.min(a, b), Math.max(a, b)],
      columns: [Math.min(c, d), Math.max(c, d)],
    }));
    fc.assert(
      fc.property(fc.array(range, { minLength: 1, maxLength: 5 }), (ranges) => {
        const columns = [0, 1, 2, 3].map((column) =>
          Array.from({ length: 10 }, (_, row) => (row * 7 + column * 3) / 10),
        );
        const taken = columns.flatMap((cells, column) =>
          cells.filter((_, row) =>
            ranges.some(
              ({ rows, columns: own }) => row >= rows[0] && row <= rows[1] && column >= own[0] && column <= own[1],
            ),
          ),
        );
        const { cells, sum } = measured(
          [...stretchesByColumn(ranges)].map(([column, stretches]) =>
            columnMeasure({ type: 'decimal', cells: columns[column] }, stretches),
          ),
        );
        expect([cells, sum]).toEqual([taken.length, exactSum(taken)]);
      }),
    );
  });

  it('is worked out over a million cells', () => {
    const { sum, numbers } = whole(
      Array.from({ length: 1_000_000 }, () => 0.1),
      { type: 'decimal' },
    );
    expect([sum, numbers]).toEqual([100_000, 1_000_000]);
  });
});

describe('a text looked for in a sheet', () => {
  const { columns } = textSheet([
    ['Quay', 'Note'],
    ['Saltby', 'a'],
    ['Fairlead', 'SALT spray'],
    ['Saltby', null],
  ]);
  const next = (text: string, row: number, column: number, back = false) =>
    findCell(columns, soughtFrom(text), { row, column }, back);

  it('is found from a place on, in either direction and round the end, whatever its case', () => {
    expect(next('salt', -1, 0)).toEqual({ count: 3, place: { row: 0, column: 0 } });
    expect(next('salt', 0, 0).place).toEqual({ row: 1, column: 1 });
    expect(next('salt', 2, 0).place).toEqual({ row: 0, column: 0 });
    expect(next('salt', 0, 0, true).place).toEqual({ row: 2, column: 0 });
    expect(next('salt', 2, 0, true).place).toEqual({ row: 1, column: 1 });
    expect(next('hake', 0, 0)).toEqual({ count: 0 });
  });

  it('is a number as it is shown, too', () => {
    const numbers = [{ cells: [8589, 1234.5, '8,589 t'] }];
    const count = (text: string) => findCell(numbers, soughtFrom(text), { row: -1, column: 0 }).count;
    expect([count('8,589.00'), count('8,589'), count('1,234.50'), count('1234.5'), count('7')]).toEqual([
      1, 2, 1, 1, 0,
    ]);
  });
});
