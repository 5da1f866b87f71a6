import { around, extend, middleX, overlap, type Box } from '../page/box';
import type { Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { placeHeadings } from './headings';

/** A stretch of words on one line between wide gaps. */
export interface Phrase {
  readonly words: readonly number[];
  readonly box: Box;
}

/** Cuts a line where the gap between words is wider than `gap` font sizes, or than `points`. */
export function phrasesOf(page: PageContent, line: Line, gap: number, points = 0): Phrase[] {
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

/** White space that runs down between columns. */
export interface Gutter {
  readonly from: number;
  readonly to: number;
}

/** A word space of proportional type, in font sizes. */
const usualSpace = 0.28;

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
      if (before && gap > 0.15 * size && gap < 0.5 * size && letters.test(text) && letters.test(before.text)) gaps.push(gap / size);
    });
  const middle = typical(widths);
  const monospaced = widths.length >= 4 && widths.every((width) => Math.abs(width - middle) < 0.06 * middle);
  if (monospaced) return middle;
  const space = typical(gaps);
  const even = gaps.length >= 4 && gaps.filter((gap) => Math.abs(gap - space) < 0.1 * space).length >= 0.6 * gaps.length;
  return (even ? Math.min(space, usualSpace * 1.2) : usualSpace) * fontSize;
}

const letters = /\p{L}{2}/u;

const sampled = 12;

/** How gutters are told: see the hypotheses in `layoutOf`. */
interface Tuning {
  /** Words no further apart than this many word spaces never stand in two columns. */
  readonly closest: number;
  /** The part of the lines that may cross a gutter. */
  readonly may: number;
  /** How wide a gutter must be that no line crosses: so many font sizes over the number of lines, and so many word spaces. */
  readonly room: number;
  readonly spaces: number;
}

const usual: Tuning = { closest: 1.1, may: 0.1, room: 1.1, spaces: 1.3 };

/** Other ways to see columns, tried where the usual one leaves several amounts in one cell or texts across gutters. */
const otherTunings: readonly Tuning[] = [
  { closest: 1.02, may: 0.1, room: 0.2, spaces: 1.08 },
  { closest: 1.1, may: 0.3, room: 0.5, spaces: 1.2 },
  { closest: 1.5, may: 0.1, room: 1.6, spaces: 2 },
];

const typical = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 10;

/**
 * Finds the gutters of a block of lines by the white space that runs down through them (the projection profile of
 * page segmentation). Lines of one phrase (titles, section labels, notes) have no say; a few lines may cross
 * a gutter, as headings over several columns do. A gutter must be the wider the fewer lines speak for it, because words
 * of few lines leave aligned gaps by chance.
 */
export function guttersOf(page: PageContent, lines: readonly Line[], tuning: Tuning = usual): Gutter[] {
  const space = spaceOf(page, lines);
  const speaking = withoutGroupHeadings(lines.map((line) => phrasesOf(page, line, 0, tuning.closest * space)).filter((phrases) => phrases.length > 1));
  if (speaking.length === 0) return [];
  const fontSize = typical(lines.map((line) => line.fontSize));
  const events: [number, number][] = [];
  for (const phrases of speaking)
    for (const { box } of phrases) {
      events.push([box[0], 1], [box[2], -1]);
    }
  events.sort((a, b) => a[0] - b[0] || b[1] - a[1]);
  const count = speaking.length;
  const may = count >= 4 ? Math.max(1, Math.floor(tuning.may * count)) : 0;
  const free = Math.max(fontSize * (Math.min(0.3, tuning.room) + tuning.room / count), tuning.spaces * space);
  const crossed = Math.max(free, 1.9 * space);

  const gutters: Candidate[] = [];
  let cover = 0;
  let start: number | undefined;
  let clearFrom: number | undefined;
  let clear: Gutter | undefined;
  const last = events.at(-1)![0];
  for (const [x, change] of events) {
    const before = cover;
    cover += change;
    if (before > 0 && cover === 0) clearFrom = x;
    if (before === 0 && cover > 0 && clearFrom !== undefined && (!clear || x - clearFrom > clear.to - clear.from)) clear = { from: clearFrom, to: x };
    if (before > may && cover <= may) {
      start = x;
      clear = undefined;
      clearFrom = cover === 0 ? x : undefined;
    } else if (before <= may && cover > may && start !== undefined) {
      const islands = headingsOfBlankColumns(speaking, { from: start, to: x }, fontSize);
      if (islands.length > 0) {
        const edges = [start, ...islands.flatMap((box) => [box[0], box[2]]), x];
        for (let i = 0; i < edges.length; i += 2) gutters.push({ from: edges[i], to: edges[i + 1], clear: undefined });
      } else if (clear && x < last && (clear.to - clear.from >= free || (clear.to - clear.from >= tuning.spaces * space && standsOnEdges(speaking, clear)))) gutters.push({ from: start, to: x, clear });
      else if (x - start >= crossed && x < last) gutters.push({ from: start, to: x, clear: undefined });
      start = undefined;
    }
  }
  const refined = gutters.map((gutter, i) => withoutIntruders(speaking, gutter, gutters[i - 1]?.to ?? -Infinity, gutters[i + 1]?.from ?? Infinity));
  const filled = refined.filter(({ from, to }) => bothSidesFilled(speaking, from, to));
  return withoutSigns(page, speaking, withoutLoneHeadings(page, speaking, filled.filter((gutter) => !isWordSpace(page, lines, gutter, filled))));
}

/** Gutters beside a column of one and the same operator, as formulas under each other have it: no column either. */
function besideOperators(page: PageContent, speaking: readonly Phrase[][], gutters: readonly Gutter[]): number[] {
  const cuts = [-Infinity, ...gutters.map(({ from, to }) => (from + to) / 2), Infinity];
  return cuts.slice(1).flatMap((_, column) => {
    const own = speaking.flatMap((phrases) => phrases.filter(({ box }) => middleX(box) > cuts[column] && middleX(box) <= cuts[column + 1]));
    const operator = own.length >= 3 && own.filter(({ words }) => words.length === 1 && /^[=:<>≤≥→+×]$/.test(page.words[words[0]].text)).length >= 0.8 * own.length;
    return operator ? [column - 1, column].filter((i) => i >= 0 && i < gutters.length) : [];
  });
}

/** Without the gutters between signs and the amounts that they belong to: a column of nothing but signs is none. */
function withoutSigns(page: PageContent, speaking: readonly Phrase[][], gutters: readonly Gutter[]): Gutter[] {
  const isSign = ({ words }: Phrase) => words.every((w) => /^(?:[$€£¥%‰]|[A-Z]{3})$/.test(page.words[w].text));
  const first = speaking.findIndex((phrases) => phrases.some(isSign));
  const operators = besideOperators(page, speaking, gutters);
  if (first < 0) return gutters.filter((_, i) => !operators.includes(i));
  const cuts = [-Infinity, ...gutters.map(({ from, to }) => (from + to) / 2), Infinity];
  const inColumn = (phrases: readonly Phrase[], column: number) => phrases.filter(({ box }) => middleX(box) > cuts[column] && middleX(box) <= cuts[column + 1]);
  const heads = Math.min(first, headingLines);
  const held = cuts.slice(1).map((_, column) => speaking.slice(heads).flatMap((phrases) => inColumn(phrases, column)));
  const headed = (column: number) =>
    speaking.slice(0, heads).some((phrases) => {
      const [own, next] = [inColumn(phrases, column), inColumn(phrases, column + 1)];
      return own.length > 0 && next.some((phrase) => !own.includes(phrase));
    });
  const drop = new Set<number>(operators);
  held.forEach((own, column) => {
    if (own.length === 0 || !own.every(isSign) || own.some(({ words }) => /[A-Z]/.test(page.words[words[0]].text))) return;
    const percent = own.every(({ words }) => /[%‰]/.test(page.words[words[0]].text));
    const width = (gutter: Gutter | undefined) => (gutter ? gutter.to - gutter.from : Infinity);
    // A sign belongs to the nearer amount, a percent sign to the one before it.
    const before = own.every(({ words }) => /[$£¥]/.test(page.words[words[0]].text));
    const toLeft = column > 0 && !before && (percent || (width(gutters[column - 1]) < width(gutters[column]) && held[column - 1].some(({ words }) => isAmount(page.words[words.at(-1)!].text))));
    const at = toLeft ? column - 1 : column;
    if (at < gutters.length && !headed(at)) drop.add(at);
  });
  return gutters.filter((_, i) => !drop.has(i));
}

/** So many lines on top may hold headings. */
const headingLines = 4;

/**
 * Without the gutters between a heading and the figures that it heads, where it stands beside and not above them: one
 * side holds nothing but headings, the other everything but one.
 */
function withoutLoneHeadings(page: PageContent, speaking: readonly Phrase[][], gutters: readonly Gutter[]): Gutter[] {
  if (gutters.length < 2) return [...gutters];
  const joined = ({ words }: Phrase) => words.map((w) => page.words[w].text).join('');
  const first = speaking.findIndex((phrases) => phrases.slice(1).some((phrase) => isAmount(joined(phrase)) && !/^(?:19|20)\d\d$/.test(joined(phrase))));
  const heads = Math.min(first, headingLines);
  if (heads < 1 || speaking.length - heads < 3) return [...gutters];
  const cuts = [-Infinity, ...gutters.map(({ from, to }) => (from + to) / 2), Infinity];
  const count = (from: number, to: number, column: number) => {
    let own = 0;
    for (let i = from; i < to; i++) if (speaking[i].some(({ box }) => middleX(box) > cuts[column] && middleX(box) <= cuts[column + 1])) own++;
    return own;
  };
  const held = cuts.slice(1).map((_, column) => ({ heading: count(0, heads, column) > 0, body: count(heads, speaking.length, column) > 0 }));
  return gutters.filter((_, i) => {
    const [left, right] = [held[i], held[i + 1]];
    return !((left.heading && !left.body && right.body && !right.heading) || (right.heading && !right.body && left.body && !left.heading && i > 0));
  });
}

/**
 * Is a gutter no wider than the spaces inside the texts beside it? Where lines of justified text begin alike, their
 * stretched word spaces fall below each other.
 */
function isWordSpace(page: PageContent, lines: readonly Line[], gutter: Gutter, all: readonly Gutter[]): boolean {
  let parted = 0;
  let doubtful = 0;
  for (const line of lines) {
    const gaps = line.words.slice(1).map((w, i): [from: number, to: number] => [page.words[line.words[i]].box[2], page.words[w].box[0]]);
    const at = gaps.findIndex(([from, to]) => from <= gutter.from + 1 && to >= gutter.to - 1);
    if (at < 0) continue;
    parted++;
    const inTexts = [gaps[at - 1], gaps[at + 1]].filter((gap) => gap && !all.some(({ from, to }) => overlap(gap[0], gap[1], from, to) > 0));
    if (inTexts.some(([from, to]) => to - from > 0.85 * (gaps[at][1] - gaps[at][0]))) doubtful++;
  }
  return doubtful > 0.5 * parted;
}

/** Without the lines on top that hold half of the texts of the rows at most: they head groups of columns and stand across gutters. */
function withoutGroupHeadings(speaking: readonly Phrase[][]): readonly Phrase[][] {
  const most = Math.max(0, ...speaking.map((phrases) => phrases.length));
  const first = speaking.findIndex((phrases) => phrases.length > 0.5 * most);
  return most >= 4 && first > 0 && first <= 2 && speaking.length - first >= 3 ? speaking.slice(first) : speaking;
}

interface Candidate extends Gutter {
  /** The widest part in which no line has any text. */
  readonly clear: Gutter | undefined;
}

/**
 * A gutter into which a few texts reach is cut where it is clear, if those texts only run over the edge of their own
 * column: the other column then has a text of its own in their line. Else they may head both columns.
 * @param left, right where the columns beside the gutter begin and end
 */
function withoutIntruders(speaking: readonly Phrase[][], { from, to, clear }: Candidate, left: number, right: number): Gutter {
  if (!clear || (clear.from === from && clear.to === to)) return { from, to };
  const onlyReachesIn = (phrases: readonly Phrase[]) => {
    const inside = phrases.filter(({ box }) => overlap(box[0], box[2], from, to) > 0);
    return inside.every(({ box }) =>
      box[2] <= clear.from + 0.1
        ? phrases.some((other) => !inside.includes(other) && overlap(other.box[0], other.box[2], to - 1, right) > 0)
        : phrases.some((other) => !inside.includes(other) && overlap(other.box[0], other.box[2], left, from + 1) > 0),
    );
  };
  return speaking.every(onlyReachesIn) ? clear : { from, to };
}

/** So many lines do not begin or end at one place by chance. */
const leastAligned = 3;

/** Do the texts to the right of a stretch all begin at one place, or those to its left all end at one, while the others do not? */
function standsOnEdges(speaking: readonly Phrase[][], { from, to }: Gutter): boolean {
  const lefts = speaking.flatMap((phrases) => phrases.findLast(({ box }) => box[2] <= from + 1)?.box[2] ?? []);
  const rights = speaking.flatMap((phrases) => phrases.find(({ box }) => box[0] >= to - 1)?.box[0] ?? []);
  const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);
  if (lefts.length < leastAligned || rights.length < leastAligned) return false;
  return (spread(rights) <= 0.7 && spread(lefts) > 4) || (spread(lefts) <= 0.7 && spread(rights) > 4);
}

/**
 * Texts that stand alone in a stretch of white space, with texts over the columns on both sides in the same line: the
 * headings of columns that hold nothing else. A heading over both neighbours has no such neighbours of its own.
 */
function headingsOfBlankColumns(speaking: readonly Phrase[][], { from, to }: Gutter, fontSize: number): Box[] {
  const room = 0.6 * fontSize;
  const inside = (box: Box) => box[0] >= from + room && box[2] <= to - room;
  for (const phrases of speaking) {
    const alone = phrases.filter(({ box }) => inside(box)).reduce<Box[]>((joined, { box }) => {
      const last = joined.at(-1);
      return last && box[0] - last[2] < room ? [...joined.slice(0, -1), extend(last, box)] : [...joined, box];
    }, []);
    const left = phrases.findLast(({ box }) => box[2] <= from + 1);
    const right = phrases.find(({ box }) => box[0] >= to - 1);
    const near = (gap: number) => gap <= 1 + room;
    if (alone.length > 0 && left && right && (near(from - left.box[2]) || near(right.box[0] - to))) return alone;
  }
  return [];
}

/** A gutter divides only where some lines have words on both sides of it. */
const bothSidesFilled = (speaking: readonly (readonly Phrase[])[], from: number, to: number) => {
  const middle = (from + to) / 2;
  const both = speaking.filter((phrases) => phrases.some((p) => p.box[2] <= middle + 1) && phrases.some((p) => p.box[0] >= middle - 1));
  return both.length >= Math.min(2, speaking.length);
};

/** Columns of a block: the stretches between the gutters, and the edges on which most texts of each column stand. */
export interface Layout {
  readonly gutters: readonly Gutter[];
  readonly columns: [left: number, right: number][];
  readonly edges: readonly { left?: number; right?: number }[];
  /** Word space in points. */
  readonly space: number;
}

/** Edges within this many points are one edge. */
const aligned = 1.2;

/**
 * The layout of a block of lines, or nothing where no white space runs down through them. Several hypotheses of its
 * columns are judged where the usual one has faults; the one with the fewest is taken.
 */
export function layoutOf(page: PageContent, lines: readonly Line[], left: number, right: number): Layout | undefined {
  return layoutsOf(page, lines, left, right)[0];
}

/** The layouts that the hypotheses give, the one with the fewest faults first, none twice. */
export function layoutsOf(page: PageContent, lines: readonly Line[], left: number, right: number): Layout[] {
  const first = guttersOf(page, lines);
  const judged: { layout: Layout; faults: number }[] = [];
  const add = (gutters: readonly Gutter[]) => {
    if (gutters.length === 0 || judged.some(({ layout }) => sameGutters(layout.gutters, gutters))) return;
    const layout = layoutWith(page, lines, left, right, gutters);
    judged.push({ layout, faults: faultsOf(page, lines, layout) });
  };
  add(first);
  if (judged.length === 0 || judged[0].faults > harmless) for (const tuning of otherTunings) add(guttersOf(page, lines, tuning));
  return judged.sort((a, b) => a.faults - b.faults).map(({ layout }) => layout);
}

const sameGutters = (a: readonly Gutter[], b: readonly Gutter[]) => a.length === b.length && a.every((gutter, i) => gutter.from < b[i].to && b[i].from < gutter.to);

function layoutWith(page: PageContent, lines: readonly Line[], left: number, right: number, gutters: readonly Gutter[]): Layout {
  const cuts = [left, ...gutters.map(({ from, to }) => (from + to) / 2), right];
  const columns = cuts.slice(1).map((cut, i): [number, number] => [cuts[i], cut]);
  const space = spaceOf(page, lines);
  const boxes: Box[][] = columns.map(() => []);
  for (const line of lines)
    for (const { box } of phrasesOf(page, line, 0, usual.closest * space)) {
      const first = leftmost(columns, box);
      if (first === rightmost(columns, box)) boxes[first].push(box);
    }
  const layout: Layout = { gutters, columns, space, edges: boxes.map((own) => ({ left: commonest(own.map((b) => b[0])), right: commonest(own.map((b) => b[2])) })) };
  placedBy.set(layout, new WeakMap(placeHeadings(page, lines, layout, (line) => placeInColumns(page, line, layout))));
  return layout;
}

/** So few faults a cell need no other hypothesis. */
const harmless = 0.01;
/** What the faults of a layout weigh. */
const weights = { amountsInOneCell: 1, gapInCell: 0.5, tornText: 0.7, acrossGutter: 0.6, thinColumn: 1 };

/**
 * The faults of a layout, a cell: two amounts or a wide gap in one cell, a text torn at a gutter, a text across gutters
 * below the headings, a column with a single text.
 */
function faultsOf(page: PageContent, lines: readonly Line[], layout: Layout): number {
  let cells = 0;
  let faults = 0;
  const filled = layout.columns.map(() => 0);
  let rows = 0;
  lines.forEach((line, at) => {
    const own = phrasesInColumns(page, line, layout);
    cells += own.length;
    if (own.length > 1) rows++;
    own.forEach(({ column, columnSpan, words }, i) => {
      filled[column]++;
      if (columnSpan > 1 && own.length > 1 && at > 0) faults += weights.acrossGutter;
      words.slice(1).forEach((w, n) => {
        const [before, after] = [page.words[words[n]], page.words[w]];
        const gap = after.box[0] - before.box[2];
        if (isAmount(before.text) && isAmount(after.text) && gap > 0.8 * layout.space && !areThousands(before.text, after.text)) faults += weights.amountsInOneCell;
        else if (gap > Math.max(2.2 * layout.space, 0.7 * after.fontSize) && columnSpan === 1 && own.length > 1) faults += weights.gapInCell;
      });
      const next = own[i + 1];
      if (!next) return;
      const [last, first] = [page.words[words.at(-1)!], page.words[next.words[0]]];
      if (first.box[0] - last.box[2] < 1.1 * layout.space && (!(isAmount(last.text) && isAmount(first.text)) || areThousands(last.text, first.text)) && at > 0) faults += weights.tornText;
    });
  });
  for (const count of filled) if (count <= 1 && rows > 3) faults += weights.thinColumn;
  return cells === 0 ? Infinity : faults / cells;
}

/** Are two words the parts of one number, its thousands set off by a space? */
const areThousands = (before: string, after: string) => /^\D*\d{1,3}$/.test(before) && /^\d{3}(?:[.,]\d+)?\D*$/.test(after);

const isAmount = (text: string) => /^[^\p{L}]*\d[^\p{L}]*$/u.test(text);

/** The place where at least two in five of the values fall, if any. */
function commonest(values: readonly number[]): number | undefined {
  const order = [...values].sort((a, b) => a - b);
  let best = { value: 0, votes: 0 };
  let [from, to] = [0, 0];
  for (const value of order) {
    while (order[from] < value - aligned) from++;
    while (to < order.length && order[to] <= value + aligned) to++;
    if (to - from > best.votes) best = { value, votes: to - from };
  }
  return best.votes >= Math.max(2, 0.4 * values.length) ? best.value : undefined;
}

/**
 * Puts the words of one band of print into columns. A phrase whose words cross a cut with no more than a word's space
 * between them spans the columns it covers, unless the part beyond the cut stands on its own column's edge.
 */
export function phrasesInColumns(page: PageContent, line: Line, layout: Layout): readonly InColumns[] {
  let known = placedBy.get(layout);
  if (!known) placedBy.set(layout, (known = new WeakMap()));
  let placed = known.get(line);
  if (!placed) known.set(line, (placed = placeInColumns(page, line, layout)));
  return placed;
}

/** Words of a line and the columns that they stand in. */
export interface InColumns {
  readonly column: number;
  readonly columnSpan: number;
  readonly words: readonly number[];
}

/** Lines are asked for again and again while rows are told. */
const placedBy = new WeakMap<Layout, WeakMap<Line, readonly InColumns[]>>();

function placeInColumns(page: PageContent, line: Line, layout: Layout): InColumns[] {
  const { columns, gutters, space: wordSpace } = layout;
  const placed: { column: number; last: number; words: number[]; right: number }[] = [];
  line.words.forEach((word, at) => {
    const { box } = leadsAmount(page, line, at, layout) ? page.words[line.words[at + 1]] : page.words[word];
    const first = leftmost(columns, box);
    const last = rightmost(columns, box);
    const open = placed.at(-1);
    const gutter = open && first === open.last + 1 ? gutters[first - 1] : undefined;
    const space = open ? box[0] - open.right : Infinity;
    const runsOn =
      gutter !== undefined &&
      space <= 1.25 * wordSpace &&
      (space < 0.6 * (gutter.to - gutter.from) || isWholeText(page, line, layout) || standsNearer(page, line, at, space)) &&
      !(standsOnEdge(page, line, at, layout, first) && (space > 1.12 * wordSpace || isAmount(page.words[word].text)));
    const overhangs =
      open !== undefined &&
      first === open.last &&
      open.column < first &&
      (standsOnEdge(page, line, at, layout, first) || (isAmount(page.words[word].text) && space > 1.12 * wordSpace && letters.test(page.words[open.words.at(-1)!].text)));
    const ended = open !== undefined && first === open.last && last > first && endsOnEdge(open.right, layout, open.last) && standsOnEdge(page, line, at, layout, last);
    if (open && overhangs) {
      // The text before only hangs over into a column that has a text of its own.
      open.last = first - 1;
      placed.push({ column: first, last, words: [word], right: box[2] });
    } else if (ended) {
      // Two texts set to the right, the second too wide for its column: each ends where its column does.
      placed.push({ column: last, last, words: [word], right: box[2] });
    } else if (open && (first <= open.last || runsOn)) {
      open.words.push(word);
      open.last = Math.max(open.last, last);
      open.right = Math.max(open.right, box[2]);
    } else {
      placed.push({ column: first, last, words: [word], right: box[2] });
    }
  });
  return placed.map(({ column, last, words, right }) => {
    // A text that ends in the white space before the next column only fills it.
    let end = last;
    while (end > column && right < gutters[end - 1].to - 1 && page.words[words[0]].box[0] < gutters[end - 1].from) end--;
    return { column, columnSpan: end - column + 1, words };
  });
}

/** Is a word of letters clearly nearer to the word before it than to the one after it? */
function standsNearer(page: PageContent, line: Line, at: number, space: number): boolean {
  const [word, next] = [page.words[line.words[at]], page.words[line.words[at + 1]]];
  return letters.test(word.text) && (!next || next.box[0] - word.box[2] > 1.2 * space);
}

/** Does the sign of a currency stand in one column with the amount before it, though it goes with the one after it? */
function leadsAmount(page: PageContent, line: Line, at: number, { columns, space }: Layout): boolean {
  const { text, box } = page.words[line.words[at]];
  const [before, next] = [page.words[line.words[at - 1]], page.words[line.words[at + 1]]];
  if (!before || !next || !isAmount(next.text) || !isAmount(before.text) || rightmost(columns, before.box) !== leftmost(columns, box)) return false;
  return /^[$£¥]$/.test(text) || (text === '€' && box[0] - before.box[2] > 1.5 * space);
}

/** Is the line one text, its words a word space apart? */
const isWholeText = (page: PageContent, line: Line, { space }: Layout) => line.words.length > 1 && phrasesOf(page, line, 0, 1.25 * space).length === 1 && /\p{L}/u.test(page.words[line.words[0]].text);

const endsOnEdge = (x: number, { edges }: Layout, column: number) => edges[column].right !== undefined && Math.abs(x - edges[column].right) <= aligned;

/** Do the words from `at` to the end of `column` stand on the edge on which most texts of the column stand? */
function standsOnEdge(page: PageContent, line: Line, at: number, { columns, edges }: Layout, column: number): boolean {
  const { left, right } = edges[column];
  const start = page.words[line.words[at]].box[0];
  if (left !== undefined && Math.abs(start - left) <= aligned) return true;
  let end = page.words[line.words[at]].box[2];
  for (const word of line.words.slice(at + 1)) {
    const { box } = page.words[word];
    if (leftmost(columns, box) !== column || rightmost(columns, box) !== column) break;
    end = box[2];
  }
  return right !== undefined && Math.abs(end - right) <= aligned;
}

const share = (column: readonly [number, number], box: Box) => overlap(column[0], column[1], box[0], box[2]);

/** The first column that a box stands in by more than a sliver. */
export function leftmost(columns: readonly (readonly [number, number])[], box: Box): number {
  const sliver = Math.min(2, 0.25 * (box[2] - box[0]));
  const at = columns.findIndex((stretch) => share(stretch, box) > sliver);
  return at >= 0 ? at : nearest(columns, box);
}

export function rightmost(columns: readonly (readonly [number, number])[], box: Box): number {
  const sliver = Math.min(2, 0.25 * (box[2] - box[0]));
  const at = columns.findLastIndex((stretch) => share(stretch, box) > sliver);
  return at >= 0 ? at : nearest(columns, box);
}

const nearest = (columns: readonly (readonly [number, number])[], box: Box) =>
  columns.reduce((best, column, i) => (share(column, box) > share(columns[best], box) ? i : best), 0);
