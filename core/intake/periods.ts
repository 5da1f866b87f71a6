import { nextPeriod } from '../values/period';

/** One slot of the time ruler: a period and what is there for it; none: a hole. */
export interface Slot<Report> {
  /** ISO text; null for reports without a period. */
  readonly period: string | null;
  readonly reports: readonly Report[];
}

/** No ruler is longer than this; with wider gaps the periods that are there stand alone. */
const most = 400;

/** Reports in slots of time: one slot a period, a period without a report is a hole; those without a period come last. */
export function slotsOf<Report extends { readonly period: string | null }>(reports: readonly Report[]): Slot<Report>[] {
  const dated = reports.filter((report) => report.period !== null).sort((a, b) => (a.period! < b.period! ? -1 : a.period! > b.period! ? 1 : 0));
  const slots: { period: string | null; reports: Report[] }[] = [];
  for (const report of dated) {
    const open = slots.at(-1);
    if (open?.period === report.period) {
      open!.reports.push(report);
      continue;
    }
    const holes: string[] = [];
    for (let next = open && nextPeriod(open.period!); next !== undefined && next < report.period! && holes.length < most; next = nextPeriod(next)) holes.push(next);
    if (holes.length < most) slots.push(...holes.map((period) => ({ period, reports: [] })));
    slots.push({ period: report.period, reports: [report] });
  }
  return [...slots, ...reports.filter((report) => report.period === null).map((report) => ({ period: null, reports: [report] }))];
}
