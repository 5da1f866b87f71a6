import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { results } from '../../testing/formula-results';
import { dateText, dayOf } from '../calendar';
import { quotedText } from '../print';

const gives = (formula: string) => results(formula)[0];
const day = fc.integer({ min: dayOf(1970, 1, 1), max: dayOf(2069, 12, 31) }).map(dateText);

describe('dates written by a format', () => {
  it('are read again by it, whatever the order of their parts', () => {
    fc.assert(
      fc.property(
        day,
        fc.constantFrom(
          'YYYY-MM-DD',
          'DD.MM.YYYY',
          'MM/DD/YY',
          'DD Mon YYYY',
          'FMMonth FMDD, YYYY',
          'YYYYMMDD',
          'YYYY-DDD',
          'IYYY-"W"IW-ID',
          'Dy DD Mon YY',
          'FMDay, DD.MM.YYYY',
        ),
        (date, format) => {
          expect(gives(`to_date(to_char(date '${date}', ${quotedText(format)}), ${quotedText(format)})`)).toBe(date);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('say what they do not fit, and never another day', () => {
    const read = (text: string, format: string) => gives(`to_date(${quotedText(text)}, ${quotedText(format)})`);
    expect([
      read('31.12.2025', 'DD.MM.YYYY'),
      read('31-12-2025', 'DD.MM.YYYY'),
      read(' 1. 2. 2025 ', 'DD.MM.YYYY'),
      read('JUNE 9, 2025', 'Month DD, YYYY'),
    ]).toEqual(['2025-12-31', '2025-12-31', '2025-02-01', '2025-06-09']);
    for (const [text, format] of [
      ['31.02.2025', 'DD.MM.YYYY'],
      ['12.31.2025', 'DD.MM.YYYY'],
      ['9.6.25', 'DD.MM.YYYY'],
      ['2025-06-09 x', 'YYYY-MM-DD'],
      ['x2025-06-09', 'YYYY-MM-DD'],
      ['Juno 9, 2025', 'Month DD, YYYY'],
      ['', 'YYYY-MM-DD'],
      ['06-09', 'MM-DD'],
      ['2025-366', 'YYYY-DDD'],
      ['2025-W53-1', 'IYYY-"W"IW-ID'],
    ])
      expect(read(text, format), `${text} by ${format}`).toMatch(/^\? /);
  });

  it('have all their parts', () => {
    const written = (format: string) => gives(`to_char(timestamp '2025-06-09 15:04:05.5', ${quotedText(format)})`);
    expect(
      ['HH24:MI:SS', 'HH12:MI AM', 'FMDay', 'Dy', 'Q', 'DDD', 'IW', 'CC', '"W"IW', 'MON yyyy', 'YYY'].map(written),
    ).toEqual(['15:04:05', '03:04 PM', 'Monday', 'Mon', '2', '160', '24', '21', 'W24', 'JUN 2025', '025']);
  });
});

describe('numbers written by a format', () => {
  it('are read again by it, rounded to its digits', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -99_999_999, max: 99_999_999 }),
        fc.constantFrom(
          'FM999,999,990.00',
          '999,999,999.99',
          'FMS999999999.00',
          '999999999.99MI',
          'FM000000000.00',
          '999999999.99PR',
          'SG999999990.00',
        ),
        (cents, format) => {
          const number = cents / 100;
          expect(
            gives(
              `to_number(to_char(${number < 0 ? `(${number})` : number}, ${quotedText(format)}), ${quotedText(format)})`,
            ),
          ).toBe(number + 0);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('are never cut: one that is too large is marked in every digit', () => {
    expect(gives("to_char(123456, 'FM9,999.99')")).toBe('#,###.##');
    expect(gives("to_char(-1000, '999')")).toBe('-###');
    expect(gives("to_char(999.5, 'FM999')")).toBe('###');
  });

  it('have their signs where the format has them, and texts in double quotes', () => {
    const written = (number: string, format: string) => gives(`to_char(${number}, ${quotedText(format)})`);
    expect(
      ['S9.99', 'FMS9.00', 'FM9.99MI', 'FM9.99PR', 'FMSG9.0', 'FM9.00" kg"', 'FM9" kg"S', '9.99'].map((format) =>
        written('-1.5', format),
      ),
    ).toEqual(['-1.50', '-1.50', '1.5-', '<1.5>', '-1.5', '-1.50 kg', '2- kg', '-1.50']);
    expect(
      ['FM999.99', 'FM999.00', 'FMS999.99', 'FMS999.00', 'FM990.00', '999'].map((format) => written('0', format)),
    ).toEqual(['0.', '.00', '+0.', '+.00', '0.00', '   0']);
  });

  it('that do not fit are refused, and never read as another number', () => {
    const read = (text: string, format = 'FM999,990.00') =>
      gives(`to_number(${quotedText(text)}, ${quotedText(format)})`);
    expect([
      read('1,234.5'),
      read('-12'),
      read(' 7 '),
      read('.5'),
      read('$12', '"$"99'),
      read('<5>', '99PR'),
      read('5-', '99MI'),
    ]).toEqual([1234.5, -12, 7, 0.5, 12, -5, -5]);
    for (const text of ['1.234,5', '12a', 'n/a', '', '-', '1234567', '0.123', '1 234', '--5', '5-'])
      expect(read(text), text).toMatch(/^\? /);
    for (const format of [
      '',
      'x',
      '9.9.9',
      '9EEEE',
      'RN',
      '9TH',
      '9V9',
      '.99',
      '99.',
      '9S9',
      'S9MI',
      'PR99',
      ',999',
      '9.9,9',
      '9FM9',
    ])
      expect(read('1', format), format).toMatch(/^\? /);
  });
});
