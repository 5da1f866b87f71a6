import { noteSentence } from '../../../../core/runs/run';
import type { LayerCounts, Need, RunProgress } from '../../../../server/contract/contract';

/** A moment of the database as a short day and time of this machine's place. */
export function dayOf(moment: string): string {
  const date = new Date(moment.replace(' ', 'T').replace(/([+-]\d\d)$/, '$1:00'));
  return Number.isNaN(date.getTime()) ? moment : date.toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
}

/** The part of a period that tells it from its neighbours. */
export function shortPeriod(period: string): string {
  const week = /-W(\d\d)$/.exec(period);
  if (week) return `wk ${Number(week[1])}`;
  const quarter = /-Q(\d)$/.exec(period);
  if (quarter) return `Q${quarter[1]}`;
  const month = /^\d{4}-(\d\d)$/.exec(period);
  return month ? ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'][Number(month[1]) - 1] : period;
}

/** What a run does now. */
export function progressSentence(now: RunProgress['now']): string {
  switch (now.kind) {
    case 'folder':
      return 'Looking at the folder';
    case 'whole':
      return 'Steps that need all reports at once';
    case 'publishing':
      return 'Publishing';
    case 'report':
      return now.page === undefined ? now.path : `${now.path}, page ${now.page} of ${now.pages}`;
  }
}

/** What needs the analyst, in a sentence. */
export function needSentence(need: Need): string {
  switch (need.kind) {
    case 'not refreshed':
      return 'Not refreshed yet';
    case 'run ended':
      return need.notes.map(noteSentence).join(' ') || `The last refresh ended as ${need.state}`;
    case 'failed':
      return `${plural(need.count, 'report')} could not be read`;
    case 'differs':
      return `${plural(need.count, 'difference between reports waits', 'differences between reports wait')} for an answer`;
    case 'no report':
      return `no report for ${plural(need.count, 'period')}`;
    case 'checks':
      return `${plural(need.count, 'check fails', 'checks fail')}`;
    case 'held back':
      return `${plural(need.count, 'report is', 'reports are')} held back`;
    case 'stale':
      return `${plural(need.count, 'report is', 'reports are')} held at the last good version`;
    case 'misfits':
      return plural(need.count, 'misfit');
    case 'totals off':
      return plural(need.count, 'printed total is off', 'printed totals are off');
  }
}

export const plural = (count: number, one: string, many = `${one}s`) => `${count.toLocaleString('en')} ${count === 1 ? one : many}`;

/** What a step that turns columns into rows made of them; nothing for other steps. */
export const becameSentence = ({ rowsIn, turned, rows, held }: LayerCounts): string | undefined =>
  turned === undefined ? undefined : `${plural(rowsIn, 'row')} × ${plural(turned, 'column')} became ${plural(rows, 'row')}${held > 0 ? `; ${held.toLocaleString('en')} blank held` : ''}`;

/** What a step was called when layers were counted, by its id. */
export const titleIn = (layers: readonly LayerCounts[]) => (id: string) => layers.find((layer) => layer.id === id)?.title ?? id;
