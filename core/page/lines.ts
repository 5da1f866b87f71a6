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

/** Of lines set close under one another the boxes meet as well, by a hair: on one line it is a good part of the lower of the two. */
const besideEachOther = (a: Box, b: Box): boolean => overlapY(a, b) > 0.3 * Math.min(height(a), height(b));

/** A hyphen behind a letter or digit at the end of a line: the next line goes on without a space. */
export const endsInHyphen = /[\p{L}\p{N}][-\u2010]$/u;
const beginsWord = /^[\p{L}\p{N}]/u;
/** "Ein- und Ausgänge": a word that ends in a hyphen for one that comes later. */
const conjunction = /^(?:and|or|to|und|oder|bis|bzw\.|et|ou|y|o|e|ed|i|lub|oraz|en|of|och|og|eller)$/i;

/** Does a word go on in the next line after its hyphen, as "INV-" and "4100" do? The hyphen stays, whether it is of the word or not. */
const brokenAtHyphen = (before: Word, word: Word): boolean =>
  word.baseline > before.baseline &&
  !besideEachOther(before.box, word.box) &&
  endsInHyphen.test(before.text) &&
  beginsWord.test(word.text) &&
  !conjunction.test(word.text);

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
      const touching =
        !word.afterSpace &&
        besideEachOther(before.box, word.box) &&
        word.box[0] - before.box[2] < word.fontSize / 6 &&
        word.box[0] >= before.box[0];
      if (!touching && !brokenAtHyphen(before, word)) text += ' ';
    }
    starts.push(text.length);
    text += word.text;
    before = word;
  }
  return { text, starts };
}

/** Are all of the words bold? */
export const isBold = (page: readonly Word[], words: readonly number[]): boolean =>
  words.every((w) => page[w].weight === 700);

export const textOf = (page: readonly Word[], words: readonly number[]): string => textWithStarts(page, words).text;

const rightToLeft = /[\u0590-\u08ff]/;

/** The words of a line as they are read: a line of a right-to-left script from its right end, the numbers and foreign words in it as they stand. */
function asRead(page: readonly Word[], { words }: Line): readonly number[] {
  const backwards = words.filter((w) => rightToLeft.test(page[w].text)).length;
  if (backwards < 0.5 * words.length || backwards === 0) return words;
  const read: number[] = [];
  let foreign: number[] = [];
  for (const word of [...words].reverse()) {
    if (rightToLeft.test(page[word].text)) {
      read.push(...foreign.reverse(), word);
      foreign = [];
    } else foreign.push(word);
  }
  return [...read, ...foreign.reverse()];
}

/** Turned words of one cell: read upwards (angle 270), the lines follow each other to the right; downwards, to the left. */
function turnedInOrder(page: readonly Word[], words: readonly number[], angle: number): number[] {
  const sign = angle > 180 ? 1 : -1;
  return [...words].sort(
    (a, b) => sign * (page[a].box[0] - page[b].box[0]) || sign * (page[b].box[3] - page[a].box[3]),
  );
}

/** Do the words follow each other on one upright line as they are? Then there is nothing to order. */
const runOnOneLine = (page: readonly Word[], words: readonly number[]) =>
  words.every((w, i) => {
    const word = page[w];
    const before = i > 0 ? page[words[i - 1]] : undefined;
    return (
      word.angle === 0 &&
      !rightToLeft.test(word.text) &&
      (!before || (word.baseline === before.baseline && word.box[0] >= before.box[0]))
    );
  });

/** Words of a cell in reading order: line by line, left to right, or as their script and angle have it. */
export function inReadingOrder(page: readonly Word[], words: readonly number[]): number[] {
  if (words.length < 2 || runOnOneLine(page, words)) return [...words];
  const { angle } = page[words[0]];
  if ((angle === 90 || angle === 270) && words.every((w) => page[w].angle === angle))
    return turnedInOrder(page, words, angle);
  return linesOf(page, words).flatMap((line) => asRead(page, line));
}
