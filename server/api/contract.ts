// What goes over HTTP: bodies checked with Valibot, answers typed. The web imports from here and from core only.
import * as v from 'valibot';
import type { Hit } from '../../core/intake/find-text';
import type { Cell } from '../../core/sheet/cell';
import type { ValueType } from '../../core/sheet/sheet';
import { columnChoice } from '../../core/steps/column-choice';
import { localeNames } from '../../core/values/locale';
import type { workOutColumns } from '../work/thread';
import type { StoredReport } from '../store/reports';
import type { RunReport, StoredRun } from '../store/runs';
import type { OrUnreadable, page, ReportSummary } from '../work/thread';

export type { RunEvent, RunProgress } from '../runs/run-manager';
export type { RunDetails, RunReport, StoredRun } from '../store/runs';
export type { StoredReport } from '../store/reports';
export type { CarriedSummary, ColumnValues, LayersAnswer, OrUnreadable, ReadSummary, ReportSummary, SheetWindow, Traced, WordFate } from '../work/thread';
import type { FoundFacts } from '../work/facts';
export type { FoundFacts, TableFacts } from '../work/facts';
export type { Hit } from '../../core/intake/find-text';
export type { TakeMatch } from '../../core/intake/take';
export type { DatasetRow } from '../store/dataset';

/** The one shape of every error. `message` is a sentence for the analyst. */
export interface ApiError {
  readonly error: { readonly kind: 'bad input' | 'not found' | 'forbidden' | 'conflict' | 'too large' | 'unreadable' | 'fault'; readonly message: string };
}

export const newPipelineBody = v.object({ document: v.unknown(), folder: v.optional(v.pipe(v.string(), v.minLength(1))) });
export const savedPipelineBody = v.object({ document: v.unknown() });

const whole = v.pipe(v.string(), v.regex(/^\d{1,9}$/, 'Expected a whole number.'), v.transform(Number));
export const windowQuery = v.object({
  start: v.optional(whole, '0'),
  count: v.optional(v.pipe(whole, v.maxValue(1000, 'A window has at most 1000 rows.')), '100'),
});
/** Pages to look at only, as `3-8`. */
const pages = v.optional(
  v.pipe(
    v.string(),
    v.regex(/^[1-9]\d{0,5}-[1-9]\d{0,5}$/, 'Pages are given as 3-8.'),
    v.transform((text) => text.split('-').map(Number) as [number, number]),
    v.check(([from, to]) => from <= to, 'The first page comes before the last.'),
  ),
);
export const sheetQuery = v.object({ ...windowQuery.entries, pages, step: v.optional(v.string()), of: v.optional(v.picklist(['sheet', 'held', 'left out', 'overwritten']), 'sheet') });
export const traceQuery = v.object({ pages, row: whole, column: v.string(), step: v.optional(v.string()), of: v.optional(v.picklist(['sheet', 'held', 'left out']), 'sheet') });
export const layersQuery = v.object({ pages });
export const errorsQuery = v.object({ pages, step: v.optional(v.string()) });
export const workOutBody = v.object({ step: v.string(), locale: v.picklist(localeNames), reports: v.optional(v.array(v.number())) });
export const findQuery = v.object({ text: v.pipe(v.string(), v.trim(), v.minLength(2, 'Write at least two letters to look for.'), v.maxLength(200, 'Look for at most 200 letters.')) });
const printed = v.object({ by: v.literal('print'), from: v.picklist(['file name', 'table title', 'page text']) });
export const valuesBody = v.object({ pages, step: v.string(), of: v.union([printed, columnChoice]) });
export type ValuesSubject = v.InferOutput<typeof valuesBody>['of'];
export const wordQuery = v.object({ pages, page: whole, word: whole, step: v.optional(v.string()) });
export const fileQuery = v.object({ name: v.pipe(v.string(), v.regex(/^[^/\\\u0000]{1,200}$/, 'A file name has no slash and at most 200 characters.'), v.regex(/^[^.]/, 'A file name does not begin with a dot.')) });

export interface PipelineSummary {
  readonly id: number;
  readonly name: string;
  readonly folder: string;
  readonly managed: boolean;
  readonly viewName: string;
  readonly reports: number;
  readonly rows: number | null;
  readonly lastRuns: readonly StoredRun[];
  readonly running: number | null;
  /** What needs the analyst, in a sentence each. */
  readonly needs: readonly string[];
}

export interface PipelineFull extends PipelineSummary {
  readonly document: unknown;
}

export interface RunFull {
  readonly run: StoredRun;
  readonly reports: readonly RunReport[];
}

export interface DatasetAnswer {
  readonly publication: number;
  readonly publishedAt: string;
  readonly rows: number;
  readonly misfits: number;
  readonly columns: readonly { readonly identifier: string; readonly heading: string; readonly type: ValueType }[];
  readonly start: number;
  readonly window: readonly { readonly row: number; readonly report: number; readonly page: number; readonly cells: readonly Cell[] }[];
}

export interface FolderAnswer {
  readonly folder: string;
  readonly parent: string | null;
  readonly folders: readonly { readonly name: string; readonly path: string; readonly pdfs: number }[];
  readonly pdfs: readonly string[];
}

/** The content of one page, with the pieces of found tables on it. */
export type PageAnswer = Exclude<Awaited<ReturnType<typeof page>>, { readonly unreadable: string }>;

/** Events of an intake: reports as they are read and carried, page by page, then `done`. */
export type IntakeEvent =
  | { readonly kind: 'reading'; readonly report: number; readonly page: number; readonly pages: number; readonly found: FoundFacts }
  | { readonly kind: 'report'; readonly report: number; readonly summary: OrUnreadable<ReportSummary> }
  | { readonly kind: 'done' };

export type { ErrorPlace } from '../../core/pipeline/errors';
export type { ProposedColumn } from '../../core/pipeline/columns-worked-out';
export type WorkOutAnswer = Awaited<ReturnType<typeof workOutColumns>>;

/** Events of a search: the hits of each report that has any, in the order of the reports, then `done`. */
export type FindEvent =
  | { readonly kind: 'hits'; readonly report: number; readonly hits: readonly Hit[] }
  | { readonly kind: 'done' };

export type ReportsAnswer = readonly StoredReport[];
