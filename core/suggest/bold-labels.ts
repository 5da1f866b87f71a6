import { holdsCentre } from '../page/box';
import { isBold, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesOf } from '../reading/phrases';
import { totalWords } from '../reading/roles';
import type { SeenReport } from './suggestion';

/** Labels are looked for on so many pages from the first. */
export const pagesLookedAt = 2;
/** A wider gap, in font sizes, parts a label from its value. */
const valueGap = 1;
const mostWords = 4;
/** A value stands no further from its label than so many font sizes: what stands at the other side of the page has nothing to do with it. */
const furthest = 8;

/** Texts in bold print with plain print behind them on their line, outside the taken tables. */
export function boldLabels({ read, carried }: SeenReport): string[] {
  const pieces = carried.matches.flatMap((match) => match.pieces);
  return read.pages.slice(0, pagesLookedAt).flatMap((page) => {
    const boxes = pieces.filter((piece) => piece.page === page.number).map(({ box }) => box);
    return carried.paper.lines(page.number).flatMap((line) => {
      if (line.words.some((word) => boxes.some((box) => holdsCentre(box, page.words[word].box)))) return [];
      const texts = phrasesOf(page, line, valueGap).flatMap(({ words }) => byWeight(page, words));
      return texts.flatMap((words, i) => {
        const label = textOf(page.words, words);
        const [last, next] = [page.words[words.at(-1)!], texts[i + 1] === undefined ? undefined : page.words[texts[i + 1][0]]];
        const isLabel = next !== undefined && next.box[0] - last.box[2] < furthest * last.fontSize && isBold(page.words, words) && !isBold(page.words, texts[i + 1]) && words.length <= mostWords;
        return isLabel && /^\p{L}[^\d:]*$/u.test(label) && !totalWords.test(label) ? [label] : [];
      });
    });
  });
}

/** Words parted where bold print begins or ends. */
function byWeight(page: PageContent, words: readonly number[]): number[][] {
  const parts: number[][] = [];
  for (const word of words) {
    const open = parts.at(-1);
    if (open && isBold(page.words, [word]) === isBold(page.words, open)) open.push(word);
    else parts.push([word]);
  }
  return parts;
}
