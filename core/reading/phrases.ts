import { around, type Box } from '../page/box';
import type { Line } from '../page/lines';
import type { PageContent } from '../page/page';

/** A stretch of words on one line between wide gaps. */
export interface Phrase {
  readonly words: readonly number[];
  readonly box: Box;
}

/** Cuts a line where the gap between words is wider than `gap` font sizes, or than `points`. */
export function phrasesOf(page: PageContent, line: Pick<Line, 'words'>, gap: number, points = 0): Phrase[] {
  const phrases: { words: number[]; box: Box }[] = [];
  for (const index of line.words) {
    const { box, fontSize } = page.words[index];
    const open = phrases.at(-1);
    if (open && box[0] - open.box[2] <= Math.max(gap * fontSize, points)) {
      open.words.push(index);
      open.box = around([open.box, box])!;
    } else {
      phrases.push({ words: [index], box });
    }
  }
  return phrases;
}

/** A word space of proportional type, in font sizes. */
export const usualSpace = 0.28;

/**
 * The word space of a block of lines, in points: measured where the words of its texts stand equally far apart, else
 * what is usual. Type in which every letter is equally wide sets spaces as wide as letters, twice those of other type.
 */
export function spaceOf(page: PageContent, lines: readonly Line[]): number {
  const fontSize = typical(lines.map((line) => line.fontSize));
  const widths: number[] = [];
  const gaps: number[] = [];
  // A few words from all over tell as much as all of them.
  const step = Math.max(1, Math.floor(lines.length / sampled));
  for (let i = 0; i < lines.length; i += step)
    lines[i].words.forEach((w, n) => {
      const { text, box, fontSize: size } = page.words[w];
      if (text.length >= 3) widths.push((box[2] - box[0]) / text.length);
      const before = n > 0 ? page.words[lines[i].words[n - 1]] : undefined;
      const gap = before ? box[0] - before.box[2] : 0;
      if (before && gap > 0.15 * size && gap < 0.5 * size && letters.test(text) && letters.test(before.text))
        gaps.push(gap / size);
    });
  const middle = typical(widths);
  const monospaced = widths.length >= 4 && widths.every((width) => Math.abs(width - middle) < 0.06 * middle);
  if (monospaced) return middle;
  const space = typical(gaps);
  const even =
    gaps.length >= 4 && gaps.filter((gap) => Math.abs(gap - space) < 0.1 * space).length >= 0.6 * gaps.length;
  return (even ? Math.min(space, usualSpace * 1.2) : usualSpace) * fontSize;
}

export const letters = /\p{L}{2}/u;

const sampled = 12;

/** The middle one of some values; the usual size of type for none. */
export const typical = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 10;

export const isAmount = (text: string) => /^[^\p{L}]*\d[^\p{L}]*$/u.test(text);

/** Are two words the parts of one number, its thousands set off by a space? */
export const areThousands = (before: string, after: string) =>
  /^\D*\d{1,3}$/.test(before) && /^\d{3}(?:[.,]\d+)?\D*$/.test(after);

const isYear = /^(?:19|20)\d\d$/;

/** Phrases parted between amounts side by side: these are two values, however closely they stand. */
export const amountsApart = (page: PageContent, phrases: readonly Phrase[]): Phrase[] =>
  phrases.flatMap(({ words }) => {
    const parts = words.reduce<number[][]>((out, w, i) => {
      const [before, own] = [i > 0 ? page.words[words[i - 1]].text : '', page.words[w].text];
      const apart =
        i > 0 &&
        isAmount(before) &&
        isAmount(own) &&
        !areThousands(before, own) &&
        !isYear.test(before) &&
        !isYear.test(own);
      return apart || i === 0 ? [...out, [w]] : [...out.slice(0, -1), [...out.at(-1)!, w]];
    }, []);
    return parts.map((own) => ({ words: own, box: around(own.map((w) => page.words[w].box))! }));
  });
