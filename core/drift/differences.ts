import { covers, type Answer, type Answered } from './answers';
import type { Difference, Expecting, Found, Proposal, Seen, Span } from './difference';
import { newMisfits } from './new-misfits';
import { presenceDifferences } from './presence';
import { contentDifferences } from './contents';
import { tableDifferences } from './table-shape';
import { resolvedTables, type ResolvedTable } from './resolved';

/**
 * What is different about some reports, by what the others look like: those in the dataset if there are any, else most of all.
 * One difference for all reports that have it; those that were answered are left out, but for those answered to be held back.
 * @param seen the reports, in the order of the dataset
 */
export function differencesOf(seen: readonly Seen[], expecting: Expecting): Difference[] {
  const rules = [...new Set(seen.flatMap(({ traits }) => traits.tables.map(({ rule }) => rule)))];
  const ofRules = rules.flatMap((rule) => {
    const tables = resolvedTables(rule, seen, expecting);
    const { found, unsettled } = presenceDifferences(rule, tables, expecting);
    return [
      ...found,
      ...contentDifferences(rule, tables, unsettled),
      ...tableDifferences(rule, tables, expecting, unsettled),
    ].flatMap((each) => split(each, tables, expecting));
  });
  const reports = seen.map((each): Compared => ({ seen: each, columns: [] }));
  return [...ofRules, ...newMisfits(seen).flatMap((each) => split(each, reports, expecting))];
}

/** Of differences told before those that answers given since leave open. @param reportOf a report by its key; undefined: it is gone */
export function stillOpen(
  differences: readonly Difference[],
  answers: readonly Answer[],
  reportOf: (key: string) => Answered | undefined,
): Difference[] {
  return differences.flatMap((difference) => {
    const reports = difference.reports.filter((key) => {
      const report = reportOf(key);
      return report !== undefined && !answers.some((each) => speaksFor(each, difference) && covers(each, report));
    });
    return reports.length > 0 && !difference.stopped ? [{ ...difference, reports }] : [];
  });
}

/** Differences with those that were told before and are still open: one for all reports that have the same. */
export const withThoseBefore = (now: readonly Difference[], before: readonly Difference[]): Difference[] => {
  const same = (a: Difference, b: Difference) =>
    !a.holds &&
    a.rule === b.rule &&
    a.what === b.what &&
    a.column === b.column &&
    a.other === b.other &&
    a.before === b.before &&
    a.now === b.now;
  const joined = now.map((each): Difference => {
    const known = before.find((other) => same(each, other));
    const reports = known
      ? [...known.reports, ...each.reports.filter((key) => !known.reports.includes(key))]
      : each.reports;
    return known && reports.length > each.reports.length
      ? { ...known, reports, span: { how: 'in', at: [...new Set([...known.span.at, ...each.span.at])] } }
      : each;
  });
  return [...joined, ...before.filter((each) => !now.some((other) => same(other, each)))];
};

const speaksFor = (answer: Answer, { rule, what, column }: Pick<Difference, 'rule' | 'what' | 'column'>) =>
  answer.rule === rule && answer.what === what && answer.column === column;

/** The difference without the reports that were answered for, and apart those answered to be held back. */
function split(
  { at, ...found }: Found,
  tables: readonly (Compared | undefined)[],
  { answers }: Expecting,
): Difference[] {
  const speaking = answers.filter((each) => speaksFor(each, found));
  const decided = (i: number) => speaking.find((each) => covers(each, tables[i]!.seen))?.decided;
  const open = at.filter((i) => decided(i) === undefined);
  const stopped = at.filter((i) => decided(i) === 'hold back');
  return [
    ...(open.length > 0 ? [{ ...found, ...placed(found, open, tables) }] : []),
    ...(stopped.length > 0
      ? [{ ...found, ...placed(found, stopped, tables), holds: true, proposals: [], stopped: true as const }]
      : []),
  ];
}

function placed(
  { column }: Pick<Found, 'column'>,
  at: readonly number[],
  tables: readonly (Compared | undefined)[],
): Pick<Difference, 'reports' | 'span' | 'page' | 'words'> {
  const first = tables[at[0]]!;
  const { page, words } =
    first.columns.find(({ printed }) => printed.name === column)?.printed ?? first.columns[0]?.printed ?? {};
  return {
    reports: at.map((i) => tables[i]!.seen.key),
    span: spanOf(at, tables),
    ...(page === undefined || words === undefined ? {} : { page, words }),
  };
}

/** A report that is compared, with its columns where it is about them. */
type Compared = Pick<ResolvedTable, 'seen' | 'columns'>;

const labelOf = ({ seen: { period, path } }: Compared) => period ?? path;

function spanOf(at: readonly number[], tables: readonly (Compared | undefined)[]): Span {
  const all = tables.flatMap((table, i) => (table ? [i] : []));
  const labels = at.map((i) => labelOf(tables[i]!));
  const places = at.map((i) => all.indexOf(i));
  const together = places.every((place, n) => place === places[0] + n);
  if (at.length === all.length) return { how: 'all', at: [] };
  if (together && places.at(-1) === all.length - 1) return { how: 'from', at: [labels[0]] };
  if (at.length === 1) return { how: 'only', at: labels };
  if (together && places[0] === 0) return { how: 'until', at: [labels.at(-1)!] };
  return { how: 'in', at: labels };
}

/** What is written into the document when a difference is answered. @param among the reports of the difference @param toCome whether it holds for reports to come, too */
export function answerTo(
  { what, rule, column, span }: Difference,
  { decided, other }: Pick<Proposal, 'decided' | 'other'>,
  among: readonly Answered[],
  toCome = usuallyToCome({ what, span }),
): Answer {
  const from = span.how === 'all' ? undefined : among[0]?.period;
  return {
    what,
    rule,
    column,
    decided,
    reports: among.map(({ path }) => path),
    only: !toCome,
    ...(other === undefined ? {} : { other }),
    ...(toCome && from ? { from } : {}),
  };
}

/** Does it go on to the last report, so that those to come will most likely have it? A text that does not fit is looked at each time. */
export const usuallyToCome = ({ what, span: { how } }: Pick<Difference, 'what' | 'span'>): boolean =>
  what !== 'misfits' && (how === 'from' || how === 'all');
