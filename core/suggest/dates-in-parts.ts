import { cellText, isBlank } from '../values/cell';
import { monthNumber } from '../values/date';
import type { Sheet } from '../sheet/sheet';
import { reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** A month that is told once and a day in each row. */
export const datesInParts: Detector = ({ reports }) => {
  const sheets = reports.map(reportSheet).filter(({ rows }) => rows.length > 0);
  if (sheets.length === 0) return [];
  const named = (test: (sheet: Sheet, name: string) => boolean) => sheets[0].columns.map(({ name }) => name).find((name) => sheets.every((sheet) => test(sheet, name)));
  const whole = named((sheet, name) => filledIn(sheet, name).length > 0 && filledIn(sheet, name).every(isMonthAndYear));
  const part = named((sheet, name) => {
    const days = filledIn(sheet, name);
    return days.length > 0 && days.every((text) => /^\d{1,2}\.?$/.test(text) && Number.parseInt(text, 10) >= 1 && Number.parseInt(text, 10) <= 31) && new Set(days).size >= Math.min(20, days.length);
  });
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
