import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exactSum } from '../values/exact';
import {
  conditionsOf,
  linesInSight,
  merged,
  plus,
  shownAs,
  summaryLines,
  summaryTable,
  valueOf,
  type SummaryGroup,
} from './summary';

const group = (keys: (string | null)[], ...numbers: number[]): SummaryGroup => ({
  keys,
  rows: numbers.length + 1,
  numbers: numbers.length,
  sum: numbers.length === 0 ? null : String(exactSum(numbers)),
  least: numbers.length === 0 ? null : String(Math.min(...numbers)),
  most: numbers.length === 0 ? null : String(Math.max(...numbers)),
});

describe('decimals as they are written', () => {
  it('add up exactly, whatever their signs and digits', () => {
    expect([
      plus('0.1', '0.2'),
      plus('-0.05', '0.05'),
      plus('123456789012345678.9', '0.01'),
      plus('-5', '3.5'),
      plus('0.004', '-1'),
    ]).toEqual(['0.3', '0', '123456789012345678.91', '-1.5', '-0.996']);
    const decimal = fc
      .tuple(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 0, max: 4 }))
      .map(([n, digits]) => n / 10 ** digits);
    fc.assert(
      fc.property(fc.array(decimal, { minLength: 1, maxLength: 12 }), (numbers) => {
        // Zero has no sign here.
        expect(Number(numbers.map(String).reduce((a, b) => plus(a, b))) + 0).toBe(exactSum(numbers) + 0);
      }),
    );
  });
});

describe('a summary', () => {
  const groups = [
    group(['Saltby', '24'], 3, 5),
    group(['Fairlead', '24'], 2.5),
    group(['Saltby', '3'], 10),
    group([null, '24']),
  ];
  const table = summaryTable(groups, 1, 'sum');

  it('has keys in their order, figures where they meet, and what all together are', () => {
    expect([table.down, table.across]).toEqual([
      [['Fairlead'], ['Saltby'], [null]],
      [['3'], ['24']],
    ]);
    expect(table.figures).toEqual([
      [undefined, 2.5],
      [10, 8],
      [undefined, undefined],
    ]);
    expect([table.ofRows, table.ofColumns, table.all]).toEqual([[2.5, 18, undefined], [10, 10.5], 20.5]);
    expect(summaryTable(groups, 1, 'mean').ofRows).toEqual([2.5, 6, undefined]);
    expect(summaryTable(groups, 1, 'count').ofColumns).toEqual([2, 6]);
    expect([summaryTable(groups, 2, 'most').all, summaryTable(groups, 2, 'least').all]).toEqual([10, 2.5]);
  });

  it('shows shares, and what is more than in the one before', () => {
    expect(shownAs(table, 'share of its row')).toEqual([
      [undefined, 100],
      [expect.closeTo(55.5556, 3), expect.closeTo(44.4444, 3)],
      [undefined, undefined],
    ]);
    expect(
      shownAs(table, 'share of all')
        .flat()
        .reduce<number>((sum, each) => sum + (each ?? 0), 0),
    ).toBeCloseTo(100, 9);
    expect(shownAs(table, 'difference to the one before')).toEqual([
      [undefined, undefined],
      [undefined, -2],
      [undefined, undefined],
    ]);
    expect(shownAs(summaryTable(groups.slice(0, 3), 2, 'sum'), 'difference to the one before')).toEqual([
      [undefined],
      [7.5],
      [-2],
    ]);
  });

  it('is the same whatever pieces its rows came in', () => {
    const row = fc.tuple(
      fc.constantFrom('a', 'b', null),
      fc.constantFrom('1', '2'),
      fc.integer({ min: -500, max: 500 }).map((n) => n / 4),
    );
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 30 }), fc.nat(), (rows, cut) => {
        const one = (all: typeof rows) =>
          merged(
            all.map(([a, b, n]): SummaryGroup => ({
              keys: [a, b],
              rows: 1,
              numbers: 1,
              sum: String(n),
              least: String(n),
              most: String(n),
            })),
          );
        const at = cut % rows.length;
        for (const how of ['sum', 'mean', 'count', 'least', 'most'] as const)
          expect(summaryTable(merged([...one(rows.slice(0, at)), ...one(rows.slice(at))]), 1, how)).toEqual(
            summaryTable(one(rows), 1, how),
          );
        expect(valueOf(one(rows.map(([, , n]) => ['a', '1', n]))[0], 'sum')).toBe(exactSum(rows.map(([, , n]) => n)));
      }),
    );
  });

  describe('by levels', () => {
    const deep = [
      group(['Saltby', 'Cod', '24'], 3, 5),
      group(['Saltby', 'Hake', '24'], 2),
      group(['Saltby', 'Cod', '25'], 10),
      group(['Fairlead', null, '25'], 4),
    ];

    it('has above the rows that share their first keys what they are together', () => {
      expect(summaryLines(deep, 2, 'sum', 'values')).toEqual([
        { keys: ['Fairlead'], figures: [undefined, 4], ofRow: 4 },
        { keys: ['Fairlead', null], figures: [undefined, 4], ofRow: 4 },
        { keys: ['Saltby'], figures: [10, 10], ofRow: 20 },
        { keys: ['Saltby', 'Cod'], figures: [8, 10], ofRow: 18 },
        { keys: ['Saltby', 'Hake'], figures: [2, undefined], ofRow: 2 },
      ]);
      // A mean of a level is that of its rows, not of the means below it.
      expect(summaryLines(deep, 2, 'mean', 'values')[2].figures[0]).toBeCloseTo(10 / 3, 12);
      expect(summaryLines(deep, 2, 'sum', 'share of all').map(({ figures }) => figures[0])).toEqual([
        undefined,
        undefined,
        expect.closeTo(41.6667, 3),
        expect.closeTo(33.3333, 3),
        expect.closeTo(8.3333, 3),
      ]);
    });

    it('shows what is open, and nothing below what is not', () => {
      const lines = summaryLines(deep, 2, 'sum', 'values');
      const shown = (open: string[]) =>
        linesInSight(lines, ([quay]) => open.includes(quay!)).map(({ keys }) => keys.join('/'));
      expect(shown([])).toEqual(['Fairlead', 'Saltby']);
      expect(shown(['Saltby'])).toEqual(['Fairlead', 'Saltby', 'Saltby/Cod', 'Saltby/Hake']);
      const three = summaryLines(deep, 3, 'count', 'values');
      expect(linesInSight(three, (keys) => keys.length === 2).map(({ keys }) => keys.length)).toEqual([1, 1]);
      expect(linesInSight(three, () => true)).toHaveLength(2 + 3 + 4);
    });

    it('adds up: each line is what those right below it are together', () => {
      const row = fc.tuple(
        fc.constantFrom('a', 'b', null),
        fc.constantFrom('x', 'y'),
        fc.constantFrom('1', '2'),
        fc.integer({ min: -500, max: 500 }).map((n) => n / 4),
      );
      fc.assert(
        fc.property(fc.array(row, { minLength: 1, maxLength: 30 }), (rows) => {
          const groups = merged(
            rows.map(([a, b, c, n]): SummaryGroup => ({
              keys: [a, b, c],
              rows: 1,
              numbers: 1,
              sum: String(n),
              least: String(n),
              most: String(n),
            })),
          );
          const lines = summaryLines(groups, 3, 'sum', 'values');
          for (const line of lines.filter(({ keys }) => keys.length < 3)) {
            const below = lines.filter(
              ({ keys }) => keys.length === line.keys.length + 1 && line.keys.every((key, n) => key === keys[n]),
            );
            expect(exactSum(below.map(({ ofRow }) => ofRow!))).toBe(line.ofRow);
          }
        }),
      );
    });
  });

  it('knows the rows behind a key', () => {
    expect(conditionsOf({ column: 'Quay' }, 'Saltby')).toEqual(['Quay = Saltby']);
    expect(conditionsOf({ column: 'Quay' }, 'A|B')).toEqual([String.raw`Quay = A\|B`]);
    expect(conditionsOf({ column: 'Quay' }, null)).toEqual(['Quay is blank']);
    expect(conditionsOf({ column: 'Landed', by: 'month' }, '2024-12')).toEqual([
      'Landed >= 2024-12-01',
      'Landed < 2025-01-01',
    ]);
    expect(conditionsOf({ column: 'Landed', by: 'quarter' }, '2024-Q3')).toEqual([
      'Landed >= 2024-07-01',
      'Landed < 2024-10-01',
    ]);
    expect(conditionsOf({ column: 'Landed', by: 'year' }, '2024')).toEqual([
      'Landed >= 2024-01-01',
      'Landed < 2025-01-01',
    ]);
  });
});
