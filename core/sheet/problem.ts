import type { RowId } from './row';

/** What kind of thing is wrong: with a file, with what was found in it, or with what a step should do. */
export const problemKinds = [
  'empty',
  'not a PDF',
  'damaged',
  'locked',
  'scanned',
  'not read',
  'no such report',
  'not taken',
  'drift',
  'differs',
  'tie-out',
  'check',
  'other type',
  'undecided',
  'no list',
  'step',
  'misfit',
] as const;
export type ProblemKind = (typeof problemKinds)[number];

/** Stops: the rows of the report cannot be had. Look: they can, and something about them needs a look. */
export type Severity = 'stops' | 'look';
const looks: ReadonlySet<ProblemKind> = new Set(['not taken', 'drift', 'tie-out', 'check', 'step', 'misfit']);
export const severityOf = ({ kind }: Pick<Problem, 'kind'>): Severity => (looks.has(kind) ? 'look' : 'stops');

/** Where a problem lies; whatever is known of it. */
export interface Where {
  /** Key of the report, or the path of a file that is no report yet. */
  readonly report?: string;
  readonly page?: number;
  readonly table?: string;
  /** Id of the step or layer. */
  readonly step?: string;
  readonly column?: string;
  readonly row?: RowId;
  /** Id of the check that it fails. */
  readonly check?: string;
}

/** Something that needs a look: where, what was expected, what came, what to do. */
export interface Problem extends Where {
  readonly kind: ProblemKind;
  readonly expected: string;
  readonly came: string;
  readonly remedy: string;
  /** The text of the cell, where it may be the answer. */
  readonly text?: string;
  /** The kind of step that is the usual answer. */
  readonly offer?: string;
  /** So many like it, in the same column of the same step, are not told one by one. */
  readonly more?: number;
}

/** What the keys and ids in problems are called. */
export interface Names {
  report?(key: string): string;
  step?(id: string): string;
}

function placeOf({ report, page, step, column }: Where, names: Names): string {
  const parts = [
    report === undefined ? undefined : (names.report?.(report) ?? report),
    page === undefined ? undefined : `page ${page}`,
    step === undefined ? undefined : `step “${names.step?.(step) ?? step}”`,
    column === undefined ? undefined : `column “${column}”`,
  ];
  return parts.filter((part) => part !== undefined).join(', ');
}

/** The problem as one sentence for the analyst, with the remedy behind it: for the screen and the command line only. */
export function sentence(problem: Problem, names: Names = {}): string {
  const place = placeOf(problem, names);
  const more = problem.more
    ? ` ${problem.more} more like it${problem.kind === 'misfit' ? ' are marked in the sheet' : ''}.`
    : '';
  const says = `xpected ${problem.expected}, got ${problem.came}. ${problem.remedy}${more}`;
  return place ? `${place}: e${says}` : `E${says}`;
}

/** Adds what the caller knows of the place; what the problem says itself stands. */
export const at = (where: Where, problems: readonly Problem[]): Problem[] =>
  problems.map((problem) => ({ ...where, ...problem }));
