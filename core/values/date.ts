import { isOneOf, locales, plainWord, type Locale } from './locale';
import { misfit, value, withoutMarks, type Parsed } from './parsed';

const two = (n: number) => String(n).padStart(2, '0');
export const daysIn = (year: number, month: number) =>
  [31, year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][
    month - 1
  ];
/** There is no year 0 in the calendar. */
const exists = (year: number, month: number, day: number) =>
  year >= 1 && month >= 1 && month <= 12 && day >= 1 && day <= daysIn(year, month);

/** Days since 1 January 1970, a Thursday (the algorithm of days from civil dates, by eras of 400 years). */
export function dayNumber(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const ofEra = y - era * 400;
  const ofYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return era * 146_097 + ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear - 719_468;
}

/** Year, month and day of a day number (the algorithm of civil dates from days). */
export function civilDay(number: number): { readonly year: number; readonly month: number; readonly day: number } {
  const days = number + 719_468;
  const era = Math.floor(days / 146_097);
  const ofEra = days - era * 146_097;
  const year = Math.floor(
    (ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365,
  );
  const ofYear = ofEra - (365 * year + Math.floor(year / 4) - Math.floor(year / 100));
  const shifted = Math.floor((5 * ofYear + 2) / 153);
  const month = shifted + (shifted < 10 ? 3 : -9);
  return {
    year: year + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: ofYear - Math.floor((153 * shifted + 2) / 5) + 1,
  };
}

/** The date of a day number, as ISO text. */
export function dateOfDay(number: number): string {
  const { year, month, day } = civilDay(number);
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`;
}

export const dateOrders = ['day month year', 'month day year', 'year month day'] as const;
export type DateOrder = (typeof dateOrders)[number];

export interface DateFormat {
  /** The order of numbers where a date has no month name. */
  readonly order: DateOrder;
  /** Two-digit years up to this one are of this century. */
  readonly pivot: number;
}

export const usualPivot = 69;

const months = new WeakMap<Locale, ReadonlyMap<string, number>>();

/** Number of the month that a text names in the locale, full, alone or short; 0 for none. */
export function monthNamed(text: string, locale: Locale): number {
  let names = months.get(locale);
  if (!names) {
    const all = new Map<string, number>();
    for (const list of [locale.monthsShort, locale.monthsAlone, locale.months])
      list.forEach((name, i) => {
        all.set(plainWord(name), i + 1);
        // Short forms are printed with three letters too, whatever the locale's own are.
        if (/^\p{L}{4,}/u.test(name) && !all.has(plainWord(name).slice(0, 3)))
          all.set(plainWord(name).slice(0, 3), i + 1);
      });
    if (all.get('sep') === 9) all.set('sept', 9);
    // In names of files they often stand without their accents.
    for (const [name, month] of [...all]) {
      const bare = name.normalize('NFD').replace(/\p{M}/gu, '');
      if (!all.has(bare)) all.set(bare, month);
    }
    months.set(locale, (names = all));
  }
  return /^\d/.test(text) ? 0 : (names.get(plainWord(text)) ?? 0);
}

const weekdays = new WeakMap<Locale, ReadonlyMap<string, number>>();

/** Number of the weekday that a text names in the locale, from 1 for Monday, in full or shortened; 0 for none. */
export function weekdayNamed(text: string, locale: Locale): number {
  let names = weekdays.get(locale);
  if (!names) {
    const all = new Map<string, number>();
    const put = (name: string, day: number) => all.set(name, all.has(name) && all.get(name) !== day ? 0 : day);
    locale.weekdays.forEach((name, i) => {
      // Shortened to two letters or three it may stand for two days: then for none.
      for (const length of [2, 3]) put([...plainWord(name)].slice(0, length).join(''), i + 1);
    });
    locale.weekdays.forEach((name, i) =>
      all.set(plainWord(name), i + 1).set(plainWord(locale.weekdaysShort[i]), i + 1),
    );
    weekdays.set(locale, (names = all));
  }
  return names.get(plainWord(text.trim().replace(/\.$/, ''))) ?? 0;
}

/** Number of the month that a text names in any language known; 0 for none. */
export const monthNumber = (text: string): number =>
  Object.values(locales).reduce<number>((found, locale) => found || monthNamed(text, locale), 0);

const exampleDate = ({ order }: DateFormat, { months: names }: Locale) =>
  /^\d/.test(names[5])
    ? '2025年6月14日'
    : order === 'month day year'
      ? `${names[5]} 14, 2025`
      : order === 'year month day'
        ? '2025-06-14'
        : `14 ${names[5]} 2025`;

/**
 * A reader of calendar dates into ISO text: ISO itself, day and named month in either order, numbers in the order set.
 * Weekdays before the date and words like "as at" are passed over.
 */
export function dateReader(format: DateFormat, locale: Locale): (text: string) => Parsed {
  const expected = misfit(`a date like ${exampleDate(format, locale)}`);
  const fullYear = (text: string) =>
    text.length === 2 ? Number(text) + (Number(text) <= format.pivot ? 2000 : 1900) : Number(text);
  const date = (year: number, month: number, day: number): Parsed =>
    exists(year, month, day) ? value(`${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`) : expected;
  return (text) => {
    let rest = withoutMarks(text);
    if (rest === '') return value(null);
    const first = rest.charCodeAt(0);
    if (first < 48 || first > 57) {
      const lead = /^(\p{L}[\p{L}\s]*\p{L}|\p{L})\s+(?=\d|\p{L}+\.?\s+\d)/u.exec(rest);
      if (lead && isOneOf(locale.on, lead[1])) rest = rest.slice(lead[0].length);
    }
    const numbers = /^(\d{1,4})([./-]|\.\s)(\d{1,2})\2(\d{1,4})$/.exec(rest);
    if (numbers) {
      const [, a, , b, c] = numbers;
      if (a.length === 4) return date(Number(a), Number(b), Number(c));
      if (a.length > 2 || (c.length !== 2 && c.length !== 4)) return expected;
      if (format.order === 'year month day' && c.length === 2) return date(fullYear(a), Number(b), Number(c));
      return format.order === 'month day year'
        ? date(fullYear(c), Number(a), Number(b))
        : date(fullYear(c), Number(b), Number(a));
    }
    const ideographs = /^(\d{4})年\s?(\d{1,2})月\s?(\d{1,2})日$/.exec(rest);
    if (ideographs) return date(Number(ideographs[1]), Number(ideographs[2]), Number(ideographs[3]));
    const named =
      /^(?:\p{L}+\.?,?\s+)??(\d{1,2})(?:st|nd|rd|th|er|º|\.)?[\s\u00a0-]*(?:de\s+)?(\p{L}+\.?),?(?:\s+de)?[\s\u00a0-]+(\d{4}|\d{2})(?:\s?[rg]\.)?$/u.exec(
        rest,
      );
    if (named) return date(fullYear(named[3]), monthNamed(named[2], locale), Number(named[1]));
    const monthFirst = /^(?:\p{L}+\.?,\s+)?(\p{L}+\.?)\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})$/u.exec(rest);
    if (monthFirst) return date(Number(monthFirst[3]), monthNamed(monthFirst[1], locale), Number(monthFirst[2]));
    return expected;
  };
}

const clock = /^(\d{1,2})[:.h](\d{2})(?:[:.](\d{2}))?\s*(?:([ap])\.?m\.?|uhr|h)?$/i;

/** A reader of times of day into ISO text: `06:40`, `06:40:15`. */
export function timeReader(): (text: string) => Parsed {
  const expected = misfit('a time like 06:40 or 6.40 pm');
  return (text) => {
    const rest = withoutMarks(text);
    if (rest === '') return value(null);
    const parts = clock.exec(rest);
    if (!parts) return expected;
    const [, hourText, minute, second, half] = parts;
    const twelve = half !== undefined;
    const hour = twelve ? (Number(hourText) % 12) + (half.toLowerCase() === 'p' ? 12 : 0) : Number(hourText);
    const inRange =
      (twelve ? Number(hourText) >= 1 && Number(hourText) <= 12 : hour <= 23) &&
      Number(minute) < 60 &&
      Number(second ?? 0) < 60;
    return inRange ? value(`${two(hour)}:${minute}${second ? `:${second}` : ''}`) : expected;
  };
}

/** A reader of a date and a time after it, into ISO text: `2025-06-14T06:40`. */
export function datetimeReader(format: DateFormat, locale: Locale): (text: string) => Parsed {
  const readDate = dateReader(format, locale);
  const readTime = timeReader();
  const expected = misfit(`a date and time like ${exampleDate(format, locale)} 06:40`);
  return (text) => {
    const rest = withoutMarks(text);
    if (rest === '') return value(null);
    const parts = /^(.*?\d{2,4}日?)(?:T|,?\s+(?:\p{L}+\s+)?)(\d{1,2}[:.h]\d{2}.*)$/u.exec(rest);
    if (!parts) return expected;
    const [day, time] = [readDate(parts[1]), readTime(parts[2])];
    return 'value' in day && 'value' in time ? value(`${day.value as string}T${time.value as string}`) : expected;
  };
}
