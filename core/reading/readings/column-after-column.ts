import { height, middleX, type Box } from '../../page/box';
import { linesOf, type Line } from '../../page/lines';
import type { ReadRegion } from '../found-table';
import type { Gutter } from '../gutters';
import { asReading, closeGrid, type Slot } from '../grid';
import { viewOf } from '../region-view';

/** At most so many lines at the top and at the bottom are running heads, and white space of so many font sizes sets them off. */
const mostHeads = 2;
const setOff = 1.8;

/** Gutters that are so much narrower than the widest part something inside a column. */
const asWide = 0.6;

/**
 * Columns of print that go on in the next one, as in a directory: each column by its own lines, one below the other, every line a row of
 * one column. Lines of two columns stand at heights of their own and are never one row; running heads and feet stand before and after them.
 */
export const readColumnAfterColumn: ReadRegion = (page, words, region) => {
  const { layout, lines } = viewOf(page, words, region);
  const gutters = widestOf(layout?.gutters ?? []);
  if (gutters.length === 0) return undefined;
  const { heads, body, feet } = partedByHeads(lines);
  const columnOf = (box: Box) => gutters.filter(({ from, to }) => (from + to) / 2 < middleX(box)).length;
  const columns = Array.from({ length: gutters.length + 1 }, (_, column) =>
    linesOf(
      page.words,
      body.flatMap((line) => line.words).filter((w) => columnOf(page.words[w].box) === column),
    ).filter((line) => height(line.box) > 0),
  );
  const rows = [...heads, ...columns.flat(), ...feet];
  const slots: Slot[] = rows.map((line, row) => ({
    row,
    column: 0,
    rowSpan: 1,
    columnSpan: 1,
    words: [...line.words],
  }));
  return asReading(
    closeGrid(page, { slots, rows: rows.map((line) => line.box), columns: [[region[0], region[2]]] }),
    'column after column',
    0.15,
    `${columns.length} columns of print, one below the other: ${columns.map((own) => own.length).join(' and ')} lines, each a row of one column.`,
  );
};

function partedByHeads(lines: readonly Line[]): {
  heads: readonly Line[];
  body: readonly Line[];
  feet: readonly Line[];
} {
  const isSetOff = (above: Line | undefined, below: Line | undefined) =>
    above !== undefined &&
    below !== undefined &&
    below.box[1] - above.box[3] > setOff * Math.max(above.fontSize, below.fontSize);
  const last = lines.length - 1;
  const top = Array.from({ length: mostHeads }, (_, i) => i).findLast(
    (i) => i < last && isSetOff(lines[i], lines[i + 1]),
  );
  const bottom = Array.from({ length: mostHeads }, (_, i) => last - i).findLast(
    (i) => i > (top ?? 0) + 1 && isSetOff(lines[i - 1], lines[i]),
  );
  const [from, to] = [top === undefined ? 0 : top + 1, bottom ?? lines.length];
  return { heads: lines.slice(0, from), body: lines.slice(from, to), feet: lines.slice(to) };
}

function widestOf(gutters: readonly Gutter[]): readonly Gutter[] {
  const widest = Math.max(...gutters.map(({ from, to }) => to - from));
  return gutters.filter(({ from, to }) => to - from >= asWide * widest);
}
