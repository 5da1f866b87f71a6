import * as v from 'valibot';
import type { Box } from '../page/box';
import { readingNames } from '../reading/found-table';
import { keeps } from '../reading/readings/drawn';

const point = v.pipe(v.number(), v.finite());
const boxSchema: v.GenericSchema<Box> = v.tuple([point, point, point, point]);
const some = v.pipe(v.string(), v.trim(), v.minLength(1));
const count = v.pipe(v.number(), v.integer(), v.minValue(1));

/** A word of the guide's page by which a drawing finds its place on other pages. */
const anchor = v.object({ text: some, box: boxSchema });

/** Separators put by hand, in points of the page on which they were drawn. */
export const drawing = v.object({
  anchors: v.array(anchor),
  /** Between columns; a word that stands across one is kept whole on the side set. */
  columns: v.array(v.object({ at: point, keep: v.optional(v.picklist(keeps), 'most') })),
  rows: v.optional(v.picklist(['as read', 'every line', 'first column', 'drawn']), 'as read'),
  /** Between rows, where these are drawn. */
  cuts: v.optional(v.array(point), []),
  /** The area drawn, for a table that was not found. */
  box: v.optional(boxSchema),
  /** Text of the line that ends the area. */
  below: v.optional(some),
});
export type Drawing = v.InferOutput<typeof drawing>;

/** Found tables that make one: the next ones below (overleaf too), or beside. */
const join = v.object({ place: v.picklist(['below', 'beside']), tables: v.optional(count, 1) });

/** A found table that is two: cut above the row, or left of the column, that has this text. */
const cut = v.object({ by: v.picklist(['row', 'column']), text: some, part: v.picklist(['before', 'from there']) });

export const labelSides = ['right', 'below'] as const;
/** A value that stands beside or under its label, and the column that it goes into. */
export const label = v.object({ name: some, label: some, side: v.optional(v.picklist(labelSides), 'right') });

const readingChoice = v.picklist(['best', ...readingNames]);

/** Which table of each report enters the pipeline, and how it is cut out and read. */
export const takeRule = v.pipe(
  v.object({
    name: v.pipe(v.string(), v.minLength(1)),
    of: v.optional(v.picklist(['found table', 'area', 'whole page', 'labels']), 'found table'),
    title: v.optional(v.string()),
    heading: v.optional(v.array(v.string()), []),
    /** Only tables of so many columns. */
    columns: v.optional(count),
    /** Only what stands on these pages. */
    pages: v.optional(v.object({ from: count, to: count })),
    reading: v.optional(readingChoice, 'best'),
    /** Reports, by their path below the folder, that are read otherwise. */
    readingIn: v.optional(v.array(v.object({ report: some, reading: readingChoice })), []),
    drawing: v.optional(drawing),
    join: v.optional(join),
    cut: v.optional(cut),
    labels: v.optional(v.array(label), []),
    /** Least likeness, 0 to 1, at which a table is taken. */
    least: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(1)), 0.5),
    which: v.optional(v.picklist(['the likest', 'all alike']), 'the likest'),
  }),
  v.check(
    ({ reading, readingIn, drawing: drawn }) =>
      drawn !== undefined || ![reading, ...readingIn.map((each) => each.reading)].includes('drawn'),
    'A drawn reading needs its separators: a drawing.',
  ),
  v.check(
    ({ of, drawing: drawn }) => of !== 'area' || drawn?.box !== undefined,
    'An area needs its drawing with a box.',
  ),
  v.check(({ of, labels }) => of !== 'labels' || labels.length > 0, 'Labels need at least one label.'),
);
export type TakeRule = v.InferOutput<typeof takeRule>;
export type ReadingChoice = v.InferOutput<typeof readingChoice>;
export type LabelSetting = v.InferOutput<typeof label>;

/** A rule from its settings, the rest as it begins. */
export const ruleOf = (settings: v.InferInput<typeof takeRule>): TakeRule => v.parse(takeRule, settings);
