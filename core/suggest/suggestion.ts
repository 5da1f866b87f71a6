import type { ReportRead } from '../intake/take';
import type { CarriedReport } from '../pipeline/carry';
import type { Pipeline } from '../pipeline/document';
import type { Zone } from '../steps/step';
import type { LocaleName } from '../values/locale';

/** A step that may be wanted, as a detector proposes it: settings that are left out are the usual ones. */
export interface Suggestion {
  readonly zone: Zone;
  readonly kind: string;
  readonly settings: Record<string, unknown>;
  readonly name?: string;
  /** What was seen, in a sentence without its full stop. */
  readonly reason: string;
}

/** A report with what the steps so far make of it. */
export interface SeenReport {
  readonly read: ReportRead;
  readonly carried: CarriedReport;
}

/** What a detector looks at: all reports, each carried through the steps so far. */
export interface Seen {
  readonly pipeline: Pipeline;
  readonly reports: readonly SeenReport[];
  /** How numbers and dates are printed in all of them; worked out when it is first asked for. */
  readonly locale: () => LocaleName;
}

/** Looks for one kind of thing; says nothing when it is not there. */
export type Detector = (seen: Seen) => readonly Suggestion[];
