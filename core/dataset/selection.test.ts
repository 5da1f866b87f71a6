import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  columnsFrom,
  conditionFrom,
  conditionText,
  isEverything,
  misfitOf,
  NoSelection,
  orderFrom,
  orderText,
  tests,
  type Condition,
} from './selection';

const headings = ['Boxes', 'Boxes, whole', 'Price = kg', 'Week', 'Quay is blank'];

describe('conditions as addresses have them', () => {
  it.each<[string, Condition]>([
    ['Boxes >= 10', { column: 'Boxes', test: 'at least', values: ['10'] }],
    ['Boxes>=10', { column: 'Boxes', test: 'at least', values: ['10'] }],
    ['Boxes, whole != 3', { column: 'Boxes, whole', test: 'is not', values: ['3'] }],
    ['Price = kg < 2.5', { column: 'Price = kg', test: 'less than', values: ['2.5'] }],
    ['Week = 24|25', { column: 'Week', test: 'is', values: ['24', '25'] }],
    [String.raw`Week = a\|b|c\\d\e`, { column: 'Week', test: 'is', values: ['a|b', String.raw`c\d\e`] }],
    ['Week ~ 2', { column: 'Week', test: 'contains', values: ['2'] }],
    ['Week is blank', { column: 'Week', test: 'is blank', values: [] }],
    ['Quay is blank is not blank', { column: 'Quay is blank', test: 'is not blank', values: [] }],
    ['Week is an error', { column: 'Week', test: 'is an error', values: [] }],
  ])('%s', (text, condition) => expect(conditionFrom(text, headings)).toEqual(condition));

  it('are refused in a sentence where no column or no sign is meant', () => {
    for (const text of ['Nothing = 1', 'Boxes', 'Boxes like 3', '', 'Nothing is blank'])
      expect(() => conditionFrom(text, headings)).toThrow(NoSelection);
    expect(misfitOf({ column: 'Boxes', test: 'is', values: ['1', '1,000'] }, 'integer')).toMatch(/“1,000” is none/);
    expect(misfitOf({ column: 'Boxes', test: 'contains', values: ['1,'] }, 'integer')).toBeUndefined();
  });

  it('of dates are held against days, or the months and years that they begin with', () => {
    const of = (...values: string[]) => misfitOf({ column: 'Day', test: 'at least', values }, 'date');
    expect([of('2025-03-31'), of('2025-03', '2025')]).toEqual([undefined, undefined]);
    expect(of('2025-03-31', '31.3.2025')).toBe('“Day” holds dates: “31.3.2025” is none. Write it as 2025-03-31.');
    expect(misfitOf({ column: 'Day', test: 'contains', values: ['-03-'] }, 'date')).toBeUndefined();
  });

  it('are what was written, whatever the test and the values', () => {
    const value = fc
      .string({ unit: fc.constantFrom('a', 'B', '7', ' ', '<', '=', '"', 'é', ',', '|', '\\') })
      .map((text) => text.trim());
    fc.assert(
      fc.property(
        fc.constantFrom(...headings),
        fc.constantFrom(...tests),
        fc.array(value, { minLength: 1, maxLength: 3 }),
        (column, test, values) => {
          const condition = { column, test, values: test.endsWith('blank') || test.endsWith('error') ? [] : values };
          // A value that begins as a longer sign does would be read with that.
          if (/^[=<>]/.test(condition.values[0] ?? '')) return;
          expect(conditionFrom(conditionText(condition), headings)).toEqual(condition);
        },
      ),
    );
  });
});

describe('orders as addresses have them', () => {
  it('name headings, also such as have commas in them, from the largest or the least on', () => {
    expect(orderFrom('Boxes, whole desc,Week, Boxes asc', headings)).toEqual([
      { column: 'Boxes, whole', down: true },
      { column: 'Week', down: false },
      { column: 'Boxes', down: false },
    ]);
    expect(orderText(orderFrom('Boxes, whole desc,Week', headings))).toBe('Boxes, whole desc, Week');
    expect(columnsFrom('Week,Boxes', headings)).toEqual(['Week', 'Boxes']);
    expect(isEverything({ where: [], order: orderFrom('', headings) })).toBe(true);
    expect(() => orderFrom('Week down', headings)).toThrow(/“Week down” is no order/);
  });
});
