import * as v from 'valibot';
import type { Seen } from './difference';

const text = v.string();
const count = v.number();
const three = v.strictTuple([v.number(), v.number(), v.number()]);
const columnTraits = v.object({
  name: text,
  cells: count,
  filled: count,
  numbers: count,
  sizes: v.optional(three),
  sum: v.optional(v.number()),
  decimals: v.optional(v.number()),
  unit: v.optional(text),
  shape: v.optional(text),
  shaped: v.optional(v.number()),
  sample: v.array(v.number()),
});
const tableTraits = v.object({
  rule: text,
  tables: count,
  headingRows: count,
  rows: count,
  columns: v.array(columnTraits),
  smaller: v.array(three),
  points: count,
  commas: count,
  scale: text,
  unit: text,
});

/**
 * What a report of the pipeline looked like when the document was written to a file: for each take rule its columns by heading with
 * the kind and size of their values, in their order, the depth of its headings, how many tables and rows. Where no report is in a
 * dataset yet, the first that come are held against these.
 */
export const expectedReport = v.object({
  path: text,
  period: v.nullable(text),
  traits: v.object({
    tables: v.array(tableTraits),
    others: count,
    misfits: v.array(v.object({ column: text, texts: v.array(text) })),
  }),
});
export type ExpectedReport = v.InferOutput<typeof expectedReport>;

/** So many of the last reports say what is usual. */
const most = 8;

/** What goes into the document of reports that are in the dataset, in their order: of the last ones, without their places on paper. */
export const expectsOf = (seen: readonly Pick<Seen, 'path' | 'period' | 'traits'>[]): ExpectedReport[] =>
  seen.slice(-most).map(({ path, period, traits: { tables, others, misfits } }) => ({
    path,
    period,
    traits: {
      others,
      misfits: misfits.map(({ column, texts }) => ({ column, texts: [...texts] })),
      tables: tables.map(({ columns, ...table }) => ({
        ...table,
        smaller: table.smaller.map((pair) => [...pair] as [number, number, number]),
        columns: columns.map(({ page: _, words: __, ...column }) => v.parse(columnTraits, column)),
      })),
    },
  }));

/** As reports that are in a dataset, before all others. */
export const asSeen = (expects: readonly ExpectedReport[]): Seen[] =>
  expects.map(({ path, period, traits }, i) => ({
    key: `expected ${i}`,
    path,
    period,
    known: true,
    traits: traits,
  }));
