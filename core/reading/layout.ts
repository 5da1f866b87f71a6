import { overlap, type Box } from '../page/box';
import type { Gutter } from './gutters';

/** Columns of a block: the stretches between the gutters, and the edges on which most texts of each column stand. */
export interface Layout {
  readonly gutters: readonly Gutter[];
  readonly columns: [left: number, right: number][];
  readonly edges: readonly { left?: number; right?: number }[];
  /** Word space in points. */
  readonly space: number;
}

/** Words of a line and the columns that they stand in. */
export interface InColumns {
  readonly column: number;
  readonly columnSpan: number;
  readonly words: readonly number[];
}

const share = (column: readonly [number, number], box: Box) => overlap(column[0], column[1], box[0], box[2]);

/** The first column that a box stands in by more than a sliver. */
export function leftmost(columns: readonly (readonly [number, number])[], box: Box): number {
  const sliver = Math.min(2, 0.25 * (box[2] - box[0]));
  const at = columns.findIndex((stretch) => share(stretch, box) > sliver);
  return at >= 0 ? at : nearest(columns, box);
}

export function rightmost(columns: readonly (readonly [number, number])[], box: Box): number {
  const sliver = Math.min(2, 0.25 * (box[2] - box[0]));
  const at = columns.findLastIndex((stretch) => share(stretch, box) > sliver);
  return at >= 0 ? at : nearest(columns, box);
}

const nearest = (columns: readonly (readonly [number, number])[], box: Box) =>
  columns.reduce((best, column, i) => (share(column, box) > share(columns[best], box) ? i : best), 0);

/** Does a text stand over one column and the white space around it, and over no text of its neighbours? */
export const standsOver = (box: Box, column: number, { gutters }: Layout): boolean =>
  box[0] >= (gutters[column - 1]?.from ?? -Infinity) - 2 && box[2] <= (gutters[column]?.to ?? Infinity) + 2;
