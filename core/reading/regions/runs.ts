import { around, height, overlap, width, type Box } from '../../page/box';
import { textOf, type Line } from '../../page/lines';
import type { PageContent, Rule } from '../../page/page';
import { guttersOf, phrasesOf, spaceOf, type Gutter, type Phrase } from '../columns';
import { looksNumeric } from '../numeric';
import { crosses, isCaption, isParted, isRunningText } from './print';
import type { Zone } from './zones';

/** Lines from .. to - 1 of a zone that may be a table, or part of one. */
export interface Run {
  readonly from: number;
  readonly to: number;
}

/** A gap wider than this many font sizes parts the texts of a row: no word space is so wide, but in justified type. */
const textGap = 0.8;

/** Lines further below the rows above, in font sizes, belong to them only if they stand on the same edges. */
const closely = 1.7;
/** No table goes on over more room than this, in font sizes. */
const widest = 5;
/** So many lone lines in a row (labels of sections, notes between rows) may stand between rows. */
const mostLone = 2;
/** So many rows tell the columns of what is above or below. */
const looked = 14;
/** Edges within this many points are one edge. */
const sameEdge = 1.6;

/**
 * Lets each seed grow over the lines above and below that keep to its columns, and take in other seeds with the same
 * columns: what blank rows, shaded bands, labels of sections and rules over sums had torn apart is one table. Running
 * text, a caption, and rows that head other columns end a table.
 */
export function grown(page: PageContent, zone: Zone, lines: readonly Line[], seeds: readonly Run[]): Run[] {
  const print = lines.map((line) => phrasesOf(page, line, textGap));
  const context: Context = { page, zone, lines, print, told: [] };
  const order = seeds.flatMap((seed) => piecesOf(context, seed)).sort((a, b) => a.from - b.from || b.to - a.to).reduce<Run[]>((out, seed) => {
    const last = out.at(-1);
    if (last && seed.from < last.to) return [...out.slice(0, -1), { from: last.from, to: Math.max(last.to, seed.to) }];
    return [...out, seed];
  }, []);
  const runs: Run[] = [];
  for (let i = 0; i < order.length; i++) {
    let run = upwards(context, order[i], runs.at(-1)?.to ?? 0);
    for (;;) {
      const next = order[i + 1];
      const to = downwards(context, run, next?.from ?? lines.length);
      run = { from: run.from, to };
      if (!next || !goesOn(context, run, next)) break;
      run = { from: run.from, to: next.to };
      i++;
    }
    runs.push(trimmed(context, run));
  }
  return runs;
}

/**
 * A run without the lines on top that belong to what stands above the table: they are set off from the heading by more
 * room than there is between the rows, and hold fewer texts than the rows or pay no heed to the columns.
 */
function trimmed(context: Context, run: Run): Run {
  const { page, lines, print, zone } = context;
  const titled = titleWithin(context, run);
  if (titled !== undefined) return trimmed(context, { from: titled + 1, to: run.to });
  const rows = part(context, run);
  const gaps = rows.slice(1).map((line, i) => line.box[1] - rows[i].box[3]).sort((a, b) => a - b);
  const usual = gaps[gaps.length >> 1] ?? 0;
  const most = Math.max(...print.slice(run.from, run.to).map((own) => own.length));
  for (let i = Math.min(run.from + 5, run.to - 2); i > run.from; i--) {
    const gap = gapAbove(context, i);
    if (gap <= Math.max(0.7 * lines[i].fontSize, 1.5 * usual + 0.5) || (gap <= 1.2 * lines[i].fontSize && acrossBetween(zone.rules, lines[i - 1].box[3] - 1, lines[i].box[1], lines[i].box))) continue;
    const above = { from: run.from, to: i };
    const gutters = guttersOf(page, part(context, { from: i, to: Math.min(run.to, i + looked) }));
    const foreign = Array.from({ length: i - run.from }, (_, n) => run.from + n).every(
      (at) => print[at].length < 0.4 * most || gutters.filter((gutter) => print[at].some(({ box }) => box[0] < gutter.from && box[2] > gutter.to)).length > 0.34 * gutters.length,
    );
    if (foreign && most > 2 && above.to < run.to - 1) return { from: i, to: run.to };
  }
  return run;
}

/** A lone line near the top, with more room above than below, before a line of headings and the first amounts: a title. */
function titleWithin(context: Context, run: Run): number | undefined {
  const { lines, print } = context;
  const amounts = (i: number) => tell(context, i).texts.slice(1).some(({ isAmount }) => isAmount);
  const first = Array.from({ length: run.to - run.from }, (_, n) => run.from + n).find(amounts);
  for (let i = run.from + 1; first !== undefined && i < Math.min(first, run.from + 6, run.to - 2); i++) {
    if (isTabular(context, i) || !isTabular(context, i + 1) || i + 1 >= first || first - i > 3) continue;
    const left = Math.min(...lines.slice(i + 1, run.to).map((line) => line.box[0]));
    const roomy = gapAbove(context, i) > 1.2 * gapAbove(context, i + 1) && gapAbove(context, i) > 0.6 * lines[i].fontSize;
    if (roomy && Math.abs(print[i][0].box[0] - left) < 4) return i;
  }
  return undefined;
}

interface Context {
  readonly page: PageContent;
  readonly zone: Zone;
  readonly lines: readonly Line[];
  readonly print: readonly (readonly Phrase[])[];
  /** What the lines say, text by text, as far as it was asked for. */
  readonly told: (Told | undefined)[];
}

interface Told {
  readonly whole: string;
  readonly texts: readonly { readonly box: Box; readonly text: string; readonly isAmount: boolean; readonly isHeading: boolean }[];
}

/** Texts of a line parted finely, each with what it may be: years are headings and no amounts. */
function tell(context: Context, i: number): Told {
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

const part = ({ lines }: Context, { from, to }: Run) => lines.slice(from, to);
const gapAbove = ({ lines }: Context, i: number) => lines[i].box[1] - lines[i - 1].box[3];
const isTabular = ({ print }: Context, i: number) => print[i].length > 1;
const textIn = (context: Context, i: number) => tell(context, i).whole;

function isProse({ page, zone, lines, print }: Context, i: number): boolean {
  if (print[i].length > 1 || print[i][0].box[0] - zone.box[0] > 0.08 * width(zone.box)) return false;
  const letters = textOf(page.words, lines[i].words).replace(/[^\p{L}]/gu, '').length;
  return letters > 30 && isRunningText(page, lines[i].words, Math.min(width(zone.box), 0.75 * page.width)) && !print[i][0].words.every((w) => page.words[w].weight === 700);
}

const bullet = /^(?:[•▪◦‣∙·*–—-]|\(?[0-9a-z]{1,2}[.)])$/i;

/** Is a line a point of a list: a bullet or number, and running text? */
function isPoint({ page, zone, print }: Context, i: number): boolean {
  const [first, second, ...more] = print[i];
  return more.length === 0 && second !== undefined && bullet.test(textOf(page.words, first.words)) && second.words.length > 4 && isRunningText(page, second.words, Math.min(width(zone.box), 0.7 * page.width));
}

/** Do two runs, one below the other, have the same columns, and does nothing between them say that another table begins? */
function goesOn(context: Context, above: Run, below: Run): boolean {
  const { page, lines } = context;
  const between = Array.from({ length: below.from - above.to }, (_, i) => above.to + i);
  if (between.length > mostLone) return false;
  if (between.some((i) => isProse(context, i) || isCaption(textIn(context, i)))) return false;
  const room = between.reduce((sum, i) => sum - height(lines[i].box), lines[below.from].box[1] - lines[above.to - 1].box[3]);
  const fontSize = lines[below.from].fontSize;
  if (room > (between.length + 1) * widest * 0.7 * fontSize + 2) return false;
  const [upper, lower] = [part(context, { from: Math.max(above.from, above.to - looked), to: above.to }), part(context, { from: below.from, to: Math.min(below.to, below.from + looked) })];
  const whole = guttersOf(page, [...upper, ...lower]);
  if (whole.length === 0) return false;
  const [own, other] = [guttersOf(page, upper), guttersOf(page, lower)];
  const agreeing = agreement(context, above, below, whole);
  // Rows between which a column is blank on one side still have all gutters of the fuller side.
  const fewer = whole.length < Math.max(own.length, upper.length > 2 && lower.length > 2 ? other.length : 0);
  if (fewer && (agreeing < surely || whole.length < Math.min(own.length, other.length))) return false;
  if (beginsAnew(context, above, below, room / (between.length + 1))) return false;
  if (Array.from({ length: Math.min(2, below.to - below.from) }, (_, i) => below.from + i).some((i) => headsAnew(context, above, i))) return false;
  if (between.some((i) => isTitle(context, above, i))) return false;
  if (room <= closely * fontSize * (between.length + 1)) return agreeing >= 0.33;
  return agreeing >= 0.6;
}

/** The share of columns on one edge above which a difference in gutters does not count. */
const surely = 0.75;

/** Does the lower run begin, after more room than the rows above keep, with headings of its own and amounts below them? */
function beginsAnew(context: Context, above: Run, below: Run, room: number): boolean {
  const { lines } = context;
  const gaps = part(context, above).slice(1).map((line, i) => line.box[1] - lines[above.from + i].box[3]).sort((a, b) => a - b);
  if (room <= 1.5 * Math.max(0, gaps[gaps.length >> 1] ?? 0) + 0.3 * lines[below.from].fontSize) return false;
  const head = Array.from({ length: Math.min(3, below.to - below.from) }, (_, i) => below.from + i).find((i) => isTabular(context, i));
  if (head === undefined) return false;
  const { texts } = tell(context, head);
  const headings = texts.filter(({ text, isHeading }) => isHeading && /\p{L}{2}|\d{4}/u.test(text));
  const followed = Array.from({ length: Math.min(3, below.to - head - 1) }, (_, i) => head + 1 + i).some((i) => tell(context, i).texts.slice(1).some(({ isAmount }) => isAmount));
  return !texts.some(({ isAmount }) => isAmount) && headings.length >= 2 && headings.length >= 0.6 * texts.length && followed;
}

/** Which columns a line's texts stand in, cut in the middle of each gutter; a text over several is in none. */
function cellsIn(phrases: readonly Phrase[], gutters: readonly Gutter[]): (Phrase | undefined)[] {
  const cells: (Phrase | undefined)[] = gutters.map(() => undefined);
  cells.push(undefined);
  for (const phrase of phrases) {
    const at = gutters.findIndex(({ from, to }) => phrase.box[2] <= (from + to) / 2 + 1);
    const column = at < 0 ? gutters.length : at;
    if (column > 0 && phrase.box[0] < (gutters[column - 1].from + gutters[column - 1].to) / 2 - 1) continue;
    cells[column] ??= phrase;
  }
  return cells;
}

/** The share of columns whose texts above and below stand on one edge. */
function agreement(context: Context, above: Run, below: Run, gutters: readonly Gutter[]): number {
  const edges = (run: Run, from: number, to: number) => {
    const columns: Box[][] = Array.from({ length: gutters.length + 1 }, () => []);
    for (let i = Math.max(run.from, from); i < Math.min(run.to, to); i++) {
      const finer = phrasesOf(context.page, context.lines[i], 0.5);
      cellsIn(finer, gutters).forEach((cell, column) => cell && columns[column].push(cell.box));
    }
    return columns;
  };
  const upper = edges(above, above.to - looked, above.to);
  const lower = edges(below, below.from, below.from + looked);
  let [shared, agree] = [0, 0];
  upper.forEach((boxes, column) => {
    if (boxes.length === 0 || lower[column].length === 0) return;
    shared++;
    const meet = (edge: (box: Box) => number) => lower[column].some((box) => boxes.some((other) => Math.abs(edge(box) - edge(other)) <= sameEdge));
    if (meet((box) => box[0]) || meet((box) => box[2]) || meet((box) => (box[0] + box[2]) / 2)) agree++;
  });
  return shared < 2 ? 0 : agree / shared;
}

const year = /^(?:19|20)\d\d(?:[/–-]\d\d(?:\d\d)?)?$/;

/**
 * Does a line head columns anew: words or years over what are amounts in the rows above, with amounts below them again?
 * A line that says what the first one of the run says heads them anew, too.
 */
function headsAnew(context: Context, above: Run, i: number): boolean {
  const { lines } = context;
  if (!isTabular(context, i)) return false;
  const own = tell(context, i).texts;
  if (i > above.from && textIn(context, i) === textIn(context, above.from) && isTabular(context, above.from) && !own.some(({ isAmount }) => isAmount)) return true;
  const from = phrasesFromSecond(context, i, above);
  if (!own.slice(from).some(({ isHeading }) => isHeading)) return false;
  const rows = Array.from({ length: Math.min(looked, above.to - above.from) }, (_, n) => above.to - 1 - n).filter((at) => isTabular(context, at));
  const under = Array.from({ length: Math.min(4, lines.length - i - 1) }, (_, n) => i + 1 + n);
  const setOff = i > 0 && i + 1 < lines.length && gapAbove(context, i) > Math.max(1.4 * gapAbove(context, i + 1), 0.5 * lines[i].fontSize);
  let [over, words] = [0, 0];
  for (const { box, text, isHeading } of own.slice(from)) {
    const shares = (other: { box: Box }) => overlap(other.box[0], other.box[2], box[0], box[2]) > 0;
    const texts = rows.flatMap((row) => tell(context, row).texts.filter(shares));
    if (texts.length === 0 || texts.filter(({ isAmount }) => isAmount).length < 0.6 * texts.length) continue;
    over++;
    // A letter or two may be a mark that stands for an amount, and what looks like a year may be one.
    if (isHeading && under.some((row) => tell(context, row).texts.some((other) => shares(other) && other.isAmount))) words += /\p{L}{3}/u.test(text) || from === 0 || setOff ? 1 : 0.5;
  }
  return words >= 1 && words >= 0.6 * over && words >= 0.4 * (own.length - 1);
}

/** A first text at the left edge is a label, whatever stands above it. */
const phrasesFromSecond = ({ print, lines }: Context, i: number, above: Run) => (print[i][0].box[0] < Math.min(...lines.slice(above.from, above.to).map((line) => line.box[0])) + 12 ? 1 : 0);

/** A lone line in larger type than the rows, or one with much more room above it than below: the title of what follows. */
function isTitle(context: Context, above: Run, i: number): boolean {
  const { lines } = context;
  const size = lines[above.to - 1].fontSize;
  return lines[i].fontSize > 1.12 * size && lines[i].fontSize > 1.12 * (lines[i + 1]?.fontSize ?? size);
}

/** So many lone lines in a row that do not go on in a column end what marks hold together. */
const mostLoneInMarks = 3;

/** The parts of a seed: marks reach over running text, charts, and headings of the next table, which no table does. */
function piecesOf(context: Context, seed: Run): Run[] {
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
    if (isPoint(context, i)) close(i + 1);
    else if (isTabular(context, i)) {
      if (i > from && headsAnew(context, { from, to: last }, i)) close(i);
      if (last === from) from = i;
      last = i + 1;
      lone = 0;
    } else if (last > from && runsOn(context, { from, to: last }, i)) last = i + 1;
    else if (isProse(context, i) || isCaption(textIn(context, i)) || ++lone >= mostLoneInMarks) close(i + 1);
    else if (last > from && isTitle(context, { from, to: last }, i)) close(i + 1);
  }
  close(seed.to);
  return pieces;
}

const acrossBetween = (rules: readonly Rule[], from: number, to: number, box: Box) =>
  rules.some((rule) => rule.direction === 'across' && rule.at > from - 1 && rule.at < to + 1 && overlap(rule.from, rule.to, box[0], box[2]) > 0.5 * width(box));

/** Where the run ends, grown over the rows below it, up to `limit`. */
function downwards(context: Context, run: Run, limit: number): number {
  const { page, lines, zone } = context;
  let to = run.to;
  for (let i = to, lone = 0; i < limit; i++) {
    const fontSize = lines[i].fontSize;
    const gap = gapAbove(context, i);
    if (gap > widest * fontSize) break;
    if (isTabular(context, i) || isPartedAsAbove(context, { from: run.from, to }, i)) {
      const rows = part(context, { from: Math.max(run.from, to - looked), to });
      const gutters = guttersOf(page, [...rows, lines[i]]);
      const keeps = gutters.length > 0 && gutters.length >= guttersOf(page, rows).length && gutters.every((gutter) => !crosses(page, lines[i], gutter));
      if (!keeps || headsAnew(context, { from: run.from, to }, i)) break;
      const agreeing = agreement(context, { from: run.from, to }, { from: i, to: i + 1 }, gutters);
      const gaps = rows.slice(1).map((line, n) => line.box[1] - rows[n].box[3]);
      const ruled = acrossBetween(zone.rules, lines[i - 1].box[3], lines[i].box[1], lines[i].box);
      if (gap > Math.max(closely * fontSize, 1.3 * Math.max(0, ...gaps)) && !(agreeing >= 0.6 || (ruled && agreeing >= 0.5))) break;
      if (agreeing < 0.33) break;
      to = i + 1;
      lone = 0;
    } else if (lone === 0 && runsOn(context, { from: run.from, to }, i)) to = i + 1;
    else {
      if (isProse(context, i) || isCaption(textIn(context, i)) || isTitle(context, { from: run.from, to }, i)) break;
      if (!isInStep(context, run, i) && ++lone > mostLone) break;
      // A lone line begins at the left edge, as labels do, or it is no part of the table.
      const left = Math.min(...part(context, { from: run.from, to }).map((line) => line.box[0]));
      if (lines[i].box[0] - left > 40 || lines[i].box[0] < left - 4) break;
    }
  }
  // A label alone before the rule that ends the table is its last row.
  if (to < limit && !isTabular(context, to) && endsByRule(context, { from: run.from, to }, to)) to++;
  return to;
}

/** Is a line whose texts nearly touch parted at the gutters of the rows above? */
function isPartedAsAbove({ page, lines }: Context, run: Run, i: number): boolean {
  const rows = lines.slice(Math.max(run.from, run.to - looked), run.to);
  if (rows.length < 3) return false;
  const gutters = guttersOf(page, [...rows, lines[i]]);
  return gutters.length > 0 && gutters.length >= guttersOf(page, rows).length && isParted(page, lines[i], gutters);
}

/** Does a lone line follow the line above as rows do, a label like theirs? */
function isInStep(context: Context, run: Run, i: number): boolean {
  const { lines } = context;
  const rows = part(context, run);
  const gaps = rows.slice(1).map((line, n) => line.box[1] - rows[n].box[3]).sort((a, b) => a - b);
  const usual = gaps[gaps.length >> 1];
  const left = Math.min(...rows.map((line) => line.box[0]));
  return usual !== undefined && Math.abs(gapAbove(context, i) - usual) < 0.15 * lines[i].fontSize && Math.abs(lines[i].box[0] - left) < 14 && lines[i].box[2] < left + 0.6 * (Math.max(...rows.map((line) => line.box[2])) - left);
}

/** Does a rule as wide as the rows follow a lone line, close below the rows, with none between? */
function endsByRule(context: Context, run: Run, i: number): boolean {
  const { lines, zone } = context;
  const box = around(part(context, run).map((line) => line.box))!;
  const below = lines[i + 1]?.box[1] ?? lines[i].box[3] + lines[i].fontSize;
  return (
    gapAbove(context, i) < closely * lines[i].fontSize &&
    Math.abs(lines[i].box[0] - box[0]) < 14 &&
    lines[i].box[2] < box[2] &&
    acrossBetween(zone.rules, lines[i].box[3], Math.min(below, lines[i].box[3] + lines[i].fontSize), box) &&
    !isProse(context, i)
  );
}

/** Does a lone line close below a row go on in one of its columns? In the first one it does if it had found no room above. */
function runsOn(context: Context, run: Run, i: number): boolean {
  const { page, lines, print } = context;
  if (gapAbove(context, i) > 0.5 * lines[i].fontSize || isProse(context, i)) return false;
  const left = Math.min(...part(context, run).map((line) => line.box[0]));
  const { box, words } = print[i][0];
  for (let row = run.to - 1; row >= Math.max(run.from, run.to - 8); row--) {
    if (!isTabular(context, row)) {
      if (row >= run.to - 3 && box[0] > left + 4 && Math.abs(lines[row].box[0] - box[0]) < 2) return true;
      continue;
    }
    if (print[row].some((phrase, n) => (n > 0 || phrase.box[0] > left + 4) && Math.abs(phrase.box[0] - box[0]) < 2)) return true;
    if (lines[i].fontSize > 1.05 * lines[row].fontSize) continue;
    const label = print[row][0];
    const above = row === run.to - 1 ? label.box : lines[i - 1].box;
    const second = Math.min(...print[row].slice(1).map((phrase) => phrase.box[0]));
    const widest = Math.max(...Array.from({ length: Math.min(looked, run.to - run.from) }, (_, n) => print[run.to - 1 - n][0].box[2]).filter((right) => right < second));
    const noRoom = above[2] + 0.2 * lines[i].fontSize + width(page.words[words[0]].box) > widest - 1;
    if (Math.abs(label.box[0] - box[0]) < 3 && box[2] < second && noRoom) return true;
    if (row < run.to - 2) break;
  }
  return false;
}

/** The run grown over headings and rows above it, down from line `limit`. */
function upwards(context: Context, seed: Run, limit: number): Run {
  const { page, lines, zone } = context;
  let from = seed.from;
  const rows = () => part(context, { from, to: Math.min(seed.to, from + looked) });
  const inner = rows().slice(1).map((line, i) => line.box[1] - rows()[i].box[3]);
  for (let i = from - 1; i >= limit; i--) {
    const gap = lines[from].box[1] - lines[i].box[3];
    const fontSize = lines[i].fontSize;
    const own = rows();
    const box = around(own.map((line) => line.box))!;
    const ruled = acrossBetween(zone.rules, lines[i].box[3] - 2, lines[from].box[1], lines[i].box);
    const label = i > limit && !isTabular(context, i) && isLabelUnderHeading(context, i, own) && !isTitle(context, seed, i);
    if (label) {
      from = i - 1;
      i--;
      continue;
    }
    if (gap > Math.max(2 * fontSize, ...inner.map((g) => Math.min(1.3 * g, 3 * fontSize))) || (gap > Math.max(0.9 * fontSize, ...inner.map((g) => 1.2 * g)) && !ruled)) break;
    if (isProse(context, i) || isCaption(textIn(context, i))) break;
    const gutters = guttersOf(page, own);
    if (gutters.length === 0) break;
    const fine = phrasesOf(page, lines[i], 0, Math.min(textGap * fontSize, (1.5 * spaceOf(page, own) * fontSize) / own[0].fontSize));
    if (fine.length > 1) {
      const clear = (phrase: Box) => gutters.filter((gutter) => phrase[0] >= gutter.from - 1 || phrase[2] <= gutter.to + 1).length;
      const keeps = gutters.filter((gutter) => !crosses(page, lines[i], gutter)).length >= 0.75 * gutters.length;
      const spans = fine.every(({ box: phrase }) => clear(phrase) >= Math.min(0.6 * gutters.length, gutters.length - 1) && phrase[2] <= box[2] + 12);
      if (!keeps && !spans) break;
      from = i;
    } else if (headsOne(context, i, gutters, box, gap)) from = i;
    else break;
  }
  return { from, to: seed.to };
}

/** Is a lone line the label of the first section, with a line above it that heads the columns? */
function isLabelUnderHeading(context: Context, i: number, rows: readonly Line[]): boolean {
  const { page, lines, print } = context;
  if (!isTabular(context, i - 1) || isProse(context, i) || isCaption(textIn(context, i))) return false;
  const box = around(rows.map((line) => line.box))!;
  const gutters = guttersOf(page, rows);
  const [above, below] = [lines[i].box[1] - lines[i - 1].box[3], rows[0].box[1] - lines[i].box[3]];
  const gaps = rows.slice(1).map((line, n) => line.box[1] - rows[n].box[3]).sort((a, b) => a - b);
  if (gutters.length === 0 || Math.max(above, below) > Math.max(1.6 * lines[i].fontSize, Math.min(1.1 * (gaps[gaps.length >> 1] ?? 0) + 0.7 * lines[i].fontSize, 2.8 * lines[i].fontSize)) || print[i][0].box[0] - box[0] > 40 || print[i][0].box[0] < box[0] - 12) return false;
  const clear = (phrase: Phrase) => gutters.filter((gutter) => phrase.box[0] >= gutter.from - 1 || phrase.box[2] <= gutter.to + 1).length;
  return print[i - 1].length >= Math.min(2, gutters.length) && print[i - 1].length >= 0.6 * gutters.length && print[i - 1].every((phrase) => clear(phrase) >= Math.min(0.6 * gutters.length, gutters.length - 1)) && !print[i - 1].slice(1).some((phrase) => looksNumeric(textOf(page.words, phrase.words)) && !year.test(textOf(page.words, phrase.words)));
}

/** Does a lone line head a column or a group of columns, and not the whole table? */
function headsOne({ page, lines, print, zone }: Context, i: number, gutters: readonly Gutter[], table: Box, gap: number): boolean {
  const { box } = print[i][0];
  if (width(box) > 0.6 * width(table)) return false;
  const afterLabels = box[0] >= gutters[0].from - 1;
  if (!afterLabels) return false;
  const middle = (box[0] + box[2]) / 2;
  const ruledBelow = zone.rules.some((rule) => rule.direction === 'across' && rule.at > lines[i].box[3] - 2 && rule.at < lines[i].box[3] + 0.8 * lines[i].fontSize && rule.to - rule.from < 0.85 * width(table) && rule.from <= middle && rule.to >= middle);
  if (ruledBelow) return true;
  // A title is set over the middle of the whole table; the first line of a wrapped heading stands closely above the next.
  const centred = Math.abs(middle - (table[0] + table[2]) / 2) <= 6;
  if (centred && gap > 0.6 * lines[i].fontSize) return false;
  if (gutters.every((gutter) => !crosses(page, lines[i], gutter))) return gutters.length > 1 || Math.abs(box[2] - table[2]) < 2 || box[0] >= gutters[0].to - 4;
  return !centred;
}
