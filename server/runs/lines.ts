// What a refresh says of reports, of what came in, and of what keeps rows out; nothing is done here.
import { checkSentence, type Check } from '../../core/checks/check';
import { mergedNames } from '../../core/pipeline/append';
import { nothingTold, type TieCounts } from '../../core/pipeline/told';
import type { Fate } from '../../core/runs/plan';
import type { ReportState, RunNote, RunReport, WholeTold } from '../../core/runs/run';
import type { Problem } from '../../core/sheet/problem';
import { addedUp, tiesSentence } from '../../core/ties/tied';
import { TooManyColumns, type NewColumn } from '../store/data-table';
import type { StoreError } from '../store/store';
import type { ShareOfWhole } from '../work/tasks/whole';

/** What came into the dataset in this run. */
export function cameIn(reports: readonly RunReport[]): RunNote[] {
  const came = reports.filter(({ state }) => state === 'added' || state === 'changed');
  if (came.length === 0) return [];
  const labels = (wanted: ReportState) =>
    came.filter(({ state }) => state === wanted).map(({ period, path }) => period ?? path);
  const sum = (of: (report: RunReport) => number) => came.reduce((total, report) => total + of(report), 0);
  return [
    {
      kind: 'came',
      added: labels('added'),
      changed: labels('changed'),
      rows: sum(({ rows }) => rows),
      held: sum(({ held }) => held),
    },
  ];
}

/** What came beside the reports that did not come; where nothing is new that is said with it. */
export function waitingBeside(reports: readonly RunReport[]): RunNote[] {
  const out = reports.filter(({ state }) => isOut(state)).length;
  return out > 0 ? [{ kind: 'waiting', reports: out }] : [];
}

/** Checks that reports fail, and cells that do not fit: a refresh that says nothing of them would say that all is well. */
export function wrongWithin(checks: readonly Check[], reports: readonly RunReport[]): RunNote[] {
  const failed = checks.flatMap((each) => {
    const failing = reports.filter(({ problems }) => problems.some(({ check }) => check === each.id)).length;
    return failing > 0 ? [{ expected: checkSentence(each), reports: failing }] : [];
  });
  const misfits = reports.filter((report) => report.misfits > 0);
  return failed.length + misfits.length === 0
    ? []
    : [
        {
          kind: 'wrong within',
          checks: failed.sort((a, b) => b.reports - a.reports),
          misfits: misfits.reduce((sum, report) => sum + report.misfits, 0),
          reports: misfits.length,
        },
      ];
}

/** How the printed totals of rows that are published stand, where that is known: of a stale report those of its last good version. */
export const tiesOf = (of: { readonly ties?: TieCounts | undefined } | undefined) =>
  of?.ties ? { ties: of.ties } : {};

/** How the printed totals of the published reports stand together. */
export const tiesIn = (reports: readonly RunReport[]): TieCounts =>
  addedUp(
    reports.flatMap((report) => (!['failed', 'held back'].includes(report.state) && report.ties ? [report.ties] : [])),
  );

/** With how the printed totals of the published reports stand, where any were printed. */
export function withTies(
  notes: readonly RunNote[],
  reports: readonly RunReport[],
  whole: WholeTold | null,
): readonly RunNote[] {
  const ties = tiesIn(reports);
  const later = whole?.tiedBefore ?? [];
  return tiesSentence(ties) === ''
    ? notes
    : [...notes, { kind: 'totals', ties, ...(later.length > 0 ? { later } : {}) }];
}

/** Rows of the file as it is now cannot be had. */
export const isOut = (state: ReportState) => state === 'failed' || state === 'held back' || state === 'stale';

export const noCounts = { rows: 0, held: 0, misfits: 0 };

export const lineOf = (
  { id, path, period, standingOf }: Fate['report'],
  state: ReportState,
  { rows, held, misfits }: typeof noCounts,
): RunReport => ({
  report: id,
  path,
  period,
  state,
  of: state === 'replaced' || state === 'a copy' ? standingOf : null,
  parsed: false,
  rows,
  held,
  misfits,
  ...nothingTold,
});

/** A report's line with what the steps over all reports made of its rows; how its totals stand is told after these. */
export const withShare = (line: RunReport, share: ShareOfWhole | undefined): RunReport =>
  share
    ? {
        ...line,
        rows: share.rows,
        held: line.held + share.held,
        misfits: share.misfits,
        problems: [...line.problems.filter(({ kind }) => kind !== 'tie-out'), ...share.problems],
        ties: share.ties,
      }
    : line;

export const notStored = (error: StoreError): Problem => ({
  kind: 'not read',
  expected: 'rows that the database takes',
  came: `a refusal (${error.message.replace(/\s+/g, ' ')})`,
  remedy:
    error instanceof TooManyColumns
      ? 'Leave out the columns that are not wanted; where each report brings headings of its own, such as dates, they belong into rows: the step “Unpivot” puts them there.'
      : 'Leave out or rename the column that it names; the other reports are not touched by it.',
  ...(error instanceof TooManyColumns ? { offer: 'unpivot' } : {}),
});

export const otherType = (
  { path }: RunReport,
  { heading, usual, type }: { heading: string; usual: string; type: string },
): Problem => ({
  kind: 'other type',
  report: path,
  column: heading,
  expected: `the type ${usual} as in the other reports`,
  came: type,
  remedy: 'Set its type in a step that reaches every report.',
});

export function mergedColumns(lists: readonly (readonly NewColumn[])[]): NewColumn[] {
  const known = new Map(lists.flat().map((column) => [column.heading, column]));
  return mergedNames(lists.map((list) => list.map(({ heading }) => heading))).map((heading) => known.get(heading)!);
}
