// What goes over HTTP: bodies and queries checked with Valibot, answers typed. The web imports from here and from core only.
import * as v from 'valibot';
import { columnChoice } from '../../core/steps/column-choice';
import { stepSchema } from '../../core/steps/kinds';
import { zones } from '../../core/steps/step';
import { localeNames } from '../../core/values/locale';

export type * from './answers';
export type { ErrorPlace } from '../../core/pipeline/errors';
export type { ProposedColumn } from '../../core/pipeline/columns-worked-out';
export type { ValueCounts } from '../../core/pipeline/value-counts';
export type { CellFound } from '../../core/sheet/find-cell';
export type { ColumnCard } from '../../core/dataset/column-card';
export type { CellRange, Measured } from '../../core/sheet/measure';
export type { ShapeMarks } from '../../core/pipeline/shape-marks';
export type { WordFate } from '../../core/pipeline/word-fate';
export type { PartOfText } from '../../core/suggest/for-part';
export type { Offer, Selected } from '../../core/suggest/for-selection';
export type { Proposal } from '../../core/suggest/propose';
export type { Hit } from '../../core/intake/find-text';
export type { TakeMatch } from '../../core/intake/take';
export type { RunNote, RunReport, RunState } from '../../core/runs/run';
export type { LayerCounts } from '../../core/pipeline/told';

export const newPipelineBody = v.object({
  document: v.unknown(),
  folder: v.optional(v.pipe(v.string(), v.minLength(1))),
});
/** @property letGo reports that are gone from the folder may leave the dataset, however many */
export const runBody = v.object({ letGo: v.optional(v.boolean(), false) });
export const folderBody = v.object({ folder: v.pipe(v.string(), v.minLength(1)) });
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
/** A row to be told beside the window, wherever it stands: its found table and its place there, as `p2t1:14`. */
const besideRow = v.pipe(
  v.string(),
  v.regex(/^[a-z0-9]{1,20}:\d{1,9}$/, 'A row is named by its table and its place there, as p2t1:14.'),
  v.transform((text) => ({ table: text.split(':')[0], ordinal: Number(text.split(':')[1]) })),
);
export const sheetQuery = v.object({
  ...windowQuery.entries,
  pages,
  step: v.optional(v.string()),
  of: v.optional(v.picklist(['sheet', 'held', 'left out', 'overwritten']), 'sheet'),
  beside: v.optional(besideRow),
});
/** -1: a row that a step made. */
const ordinal = v.pipe(v.string(), v.regex(/^(?:-1|\d{1,9})$/, 'Expected a whole number.'), v.transform(Number));
/** A row is named by its found table and its ordinal there, and its place in the sheet shown; without one the name of the column is traced. */
export const traceQuery = v.pipe(
  v.object({
    pages,
    table: v.optional(v.string()),
    ordinal: v.optional(ordinal),
    row: v.optional(whole),
    column: v.string(),
    step: v.optional(v.string()),
    of: v.optional(v.picklist(['sheet', 'held', 'left out']), 'sheet'),
  }),
  v.check(
    ({ table, ordinal, row }) =>
      [table, ordinal, row].every((each) => each === undefined) ||
      [table, ordinal, row].every((each) => each !== undefined),
    'A row is named by table, ordinal and row together.',
  ),
  v.transform(({ table, ordinal, row, ...cell }) => ({
    ...cell,
    ...(row === undefined ? {} : { row: { table: table!, ordinal: ordinal!, shownAt: row } }),
  })),
);
const part = v.optional(v.picklist(['sheet', 'held', 'left out', 'overwritten']), 'sheet');
const at = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(999_999_999));
const span = v.pipe(
  v.tuple([at, at]),
  v.check(([from, to]) => from <= to, 'The first comes before the last.'),
  v.readonly(),
);
/** Cells from one place to another, with both. */
const ranges = v.pipe(
  v.array(
    v.object({
      rows: span,
      columns: v.pipe(
        span,
        v.check(([, to]) => to < 10_000, 'A sheet has no so many columns.'),
      ),
    }),
  ),
  v.maxLength(1000, 'At most 1000 ranges at a time.'),
);
export const measureBody = v.object({ pages, step: v.optional(v.string()), of: part, ranges });
const partOfText = v.pipe(
  v.object({ row: at, column: at, from: at, to: at }),
  v.check(({ from, to }) => from < to, 'A part has at least one letter.'),
);
const proposed = v.pipe(
  v.array(v.object({ zone: v.picklist(zones), step: stepSchema })),
  v.minLength(1),
  v.maxLength(100, 'At most 100 steps at a time.'),
);
/** What steps are asked for: a selection, a part of a text, the edge right of a column, a word on the paper; or steps, of which it is told what the last would do below the others. */
const offersOf = v.union([
  v.object({ selected: v.object({ rows: span, columns: span }) }),
  v.object({ part: partOfText }),
  v.object({ edge: at }),
  v.object({ word: v.object({ page: v.pipe(v.number(), v.integer(), v.minValue(1)), word: at }) }),
  v.object({ steps: proposed }),
]);
export type OffersOf = v.InferOutput<typeof offersOf>;
export const offersBody = v.object({ pages, step: v.optional(v.string()), of: offersOf });
const place = {
  row: v.optional(v.pipe(v.number(), v.integer(), v.minValue(-1)), -1),
  column: v.optional(at, 0),
  back: v.optional(v.boolean(), false),
};
const sought = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Write what to look for.'),
  v.maxLength(200, 'Look for at most 200 letters.'),
);
/** The next cell with a text, from a place on. */
export const findCellBody = v.object({ pages, step: v.optional(v.string()), of: part, text: sought, ...place });
/** Rows of the dataset: conditions and order as addresses have them. */
const selected = {
  where: v.optional(v.array(v.pipe(v.string(), v.maxLength(2000))), []),
  order: v.optional(v.pipe(v.string(), v.maxLength(2000)), ''),
};
export const selectionQuery = v.object({
  ...windowQuery.entries,
  where: v.optional(
    v.union([
      v.pipe(
        v.string(),
        v.transform((one) => [one]),
      ),
      v.array(v.string()),
    ]),
    [],
  ),
  order: selected.order,
});
export const publishedMeasureBody = v.object({ ranges, ...selected });
export const publishedFindBody = v.object({ text: sought, ...place, ...selected });
export const columnCardQuery = v.object({
  column: v.string(),
  values: v.optional(
    v.pipe(v.string(), v.transform(Number), v.number(), v.integer(), v.minValue(1), v.maxValue(1000)),
    '12',
  ),
});
export const layersQuery = v.object({ pages });
export const errorsQuery = v.object({ pages, step: v.optional(v.string()) });
export const workOutBody = v.object({
  step: v.string(),
  locale: v.picklist(localeNames),
  reports: v.optional(v.array(v.number())),
});
export const findQuery = v.object({
  text: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(2, 'Write at least two letters to look for.'),
    v.maxLength(200, 'Look for at most 200 letters.'),
  ),
});
const printed = v.object({ by: v.literal('print'), from: v.picklist(['file name', 'table title', 'page text']) });
export const valuesBody = v.object({ pages, step: v.string(), of: v.union([printed, columnChoice]) });
export type ValuesSubject = v.InferOutput<typeof valuesBody>['of'];
export const totalQuery = v.object({ step: v.string(), table: v.string(), ordinal, column: v.string() });
export const marksQuery = v.object({ pages, page: whole, step: v.optional(v.string()) });
export const wordQuery = v.object({ pages, page: whole, word: whole, step: v.optional(v.string()) });
/** The longest name of a file, in bytes of UTF-8, on the disks in use. */
export const longestName = 255;
const fileName = v.pipe(
  v.string(),
  v.regex(/^[^/\\]+$/, 'A file name has no slash.'),
  v.regex(/^[^.]/, 'A file name does not begin with a dot.'),
  v.maxBytes(longestName, `A file name has at most ${longestName} bytes.`),
);
/** @property there what is to be done where there is a file of that name with other content */
export const fileQuery = v.object({
  name: fileName,
  there: v.optional(v.picklist(['ask', 'replace', 'keep both']), 'ask'),
});

export const versionsQuery = v.object({
  below: v.optional(whole),
  count: v.optional(v.pipe(whole, v.maxValue(200, 'At most 200 versions at a time.')), '50'),
});
export const evidenceQuery = v.object({ row: whole, column: v.string() });
export const totalEvidenceQuery = v.object({
  report: whole,
  step: v.string(),
  table: v.string(),
  ordinal,
  column: v.string(),
});
export const reconcileQuery = v.object({ check: v.string() });
export const datasetTraceQuery = v.object({ row: v.optional(whole), column: v.string() });

export const listName = v.object({ name: fileName });
