import { around, grow, overlapX, width } from '../page/box';
import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import type { Reading, ReadingName } from './found-table';
import { phrasesOf } from './phrases';
import { readAligned } from './readings/aligned';
import { readRuled } from './readings/ruled';
import { isCaption, isRunningText } from './regions/print';
import type { Region } from './regions/regions';
import { viewOf } from './region-view';

/** A line so near, in font sizes, may belong to the table. */
const nearLine = 1.6;
/** A table so near below, in font sizes, may be the same one. */
const nearTable = 5;
/** White space that is so much wider than is usual between the columns, and so many font sizes wide, may part two tables. */
const widerThanUsual = 2.5;
const widestInTable = 3;

/** What stands further from the region than this, in points, is not looked at. */
const looked = 90;

interface Extent {
  readonly name: ReadingName;
  readonly words: readonly number[];
  /** What is taken in or left out, for the reason. */
  readonly what: string;
}

/**
 * Readings of the same table with another extent: a line more or less, joined with the next table, parted at a wide
 * gutter. None where nothing near the table bears it.
 * @param regions the page's regions, this one among them
 * @param outside words that belong to no table: the title, running heads
 */
export function readingsOfOtherExtents(
  page: PageContent,
  region: Region,
  regions: readonly Region[],
  outside: ReadonlySet<number>,
): Reading[] {
  return extentsOf(page, region, regions, outside).flatMap(({ name, words, what }) => {
    const box = grow(around(words.map((w) => page.words[w].box))!, 1);
    const [best] = [readRuled, readAligned]
      .flatMap((read) => read(page, words, box) ?? [])
      .sort((a, b) => b.score - a.score);
    return best && best.columns.length > 1
      ? [{ ...best, name, score: Math.round(0.5 * best.score * 1000) / 1000, reason: `${what} ${best.reason}` }]
      : [];
  });
}

function extentsOf(
  page: PageContent,
  region: Region,
  regions: readonly Region[],
  outside: ReadonlySet<number>,
): Extent[] {
  const taken = new Set(regions.flatMap(({ words }) => words));
  const [top, bottom] = [region.box[1] - looked, region.box[3] + looked];
  const free = linesOf(
    page.words,
    page.words.flatMap((word, i) =>
      word.box[3] > top &&
      word.box[1] < bottom &&
      word.angle === 0 &&
      !taken.has(i) &&
      !outside.has(i) &&
      overlapX(word.box, region.box) > 0
        ? [i]
        : [],
    ),
  );
  const { lines, layout } = viewOf(page, region.words, region.box);
  const found: Extent[] = [];
  const mayBelong = (line: Line | undefined, gap: number): line is Line =>
    line !== undefined &&
    gap > -0.5 * line.fontSize &&
    gap < nearLine * line.fontSize &&
    line.box[0] > region.box[0] - 20 &&
    line.box[2] < region.box[2] + 20 &&
    !isCaption(textOf(page.words, line.words)) &&
    !isRunningText(page, line.words, width(region.box));
  const above = free.findLast((line) => line.box[3] <= region.box[1] + 3);
  if (mayBelong(above, above ? region.box[1] - above.box[3] : 0))
    found.push({
      name: 'with the line above',
      words: [...above.words, ...region.words],
      what: `“${shortened(page, above)}” is taken in from above.`,
    });
  const below = free.find((line) => line.box[1] >= region.box[3] - 3);
  if (mayBelong(below, below ? below.box[1] - region.box[3] : 0))
    found.push({
      name: 'with the line below',
      words: [...region.words, ...below.words],
      what: `“${shortened(page, below)}” is taken in from below.`,
    });
  const [first] = lines;
  if (lines.length > 3 && phrasesOf(page, first, 0.8).length === 1)
    found.push({
      name: 'without the top line',
      words: region.words.filter((w) => !first.words.includes(w)),
      what: `“${shortened(page, first)}” is left out.`,
    });
  const next = regions.find(
    ({ box }) =>
      box[1] >= region.box[3] - 2 &&
      box[1] - region.box[3] < nearTable * first.fontSize &&
      overlapX(box, region.box) > 0.6 * Math.min(width(box), width(region.box)),
  );
  if (next) {
    const between = free.filter((line) => line.box[1] >= region.box[3] - 2 && line.box[3] <= next.box[1] + 2);
    if (between.length <= 2 && !between.some((line) => isRunningText(page, line.words, width(region.box))))
      found.push({
        name: 'joined with the next table',
        words: [...region.words, ...between.flatMap(({ words }) => words), ...next.words],
        what: 'The table below is taken in.',
      });
  }
  const wide = layout && widestGutter(layout.gutters, first.fontSize);
  if (layout && wide !== undefined) {
    const [left, right] = [true, false].map((isLeft) =>
      region.words.filter((w) => page.words[w].box[0] < wide === isLeft),
    );
    found.push(
      { name: 'left of the widest gap', words: left, what: 'What stands right of the widest gap is left out.' },
      { name: 'right of the widest gap', words: right, what: 'What stands left of the widest gap is left out.' },
    );
  }
  return found.filter(({ words }) => words.length > 3);
}

const shortened = (page: PageContent, { words }: Line) => {
  const text = textOf(page.words, words);
  return text.length > 40 ? `${text.slice(0, 38)}…` : text;
};

/** The middle of a gutter that is clearly wider than the others, with columns enough on both sides for two tables. */
function widestGutter(
  gutters: readonly { readonly from: number; readonly to: number }[],
  fontSize: number,
): number | undefined {
  const widths = gutters.map(({ from, to }) => to - from);
  const usual = [...widths].sort((a, b) => a - b)[(widths.length - 1) >> 1];
  const at = widths.indexOf(Math.max(...widths.slice(1, -1)));
  if (gutters.length < 3 || widths[at] < widerThanUsual * usual || widths[at] < widestInTable * fontSize)
    return undefined;
  return (gutters[at].from + gutters[at].to) / 2;
}
