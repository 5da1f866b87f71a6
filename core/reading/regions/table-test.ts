import { grow, height, holdsCentre, overlaps, width, type Box } from '../../page/box';
import { textOf, type Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { guttersOf, phrasesOf } from '../columns';
import { looksNumeric } from '../numeric';
import { isProse, phraseGap } from './print';

const bullet = /^(?:[•▪◦‣∙·*–—-]|\(?[0-9a-z]{1,3}[.)]|\[[^\]\s]{1,8}\])$/i;

/** Does a block hold short texts in columns, and not running text, a list of points, or a single column? */
export function readsAsTable(page: PageContent, lines: readonly Line[], by: 'rules' | 'shading' | 'space'): boolean {
  if (lines.length < 2) return false;
  const gutters = guttersOf(page, lines);
  if (gutters.length === 0) return false;
  const phrases = lines.map((line) => phrasesOf(page, line, by === 'space' ? 0.7 : phraseGap));
  const wide = phrases.filter((line) => line.length > 1);
  if (wide.length < 2 || (by === 'space' && wide.length < 0.4 * lines.length)) return false;
  const measure = Math.max(...lines.map((line) => line.box[2])) - Math.min(...lines.map((line) => line.box[0]));
  if (by !== 'space' && lines.filter(isProse(page, lines, measure)).length > 0.34 * lines.length) return false;
  const texts = wide.flatMap((line) => line.map((phrase) => textOf(page.words, phrase.words)));
  const numeric = texts.filter(looksNumeric).length / texts.length;
  const wordsEach = wide.flatMap((line) => line.map((phrase) => phrase.words.length));
  const meanWords = wordsEach.reduce((sum, n) => sum + n, 0) / wordsEach.length;
  const bullets = wide.filter((line) => bullet.test(textOf(page.words, line[0].words))).length;
  if (by === 'space' && gutters.length === 1 && bullets > 0.5 * wide.length) return false;
  if (by === 'space' && meanWords > (numeric > 0.25 ? 5 : 3.4)) return false;
  return !(by === 'space' && numeric < 0.05 && gutters.length === 1 && meanWords > 2.2);
}

/** Bars that stand on one base line and rise to different heights (or start at one line and run to different lengths): a chart. */
export function isChart(page: PageContent, region: Box): boolean {
  const bars = page.fills.map((fill) => fill.box).filter((box) => overlaps(box, grow(region, 4)) && !page.words.some((word) => holdsCentre(box, word.box)));
  const alongOneLine = (base: 0 | 3, length: (box: Box) => number) =>
    bars.some((bar) => {
      const same = bars.filter((other) => Math.abs(other[base] - bar[base]) < 1);
      return same.length >= 3 && new Set(same.map((box) => Math.round(length(box)))).size >= 2;
    });
  return alongOneLine(3, height) || alongOneLine(0, width);
}
