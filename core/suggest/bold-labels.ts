import { isBold, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesOf } from '../reading/phrases';
import { totalWords } from '../reading/roles';
import { printedOutside } from './sheets-seen';
import type { SeenReport } from './suggestion';

/** A wider gap, in font sizes, parts a label from its value. */
const valueGap = 1;
const mostWords = 4;
/** A value stands no further from its label than so many font sizes: what stands at the other side of the page has nothing to do with it. */
const furthest = 8;

/** Texts in bold print with plain print close behind them on their line, outside the taken tables. */
export const boldLabels = (report: SeenReport): string[] =>
  printedOutside(report, 'taken tables').flatMap(({ page, line }) => {
    const texts = phrasesOf(page, line, valueGap).flatMap(({ words }) => byWeight(page, words));
    return texts.flatMap((words, i) => {
      const next = texts[i + 1];
      if (next === undefined || !isBold(page.words, words) || isBold(page.words, next) || words.length > mostWords)
        return [];
      const [last, first] = [page.words[words.at(-1)!], page.words[next[0]]];
      const label = textOf(page.words, words);
      return first.box[0] - last.box[2] < furthest * last.fontSize &&
        /^\p{L}[^\d:]*$/u.test(label) &&
        !totalWords.test(label)
        ? [label]
        : [];
    });
  });

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
