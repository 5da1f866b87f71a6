import type { Answer, Answered, Decision, DifferenceKind } from './answers';
import type { ReportTraits } from './traits';

/** A report as it was seen at a refresh. */
export interface Seen extends Answered {
  readonly key: string;
  /** Its rows are in the dataset: what it looks like is what is expected. */
  readonly known: boolean;
  readonly traits: ReportTraits;
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
  /** Does a step name this column, exactly so? */
  knows(name: string): boolean;
  /** A step turns columns into rows by a rule: those that it does not name come and go as they like. */
  readonly flows?: boolean;
  /** Does a step keep only columns that it names, and not this one? */
  leavesOut?(name: string): boolean;
  /** Numbers are read as each report prints them. */
  readonly ownMarks?: boolean;
}

/** A difference as it is found, before it is said of which reports. */
export type Found = Omit<Difference, 'reports' | 'span' | 'page' | 'words' | 'stopped'> & {
  readonly at: readonly number[];
};
