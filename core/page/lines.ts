import { around, height, overlapY, type Box } from './box';
import type { Word } from './page';

/** Words that stand on one line of print, left to right. `words` are indices into the page's words. */
export interface Line {
  readonly words: readonly number[];
  readonly box: Box;
  readonly fontSize: number;
}

const asLine = (page: readonly Word[], words: number[]): Line => {
  words.sort((a, b) => page[a].box[0] - page[b].box[0]);
  return {
    words,
    box: around(words.map((w) => page[w].box))!,
    fontSize: Math.max(...words.map((w) => page[w].fontSize)),
  };
};

/**
 * Groups words into lines of print, top to bottom. Words share a line when their boxes overlap in height by more than
 * half of the smaller of the two, so that a raised mark joins its line and a wrapped neighbour does not.
 */
export function linesOf(page: readonly Word[], among: readonly number[] = page.map((_, i) => i)): Line[] {
  const order = [...among].sort((a, b) => page[a].baseline - page[b].baseline || page[a].box[0] - page[b].box[0]);
  const lines: { box: Box; words: number[] }[] = [];
  for (const index of order) {
    const { box } = page[index];
    const open = lines
      .slice(-4)
      .reverse()
      .find((line) => overlapY(line.box, box) > 0.5 * Math.min(height(line.box), height(box)));
    if (open) {
      open.words.push(index);
      // The line keeps the height of its first word: a tall neighbour must not swallow the line below.
      open.box = [Math.min(open.box[0], box[0]), open.box[1], Math.max(open.box[2], box[2]), open.box[3]];
    } else {
      lines.push({ box, words: [index] });
    }
  }
  return lines.map(({ words }) => asLine(page, words)).sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);
}

/**
 * The text of words in reading order, and where each word starts in it; words closer than a sixth of the font size
 * belong together.
 */
export function textWithStarts(page: readonly Word[], words: readonly number[]): { text: string; starts: number[] } {
  let text = '';
  const starts: number[] = [];
  let before: Word | undefined;
  for (const index of words) {
    const word = page[index];
    if (before) {
      const touching = overlapY(before.box, word.box) > 0 && word.box[0] - before.box[2] < word.fontSize / 6 && word.box[0] >= before.box[0];
      if (!touching) text += ' ';
    }
    starts.push(text.length);
    text += word.text;
    before = word;
  }
  return { text, starts };
}

export const textOf = (page: readonly Word[], words: readonly number[]): string => textWithStarts(page, words).text;

/** Words of a cell in reading order: line by line, left to right. */
export const inReadingOrder = (page: readonly Word[], words: readonly number[]): number[] =>
  words.length < 2 ? [...words] : linesOf(page, words).flatMap((line) => line.words);
