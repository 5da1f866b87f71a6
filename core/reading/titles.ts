import { around, holdsCentre, overlap, overlapX, width, type Box } from '../page/box';
import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesOf } from './columns';

/** A title stands no further above its table than this many font sizes. */
const reach = 2.6;

/**
 * The title printed just above a table: a short line, set apart from running text by weight, size or its brevity, that
 * lies over the table and belongs to no other one.
 * @param taken boxes of the other tables of the page
 */
export function titleOf(page: PageContent, region: Box, furniture: ReadonlySet<number>, taken: readonly Box[]): { text: string; words: number[] } | undefined {
  const above = page.words.flatMap((word, i) =>
    !furniture.has(i) && word.angle === 0 && word.box[3] <= region[1] + 2 && !taken.some((box) => holdsCentre(box, word.box)) ? [i] : [],
  );
  const lines = linesOf(page.words, above).reverse();
  let floor = region[1];
  for (const line of lines) {
    const gap = floor - line.box[3];
    if (gap > reach * line.fontSize) return undefined;
    const phrase = phrasesOf(page, line, 1.5).find((p) => overlapX(p.box, region) > 0);
    if (phrase) {
      const text = textOf(page.words, phrase.words);
      if (isTitle(page, text, phrase.words, line, lines, region)) return { text, words: [...phrase.words] };
      // A unit or a date may stand between a title and its table; running text may not.
      if (text.length > 60 || floor !== region[1]) return undefined;
    }
    floor = line.box[1];
  }
  return undefined;
}

function isTitle(page: PageContent, text: string, words: readonly number[], line: Line, lines: readonly Line[], region: Box): boolean {
  if (!/\p{L}/u.test(text)) return false;
  const at = lines.indexOf(line);
  const next = lines[at + 1];
  const tight = next && line.box[1] - next.box[3] < 0.6 * line.fontSize && overlap(next.box[0], next.box[2], line.box[0], line.box[2]) > 0;
  const bold = words.every((w) => page.words[w].weight === 700);
  const larger = next ? line.fontSize > 1.1 * next.fontSize : false;
  if (bold || larger) return true;
  // A line of a paragraph is no title: one that ends a sentence, or goes on from a full line above it.
  if (/[.;:,]$/.test(text) && text.split(' ').length > 5) return false;
  if (tight && width(next.box) > 0.6 * page.width) return false;
  const box = around(words.map((w) => page.words[w].box))!;
  return text.length < 90 && width(box) <= Math.max(width(region), 0.6 * page.width);
}
