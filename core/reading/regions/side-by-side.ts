import { textOf, type Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { guttersOf, phrasesOf, type Gutter } from '../columns';
import { isParted, phraseGap } from './print';

/** A gutter between two tables is at least this many font sizes wide, and this many times as wide as those within them. */
const leastWidth = 2;
const timesWider = 2;

/**
 * The place where a block of lines is two tables beside each other: a gutter far wider than the others, with the same
 * headings left and right of it, a title over each side, or rows that do not stand on one line.
 */
export function partBeside(page: PageContent, lines: readonly Line[]): number | undefined {
  const gutters = guttersOf(page, lines);
  if (gutters.length < 3) return undefined;
  const widths = gutters.map(widthOf).sort((a, b) => a - b);
  const fontSize = lines[0].fontSize;
  for (const [i, gutter] of gutters.entries()) {
    if (i === 0 || i === gutters.length - 1) continue;
    const others = widths[(widths.length - 1) >> 1];
    if (widthOf(gutter) < Math.max(leastWidth * fontSize, timesWider * others)) continue;
    const middle = (gutter.from + gutter.to) / 2;
    if (sameHeadings(page, lines, gutters, i) || titledApart(page, lines, gutters, i) || rowsApart(page, lines, middle)) return middle;
  }
  return undefined;
}

const widthOf = ({ from, to }: Gutter) => to - from;

const textsBetween = (page: PageContent, line: Line, from: number, to: number) => textOf(page.words, line.words.filter((w) => page.words[w].box[0] >= from - 1 && page.words[w].box[2] <= to + 1));

/** Is some line at the top the same on both sides? */
function sameHeadings(page: PageContent, lines: readonly Line[], gutters: readonly Gutter[], at: number): boolean {
  const middle = (gutters[at].from + gutters[at].to) / 2;
  return lines.slice(0, 2).some((line) => {
    const [left, right] = [textsBetween(page, line, -Infinity, middle), textsBetween(page, line, middle, Infinity)];
    return left !== '' && left === right && /\p{L}/u.test(left) && 2 * at === gutters.length - 1;
  });
}

/** Does the first line hold two texts only, each at the left edge of its side? */
function titledApart(page: PageContent, lines: readonly Line[], gutters: readonly Gutter[], at: number): boolean {
  const phrases = phrasesOf(page, lines[0], phraseGap);
  // A text parted like the rows below it is a row.
  if (phrases.some(({ words, box }) => isParted(page, { ...lines[0], words, box }, gutters))) return false;
  const left = Math.min(...lines.map((line) => line.box[0]));
  return phrases.length === 2 && Math.abs(phrases[0].box[0] - left) < 3 && Math.abs(phrases[1].box[0] - gutters[at].to) < 3 && lines.length > 2 && phrasesOf(page, lines[1], phraseGap).length > 2;
}

/** Do many lines have words on one side only, on either side in turn? */
function rowsApart(page: PageContent, lines: readonly Line[], middle: number): boolean {
  const left = lines.filter((line) => line.words.every((w) => page.words[w].box[2] <= middle)).length;
  const right = lines.filter((line) => line.words.every((w) => page.words[w].box[0] >= middle)).length;
  return Math.min(left, right) >= Math.max(2, 0.25 * lines.length);
}
