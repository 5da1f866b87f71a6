import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { around, plain, textSheet, wordsBehind } from '../testing/sheets';
import { dateOfDay, weekdayNamed } from '../values/date';
import { locales } from '../values/locale';
import { dateFromParts } from './date-from-parts';

const run = (rows: (readonly [string | null, string | null])[], settings: Record<string, unknown> = {}) =>
  dateFromParts.run(
    textSheet([['Whole', 'Part'], ...rows]),
    v.parse(dateFromParts.settings, { whole: 'Whole', part: 'Part', ...settings }),
    around(),
  );
const made = (whole: string, part: string, settings: Record<string, unknown> = {}) =>
  plain(run([[whole, part]], settings).sheet)[1][0];

describe('a date from two places', () => {
  it('is the weekday in the week that ends on a date, begins on it, or holds it', () => {
    // 14 June 2025 was a Saturday.
    expect(['Sat', 'Sun', 'Tuesday', 'fr'].map((day) => made('14 June 2025', day))).toEqual([
      '2025-06-14',
      '2025-06-08',
      '2025-06-10',
      '2025-06-13',
    ]);
    expect(['Sat', 'Sun'].map((day) => made('2025-06-14', day, { week: 'begins on that date' }))).toEqual([
      '2025-06-14',
      '2025-06-15',
    ]);
    expect(
      ['Mon', 'Sun'].map((day) => made('2025-06-14', day, { week: 'is the week of that date, from Monday' })),
    ).toEqual(['2025-06-09', '2025-06-15']);
    expect(['Mon', 'Sun'].map((day) => made('2025-W24', day))).toEqual(['2025-06-09', '2025-06-15']);
    // Over the end of a year.
    expect(made('3 January 2026', 'Wed')).toBe('2025-12-31');
  });

  it('reads weekdays and months as the place prints them', () => {
    expect(made('14.06.2025', 'Di', { locale: 'de-DE' })).toBe('2025-06-10');
    expect(made('14.06.2025', 'Mittwoch', { locale: 'de-DE' })).toBe('2025-06-11');
    expect(made('2025', 'März', { of: 'a year and a month', locale: 'de-DE' })).toBe('2025-03');
  });

  it('is the day of a month, and none that the month has not', () => {
    expect([
      made('2025-06', '3', { of: 'a month and a day' }),
      made('2024-02', '29', { of: 'a month and a day' }),
    ]).toEqual(['2025-06-03', '2024-02-29']);
    expect([
      made('June 2025', '3', { of: 'a month and a day' }),
      made('Juni 2025', '30', { of: 'a month and a day', locale: 'de-DE' }),
      made('Week 24, 2025', 'Tue'),
    ]).toEqual(['2025-06-03', '2025-06-30', '2025-06-10']);
    expect(made('Q2 2025', '3', { of: 'a month and a day' })).toMatchObject({ expected: 'a month, and a day of it' });
    expect(made('2025-02', '29', { of: 'a month and a day' })).toEqual({
      text: '2025-02 29',
      expected: 'a day of 2025-02',
    });
  });

  it('is a day with its month in the year that is told, or in the nearest to what is told', () => {
    const yearless = { of: 'a year and a date without one' };
    expect([
      made('2025', '1 Jun', yearless),
      made('June 2025', '3 June', yearless),
      made('2025-06', 'Jun 30', yearless),
      made('2025', '01/06', yearless),
    ]).toEqual(['2025-06-01', '2025-06-03', '2025-06-30', '2025-06-01']);
    expect([
      made('2025', '1.6.', { ...yearless, locale: 'de-DE' }),
      made('2025', '3. März', { ...yearless, locale: 'de-DE' }),
      made('2025', '06/01', { ...yearless, locale: 'en-US' }),
    ]).toEqual(['2025-06-01', '2025-03-03', '2025-06-01']);
    // Over the end of a year.
    expect([
      made('3 January 2026', '30 Dec', yearless),
      made('2025-12', '2 Jan', yearless),
      made('2025', '30 Dec', yearless),
    ]).toEqual(['2025-12-30', '2026-01-02', '2025-12-30']);
    expect([
      made('2025', '30 Feb', yearless),
      made('June', '3 June', yearless),
      made('2025', 'June', yearless),
    ]).toEqual([
      { text: '2025 30 Feb', expected: 'a year, or a date of it, and a day with its month' },
      { text: 'June 3 June', expected: 'a year, or a date of it, and a day with its month' },
      { text: '2025 June', expected: 'a year, or a date of it, and a day with its month' },
    ]);
  });

  it('is a month or a quarter of a calendar or a fiscal year', () => {
    const month = { of: 'a year and a month' };
    const quarter = { of: 'a year and a quarter' };
    expect([
      made('2025', 'June', month),
      made('FY 2025', 'Oct', { ...month, fiscalStart: 4 }),
      made('FY 2025', 'Jan', { ...month, fiscalStart: 4 }),
    ]).toEqual(['2025-06', '2024-10', '2025-01']);
    expect([
      made('2025', 'Oct', { ...month, fiscalStart: 4, called: 'in which it begins' }),
      made('2025', 'Jan', { ...month, fiscalStart: 4, called: 'in which it begins' }),
    ]).toEqual(['2025-10', '2026-01']);
    expect([made('2025', 'Q2', quarter), made('2025', '2nd quarter', quarter)]).toEqual(['2025-Q2', '2025-Q2']);
    // From April on: the fourth quarter is January to March; from February on it is none of the calendar.
    expect([
      made('2025', 'Q1', { ...quarter, fiscalStart: 4 }),
      made('2025', 'Q4', { ...quarter, fiscalStart: 4 }),
    ]).toEqual(['2024-Q2', '2025-Q1']);
    expect(made('2025', 'Q4', { ...quarter, fiscalStart: 2 })).toBe('2024-11/2025-01');
  });

  it('is a misfit where the whole does not say which week, month or year is meant, never the first of them', () => {
    const misfit = (whole: string, part: string, settings: Record<string, unknown>) =>
      typeof made(whole, part, settings) === 'object';
    expect([
      misfit('2025-06', 'Mon', {}),
      misfit('2025', 'Mon', {}),
      misfit('2025', '3', { of: 'a month and a day' }),
      misfit('2025-Q2', '3', { of: 'a month and a day' }),
      misfit('2021 to 2025', 'June', { of: 'a year and a month' }),
    ]).toEqual([true, true, true, true, true]);
  });

  it('takes numbers of a date in the order of the place, and a fiscal year that says both its years at its word', () => {
    expect([made('06/10/2025', 'Tue', { locale: 'en-US' }), made('06/10/2025', 'Mon')]).toEqual([
      '2025-06-10',
      '2025-10-06',
    ]);
    const fiscal = { of: 'a year and a month', fiscalStart: 4 };
    expect([
      made('2024/25', 'Oct', fiscal),
      made('2024-2025', 'Jan', fiscal),
      made('2024/25', 'Jan', { ...fiscal, called: 'in which it begins' }),
    ]).toEqual(['2024-10', '2025-01', '2025-01']);
  });

  it('is traced to both places; what does not fit is a misfit with its reason, and a blank stays one', () => {
    const result = run([
      ['14 June 2025', 'Tue'],
      ['14 June 2025', 'total'],
      [null, 'Tue'],
    ]);
    expect(wordsBehind(result.sheet, 'Date', 0)).toEqual(['r1 1:0', 'r1 1:1']);
    expect(plain(result.sheet).slice(2)).toEqual([
      [{ text: '14 June 2025 total', expected: 'a weekday such as tuesday' }],
      [null],
    ]);
    expect(result.problems).toMatchObject([{ kind: 'misfit', column: 'Date', came: '“14 June 2025 total”' }]);
    expect(result.leftOut!.map(({ name }) => name)).toEqual(['Whole', 'Part']);
    expect(plain(run([['14 June 2025', 'Tue']], { keep: true }).sheet)[0]).toEqual(['Whole', 'Date', 'Part']);
  });

  it('always is a day of that week with that name, whatever the week and the language', () => {
    const names = Object.keys(locales) as (keyof typeof locales)[];
    fc.assert(
      fc.property(
        fc.integer({ min: -20_000, max: 40_000 }),
        fc.constantFrom(...names),
        fc.integer({ min: 0, max: 6 }),
        (end, name, day) => {
          const { weekdays } = locales[name];
          expect(weekdayNamed(weekdays[day], locales[name])).toBe(day + 1);
          const date = made(dateOfDay(end), weekdays[day], { locale: name }) as string;
          const at = Array.from({ length: 7 }, (_, back) => dateOfDay(end - back)).indexOf(date);
          expect(at).toBeGreaterThanOrEqual(0);
          expect((((end - at + 3) % 7) + 7) % 7).toBe(day);
        },
      ),
    );
  });
});
