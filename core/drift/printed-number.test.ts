import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { printedNumber } from './printed-number';

const sized = (text: string) => printedNumber(text)?.size;

describe('a number as it is printed', () => {
  it('is told by its digits, however its groups and decimals are marked', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1000, max: 999_999_999 }),
        fc.integer({ min: 0, max: 99 }),
        fc.constantFrom(['.', ','], [',', '.'], [' ', ','], ['’', '.'], ['\u202f', ',']),
        (whole, cents, [group, mark]) => {
          const text = `${String(whole).replace(/\B(?=(\d{3})+$)/g, group)}${mark}${String(cents).padStart(2, '0')}`;
          expect(printedNumber(text)).toEqual({ size: whole + cents / 100, decimals: 2, mark });
        },
      ),
    );
  });

  it('of groups alone is whole, and its mark is sure only where it comes twice', () => {
    expect([
      printedNumber('1,234,567'),
      printedNumber('1.234.567'),
      printedNumber('1,234'),
      printedNumber('1 234 567'),
    ]).toEqual([
      { size: 1_234_567, decimals: 0, mark: '.' },
      { size: 1_234_567, decimals: 0, mark: ',' },
      { size: 1234, decimals: 0 },
      { size: 1_234_567, decimals: 0 },
    ]);
    expect([printedNumber('0,123'), printedNumber('12,5'), printedNumber('12.5'), printedNumber('1.2345')]).toEqual([
      { size: 0.123, decimals: 3, mark: ',' },
      { size: 12.5, decimals: 1, mark: ',' },
      { size: 12.5, decimals: 1, mark: '.', plain: true },
      { size: 1.2345, decimals: 4, mark: '.' },
    ]);
  });

  it('may have a sign, a currency, a unit or a mark of a footnote beside it', () => {
    for (const text of [
      '-1,234.50',
      '(1,234.50)',
      '1,234.50-',
      '−1,234.50',
      '£1,234.50',
      'EUR 1,234.50',
      '1,234.50 kg',
      '1,234.50 €',
      '1,234.50*',
      '1,234.50 %',
      '+ 1,234.50',
      '1,234.50¹',
    ])
      expect(sized(text), text).toBe(1234.5);
  });

  it('is none where other words stand', () => {
    for (const text of [
      '',
      'Saltby',
      'n/a',
      '-',
      'Berth 12',
      'Total 1,234',
      '12:30',
      '2025-06-09',
      'HK1',
      'r2d2',
      '1,234.50 landed here',
      '12 of 14',
    ])
      expect(sized(text), text).toBeUndefined();
  });
});
