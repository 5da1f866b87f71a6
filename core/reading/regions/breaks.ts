// Where one table ends and the next begins: what lines of a zone are, one by one, and the parts into which that cuts a run.
import { height, overlap, overlapY, width, type Box } from '../../page/box';
import { isBold, textOf, type Line } from '../../page/lines';
import type { PageContent, Rule } from '../../page/page';
import { guttersOf } from '../gutters';
import { phrasesOf, type Phrase } from '../phrases';
import { looksNumeric } from '../../values/numeric';
import { isCaption, isRunningText } from './print';
import type { Zone } from './zones';

/** Lines from .. to - 1 of a zone that may be a table, or part of one. */
export interface Run {
  readonly from: number;
  readonly to: number;
}

/** A gap wider than this many font sizes parts the texts of a row: no word space is so wide, but in justified type. */
export const textGap = 0.7;

/**
 * A run without the lines on top that belong to what stands above the table: they are set off from the heading by more
 * room than there is between the rows, and hold fewer texts than the rows or pay no heed to the columns.
 */
export function trimmed(context: Context, run: Run): Run {
  const { page, lines, print, zone } = context;
  const titled = titleWithin(context, run);
  if (titled !== undefined) return trimmed(context, { from: titled + 1, to: run.to });
  const rows = part(context, run);
  const gaps = rows
    .slice(1)
    .map((line, i) => line.box[1] - rows[i].box[3])
    .sort((a, b) => a - b);
  const usual = gaps[gaps.length >> 1] ?? 0;
  const most = Math.max(...print.slice(run.from, run.to).map((own) => own.length));
  const sizes = rows.map((line) => line.fontSize).sort((a, b) => a - b);
  if (
    run.to - run.from > 3 &&
    rows[0].fontSize > larger * sizes[sizes.length >> 1] &&
    print[run.from].length < 0.5 * most &&
    !isBeside(context, run.from, run.from + 1)
  )
    return trimmed(context, { from: run.from + 1, to: run.to });
  for (let i = Math.min(run.from + 5, run.to - 2); i > run.from; i--) {
    const gap = gapAbove(context, i);
    const ruled = acrossBetween(zone.rules, lines[i - 1].box[3] - 1, lines[i].box[1], lines[i].box);
    if (gap <= Math.max(0.7 * lines[i].fontSize, 1.5 * usual + 0.5) || (gap <= 1.2 * lines[i].fontSize && ruled))
      continue;
    const above = { from: run.from, to: i };
    const gutters = guttersOf(page, part(context, { from: i, to: Math.min(run.to, i + looked) }));
    const foreign = Array.from({ length: i - run.from }, (_, n) => run.from + n).every(
      (at) =>
        (print[at].length < 0.4 * most && !(ruled && print[at].length > 1)) ||
        (!ruled &&
          gutters.filter((gutter) => print[at].some(({ box }) => box[0] < gutter.from && box[2] > gutter.to)).length >
            0.34 * gutters.length),
    );
    if (foreign && most > 2 && above.to < run.to - 1) return { from: i, to: run.to };
  }
  return run;
}

/** Type larger than that of the rows by this much heads what follows. */
const larger = 1.12;

/** Do two lines, the upper one first, overlap in height, as texts at different heights of one row do? */
export const isBeside = ({ lines }: Context, upper: number, lower: number) =>
  overlapY(lines[upper].box, lines[lower].box) > 0.25 * height(lines[lower].box);

/** A lone line near the top, with more room above than below, before a line of headings and the first amounts: a title. */
function titleWithin(context: Context, run: Run): number | undefined {
  const { lines, print } = context;
  const amounts = (i: number) =>
    tell(context, i)
      .texts.slice(1)
      .some(({ isAmount }) => isAmount);
  const first = Array.from({ length: run.to - run.from }, (_, n) => run.from + n).find(amounts);
  for (let i = run.from + 1; first !== undefined && i < Math.min(first, run.from + 6, run.to - 2); i++) {
    // What stands beside a row, at another height, is a part of it.
    if (
      isTabular(context, i) ||
      !isTabular(context, i + 1) ||
      isBeside(context, i, i + 1) ||
      i + 1 >= first ||
      first - i > 3
    )
      continue;
    const left = Math.min(...lines.slice(i + 1, run.to).map((line) => line.box[0]));
    // Under a ruled heading stands the label of a section.
    if (
      isTabular(context, i - 1) &&
      acrossBetween(context.zone.rules, lines[i - 1].box[3], lines[i].box[1], lines[i - 1].box)
    )
      continue;
    const roomy =
      gapAbove(context, i) > 1.2 * gapAbove(context, i + 1) && gapAbove(context, i) > 0.6 * lines[i].fontSize;
    if (roomy && Math.abs(print[i][0].box[0] - left) < 4) return i;
  }
  return undefined;
}

/** So many rows tell the columns of what is above or below. */
export const looked = 14;
/** So many tell whether a column holds amounts. */
const lookedForAmounts = 8;

export interface Context {
  readonly page: PageContent;
  readonly zone: Zone;
  readonly lines: readonly Line[];
  readonly print: readonly (readonly Phrase[])[];
  /** What the lines say, text by text, as far as it was asked for. */
  readonly told: (Told | undefined)[];
}

interface Told {
  readonly whole: string;
  readonly texts: readonly {
    readonly box: Box;
    readonly text: string;
    readonly isAmount: boolean;
    readonly isHeading: boolean;
  }[];
}

/** Texts of a line parted finely, each with what it may be: years are headings and no amounts. */
export function tell(context: Context, i: number): Told {
  const { page, lines, told } = context;
  return (told[i] ??= {
    whole: textOf(page.words, lines[i].words),
    texts: phrasesOf(page, lines[i], 0.6).map(({ words, box }) => {
      const text = textOf(page.words, words);
      const isYear = year.test(text);
      const numeric = looksNumeric(text);
      return { box, text, isAmount: numeric && !isYear, isHeading: isYear || (!numeric && /\p{L}/u.test(text)) };
    }),
  });
}

export const part = ({ lines }: Context, { from, to }: Run) => lines.slice(from, to);
export const gapAbove = ({ lines }: Context, i: number) => lines[i].box[1] - lines[i - 1].box[3];
export const isTabular = ({ print }: Context, i: number) => print[i].length > 1;
export const textIn = (context: Context, i: number) => tell(context, i).whole;

export function isProse({ page, zone, lines, print }: Context, i: number): boolean {
  if (print[i].length > 1 || print[i][0].box[0] - zone.box[0] > 0.08 * width(zone.box)) return false;
  const letters = textOf(page.words, lines[i].words).replace(/[^\p{L}]/gu, '').length;
  return (
    letters > 30 &&
    isRunningText(page, lines[i].words, Math.min(width(zone.box), 0.75 * page.width)) &&
    !isBold(page.words, print[i][0].words)
  );
}

const bullet = /^(?:[•▪◦‣∙·*–—-]|\(?[0-9a-z]{1,2}[.)])$/i;

/** Is a line a point of a list: a bullet or number, and running text? */
function isPoint({ page, zone, print }: Context, i: number): boolean {
  const [first, second, ...more] = print[i];
  return (
    more.length === 0 &&
    second !== undefined &&
    bullet.test(textOf(page.words, first.words)) &&
    second.words.length > 4 &&
    isRunningText(page, second.words, Math.min(width(zone.box), 0.7 * page.width))
  );
}

export const year = /^(?:19|20)\d\d(?:[/–-]\d\d(?:\d\d)?)?$/;

/**
 * Does a line head columns anew: words or years over what are amounts in the rows above, with amounts below them again?
 * A line that says what the first one of the run says heads them anew, too.
 */
export function headsAnew(context: Context, above: Run, i: number): boolean {
  const { lines } = context;
  if (!isTabular(context, i)) return false;
  const own = tell(context, i).texts;
  if (
    i > above.from &&
    textIn(context, i) === textIn(context, above.from) &&
    isTabular(context, above.from) &&
    !own.some(({ isAmount }) => isAmount)
  )
    return true;
  const from = phrasesFromSecond(context, i, above);
  const most = own.slice(from).filter(({ isHeading }) => isHeading).length;
  if (most < 1 || most < 0.4 * (own.length - 1)) return false;
  const rows = Array.from(
    { length: Math.min(lookedForAmounts, above.to - above.from) },
    (_, n) => above.to - 1 - n,
  ).filter((at) => isTabular(context, at));
  const under = Array.from({ length: Math.min(4, lines.length - i - 1) }, (_, n) => i + 1 + n);
  const setOff =
    i > 0 &&
    i + 1 < lines.length &&
    gapAbove(context, i) > Math.max(1.4 * gapAbove(context, i + 1), 0.5 * lines[i].fontSize);
  let [over, words] = [0, 0];
  for (const { box, text, isHeading } of own.slice(from)) {
    const shares = (other: { box: Box }) => overlap(other.box[0], other.box[2], box[0], box[2]) > 0;
    const texts = rows.flatMap((row) => tell(context, row).texts.filter(shares));
    if (texts.length === 0 || texts.filter(({ isAmount }) => isAmount).length < 0.6 * texts.length) continue;
    over++;
    // A letter or two may be a mark that stands for an amount, and what looks like a year may be one.
    if (isHeading && under.some((row) => tell(context, row).texts.some((other) => shares(other) && other.isAmount)))
      words += /\p{L}{3}/u.test(text) || from === 0 || setOff ? 1 : 0.5;
  }
  return words >= 1 && words >= 0.6 * over && words >= 0.4 * (own.length - 1);
}

/** A first text at the left edge is a label, whatever stands above it. */
const phrasesFromSecond = ({ print, lines }: Context, i: number, above: Run) =>
  print[i][0].box[0] < Math.min(...lines.slice(above.from, above.to).map((line) => line.box[0])) + 12 ? 1 : 0;

/** A lone line in larger type than the rows, or one with much more room above it than below: the title of what follows. */
export function isTitle(context: Context, above: Run, i: number): boolean {
  const { lines } = context;
  const size = lines[above.to - 1].fontSize;
  return lines[i].fontSize > 1.12 * size && lines[i].fontSize > 1.12 * (lines[i + 1]?.fontSize ?? size);
}

/** So many lone lines in a row that do not go on in a column end what marks hold together. */
const mostLoneInMarks = 3;

/** Rows further apart than this, in font sizes, are joined only if their columns agree. */
const farApart = 2.4;

/** The parts of a seed: marks reach over running text, charts, and headings of the next table, which no table does. */
export function piecesOf(context: Context, seed: Run): Run[] {
  const { lines } = context;
  const pieces: Run[] = [];
  let from = seed.from;
  let last = from;
  let lone = 0;
  const close = (next: number) => {
    if (last - from >= 2) pieces.push({ from, to: last });
    from = next;
    last = next;
    lone = 0;
  };
  for (let i = seed.from; i < seed.to; i++) {
    if (last > from && i === last && i > seed.from && gapAbove(context, i) > farApart * lines[i].fontSize) close(i);
    if (isPoint(context, i)) close(i + 1);
    else if (isTabular(context, i)) {
      if (i > from && headsAnew(context, { from, to: last }, i)) close(i);
      if (last === from) from = i;
      last = i + 1;
      lone = 0;
    } else if (last > from && runsOn(context, { from, to: last }, i)) last = i + 1;
    else if (last > from && isBetweenRules(context, seed, i)) last = i + 1;
    else if (isProse(context, i) || isCaption(textIn(context, i)) || ++lone >= mostLoneInMarks) close(i + 1);
    else if (last > from && isTitle(context, { from, to: last }, i)) close(i + 1);
  }
  close(seed.to);
  return pieces;
}

/** Does a lone line stand between rules as long as the seed is wide, one above and one below it, as rows of a table may, or close above the rule that ends the seed? */
function isBetweenRules(context: Context, seed: Run, i: number): boolean {
  const { lines, zone } = context;
  const box: Box = [
    Math.min(...part(context, seed).map((line) => line.box[0])),
    0,
    Math.max(...part(context, seed).map((line) => line.box[2])),
    0,
  ];
  const [above, below] = [
    lines[i - 1]?.box[3] ?? -Infinity,
    lines[i + 1]?.box[1] ?? lines[i].box[3] + lines[i].fontSize,
  ];
  const ruledAbove = acrossBetween(zone.rules, above, lines[i].box[1], box);
  const ends = i === seed.to - 1 && gapAbove(context, i) < 0.8 * lines[i].fontSize && !isProse(context, i);
  return (
    Math.abs(lines[i].box[0] - box[0]) < 14 &&
    !isCaption(textIn(context, i)) &&
    (ruledAbove || ends) &&
    acrossBetween(zone.rules, lines[i].box[3], Math.min(below, lines[i].box[3] + lines[i].fontSize), box)
  );
}

/** Is there a rule across between two heights, over half of a box, or several that are so long together? */
export function acrossBetween(rules: readonly Rule[], from: number, to: number, box: Box): boolean {
  const lengths = new Map<number, number>();
  for (const rule of rules) {
    if (rule.direction !== 'across' || rule.at <= from - 1 || rule.at >= to + 1) continue;
    const height = Math.round(rule.at);
    lengths.set(height, (lengths.get(height) ?? 0) + Math.max(0, overlap(rule.from, rule.to, box[0], box[2])));
  }
  return [...lengths.values()].some((length) => length > 0.5 * width(box));
}

/** Does a lone line close below a row go on in one of its columns? In the first one it does if it had found no room above. */
export function runsOn(context: Context, run: Run, i: number): boolean {
  const { page, lines, print } = context;
  if (gapAbove(context, i) > 0.5 * lines[i].fontSize || isProse(context, i)) return false;
  const left = Math.min(...part(context, run).map((line) => line.box[0]));
  const { box, words } = print[i][0];
  for (let row = run.to - 1; row >= Math.max(run.from, run.to - 8); row--) {
    if (!isTabular(context, row)) {
      if (row >= run.to - 3 && box[0] > left + 4 && Math.abs(lines[row].box[0] - box[0]) < 2) return true;
      continue;
    }
    if (print[row].some((phrase, n) => (n > 0 || phrase.box[0] > left + 4) && Math.abs(phrase.box[0] - box[0]) < 2))
      return true;
    if (lines[i].fontSize > 1.05 * lines[row].fontSize) continue;
    const label = print[row][0];
    const above = row === run.to - 1 ? label.box : lines[i - 1].box;
    const second = Math.min(...print[row].slice(1).map((phrase) => phrase.box[0]));
    const widest = Math.max(
      ...Array.from({ length: Math.min(looked, run.to - run.from) }, (_, n) => print[run.to - 1 - n][0].box[2]).filter(
        (right) => right < second,
      ),
    );
    const noRoom = above[2] + 0.2 * lines[i].fontSize + width(page.words[words[0]].box) > widest - 1;
    if (Math.abs(label.box[0] - box[0]) < 3 && box[2] < second && noRoom) return true;
    if (row < run.to - 2) break;
  }
  return false;
}
