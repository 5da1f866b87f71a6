import { cellText, isBlank } from '../values/cell';
import { monthNumber } from '../values/date';
import { isDateWithoutYear, isWholeDate, isYear } from '../values/date-texts';
import { locales, type Locale } from '../values/locale';
import { periodReader } from '../values/period';
import type { Sheet } from '../sheet/sheet';
import { linesOutside } from './page-headings';
import { reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** A month that is told once and a day in each row, or a year that is told once and dates without one, or a month or quarter of it. */
export const datesInParts: Detector = ({ reports, locale }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  if (sheets.length === 0) return [];
  /** The first column that passes in every report. */
  const named = (test: (texts: readonly string[], name: string) => boolean) =>
    sheets[0].columns
      .map(({ name }) => name)
      .find((name) =>
        sheets.every((sheet) => {
          const texts = filledIn(sheet, name);
          return texts.length > 0 && test(texts, name);
        }),
      );
  const told = (test: (text: string) => boolean, called = /./) =>
    named((texts, name) => called.test(name) && new Set(texts).size === 1 && test(texts[0]));
  const put = (of: string, whole: string, part: string, into: string, reason: string) => [
    {
      zone: 'eachReport' as const,
      kind: 'date from parts',
      settings: { of, whole, part, into, locale: locale() },
      reason,
    },
  ];
  const yearless = named((texts) => texts.every(isDateWithoutYear));
  const year =
    yearless === undefined
      ? undefined
      : (told(isWholeDate) ?? told(isMonthAndYear) ?? told(isPeriodIn(locales[locale()])) ?? told(isYear));
  if (yearless !== undefined && year !== undefined)
    return put(
      'a year and a date without one',
      year,
      yearless,
      yearless,
      `the dates in “${yearless}” have no year, and “${year}” tells it`,
    );
  // Which quarter of the calendar one of a fiscal year is, is for the analyst to say.
  const calendarYear = reports.some((report) =>
    linesOutside(report, 'taken tables').some(({ text }) => fiscal.test(text)),
  )
    ? undefined
    : told(isYear);
  for (const { of, called, test } of partsOfYear) {
    const part = told(test, called);
    if (calendarYear !== undefined && part !== undefined)
      return put(of, calendarYear, part, part, `“${part}” is one of the year in “${calendarYear}”`);
  }
  const month = named((texts) => texts.every(isMonthAndYear));
  const day =
    named(areDaysInOrder) ??
    named((texts, name) => dayWords.test(name) && areDays(texts) && (texts.length === 1 || new Set(texts).size > 1));
  return month === undefined || day === undefined
    ? []
    : put('a month and a day', month, day, 'Date', `“${day}” is a day of the month in “${month}”`);
};

const fiscal = /fiscal|\bFY\s?\d|geschäftsjahr|exercice|ejercicio|esercizio|boekjaar|räkenskapsår|obrotow/i;
const dayWords = /^(?:day|date|tag|datum|jour|d[íi]a|giorno|data|dag|dzie[ńn])(?: of (?:the )?month)?$/i;
const areDays = (texts: readonly string[]): boolean =>
  texts.every((text) => /^\d{1,2}\.?$/.test(text) && Number.parseInt(text, 10) >= 1 && Number.parseInt(text, 10) <= 31);
/** Most of a month, one day after the other: counts of something are small numbers, too, and in no order. */
const fewestDays = 20;
const inOrder = 0.8;
function areDaysInOrder(texts: readonly string[]): boolean {
  if (!areDays(texts) || new Set(texts).size < fewestDays) return false;
  const days = texts.map((text) => Number.parseInt(text, 10));
  return days.slice(1).filter((day, i) => day === days[i] || day === days[i] + 1).length >= inOrder * (days.length - 1);
}

/** A quarter or a month that is told once, in a column that is called so, beside a year that is told once. */
const partsOfYear: readonly {
  readonly of: string;
  readonly called: RegExp;
  readonly test: (text: string) => boolean;
}[] = [
  {
    of: 'a year and a quarter',
    called: /quart|trimest|kwarta|kvarta/i,
    test: (text) => /^(?:Q\s?)?[1-4]$/i.test(text),
  },
  {
    of: 'a year and a month',
    called: /^month$/i,
    test: (text) => monthNumber(text) > 0 || /^(?:0?[1-9]|1[0-2])$/.test(text),
  },
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
  return (
    words.length === 2 &&
    words.some((word) => /^(?:19|20)\d\d$/.test(word)) &&
    words.some((word) => monthNumber(word) > 0)
  );
};
