import {
  addIntervals,
  dayOf,
  dayOfYear,
  endsOfPeriod,
  firstDay,
  isoWeek,
  lastDay,
  later,
  lessInterval,
  microsOfDay,
  outsideCalendar,
  truncatedTo,
  truncations,
  weekday,
  type Interval,
  type Moment,
} from '../calendar';
import { civilDay } from '../../values/date';
import { Mishap } from '../mishap';
import { rounded, whole, type Numeric } from '../numeric';
import { declaring } from './function';
import { own } from '../../values/own';

const fn = declaring('dates');
const days = (count: Numeric): number => Number(rounded(count, 0).n);
const longest = 2_147_483_647;
function times({ months, days: ofDays, micros }: Interval, count: number): Interval {
  const made = { months: months * count + 0, days: ofDays * count + 0, micros: micros * count + 0 };
  if (Math.abs(made.months) > longest || Math.abs(made.days) > longest || !Number.isSafeInteger(made.micros))
    throw new Mishap('an interval that is too long');
  return made;
}

/** @throws Mishap where the calendar has no such day */
function inCalendar(day: number): number {
  if (day < firstDay || day > lastDay) throw new Mishap(outsideCalendar);
  return day;
}

const atMidnight = (day: number): Moment => ({ day, micros: 0 });
const million = 1_000_000;
const seconds = (micros: number): Numeric => ({ n: micros, s: 6 });

const ofDay: Readonly<Record<string, (day: number) => number>> = {
  year: (day) => civilDay(day).year,
  month: (day) => civilDay(day).month,
  day: (day) => civilDay(day).day,
  quarter: (day) => Math.floor((civilDay(day).month + 2) / 3),
  week: (day) => isoWeek(day).week,
  isoyear: (day) => isoWeek(day).year,
  dow: (day) => weekday(day) % 7,
  isodow: weekday,
  doy: dayOfYear,
  decade: (day) => Math.floor(civilDay(day).year / 10),
  century: (day) => Math.floor((civilDay(day).year + 99) / 100),
};
const ofTime: Readonly<Record<string, (micros: number) => Numeric>> = {
  hour: (micros) => whole(Math.trunc(micros / (3600 * million))),
  minute: (micros) => whole(Math.trunc(micros / (60 * million)) % 60),
  second: (micros) => seconds(micros % (60 * million)),
};
const noField = (field: string, of: string) => new Mishap(`“${field}” cannot be extracted from ${of}`);

function extractFromMoment(field: string, { day, micros }: Moment, of: string): Numeric {
  const [inDay, inTime] = [own(ofDay, field), own(ofTime, field)];
  if (inDay) return whole(inDay(day));
  if (inTime && of !== 'a date') return inTime(micros);
  throw noField(field, of);
}

function extractFromInterval(field: string, { months, days, micros }: Interval): Numeric {
  if (field === 'year') return whole(Math.trunc(months / 12));
  if (field === 'month') return whole((months % 12) + 0);
  if (field === 'day') return whole(days);
  const inTime = own(ofTime, field);
  if (!inTime) throw noField(field, 'an interval');
  const value = inTime(micros);
  return { n: Number(value.n) + 0, s: value.s };
}

function extractFromTime(field: string, micros: number): Numeric {
  const inTime = own(ofTime, field);
  if (!inTime) throw noField(field, 'a time');
  return inTime(micros);
}

function truncated(field: string, moment: Moment): Moment {
  const to = truncations.find((each) => each === field.toLowerCase());
  if (!to) throw new Mishap(`“${field}”: dates are cut to ${truncations.join(', ')}`);
  return truncatedTo(moment, to);
}

function between(a: Moment, b: Moment): Interval {
  const micros = (a.day - b.day) * microsOfDay + a.micros - b.micros;
  const whole = Math.trunc(micros / microsOfDay);
  return { months: 0, days: whole + 0, micros: micros - whole * microsOfDay + 0 };
}

/** A time of the day goes on from midnight. */
const timeLater = (micros: number, by: number): number => (((micros + by) % microsOfDay) + microsOfDay) % microsOfDay;

export const dates = [
  fn(
    '+',
    ['date', 'integer'],
    'date',
    { says: 'So many days later.', example: ["date '2025-01-31' + 1", '2025-02-01'], called: 'date, days' },
    (day: number, count: Numeric) => inCalendar(day + days(count)),
  ),
  fn(
    '+',
    ['integer', 'date'],
    'date',
    { says: 'So many days later.', example: ["1 + date '2025-01-31'", '2025-02-01'], called: 'days, date' },
    (count: Numeric, day: number) => inCalendar(day + days(count)),
  ),
  fn(
    '-',
    ['date', 'integer'],
    'date',
    { says: 'So many days before.', example: ["date '2025-03-01' - 1", '2025-02-28'], called: 'date, days' },
    (day: number, count: Numeric) => inCalendar(day - days(count)),
  ),
  fn(
    '-',
    ['date', 'date'],
    'integer',
    { says: 'The days between: an age in days.', example: ["date '2025-03-01' - date '2025-02-01'", '28'] },
    (a: number, b: number) => whole(a - b),
  ),
  fn(
    '+',
    ['date', 'interval'],
    'timestamp',
    {
      says: 'Later by months, days, hours ...; the last day of a month stands for those that it lacks.',
      example: ["(date '2025-01-31' + interval '1 month')::date", '2025-02-28'],
    },
    (day: number, by: Interval) => later(atMidnight(day), by),
  ),
  fn(
    '-',
    ['date', 'interval'],
    'timestamp',
    {
      says: 'Before by months, days, hours ...',
      example: ["(date '2025-03-31' - interval '1 month')::date", '2025-02-28'],
    },
    (day: number, by: Interval) => later(atMidnight(day), lessInterval(by)),
  ),
  fn(
    '+',
    ['timestamp', 'interval'],
    'timestamp',
    {
      says: 'Later by months, days, hours ...',
      example: ["timestamp '2025-01-31 22:30' + interval '2 hours'", '2025-02-01 00:30:00'],
    },
    later,
  ),
  fn(
    '-',
    ['timestamp', 'interval'],
    'timestamp',
    {
      says: 'Before by months, days, hours ...',
      example: ["timestamp '2025-02-01 00:30' - interval '2 hours'", '2025-01-31 22:30:00'],
    },
    (moment: Moment, by: Interval) => later(moment, lessInterval(by)),
  ),
  fn(
    '+',
    ['interval', 'date'],
    'timestamp',
    {
      says: 'Later by months, days, hours ...',
      example: ["interval '1 year' + date '2024-02-29'", '2025-02-28 00:00:00'],
    },
    (by: Interval, day: number) => later(atMidnight(day), by),
  ),
  fn(
    '+',
    ['interval', 'timestamp'],
    'timestamp',
    {
      says: 'Later by months, days, hours ...',
      example: ["interval '1 hour' + timestamp '2025-01-31 23:00'", '2025-02-01 00:00:00'],
    },
    (by: Interval, moment: Moment) => later(moment, by),
  ),
  fn(
    '-',
    ['timestamp', 'timestamp'],
    'interval',
    {
      says: 'The days and hours between.',
      example: ["timestamp '2025-02-01 12:00' - timestamp '2025-01-31 06:00'", '1 day 06:00:00'],
    },
    between,
  ),
  fn(
    '+',
    ['time', 'interval'],
    'time',
    { says: 'Later on the clock.', example: ["time '23:30' + interval '1 hour'", '00:30:00'] },
    (time: number, by: Interval) => timeLater(time, by.micros),
  ),
  fn(
    '-',
    ['time', 'interval'],
    'time',
    { says: 'Before on the clock.', example: ["time '00:30' - interval '1 hour'", '23:30:00'] },
    (time: number, by: Interval) => timeLater(time, -by.micros),
  ),
  fn(
    '-',
    ['time', 'time'],
    'interval',
    { says: 'The hours between.', example: ["time '14:30' - time '06:00'", '08:30:00'] },
    (a: number, b: number): Interval => ({ months: 0, days: 0, micros: a - b }),
  ),
  fn(
    '+',
    ['date', 'time'],
    'timestamp',
    { says: 'The moment of a day.', example: ["date '2025-06-09' + time '14:30'", '2025-06-09 14:30:00'] },
    (day: number, time: number): Moment => ({ day, micros: time }),
  ),
  fn(
    '+',
    ['interval', 'interval'],
    'interval',
    { says: 'Both together.', example: ["interval '1 month' + interval '2 days'", '1 mon 2 days'] },
    addIntervals,
  ),
  fn(
    '-',
    ['interval', 'interval'],
    'interval',
    { says: 'What is left.', example: ["interval '1 month' - interval '2 days'", '1 mon -2 days'] },
    (a: Interval, b: Interval) => addIntervals(a, lessInterval(b)),
  ),
  fn(
    '*',
    ['interval', 'integer'],
    'interval',
    { says: 'So many times.', example: ["interval '1 month' * 3", '3 mons'] },
    (by: Interval, count: Numeric): Interval => times(by, days(count)),
  ),
  fn(
    'extract',
    ['text', 'date'],
    'integer',
    {
      says: `Of a day: ${Object.keys(ofDay).join(', ')}. Weeks are those of ISO 8601, dow is 0 on Sundays, isodow 7.`,
      example: ["extract(week from date '2025-12-31')", '1'],
      called: 'field from date',
    },
    (field: string, day: number) => extractFromMoment(field, atMidnight(day), 'a date'),
  ),
  fn(
    'extract',
    ['text', 'timestamp'],
    'numeric',
    {
      says: 'The same, and hour, minute, second.',
      example: ["extract(hour from timestamp '2025-06-09 14:30')", '14'],
      called: 'field from timestamp',
    },
    (field: string, moment: Moment) => extractFromMoment(field, moment, 'a timestamp'),
  ),
  fn(
    'extract',
    ['text', 'time'],
    'numeric',
    {
      says: 'Hour, minute or second.',
      example: ["extract(minute from time '14:30')", '30'],
      called: 'field from time',
    },
    extractFromTime,
  ),
  fn(
    'extract',
    ['text', 'interval'],
    'numeric',
    {
      says: 'Its years, months, days, hours, minutes or seconds.',
      example: ["extract(day from timestamp '2025-02-03 12:00' - timestamp '2025-01-31 06:00')", '3'],
      called: 'field from interval',
    },
    extractFromInterval,
  ),
  fn(
    'date_trunc',
    ['text', 'timestamp'],
    'timestamp',
    {
      says: `When the ${truncations.slice(2).join(', ')} began.`,
      example: ["date_trunc('quarter', date '2025-06-09')::date", '2025-04-01'],
      called: "'unit', date or timestamp",
    },
    truncated,
  ),
  fn(
    'make_date',
    ['integer', 'integer', 'integer'],
    'date',
    {
      says: 'The date of a year, month and day.',
      example: ['make_date(2025, 6, 9)', '2025-06-09'],
      called: 'year, month, day',
    },
    (year: Numeric, month: Numeric, day: Numeric) => dayOf(Number(year.n), Number(month.n), Number(day.n)),
  ),
  fn(
    'make_interval',
    ['integer', 'integer', 'integer', 'integer'],
    'interval',
    {
      optional: 3,
      says: 'Years, months, weeks and days as an interval.',
      example: ['make_interval(0, 0, 2)', '14 days'],
      called: 'years, months, weeks, days',
    },
    (years: Numeric, months?: Numeric, weeks?: Numeric, ofDays?: Numeric): Interval => ({
      months: Number(years.n) * 12 + Number(months?.n ?? 0),
      days: Number(weeks?.n ?? 0) * 7 + Number(ofDays?.n ?? 0),
      micros: 0,
    }),
  ),
  fn(
    'first_day',
    ['text'],
    'date',
    {
      says: 'The first day of a period: a year, quarter, month, ISO week or day. PostgreSQL has no periods, and not this function.',
      example: ["first_day('2025-Q2')", '2025-04-01'],
      called: 'period',
    },
    (period: string) => endsOfPeriod(period).first,
  ),
  fn(
    'last_day',
    ['text'],
    'date',
    {
      says: 'The last day of a period. PostgreSQL has no periods, and not this function.',
      example: ["last_day('2025-W24')", '2025-06-15'],
      called: 'period',
    },
    (period: string) => endsOfPeriod(period).last,
  ),
];
