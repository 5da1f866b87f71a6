// What goes out over HTTP. These shapes are the contract: the work behind them makes what they say. One file, though long, so that
// it can be read as a whole.
import type { Hit } from '../../core/intake/find-text';
import type { TakeMatch } from '../../core/intake/take';
import type { Box } from '../../core/page/box';
import type { PageContent } from '../../core/page/page';
import type { PartialColumn } from '../../core/pipeline/carry';
import type { Change } from '../../core/pipeline/changes';
import type { ProposedColumn } from '../../core/pipeline/columns-worked-out';
import type { ErrorPlace } from '../../core/pipeline/errors';
import type { Unlike } from '../../core/checks/reconcile';
import type { Proposal } from '../../core/suggest/propose';
import type { Tie } from '../../core/ties/tied';
import type { WouldTie } from '../../core/ties/would-tie';
import type { CarriedTold, LayerCounts } from '../../core/pipeline/told';
import type { Piece } from '../../core/reading/found-table';
import type { PeriodSlot } from '../../core/runs/period-strip';
import type { RunNote, RunReport, RunState, WholeTold } from '../../core/runs/run';
import type { ValueType } from '../../core/sheet/column';
import type { Problem } from '../../core/sheet/problem';
import type { RowId, RowSpan } from '../../core/sheet/row';
import type { Covered } from '../../core/steps/step';
import type { Cell } from '../../core/values/cell';

/** The one shape of every error. `message` is a sentence for the analyst; `problem` the same as data, where there is one. */
export interface ApiError {
  readonly error: { readonly kind: FaultKind; readonly message: string; readonly problem?: Problem };
}
export type FaultKind =
  | 'bad input'
  | 'key needed'
  | 'not found'
  | 'forbidden'
  | 'conflict'
  | 'there already'
  | 'changed meanwhile'
  | 'version needed'
  | 'too large'
  | 'unreadable'
  | 'away'
  | 'fault';

/** A report that cannot be read answers with the problem why. */
export type OrUnreadable<T> = T | { readonly unreadable: Problem };

// Reports and what is found in them

export interface StoredReport {
  readonly id: number;
  readonly path: string;
  readonly sha256: string;
  readonly size: number;
  readonly modified: number;
  /** What the system says of the file's content. */
  readonly mark: string;
  readonly period: string | null;
  readonly revision: number;
  /** counts, undecided, not readable, replaced, a copy, set aside, not a PDF, left out, gone */
  readonly standing: string;
  readonly standingOf: string | null;
}

/** A page as the page strip shows it: its size, and where ink and pictures lie. */
export interface PageFacts {
  readonly number: number;
  readonly label: string | null;
  readonly width: number;
  readonly height: number;
  readonly ink: readonly Box[];
  readonly pictures: readonly Box[];
  /** Pictures that may hold a table: large, and without text over them. */
  readonly unread: readonly Box[];
}

/** A found table without its cells. While a report is still being read it comes in parts, each with more pieces. */
export interface TableFacts {
  readonly id: string;
  readonly title: string | null;
  readonly heading: string;
  readonly headingCells: readonly string[];
  readonly rows: number;
  readonly columns: number;
  readonly pieces: readonly {
    readonly id: string;
    readonly page: number;
    readonly box: Box;
    readonly readings: readonly { name: string; score: number; reason: string }[];
  }[];
}

/** What was found on pages of a report. */
export interface FoundFacts {
  readonly pageCount: number;
  readonly pages: readonly PageFacts[];
  readonly tables: readonly TableFacts[];
}

export interface ReadSummary extends FoundFacts {
  readonly parsed: boolean;
  readonly scanned: boolean;
  readonly problems: readonly Problem[];
}

/** A report as Intake, the ruler and the match strip show it: what was found, what was taken, what became of it. */
export interface ReportSummary extends ReadSummary {
  readonly matches: readonly TakeMatch[];
  readonly layers: readonly LayerCounts[];
  /** The columns of the report as it is appended to the others. */
  readonly columns: readonly string[];
  /** The columns that come to each step that sets types. */
  readonly untyped: Readonly<Record<string, readonly string[]>>;
  readonly rows: number;
  readonly held: number;
  readonly misfits: number;
  /** Why a refresh would hold the report back. */
  readonly heldBack: readonly Problem[];
}

/** The content of one page, with the pieces of found tables on it. */
export interface PageAnswer {
  readonly pageCount: number;
  readonly page: PageContent | null;
  readonly pieces: readonly (Piece & { readonly table: string })[];
}

// Looks at a report while its steps are designed, or as it was published

export interface SheetWindow {
  readonly rows: number;
  readonly columns: readonly {
    readonly name: string;
    readonly type: ValueType;
    readonly unit?: string;
    /** Digits after the point that the column has, of numbers. */ readonly decimals?: number;
    readonly misfits: number;
  }[];
  readonly start: number;
  readonly window: readonly {
    readonly id: RowId;
    readonly page: number;
    /** Its line as printed on that page, from 1; none where nothing of it is printed. */
    readonly line?: number;
    /** A part of a split table begins with it. */
    readonly begins?: boolean;
    readonly role: string;
    readonly table: string;
    readonly reason?: string;
    /** What a held row said above the step: an exception that lets it pass says the same. */
    readonly says?: string;
    readonly cells: readonly Cell[];
    /** Of blank cells that stand under a text further left which spans them: their places, each with that of the text. */
    readonly spanned?: readonly (readonly [blank: number, text: number])[];
  }[];
  /** The row that was asked for beside the window, where it is there. */
  readonly beside?: SheetWindow['window'][number];
  /** The columns that the step left out, to be asked for by windows. */
  readonly leftOut: SheetExtent;
  /** How many cells the step overwrote. */
  readonly overwritten: number;
  /** What the step held, to be asked for by windows. */
  readonly held: SheetExtent;
}

export interface SheetExtent {
  readonly rows: number;
  readonly columns: readonly { readonly name: string; readonly type: ValueType; readonly unit?: string }[];
}

/** How a report falls through all layers: what a change of settings does below the step that is looked at. */
export interface LayersAnswer {
  readonly layers: readonly LayerCounts[];
  /** Columns that some of the appended tables lack. */
  readonly partial: readonly PartialColumn[];
  readonly problems: readonly Problem[];
}

export interface ErrorsAnswer {
  readonly count: number;
  readonly errors: readonly ErrorPlace[];
}

/** Words on a page of a report, with where they stand. */
export interface TracedPlace {
  /** Id of the report. */
  readonly report: number;
  readonly page: number;
  readonly box: Box;
  readonly words: readonly {
    readonly text: string;
    readonly box: Box;
    /** Its place among the words of the page. */ readonly at: number;
  }[];
}

export interface Traced {
  /** The step at which the error of this cell starts, if it is an error cell. */
  readonly error?: ErrorPlace;
  /** The taken rows that the row came from; none for a name of a column. */
  readonly rows: readonly RowId[];
  readonly places: readonly TracedPlace[];
}

/** A printed total on paper, and the rows that it covers as they stood where it was kept. */
export interface TotalTraced {
  readonly places: readonly TracedPlace[];
  readonly rows: readonly {
    readonly label: string;
    readonly amount: string;
    readonly page: number;
    readonly places: readonly TracedPlace[];
  }[];
  /** Rows beyond those. */
  readonly more: number;
  /** Where it is off: what would make it tie out, and where that stands. */
  readonly wouldTie: readonly (Omit<WouldTie, 'places'> & { readonly places: readonly TracedPlace[] })[];
}

export interface WorkOutAnswer {
  readonly columns: readonly ProposedColumn[];
  readonly rows: number;
  readonly reports: number;
  readonly unreadable: readonly Problem[];
}

// Pipelines and their versions

export interface PipelineSummary {
  readonly id: number;
  readonly name: string;
  readonly folder: string;
  readonly managed: boolean;
  readonly viewName: string;
  readonly reports: number;
  readonly rows: number | null;
  readonly lastRuns: readonly StoredRun[];
  /** The refresh under way, and how far it is. */
  readonly running: RunProgress | null;
  readonly needs: readonly Need[];
  /** The latest of its periods, and how each stands in the dataset. */
  readonly periods: readonly PeriodSlot[];
  /** How the printed totals of the published rows stand, in a sentence; none where none were printed. */
  readonly ties: string;
}

/** What needs the analyst. */
export type Need =
  | { readonly kind: 'not refreshed' }
  | { readonly kind: 'run ended'; readonly state: RunState; readonly notes: readonly RunNote[] }
  | {
      readonly kind: 'failed' | 'held back' | 'stale' | 'misfits' | 'totals off' | 'differs' | 'checks' | 'no report';
      readonly count: number;
    };

export interface PipelineFull extends PipelineSummary {
  readonly document: unknown;
  /** The version that the document is; a save names it. */
  readonly version: number;
  /** What was changed since the last refresh that the next one minds: nothing, answers and the like alone, or what somebody works on. */
  readonly since: 'nothing' | 'answered' | 'edited';
}

/** A document as it was saved once, and what it changed in the one before. */
export interface VersionAnswer {
  readonly version: number;
  readonly savedAt: string;
  readonly savedBy: string;
  readonly changes: readonly Change[];
  /** The older version that it says again, word for word. */
  readonly same: number | null;
  /** Is the published dataset made with it? */
  readonly published: boolean;
}

// Runs

export interface StoredRun {
  readonly id: number;
  readonly pipeline: number;
  readonly version: number;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly state: RunState;
  readonly rows: number | null;
  readonly notes: readonly RunNote[];
  readonly whole: WholeTold | null;
  /** It came to an end with each report, and says what became of it: one that was cancelled or refused does not. */
  readonly told: boolean;
}

export interface RunFull {
  readonly run: StoredRun;
  readonly reports: readonly RunReport[];
}

export interface RunProgress {
  readonly run: number;
  readonly done: number;
  readonly total: number;
  /** The report that is worked on, and how far; none: the folder, the steps over all reports, or the publishing. */
  readonly now:
    | { readonly kind: 'folder' | 'whole' | 'publishing' }
    | { readonly kind: 'report'; readonly path: string; readonly page?: number; readonly pages?: number };
}

export type RunEvent =
  | ({ readonly kind: 'progress' } & RunProgress)
  | { readonly kind: 'ended'; readonly state: RunState; readonly notes: readonly RunNote[] };

/** Events of an intake: reports as they are read and carried, page by page, then `done`. */
export type IntakeEvent =
  | {
      readonly kind: 'reading';
      readonly report: number;
      readonly page: number;
      readonly pages: number;
      readonly found: FoundFacts;
    }
  | { readonly kind: 'report'; readonly report: number; readonly summary: OrUnreadable<ReportSummary> }
  | { readonly kind: 'done' };

/** Events of a search: the hits of each report that has any, in the order of the reports, then `done`. */
export type FindEvent =
  { readonly kind: 'hits'; readonly report: number; readonly hits: readonly Hit[] } | { readonly kind: 'done' };

/** A table that steps can look values up in. */
export interface ListAnswer {
  readonly is: 'file' | 'dataset';
  readonly name: string;
  readonly columns: readonly string[];
  readonly rows: number;
  /** When the file was uploaded, or the dataset published. */
  readonly since: string;
}

// The dataset

/** One published row; `row` counts from 0 over the whole dataset. */
export interface DatasetRow {
  readonly row: number;
  readonly report: number;
  readonly page: number;
  /** The row as it was taken: the found table, and its place there. */
  readonly table: string;
  readonly ordinal: number;
  readonly cells: readonly Cell[];
}

/** A file on its way. */
export interface DownloadAnswer {
  /** Rows that it will have, and how many of them have been taken. */
  readonly rows: number;
  readonly taken: number;
  readonly state: 'under way' | 'done' | 'cancelled' | 'broken off';
}

/** A window of some rows of the dataset; each knows its number there. */
export interface SelectedAnswer {
  readonly publication: number;
  /** How many rows are selected. */
  readonly rows: number;
  readonly start: number;
  readonly window: readonly DatasetRow[];
}

export interface DatasetAnswer {
  readonly publication: number;
  readonly publishedAt: string;
  /** The version of the document that it was made with. */
  readonly version: number;
  readonly rows: number;
  readonly misfits: number;
  readonly columns: readonly {
    readonly identifier: string;
    readonly heading: string;
    readonly type: ValueType;
    readonly unit?: string;
  }[];
  readonly start: number;
  readonly window: readonly DatasetRow[];
}

export interface DatasetTrace extends Traced {
  /** The report that the row stands in, and its path when it was read. */
  readonly report: number;
  readonly file: string;
  /** The version of the document that answers. */
  readonly version: number;
  /** The build that made it, in words. */
  readonly build: string;
}

/** What a run published otherwise because the program is another: a cell, or a whole row. */
export interface ChangedCell {
  readonly kind: 'cell' | 'row added' | 'row removed';
  readonly report: number;
  readonly page: number;
  /** Null: the whole row. */
  readonly heading: string | null;
  readonly before: string | null;
  readonly after: string | null;
  /** Its row in the dataset, as long as that is published; from 1. */
  readonly row: number | null;
}

/** How the dataset stands beside a list: why they cannot be compared, or what is unlike. */
export interface ReconciledAnswer {
  readonly because?: string;
  readonly same: number;
  /** The first of them. */
  readonly unlike: readonly Unlike[];
  readonly more: number;
}

/** What the published rows were made of, and what is known of them beside the cells. */
export interface PublishedAnswer {
  readonly version: number;
  readonly reports: readonly (CarriedTold & {
    readonly report: number;
    readonly path: string;
    readonly sha256: string;
    readonly stale: boolean;
    /** The version that its rows were made with: an older one where nothing that they depend on has changed since. */
    readonly version: number;
    readonly rows: number;
    readonly held: number;
    readonly misfits: number;
  })[];
  readonly whole: WholeTold | null;
  readonly totals: readonly KeptTotal[];
}

/** A printed total that left the data, with the taken rows that it stands for. */
export interface KeptTotal {
  readonly step: string;
  readonly row: RowId;
  readonly page: number;
  readonly reason: string;
  readonly level: number;
  readonly covers: readonly RowSpan[];
  /** Columns in which those rows do not add up to it. */
  readonly differs: Covered['differs'];
  /** Each printed amount beside what the dataset says. */
  readonly ties: readonly Omit<Tie, 'step' | 'row' | 'page'>[];
  readonly cells: Readonly<Record<string, string>>;
}

export interface FolderAnswer {
  readonly folder: string;
  readonly parent: string | null;
  readonly folders: readonly { readonly name: string; readonly path: string; readonly pdfs: number }[];
  readonly pdfs: readonly string[];
}

/** Where other programs query the published datasets by the PostgreSQL protocol. */
export interface SqlAddress {
  readonly host: string;
  readonly port: number;
  /** There is a certificate. */
  readonly secured: boolean;
}

/** Steps that fit what the reports print, in the order in which they would stand. */
export interface ProposedSteps {
  readonly proposals: readonly Proposal[];
  /** How many reports were looked at. */
  readonly reports: number;
  readonly unreadable: readonly Problem[];
}
