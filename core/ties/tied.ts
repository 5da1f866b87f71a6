import type { CarriedReport, CarriedWhole, Layer } from '../pipeline/carry';
import type { AcceptedTotal, Pipeline } from '../pipeline/document';
import type { TieCounts } from '../pipeline/told';
import type { Problem } from '../sheet/problem';
import { zones } from '../steps/step';
import type { LocaleName } from '../values/locale';
import { plainNumber } from '../values/plain-number';
import { keptAmounts, tieOuts, tieOutsInTheEnd, type KeptAmount, type TieOut } from './tie-outs';

/** A printed amount beside the dataset, and why it was accepted, if it was. */
export interface Tie extends TieOut {
  readonly accepted?: string;
}

export interface TiedReport extends CarriedReport {
  readonly ties: readonly Tie[];
}

export const noTies: TieCounts = { equal: 0, rounded: 0, off: 0, accepted: 0, notComparable: 0 };

/** How a step reads amounts. */
export const localeOfStep = (pipeline: Pipeline, id: string): LocaleName =>
  (zones.flatMap((zone) => pipeline[zone]).find((step) => step.id === id)?.settings['locale'] as
    LocaleName | undefined) ?? 'en-GB';

/** A report that was carried to its end, with its printed totals compared; each that is off is a problem, unless it was accepted. */
export function tied(pipeline: Pipeline, carried: CarriedReport): TiedReport {
  const ties = withAccepted(
    pipeline,
    tieOuts(amountsIn(pipeline, carried), carried.layers, carried.sheet),
    () => carried.paper.path,
  );
  return { ...carried, ties, problems: [...carried.problems, ...ties.filter(isOff).map(offBy)] };
}

/** The printed amounts of a report beside how they stand before the steps over all reports. */
export interface TiesBefore {
  readonly key: string;
  readonly path: string;
  readonly kept: readonly KeptAmount[];
  readonly ties: readonly Tie[];
}

export const tiesBefore = (pipeline: Pipeline, key: string, report: TiedReport): TiesBefore => ({
  key,
  path: report.paper.path,
  kept: amountsIn(pipeline, report),
  ties: report.ties,
});

/** All reports carried to the end. */
export interface TiedWhole extends CarriedWhole {
  readonly ties: readonly Tie[];
  /** Titles of the steps over all reports, where some totals could only be compared with the rows as they were before them. */
  readonly tiedBefore: readonly string[];
}

/** All reports carried to the end, with the totals that steps kept in any of them, or over all, compared with what is there in the end. */
export function tiedWhole(pipeline: Pipeline, whole: CarriedWhole, reports: readonly TiesBefore[]): TiedWhole {
  const pathOf = new Map(reports.map(({ key, path }) => [key, path]));
  const before = reports.flatMap((each) =>
    each.kept.map((kept): KeptAmount => ({
      ...kept,
      filled: kept.filled.map((cell) => ({ ...cell, ...whole.placed(each.key, cell) })),
    })),
  );
  const later = amountsIn(pipeline, whole);
  const { ties: own, someBefore } = tieOutsInTheEnd(
    before,
    reports.flatMap(({ ties }) => ties),
    whole.layers,
    whole.sheet,
  );
  const ties = withAccepted(
    pipeline,
    [...own, ...tieOuts(later, whole.layers, whole.sheet)],
    (report) => pathOf.get(report) ?? '',
  );
  return {
    ...whole,
    ties,
    tiedBefore: someBefore ? whole.layers.map(({ title }) => title) : [],
    problems: [...whole.problems, ...ties.filter(isOff).map(offBy)],
  };
}

const amountsIn = (pipeline: Pipeline, { layers }: { readonly layers: readonly Layer[] }) =>
  keptAmounts(layers, (step) => localeOfStep(pipeline, step));

const isOff = ({ outcome, accepted }: Tie) => outcome === 'off' && accepted === undefined;

const withAccepted = (pipeline: Pipeline, ties: readonly TieOut[], pathOf: (report: string) => string): Tie[] =>
  ties.map((tie): Tie => {
    const accepted =
      tie.outcome === 'off'
        ? pipeline.accepted.find((each) => isAccepted(each, pathOf(tie.row.report), tie))
        : undefined;
    return accepted ? { ...tie, accepted: accepted.why } : tie;
  });

/** Whether a total was accepted as it is printed there. @param path of its report */
export const isAccepted = (
  accepted: AcceptedTotal,
  path: string,
  { row, column, printed }: Pick<TieOut, 'row' | 'column' | 'printed'>,
) =>
  accepted.report === path &&
  accepted.table === row.table &&
  accepted.row === row.ordinal &&
  accepted.column === column &&
  accepted.printed === printed;

const offBy = ({ step, row, page, label, column, printed, computed, rows }: TieOut): Problem => ({
  kind: 'tie-out',
  report: row.report,
  step,
  page,
  column,
  row,
  expected: `${plainNumber(printed)}, as printed${label ? ` for “${label}”` : ''}`,
  came: `${plainNumber(computed!)} from its ${rows} ${rows === 1 ? 'row' : 'rows'}`,
  remedy:
    'Look for a row that is missing or doubled, or a digit that was read wrong; if the paper itself is wrong, accept it beside the dataset.',
});

export const countTies = (ties: readonly Pick<Tie, 'outcome' | 'accepted'>[]): TieCounts => ({
  equal: ties.filter(({ outcome }) => outcome === 'equal').length,
  rounded: ties.filter(({ outcome }) => outcome === 'within rounding').length,
  off: ties.filter(({ outcome, accepted }) => outcome === 'off' && accepted === undefined).length,
  accepted: ties.filter(({ accepted }) => accepted !== undefined).length,
  notComparable: ties.filter(({ outcome }) => outcome === 'not comparable').length,
});

/** The counts of several reports together. */
export const addedUp = (all: readonly TieCounts[]): TieCounts =>
  all.reduce(
    (sum, own) => ({
      equal: sum.equal + own.equal,
      rounded: sum.rounded + own.rounded,
      off: sum.off + own.off,
      accepted: sum.accepted + own.accepted,
      notComparable: sum.notComparable + own.notComparable,
    }),
    noTies,
  );

/** How the printed totals stand, in a sentence; empty where none were printed. @param later titles of the steps over all reports, after which they could not all be compared */
export function tiesSentence(
  { equal, rounded, off, accepted, notComparable }: TieCounts,
  later: readonly string[] = [],
): string {
  const all = equal + rounded + off + accepted;
  if (all + notComparable === 0) return '';
  const parts = [
    all > 0
      ? off === 0 && accepted === 0
        ? `${all === 1 ? 'The one printed total' : `All ${all} printed totals`} ${all === 1 ? 'ties' : 'tie'} out`
        : `${equal + rounded} of ${all} printed totals tie out`
      : '',
    off > 0 ? `${off} ${off === 1 ? 'is' : 'are'} off` : '',
    accepted > 0 ? `${accepted} ${accepted === 1 ? 'is' : 'are'} accepted as misprinted` : '',
    rounded > 0 ? `${rounded} within rounding` : '',
    notComparable > 0
      ? `${notComparable}${all > 0 ? '' : notComparable === 1 ? ' printed total' : ' printed totals'} cannot be compared`
      : '',
  ];
  const before =
    later.length > 0
      ? `, some as the rows were before ${later.map((title) => `“${title}”`).join(', ')} over all reports`
      : '';
  return `${parts.filter(Boolean).join(', ')}${before}.`;
}
