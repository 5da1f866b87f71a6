// Days, times and spans of time as ISO 8601 texts and whole numbers, as PostgreSQL reckons with them: the Gregorian calendar, without zones.
import { civilDay, dateOfDay, dayNumber, daysIn } from '../values/date';
import { Mishap } from './mishap';

/** Months and days are kept apart, as a month has no fixed length; what is shorter than a day, in microseconds. */
export interface Interval {
  readonly months: number;
  readonly days: number;
  readonly micros: number;
}

/** A day and what has gone of it, in microseconds. */
export interface Moment {
  /** From 1970-01-01. */
  readonly day: number;
  readonly micros: number;
}

const second = 1_000_000;
export const microsOfDay = 86_400 * second;
const twoDigits = (n: number) => String(n).padStart(2, '0');

/** Days reckoned with: years have four digits. */
export const firstDay = dayNumber(1, 1, 1);
export const lastDay = dayNumber(9999, 12, 31);
export const outsideCalendar = 'a day before the year 1 or behind the year 9999';

/** @throws Mishap where there is no such day */
export function dayOf(year: number, month: number, day: number): number {
  if (year < 1 || year > 9999 || month < 1 || month > 12 || day < 1 || day > daysIn(year, month))
    throw new Mishap(`no day ${year}-${twoDigits(month)}-${twoDigits(day)}`);
  return dayNumber(year, month, day);
}

/** ISO text of a day. @throws Mishap before the year 1 and behind the year 9999 */
export function dateText(dayNumber: number): string {
  if (!(dayNumber >= firstDay && dayNumber <= lastDay)) throw new Mishap(outsideCalendar);
  return dateOfDay(dayNumber);
}

export function timeText(micros: number): string {
  const seconds = Math.floor(micros / second);
  const rest = micros - seconds * second;
  return `${twoDigits(Math.floor(seconds / 3600))}:${twoDigits(Math.floor(seconds / 60) % 60)}:${twoDigits(seconds % 60)}${rest === 0 ? '' : `.${String(rest).padStart(6, '0').replace(/0+$/, '')}`}`;
}

export const momentText = ({ day, micros }: Moment): string => `${dateText(day)} ${timeText(micros)}`;

const isoDay = /^(\d{4})-(\d{1,2})-(\d{1,2})$/;
const isoTime = /^(\d{1,2}):(\d{2})(?::(\d{2})(?:\.(\d{1,6}))?)?$/;

/** The day of an ISO text. @throws Mishap */
export function dayFrom(text: string): number {
  const match = isoDay.exec(text.trim());
  if (!match) throw new Mishap(`“${text}” is no date such as 2025-03-31`);
  return dayOf(Number(match[1]), Number(match[2]), Number(match[3]));
}

/** Microseconds of an ISO text. @throws Mishap */
export function timeFrom(text: string): number {
  const match = isoTime.exec(text.trim());
  const [hour, minute, seconds] = [match?.[1], match?.[2], match?.[3] ?? '0'].map(Number);
  if (!match || hour > 23 || minute > 59 || seconds > 59) throw new Mishap(`“${text}” is no time such as 14:30`);
  return (hour * 3600 + minute * 60 + seconds) * second + Number((match[4] ?? '').padEnd(6, '0'));
}

/** @throws Mishap */
export function momentFrom(text: string): Moment {
  const [day, time, ...more] = text.trim().split(/[ T]+/);
  if (more.length > 0) throw new Mishap(`“${text}” is no moment such as 2025-03-31 14:30`);
  return { day: dayFrom(day), micros: time === undefined ? 0 : timeFrom(time) };
}

const units: Readonly<Record<string, Interval>> = {
  year: { months: 12, days: 0, micros: 0 },
  month: { months: 1, days: 0, micros: 0 },
  week: { months: 0, days: 7, micros: 0 },
  day: { months: 0, days: 1, micros: 0 },
  hour: { months: 0, days: 0, micros: 3600 * second },
  minute: { months: 0, days: 0, micros: 60 * second },
  second: { months: 0, days: 0, micros: second },
};

/** A span of time as it is written: "1 month", "2 days 3 hours". @throws Mishap */
export function intervalFrom(text: string): Interval {
  const refuse = () => new Mishap(`“${text}” is no interval such as 1 month or 2 days`);
  let all: Interval = { months: 0, days: 0, micros: 0 };
  let rest = text.trim().toLowerCase();
  if (rest === '') throw refuse();
  while (rest !== '') {
    const match = /^([+-]?\d{1,6})\s*(year|month|week|day|hour|minute|second)s?(?:\s+|$)/.exec(rest);
    if (!match) throw refuse();
    const unit = units[match[2]];
    const count = Number(match[1]);
    all = {
      months: all.months + count * unit.months,
      days: all.days + count * unit.days,
      micros: all.micros + count * unit.micros,
    };
    rest = rest.slice(match[0].length);
  }
  return all;
}

export const lessInterval = ({ months, days, micros }: Interval): Interval => ({
  months: -months + 0,
  days: -days + 0,
  micros: -micros + 0,
});
export const addIntervals = (a: Interval, b: Interval): Interval => ({
  months: a.months + b.months,
  days: a.days + b.days,
  micros: a.micros + b.micros,
});

/** As PostgreSQL compares them: a month is 30 days, a day 24 hours. */
export const intervalSize = ({ months, days, micros }: Interval): bigint =>
  BigInt(months * 30 + days) * BigInt(microsOfDay) + BigInt(micros);

/** As PostgreSQL writes it: "1 year 2 mons -3 days 04:05:06". */
export function intervalText({ months, days, micros }: Interval): string {
  const [years, left] = [Math.trunc(months / 12), months % 12];
  let negative = false;
  const parts: string[] = [];
  const put = (count: number, name: string) => {
    if (count === 0) return;
    // Behind a negative part a positive one bears its sign.
    parts.push(`${negative && count > 0 ? '+' : ''}${count} ${name}${count === 1 ? '' : 's'}`);
    negative = count < 0;
  };
  put(years, 'year');
  put(left, 'mon');
  put(days, 'day');
  if (micros !== 0 || parts.length === 0)
    parts.push(`${micros < 0 ? '-' : negative ? '+' : ''}${timeText(Math.abs(micros))}`);
  return parts.join(' ');
}

/** A moment later: first by months, whose last day stands for those that a month lacks, then by days, then by the rest. @throws Mishap */
export function later({ day, micros }: Moment, by: Interval): Moment {
  let at = day;
  if (by.months !== 0) {
    const { year, month, day: ofMonth } = civilDay(day);
    const all = year * 12 + (month - 1) + by.months;
    const [y, m] = [Math.floor(all / 12), (all % 12) + 1];
    if (y < 1 || y > 9999) throw new Mishap(outsideCalendar);
    at = dayNumber(y, m, Math.min(ofMonth, daysIn(y, m)));
  }
  const total = micros + by.micros;
  const over = Math.floor(total / microsOfDay);
  const then = at + by.days + over;
  if (then < firstDay || then > lastDay) throw new Mishap(outsideCalendar);
  return { day: then, micros: total - over * microsOfDay };
}

/** From 1, Monday, to 7, Sunday. */
export const weekday = (day: number): number => ((((day + 3) % 7) + 7) % 7) + 1;
export const dayOfYear = (day: number): number => day - dayNumber(civilDay(day).year, 1, 1) + 1;

/** Week and its year by ISO 8601: the week is that of the year in which its Thursday stands. */
export function isoWeek(day: number): { year: number; week: number } {
  const thursday = day - weekday(day) + 4;
  const { year } = civilDay(thursday);
  return { year, week: Math.floor((thursday - dayNumber(year, 1, 1)) / 7) + 1 };
}
/** The Monday of a week by ISO 8601. @throws Mishap where the year has no such week */
export function mondayOf(year: number, week: number): number {
  const fourth = dayNumber(year, 1, 4);
  const monday = fourth - weekday(fourth) + 1 + (week - 1) * 7;
  if (week < 1 || isoWeek(monday).year !== year) throw new Mishap(`the year ${year} has no week ${week}`);
  return monday;
}

export const truncations = [
  'century',
  'decade',
  'year',
  'quarter',
  'month',
  'week',
  'day',
  'hour',
  'minute',
  'second',
] as const;

/** The moment at which a year, month, week ... began. */
export function truncatedTo({ day, micros }: Moment, to: (typeof truncations)[number]): Moment {
  const { year, month } = civilDay(day);
  const down = (size: number) => ({ day, micros: micros - (micros % size) });
  switch (to) {
    case 'century':
      return { day: dayNumber(Math.floor((year - 1) / 100) * 100 + 1, 1, 1), micros: 0 };
    case 'decade':
      return { day: dayNumber(Math.floor(year / 10) * 10, 1, 1), micros: 0 };
    case 'year':
      return { day: dayNumber(year, 1, 1), micros: 0 };
    case 'quarter':
      return { day: dayNumber(year, month - ((month - 1) % 3), 1), micros: 0 };
    case 'month':
      return { day: dayNumber(year, month, 1), micros: 0 };
    case 'week':
      return { day: day - weekday(day) + 1, micros: 0 };
    case 'day':
      return { day, micros: 0 };
    case 'hour':
      return down(3600 * second);
    case 'minute':
      return down(60 * second);
    case 'second':
      return down(second);
  }
}

/** First and last day of a period: 2025, 2025-Q2, 2025-06, 2025-W24, 2025-06-09. @throws Mishap */
export function endsOfPeriod(text: string): { first: number; last: number } {
  const match = /^(\d{4})(?:-(?:Q([1-4])|W(\d{2})|(\d{2})(?:-(\d{2}))?))?$/.exec(text.trim());
  if (!match) throw new Mishap(`“${text}” is no period such as 2025, 2025-Q2, 2025-06 or 2025-W24`);
  const [, y, quarter, week, month, day] = match;
  const year = Number(y);
  if (week !== undefined) return { first: mondayOf(year, Number(week)), last: mondayOf(year, Number(week)) + 6 };
  if (day !== undefined)
    return { first: dayOf(year, Number(month), Number(day)), last: dayOf(year, Number(month), Number(day)) };
  const from = quarter !== undefined ? 3 * Number(quarter) - 2 : month !== undefined ? Number(month) : 1;
  const to = quarter !== undefined ? from + 2 : month !== undefined ? from : 12;
  const first = dayOf(year, from, 1);
  return { first, last: dayNumber(year, to, daysIn(year, to)) };
}
