import { slotsOf } from '../intake/periods';
import type { RunReport } from './run';

/** How a period stands in the dataset; `not yet`: its report came after the last refresh. */
export type PeriodStands = 'in' | 'stale' | 'waits' | 'failed' | 'not yet' | 'no report' | 'none expected';

/** A period, or a report without one, and how it stands. */
export interface PeriodSlot {
  /** ISO text; null where the report's name tells none. */
  readonly period: string | null;
  readonly stands: PeriodStands;
  /** Paths of its reports. */
  readonly paths: readonly string[];
}

const standsIn: Partial<Record<RunReport['state'], PeriodStands>> = {
  added: 'in',
  changed: 'in',
  unchanged: 'in',
  stale: 'stale',
  failed: 'failed',
  'held back': 'waits',
};
/** What is told of a period with several reports: the worst. */
const worstFirst: readonly PeriodStands[] = ['failed', 'waits', 'stale', 'not yet', 'in'];

/** @param reports of the folder @param lines of the last run that came to them @param none periods known to have no report */
export function periodStrip(
  reports: readonly {
    readonly id: number;
    readonly path: string;
    readonly period: string | null;
    readonly standing: string;
  }[],
  lines: readonly Pick<RunReport, 'report' | 'state'>[],
  none: readonly string[],
): PeriodSlot[] {
  const states = new Map(lines.map(({ report, state }) => [report, state]));
  const standing = (report: (typeof reports)[number]): PeriodStands => {
    if (report.standing === 'undecided') return 'waits';
    if (report.standing === 'not readable') return 'failed';
    const state = states.get(report.id);
    return (state && standsIn[state]) ?? 'not yet';
  };
  const counted = reports.filter((report) => ['counts', 'undecided', 'not readable'].includes(report.standing));
  return slotsOf(counted).map(({ period, reports: own }) => {
    const all = own.map(standing);
    const stands =
      worstFirst.find((each) => all.includes(each)) ??
      (period !== null && none.includes(period) ? 'none expected' : 'no report');
    return { period, stands, paths: own.map(({ path }) => path) };
  });
}
