import { around, height, overlap, overlapY, width } from '../../page/box';
import { isBold, textOf, type Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { guttersOf, type Gutter } from '../gutters';
import { phrasesOf } from '../phrases';

/** A gap wider than this many font sizes parts phrases of a tabular line. */
export const phraseGap = 1;

/** Is the line cut into several phrases by wide gaps? */
export const isTabular = (page: PageContent, line: Line) => phrasesOf(page, line, phraseGap).length > 1;

/** Do two lines overlap in height, with white space between them? */
export const standsBeside = (line: Line, other: Line | undefined): boolean =>
  other !== undefined &&
  overlapY(line.box, other.box) > 0.25 * height(line.box) &&
  Math.max(line.box[0], other.box[0]) - Math.min(line.box[2], other.box[2]) > phraseGap * line.fontSize;

/** Fewer words than this are no running text. */
export const leastWords = 5;

/** Words of running text: set closely, mostly letters, filling most of their measure (in points). */
export function isRunningText(page: PageContent, words: readonly number[], measure: number): boolean {
  if (words.length < leastWords || measure <= 0) return false;
  const box = around(words.map((w) => page.words[w].box))!;
  const letters = textOf(page.words, words).replace(/[^\p{L}]/gu, '').length;
  const gaps = words.slice(1).map((w, i) => page.words[w].box[0] - page.words[words[i]].box[2]);
  return width(box) > 0.7 * measure && Math.max(...gaps) < page.words[words[0]].fontSize && letters > 15;
}

/** Does any word of the line stand in a gutter? */
export const crosses = (page: PageContent, line: Line, { from, to }: Gutter) =>
  line.words.some(
    (w) => overlap(page.words[w].box[0], page.words[w].box[2], from, to) > Math.min(2, 0.3 * (to - from)),
  );

/** Do words of the line stand on both sides of a gutter that it leaves clear? */
export const isParted = (page: PageContent, line: Line, gutters: readonly Gutter[]) =>
  gutters.some((gutter) => !crosses(page, line, gutter) && line.box[0] <= gutter.from && line.box[2] >= gutter.to);

/** A line of running text has more letters than a row of short headings. */
const leastLetters = 30;

/** Tells the lines of running text among `lines`: text that fills the measure and pays no heed to the gutters of the others. */
export function isProse(page: PageContent, lines: readonly Line[], measure: number): (line: Line) => boolean {
  const gutters = guttersOf(page, lines);
  const long = (line: Line) => textOf(page.words, line.words).replace(/[^\p{L}]/gu, '').length > leastLetters;
  return (line) =>
    isRunningText(page, line.words, measure) &&
    long(line) &&
    !isBold(page.words, line.words) &&
    gutters.filter((gutter) => crosses(page, line, gutter)).length >= 0.5 * gutters.length;
}

/** Dots that lead the eye from a text to its number: ink, but no text. */
export const isLeader = (text: string) => /^[.·…]{4,}$/.test(text) || text === '…';

/** Dashes typed in a row to draw a line across. */
export const isTypedRule = (text: string) => /^(?:[-=_─━═]{4,}|[-=_+─━═┼┬┴├┤┌┐└┘]{5,})$/.test(text);

/** What a caption begins with in reports, papers and manuals: a word for table or figure in several languages, and its number. */
export function isCaption(text: string): boolean {
  const [word = '', ...rest] = text.trim().split(/[\s\u00a0]+/);
  return (
    /^(?:tab(?:\.|[a-z]{1,4})|fig(?:\.|ure)|abbildung|exhibit|schedule)$/i.test(word) &&
    /^(?:\d|[IVX]+\b|[A-Z]\b)/.test(rest.join(' '))
  );
}
