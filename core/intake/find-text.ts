import { around, type Box } from '../page/box';
import { linesOf, textWithStarts } from '../page/lines';
import type { PageContent } from '../page/page';

/** A place where a text stands: the words that hold it, and the line around them. */
export interface Hit {
  readonly page: number;
  readonly box: Box;
  readonly line: string;
}

/** Letters as they are compared: case and accents do not matter, nor how wide a space is. */
const plain = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s/gu, ' ');

/** Every place on a page where the text stands on one line; parts of words count. */
export function findText(page: PageContent, text: string): Hit[] {
  const wanted = plain(text.trim());
  if (wanted === '') return [];
  return linesOf(page.words).flatMap((line) => {
    const { text: own, starts } = textWithStarts(page.words, line.words);
    // Compared letter by letter, so that a place in one is a place in the other.
    const letters = [...own].map((letter) => plain(letter).slice(0, 1) || letter);
    const offsets = [...own].map((letter) => letter.length);
    const hay = letters.join('');
    const hits: Hit[] = [];
    for (let at = hay.indexOf(wanted); at >= 0; at = hay.indexOf(wanted, at + wanted.length)) {
      const from = offsets.slice(0, at).reduce((sum, n) => sum + n, 0);
      const to = from + offsets.slice(at, at + wanted.length).reduce((sum, n) => sum + n, 0);
      const words = line.words.filter((_, i) => starts[i] < to && (starts[i + 1] ?? Infinity) > from);
      const box = around(words.map((w) => page.words[w].box));
      if (box) hits.push({ page: page.number, box, line: own });
    }
    return hits;
  });
}
