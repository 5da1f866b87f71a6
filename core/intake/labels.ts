import { around, middleX, overlap, type Box } from '../page/box';
import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesOf } from '../reading/phrases';
import type { LabelSetting } from './take-rule';

/** A value found by its label. */
export interface LabelledValue {
  readonly page: number;
  readonly text: string;
  readonly words: readonly number[];
  readonly labelWords: readonly number[];
}

/** A gap wider than this many font sizes ends a value; a narrower one may part it from its label. */
const valueGap = 1;
/** A value stands at most this many font sizes below its label. */
const furthestBelow = 2.5;

const normal = (text: string) =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .replace(/[\s:.…]+$/u, '')
    .trim();

const isLeader = (text: string) => /^[.·…_]{2,}$/.test(text) || text === ':';

/** The value of a label: the first one in the report that has it, in the order of the pages. */
export function labelledValue(
  pages: readonly PageContent[],
  label: Pick<LabelSetting, 'label' | 'side'>,
): LabelledValue | undefined {
  for (const page of pages) {
    const [first] = labelledOn(page, label);
    if (first) return first;
  }
  return undefined;
}

/** The values of a label on a page, from the top: of one with a colon those behind a colon, where there are any. */
export function labelledOn(page: PageContent, { label, side }: Pick<LabelSetting, 'label' | 'side'>): LabelledValue[] {
  const lines = linesOf(
    page.words,
    page.words.flatMap((word, i) => (word.angle === 0 ? [i] : [])),
  );
  const found = lines.flatMap((line, n) =>
    placesOf(page, line, label).flatMap((words) => {
      const value = side === 'right' ? rightOf(page, line, words) : below(page, lines.slice(n + 1), line, words);
      return value.length > 0
        ? [{ page: page.number, text: textOf(page.words, value), words: value, labelWords: words }]
        : [];
    }),
  );
  const behindColon = label.trimEnd().endsWith(':')
    ? found.filter(({ labelWords }) => hasColon(page, lines, labelWords))
    : [];
  return behindColon.length > 0 ? behindColon : found;
}

/** Does a colon end the label, or stand alone behind it? */
function hasColon(page: PageContent, lines: readonly Line[], label: readonly number[]): boolean {
  const last = label.at(-1)!;
  const { words } = lines.find((line) => line.words.includes(last))!;
  return page.words[last].text.endsWith(':') || page.words[words[words.indexOf(last) + 1]]?.text === ':';
}

/** Every stretch of words of a line that reads like the label. */
function placesOf(page: PageContent, line: Line, label: string): number[][] {
  const wanted = normal(label);
  const count = wanted.split(' ').length;
  const places: number[][] = [];
  for (let from = 0; from < line.words.length; from++) {
    // Most words are not how it begins.
    if (!wanted.startsWith(normal(page.words[line.words[from]].text))) continue;
    for (let to = from + 1; to <= Math.min(line.words.length, from + count + 2); to++) {
      const words = line.words.slice(from, to);
      if (normal(textOf(page.words, words)) === wanted && !places.some((place) => place[0] === words[0]))
        places.push(words);
    }
  }
  return places;
}

/** The words that follow the label on its line, up to the next wide gap. */
function rightOf(page: PageContent, line: Line, label: readonly number[]): number[] {
  const after = line.words.slice(line.words.indexOf(label.at(-1)!) + 1).filter((w) => !isLeader(page.words[w].text));
  return after.length === 0 ? [] : [...phrasesOf(page, { ...line, words: after }, valueGap)[0].words];
}

/** The words of the next line under the label. */
function below(page: PageContent, lines: readonly Line[], line: Line, label: readonly number[]): number[] {
  const box = around(label.map((w) => page.words[w].box))!;
  for (const next of lines) {
    if (next.box[1] - box[3] > furthestBelow * line.fontSize) return [];
    const under = phrasesOf(page, next, valueGap).find((phrase) => isUnder(phrase.box, box));
    if (under && next.box[1] >= box[3] - 0.5 * line.fontSize) return [...under.words];
  }
  return [];
}

const isUnder = (box: Box, label: Box) =>
  overlap(box[0], box[2], label[0], label[2]) > 0 || Math.abs(middleX(box) - middleX(label)) < 10;

/**
 * What a word that was pointed at may be the value of: the words before it on its line, and the line above it.
 * @returns proposals, the nearest first
 */
export function labelsFor(
  page: PageContent,
  word: number,
): { value: string; words: readonly number[]; label: string; side: LabelSetting['side'] }[] {
  const lines = linesOf(
    page.words,
    page.words.flatMap((each, i) => (each.angle === 0 ? [i] : [])),
  );
  const at = lines.findIndex((line) => line.words.includes(word));
  if (at < 0) return [];
  const line = lines[at];
  const phrases = phrasesOf(page, line, valueGap);
  const own = phrases.findIndex((phrase) => phrase.words.includes(word));
  const tell = (words: readonly number[]) => textOf(page.words, words);
  const bare = (words: readonly number[]) => tell(words.filter((w) => !isLeader(page.words[w].text)));
  const found: { value: string; words: readonly number[]; label: string; side: LabelSetting['side'] }[] = [];
  const { words } = phrases[own];
  // Label and value may stand in one phrase: parted by a colon or dots, or by the change from letters to digits.
  const pointed = words.indexOf(word);
  const mark = words
    .slice(0, pointed)
    .findLastIndex((w) => page.words[w].text.endsWith(':') || isLeader(page.words[w].text));
  const digits = words.findIndex((w) => /^[\p{Sc}(+-]?\d/u.test(page.words[w].text));
  const start = mark >= 0 ? mark + 1 : digits > 0 && digits <= pointed ? digits : 0;
  if (start > 0)
    found.push({
      value: tell(words.slice(start)),
      words: words.slice(start),
      label: bare(words.slice(0, start)),
      side: 'right',
    });
  else if (own > 0) found.push({ value: tell(words), words, label: bare(phrases[own - 1].words), side: 'right' });
  const upper = lines
    .slice(0, at)
    .reverse()
    .find(
      (each) =>
        phrases[own].box[1] - each.box[3] <= furthestBelow * line.fontSize &&
        phrasesOf(page, each, valueGap).some((phrase) => isUnder(phrases[own].box, phrase.box)),
    );
  const above = upper && phrasesOf(page, upper, valueGap).find((phrase) => isUnder(phrases[own].box, phrase.box));
  if (above) found.push({ value: tell(words), words, label: bare(above.words), side: 'below' });
  return found.filter(({ label }) => label !== '');
}
