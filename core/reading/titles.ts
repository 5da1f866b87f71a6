import { around, holdsCentre, overlap, overlapX, width, type Box } from '../page/box';
import { isBold, linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesOf } from './phrases';
import { isCaption, isTypedRule } from './regions/print';

/** A title stands no further above its table than this many font sizes, a caption below it no further than the second. */
const reach = 2.6;
const reachBelow = 2.2;
/** So many lines above a table may be its title: with units, dates and wrapped captions between. */
const mostLines = 4;

interface Title {
  text: string;
  words: number[];
}

/**
 * The title of a table: a caption above or below it that is nearer to it than to another table, else the most prominent
 * of the short lines just above it.
 * @param taken boxes of the other tables of the page
 */
export function titleOf(
  page: PageContent,
  region: Box,
  furniture: ReadonlySet<number>,
  taken: readonly Box[],
): Title | undefined {
  const free = page.words.flatMap((word, i) =>
    !furniture.has(i) && word.angle === 0 && !isTypedRule(word.text) && !taken.some((box) => holdsCentre(box, word.box))
      ? [i]
      : [],
  );
  const above = linesOf(
    page.words,
    free.filter((i) => page.words[i].box[3] <= region[1] + 2),
  ).reverse();
  const lines = linesAbove(page, region, above, taken);
  const caption = captionAmong(page, region, lines, taken);
  const numbered = caption ?? captionBelow(page, region, free, taken);
  if (numbered) return numbered;
  const nearest = mostProminent(page, region, lines, above);
  return nearest && isBold(page.words, nearest.words) ? nearest : (titleBelow(page, region, free, taken) ?? nearest);
}

interface TitleLine {
  readonly line: Line;
  readonly words: readonly number[];
  readonly box: Box;
  readonly text: string;
}

/** The lines just above a table, the nearest first, each with its text over the table; none beyond a wide gap or another table. */
function linesAbove(page: PageContent, region: Box, above: readonly Line[], taken: readonly Box[]): TitleLine[] {
  const found: TitleLine[] = [];
  let floor = region[1];
  for (const line of above) {
    if (floor - line.box[3] > reach * line.fontSize || found.length === mostLines) break;
    if (taken.some((box) => box[1] > line.box[3] - 2 && box[3] < floor + 2 && overlapX(box, region) > 0)) break;
    const phrases = phrasesOf(page, line, 1.5).filter((phrase) => overlapX(phrase.box, region) > 0);
    // Beside the number of a form or a date the larger text is the title.
    const size = (words: readonly number[]) =>
      Math.max(...words.map((w) => page.words[w].fontSize + (page.words[w].weight === 700 ? 1 : 0)));
    const phrase = phrases.reduce<(typeof phrases)[number] | undefined>(
      (best, own) => (!best || size(own.words) > size(best.words) + 0.5 ? own : best),
      undefined,
    );
    if (phrase) found.push({ line, words: phrase.words, box: phrase.box, text: textOf(page.words, phrase.words) });
    floor = line.box[1];
  }
  return found;
}

const joined = (page: PageContent, lines: readonly TitleLine[]): Title => {
  const words = lines.flatMap((line) => line.words);
  return { text: textOf(page.words, words), words };
};

/** A caption with the lines on which it goes on, down to the table. */
function captionAmong(
  page: PageContent,
  region: Box,
  lines: readonly TitleLine[],
  taken: readonly Box[],
): Title | undefined {
  const at = lines.findIndex(({ text }) => isCaption(text));
  const top = lines[at]?.line.box[1];
  const upper = Math.max(
    -Infinity,
    ...taken.filter((box) => box[3] <= top + 2 && overlapX(box, lines[at].box) > 0).map((box) => box[3]),
  );
  // Between two tables it belongs to the nearer one.
  if (at >= 0 && top - upper < 0.8 * (region[1] - lines[0].line.box[3])) return undefined;
  if (at < 0) return undefined;
  // It goes on in lines that follow closely, in the same type.
  let end = at;
  while (
    end > 0 &&
    lines[end - 1].box[1] - lines[end].box[3] < 0.5 * lines[end].line.fontSize &&
    goesOn(page, lines[at].line, lines[end - 1].line) &&
    !isUnits(lines[end - 1].text)
  )
    end--;
  return joined(page, lines.slice(end, at + 1).reverse());
}

/** May a line below a caption's be of the same text: its type, and no mark of a note? */
const goesOn = (page: PageContent, first: Line, next: Line) =>
  Math.abs(next.fontSize - first.fontSize) < 0.03 * first.fontSize &&
  isBold(page.words, next.words) === isBold(page.words, first.words.slice(-1)) &&
  !/^(?:\(\w{1,2}\)|[*†‡]+)$/.test(page.words[next.words[0]].text);

/** A caption below the table, if it stands nearer to it than to a table further down. */
function captionBelow(
  page: PageContent,
  region: Box,
  free: readonly number[],
  taken: readonly Box[],
): Title | undefined {
  const below = linesOf(
    page.words,
    free.filter((i) => page.words[i].box[1] >= region[3] - 2),
  );
  const over = (line: Line) => phrasesOf(page, line, 1.5).find((own) => overlapX(own.box, region) > 0);
  const first = below.findIndex(over);
  const line = below[first];
  if (!line || line.box[1] - region[3] > reachBelow * line.fontSize) return undefined;
  const phrase = over(line)!;
  if (!isCaption(textOf(page.words, phrase.words))) return undefined;
  const next = Math.min(
    Infinity,
    ...taken.filter((box) => box[1] >= line.box[3] - 2 && overlapX(box, line.box) > 0).map((box) => box[1]),
  );
  if (next - line.box[3] < line.box[1] - region[3]) return undefined;
  const more = below
    .slice(first + 1, first + 3)
    .filter(
      (own, i) =>
        own.box[1] - below[first + i].box[3] < 0.5 * own.fontSize &&
        Math.abs(own.box[0] - line.box[0]) < 30 &&
        goesOn(page, line, own),
    );
  const words = [...phrase.words, ...more.flatMap((own) => own.words)];
  return { text: textOf(page.words, words), words };
}

/** So close below a table, in font sizes, a bold line is its title. */
const closeBelow = 0.9;

/** A bold line alone just below the table, from its left edge or middle, with more room below it than above. */
function titleBelow(page: PageContent, region: Box, free: readonly number[], taken: readonly Box[]): Title | undefined {
  const [line, next] = linesOf(
    page.words,
    free.filter(
      (i) =>
        page.words[i].box[1] >= region[3] - 2 && page.words[i].box[0] < region[2] && page.words[i].box[2] > region[0],
    ),
  );
  if (!line || !isBold(page.words, line.words) || line.words.length < 2 || line.words.length > 14) return undefined;
  const above = line.box[1] - region[3];
  const below = Math.min(
    next ? next.box[1] - line.box[3] : Infinity,
    ...taken
      .filter((box) => box[1] >= line.box[3] - 2 && overlapX(box, line.box) > 0)
      .map((box) => box[1] - line.box[3]),
  );
  const placed =
    Math.abs(line.box[0] - region[0]) < 4 || Math.abs(line.box[0] + line.box[2] - region[0] - region[2]) < 8;
  const notes = next !== undefined && next.fontSize < 0.95 * line.fontSize;
  return placed && above < closeBelow * line.fontSize && (below > 1.5 * Math.max(above, 1) || notes)
    ? { text: textOf(page.words, line.words), words: [...line.words] }
    : undefined;
}

/** A line that says in what the figures are given, or how sure they are. */
const isUnits = (text: string) =>
  /^[([].*[)\]]$/.test(text.trim()) || /^(?:in|all|amounts? in|figures in)\b/i.test(text);

/** The title among the lines above: bold or larger lines before plain ones, the nearest of the most prominent. */
function mostProminent(
  page: PageContent,
  region: Box,
  lines: readonly TitleLine[],
  above: readonly Line[],
): Title | undefined {
  const titles: { line: TitleLine; rank: number }[] = [];
  for (const own of lines) {
    const plain = !isTitle(page, own, above, region);
    // A unit or a date may stand between a title and its table; running text may not.
    if (plain && own.text.length > 60) break;
    if (plain) continue;
    titles.push({
      line: own,
      rank: own.line.fontSize + (isBold(page.words, own.words) ? 2 : 0) - (isUnits(own.text) ? 6 : 0),
    });
  }
  const nearest = titles[0];
  if (!nearest) return undefined;
  // Of lines under one another the first that clearly stands out; without one, the nearest.
  const better = titles.slice(1).find(({ rank }) => rank > nearest.rank + 0.8);
  const chosen = better && (isUnits(nearest.line.text) || !isBold(page.words, nearest.line.words)) ? better : nearest;
  return { text: chosen.line.text, words: [...chosen.line.words] };
}

function isTitle(page: PageContent, { text, words, line }: TitleLine, lines: readonly Line[], region: Box): boolean {
  if (!/\p{L}/u.test(text)) return false;
  const next = lines[lines.indexOf(line) + 1];
  const tight =
    next &&
    line.box[1] - next.box[3] < 0.6 * line.fontSize &&
    overlap(next.box[0], next.box[2], line.box[0], line.box[2]) > 0;
  const larger = next ? line.fontSize > 1.1 * next.fontSize : false;
  if (isBold(page.words, words) || larger) return true;
  // A line of a paragraph is no title: one that ends a sentence, or goes on from a full line above it.
  if (/[.;:,]$/.test(text) && text.split(' ').length > 5) return false;
  if (tight && width(next.box) > 0.6 * page.width) return false;
  const box = around(words.map((w) => page.words[w].box))!;
  return text.length < 90 && width(box) <= Math.max(width(region), 0.6 * page.width);
}
