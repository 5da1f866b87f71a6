import { cellText, isBlank } from '../values/cell';
import { monthNumber } from '../values/date';
import type { Sheet } from '../sheet/sheet';
import { isDateWithoutYear, isWholeDate, isYear } from './date-texts';
import { reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** A month that is told once and a day in each row, or a year that is told once and dates without one. */
export const datesInParts: Detector = ({ reports, locale }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  if (sheets.length === 0) return [];
  const named = (test: (texts: readonly string[]) => boolean) =>
    sheets[0].columns.map(({ name }) => name).find((name) =>
      sheets.every((sheet) => {
        const texts = filledIn(sheet, name);
        return texts.length > 0 && test(texts);
      }),
    );
  const told = (test: (text: string) => boolean) => named((texts) => new Set(texts).size === 1 && test(texts[0]));
  const yearless = named((texts) => texts.every(isDateWithoutYear));
  const year = yearless === undefined ? undefined : told(isWholeDate) ?? told(isMonthAndYear) ?? told(isYear);
  if (year !== undefined) return [{ zone: 'eachReport', kind: 'date from parts', settings: { of: 'a year and a date without one', whole: year, part: yearless, into: yearless, locale: locale() }, reason: `the dates in “${yearless}” have no year, and “${year}” tells it` }];
  const whole = named((texts) => texts.every(isMonthAndYear));
  const part = named((days) => days.every((text) => /^\d{1,2}\.?$/.test(text) && Number.parseInt(text, 10) >= 1 && Number.parseInt(text, 10) <= 31) && new Set(days).size >= Math.min(20, days.length));
  if (whole === undefined || part === undefined) return [];
  return [{ zone: 'eachReport', kind: 'date from parts', settings: { of: 'a month and a day', whole, part, into: 'Date' }, reason: `“${part}” is a day of the month in “${whole}”` }];
};

function filledIn({ columns }: Sheet, name: string): string[] {
  return (columns.find((column) => column.name === name)?.cells ?? []).filter((cell) => !isBlank(cell)).map(cellText);
}

const isMonthAndYear = (text: string): boolean => {
  const words = text.split(/[\s,./-]+/).filter(Boolean);
  return words.length === 2 && words.some((word) => /^(?:19|20)\d\d$/.test(word)) && words.some((word) => monthNumber(word) > 0);
};
