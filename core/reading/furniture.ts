import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { guttersOf } from './gutters';
import { phrasesOf } from './phrases';
import { crosses, isTypedRule, phraseGap } from './regions/print';

/** The part of the page's height at top and bottom in which running heads and feet stand. */
const margin = 0.12;

const alike = (text: string) => text.replace(/\d+|\b[ivxlc]+\b/gi, '#').replace(/\s+/g, ' ').trim();

const gapBetween = (upper: Line, lower: Line) => lower.box[1] - upper.box[3];

/** The usual gap among lines that follow each other; 0 for fewer than two lines. */
function usualGap(lines: readonly Line[]): number {
  const gaps = lines.slice(1).map((line, i) => gapBetween(lines[i], line)).sort((a, b) => a - b);
  return gaps[gaps.length >> 1] ?? 0;
}

/** How many lines beyond the margin tell the usual gap of the page's body. */
const looked = 8;

/** Does a line stand over the columns of the lines below it, a text to most columns? Then it heads a table. */
function headsColumns(page: PageContent, line: Line, below: readonly Line[]): boolean {
  const gutters = guttersOf(page, below);
  const phrases = phrasesOf(page, line, phraseGap);
  return gutters.length >= 2 && phrases.length >= 3 && phrases.length >= 0.6 * (gutters.length + 1) && gutters.filter((gutter) => !crosses(page, line, gutter)).length >= 0.5 * gutters.length;
}

/**
 * Lines near the top or bottom edge that stand off from the body of the page by more than the body's own leading: a
 * heading row printed again leads straight into its table and is no running head.
 */
function marginLines(page: PageContent): Line[] {
  const lines = linesOf(page.words, page.words.flatMap((word, i) => (isTypedRule(word.text) ? [] : [i])));
  const standsOff = (gap: number, line: Line, body: readonly Line[]) => gap > Math.max(0.8 * line.fontSize, 1.6 * usualGap(body));
  let top = lines.findIndex((line) => line.box[3] >= margin * page.height);
  if (top < 0) top = lines.length;
  while (top > 0 && top < lines.length && headsColumns(page, lines[top - 1], lines.slice(top, top + looked))) top--;
  while (top > 0 && top < lines.length && !standsOff(gapBetween(lines[top - 1], lines[top]), lines[top - 1], lines.slice(top, top + looked))) top--;
  let bottom = lines.findIndex((line) => line.box[1] > (1 - margin) * page.height);
  if (bottom < 0) bottom = lines.length;
  while (bottom > 0 && bottom < lines.length && !standsOff(gapBetween(lines[bottom - 1], lines[bottom]), lines[bottom], lines.slice(Math.max(0, bottom - looked), bottom))) bottom++;
  return [...lines.slice(0, top), ...lines.slice(Math.max(top, bottom))];
}

/** A watermark is set larger than the usual word of its page by this much. */
const timesLarger = 2.5;

/** What of a page may be furniture: its words, and what must come again on other pages for them to be. */
export interface Candidate {
  readonly key: string;
  readonly words: readonly number[];
  /** A page number needs no other page to be known. */
  readonly pageNumber: boolean;
}

const pageNumber = /^[^\w#]*(?:page\s+)?#(?:\s*(?:of|\/)\s*#)?[^\w#]*$/i;

/** The lines in the margins, and large words that may be a watermark behind the text. */
export function candidatesOf(page: PageContent): Candidate[] {
  const lines = marginLines(page).map(({ words, box }): Candidate => {
    const text = alike(textOf(page.words, words));
    return { key: `${text}@${Math.round(box[1] / 4)}`, words, pageNumber: pageNumber.test(text) };
  });
  const sizes = page.words.map((word) => word.fontSize).sort((a, b) => a - b);
  const usual = sizes[sizes.length >> 1] ?? 0;
  const large = page.words.flatMap((word, i): Candidate[] =>
    word.fontSize > timesLarger * usual ? [{ key: `${word.text}@${word.box.map((v) => Math.round(v / 4)).join()}`, words: [i], pageNumber: false }] : [],
  );
  return [...lines, ...large];
}

/** How many pages before and after a page tell what is furniture on it. */
export const neighbourhood = 4;
/** Furniture comes again on this part of the pages around, so that left and right pages may differ. */
const again = 0.4;

/**
 * The words of a page that are running heads, feet, page numbers or watermarks: candidates whose text, numbers aside,
 * comes again at the same height on enough of the pages around it; on a single page, a lone page number.
 * @param around the candidates of the page and of the pages around it
 */
export function furnitureAmong(own: readonly Candidate[], around: readonly (readonly Candidate[])[]): Set<number> {
  const least = Math.max(2, again * around.length);
  const counts = new Map<string, number>();
  for (const ofPage of around) for (const key of new Set(ofPage.map((candidate) => candidate.key))) counts.set(key, (counts.get(key) ?? 0) + 1);
  return new Set(own.filter((candidate) => (around.length > 1 ? counts.get(candidate.key)! >= least : candidate.pageNumber)).flatMap((candidate) => candidate.words));
}
