import type { Problem } from '../sheet/problem';
import type { ReportState } from './run';

/** A file of the folder, with what its name tells of it. */
export interface FolderReport {
  readonly id: number;
  readonly path: string;
  readonly sha256: string;
  readonly period: string | null;
  /** counts, undecided, not readable, replaced, a copy, set aside, not a PDF, left out, gone */
  readonly standing: string;
  readonly standingOf: string | null;
}

/** A report as it went into rows. */
export interface PartInput {
  readonly report: number;
  readonly path: string;
  readonly sha256: string;
  /** Those made by programs before do not tell it. */
  readonly period?: string | null;
}

/** Rows of the dataset as it is published: those of one report, or of all where a step needs the whole. */
export interface KnownPart {
  readonly id: number;
  readonly report: number | null;
  readonly key: string;
  readonly inputs: readonly PartInput[];
  readonly stale: boolean;
}

/** What a refresh does about one report. */
export type Fate<Part extends KnownPart = KnownPart> =
  /** Its rows stand as they are published. */
  | { readonly does: 'reuse'; readonly report: FolderReport; readonly part: Part }
  /** Its rows are made anew; `last` is what those in the dataset were made of. */
  | { readonly does: 'carry'; readonly report: FolderReport; readonly part?: Part; readonly last?: PartInput }
  /** It waits for an answer; what is in the dataset stays. */
  | {
      readonly does: 'hold back';
      readonly report: FolderReport;
      readonly part?: Part;
      readonly last?: PartInput;
      readonly because: Problem;
    }
  /** It has no rows in the dataset. */
  | { readonly does: 'leave'; readonly report: FolderReport; readonly state: ReportState };

export interface Plan<Part extends KnownPart = KnownPart> {
  readonly fates: readonly Fate<Part>[];
  /** The rows of all reports, where a step needs the whole and nothing they depend on has changed. */
  readonly whole?: Part;
}

export interface PlanInput<Part extends KnownPart> {
  /** The files of the folder, in the order of the dataset. */
  readonly reports: readonly FolderReport[];
  /** The dataset as it is published. */
  readonly parts: readonly Part[];
  /** Key of everything that the rows of a report depend on. */
  keyOf(input: PartInput): string;
  /** Key of the rows of all reports, where a step needs them at once. */
  readonly wholeKey?: (inputs: readonly PartInput[]) => string;
}

export const inputOf = ({ id, path, sha256, period }: FolderReport): PartInput => ({
  report: id,
  path,
  sha256,
  period,
});

/** Which rows of the dataset a refresh reuses, which it makes anew, and which reports wait or have none. Nothing is done yet. */
export function planOf<Part extends KnownPart>({ reports, parts, keyOf, wholeKey }: PlanInput<Part>): Plan<Part> {
  const whole = parts.find((part) => part.report === null);
  const lastOf = (report: FolderReport) =>
    parts.flatMap(({ inputs }) => inputs).find((input) => input.report === report.id);
  const fates = reports.map((report): Fate<Part> => {
    if (!['counts', 'undecided', 'not readable'].includes(report.standing))
      return { does: 'leave', report, state: leftAs(report) };
    const part = wholeKey ? undefined : parts.find((each) => each.report === report.id);
    const last = lastOf(report);
    const known = { ...(part ? { part } : {}), ...(last ? { last } : {}) };
    if (report.standing === 'undecided') return { does: 'hold back', report, ...known, because: undecided(report) };
    if (report.standing === 'not readable')
      return { does: 'hold back', report, ...known, because: notReadable(report) };
    if (part && part.key === keyOf(inputOf(report))) return { does: 'reuse', report, part };
    return { does: 'carry', report, ...known };
  });
  if (!wholeKey || whole?.key !== wholeKey(sourcesOf(fates))) return { fates };
  return {
    fates: fates.map((fate) => (fate.does === 'carry' ? { does: 'reuse', report: fate.report, part: whole } : fate)),
    whole,
  };
}

/** What the rows of all reports are made of when every report can be carried. */
const sourcesOf = (fates: readonly Fate[]): PartInput[] =>
  fates.flatMap((fate) =>
    fate.does === 'carry' ? [inputOf(fate.report)] : fate.does === 'hold back' && fate.last ? [fate.last] : [],
  );

const leftAs = ({ standing }: FolderReport): ReportState =>
  standing === 'gone' ? 'removed' : (standing as ReportState);

const undecided = ({ path, period, standingOf }: FolderReport): Problem => ({
  kind: 'undecided',
  report: path,
  expected: `one report for ${period}`,
  came: `${standingOf} as well, and their names do not tell which is the later issue`,
  remedy: 'Say in the intake which one counts, or that both do.',
});

const notReadable = ({ path }: FolderReport): Problem => ({
  kind: 'not read',
  report: path,
  expected: 'a file that this program may open',
  came: 'one that it may not, or that lies in a folder that it may not look into',
  remedy: 'Let it be read, and refresh again.',
});

/** A report's rows as far as the vote over types goes. */
export interface Typed {
  readonly columns: readonly { readonly heading: string; readonly type: string }[];
}

/** One column has one type: the column in which a report has another type than most others, for each report; undefined for those that agree. */
export function oddTypes(
  reports: readonly Typed[],
): (of: Typed) => { heading: string; usual: string; type: string } | undefined {
  const votes = new Map<string, Map<string, number>>();
  for (const { columns } of reports)
    for (const { heading, type } of columns) {
      const own = votes.get(heading) ?? new Map<string, number>();
      votes.set(heading, own.set(type, (own.get(type) ?? 0) + 1));
    }
  const usual = new Map([...votes].map(([heading, types]) => [heading, [...types].sort((a, b) => b[1] - a[1])[0][0]]));
  return ({ columns }) => {
    const odd = columns.find(({ heading, type }) => (usual.get(heading) ?? type) !== type);
    return odd && { heading: odd.heading, usual: usual.get(odd.heading)!, type: odd.type };
  };
}
