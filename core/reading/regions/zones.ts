// One file, though long: all of it answers whether white space parts two things beside each other, by terms weighed in one sum.
import { around, height, overlap, overlapY, width, type Box } from '../../page/box';
import { linesOf, textOf, type Line } from '../../page/lines';
import type { Fill, PageContent, Rule } from '../../page/page';
import { guttersOf } from '../gutters';
import { isAmount, phrasesOf } from '../phrases';
import { looksNumeric } from '../../values/numeric';
import { isRunningText, phraseGap } from './print';
import type { Strip } from './strips';

/** A part of a strip that is read from top to bottom: things beside each other are zones of their own. */
export interface Zone extends Strip {
  readonly fills: readonly Fill[];
}

/** An alley is at least this many font sizes wide. */
const leastWidth = 1.1;
/** Both sides of an alley have at least so many lines. */
const leastLines = 2;
/** What each line beside an alley adds when the best of several is told. */
const linesCount = 0.08;
/** So much speaks for an alley that parts two things: see `weigh`. */
const enough = 3;

/**
 * Parts a strip where white space runs down between things that do not belong together: two tables, a table and running
 * text (a recursive cut as in Nagy and Seth 1984, with the place of the cut judged by what stands on both sides).
 */
export function zonesOf(page: PageContent, strip: Strip, fills: readonly Fill[]): Zone[] {
  return parted(page, strip.words, strip.rules, fills, 3);
}

function parted(
  page: PageContent,
  words: readonly number[],
  rules: readonly Rule[],
  fills: readonly Fill[],
  depth: number,
): Zone[] {
  const lines = linesOf(page.words, words);
  const alley = depth > 0 ? bestAlley(page, lines, rules, fills) : undefined;
  if (!alley) return words.length > 0 ? [zoneOf(page, words, rules, fills)] : [];
  const { x, from, to } = alley;
  const [above, middle, below] = [lines.slice(0, from), lines.slice(from, to), lines.slice(to)].map((part) =>
    part.flatMap((line) => line.words),
  );
  const top = Math.min(...middle.map((w) => page.words[w].box[1]));
  const bottom = Math.max(...middle.map((w) => page.words[w].box[3]));
  const part = (own: readonly number[], holds: (box: Box) => boolean) =>
    own.length === 0
      ? []
      : parted(
          page,
          own,
          rules.filter((rule) => holds(boxOfRule(rule))),
          fills.filter(({ box }) => holds(box)),
          depth - 1,
        );
  const middleOf = (box: Box) => (box[1] + box[3]) / 2;
  // Rules at the very edge of the parted lines go with them; a rule across the alley belongs to what is above or below.
  const within = (box: Box) =>
    middleOf(box) > top - 12 && middleOf(box) < bottom + 12 && !(box[0] < x - 5 && box[2] > x + 5);
  return [
    ...part(above, (box) => middleOf(box) < top && !(within(box) && middleOf(box) > top - 6)),
    ...part(
      middle.filter((w) => page.words[w].box[2] <= x + 0.5),
      (box) => within(box) && (box[0] + box[2]) / 2 <= x,
    ),
    ...part(
      middle.filter((w) => page.words[w].box[2] > x + 0.5),
      (box) => within(box) && (box[0] + box[2]) / 2 > x,
    ),
    ...part(below, (box) => middleOf(box) > bottom && !(within(box) && middleOf(box) < bottom + 6)),
  ];
}

const boxOfRule = (rule: Rule): Box =>
  rule.direction === 'across' ? [rule.from, rule.at, rule.to, rule.at] : [rule.at, rule.from, rule.at, rule.to];

const zoneOf = (page: PageContent, words: readonly number[], rules: readonly Rule[], fills: readonly Fill[]): Zone => ({
  box: around(words.map((w) => page.words[w].box))!,
  words,
  rules,
  fills,
});

interface Alley {
  readonly x: number;
  /** The lines beside it: from .. to - 1. */
  readonly from: number;
  readonly to: number;
}

/** The alley for which most speaks, if enough does. */
function bestAlley(
  page: PageContent,
  lines: readonly Line[],
  rules: readonly Rule[],
  fills: readonly Fill[],
): Alley | undefined {
  if (lines.length < 3) return undefined;
  let best: (Alley & { weight: number }) | undefined;
  const seen = new Map<string, [number, number][]>();
  for (const x of places(page, lines)) {
    const crossed = (line: Line, before: Line | undefined) =>
      line.words.some((w) => page.words[w].box[0] < x && page.words[w].box[2] > x) ||
      rules.some(
        (rule) =>
          rule.direction === 'across' &&
          rule.from < x - 4 &&
          rule.to > x + 4 &&
          rule.at > (before ? middleY(before) : -Infinity) &&
          rule.at < middleY(line),
      ) ||
      fills.some(
        ({ box }) =>
          box[0] < x - 4 && box[2] > x + 4 && overlapY(box, line.box) > 0.5 * height(line.box) && width(box) > 20,
      );
    let from = 0;
    for (let i = 0; i <= lines.length; i++) {
      if (i < lines.length && !crossed(lines[i], i > from ? lines[i - 1] : undefined)) continue;
      const to = i;
      while (i < lines.length && i - from > 3 && leansOut(lines, i - 1, 1)) i--;
      while (from > 0 && i - from > 3 && leansOut(lines, from, -1)) from++;
      const whole: Alley = { x, from, to: i };
      if (whole.to - whole.from < 3) {
        i = to;
        from =
          i < lines.length && !lines[i].words.some((w) => page.words[w].box[0] < x && page.words[w].box[2] > x)
            ? i
            : i + 1;
        continue;
      }
      for (const alley of [whole, core(page, lines, whole)]) {
        if (alley.to - alley.from < 3) continue;
        // Places in one white space part the lines alike.
        const key = `${alley.from} ${alley.to}`;
        const known = seen.get(key) ?? [];
        if (known.some(([left, right]) => x > left && x < right)) continue;
        const weighed = weigh(page, lines.slice(alley.from, alley.to), x, rules, fills);
        seen.set(key, [...known, [weighed.clear[0], weighed.clear[1]]]);
        const weight =
          weighed.weight < enough
            ? 0
            : weighed.weight -
              (isTied(page, lines, alley, rules) ? tied : 0) -
              (rowsGoOn(page, lines, alley) || goesOnBeside(page, lines, alley, weighed.clear) ? goneOver : 0);
        const worth = (own: Alley & { weight: number }) => own.weight + linesCount * (own.to - own.from);
        if (weight >= enough && (!best || worth({ ...alley, weight }) > worth(best))) best = { ...alley, weight };
        // Lines on one side only go with those beside something, if the whole of it will do.
        if (weight >= enough) break;
      }
      i = to;
      // A line crossed by a rule above it may begin the next run itself.
      from =
        i < lines.length && !lines[i].words.some((w) => page.words[w].box[0] < x && page.words[w].box[2] > x)
          ? i
          : i + 1;
    }
  }
  return best;
}

/** What a rule across the alley, close below or above a line on both sides, speaks against it. */
const tied = 2;

/** Does a rule across the alley hold both sides together, as one under the heading of a wide table does? */
function isTied(page: PageContent, lines: readonly Line[], { x, from, to }: Alley, rules: readonly Rule[]): boolean {
  const hasBoth = (line: Line) =>
    line.words.some((w) => page.words[w].box[2] <= x) && line.words.some((w) => page.words[w].box[0] >= x);
  const across = rules.filter((rule) => rule.direction === 'across' && rule.from < x - 4 && rule.to > x + 4);
  const [first, last] = [lines[from], lines[to - 1]];
  return (
    (hasBoth(last) &&
      to < lines.length &&
      across.some((rule) => rule.at >= last.box[3] - 2 && rule.at < last.box[3] + last.fontSize)) ||
    (hasBoth(first) &&
      from > 0 &&
      across.some((rule) => rule.at <= first.box[1] + 2 && rule.at > first.box[1] - first.fontSize))
  );
}

/** What rows that go on over the alley, outside it, speak against it. */
const goneOver = 2;
/** Edges within this many points are one edge. */
const sameEdge = 1.6;
/** So many texts of a row on the edges of what stands right of the alley are no chance. */
const leastOnEdges = 2;

/** Does the nearest row above or below hold texts on both sides, each on an edge of what stands beside the alley? */
function rowsGoOn(page: PageContent, lines: readonly Line[], { x, from, to }: Alley): boolean {
  const edgesOf = (own: readonly Line[]) => own.flatMap((line) => phrasesOf(page, line, 0.6));
  const beside = edgesOf(lines.slice(from, to)).map(({ box }) => box);
  const measure =
    Math.max(...beside.filter((box) => box[2] <= x + 0.5).map((box) => box[2])) -
    Math.min(...beside.map((box) => box[0]));
  const onEdge = (box: Box) =>
    beside.some((other) => Math.abs(other[0] - box[0]) < sameEdge || Math.abs(other[2] - box[2]) < sameEdge);
  return [
    [from - 1, -1],
    [to, 1],
  ].some(([start, step]) => {
    for (let i = start, n = 0; n < 3 && lines[i]; i += step, n++) {
      const own = edgesOf([lines[i]]);
      const [left, right] = [own.filter(({ box }) => box[0] < x - 2), own.filter(({ box }) => box[0] >= x - 2)];
      if (left.length === 0 || right.length < leastOnEdges) continue;
      return own.every(({ box }) => onEdge(box)) && !left.some(({ words }) => isRunningText(page, words, measure));
    }
    return false;
  });
}

/** Does the line just above or below, close to the alley's, leave another place in the alley's white space clear? Then the alley is longer than this. */
function goesOnBeside(
  page: PageContent,
  lines: readonly Line[],
  { from, to }: Alley,
  clear: readonly [number, number],
): boolean {
  return (
    [
      [from - 1, from],
      [to, to - 1],
    ] as const
  ).some(([outer, inner]) => {
    const [own, next] = [lines[outer], lines[inner]];
    if (!own || Math.max(own.box[1], next.box[1]) - Math.min(own.box[3], next.box[3]) > closely * own.fontSize)
      return false;
    const edges = own.words.map((w) => page.words[w].box).filter((box) => box[2] > clear[0] && box[0] < clear[1]);
    const stops = [clear[0], ...edges.flatMap((box) => [box[0], box[2]]), clear[1]].sort((a, b) => a - b);
    return (
      edges.length > 0 &&
      stops.some(
        (stop, i) =>
          i > 0 &&
          stop - stops[i - 1] > leastWidth * own.fontSize &&
          !edges.some((box) => box[0] < stop - 1 && box[2] > stops[i - 1] + 1),
      )
    );
  });
}

/** Lines of one thing follow each other by less than this many font sizes. */
const closely = 0.8;

/** Lines on one side that follow within so many font sizes go on with what stands there. */
const sameThing = 2.2;

/** The part of an alley that has lines on both sides from its first to its last. */
function core(page: PageContent, lines: readonly Line[], { x, from, to }: Alley): Alley {
  const both = Array.from({ length: to - from }, (_, n) => from + n).filter((i) => {
    const sides = lines[i].words.map((w) => page.words[w].box[2] <= x + 0.5);
    return sides.includes(true) && sides.includes(false);
  });
  let [first, last] = [both[0] ?? from, both.at(-1) ?? from - 1];
  const follows = (i: number) => lines[i].box[1] - lines[i - 1].box[3] < sameThing * lines[i].fontSize;
  while (first > from && both.length > 0 && follows(first)) first--;
  while (last >= 0 && last + 1 < to && follows(last + 1)) last++;
  return { x, from: first, to: last + 1 };
}

/** Does the outermost line of a run stand much nearer to the line outside than to the run? Then it heads or ends what is there. */
function leansOut(lines: readonly Line[], i: number, outwards: 1 | -1): boolean {
  const gap = (upper: Line, lower: Line) => lower.box[1] - upper.box[3];
  const [inner, outer] = [lines[i - outwards], lines[i + outwards]];
  const [within, beyond] =
    outwards === 1 ? [gap(inner, lines[i]), gap(lines[i], outer)] : [gap(lines[i], inner), gap(outer, lines[i])];
  return within > 1.5 * Math.max(beyond, 0) && within > 0.8 * lines[i].fontSize;
}

const middleY = (line: Line) => (line.box[1] + line.box[3]) / 2;

/** Places in gaps of lines, wide enough for an alley, nearly the same ones once. */
function places(page: PageContent, lines: readonly Line[]): number[] {
  const gaps: [number, number][] = [];
  for (const line of lines) {
    const phrases = phrasesOf(page, line, leastWidth);
    for (let i = 1; i < phrases.length; i++) gaps.push([phrases[i - 1].box[2], phrases[i].box[0]]);
  }
  // A side may begin where all its lines do, with nothing beside the lines of the other.
  const starts = new Map<number, number>();
  for (const line of lines)
    for (const { box } of phrasesOf(page, line, leastWidth))
      starts.set(Math.round(box[0]), (starts.get(Math.round(box[0])) ?? 0) + 1);
  const before = [...starts].filter(([, count]) => count >= leastLines).map(([x]) => x - 2);
  const found = [...before, ...gaps.map(([a, b]) => (a + b) / 2)].sort((a, b) => a - b);
  return found.filter((x, i) => i === 0 || x - found[i - 1] > 1.5).slice(0, 120);
}

interface Side {
  readonly lines: readonly Line[];
  readonly box: Box;
}

const sideOf = (page: PageContent, lines: readonly Line[], holds: (word: number) => boolean): Side => {
  const own = lines.flatMap((line): Line[] => {
    const words = line.words.filter(holds);
    return words.length > 0
      ? [{ words, box: around(words.map((w) => page.words[w].box))!, fontSize: line.fontSize }]
      : [];
  });
  return { lines: own, box: around(own.map((line) => line.box)) ?? [0, 0, 0, 0] };
};

/** So many lines without one on the same level tell two things by themselves. */
const hardlyLevel = 0.75;

/** The most that headings, titles and room can add: where less is lacking they need not be looked at. */
const mostOfHeads = 6.5;

/** How much speaks for two things beside each other, left and right of x; `clear` is the white space around x. */
function weigh(
  page: PageContent,
  lines: readonly Line[],
  x: number,
  rules: readonly Rule[],
  fills: readonly Fill[],
): { weight: number; clear: readonly [number, number] } {
  const isLeft = (w: number) => page.words[w].box[2] <= x + 0.5;
  const [L, R] = [sideOf(page, lines, isLeft), sideOf(page, lines, (w) => !isLeft(w))];
  const clear = [L.box[2], R.box[0]] as const;
  const none = { weight: 0, clear };
  const least = Math.min(L.lines.length, R.lines.length);
  const fontSize = lines[0].fontSize;
  const room = clear[1] - clear[0];
  if (least < leastLines || room < leastWidth * fontSize) return none;
  let matched = 0;
  for (const line of lines) {
    const [left, right] = [line.words.find(isLeft), line.words.find((w) => !isLeft(w))];
    if (
      left !== undefined &&
      right !== undefined &&
      Math.abs(page.words[left].baseline - page.words[right].baseline) <= 0.08 * fontSize + 0.3
    )
      matched++;
  }
  const mismatch = 1 - matched / least;
  let weight = 0;
  if (least >= 3) weight += mismatch >= 0.6 ? 3 : mismatch >= 0.35 ? 2 : mismatch <= 0.1 ? -1 : 0;
  if (Math.max(ownMarks(L, rules, fills, x), ownMarks(R, rules, fills, x)) >= 2) weight += 2;
  const isProse = [L, R].map((side) => runningPart(page, side) >= 0.5);
  // Running text with wide gaps in its lines has taken in a part of what stands beside it.
  [L, R].forEach((side, i) => (weight += isProse[i] ? 2 - 3 * gapped(page, side) : 0));
  if (!isProse[1] && !labelled(page, R)) weight -= 3;
  if (!isProse[0] && !labelled(page, L)) weight -= 1;
  if ((isProse[0] && holdsOthers(page, L)) || (isProse[1] && holdsOthers(page, R))) weight -= 2;
  const prose = isProse.some(Boolean);
  if (weight < enough - mostOfHeads) return none;
  const heads = sameHeading(page, L, R);
  const rows = !prose && labelsThenAmounts(page, L) && labelsThenAmounts(page, R);
  if (heads) weight += heads === 'all' && rows ? 3 : 2;
  if (titled(page, L) && titled(page, R)) weight += 1.5;
  if (rows) weight += 1.5;
  if (Math.abs(L.box[3] - R.box[3]) > 2.5 * fontSize || Math.abs(L.box[1] - R.box[1]) > 2.5 * fontSize) weight += 0.5;
  // The gutters within the sides can add one more.
  if (weight < enough - 1) return none;
  const gutters = [L, R].map((side, i) => (isProse[i] ? [] : guttersOf(page, side.lines)));
  const inner = gutters
    .flat()
    .map(({ from, to }) => to - from)
    .sort((a, b) => a - b);
  // A column of labels at other heights than the rows that they name is no table beside these.
  const labels =
    !isProse.some(Boolean) &&
    gutters[0].length === 0 &&
    gutters[1].length > 0 &&
    L.lines.length < 0.7 * R.lines.length &&
    !L.lines.some((line) => line.words.some((w) => isAmount(page.words[w].text)));
  if (labels) weight -= 2;
  const usual = inner[inner.length >> 1] ?? 0;
  // Of tables whose columns nearly touch not every gutter is seen.
  if (!prose && (inner.length < 1 || (inner.length < 2 && weight < enough + 2))) return none;
  if (room >= 2 * fontSize && room >= 1.8 * usual) weight += 1;
  // Lines of which none is level with one on the other side need no more room than columns have.
  if (!heads && room < usual && mismatch < hardlyLevel) weight -= 1;
  return { weight, clear };
}

/** The part of a side's lines that is running text, if it runs on over several lines. */
function runningPart(page: PageContent, { lines, box }: Side): number {
  const runs = lines.map((line) => isRunningText(page, line.words, width(box)));
  let most = 0;
  let run = 0;
  for (const is of runs) {
    run = is ? run + 1 : 0;
    most = Math.max(most, run);
  }
  return most >= 3 ? runs.filter(Boolean).length / lines.length : 0;
}

/** Do texts stand wholly left or right of a side's running text, as a column of the other side does? */
function holdsOthers(page: PageContent, { lines, box }: Side): boolean {
  const running = around(lines.filter((line) => isRunningText(page, line.words, width(box))).map((line) => line.box));
  return (
    running !== undefined &&
    lines.filter((line) =>
      line.words.some(
        (w) =>
          page.words[w].box[2] < running[0] - 0.5 * line.fontSize ||
          page.words[w].box[0] > running[2] + 0.5 * line.fontSize,
      ),
    ).length >= leastLines
  );
}

/** The part of a side's lines that have a wide gap. */
const gapped = (page: PageContent, { lines }: Side) =>
  lines.filter((line) => phrasesOf(page, line, 1.3).length > 1).length / lines.length;

/** Rules across and shaded bands that are as wide as one side and keep to it. */
function ownMarks({ box }: Side, rules: readonly Rule[], fills: readonly Fill[], x: number): number {
  const own = (from: number, to: number) =>
    (to <= x + 1 || from >= x - 1) &&
    overlap(from, to, box[0], box[2]) >= 0.8 * width(box) &&
    to - from < 1.5 * width(box) + 20;
  const across = rules.filter(
    (rule) => rule.direction === 'across' && rule.at > box[1] - 14 && rule.at < box[3] + 14 && own(rule.from, rule.to),
  ).length;
  const bands = fills.filter((fill) => overlapY(fill.box, box) > 0 && own(fill.box[0], fill.box[2])).length;
  return across + bands;
}

/** Do the lines of a side begin with texts, as rows with labels do, with keys that count up, or with keys and texts beside them? */
function labelled(page: PageContent, { lines, box }: Side): boolean {
  const rows = lines
    .map((line) => phrasesOf(page, line, phraseGap))
    .filter(([phrase]) => phrase.box[0] - box[0] < 0.25 * width(box) + 6);
  const texts = rows.map(([{ words }]) => textOf(page.words, words));
  const amounts = texts.filter(looksNumeric);
  const counts = amounts.slice(1).filter((text, i) => Number(text) - Number(amounts[i]) === 1).length;
  const named = rows.filter(([, second]) => second && /\p{L}{3}/u.test(textOf(page.words, second.words))).length;
  return amounts.length <= 0.5 * texts.length || named >= 0.7 * rows.length || counts >= 0.5 * (amounts.length - 1);
}

/** Do both sides have the same headings in one of their first lines, or most of them? */
function sameHeading(page: PageContent, left: Side, right: Side): 'all' | 'most' | undefined {
  const heads = ({ lines }: Side) =>
    lines.slice(0, 3).map((line) => phrasesOf(page, line, 0.6).map(({ words }) => textOf(page.words, words)));
  const parts = heads(left).flatMap((own) =>
    heads(right).map((other) => {
      const shared = own.filter((text) => other.includes(text));
      const most = Math.max(own.length, other.length);
      if (most < 2 || !shared.some((text) => /\p{L}|(?:19|20)\d\d/u.test(text))) return 0;
      return own.length === other.length && own.every((text, i) => text === other[i]) && /\p{L}{3}/u.test(own[0])
        ? 1
        : Math.min(0.9, shared.length / most);
    }),
  );
  const best = Math.max(0, ...parts);
  return best === 1 ? 'all' : best >= 0.6 ? 'most' : undefined;
}

/** Do the lines of a side begin with a text and end with an amount, as the rows of a table by itself do? */
function labelsThenAmounts(page: PageContent, { lines, box }: Side): boolean {
  const rows = lines
    .map((line) => phrasesOf(page, line, 0.6))
    .filter((phrases) => phrases.length > 1 && phrases[0].box[0] - box[0] < 0.2 * width(box) + 6);
  const own = rows.filter(
    (phrases) =>
      /\p{L}{2}/u.test(textOf(page.words, phrases[0].words)) && looksNumeric(textOf(page.words, phrases.at(-1)!.words)),
  );
  return own.length >= 2 && own.length >= 0.5 * lines.length;
}

/** Does a side begin with a lone text at its left edge, with a row of several texts below it? */
function titled(page: PageContent, { lines, box }: Side): boolean {
  if (lines.length < 3) return false;
  const first = phrasesOf(page, lines[0], phraseGap);
  return (
    first.length === 1 &&
    first[0].box[0] - box[0] < 3 &&
    /\p{L}/u.test(textOf(page.words, first[0].words)) &&
    phrasesOf(page, lines[1], phraseGap).length > 1
  );
}
