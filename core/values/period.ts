import { monthNamed } from './date';
import type { Locale } from './locale';
import { misfit, value, withoutMarks, type Parsed } from './parsed';

const two = (n: number) => String(n).padStart(2, '0');

/** Has the ISO year 53 weeks? Years that begin on a Thursday, or leap years that begin on a Wednesday. */
const weeksIn = (year: number): number => {
  const lastDay = (y: number) => (y + Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400)) % 7;
  return lastDay(year) === 4 || lastDay(year - 1) === 3 ? 53 : 52;
};

export const weekOf = (year: number, week: number): string | undefined => (week >= 1 && week <= weeksIn(year) ? `${year}-W${two(week)}` : undefined);
export const monthOf = (year: number, month: number): string | undefined => (month >= 1 && month <= 12 ? `${year}-${two(month)}` : undefined);
export const quarterOf = (year: number, quarter: number): string | undefined => (quarter >= 1 && quarter <= 4 ? `${year}-Q${quarter}` : undefined);

/** Reads a year, month, quarter or week into ISO text: `2025`, `2025-06`, `2025-Q2`, `2025-W24`. */
export function parsePeriod(text: string, locale: Locale): Parsed {
  const rest = withoutMarks(text);
  if (rest === '') return value(null);
  const expected = `a period like 2025, ${locale.months[5]} 2025, Q2 2025 or ${locale.week[0]} 24, 2025`;
  const found = (period: string | undefined): Parsed => (period ? value(period) : misfit(expected));
  let parts;
  if (/^\d{4}$/.test(rest)) return value(rest);
  if ((parts = /^(\d{4})-(\d{2})$/.exec(rest))) return found(monthOf(Number(parts[1]), Number(parts[2])));
  if ((parts = /^(\d{4})-?\s?W(\d{2})$/i.exec(rest))) return found(weekOf(Number(parts[1]), Number(parts[2])));
  if ((parts = /^(\d{4})-?\s?Q(\d)$/i.exec(rest))) return found(quarterOf(Number(parts[1]), Number(parts[2])));
  if ((parts = /^Q(\d)[\s/,-]+(\d{4})$/i.exec(rest))) return found(quarterOf(Number(parts[2]), Number(parts[1])));
  if ((parts = /^(\p{L}+)\.?\s+(\d{1,2})[\s/,]+(\d{4})$/u.exec(rest)) && locale.week.some((w) => w.toLowerCase() === parts![1].toLowerCase()))
    return found(weekOf(Number(parts[3]), Number(parts[2])));
  if ((parts = /^(\p{L}+\.?)[\s/,]+(\d{4})$/u.exec(rest))) return found(monthOf(Number(parts[2]), monthNamed(parts[1], locale)));
  return misfit(expected);
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
