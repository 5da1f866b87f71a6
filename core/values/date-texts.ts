// What a text is as far as dates go, by its look alone.
import { monthNumber, weekdayNamed } from './date';
import { locales } from './locale';
import { periodReader } from './period';

export const isYear = (text: string): boolean => /^(?:19|20)\d\d$/.test(text);
/** A date with its year, the month as a word or all as ISO has it. */
export const isWholeDate = (text: string): boolean => {
  const words = text.split(/[\s,./-]+/).filter(Boolean);
  return (
    /^(?:19|20)\d\d-\d\d-\d\d$/.test(text) ||
    (words.length === 3 &&
      words.some(isYear) &&
      words.some((word) => monthNumber(word) > 0) &&
      words.some((word) => /^\d{1,2}(?:st|nd|rd|th)?$/.test(word)))
  );
};

/** "1 Jun", "June 1", "1. Juni", "01/06" or "1.6.": amounts are never written so. */
export const isDateWithoutYear = (text: string): boolean => {
  const worded = /^(\d{1,2})(?:\.|st|nd|rd|th)?\s?(\p{L}{3,})\.?$|^(\p{L}{3,})\.?\s(\d{1,2})(?:st|nd|rd|th)?$/u.exec(
    text,
  );
  if (worded) return monthNumber(worded[2] ?? worded[3]) > 0 && Number(worded[1] ?? worded[4]) <= 31;
  const [one, other] = (/^(\d{1,2})\.(\d{1,2})\.$|^(\d{2})\/(\d{2})$/.exec(text) ?? [])
    .slice(1)
    .filter((part) => part !== undefined)
    .map(Number);
  return other !== undefined && Math.min(one, other) >= 1 && Math.min(one, other) <= 12 && Math.max(one, other) <= 31;
};

/** A date in numbers, its year with two digits or four. */
export const isDateInNumbers = (text: string): boolean => /^\d{1,2}([./-])\d{1,2}\1(?:\d{2}|\d{4})$/.test(text);

/** The period with its year that a text says in some language, as ISO has it; undefined where it says none. */
export function periodSaid(text: string): string | undefined {
  for (const read of periodReaders) {
    const parsed = read(text);
    if ('value' in parsed) return String(parsed.value);
  }
  return undefined;
}
const periodReaders = Object.values(locales).map((locale) => periodReader({ fiscalStart: 1 }, locale));

/** Does a text say nothing but a date, or a period in words? A number alone may be anything. */
export const saysWhen = (text: string): boolean =>
  isWholeDate(text) || isDateInNumbers(text) || (/\p{L}/u.test(text) && periodSaid(text) !== undefined);

/** The day of the week that a word may name, in each language in which it does: 1 for Monday. */
export const weekdaysNamed = (word: string): number[] =>
  Object.values(locales)
    .map((locale) => weekdayNamed(word, locale))
    .filter((day) => day > 0);
