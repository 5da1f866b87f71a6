import { height, width, type Box } from '../page/box';
import type { PageContent } from '../page/page';
import type { Piece, Reading } from './found-table';
import { plainRows } from './found-table';

const squeezed = (text: string) => text.toLowerCase().replace(/\s+/g, '');
const headingOf = (reading: Reading) => squeezed(plainRows(reading).slice(0, reading.headingRows).flat().join('|'));

/** Titles that only say that the table goes on. */
const goesOn = /continued|fortsetzung|suite|forts\.|\(cont/i;

/**
 * Does `next`, the first table of its page, go on from `last`, the last table of the page before? It does when it has
 * the same columns in the same places and either repeats the heading or has none, unless a new title stands above it.
 */
export function continues(last: Piece, next: Piece, before: PageContent, page: PageContent): boolean {
  if (next.page !== last.page + 1) return false;
  const a = last.readings[0];
  const b = next.readings[0];
  if (next.title && !goesOn.test(next.title) && (!last.title || squeezed(next.title) !== squeezed(last.title))) return false;
  if (next.title && !goesOn.test(next.title) && last.title && squeezed(next.title) === squeezed(last.title) && !endsLow(last.box, before)) return false;
  const repeated = a.headingRows > 0 && b.headingRows > 0 && headingOf(a) === headingOf(b);
  if (!sameWidth(last.box, next.box) && !repeated) return false;
  if (repeated) return true;
  if (a.columns.length !== b.columns.length && Math.abs(a.columns.length - b.columns.length) > 1) return false;
  return endsLow(last.box, before) && startsHigh(next.box, page);
}

const sameWidth = (a: Box, b: Box) => Math.abs(a[0] - b[0]) < 0.05 * width(a) + 6 && Math.abs(width(a) - width(b)) < 0.1 * width(a) + 6;
const endsLow = (box: Box, page: PageContent) => box[3] > 0.6 * page.height || height(box) > 0.6 * page.height;
const startsHigh = (box: Box, page: PageContent) => box[1] < 0.25 * page.height;
