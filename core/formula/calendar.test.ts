// Against the calendar of the platform, which knows the same days.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addIntervals,
  dateText,
  dayFrom,
  dayOf,
  dayOfYear,
  endsOfPeriod,
  firstDay,
  intervalFrom,
  intervalSize,
  intervalText,
  isoWeek,
  lastDay,
  later,
  lessInterval,
  microsOfDay,
  momentFrom,
  momentText,
  mondayOf,
  timeFrom,
  timeText,
  truncatedTo,
  truncations,
  weekday,
  type Interval,
  type Moment,
} from './calendar';

const day = fc.integer({ min: firstDay, max: lastDay });
const micros = fc.integer({ min: 0, max: microsOfDay - 1 });
const moment: fc.Arbitrary<Moment> = fc.record({ day, micros });
const interval: fc.Arbitrary<Interval> = fc.record({
  months: fc.integer({ min: -40, max: 40 }),
  days: fc.integer({ min: -400, max: 400 }),
  micros: fc.integer({ min: -3 * microsOfDay, max: 3 * microsOfDay }),
});
const platform = (number: number) => new Date(number * 86_400_000);

describe('a day', () => {
  it('is the day of the platform by number, text, weekday and place in its year', () => {
    fc.assert(
      fc.property(day, (number) => {
        const same = platform(number);
        const text = same.toISOString().slice(0, 10);
        expect(dateText(number)).toBe(text);
        expect(dayFrom(text)).toBe(number);
        expect(weekday(number)).toBe(same.getUTCDay() || 7);
        const first = new Date(same);
        first.setUTCMonth(0, 1);
        expect(dayOfYear(number)).toBe((same.getTime() - first.getTime()) / 86_400_000 + 1);
      }),
    );
  });

  it('that the calendar lacks is refused', () => {
    for (const [year, month, date] of [
      [2025, 2, 29],
      [1900, 2, 29],
      [2025, 4, 31],
      [2025, 13, 1],
      [2025, 0, 1],
      [2025, 1, 0],
      [0, 1, 1],
      [10_000, 1, 1],
    ])
      expect(() => dayOf(year, month, date)).toThrow(/^no day /);
    expect(dateText(dayOf(2000, 2, 29))).toBe('2000-02-29');
    for (const text of ['9.6.2025', '2025-6', '2025/06/09', 'today', '', '2025-06-09T00:00'])
      expect(() => dayFrom(text)).toThrow(/is no date such as/);
    for (const outside of [firstDay - 1, lastDay + 1, NaN, Infinity])
      expect(() => dateText(outside)).toThrow(/^a day before the year 1/);
  });
});

describe('a time', () => {
  it('is written as short as it may be, and read again as it was', () => {
    fc.assert(
      fc.property(micros, (time) => {
        expect(timeFrom(timeText(time))).toBe(time);
      }),
    );
    expect(
      ['14:30', '9:05', '23:59:59', '00:00:00.5', '12:00:00.000001'].map((text) => timeText(timeFrom(text))),
    ).toEqual(['14:30:00', '09:05:00', '23:59:59', '00:00:00.5', '12:00:00.000001']);
    for (const text of ['24:00', '12:60', '12:00:60', '12', 'noon', '12:00 AM'])
      expect(() => timeFrom(text)).toThrow(/is no time such as/);
  });

  it('with its day is a moment that is read again as it was', () => {
    fc.assert(
      fc.property(moment, (each) => {
        expect(momentFrom(momentText(each))).toEqual(each);
      }),
    );
  });
});

describe('a week by ISO 8601', () => {
  it('begins on a Monday, holds seven days, and belongs to the year of its Thursday', () => {
    fc.assert(
      fc.property(fc.integer({ min: dayOf(2, 1, 1), max: dayOf(9998, 12, 31) }), (number) => {
        const { year, week } = isoWeek(number);
        const monday = mondayOf(year, week);
        expect(weekday(monday)).toBe(1);
        expect(number - monday).toBe(weekday(number) - 1);
        expect(platform(monday + 3).getUTCFullYear()).toBe(year);
        expect(isoWeek(monday + 7)).toEqual(isoWeek(monday + 13));
        expect(isoWeek(monday + 7).week === week + 1 || (isoWeek(monday + 7).week === 1 && week >= 52)).toBe(true);
      }),
    );
  });

  it('is known where years meet', () => {
    expect(
      ['2024-12-30', '2025-12-28', '2025-12-29', '2021-01-03', '2021-01-04', '2020-12-31', '2027-01-01'].map((text) =>
        isoWeek(dayFrom(text)),
      ),
    ).toEqual([
      { year: 2025, week: 1 },
      { year: 2025, week: 52 },
      { year: 2026, week: 1 },
      { year: 2020, week: 53 },
      { year: 2021, week: 1 },
      { year: 2020, week: 53 },
      { year: 2026, week: 53 },
    ]);
    expect(dateText(mondayOf(2020, 53))).toBe('2020-12-28');
    for (const [year, week] of [
      [2025, 53],
      [2025, 0],
      [2025, 54],
      [2024, -1],
    ])
      expect(() => mondayOf(year, week)).toThrow(`the year ${year} has no week ${week}`);
  });
});

describe('a span of time', () => {
  it('is read as it is written', () => {
    expect(
      ['1 month', '2 days 3 hours', '-1 day', '1 year 2 months', '90 minutes', '36 hours', '1 week', '0 days'].map(
        (text) => intervalText(intervalFrom(text)),
      ),
    ).toEqual(['1 mon', '2 days 03:00:00', '-1 days', '1 year 2 mons', '01:30:00', '36:00:00', '7 days', '00:00:00']);
    for (const text of ['', 'month', '1 fortnight', '1.5 months x', '1 month and 2 days'])
      expect(() => intervalFrom(text), text).toThrow();
  });

  it('taken away again leaves what was there, where no month was too short', () => {
    fc.assert(
      fc.property(
        fc.record({ day: fc.integer({ min: firstDay + 1000, max: lastDay - 1000 }), micros }),
        interval,
        (at, by) => {
          const plain = { ...by, months: 0 };
          expect(later(later(at, plain), lessInterval(plain))).toEqual(at);
          expect(addIntervals(by, lessInterval(by))).toEqual({ months: 0, days: 0, micros: 0 });
          expect(intervalSize(lessInterval(by))).toBe(-intervalSize(by));
        },
      ),
    );
  });

  it('of months comes to the same day, or to the last one of a month that lacks it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: dayOf(100, 1, 1), max: dayOf(9900, 1, 1) }),
        fc.integer({ min: -600, max: 600 }),
        (number, months) => {
          const [from, to] = [
            platform(number),
            platform(later({ day: number, micros: 0 }, { months, days: 0, micros: 0 }).day),
          ];
          expect(to.getUTCFullYear() * 12 + to.getUTCMonth()).toBe(
            from.getUTCFullYear() * 12 + from.getUTCMonth() + months,
          );
          const last = new Date(Date.UTC(2000, 0, 1));
          last.setUTCFullYear(to.getUTCFullYear(), to.getUTCMonth() + 1, 0);
          expect(to.getUTCDate()).toBe(Math.min(from.getUTCDate(), last.getUTCDate()));
        },
      ),
    );
    const moved = (text: string, by: string) => momentText(later(momentFrom(text), intervalFrom(by)));
    expect([
      moved('2024-01-31', '1 month'),
      moved('2025-01-31', '1 month'),
      moved('2024-02-29', '1 year'),
      moved('2025-03-31 23:30', '-1 month 1 hour'),
      moved('2025-12-31', '1 day'),
    ]).toEqual([
      '2024-02-29 00:00:00',
      '2025-02-28 00:00:00',
      '2025-02-28 00:00:00',
      '2025-03-01 00:30:00',
      '2026-01-01 00:00:00',
    ]);
    expect(() => moved('9999-12-31', '1 day')).toThrow(/behind the year 9999/);
    expect(() => moved('0001-01-01', '-1 day')).toThrow(/before the year 1/);
  });
});

describe('the beginning of a stretch of time', () => {
  it('is the last such beginning before a moment, and its own', () => {
    fc.assert(
      fc.property(
        fc.record({ day: fc.integer({ min: dayOf(200, 1, 1), max: lastDay }), micros }),
        fc.constantFrom(...truncations),
        (at, to) => {
          const begin = truncatedTo(at, to);
          const linear = ({ day: number, micros: rest }: Moment) => number * microsOfDay + rest;
          expect(linear(begin)).toBeLessThanOrEqual(linear(at));
          expect(truncatedTo(begin, to)).toEqual(begin);
          // Nothing in between is cut to another beginning.
          const between = Math.floor((linear(begin) + linear(at)) / 2);
          expect(
            truncatedTo(
              {
                day: Math.floor(between / microsOfDay),
                micros: between - Math.floor(between / microsOfDay) * microsOfDay,
              },
              to,
            ),
          ).toEqual(begin);
        },
      ),
    );
    const at = momentFrom('2025-08-14 15:42:59.25');
    expect(truncations.map((to) => momentText(truncatedTo(at, to)))).toEqual([
      '2001-01-01 00:00:00',
      '2020-01-01 00:00:00',
      '2025-01-01 00:00:00',
      '2025-07-01 00:00:00',
      '2025-08-01 00:00:00',
      '2025-08-11 00:00:00',
      '2025-08-14 00:00:00',
      '2025-08-14 15:00:00',
      '2025-08-14 15:42:00',
      '2025-08-14 15:42:59',
    ]);
  });
});

describe('the ends of a period', () => {
  it('are its first and last day, and the next one begins behind it', () => {
    const ends = (text: string) => Object.values(endsOfPeriod(text)).map(dateText);
    expect(['2025', '2025-Q2', '2025-02', '2024-02', '2025-W24', '2025-06-09', '2020-W53'].map(ends)).toEqual([
      ['2025-01-01', '2025-12-31'],
      ['2025-04-01', '2025-06-30'],
      ['2025-02-01', '2025-02-28'],
      ['2024-02-01', '2024-02-29'],
      ['2025-06-09', '2025-06-15'],
      ['2025-06-09', '2025-06-09'],
      ['2020-12-28', '2021-01-03'],
    ]);
    const two = (n: number) => String(n).padStart(2, '0');
    fc.assert(
      fc.property(fc.integer({ min: 1000, max: 9998 }), fc.integer({ min: 1, max: 11 }), (year, month) => {
        expect(endsOfPeriod(`${year}-${two(month)}`).last + 1).toBe(endsOfPeriod(`${year}-${two(month + 1)}`).first);
        expect(endsOfPeriod(`${year}`).last + 1).toBe(endsOfPeriod(`${year + 1}`).first);
        expect(endsOfPeriod(`${year}-Q4`).last).toBe(endsOfPeriod(`${year}-12`).last);
      }),
    );
    for (const text of ['2025-W53', '2025-13', '2025-Q5', '25', 'June'])
      expect(() => endsOfPeriod(text), text).toThrow();
  });
});
