import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { guttersOf } from './gutters';
import { phrasesOf } from './phrases';
import { crosses, isTypedRule, phraseGap } from './regions/print';

/** The part of the page's height at top and bottom in which running heads and feet stand. */
const margin = 0.12;

const number = /\d+|\b[ivxlc]+\b/gi;
const alike = (text: string) => text.replace(number, '#').replace(/\s+/g, ' ').trim();

const romans: Readonly<Record<string, number>> = { i: 1, v: 5, x: 10, l: 50, c: 100 };
/** A number as printed: digits, or Roman ones (each letter counts against the next where that is worth more). */
function worth(text: string): number {
  if (/\d/.test(text)) return Number(text);
  const letters = [...text.toLowerCase()].map((letter) => romans[letter]);
  return letters.reduce((sum, each, i) => sum + (each < (letters[i + 1] ?? 0) ? -each : each), 0);
}

const gapBetween = (upper: Line, lower: Line) => lower.box[1] - upper.box[3];

/** The usual gap among lines that follow each other; 0 for fewer than two lines. */
function usualGap(lines: readonly Line[]): number {
  const gaps = lines
    .slice(1)
    .map((line, i) => gapBetween(lines[i], line))
    .sort((a, b) => a - b);
  return gaps[gaps.length >> 1] ?? 0;
}

/** How many lines beyond the margin tell the usual gap of the page's body. */
const looked = 8;

/** Does a line stand over the columns of the lines below it, a text to most columns? Then it heads a table. */
function headsColumns(page: PageContent, line: Line, below: readonly Line[]): boolean {
  const gutters = guttersOf(page, below);
  const phrases = phrasesOf(page, line, phraseGap);
  return (
    gutters.length >= 2 &&
    phrases.length >= 3 &&
    phrases.length >= 0.6 * (gutters.length + 1) &&
    gutters.filter((gutter) => !crosses(page, line, gutter)).length >= 0.5 * gutters.length
  );
}

/**
 * Lines near the top or bottom edge that stand off from the body of the page by more than the body's own leading: a
 * heading row printed again leads straight into its table and is no running head.
 */
function marginLines(page: PageContent): Line[] {
  const lines = linesOf(
    page.words,
    page.words.flatMap((word, i) => (isTypedRule(word.text) ? [] : [i])),
  );
  const standsOff = (gap: number, line: Line, body: readonly Line[]) =>
    gap > Math.max(0.8 * line.fontSize, 1.6 * usualGap(body));
  let top = lines.findIndex((line) => line.box[3] >= margin * page.height);
  if (top < 0) top = lines.length;
  while (top > 0 && top < lines.length && headsColumns(page, lines[top - 1], lines.slice(top, top + looked))) top--;
  while (
    top > 0 &&
    top < lines.length &&
    !standsOff(gapBetween(lines[top - 1], lines[top]), lines[top - 1], lines.slice(top, top + looked))
  )
    top--;
  let bottom = lines.findIndex((line) => line.box[1] > (1 - margin) * page.height);
  if (bottom < 0) bottom = lines.length;
  while (
    bottom > 0 &&
    bottom < lines.length &&
    !standsOff(
      gapBetween(lines[bottom - 1], lines[bottom]),
      lines[bottom],
      lines.slice(Math.max(0, bottom - looked), bottom),
    )
  )
    bottom++;
  return [...lines.slice(0, top), ...lines.slice(Math.max(top, bottom))];
}

/** A watermark is set larger than the usual word of its page by this much. */
const timesLarger = 2.5;

/** What of a page may be furniture: its words, and what must come again on other pages for them to be. */
export interface Candidate {
  readonly page: number;
  /** Its text without its numbers, and its height. */
  readonly key: string;
  readonly words: readonly number[];
  /** The numbers in it, in order. */
  readonly numbers: readonly number[];
  /** Its wording says that it numbers the page: no other page is needed to know it. */
  readonly saysPage: boolean;
}

const pageWord = '(?:page|pages|pg\\.?|p\\.|seite|blatt|p[áa]gina|p[áa]g\\.|side|sida|strona|sivu)';
const saysPage = new RegExp(
  `^[^\\p{L}\\d#]*(?:${pageWord}\\s*#(?:\\s*\\p{L}{1,3}\\s*#|\\s*/\\s*#)?|#\\s*(?:of|von|de|/)\\s*#|[-–—]\\s*#\\s*[-–—])[^\\p{L}\\d#]*$`,
  'iu',
);

/** The lines in the margins, and large words that may be a watermark behind the text. */
export function candidatesOf(page: PageContent): Candidate[] {
  const lines = marginLines(page).map(({ words, box }): Candidate => {
    const printed = textOf(page.words, words);
    const text = alike(printed);
    return {
      page: page.number,
      key: `${text}@${Math.round(box[1] / 4)}`,
      words,
      numbers: (printed.match(number) ?? []).map(worth),
      saysPage: saysPage.test(text),
    };
  });
  const sizes = page.words.map((word) => word.fontSize).sort((a, b) => a - b);
  const usual = sizes[sizes.length >> 1] ?? 0;
  const large = page.words.flatMap((word, i): Candidate[] =>
    word.fontSize > timesLarger * usual
      ? [
          {
            page: page.number,
            key: `${word.text}@${word.box.map((v) => Math.round(v / 4)).join()}`,
            words: [i],
            numbers: [],
            saysPage: false,
          },
        ]
      : [],
  );
  return [...lines, ...large];
}

/** Do the numbers of two lines of print go with their pages: each the same, or as much further as the page is? */
const countsWith = (a: Candidate, b: Candidate): boolean =>
  a.numbers.length === b.numbers.length &&
  a.numbers.every((each, i) => b.numbers[i] === each || b.numbers[i] - each === b.page - a.page);

/** How many pages before and after a page tell what is furniture on it. */
export const neighbourhood = 4;
/** Furniture comes again on this part of the pages around, so that left and right pages may differ. */
const again = 0.4;

/**
 * The words of a page that are running heads, feet, page numbers or watermarks: candidates whose text comes again at the
 * same height on enough of the pages around it, with numbers that stay or count with the pages, for other numbers are
 * figures of the report; on a single page, what says that it is a page number.
 * @param around the candidates of the page and of the pages around it
 */
export function furnitureAmong(own: readonly Candidate[], around: readonly (readonly Candidate[])[]): Set<number> {
  const least = Math.max(2, again * around.length);
  const comesAgain = (candidate: Candidate) =>
    around.filter((ofPage) => ofPage.some((each) => each.key === candidate.key && countsWith(candidate, each)))
      .length >= least;
  return new Set(
    own
      .filter((candidate) => (around.length > 1 ? comesAgain(candidate) : candidate.saysPage))
      .flatMap((candidate) => candidate.words),
  );
}
