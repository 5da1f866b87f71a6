import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseDate } from './date';
import { locales, localeNames, type LocaleName } from './locale';
import { parseNumber, type NumberFormat } from './number';
import { parsePeriod } from './period';
import { plainNumber } from './plain-number';

const decimal: NumberFormat = { kind: 'decimal', nil: 'blank' };
const number = (text: string, locale: LocaleName = 'en-GB', format: NumberFormat = decimal) => parseNumber(text, locales[locale], format);

describe('numbers as printed', () => {
  it.each([
    ['1,234.56', 1234.56],
    ['1 234.56', 1234.56],
    ['1\u202f234\u202f567', 1234567],
    ['(56.0)', -56],
    ['−12', -12],
    ['12-', -12],
    ['$ 1,000.50', 1000.5],
    ['48¹', 48],
    ['7.80¹', 7.8],
    ['0.05', 0.05],
    ['123456789012.345', 123456789012.345],
  ])('%s is %d', (text, value) => expect(number(text)).toEqual({ value }));

  it.each([
    ['1.234,56', 1234.56],
    ['1.234', 1234],
    ['0,5', 0.5],
  ])('%s is %d as printed in German', (text, value) => expect(number(text, 'de-DE')).toEqual({ value }));

  it.each(['n/k', '3.57.0', '12,34', '1,2345', '1.2.3', '12 kg', '1,234 567', '½', '1234567890123456'])('%s is a misfit that says what was expected', (text) => {
    expect(number(text)).toEqual({ expected: expect.stringMatching(/^a number like 1,234\.5/) });
  });

  it('takes a dash for blank or for zero, as set, and a blank for blank', () => {
    expect(number('–')).toEqual({ value: null });
    expect(number('–', 'en-GB', { ...decimal, nil: 'zero' })).toEqual({ value: 0 });
    expect(number('')).toEqual({ value: null });
  });

  it('takes no fraction for a whole number, and keeps the printed number of a percentage', () => {
    expect(number('12.5', 'en-GB', { kind: 'integer', nil: 'blank' })).toHaveProperty('expected');
    expect(number('12.0', 'en-GB', { kind: 'integer', nil: 'blank' })).toEqual({ value: 12 });
    expect(number('12.5 %', 'en-GB', { kind: 'percent', nil: 'blank' })).toEqual({ value: 12.5 });
  });

  it('gives back what was printed, in every locale', () => {
    const cents = fc.integer({ min: -1e13, max: 1e13 });
    fc.assert(
      fc.property(cents, fc.constantFrom(...localeNames), fc.boolean(), (units, name, brackets) => {
        const { decimal: point, groups } = locales[name];
        const digits = String(Math.abs(units)).padStart(3, '0');
        const whole = digits.slice(0, -2).replace(/\B(?=(\d{3})+$)/g, groups[0]);
        const plain = `${whole}${point}${digits.slice(-2)}`;
        const text = units < 0 ? (brackets ? `(${plain})` : `-${plain}`) : plain;
        expect(number(text, name)).toEqual({ value: units / 100 });
      }),
    );
  });
});

describe('dates and periods as printed', () => {
  it.each([
    ['14 June 2025', '2025-06-14'],
    ['3rd Sept 2025', '2025-09-03'],
    ['Sat, 14 Jun 2025', '2025-06-14'],
    ['2025-06-14', '2025-06-14'],
    ['03/04/2025', '2025-04-03'],
    ['29 Feb 2024', '2024-02-29'],
    ['1 Jan 70', '1970-01-01'],
    ['June 14, 2025', '2025-06-14'],
  ])('%s is %s', (text, value) => expect(parseDate(text, locales['en-GB'])).toEqual({ value }));

  it('follows the order of the locale and its month names', () => {
    expect(parseDate('03/04/2025', locales['en-US'])).toEqual({ value: '2025-03-04' });
    expect(parseDate('14. März 2025', locales['de-DE'])).toEqual({ value: '2025-03-14' });
  });

  it.each(['n/k', '31 April 2025', '29 Feb 2025', '14/13/2025', '2025', '14 Brumaire 2025'])('%s is a misfit', (text) => {
    expect(parseDate(text, locales['en-GB'])).toEqual({ expected: 'a date like 14 June 2025' });
  });

  it.each([
    ['2025', '2025'],
    ['June 2025', '2025-06'],
    ['Q2 2025', '2025-Q2'],
    ['Week 24, 2025', '2025-W24'],
    ['2020-W53', '2020-W53'],
  ])('%s is the period %s', (text, value) => expect(parsePeriod(text, locales['en-GB'])).toEqual({ value }));

  it.each(['Week 53, 2025', '2025-13', 'Q5 2025', 'soon'])('%s is no period', (text) => expect(parsePeriod(text, locales['en-GB'])).toHaveProperty('expected'));
});

describe('numbers for other programs', () => {
  it('have no exponent and mean the same', () => {
    expect([1e-7, 1.5e21, -2.5e-9, 0, 3339].map(plainNumber)).toEqual(['0.0000001', '1500000000000000000000', '-0.0000000025', '0', '3339']);
    fc.assert(fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (n) => !/e/i.test(plainNumber(n)) && Number(plainNumber(n)) === n + 0));
  });
});
