import type { Box } from '../page/box';
import { isBold, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { faultsOf, weighFaults, type Faults } from './faults';
import { guttersOf, otherTunings, usual, type Gutter } from './gutters';
import { placeHeadings } from './headings';
import { leftmost, rightmost, type InColumns, type Layout } from './layout';
import { areThousands, isAmount, letters, phrasesOf, spaceOf } from './phrases';

/** Faults that weigh so little a cell need no other hypothesis. */
const harmless = 0.01;
/** Edges within this many points are one edge. */
const aligned = 1.2;
/** Words further apart than this many word spaces are not of one text. */
const clearGap = 2;

/**
 * The layout of a block of lines, or nothing where no white space runs down through them. Several hypotheses of its
 * columns are judged where the usual one has faults; the one with the fewest is taken.
 */
export function layoutOf(page: PageContent, lines: readonly Line[], left: number, right: number): Layout | undefined {
  return layoutsOf(page, lines, left, right)[0]?.layout;
}

/** A layout and what speaks against it. */
export interface JudgedLayout {
  readonly layout: Layout;
  readonly faults: Faults;
}

/** The layouts that the hypotheses give, the one whose faults weigh least first, none twice. */
export function layoutsOf(page: PageContent, lines: readonly Line[], left: number, right: number): JudgedLayout[] {
  const judged: JudgedLayout[] = [];
  const add = (gutters: readonly Gutter[]) => {
    if (gutters.length === 0 || judged.some(({ layout }) => sameGutters(layout.gutters, gutters))) return;
    const layout = layoutWith(page, lines, left, right, gutters);
    judged.push({
      layout,
      faults: faultsOf(
        page,
        layout,
        lines.map((line) => phrasesInColumns(page, line, layout)),
      ),
    });
  };
  add(guttersOf(page, lines));
  if (judged.length === 0 || weighFaults(judged[0].faults) > harmless)
    for (const tuning of otherTunings) add(guttersOf(page, lines, tuning));
  return judged.sort((a, b) => weighFaults(a.faults) - weighFaults(b.faults));
}

const sameGutters = (a: readonly Gutter[], b: readonly Gutter[]) =>
  a.length === b.length && a.every((gutter, i) => gutter.from < b[i].to && b[i].from < gutter.to);

/** The layout of a block of lines with these gutters between its columns. */
export function layoutWith(
  page: PageContent,
  lines: readonly Line[],
  left: number,
  right: number,
  gutters: readonly Gutter[],
): Layout {
  const cuts = [left, ...gutters.map(({ from, to }) => (from + to) / 2), right];
  const columns = cuts.slice(1).map((cut, i): [number, number] => [cuts[i], cut]);
  const space = spaceOf(page, lines);
  const boxes: Box[][] = columns.map(() => []);
  for (const line of lines)
    for (const { box } of phrasesOf(page, line, 0, usual.closest * space)) {
      const first = leftmost(columns, box);
      if (first === rightmost(columns, box)) boxes[first].push(box);
    }
  const layout: Layout = {
    gutters,
    columns,
    space,
    edges: boxes.map((own) => ({ left: commonest(own.map((b) => b[0])), right: commonest(own.map((b) => b[2])) })),
  };
  placedBy.set(layout, new WeakMap(placeHeadings(page, lines, layout, (line) => placeInColumns(page, line, layout))));
  return layout;
}

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

/** Lines are asked for again and again while rows are told. */
const placedBy = new WeakMap<Layout, WeakMap<Line, readonly InColumns[]>>();

/** So many columns a table has in which a line of one text alone fills no two of them; one less where the line is bold. */
const fewestOfWide = 4;

function placeInColumns(page: PageContent, line: Line, layout: Layout): InColumns[] {
  const { columns, gutters, space: wordSpace } = layout;
  const placed: { column: number; last: number; words: number[]; right: number }[] = [];
  // All that a line of a wide table says is one text: bold print has wider spaces than the plain print around it.
  const isLabel =
    columns.length >= (isBold(page.words, line.words) ? fewestOfWide - 1 : fewestOfWide) &&
    isWholeText(page, line, layout);
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
      (space < 0.6 * (gutter.to - gutter.from) ||
        isWholeText(page, line, layout) ||
        standsNearer(page, line, at, space)) &&
      !(
        standsOnEdge(page, line, at, layout, first) &&
        (gutter.byEdges || (space > 1.12 * wordSpace && !isLabel) || isAmount(page.words[word].text))
      );
    const overhangs =
      !isLabel &&
      open !== undefined &&
      first === open.last &&
      open.column < first &&
      (standsOnEdge(page, line, at, layout, first) ||
        (isAmount(page.words[word].text) &&
          space > 1.12 * wordSpace &&
          letters.test(page.words[open.words.at(-1)!].text)));
    const ended =
      open !== undefined &&
      first === open.last &&
      last > first &&
      endsOnEdge(open.right, layout, open.last) &&
      standsOnEdge(page, line, at, layout, last);
    // A word that only reaches out of its column to the left: with a wide gap before it, or an amount beside another.
    const before = open && page.words[open.words.at(-1)!];
    const twoAmounts =
      before !== undefined &&
      isAmount(page.words[word].text) &&
      isAmount(before.text) &&
      !areThousands(before.text, page.words[word].text);
    const reaches =
      before !== undefined &&
      first === open!.last &&
      last === first + 1 &&
      space > (twoAmounts ? 0.8 : clearGap) * wordSpace &&
      columns[last][0] - box[0] < 0.5 * (box[2] - box[0]);
    // An amount too wide for its column ends where the amounts of that column end, and begins over the column before, also where a text hangs over into that.
    const wide =
      last > first &&
      (!open || open.last < first || overhangs) &&
      isAmount(page.words[word].text) &&
      endsOnEdge(box[2], layout, last) &&
      !standsOnEdge(page, line, at, layout, first);
    if (wide) {
      placed.push({ column: last, last, words: [word], right: box[2] });
    } else if (open && overhangs) {
      // The text before only hangs over into a column that has a text of its own.
      open.last = first - 1;
      placed.push({ column: first, last, words: [word], right: box[2] });
    } else if (ended || reaches) {
      // Two texts, the second too wide for its column: it begins in the first one's, and is none of it.
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
    while (end > column && right < gutters[end - 1].to - 1 && page.words[words[0]].box[0] < gutters[end - 1].from)
      end--;
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
  if (
    !before ||
    !next ||
    !isAmount(next.text) ||
    !isAmount(before.text) ||
    rightmost(columns, before.box) !== leftmost(columns, box)
  )
    return false;
  return /^[$£¥]$/.test(text) || (text === '€' && box[0] - before.box[2] > 1.5 * space);
}

/** Is the line one text, its words a word space apart? */
const isWholeText = (page: PageContent, line: Line, { space }: Layout) =>
  line.words.length > 1 &&
  phrasesOf(page, line, 0, 1.25 * space).length === 1 &&
  /\p{L}/u.test(page.words[line.words[0]].text);

const endsOnEdge = (x: number, { edges }: Layout, column: number) =>
  edges[column].right !== undefined && Math.abs(x - edges[column].right) <= aligned;

/** Do the words from `at` to the end of `column` stand on the edge on which most texts of the column stand? */
function standsOnEdge(page: PageContent, line: Line, at: number, { columns, edges }: Layout, column: number): boolean {
  const { left, right } = edges[column];
  const start = page.words[line.words[at]].box[0];
  if (left !== undefined && Math.abs(start - left) <= aligned) return true;
  let end = page.words[line.words[at]].box[2];
  for (const word of line.words.slice(at + 1)) {
    const { box } = page.words[word];
    // An amount after a text is a value of its own.
    if (
      leftmost(columns, box) !== column ||
      rightmost(columns, box) !== column ||
      (letters.test(page.words[line.words[at]].text) && isAmount(page.words[word].text))
    )
      break;
    end = box[2];
  }
  return right !== undefined && Math.abs(end - right) <= aligned;
}
