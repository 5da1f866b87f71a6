import type { Problem } from '../../../../core/sheet/problem';
import type { RunReport } from '../../../../core/runs/run';
import type { OrUnreadable, ReportSummary, StoredReport } from '../../../../server/contract/contract';
import { plural } from '../shared/words';

/** How one report stands, in a word and a tone. */
export interface Standing {
  readonly word: string;
  readonly tone: 'passes' | 'needs' | 'error' | 'plain';
  readonly detail: string;
}

/** What is known of a report beside what the folder tells. */
export interface ReadSoFar {
  /** Being read now. */
  readonly progress: { readonly page: number; readonly pages: number } | undefined;
  readonly summary: OrUnreadable<ReportSummary> | undefined;
  /** Reports are being read, so that its turn will come. */
  readonly reading: boolean;
  /** Something is taken from the reports: one may be held back. */
  readonly takes: boolean;
  /** It waits for an answer since the last refresh. */
  readonly differs?: boolean;
  /** What the last refresh said of it. */
  readonly last?: Pick<RunReport, 'state' | 'rows'> | undefined;
}

/** How a report stands, from the folder, the reading and the steps so far. */
export function standingOf(report: Pick<StoredReport, 'standing' | 'standingOf'>, { progress, summary, reading, takes, differs = false, last }: ReadSoFar, sentenceOf: (problem: Problem) => string): Standing {
  switch (report.standing) {
    case 'replaced':
      return { word: 'replaced', tone: 'plain', detail: `replaced by ${report.standingOf}` };
    case 'undecided':
      return { word: 'two issues', tone: 'needs', detail: `${report.standingOf} is for the same period, and the names do not tell which is the later` };
    case 'set aside':
      return { word: 'set aside', tone: 'plain', detail: 'by hand' };
    case 'not readable':
      return { word: 'not readable', tone: 'error', detail: 'this program may not open it' };
    case 'left out':
      return { word: 'left out', tone: 'needs', detail: report.standingOf ?? '' };
    case 'a copy':
      return { word: 'a copy', tone: 'plain', detail: `same content as ${report.standingOf}` };
    case 'not a PDF':
      return { word: 'not a PDF', tone: 'plain', detail: 'left alone' };
  }
  if (progress) return { word: 'reading', tone: 'plain', detail: `page ${progress.page} of ${progress.pages}` };
  const known = last && atLastRefresh(last, differs);
  if (!summary && known) return known;
  if (!summary) return { word: reading ? 'waiting' : 'not read', tone: 'plain', detail: '' };
  if ('unreadable' in summary) return { word: summary.unreadable.kind, tone: 'error', detail: sentenceOf(summary.unreadable) };
  if (summary.scanned) return { word: 'scanned', tone: 'needs', detail: 'no text on its pages' };
  if (summary.heldBack.length > 0 && takes) return { word: 'held back', tone: 'needs', detail: summary.heldBack.map(sentenceOf).join(' ') };
  if (differs) return { word: 'differs', tone: 'needs', detail: 'something is different about it, and waits for an answer' };
  const detail = `${plural(summary.pageCount, 'page')}, ${plural(summary.tables.length, 'table')} found`;
  if (summary.misfits > 0) return { word: plural(summary.misfits, 'misfit'), tone: 'needs', detail };
  return { word: 'read', tone: 'passes', detail };
}

/** What is known of a report before it is read again; undefined where the last refresh did not come to it. */
function atLastRefresh({ state, rows }: Pick<RunReport, 'state' | 'rows'>, differs: boolean): Standing | undefined {
  const detail = `${plural(rows, 'row')} at the last refresh`;
  if (differs) return { word: 'differs', tone: 'needs', detail };
  switch (state) {
    case 'added':
    case 'changed':
    case 'unchanged':
      return { word: 'read', tone: 'passes', detail };
    case 'stale':
    case 'held back':
      return { word: state, tone: 'needs', detail };
    case 'failed':
      return { word: 'failed', tone: 'error', detail: 'it could not be had at the last refresh' };
    default:
      return undefined;
  }
}
