import type { ErrorPlace, SheetWindow } from '../../../../server/contract/contract';

/** A place to look at: in the sheet of the report shown, or on the paper of another. */
export interface LookPlace {
  readonly report?: number;
  readonly page?: number;
  readonly row?: number;
  readonly column?: string;
}

/** What a form of its own is given of its step, and what it can do. */
export interface OwnForm {
  /** Id of the step. */
  readonly step: string;
  readonly values: Readonly<Record<string, unknown>>;
  /** Names of the columns above the step, in the report shown. */
  readonly columns: readonly string[];
  /** The columns as they leave it, and the error cells in it. */
  readonly after: SheetWindow['columns'];
  readonly errors: readonly ErrorPlace[];
  set(values: Record<string, unknown>): void;
  look(place: LookPlace): void;
}
