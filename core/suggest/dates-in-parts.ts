import { cellText, isBlank } from '../values/cell';
import { monthNumber } from '../values/date';
import { locales, type Locale } from '../values/locale';
import { periodReader } from '../values/period';
import type { Sheet } from '../sheet/sheet';
import { isDateWithoutYear, isWholeDate, isYear } from '../values/date-texts';
import { reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** A month that is told once and a day in each row, or a year that is told once and dates without one, or a month or quarter of it. */
export const datesInParts: Detector = ({ reports, locale }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  if (sheets.length === 0) return [];
  const named = (test: (texts: readonly string[]) => boolean, only?: string) =>
    sheets[0].columns.map(({ name }) => name).find((name) => (only === undefined || name === only) &&
      sheets.every((sheet) => {
        const texts = filledIn(sheet, name);
        return texts.length > 0 && test(texts);
      }),
    );
  const told = (test: (text: string) => boolean) => named((texts) => new Set(texts).size === 1 && test(texts[0]));
  const yearless = named((texts) => texts.every(isDateWithoutYear));
  const year = yearless === undefined ? undefined : told(isWholeDate) ?? told(isMonthAndYear) ?? told(isPeriodIn(locales[locale()])) ?? told(isYear);
  if (year !== undefined) return [{ zone: 'eachReport', kind: 'date from parts', settings: { of: 'a year and a date without one', whole: year, part: yearless, into: yearless, locale: locale() }, reason: `the dates in “${yearless}” have no year, and “${year}” tells it` }];
  const ofYear = told(isYear);
  const [within] = ofYear === undefined ? [] : partsOfYear.flatMap(({ of, called, test }) => sheets[0].columns.filter(({ name }) => called.test(name) && named((texts) => new Set(texts).size === 1 && test(texts[0]), name)).map(({ name }) => ({ of, name })));
  if (within) return [{ zone: 'eachReport', kind: 'date from parts', settings: { of: within.of, whole: ofYear, part: within.name, into: within.name, locale: locale() }, reason: `“${within.name}” is one of the year in “${ofYear}”` }];
  const whole = named((texts) => texts.every(isMonthAndYear));
  const part = named(areDaysInOrder) ?? sheets[0].columns.map(({ name }) => name).filter((name) => dayWords.test(name)).find((name) => named((days) => areDays(days) && (days.length === 1 || new Set(days).size > 1), name));
  if (whole === undefined || part === undefined) return [];
  return [{ zone: 'eachReport', kind: 'date from parts', settings: { of: 'a month and a day', whole, part, into: 'Date' }, reason: `“${part}” is a day of the month in “${whole}”` }];
};

const dayWords = /^(?:day|date|tag|datum|jour|d[íi]a|giorno|data|dag|dzie[ńn])(?: of (?:the )?month)?$/i;
const areDays = (texts: readonly string[]): boolean => texts.every((text) => /^\d{1,2}\.?$/.test(text) && Number.parseInt(text, 10) >= 1 && Number.parseInt(text, 10) <= 31);
/** Most of a month, one day after the other: counts of something are small numbers, too, and in no order. */
const fewestDays = 20;
const inOrder = 0.8;
function areDaysInOrder(texts: readonly string[]): boolean {
  if (!areDays(texts) || new Set(texts).size < fewestDays) return false;
  const days = texts.map((text) => Number.parseInt(text, 10));
  return days.slice(1).filter((day, i) => day === days[i] || day === days[i] + 1).length >= inOrder * (days.length - 1);
}

/** A quarter or a month that is told once, in a column that is called so, beside a year that is told once. */
const partsOfYear: readonly { readonly of: string; readonly called: RegExp; readonly test: (text: string) => boolean }[] = [
  { of: 'a year and a quarter', called: /quart|trimest|kwarta|kvarta/i, test: (text) => /^(?:Q\s?)?[1-4]$/i.test(text) },
  { of: 'a year and a month', called: /^month$/i, test: (text) => monthNumber(text) > 0 || /^(?:0?[1-9]|1[0-2])$/.test(text) },
];

function filledIn({ columns }: Sheet, name: string): string[] {
  return (columns.find((column) => column.name === name)?.cells ?? []).filter((cell) => !isBlank(cell)).map(cellText);
}

/** A week, a quarter or the like with its year. */
const isPeriodIn = (locale: Locale) => {
  const read = periodReader({ fiscalStart: 1 }, locale);
  return (text: string): boolean => /\p{L}/u.test(text) && 'value' in read(text);
};

const isMonthAndYear = (text: string): boolean => {
  const words = text.split(/[\s,./-]+/).filter(Boolean);
  return words.length === 2 && words.some((word) => /^(?:19|20)\d\d$/.test(word)) && words.some((word) => monthNumber(word) > 0);
};
