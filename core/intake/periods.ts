import { dateOfDay, dayNumber, daysIn } from '../values/date';
import { nextPeriod } from '../values/period';

/** One slot of the time ruler: a period and what is there for it; none: a hole. */
export interface Slot<Report> {
  /** ISO text; null for reports without a period. */
  readonly period: string | null;
  readonly reports: readonly Report[];
}

/** Periods between the first and the last for which no report is there, but for those known to have none. */
export const gapsIn = (
  reports: readonly { readonly period: string | null; readonly standing: string }[],
  none: readonly string[] = [],
): string[] =>
  slotsOf(reports.filter(({ standing }) => ['counts', 'replaced', 'undecided'].includes(standing))).flatMap(
    ({ period, reports: own }) => (period !== null && own.length === 0 && !none.includes(period) ? [period] : []),
  );

/** No ruler is longer than this; with wider gaps the periods that are there stand alone. */
const most = 400;

/** Reports in slots of time: one slot a period, a period without a report is a hole; those without a period come last. */
export function slotsOf<Report extends { readonly period: string | null }>(reports: readonly Report[]): Slot<Report>[] {
  const dated = reports
    .filter((report) => report.period !== null)
    .sort((a, b) => (a.period! < b.period! ? -1 : a.period! > b.period! ? 1 : 0));
  const next = nextIn(dated.map((report) => report.period!));
  const slots: { period: string | null; reports: Report[] }[] = [];
  for (const report of dated) {
    const open = slots.at(-1);
    if (open?.period === report.period) {
      open.reports.push(report);
      continue;
    }
    const holes: string[] = [];
    for (
      let at = open && next(open.period!);
      at !== undefined && at < report.period! && holes.length < most;
      at = next(at)
    )
      holes.push(at);
    if (holes.length < most) slots.push(...holes.map((period) => ({ period, reports: [] })));
    slots.push({ period: report.period, reports: [report] });
  }
  return [
    ...slots,
    ...reports.filter((report) => report.period === null).map((report) => ({ period: null, reports: [report] })),
  ];
}

/** How reports by day follow one another. */
export type Rhythm = 'daily' | 'workdays' | 'weekly' | 'monthly';

/** Most steps from one report to the next must be those of the rhythm. */
const enough = 0.6;

/** The rhythm in which days follow one another; undefined where they follow none, or are too few to tell. */
export function rhythmOf(days: readonly string[]): Rhythm | undefined {
  const numbers = [...new Set(days)].sort().map(dayOf);
  if (numbers.length < 3) return undefined;
  const steps = numbers.slice(1).map((day, i) => day - numbers[i]);
  const share = (test: (step: number, from: number) => boolean) =>
    steps.filter((step, i) => test(step, numbers[i])).length / steps.length;
  // 1 January 1970, day 0, was a Thursday.
  const weekday = (day: number) => (((day + 3) % 7) + 7) % 7;
  if (
    numbers.every((day) => weekday(day) < 5) &&
    share((step, from) => step === (weekday(from) === 4 ? 3 : 1)) >= enough &&
    numbers.some((day) => weekday(day) === 4)
  )
    return 'workdays';
  if (share((step) => step === 1) >= enough) return 'daily';
  if (share((step) => step === 7) >= enough) return 'weekly';
  return share((step, from) => step === monthLater(from) - from) >= enough ? 'monthly' : undefined;
}

const parts = (day: string) => day.split('-').map(Number) as [number, number, number];
const dayOf = (day: string): number => dayNumber(...parts(day));

/** The same day of the next month; the last one where this is the last of its month, or where the next is shorter. */
function monthLater(day: number): number {
  const [year, month, of] = parts(dateOfDay(day));
  const [y, m] = month === 12 ? [year + 1, 1] : [year, month + 1];
  return dayNumber(y, m, of === daysIn(year, month) ? daysIn(y, m) : Math.min(of, daysIn(y, m)));
}

/** What comes after a period: of days as their rhythm has it, of others as the calendar has it. */
function nextIn(periods: readonly string[]): (period: string) => string | undefined {
  const isDay = (period: string) => /^\d{4}-\d{2}-\d{2}$/.test(period);
  const rhythm = rhythmOf(periods.filter(isDay));
  return (period) => {
    if (!isDay(period)) return nextPeriod(period);
    const day = dayOf(period);
    switch (rhythm) {
      case 'daily':
        return dateOfDay(day + 1);
      case 'workdays':
        return dateOfDay(day + ((day + 3) % 7 === 4 ? 3 : 1));
      case 'weekly':
        return dateOfDay(day + 7);
      case 'monthly':
        return dateOfDay(monthLater(day));
      default:
        return undefined;
    }
  };
}
