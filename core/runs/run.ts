import type { Difference } from '../drift/difference';
import { differenceSentence } from '../drift/words';
import { tiesSentence } from '../ties/tied';
import type { CarriedTold, LayerCounts, TieCounts } from '../pipeline/told';
import { sentence, type Problem } from '../sheet/problem';

export type RunState =
  'running' | 'published' | 'nothing new' | 'nothing published' | 'failed' | 'cancelled' | 'interrupted';

/** What became of a report in a run. */
export type ReportState =
  | 'added'
  | 'changed'
  | 'unchanged'
  | 'stale'
  | 'failed'
  | 'held back'
  | 'replaced'
  | 'a copy'
  | 'set aside'
  | 'not a PDF'
  | 'left out'
  | 'removed';

export interface RunReport extends CarriedTold {
  readonly report: number;
  readonly path: string;
  readonly period: string | null;
  readonly state: ReportState;
  /** The file that replaces this one, or that it is a copy of. */
  readonly of: string | null;
  /** Was the file parsed in this run, or its content taken from the cache? */
  readonly parsed: boolean;
  readonly rows: number;
  readonly held: number;
  readonly misfits: number;
}

/** What there is to say of a run as a whole. */
export type RunNote =
  /** The steps that needed all reports, with how long each took, ms; none are told of runs of older programs. */
  | { readonly kind: 'computed anew'; readonly steps?: readonly { readonly title: string; readonly took: number }[] }
  /** Nothing new came into the dataset; so many reports wait, or could not be had. */
  | { readonly kind: 'nothing changed'; readonly waiting?: number }
  | { readonly kind: 'no report found'; readonly folder: string }
  | { readonly kind: 'none carried' }
  /** A report that is in the dataset cannot be had now, and a step needs all reports at once: the dataset waits. */
  | { readonly kind: 'whole waits'; readonly report: string }
  /** More reports are gone from the folder at once than may leave the dataset unasked. */
  | { readonly kind: 'many gone'; readonly reports: readonly string[]; readonly of: number }
  /** The rows of all reports cannot be had or kept: a list is missing, or the database does not take them. */
  | { readonly kind: 'not stored'; readonly problem: Problem }
  /** How the printed totals stand; some only as the rows were before the steps called `later`, which are over all reports. */
  | { readonly kind: 'totals'; readonly ties: TieCounts; readonly later?: readonly string[] }
  /**
   * Rows that an older build had made were made anew by this one: of so many reports, by nothing else; so many cells are others, and
   * rows came and went. Of `unlike` reports the files or the document are others too, so that it cannot be told what changed by what.
   */
  | {
      readonly kind: 'made anew';
      readonly build: string;
      readonly reports: number;
      /** How many of them had been made by a program that did not say by which document. */
      readonly unknown: number;
      readonly unlike: number;
      readonly cells: number;
      readonly added: number;
      readonly removed: number;
      /** The first of them, with the paper. */
      readonly first: readonly {
        readonly path: string;
        readonly page: number;
        readonly heading: string | null;
        readonly before: string | null;
        readonly after: string | null;
      }[];
    }
  /** What came in with it: periods (paths where there is none) of reports that are new, and of those that are others than before. */
  | {
      readonly kind: 'came';
      readonly added: readonly string[];
      readonly changed: readonly string[];
      readonly rows: number;
      readonly held: number;
    }
  /** A check of the dataset that fails; `stops`: nothing was published because of it. */
  | {
      readonly kind: 'check';
      readonly check: string;
      readonly expected: string;
      readonly came: string;
      readonly stops: boolean;
    }
  /** So many reports are not in the dataset as they are now: they wait for an answer, or could not be had. */
  | { readonly kind: 'waiting'; readonly reports: number }
  /** What is wrong though it keeps nothing out: checks that reports fail, and cells of the dataset that do not fit their type. */
  | {
      readonly kind: 'wrong within';
      readonly checks: readonly { readonly expected: string; readonly reports: number }[];
      readonly misfits: number;
      readonly reports: number;
    }
  /** Kept files that were written with it, and those that could not be. */
  | {
      readonly kind: 'files';
      readonly written: readonly string[];
      readonly failed: readonly { readonly path: string; readonly because: string }[];
    }
  /** Periods between the first and the last for which there is no report. */
  | { readonly kind: 'gaps'; readonly periods: readonly string[] }
  /** What is different about some reports, as it was found in this run; none: nothing is. */
  | { readonly kind: 'differences'; readonly differences: readonly Difference[]; readonly reports: number }
  | { readonly kind: 'cancelled' }
  | { readonly kind: 'interrupted' }
  | { readonly kind: 'failed'; readonly error: string };

/** What the steps that need all reports at once did. */
export interface WholeTold {
  readonly layers: readonly LayerCounts[];
  /** Titles of the steps before which some printed totals had to be compared. */
  readonly tiedBefore?: readonly string[];
  /** Problems that belong to no single report. */
  readonly problems: readonly Problem[];
}

/** What is written down with the rows of all reports. */
export interface ToldOfWhole {
  readonly whole: WholeTold;
  readonly reports: Readonly<Record<string, CarriedTold & Pick<RunReport, 'rows' | 'held' | 'misfits'>>>;
}

const mostGaps = 5;
const listed = (parts: readonly string[]): string =>
  parts.length < 2 ? (parts[0] ?? '') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}`;
const seconds = (ms: number): string => `${Math.max(0.1, ms / 1000).toFixed(1)} s`;

const waiting = (reports: number): string =>
  reports === 1 ? 'one report waits or could not be had' : `${reports} reports wait or could not be had`;

export function noteSentence(note: RunNote): string {
  switch (note.kind) {
    case 'computed anew':
      return note.steps
        ? `All rows were computed anew, as ${listed(note.steps.map(({ title, took }) => `“${title}” (${seconds(took)})`))} ${note.steps.length === 1 ? 'needs' : 'need'} all reports at once.`
        : 'All rows were computed anew, because a step needs all reports at once.';
    case 'nothing changed':
      return note.waiting
        ? `Nothing new came into the dataset; ${waiting(note.waiting)}.`
        : 'Nothing has changed since the last refresh.';
    case 'no report found':
      return `No PDF report was found in ${note.folder}.`;
    case 'none carried':
      return 'No report could be carried; see the sentence of each.';
    case 'whole waits':
      return `${note.report} cannot be had now, and a step needs all reports at once: the dataset stays as it was published.`;
    case 'many gone':
      return `${note.reports.length} of ${note.of} reports are gone from the folder (${note.reports.slice(0, 3).join(', ')}${note.reports.length > 3 ? ' ...' : ''}). The dataset stays as it was published; if they are gone on purpose, refresh and let them go.`;
    case 'not stored':
      return `${sentence(note.problem)} The dataset stays as it was published.`;
    case 'totals':
      return tiesSentence(note.ties, note.later);
    case 'check':
      return `Checked: ${note.expected}; ${note.came}.${note.stops ? ' The dataset stays as it was published.' : ''}`;
    case 'waiting':
      return `Besides, ${waiting(note.reports)}.`;
    case 'wrong within': {
      const [first, ...more] = note.checks;
      return [
        ...(first
          ? [
              `${first.reports === 1 ? 'One report fails' : `${first.reports} reports fail`} what is checked: ${first.expected}.${more.length > 0 ? ` So with ${more.length} more ${more.length === 1 ? 'check' : 'checks'}.` : ''}`,
            ]
          : []),
        ...(note.misfits > 0
          ? [
              `${note.misfits} ${note.misfits === 1 ? 'cell does' : 'cells do'} not fit ${note.misfits === 1 ? 'its' : 'their'} type${note.reports > 1 ? `, in ${note.reports} reports` : ''}.`,
            ]
          : []),
      ].join(' ');
    }
    case 'files':
      return [
        ...(note.written.length > 0
          ? [`${listed(note.written)} ${note.written.length === 1 ? 'was' : 'were'} written.`]
          : []),
        ...note.failed.map(({ path, because }) => `${path} could not be written: ${because}`),
      ].join(' ');
    case 'gaps':
      return `There is no report for ${listed(note.periods.length > mostGaps ? [...note.periods.slice(0, mostGaps), `${note.periods.length - mostGaps} more periods`] : note.periods)}.`;
    case 'came':
      return `${[cameWords(note.added, 'added'), cameWords(note.changed, 'made anew')].filter(Boolean).join(', ')}: ${note.rows} ${note.rows === 1 ? 'row' : 'rows'}, ${note.held} held.`;
    case 'made anew':
      return madeAnewSentence(note);
    case 'differences':
      return note.differences.length === 0
        ? `Nothing differs in ${note.reports} reports.`
        : note.differences.map(differenceSentence).join(' ');
    case 'cancelled':
      return 'Cancelled; the dataset before it stays published.';
    case 'interrupted':
      return 'The program ended while this run was under way; the dataset before it stays published.';
    case 'failed':
      return `The refresh failed: ${note.error} The dataset before it stays published.`;
  }
}

const cameWords = (labels: readonly string[], what: string): string =>
  labels.length === 0 ? '' : labels.length === 1 ? `${labels[0]} ${what}` : `${labels.length} reports ${what}`;

/** Why a report has no rows of its own in a run, where its state says so; undefined where its problems do. */
export function stateSentence({ state, path, of }: Pick<RunReport, 'state' | 'path' | 'of'>): string | undefined {
  switch (state) {
    case 'replaced':
      return `${path} is replaced by ${of}, a later issue for the same period.`;
    case 'set aside':
      return `${path} is set aside by hand; its rows are not in the dataset.`;
    case 'a copy':
      return `${path} has the same content as ${of} and is counted once.`;
    case 'removed':
      return `${path} is no longer in the folder; its rows left the dataset.`;
    case 'not a PDF':
      return `${path} is not a PDF and was left alone.`;
    case 'left out':
      return `${path} was left out: ${of}.`;
    default:
      return undefined;
  }
}

/** The reports that another build of the program made anew, and what of the dataset changed by it. */
function madeAnewSentence({
  build,
  reports,
  unknown,
  unlike,
  cells,
  added,
  removed,
  first,
}: Extract<RunNote, { kind: 'made anew' }>): string {
  const counted = (count: number, word: string) => `${count} ${word}${count === 1 ? '' : 's'}`;
  const quote = (text: string | null) => (text === null ? 'blank' : `“${text}”`);
  const changed = [
    [cells, 'published cell changed', 'published cells changed'],
    [added, 'row came', 'rows came'],
    [removed, 'row went', 'rows went'],
  ] as const;
  const said = changed.flatMap(([count, one, many]) => (count > 0 ? [`${count} ${count === 1 ? one : many}`] : []));
  const shown = first
    .slice(0, 3)
    .map(
      ({ path, page, heading, before, after }) =>
        `${heading === null ? 'a row' : `“${heading}”`} on page ${page} of ${path}: ${quote(before)} became ${quote(after)}`,
    );
  return [
    ...(reports > 0
      ? [
          `${counted(reports, 'report')} of an older program ${reports === 1 ? 'was' : 'were'} made anew by ${build}: ${said.length > 0 ? `${said.join(', ')} by it` : 'nothing in the dataset changed by it'}.`,
        ]
      : []),
    ...(unknown > 0
      ? [
          `By which document ${unknown === reports ? (unknown === 1 ? 'it' : 'they') : `${unknown} of them`} had been made is not known.`,
        ]
      : []),
    ...(shown.length > 0
      ? [`${shown.join('; ')}${cells + added + removed > shown.length ? '; and others' : ''}.`]
      : []),
    ...(unlike > 0
      ? [
          `${counted(unlike, 'report')} of an older program ${unlike === 1 ? 'was' : 'were'} made anew as well, and ${unlike === 1 ? 'its file or the document is another, too' : 'their files or the document are others, too'}: what changed by which cannot be told.`,
        ]
      : []),
  ].join(' ');
}
