import type { Locale } from './locale';
import { misfit, value, withoutMarks, type Parsed } from './parsed';

const two = (n: number) => String(n).padStart(2, '0');
const daysIn = (year: number, month: number) => [31, year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1];
const exists = (year: number, month: number, day: number) => month >= 1 && month <= 12 && day >= 1 && day <= daysIn(year, month);

/** Two-digit years up to this one are of this century. */
export const pivotYear = 69;
const fullYear = (text: string) => (text.length === 2 ? Number(text) + (Number(text) <= pivotYear ? 2000 : 1900) : Number(text));

const plain = (text: string) => text.toLowerCase().replace(/\.$/, '');

/** Number of the month that a text names in the locale, full or short; 0 for none. */
export function monthNamed(text: string, locale: Locale): number {
  const wanted = plain(text);
  const full = locale.months.findIndex((m) => plain(m) === wanted);
  return full >= 0 ? full + 1 : locale.monthsShort.findIndex((m) => plain(m) === wanted || (wanted === 'sept' && plain(m) === 'sep')) + 1;
}

/** Reads a calendar date into ISO text: ISO itself, day and named month, or numbers in the order of the locale. */
export function parseDate(text: string, locale: Locale): Parsed {
  const dayFirst = locale.dateOrder.startsWith('day');
  const expected = `a date like ${dayFirst ? `14 ${locale.months[5]} 2025` : `${locale.months[5]} 14, 2025`}`;
  const rest = withoutMarks(text);
  if (rest === '') return value(null);
  const date = (year: number, month: number, day: number): Parsed => (exists(year, month, day) ? value(`${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`) : misfit(expected));

  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(rest);
  if (iso) return date(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const named = /^(?:\p{L}+\.?,?\s+)?(\d{1,2})(?:st|nd|rd|th|\.)?[\s-]+(\p{L}+\.?),?[\s-]+(\d{4}|\d{2})$/u.exec(rest);
  if (named) return date(fullYear(named[3]), monthNamed(named[2], locale), Number(named[1]));
  const monthFirst = /^(\p{L}+\.?)\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})$/u.exec(rest);
  if (monthFirst) return date(Number(monthFirst[3]), monthNamed(monthFirst[1], locale), Number(monthFirst[2]));
  const numbers = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{2})$/.exec(rest);
  if (numbers) {
    const [first, second] = [Number(numbers[1]), Number(numbers[3])];
    return date(fullYear(numbers[4]), dayFirst ? second : first, dayFirst ? first : second);
  }
  return misfit(expected);
}
