import { around, overlap, type Box } from '../page/box';
import { textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { leftmost, rightmost, standsOver, type InColumns, type Layout } from './layout';
import { phrasesOf, type Phrase } from './phrases';
import { looksNumeric } from '../values/numeric';

/** More lines than this never head a table. */
const mostLines = 7;
/** Edges and middles within this many points are one. */
const near = 2.2;
/** What it costs, in font sizes off the middle, to leave a column with a heading of its own uncovered, and to cover one without. */
const uncovered = 1.3;
/** The same for a text over one column, off its edges. */
const withinOnly = 1.6;
const needless = 0.7;
const withLabels = 1.5;
const ruled = 4;

const yearLike = /^(?:19|20)\d\d(?:[/–-]\d\d(?:\d\d)?)?(?: \d{1,2},?)?$/;

/** Times and days are names of columns where these hold other numbers. */
const timeOrDay = /^(?:\d{1,2}:\d{2}|\d{1,2}\/\d{1,2}(?:\/\d{2,4})?)$/;

/** Do the numbers of a line count up one by one, as the names of columns may? */
function countsUp(texts: readonly string[]): boolean {
  const numbers = texts.flatMap((text) => (/^\(?\d{1,2}\)?$/.test(text) ? [Number(text.replace(/\D/g, ''))] : []));
  return numbers.length > 1 && numbers.slice(1).every((number, i) => number === numbers[i] + 1);
}

/**
 * Puts the texts of the heading lines over the columns: the lines above the first amount. A text over several columns
 * heads those that a rule below it marks, or in whose middle it stands, so that the texts of a line share the columns
 * among them; texts that stand closely side by side are parted where each keeps to the edge of its own column.
 */
export function placeHeadings(
  page: PageContent,
  lines: readonly Line[],
  layout: Layout,
  place: (line: Line) => readonly InColumns[],
): Map<Line, InColumns[]> {
  const placed = new Map<Line, InColumns[]>();
  const cells = lines.map(place);
  const heads = headingLines(page, cells, layout);
  if (heads === 0 || heads >= lines.length) return placed;
  const body = extentsOf(page, cells.slice(heads), layout);
  // From below, as the headings of single columns tell what those over several can cover.
  for (let i = heads - 1; i >= 0; i--) {
    placed.set(
      lines[i],
      placeLine(
        page,
        lines[i],
        layout,
        body,
        i + 1 < heads ? nearestBelow(lines.slice(i + 1, heads).map((line) => placed.get(line)!)) : undefined,
      ),
    );
  }
  return placed;
}

/** Of several heading lines the uppermost text of each column. */
function nearestBelow(lines: readonly (readonly InColumns[])[]): InColumns[] {
  const found: InColumns[] = [];
  for (const cells of lines)
    for (const cell of cells)
      if (
        !found.some(
          ({ column, columnSpan }) => cell.column < column + columnSpan && column < cell.column + cell.columnSpan,
        )
      )
        found.push(cell);
  return found.sort((a, b) => a.column - b.column);
}

/** How many lines stand above the first that has an amount in a column of amounts. */
function headingLines(page: PageContent, cells: readonly (readonly InColumns[])[], { columns }: Layout): number {
  const texts = cells.map((row) => row.map(({ column, words }) => ({ column, text: textOf(page.words, words) })));
  const amounts = columns.map((_, column) => {
    const own = texts.flatMap((row) => row.filter((cell) => cell.column === column));
    return (
      own.filter(({ text }) => looksNumeric(text) && !/^(?:19|20)\d\d$/.test(text)).length >=
      Math.max(1, 0.4 * own.length)
    );
  });
  const ofTimes = columns.map((_, column) => {
    const own = texts.flatMap((row) => row.filter((cell) => cell.column === column));
    return own.filter(({ text }) => timeOrDay.test(text)).length > 0.34 * own.length;
  });
  const isAmountIn = ({ column, text }: { column: number; text: string }) =>
    amounts[column] && looksNumeric(text) && !yearLike.test(text) && (ofTimes[column] || !timeOrDay.test(text));
  const first = texts.findIndex((row, i) => i > 0 && !countsUp(row.map(({ text }) => text)) && row.some(isAmountIn));
  if (first < 0 || first > mostLines) return 0;
  // The label of the first section stands below the headings.
  let heads = first;
  while (
    heads > 1 &&
    texts[heads - 1].length === 1 &&
    texts[heads - 1][0].column === 0 &&
    texts.slice(0, heads - 1).some((row) => row.length > 1)
  )
    heads--;
  return heads;
}

/** From where to where the texts of each column stand below the heading. */
function extentsOf(
  page: PageContent,
  cells: readonly (readonly InColumns[])[],
  { columns }: Layout,
): (Box | undefined)[] {
  return columns.map((_, column) =>
    around(
      cells.flatMap((row) =>
        row
          .filter((cell) => cell.column === column && cell.columnSpan === 1)
          .flatMap(({ words }) => words.map((w) => page.words[w].box)),
      ),
    ),
  );
}

interface Text {
  readonly words: readonly number[];
  readonly box: Box;
  readonly first: number;
  readonly last: number;
}

function placeLine(
  page: PageContent,
  line: Line,
  layout: Layout,
  body: readonly (Box | undefined)[],
  below: readonly InColumns[] | undefined,
): InColumns[] {
  const { columns, space } = layout;
  const parts = phrasesOf(page, line, 0, 1.25 * space).flatMap((phrase) =>
    partsByEdges(page, phrase, layout, body, below),
  );
  const under = new Map(
    (below ?? []).map((cell): [number, Box] => [cell.column, around(cell.words.map((w) => page.words[w].box))!]),
  );
  const extents = columns.map((stretch, c): Box => {
    const own = [body[c], under.get(c)].filter((box): box is Box => box !== undefined);
    return around(own) ?? [stretch[0], 0, stretch[1], 0];
  });
  const texts = parts.map(({ words, box }): Text => {
    let [first, last] = [leftmost(columns, box), rightmost(columns, box)];
    // A text over narrow print, with nothing below it, only hangs over into the white of the next column that has texts of its own.
    while (below && last > first && !under.has(first) && under.has(last) && box[2] < extents[last][0]) last--;
    while (below && last > first && !under.has(last) && under.has(first) && box[0] > extents[first][2]) first++;
    return { words, box, first, last };
  });
  // What stands over several columns heads each of them.
  const headed = new Set(
    (below ?? []).flatMap(({ column, columnSpan }) => Array.from({ length: columnSpan }, (_, i) => column + i)),
  );
  const single = below === undefined || below.length <= texts.length;
  const groups = single
    ? (oneByOne(texts, extents) ?? texts.map(({ first, last }) => [first, last] as const))
    : (wrappedOver(page, line, texts, extents, below, layout) ??
      sharedByPeriod(
        texts,
        below.map(({ column, words }) => ({ column, text: textOf(page.words, words) })),
        extents,
      ) ??
      shareColumns(page, line, texts, extents, headed));
  return merged(
    texts.map(({ words, box, first, last }, i) => {
      // A single heading wider than its column reaches over a neighbour that has none.
      const [from, to] =
        last > first && groups[i][0] === first && groups[i][1] === last && below === undefined
          ? keeper(box, first, last, extents)
          : groups[i];
      return { column: from, columnSpan: to - from + 1, words };
    }),
  );
}

/** Lines of one text follow each other by at most this many font sizes. */
const widestLeading = 1.5;

/** Texts as many as the columns, or the columns but the labels', one over each where they would get in each other's way. */
function oneByOne(texts: readonly Text[], extents: readonly Box[]): (readonly [number, number])[] | undefined {
  const conflict = texts.slice(1).some(({ first }, i) => first <= texts[i].last);
  const skipped = extents.length - texts.length;
  if (!conflict || texts.length < 3 || skipped < 0 || skipped > 1) return undefined;
  const near = texts.every(({ first, last }, i) => first - 1 <= i + skipped && last + 1 >= i + skipped);
  return near ? texts.map((_, i) => [i + skipped, i + skipped] as const) : undefined;
}

/**
 * The columns of texts that only begin headings which the line below ends; nothing where they do not. Each stands within
 * its column, closely above, on an edge of the text there, with no rule between; and the texts below do not come again
 * over and over, as they do under groups.
 */
function wrappedOver(
  page: PageContent,
  line: Line,
  texts: readonly Text[],
  extents: readonly Box[],
  below: readonly InColumns[],
  layout: Layout,
): (readonly [number, number])[] | undefined {
  const under = below.map(({ column, words }) => ({
    column,
    text: textOf(page.words, words),
    box: around(words.map((w) => page.words[w].box))!,
  }));
  const columns = texts.flatMap(({ first, last, box }) => {
    // One wider than its column stands on the edge of just one text below.
    const ends = under.filter(
      (own) =>
        own.column >= first &&
        own.column <= last &&
        standsOver(box, own.column, layout) &&
        (keepsTo(box, own.box) || (first === last && keepsTo(box, extents[first]))),
    );
    return ends.length === 1 && ends[0].box[3] - line.box[3] <= widestLeading * line.fontSize ? [ends[0].column] : [];
  });
  if (columns.length < texts.length || new Set(columns).size < columns.length) return undefined;
  const ended = under.filter(({ column }) => columns.includes(column));
  const again =
    !ended.every(({ text }) => /^[\p{Ll}\d(]/u.test(text)) &&
    ended.length < under.length &&
    periodOf(under.map(({ text }) => text)) !== undefined;
  const rule = page.rules.some(
    (own) =>
      own.direction === 'across' &&
      own.at > line.box[3] - 2 &&
      own.at < Math.min(...under.map(({ box }) => box[1])) + 2 &&
      texts.some(({ box }) => overlap(own.from, own.to, box[0], box[2]) > 0),
  );
  return again || rule ? undefined : columns.map((column) => [column, column] as const);
}

/** From where on texts come again in their order, and after how many, as headings below groups do; one may follow the last group. */
function periodOf(texts: readonly string[]): { start: number; period: number; groups: number } | undefined {
  for (let start = 0; start < texts.length - 3; start++)
    for (let period = 2; 2 * period <= texts.length - start; period++) {
      const own = texts.slice(start);
      const groups = Math.floor(own.length / period);
      if (
        own.length % period <= 1 &&
        own.slice(0, groups * period).every((text, i) => i < period || text === own[i - period]) &&
        new Set(own.slice(0, period)).size > 1
      )
        return { start, period, groups };
    }
  return undefined;
}

/**
 * The columns of texts that each stand over one group of headings that come again below; nothing where these do not.
 * @param below the headings of the line below, each with its column
 */
export function sharedByPeriod(
  texts: readonly Pick<Text, 'box' | 'first' | 'last'>[],
  below: readonly { readonly column: number; readonly text: string }[],
  extents: readonly Box[],
): (readonly [number, number])[] | undefined {
  const found = periodOf(below.map(({ text }) => text));
  if (!found) return undefined;
  const { start, period } = found;
  // What stands left of the groups heads columns of its own.
  const labels = texts.filter(({ box }) => box[2] < extents[below[start].column][0]);
  const groups = texts.slice(labels.length);
  if (found.groups !== groups.length) return undefined;
  const spans = groups.map((_, i): readonly [number, number] => [
    below[start + i * period].column,
    below[start + (i + 1) * period - 1].column,
  ]);
  const over = spans.every(
    ([from, to], i) => middle(groups[i].box) > extents[from][0] - near && middle(groups[i].box) < extents[to][2] + near,
  );
  return over ? [...labels.map(({ first, last }): readonly [number, number] => [first, last]), ...spans] : undefined;
}

/** Texts in one place of the grid are one cell. */
function merged(cells: readonly InColumns[]): InColumns[] {
  return cells.reduce<InColumns[]>((out, cell) => {
    const last = out.at(-1);
    if (!last || cell.column >= last.column + last.columnSpan) return [...out, cell];
    const end = Math.max(last.column + last.columnSpan, cell.column + cell.columnSpan);
    return [
      ...out.slice(0, -1),
      { column: last.column, columnSpan: end - last.column, words: [...last.words, ...cell.words] },
    ];
  }, []);
}

const middle = (box: Box) => (box[0] + box[2]) / 2;
const keepsTo = (box: Box, extent: Box) =>
  Math.abs(box[0] - extent[0]) < near ||
  Math.abs(box[2] - extent[2]) < near ||
  Math.abs(middle(box) - middle(extent)) < near;

/** The one column to whose edge or middle a wide heading keeps, if there is just one. */
function keeper(box: Box, first: number, last: number, extents: readonly Box[]): readonly [number, number] {
  const kept = Array.from({ length: last - first + 1 }, (_, i) => first + i).filter((column) =>
    keepsTo(box, extents[column]),
  );
  return kept.length === 1 ? [kept[0], kept[0]] : [first, last];
}

/** The texts that a stretch of words is made of: parted at each gutter where both parts keep to their own columns. */
function partsByEdges(
  page: PageContent,
  phrase: Phrase,
  { columns, space }: Layout,
  body: readonly (Box | undefined)[],
  below: readonly InColumns[] | undefined,
): Phrase[] {
  const [first, last] = [leftmost(columns, phrase.box), rightmost(columns, phrase.box)];
  if (first === last || phrase.words.length < 2) return [phrase];
  const parts: { column: number; words: number[] }[] = [];
  for (const word of phrase.words) {
    const { box } = page.words[word];
    const column = columns.reduce(
      (best, own, c) =>
        overlap(own[0], own[1], box[0], box[2]) > overlap(columns[best][0], columns[best][1], box[0], box[2])
          ? c
          : best,
      first,
    );
    const open = parts.at(-1);
    if (open?.column === column) open.words.push(word);
    else parts.push({ column, words: [word] });
  }
  const own = parts.map(({ column, words }) => ({ column, words, box: around(words.map((w) => page.words[w].box))! }));
  const kept = own.filter(({ column, box }) => body[column] && keepsTo(box, body[column])).length;
  const roomy = own.slice(1).every(({ box }, i) => box[0] - own[i].box[2] > 1.12 * space);
  // Nothing stands below the lowest headings that a text could head together.
  const lowest = !(below ?? []).some(({ column, columnSpan }) => column + columnSpan > first && column <= last);
  if (kept === own.length && (roomy || lowest)) return own;
  // As many words as columns, the same again and again: one over each.
  const count = last - first + 1;
  if (
    lowest &&
    phrase.words.length === count &&
    own.length < count &&
    new Set(phrase.words.map((w) => page.words[w].text)).size <= count / 2
  )
    return phrase.words.map((w, i) => ({ words: [w], box: page.words[w].box, column: first + i }));
  const period = phrase.words.length / count;
  const periodic =
    lowest &&
    Number.isInteger(period) &&
    period > 1 &&
    phrase.words.every((w, i) => page.words[w].text === page.words[phrase.words[i % period]].text);
  if (periodic)
    return Array.from({ length: count }, (_, i) => phrase.words.slice(i * period, (i + 1) * period)).map((words) => ({
      words,
      box: around(words.map((w) => page.words[w].box))!,
    }));
  const each = own.length === count && lowest;
  const again = new Set(own.map(({ words }) => textOf(page.words, words))).size < own.length;
  return each && ((roomy && kept >= 0.5 * own.length) || again) ? own : [phrase];
}

/**
 * Shares the columns among the texts of a line that has others below it: by the least sum of how far each text stands
 * from the middle (or left edge) of the columns it gets, and of columns left uncovered.
 * @param headed columns with a text in the line below
 */
export function shareColumns(
  page: PageContent,
  line: Pick<Line, 'box' | 'fontSize'>,
  texts: readonly Pick<Text, 'box' | 'first' | 'last'>[],
  extents: readonly Box[],
  headed: ReadonlySet<number>,
): (readonly [number, number])[] {
  const count = extents.length;
  const rules = page.rules.filter(
    (rule) => rule.direction === 'across' && rule.at > line.box[3] - 3 && rule.at < line.box[3] + 0.9 * line.fontSize,
  );
  /** Does a text lie before the texts of the column to its right and after those of the column to its left? */
  const alone = ({ box, first, last }: (typeof texts)[number], column: number) =>
    first === last &&
    first === column &&
    box[0] > (extents[column - 1]?.[2] ?? -Infinity) &&
    box[2] < (extents[column + 1]?.[0] ?? Infinity);
  // A lone text over the labels heads these alone.
  if (texts.length === 1 && alone(texts[0], 0)) return [[0, 0]];
  const costOf = (text: (typeof texts)[number], from: number, to: number): number => {
    const [left, right] = [extents[from][0], extents[to][2]];
    const off = Math.abs(middle(text.box) - (left + right) / 2);
    const atLeft = Math.abs(text.box[0] - left) + 0.6 * line.fontSize;
    const single =
      from !== to
        ? Infinity
        : keepsTo(text.box, extents[from])
          ? 0
          : alone(text, from)
            ? withinOnly * line.fontSize
            : Infinity;
    // A text in a column that has none below it stands for itself.
    if (to > from && text.first === text.last && !headed.has(text.first) && keepsTo(text.box, extents[text.first]))
      return Infinity;
    const rule = rules.find(
      (own) =>
        own.from <= middle(text.box) &&
        own.to >= middle(text.box) &&
        own.to - own.from < 0.9 * (extents[count - 1][2] - extents[0][0]),
    );
    const inRule = (column: number) =>
      overlap(extents[column][0], extents[column][2], rule!.from, rule!.to) >
      0.5 * (extents[column][2] - extents[column][0]);
    const byRule = !rule
      ? 0
      : Array.from({ length: count }, (_, c) => c).every((c) => inRule(c) === (c >= from && c <= to))
        ? -ruled
        : 0;
    let extra = 0;
    for (let c = from; c <= to; c++) if (!headed.has(c) && to > from) extra += needless;
    // What heads the whole table heads its columns, not the labels beside them.
    if (from === 0 && to - from >= 0.75 * count && headed.has(0)) extra += withLabels;
    return Math.min(off, atLeft, single) / line.fontSize + extra + byRule;
  };
  // best[c]: the texts so far over columns before c, at what cost.
  let best: ({ cost: number; spans: (readonly [number, number])[] } | undefined)[] = [{ cost: 0, spans: [] }];
  function free(from: number, to: number) {
    let cost = 0;
    // Labels at the left need no heading over theirs.
    for (let c = Math.max(1, from); c < to; c++) if (headed.has(c)) cost += uncovered;
    return cost;
  }
  for (const text of texts) {
    const next: typeof best = Array.from({ length: count + 1 }, () => undefined);
    for (let from = 0; from <= text.first; from++)
      for (let to = text.last; to < count; to++) {
        const own = costOf(text, from, to);
        for (let before = 0; before <= from; before++) {
          const so = best[before];
          if (!so) continue;
          const cost = so.cost + free(before, from) + own;
          if (!next[to + 1] || cost < next[to + 1]!.cost) next[to + 1] = { cost, spans: [...so.spans, [from, to]] };
        }
      }
    best = next;
  }
  const ends = best
    .flatMap((own, c) => (own ? [{ spans: own.spans, cost: own.cost + free(c, count) }] : []))
    .sort((a, b) => a.cost - b.cost);
  return ends[0]?.spans ?? texts.map(({ first, last }) => [first, last] as const);
}
