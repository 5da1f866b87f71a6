import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import {
  dateOfDay,
  dateReader,
  dayNumber,
  daysIn,
  monthNamed,
  usualPivot,
  weekdayNamed,
  type DateOrder,
} from '../values/date';
import { localeNames, locales, type Locale } from '../values/locale';
import { daysOf, periodReader } from '../values/period';
import { columnNamed, freeNames, missingColumn, type Column } from '../sheet/column';
import type { Problem } from '../sheet/problem';
import { sheet as makeSheet } from '../sheet/sheet';
import { field, step, when, widget } from './step';

const ways = [
  'a week and a weekday',
  'a month and a day',
  'a year and a date without one',
  'a year and a month',
  'a year and a quarter',
] as const;
type Way = (typeof ways)[number];
const weeks = ['ends on that date', 'begins on that date', 'is the week of that date, from Monday'] as const;

export const dateFromParts = step({
  kind: 'date from parts',
  title: 'Date from parts',
  group: 'values',
  help: 'A date or period that is printed in two places, such as “Week ending 14 June 2025” and the heading “Tue”, becomes one. It is traced to both.',
  settings: {
    of: field(v.optional(v.picklist(ways), 'a week and a weekday'), 'Put together from'),
    whole: field(widget(v.string(), { widget: 'column' }), 'The week, month or year in', 'A date or a period.'),
    part: field(
      widget(v.string(), { widget: 'column' }),
      'The weekday, day, month or quarter in',
      'Or a date without a year, as 3 June.',
    ),
    week: field(when(v.optional(v.picklist(weeks), 'ends on that date'), 'of', 'a week and a weekday'), 'The week'),
    fiscalStart: field(
      when(
        v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(12)), 1),
        'of',
        'a year and a month',
        'a year and a quarter',
      ),
      'The year begins in month',
    ),
    called: field(
      when(
        v.optional(v.picklist(['in which it ends', 'in which it begins']), 'in which it ends'),
        'of',
        'a year and a month',
        'a year and a quarter',
      ),
      'A fiscal year is called by the year',
    ),
    locale: field(v.optional(v.picklist(localeNames), 'en-GB'), 'Printed as in'),
    into: field(v.optional(v.string(), 'Date'), 'Into column'),
    keep: field(v.optional(v.boolean(), false), 'Keep the two columns, too'),
  },
  commutesWithAppend: true,
  describe: ({ of, whole, part, into }) =>
    `${into} from ${of}: ${whole || '(no column yet)'} and ${part || '(no column yet)'}`,
  run(sheet, { of, whole, part, week, fiscalStart, called, locale, into, keep }) {
    const [first, second] = [columnNamed(sheet, whole), columnNamed(sheet, part)];
    const missing = [first ? [] : missingColumn(sheet, whole), second ? [] : missingColumn(sheet, part)].flat();
    if (!first || !second) return { sheet, problems: missing };
    const make = maker(of, { week, fiscalStart, begins: called === 'in which it begins', locale: locales[locale] });
    const others = sheet.columns.filter((column) => keep || (column !== first && column !== second));
    const name = freeNames(others)(into || 'Date');
    const problems: Problem[] = [];
    const cells = sheet.rows.map((row): Cell => {
      const [a, b] = [first.cells[row], second.cells[row]];
      if (isBlank(a) || isBlank(b) || isError(a) || isError(b)) return isError(a) ? a : isError(b) ? b : null;
      const made = make(cellText(a).trim(), cellText(b).trim());
      if ('value' in made) return made.value;
      const text = `${cellText(a)} ${cellText(b)}`;
      problems.push({
        kind: 'misfit',
        report: sheet.rows.report(row),
        page: sheet.rows.page(row),
        row: sheet.rows.id(row),
        column: name,
        expected: made.expected,
        came: `“${text}”`,
        remedy: 'Correct one of the two with a step above, hold the row, or say otherwise what they are.',
      });
      return { text, expected: made.expected };
    });
    const one: Column = {
      name,
      type: of === 'a year and a month' || of === 'a year and a quarter' ? 'period' : 'date',
      cells,
      origins: Int32Array.from(cells, (cell, row) =>
        isBlank(cell) ? -1 : sheet.rows.book.origins.union([first.origins[row], second.origins[row]]),
      ),
    };
    const at =
      sheet.columns.filter((column) => others.includes(column) || column === first).indexOf(first) + (keep ? 1 : 0);
    return {
      sheet: makeSheet([...others.slice(0, at), one, ...others.slice(at)], sheet.rows),
      ...(keep ? {} : { leftOut: [first, second].filter((column, i, all) => all.indexOf(column) === i) }),
      problems,
    };
  },
});

type Made = { readonly value: string } | { readonly expected: string };
interface How {
  readonly week: (typeof weeks)[number];
  readonly fiscalStart: number;
  /** Is a fiscal year called by the year in which it begins? */
  readonly begins: boolean;
  readonly locale: Locale;
}
const two = (n: number) => String(n).padStart(2, '0');

/** Puts two texts together. */
function maker(of: Way, { week, fiscalStart, begins, locale }: How): (whole: string, part: string) => Made {
  const asDate = dateReader({ order: locale.dateOrder as DateOrder, pivot: usualPivot }, locale);
  const asPeriod = periodReader({ fiscalStart }, locale);
  /** The first and last day of what a text says, as ISO or as printed: a date is both. */
  const extentOf = (text: string) => {
    const period = daysOf(text);
    if (period) return period;
    const read = asDate(text);
    if ('value' in read && typeof read.value === 'string') return { first: read.value, last: read.value };
    const printed = asPeriod(text);
    return 'value' in printed && typeof printed.value === 'string' ? daysOf(printed.value) : undefined;
  };
  const numberOf = (iso: string) =>
    dayNumber(Number(iso.slice(0, 4)), Number(iso.slice(5, 7)), Number(iso.slice(8, 10)));
  switch (of) {
    case 'a week and a weekday':
      return (whole, part) => {
        const days = extentOf(whole);
        const weekday = weekdayNamed(part, locale);
        // A month or a year is no week: which of its weeks is not said.
        if (!days || ![0, 6].includes(numberOf(days.last) - numberOf(days.first)))
          return { expected: 'a date or a week, and a weekday' };
        if (weekday === 0) return { expected: `a weekday such as ${locale.weekdays[1]}` };
        const isWeek = days.first !== days.last;
        const from = numberOf(days.first);
        // Monday is 0; 1 January 1970 was a Thursday.
        const monday = from - ((((from + 3) % 7) + 7) % 7);
        const begin =
          isWeek || week === 'is the week of that date, from Monday'
            ? monday
            : week === 'begins on that date'
              ? from
              : from - 6;
        const start = (((begin + 3) % 7) + 7) % 7;
        return { value: dateOfDay(begin + ((weekday - 1 - start + 7) % 7)) };
      };
    case 'a month and a day':
      return (whole, part) => {
        const days = extentOf(whole);
        const day = /^\d{1,2}(?:st|nd|rd|th|\.)?$/.exec(part) ? Number.parseInt(part, 10) : 0;
        if (!days || days.first.slice(0, 7) !== days.last.slice(0, 7)) return { expected: 'a month, and a day of it' };
        const [year, month] = [Number(days.first.slice(0, 4)), Number(days.first.slice(5, 7))];
        return day >= 1 && day <= daysIn(year, month)
          ? { value: `${days.first.slice(0, 7)}-${two(day)}` }
          : { expected: `a day of ${days.first.slice(0, 7)}` };
      };
    case 'a year and a date without one':
      return (whole, part) => {
        const days = extentOf(whole);
        const expected = 'a year, or a date of it, and a day with its month';
        if (!days) return { expected };
        const [first, last] = [numberOf(days.first), numberOf(days.last)];
        const own = Number(days.first.slice(0, 4));
        /** How far a day lies from what the whole says: December stands in a report of January, too. */
        const away = (iso: string) => Math.max(0, first - numberOf(iso), numberOf(iso) - last);
        const [nearest] = [own, own - 1, own + 1]
          .flatMap((year) => {
            for (const between of [' ', ', ', '/', '.', '']) {
              const read = asDate(`${part}${between}${year}`);
              if ('value' in read && typeof read.value === 'string') return [read.value];
            }
            return [];
          })
          .sort((a, b) => away(a) - away(b));
        return nearest === undefined ? { expected } : { value: nearest };
      };
  }
  /** The year in which a year begins, as it is called: “2024/25” says it itself. 0: no year, or several. */
  const beginOf = (text: string): number => {
    const [first, ...more] = [...text.matchAll(/(?<!\d)\d{4}(?!\d)/g)].map(([digits]) => Number(digits));
    const both = /(?<!\d)(\d{4})\s*[/–-]\s*(?:\d{2})?(\d{2})(?!\d)/.exec(text);
    if (both && fiscalStart !== 1 && (Number(both[1]) + 1) % 100 === Number(both[2])) return Number(both[1]);
    return first === undefined || more.length > 0 ? 0 : fiscalStart === 1 || begins ? first : first - 1;
  };
  /** The calendar year of a month of a year that begins in another. */
  const calendar = (begin: number, month: number) => (month >= fiscalStart ? begin : begin + 1);
  if (of === 'a year and a month')
    return (whole, part) => {
      const [year, month] = [beginOf(whole), monthNamed(part, locale) || (/^\d{1,2}$/.test(part) ? Number(part) : 0)];
      if (year === 0) return { expected: 'a year of four digits, and a month' };
      return month >= 1 && month <= 12
        ? { value: `${calendar(year, month)}-${two(month)}` }
        : { expected: `a month such as ${locale.monthsAlone[5]}` };
    };
  return (whole, part) => {
    const [year, quarter] = [beginOf(whole), Number(/(?:^|\D)([1-4])(?:\D|$)/.exec(part)?.[1] ?? 0)];
    if (year === 0) return { expected: 'a year of four digits, and a quarter' };
    if (quarter === 0) return { expected: 'a quarter such as Q2' };
    if (fiscalStart === 1) return { value: `${year}-Q${quarter}` };
    const from = ((fiscalStart - 1 + 3 * (quarter - 1)) % 12) + 1;
    const to = ((from + 1) % 12) + 1;
    const begin = calendar(year, from);
    // A quarter of a fiscal year may be one of the calendar.
    return from % 3 === 1
      ? { value: `${begin}-Q${(from + 2) / 3}` }
      : { value: `${begin}-${two(from)}/${to < from ? begin + 1 : begin}-${two(to)}` };
  };
}
