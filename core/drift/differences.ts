import type { Answer, Answered, Decision, DifferenceKind } from './answers';
import { covers } from './answers';
import { newMisfits } from './new-misfits';
import { presenceDifferences } from './presence';
import { contentDifferences } from './contents';
import { tableDifferences } from './table-shape';
import { resolvedTables, type ResolvedTable } from './resolved';
import type { ReportProfile } from './profile';

/** A report as it was seen at a refresh. */
export interface Seen extends Answered {
  readonly key: string;
  /** Its rows are in the dataset: what it looks like is what is expected. */
  readonly known: boolean;
  readonly profile: ReportProfile;
}

/** An answer that is offered, the likeliest first. */
export interface Proposal {
  readonly decided: Decision;
  readonly other?: string;
  /** How like what stands under both headings is, 0 to 1. */
  readonly likeness?: number;
}

/** What some reports have that was not expected: one for all of them. */
export interface Difference {
  readonly what: DifferenceKind;
  readonly rule: string;
  /** As printed; "" where it is about the whole table. */
  readonly column: string;
  /** The column whose place it takes, or with which it is swapped. */
  readonly other?: string;
  /** How it was before, and how it is now, where there is more to say. */
  readonly before?: string;
  readonly now?: string;
  /** Keys of the reports, in the order of the dataset. */
  readonly reports: readonly string[];
  /** How the reports lie among all of them. */
  readonly span: Span;
  /** Where to look in the first of the reports. */
  readonly page?: number;
  readonly words?: readonly number[];
  /** Reports wait for an answer. */
  readonly holds: boolean;
  readonly proposals: readonly Proposal[];
  /** It was answered that these reports are to be held back. */
  readonly stopped?: true;
}

/** Where the reports of a difference lie: from one to the last, from the first to one, one alone, all, or here and there. By period, else by path. */
export interface Span {
  readonly how: 'from' | 'until' | 'only' | 'all' | 'in';
  readonly at: readonly string[];
}

/** What the pipeline's document says of columns and reports. */
export interface Expecting {
  readonly answers: readonly Answer[];
  /** The column that a name becomes by the table of spellings. */
  spelled(name: string): string;
  /** Does a step name this column, exactly so, or a setting say this? */
  knows(name: string): boolean;
  /** A step turns columns into rows by a rule: those that it does not name come and go as they like. */
  readonly flows?: boolean;
  /** Does a step keep only columns that it names, and not this one? */
  leavesOut?(name: string): boolean;
}

/** A difference as it is found, before it is said of which reports. */
export type Found = Omit<Difference, 'reports' | 'span' | 'page' | 'words' | 'stopped'> & { readonly at: readonly number[] };

/**
 * What is different about some reports, by what the others look like: those in the dataset if there are any, else most of all.
 * One difference for all reports that have it; those that were answered are left out, but for those answered to be held back.
 * @param seen the reports, in the order of the dataset
 */
export function differencesOf(seen: readonly Seen[], expecting: Expecting): Difference[] {
  const rules = [...new Set(seen.flatMap(({ profile }) => profile.tables.map(({ rule }) => rule)))];
  const ofRules = rules.flatMap((rule) => {
    const tables = resolvedTables(rule, seen, expecting);
    const { found, unsettled } = presenceDifferences(rule, tables, expecting);
    return [...found, ...contentDifferences(rule, tables, unsettled), ...tableDifferences(rule, tables, expecting, unsettled)].flatMap((each) => split(each, tables, expecting));
  });
  const reports = seen.map((each): Compared => ({ seen: each, columns: [] }));
  return [...ofRules, ...newMisfits(seen).flatMap((each) => split(each, reports, expecting))];
}

/** Of differences told before those that answers given since leave open. @param reportOf a report by its key; undefined: it is gone */
export function stillOpen(differences: readonly Difference[], answers: readonly Answer[], reportOf: (key: string) => Answered | undefined): Difference[] {
  return differences.flatMap((difference) => {
    const reports = difference.reports.filter((key) => {
      const report = reportOf(key);
      return report !== undefined && !answers.some((each) => speaksFor(each, difference) && covers(each, report));
    });
    return reports.length > 0 && !difference.stopped ? [{ ...difference, reports }] : [];
  });
}

const speaksFor = (answer: Answer, { rule, what, column }: Pick<Difference, 'rule' | 'what' | 'column'>) => answer.rule === rule && answer.what === what && answer.column === column;

/** The difference without the reports that were answered for, and apart those answered to be held back. */
function split({ at, ...found }: Found, tables: readonly (Compared | undefined)[], { answers }: Expecting): Difference[] {
  const speaking = answers.filter((each) => speaksFor(each, found));
  const decided = (i: number) => speaking.find((each) => covers(each, tables[i]!.seen))?.decided;
  const open = at.filter((i) => decided(i) === undefined);
  const stopped = at.filter((i) => decided(i) === 'hold back');
  return [
    ...(open.length > 0 ? [{ ...found, ...placed(found, open, tables) }] : []),
    ...(stopped.length > 0 ? [{ ...found, ...placed(found, stopped, tables), holds: true, proposals: [], stopped: true as const }] : []),
  ];
}

function placed({ column }: Pick<Found, 'column'>, at: readonly number[], tables: readonly (Compared | undefined)[]): Pick<Difference, 'reports' | 'span' | 'page' | 'words'> {
  const first = tables[at[0]]!;
  const { page, words } = first.columns.find(({ printed }) => printed.name === column)?.printed ?? first.columns[0]?.printed ?? {};
  return { reports: at.map((i) => tables[i]!.seen.key), span: spanOf(at, tables), ...(page === undefined || words === undefined ? {} : { page, words }) };
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
export function answerTo({ what, rule, column, span }: Difference, { decided, other }: Pick<Proposal, 'decided' | 'other'>, among: readonly Answered[], toCome = usuallyToCome({ what, span })): Answer {
  const from = span.how === 'all' ? undefined : among[0]?.period;
  return { what, rule, column, decided, reports: among.map(({ path }) => path), only: !toCome, ...(other === undefined ? {} : { other }), ...(toCome && from ? { from } : {}) };
}

/** Does it go on to the last report, so that those to come will most likely have it? A text that does not fit is looked at each time. */
export const usuallyToCome = ({ what, span: { how } }: Pick<Difference, 'what' | 'span'>): boolean => what !== 'misfits' && (how === 'from' || how === 'all');
