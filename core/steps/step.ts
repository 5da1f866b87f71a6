import * as v from 'valibot';
import type { Box } from '../page/box';
import type { Problem } from '../sheet/problem';
import type { Cell } from '../values/cell';
import type { Column } from '../sheet/column';
import type { Lists } from '../sheet/list';
import { rowsAt, type Sheet } from '../sheet/sheet';
import { own } from '../values/own';

export const zones = ['eachTable', 'eachReport', 'allReports'] as const;
export type Zone = (typeof zones)[number];
export const zoneTitles: Record<Zone, string> = {
  eachTable: 'each table',
  eachReport: 'each report',
  allReports: 'all reports',
};

/** One line of print on a page: its text and the words with where each starts in it. */
export interface PaperLine {
  readonly text: string;
  readonly box: Box;
  readonly words: readonly number[];
  readonly starts: readonly number[];
  /** The texts that wide white space parts it into, where these are several. */
  readonly phrases?: readonly PaperLine[];
}

/** What a step may ask of the report that a row comes from. */
export interface Paper {
  /** Path below the folder: two reports may have one name. */
  readonly path: string;
  readonly pages: readonly number[];
  lines(page: number): readonly PaperLine[];
  title(table: string): Printed | undefined;
  /** The found tables by the pages that they are on. */
  readonly pieces: readonly { readonly table: string; readonly page: number; readonly box: Box }[];
  /** The values printed beside or under a label on a page, from the top; boxes are those of the labels. */
  labelled(page: number, label: string, side: 'right' | 'below'): readonly (Printed & { readonly box: Box })[];
}

/** A text on a page, and the words that hold it. */
export interface Printed {
  readonly text: string;
  readonly page: number;
  readonly words: readonly number[];
}

/** The paper of a report by its key. */
export type Papers = (report: string) => Paper;

/** What a step may ask beside the sheet. */
export interface Around {
  readonly papers: Papers;
  readonly lists: Lists;
  /** The analyst lets this row pass, whatever the step's rule says of it. */
  readonly letPass: (sheet: Sheet, row: number) => boolean;
  /** The sheet that came of the table before, where the step runs on each table. */
  readonly before?: Sheet;
}

/** Inputs beside the sheet that a step's result depends on. */
export type Need = 'file name' | 'page text';

/** What a printed total stands for: rows by their numbers in the book; level 1 covers single rows. `differs`: columns in which they do not add up to it. */
export interface Covered {
  readonly rows: readonly number[];
  readonly level: number;
  readonly differs: readonly { readonly column: string; readonly printed: number; readonly computed: number }[];
}

/** Rows that a step took out, each with the reason. `kept` tells totals, which the dataset must add up to, with what each of the rows covers. */
export interface HeldRows {
  readonly rows: Sheet;
  readonly reasons: readonly string[];
  readonly kept?: 'totals';
  readonly covers?: readonly Covered[];
}

/** Cells of one column that a step overwrote: their places in the sheet that passes, and what stood there. */
export interface Overwritten {
  readonly column: string;
  readonly rows: readonly number[];
  readonly old: readonly Cell[];
  readonly why: string;
}

export interface StepResult {
  readonly sheet: Sheet;
  /** The parts that the sheet falls into: in the zone of each table they are tables of their own for the steps below. */
  readonly parts?: readonly Sheet[];
  /** What each of the parts is called from then on, as the title of its table. */
  readonly titles?: readonly (Printed | undefined)[];
  readonly held?: HeldRows;
  /** Each row of the sheet is a record that several lines of print make up. */
  readonly records?: boolean;
  /** How many rows the step put in. */
  readonly added?: number;
  /** How many columns became rows. */
  readonly turned?: number;
  /** Columns left out, with the rows they had. */
  readonly leftOut?: readonly Column[];
  readonly overwritten?: readonly Overwritten[];
  readonly problems?: readonly Problem[];
}

export const groups = ['rows', 'columns', 'values', 'shape'] as const;

/** The one declaration of a step kind. */
export interface StepKind<Kind extends string = string, Entries extends v.ObjectEntries = v.ObjectEntries> {
  readonly kind: Kind;
  readonly title: string;
  readonly group: (typeof groups)[number];
  /** One sentence: what the step does. */
  readonly help: string;
  readonly settings: v.ObjectSchema<Entries, undefined>;
  /** Row by row: running it on each report and appending gives the same as appending first. It may hang on the settings. */
  readonly commutesWithAppend: boolean | ((settings: v.InferOutput<v.ObjectSchema<Entries, undefined>>) => boolean);
  needs(settings: v.InferOutput<v.ObjectSchema<Entries, undefined>>): readonly Need[];
  /** The step in one line, with its settings. */
  describe(settings: v.InferOutput<v.ObjectSchema<Entries, undefined>>): string;
  /** Where names below hang on what stands in the rows: what such a name becomes when the settings are others. Undefined: it stays. */
  renames?(
    before: v.InferOutput<v.ObjectSchema<Entries, undefined>>,
    after: v.InferOutput<v.ObjectSchema<Entries, undefined>>,
  ): (name: string) => string | undefined;
  /** Names below stand in the first rows above: they are told by running the step on these. */
  readonly namesFromRows?: boolean;
  /** Never throws the sheet away: what cannot be done is a problem, and the rows pass. */
  run(sheet: Sheet, settings: v.InferOutput<v.ObjectSchema<Entries, undefined>>, around: Around): StepResult;
}

/** Declares a step kind from plain Valibot entries. */
export function step<const Kind extends string, Entries extends v.ObjectEntries>(
  declaration: Omit<StepKind<Kind, Entries>, 'settings' | 'needs'> & {
    settings: Entries;
    needs?: StepKind<Kind, Entries>['needs'];
  },
): StepKind<Kind, Entries> {
  return { needs: () => [], ...declaration, settings: v.object(declaration.settings) };
}

/** A labelled setting: the label and the help line become the form. */
export const field = <Schema extends v.GenericSchema>(schema: Schema, title: string, help?: string) =>
  v.pipe(schema, v.title(title), v.description(help ?? ''));

/** What a widget is about whose subject is no setting: the names of the columns themselves. */
export const columnNames = 'column names';

/** Widgets that a setting's schema does not tell by itself, each with what it must know. `of`: the setting that says whose values it is about, or the names of the columns. */
export type NamedWidget =
  | { readonly widget: 'columns' | 'subject' | 'column' | 'between' | 'list source' | 'formula' }
  /** @property zero what zero means */
  | { readonly widget: 'number'; readonly zero: string }
  /** @property joinedBy the setting that says whether all or any must be true */
  | { readonly widget: 'conditions'; readonly joinedBy?: string }
  | { readonly widget: 'values' | 'cuts'; readonly of: string }
  | { readonly widget: 'pairs'; readonly of: string }
  /** @property find the setting that says how the text is meant @property matchCase the one that says whether letters must be as written */
  | { readonly widget: 'pattern'; readonly of: string; readonly find?: string; readonly matchCase?: string }
  /** @property whole whether the whole text must fit: always, or while the setting that it is about says so */
  | { readonly widget: 'template'; readonly of: string; readonly whole?: string };

/** A setting with a widget of its own. */
export const widget = <Schema extends v.GenericSchema>(schema: Schema, named: NamedWidget) =>
  v.pipe(schema, v.metadata({ named }));

/** A text that is put between others: a form says a space or nothing in words. */
export const between = <Schema extends v.GenericSchema>(schema: Schema) => widget(schema, { widget: 'between' });
/** The same in a sentence. */
export const betweenInWords = (text: string): string =>
  own({ ' ': 'a space', '': 'nothing between', '\n': 'a line break' }, text) ?? `“${text}”`;

/** A setting that means something only while another has one of some values; forms show it only then. */
export const when = <Schema extends v.GenericSchema>(schema: Schema, setting: string, ...is: readonly string[]) =>
  v.pipe(schema, v.metadata({ when: { setting, is } }));

/** Holds the rows for which `reasonOf` gives a reason, but for those that the analyst lets pass; the others pass. */
export function hold(
  sheet: Sheet,
  { letPass }: Around,
  reasonOf: (row: number) => string | undefined,
  kept?: HeldRows['kept'],
): StepResult {
  const passed: number[] = [];
  const held: number[] = [];
  const reasons: string[] = [];
  for (let row = 0; row < sheet.rows.length; row++) {
    const reason = reasonOf(row);
    if (reason === undefined || letPass(sheet, row)) passed.push(row);
    else {
      held.push(row);
      reasons.push(reason);
    }
  }
  if (held.length === 0) return { sheet };
  return { sheet: rowsAt(sheet, passed), held: { rows: rowsAt(sheet, held), reasons, ...(kept ? { kept } : {}) } };
}
