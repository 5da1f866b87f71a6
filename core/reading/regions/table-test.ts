import { extend, grow, height, holdsCentre, middleX, overlaps, width, type Box } from '../../page/box';
import { textOf, type Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { layoutOf } from '../columns';
import { guttersOf, type Gutter } from '../gutters';
import { looksNumeric } from '../../values/numeric';
import { isProse, standsBeside } from './print';

const bullet = /^(?:[•▪◦‣∙·*–—-]|\(?[0-9a-z]{1,3}[.)]|\[[^\]\s]{1,8}\])$/i;

/** Does a block hold short texts in columns, and not running text, a list of points, or a single column? */
export function readsAsTable(page: PageContent, lines: readonly Line[], by: 'rules' | 'shading' | 'space'): boolean {
  if (lines.length < 2) return false;
  const seen = guttersOf(page, lines);
  // Where the usual hypothesis sees a gutter at most, another may see more.
  const gutters =
    seen.length > 1
      ? seen
      : (layoutOf(
          page,
          lines,
          Math.min(...lines.map((line) => line.box[0])),
          Math.max(...lines.map((line) => line.box[2])),
        )?.gutters ?? []);
  if (gutters.length === 0) return false;
  const whole = inRows(lines);
  const rows = whole.map((line) => cellsOf(page, line, gutters));
  const wide = rows.filter((cells) => cells.filter((words) => words.length > 0).length > 1);
  if (wide.length < 2) return false;
  const measure = Math.max(...lines.map((line) => line.box[2])) - Math.min(...lines.map((line) => line.box[0]));
  if (lines.filter(isProse(page, lines, measure)).length > 0.34 * lines.length) return false;
  if (by !== 'space') return true;
  const filled = wide.flatMap((cells) => cells.filter((words) => words.length > 0));
  const texts = filled.map((words) => textOf(page.words, words));
  const numeric = texts.filter(looksNumeric).length / texts.length;
  if (wide.length < (numeric > 0.3 ? 0.2 : 0.4) * whole.length) return false;
  const meanWords = filled.reduce((sum, words) => sum + words.length, 0) / filled.length;
  const bullets = wide.filter((cells) => bullet.test(textOf(page.words, cells[0]))).length;
  if (gutters.length === 1 && bullets > 0.5 * wide.length) return false;
  // A list of contents has long texts, each with its number.
  if (meanWords > (numeric > 0.45 ? 8 : numeric > 0.25 ? 5 : 3.4)) return false;
  if (numeric < 0.05 && gutters.length === 1 && meanWords > 2.2) return false;
  if (lines.length === 2 && numeric < 0.25) return false;
  // An index may be seen with a column for its page numbers or without.
  return (gutters === seen ? [seen] : [gutters, seen]).every((own) => {
    const parted = lines.map((line) => cellsOf(page, line, own));
    const columns = parted[0].map((_, column) =>
      parted.map((cells) => textOf(page.words, cells[column])).filter((text) => text !== ''),
    );
    return !isNumberedText(columns) && !isFormula(columns) && !isIndex(columns);
  });
}

/** Lines, those that overlap in height and leave white space between them as one: texts at different heights of a row. */
function inRows(lines: readonly Line[]): Line[] {
  return lines.reduce<Line[]>((rows, line) => {
    const above = rows.at(-1);
    if (!above || !standsBeside(line, above)) return [...rows, line];
    return [
      ...rows.slice(0, -1),
      { words: [...above.words, ...line.words], box: extend(above.box, line.box), fontSize: above.fontSize },
    ];
  }, []);
}

/** The words of a line column by column, cut in the middle of each gutter. */
function cellsOf(page: PageContent, line: Line, gutters: readonly Gutter[]): number[][] {
  const cuts = [-Infinity, ...gutters.map(({ from, to }) => (from + to) / 2), Infinity];
  return cuts
    .slice(1)
    .map((to, i) => line.words.filter((w) => middleX(page.words[w].box) >= cuts[i] && middleX(page.words[w].box) < to));
}

/** Lines of a listing or points of a list: beside one column of text nothing but numbers that count up. */
function isNumberedText(columns: readonly (readonly string[])[]): boolean {
  if (columns.length !== 2) return false;
  const counts = columns[0].map((text) => Number(/^\(?(\d{1,5})\b/.exec(text)?.[1] ?? NaN));
  const ups = counts.slice(1).filter((count, i) => count - counts[i] === 1).length;
  return (
    ups >= 0.5 * (counts.length - 1) && ups > 0 && columns[1].filter(looksNumeric).length < 0.3 * columns[1].length
  );
}

const formulaNumber = /^\(\d{1,3}(?:\.\d{1,3})?[a-z]?\)$/;

/** Formulas set one below the other, numbered in brackets at one side. */
function isFormula(columns: readonly (readonly string[])[]): boolean {
  const numbered = columns.some((texts) => texts.length > 0 && texts.every((text) => formulaNumber.test(text)));
  return (
    numbered && columns.some((texts) => texts.filter((text) => /[=≤≥<>∑∫√±≈∈]/.test(text)).length >= 0.5 * texts.length)
  );
}

/** Entries in the order of the alphabet down each column and on into the next: an index or a list set in columns. */
function isIndex(columns: readonly (readonly string[])[]): boolean {
  // Marks before an entry aside; what begins with a number is none.
  const entries = columns.flat().map((text) => text.toLowerCase().replace(/^[^\p{L}\p{N}]+/u, ''));
  const letters = entries.filter((text) => /^\p{L}/u.test(text));
  if (columns.length < 2 || letters.length < 8 || letters.length < 0.5 * entries.length) return false;
  const isList = (texts: readonly string[]) =>
    texts.length >= 2 &&
    new Set(texts).size >= 0.8 * texts.length &&
    texts.filter(looksNumeric).length < 0.5 * texts.length;
  if (!columns.every(isList)) return false;
  const inOrder = letters.slice(1).filter((text, i) => text >= letters[i]).length;
  return inOrder >= 0.85 * (letters.length - 1);
}

/** Bars that stand on one base line and rise to different heights (or start at one line and run to different lengths): a chart. */
export function isChart(page: PageContent, region: Box): boolean {
  const bars = page.fills
    .map((fill) => fill.box)
    .filter((box) => overlaps(box, grow(region, 4)) && !page.words.some((word) => holdsCentre(box, word.box)));
  const alongOneLine = (base: 0 | 3, length: (box: Box) => number) =>
    bars.some((bar) => {
      const same = bars.filter((other) => Math.abs(other[base] - bar[base]) < 1);
      return same.length >= 3 && new Set(same.map((box) => Math.round(length(box)))).size >= 2;
    });
  return alongOneLine(3, height) || alongOneLine(0, width);
}
