// One file, though long: all of it answers which white space parts columns, by terms that share phrases and measures.
import { extend, height, middleX, overlap, overlapY, type Box } from '../page/box';
import type { Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { amountsApart, areThousands, isAmount, phrasesOf, spaceOf, typical, type Phrase } from './phrases';

/** White space that runs down between columns. */
export interface Gutter {
  readonly from: number;
  readonly to: number;
  /** Told by the edges of the texts beside it, and no wider than a word space may be. */
  readonly byEdges?: true;
}

/** How gutters are told: see the hypotheses in `layoutOf`. */
export interface Tuning {
  /** Words no further apart than this many word spaces never stand in two columns. */
  readonly closest: number;
  /** The part of the lines that may cross a gutter. */
  readonly may: number;
  /** How wide a gutter must be that no line crosses: so many font sizes over the number of lines, and so many word spaces. */
  readonly room: number;
  readonly spaces: number;
  /** Edges on which the words of all lines stand part columns too, however narrow the space there is. */
  readonly edges?: boolean;
  /** Amounts side by side are two values, however closely they stand. */
  readonly amountsApart?: boolean;
}

export const usual: Tuning = { closest: 1.1, may: 0.1, room: 1.1, spaces: 1.3 };

/** Other ways to see columns, tried where the usual one leaves several amounts in one cell or texts across gutters. */
export const otherTunings: readonly Tuning[] = [
  { closest: 1.02, may: 0.1, room: 0.2, spaces: 1.08 },
  { closest: 1.1, may: 0.3, room: 0.5, spaces: 1.2 },
  { closest: 1.5, may: 0.1, room: 1.6, spaces: 2 },
  { closest: 1.02, may: 0.1, room: 0.1, spaces: 0.8, amountsApart: true },
  { ...usual, edges: true },
  { closest: 1.02, may: 0.1, room: 0.2, spaces: 1.08, edges: true },
];

/**
 * Finds the gutters of a block of lines by the white space that runs down through them (the projection profile of
 * page segmentation). Lines of one phrase (titles, section labels, notes) have no say; a few lines may cross
 * a gutter, as headings over several columns do. A gutter must be the wider the fewer lines speak for it, because words
 * of few lines leave aligned gaps by chance.
 */
export function guttersOf(page: PageContent, lines: readonly Line[], tuning: Tuning = usual): readonly Gutter[] {
  if (lines.length === 0) return [];
  // Tables grow line by line, and the same lines are asked for again and again.
  let known = foundIn.get(lines[0]);
  if (!known) foundIn.set(lines[0], (known = new Map<string, readonly Gutter[]>()));
  const key = `${otherTunings.indexOf(tuning)} ${lines.map(numberOf).join(' ')}`;
  let found = known.get(key);
  if (!found) known.set(key, (found = findGutters(page, lines, tuning)));
  return found;
}

/** The gutters found among lines, by the first of them, for as long as that is known. */
const foundIn = new WeakMap<Line, Map<string, readonly Gutter[]>>();
const numbers = new WeakMap<Line, number>();
let counted = 0;

function numberOf(line: Line): number {
  let number = numbers.get(line);
  if (number === undefined) numbers.set(line, (number = counted++));
  return number;
}

function findGutters(page: PageContent, lines: readonly Line[], tuning: Tuning): Gutter[] {
  const space = spaceOf(page, lines);
  const phrasesIn = (line: Line) => phrasesOf(page, line, 0, tuning.closest * space);
  const parted = lines.map((line) => (tuning.amountsApart ? amountsApart(page, phrasesIn(line)) : phrasesIn(line)));
  const speaking = withoutGroupHeadings(rowsOf(lines, parted).filter((phrases) => phrases.length > 1));
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
    if (before === 0 && cover > 0 && clearFrom !== undefined && (!clear || x - clearFrom > clear.to - clear.from))
      clear = { from: clearFrom, to: x };
    if (before > may && cover <= may) {
      start = x;
      clear = undefined;
      clearFrom = cover === 0 ? x : undefined;
    } else if (before <= may && cover > may && start !== undefined) {
      const islands = headingsOfBlankColumns(speaking, { from: start, to: x }, fontSize);
      if (islands.length > 0) {
        const edges = [start, ...islands.flatMap((box) => [box[0], box[2]]), x];
        for (let i = 0; i < edges.length; i += 2) gutters.push({ from: edges[i], to: edges[i + 1], clear: undefined });
      } else if (
        clear &&
        x < last &&
        (clear.to - clear.from >= free ||
          (clear.to - clear.from >= tuning.spaces * space && standsOnEdges(speaking, clear)))
      )
        gutters.push({ from: start, to: x, clear });
      else if (x - start >= crossed && x < last) gutters.push({ from: start, to: x, clear: undefined });
      start = undefined;
    }
  }
  const refined = gutters.map((gutter, i) =>
    withoutIntruders(speaking, gutter, gutters[i - 1]?.to ?? -Infinity, gutters[i + 1]?.from ?? Infinity),
  );
  const filled = refined.filter(({ from, to }) => bothSidesFilled(speaking, from, to));
  const clean = filled.filter((gutter) => !isWordSpace(page, lines, gutter, filled));
  const all = tuning.edges
    ? [...clean, ...guttersByEdges(page, lines, clean, narrowest * space)].sort((a, b) => a.from - b.from)
    : clean;
  return withoutSigns(page, speaking, withoutLoneHeadings(page, speaking, all));
}

/** A gutter told by edges alone is at least so many word spaces wide. */
const narrowest = 0.7;

/** Gutters, apart from those known, that no word of lines of several words crosses and on which texts stand with their edges. */
function guttersByEdges(page: PageContent, lines: readonly Line[], known: readonly Gutter[], least: number): Gutter[] {
  const rows = lines.flatMap(({ words }) => (words.length > 1 ? [words.map((w) => page.words[w].box)] : []));
  const stretches = rows.flat().sort((a, b) => a[0] - b[0]);
  const found: Gutter[] = [];
  let reached = Infinity;
  for (const [left, , right] of stretches) {
    const stretch = { from: reached, to: left, byEdges: true as const };
    if (left - reached >= least && !known.some(({ from, to }) => overlap(from, to, reached, left) > 0)) {
      const pairs = rows.flatMap((boxes) => {
        const at = boxes.findIndex((box) => box[0] >= stretch.to - 0.1);
        return at > 0 ? [[boxes[at - 1], boxes[at]] as const] : [];
      });
      if (pairs.length >= 0.6 * rows.length && areOnEdges(pairs)) found.push(stretch);
    }
    reached = reached === Infinity ? right : Math.max(reached, right);
  }
  return found;
}

/** Lines overlap in height by more than this part of one, where they stand beside each other in one row. */
const beside = 0.25;

/** The phrases of lines, those together that stand beside each other at different heights of one row. */
function rowsOf(lines: readonly Line[], phrases: readonly (readonly Phrase[])[]): Phrase[][] {
  const rows: Phrase[][] = [];
  lines.forEach((line, i) => {
    const above = lines[i - 1];
    const [first, last] = [phrases[i][0], phrases[i].at(-1)];
    const joins =
      above &&
      first &&
      last &&
      overlapY(above.box, line.box) > beside * height(line.box) &&
      rows.at(-1)!.every(({ box }) => phrases[i].every((own) => overlap(box[0], box[2], own.box[0], own.box[2]) <= 0));
    if (joins) rows.at(-1)!.push(...phrases[i]);
    else rows.push([...phrases[i]]);
  });
  for (const row of rows) row.sort((a, b) => a.box[0] - b.box[0]);
  return rows;
}

/** Gutters beside a column of one and the same operator, as formulas under each other have it: no column either. */
function besideOperators(page: PageContent, speaking: readonly Phrase[][], gutters: readonly Gutter[]): number[] {
  const isOperator = ({ words }: Phrase) => words.length === 1 && /^[=:<>≤≥→+×]$/.test(page.words[words[0]].text);
  if (!speaking.some((phrases) => phrases.some(isOperator))) return [];
  const cuts = [-Infinity, ...gutters.map(({ from, to }) => (from + to) / 2), Infinity];
  return cuts.slice(1).flatMap((_, column) => {
    const own = speaking.flatMap((phrases) =>
      phrases.filter(({ box }) => middleX(box) > cuts[column] && middleX(box) <= cuts[column + 1]),
    );
    const operator = own.length >= 3 && own.filter(isOperator).length >= 0.8 * own.length;
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
  const inColumn = (phrases: readonly Phrase[], column: number) =>
    phrases.filter(({ box }) => middleX(box) > cuts[column] && middleX(box) <= cuts[column + 1]);
  const heads = Math.min(first, headingLines);
  const held = cuts.slice(1).map((_, column) => speaking.slice(heads).flatMap((phrases) => inColumn(phrases, column)));
  const headed = (column: number) =>
    speaking.slice(0, heads).some((phrases) => {
      const [own, next] = [inColumn(phrases, column), inColumn(phrases, column + 1)];
      return own.length > 0 && next.some((phrase) => !own.includes(phrase));
    });
  const drop = new Set<number>(operators);
  held.forEach((own, column) => {
    if (own.length === 0 || !own.every(isSign) || own.some(({ words }) => /[A-Z]/.test(page.words[words[0]].text)))
      return;
    const percent = own.every(({ words }) => /[%‰]/.test(page.words[words[0]].text));
    const width = (gutter: Gutter | undefined) => (gutter ? gutter.to - gutter.from : Infinity);
    // A sign belongs to the nearer amount, a percent sign to the one before it.
    const before = own.every(({ words }) => /[$£¥]/.test(page.words[words[0]].text));
    const toLeft =
      column > 0 &&
      !before &&
      (percent ||
        (width(gutters[column - 1]) < width(gutters[column]) &&
          held[column - 1].some(({ words }) => isAmount(page.words[words.at(-1)!].text))));
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
  const counts = (phrases: readonly Phrase[]) =>
    phrases.length > 2 &&
    phrases.every((phrase, i) => i === 0 || Number(joined(phrase)) === Number(joined(phrases[i - 1])) + 1);
  const first = speaking.findIndex(
    (phrases) =>
      !counts(phrases) &&
      phrases.slice(1).some((phrase) => isAmount(joined(phrase)) && !/^(?:19|20)\d\d$/.test(joined(phrase))),
  );
  const heads = Math.min(first, headingLines);
  if (heads < 1 || speaking.length - heads < 3) return [...gutters];
  const cuts = [-Infinity, ...gutters.map(({ from, to }) => (from + to) / 2), Infinity];
  const count = (from: number, to: number, column: number) => {
    let own = 0;
    for (let i = from; i < to; i++)
      if (speaking[i].some(({ box }) => middleX(box) > cuts[column] && middleX(box) <= cuts[column + 1])) own++;
    return own;
  };
  const held = cuts
    .slice(1)
    .map((_, column) => ({ heading: count(0, heads, column) > 0, body: count(heads, speaking.length, column) > 0 }));
  return gutters.filter((_, i) => {
    const [left, right] = [held[i], held[i + 1]];
    return !(
      (left.heading && !left.body && right.body && !right.heading) ||
      (right.heading && !right.body && left.body && !left.heading && i > 0)
    );
  });
}

/**
 * Is a gutter no wider than the spaces inside the texts beside it? Where lines of justified text begin alike, their
 * stretched word spaces fall below each other.
 */
function isWordSpace(page: PageContent, lines: readonly Line[], gutter: Gutter, all: readonly Gutter[]): boolean {
  let parted = 0;
  let doubtful = 0;
  for (const { words } of lines) {
    const from = (gap: number) => page.words[words[gap]].box[2];
    const to = (gap: number) => page.words[words[gap + 1]].box[0];
    let at = 0;
    while (at < words.length - 1 && !(from(at) <= gutter.from + 1 && to(at) >= gutter.to - 1)) at++;
    if (at >= words.length - 1) continue;
    parted++;
    const [left, right] = [page.words[words[at]].text, page.words[words[at + 1]].text];
    if (isAmount(left) && isAmount(right) && !areThousands(left, right)) continue;
    const isInText = (gap: number) =>
      gap >= 0 && gap < words.length - 1 && !all.some((each) => overlap(from(gap), to(gap), each.from, each.to) > 0);
    const isAsWide = (gap: number) => to(gap) - from(gap) > 0.85 * (to(at) - from(at));
    if ([at - 1, at + 1].some((gap) => isInText(gap) && isAsWide(gap))) doubtful++;
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
function withoutIntruders(
  speaking: readonly Phrase[][],
  { from, to, clear }: Candidate,
  left: number,
  right: number,
): Gutter {
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

/** Do the texts beside a stretch stand on its edges? See `areOnEdges`. */
function standsOnEdges(speaking: readonly Phrase[][], { from, to }: Gutter): boolean {
  return areOnEdges(
    speaking.flatMap((phrases) => {
      const [left, right] = [
        phrases.findLast(({ box }) => box[2] <= from + 1),
        phrases.find(({ box }) => box[0] >= to - 1),
      ];
      return left && right ? [[left.box, right.box] as const] : [];
    }),
  );
}

/** So many lines do not begin or end at one place by chance. */
const leastAligned = 3;
/** Edges that lie further apart than this, in points, are not one edge. */
const uneven = 2;
/** A few of them, as headings, may stand elsewhere. */
const mostAligned = 0.8;

/**
 * Are texts side by side two columns by their edges alone: most of those to the right begin at one place, or most of
 * those to the left end at one, while the others do not? The spaces within one text do not fall below each other like that.
 */
export function areOnEdges(pairs: readonly (readonly [left: Box, right: Box])[]): boolean {
  if (pairs.length < leastAligned) return false;
  const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);
  const onOne = (edge: (pair: readonly [Box, Box]) => number) => {
    const order = pairs.map(edge).sort((a, b) => a - b);
    const middle = order[order.length >> 1];
    return pairs.filter((pair) => Math.abs(edge(pair) - middle) <= 0.7);
  };
  const least = Math.max(leastAligned, mostAligned * pairs.length);
  const [begin, end] = [onOne(([, right]) => right[0]), onOne(([left]) => left[2])];
  if (begin.length >= least && spread(begin.map(([left]) => left[2])) > uneven) return true;
  if (end.length >= least && spread(end.map(([, right]) => right[0])) > uneven) return true;
  // Both inner edges are straight, and neither of the outer ones: one text would have at least one of these straight.
  const both = begin.filter((pair) => end.includes(pair));
  return (
    both.length >= Math.max(4, mostAligned * pairs.length) &&
    spread(both.map(([left]) => left[0])) > 4 &&
    spread(both.map(([, right]) => right[2])) > 1.5
  );
}

/**
 * Texts that stand alone in a stretch of white space, with texts over the columns on both sides in the same line: the
 * headings of columns that hold nothing else. A heading over both neighbours has no such neighbours of its own.
 */
function headingsOfBlankColumns(speaking: readonly Phrase[][], { from, to }: Gutter, fontSize: number): Box[] {
  const room = 0.6 * fontSize;
  const inside = (box: Box) => box[0] >= from + room && box[2] <= to - room;
  for (const phrases of speaking) {
    const alone = phrases
      .filter(({ box }) => inside(box))
      .reduce<Box[]>((joined, { box }) => {
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
  const both = speaking.filter(
    (phrases) => phrases.some((p) => p.box[2] <= middle + 1) && phrases.some((p) => p.box[0] >= middle - 1),
  );
  return both.length >= Math.min(2, speaking.length);
};
