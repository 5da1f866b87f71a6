import { dateOfDay, dayNumber, daysIn, monthNamed } from './date';
import { isOneOf, type Locale } from './locale';
import { misfit, value, withoutMarks, type Parsed } from './parsed';

const two = (n: number) => String(n).padStart(2, '0');

/** Has the ISO year 53 weeks? Years that begin on a Thursday, or leap years that begin on a Wednesday. */
const weeksIn = (year: number): number => {
  const lastDay = (y: number) => (y + Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400)) % 7;
  return lastDay(year) === 4 || lastDay(year - 1) === 3 ? 53 : 52;
};

/** The years that reports speak of: what else has four digits (an order W26-0153, a sample KW12-3401) counts something. */
const isYear = (year: number): boolean => year >= 1600 && year < 2200;

export const weekOf = (year: number, week: number): string | undefined =>
  isYear(year) && week >= 1 && week <= weeksIn(year) ? `${year}-W${two(week)}` : undefined;
export const monthOf = (year: number, month: number): string | undefined =>
  isYear(year) && month >= 1 && month <= 12 ? `${year}-${two(month)}` : undefined;
export const quarterOf = (year: number, quarter: number): string | undefined =>
  isYear(year) && quarter >= 1 && quarter <= 4 ? `${year}-Q${quarter}` : undefined;

export interface PeriodFormat {
  /** Month, 1 to 12, with which a fiscal year begins. */
  readonly fiscalStart: number;
}

/**
 * A reader of years, half-years, quarters, months, weeks and fiscal years into ISO text: `2025`, `2025-06`, `2025-Q2`,
 * `2025-W24`; those that have no ISO name as an interval of months, `2024-04/2025-03`.
 */
export function periodReader({ fiscalStart }: PeriodFormat, locale: Locale): (text: string) => Parsed {
  const expected = misfit(
    `a period like 2025, ${/^\d/.test(locale.monthsAlone[5]) ? '2025年6月' : `${locale.monthsAlone[5]} 2025`}, Q2 2025 or ${locale.week[0]} 24, 2025`,
  );
  const found = (period: string | undefined): Parsed => (period ? value(period) : expected);
  const fullYear = (text: string) => (text.length === 2 ? 2000 + Number(text) : Number(text));
  const fiscal = (first: number, last: number): Parsed =>
    !isYear(first) || (last !== (first + 1) % 100 && last !== first + 1)
      ? expected
      : fiscalStart === 1
        ? value(String(first))
        : value(`${first}-${two(fiscalStart)}/${first + 1}-${two(fiscalStart - 1)}`);
  return (text) => {
    const rest = withoutMarks(text);
    if (rest === '') return value(null);
    let parts;
    if (/^(?:1[6-9]|20|21)\d\d(?:年|r\.)?$/.test(rest)) return value(rest.slice(0, 4));
    if ((parts = /^(\d{4})-(\d{2})$/.exec(rest)) && Number(parts[2]) <= 12)
      return found(monthOf(Number(parts[1]), Number(parts[2])));
    if ((parts = /^(\d{1,2})\/(\d{4})$/.exec(rest))) return found(monthOf(Number(parts[2]), Number(parts[1])));
    if ((parts = /^(\d{4})年\s?(\d{1,2})月$/.exec(rest))) return found(monthOf(Number(parts[1]), Number(parts[2])));
    if ((parts = /^(\d{4})-?\s?W(\d{2})$/i.exec(rest))) return found(weekOf(Number(parts[1]), Number(parts[2])));
    if ((parts = /^(\d{4})-?\s?Q(\d)$/i.exec(rest))) return found(quarterOf(Number(parts[1]), Number(parts[2])));
    if (
      (parts = /^(?:(\p{L}[\p{L} ]*?)\s+)?(\d{4})\s?[/–-]\s?(\d{4}|\d{2})$/u.exec(rest)) &&
      (parts[1] === undefined || isOneOf(locale.fiscal, parts[1]))
    )
      return fiscal(Number(parts[2]), Number(parts[3]));
    if (
      (parts = /^(\d)\.?\s?(\p{L}+\.?)[\s/,]+(\d{4}|\d{2})$/u.exec(rest)) ||
      (parts = /^()(\p{L}+\.?)\s?(\d{1,2})[\s/,–-]+(?:(?:of|de|del|von|du|di|van)\s+)?(\d{4}|\d{2})$/u.exec(rest))
    ) {
      const word = parts[2];
      const n = Number(parts[1] || parts[3]);
      const year = fullYear(parts[1] ? parts[3] : parts[4]);
      if (isOneOf(locale.week, word) && !parts[1]) return found(weekOf(year, n));
      if (isOneOf(locale.quarter, word) || word.toLowerCase() === 'q') return found(quarterOf(year, n));
      if (isOneOf(locale.half, word) && isYear(year))
        return n === 1 ? value(`${year}-01/${year}-06`) : n === 2 ? value(`${year}-07/${year}-12`) : expected;
    }
    if ((parts = /^(\p{L}+\.?)(?:\s+de)?[\s/,-]+(\d{4}|['’]?\d{2})$/u.exec(rest))) {
      const year = fullYear(parts[2].replace(/\D/g, ''));
      if (isOneOf(locale.fiscal, parts[1]))
        return parts[2].length === 4 && isYear(year)
          ? fiscalStart === 1
            ? value(parts[2])
            : value(`${year - 1}-${two(fiscalStart)}/${year}-${two(fiscalStart - 1)}`)
          : expected;
      return found(monthOf(year, monthNamed(parts[1], locale)));
    }
    return expected;
  };
}

/** First and last day of a period, as ISO dates; undefined for text that is no period. */
export function daysOf(period: string): { first: string; last: string } | undefined {
  const day = (year: number, month: number, of: number) => `${year}-${two(month)}-${two(of)}`;
  const months = (from: [number, number], to: [number, number]) => ({
    first: day(from[0], from[1], 1),
    last: day(to[0], to[1], daysIn(to[0], to[1])),
  });
  const interval = /^(\d{4})-(\d{2})\/(\d{4})-(\d{2})$/.exec(period)?.slice(1).map(Number);
  if (interval) return months([interval[0], interval[1]], [interval[2], interval[3]]);
  const week = /^(\d{4})-W(\d{2})$/.exec(period);
  if (week) {
    // The first week of a year holds its fourth of January.
    const fourth = dayNumber(Number(week[1]), 1, 4);
    const monday = fourth - ((fourth + 3) % 7) + 7 * (Number(week[2]) - 1);
    return { first: dateOfDay(monday), last: dateOfDay(monday + 6) };
  }
  const quarter = /^(\d{4})-Q(\d)$/.exec(period)?.slice(1).map(Number);
  if (quarter) return months([quarter[0], 3 * quarter[1] - 2], [quarter[0], 3 * quarter[1]]);
  const month = /^(\d{4})-(\d{2})$/.exec(period)?.slice(1).map(Number);
  if (month) return months([month[0], month[1]], [month[0], month[1]]);
  return /^\d{4}$/.test(period) ? months([Number(period), 1], [Number(period), 12]) : undefined;
}

/** The period after this one, of the same kind; undefined for text that is no period. */
export function nextPeriod(period: string): string | undefined {
  const week = /^(\d{4})-W(\d{2})$/.exec(period);
  if (week) return weekOf(Number(week[1]), Number(week[2]) + 1) ?? weekOf(Number(week[1]) + 1, 1);
  const quarter = /^(\d{4})-Q(\d)$/.exec(period);
  if (quarter) return quarterOf(Number(quarter[1]), Number(quarter[2]) + 1) ?? quarterOf(Number(quarter[1]) + 1, 1);
  const month = /^(\d{4})-(\d{2})$/.exec(period);
  if (month) return monthOf(Number(month[1]), Number(month[2]) + 1) ?? monthOf(Number(month[1]) + 1, 1);
  return /^\d{4}$/.test(period) ? String(Number(period) + 1) : undefined;
}
