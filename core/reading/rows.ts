// One file, though long: all of it answers which lines of print make a row, by terms that share their measures.
import { around, extend, height, middleY, overlap, overlapY, width, type Box } from '../page/box';
import { isBold, textOf, type Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesInColumns } from './columns';
import { standsOver, type InColumns, type Layout } from './layout';
import { rowsAtLevel } from './levels';
import { isDateInNumbers, isDateWithoutYear, isWholeDate } from '../values/date-texts';
import { looksNumeric } from '../values/numeric';

/** A row of a table: one line of print or several that belong together. */
export interface Band {
  box: Box;
  lines: Line[];
}

/** Rows between drawn lines or shading: every line of print goes to the band that holds its middle. */
export function bandsBetween(lines: readonly Line[], cuts: readonly number[]): Band[] {
  const bands = cuts.slice(1).map((cut, i): Band => ({ box: [-Infinity, cuts[i], Infinity, cut], lines: [] }));
  for (const line of lines) {
    const middle = (line.box[1] + line.box[3]) / 2;
    const band =
      bands.find((b) => middle >= b.box[1] && middle < b.box[3]) ?? (middle < cuts[0] ? bands[0] : bands.at(-1));
    band?.lines.push(line);
  }
  return bands.filter((band) => band.lines.length > 0);
}

/** Lines of one text follow each other by at most this many font sizes; rows of a table are set wider. */
const widestLeading = 1.5;
/** A line follows more closely than rows do below this part of their distance, and less closely above the other. */
const closer = 0.88;
const wider = 1.06;
/** So much must speak for a line going on in the row above: see `speaksForGoingOn`. */
const enough = 2;

/**
 * Rows from lines of print. A line goes on in the row above when enough speaks for it: it follows more closely than rows
 * do, its words had found no room on the line above, it begins in lower case, it holds few cells and no amount. Two
 * amounts in one column are two rows, and so are lines with a rule between them. When in doubt lines stay rows of their own.
 */
export function bandsByLeading(
  page: PageContent,
  all: readonly Line[],
  layout: Layout,
  rules: readonly number[] = [],
): Band[] {
  const between = linesBetween(page, all, layout);
  const lines = all.filter((line) => !between.has(line));
  const ofAmounts = columnsOfAmounts(page, lines, layout);
  const print = lines.map((line): PrintedLine => ({
    line,
    cells: phrasesInColumns(page, line, layout),
    amounts: new Set([...amountColumns(page, line, layout)].filter((column) => ofAmounts.has(column))),
  }));
  const clusters = clustersOf(page, all, layout, ofAmounts, rules) ?? atLevel(page, all, layout, ofAmounts, rules);
  if (clusters) return clusters;
  const measures = measuresOf(page, print, layout, ofAmounts);
  const bands: OpenBand[] = [];
  print.forEach((own, i) => {
    const open = bands.at(-1);
    const raised = open && overlapY(open.box, own.line.box) > 0.3 * height(own.line.box);
    const ruled = open && rules.some((at) => at > open.box[3] - 1.5 && at < own.line.box[1] + 1.5);
    if (open && (raised || (!ruled && speaksForGoingOn(page, open, print, i, measures, layout) >= enough))) {
      join(open, own.line);
      own.amounts.forEach((column) => open.amounts.add(column));
      open.print.push(own);
    } else bands.push({ box: own.line.box, lines: [own.line], amounts: new Set(own.amounts), print: [own] });
  });
  for (const [line, above] of between)
    join(
      bands.find((band) => band.lines.includes(above))!,
      line,
    );
  const rows = joinHeadings(page, bands, layout, rules);
  const isValue = ({ column, words }: InColumns) =>
    ofAmounts.has(column) &&
    looksNumeric(textOf(page.words, words)) &&
    !words.some((w) => isYear.test(page.words[w].text));
  const heads = rows.findIndex((band) => band.lines.some((line) => phrasesInColumns(page, line, layout).some(isValue)));
  return rows.flatMap((band, i) => (i < heads ? withUnitsApart(page, band, layout) : [band]));
}

const isYear = /^(?:19|20)\d\d$/;

/** Room between rows is wider than between lines of one row by this much at least. */
const clearlyWider = 1.2;

/**
 * Rows told by room alone: where the lines stand in clusters, each with the amounts of one row, whatever the height in
 * the row at which these stand. Nothing where the clusters are not so, or no cluster has several lines.
 */
function clustersOf(
  page: PageContent,
  lines: readonly Line[],
  layout: Layout,
  ofAmounts: ReadonlySet<number>,
  rules: readonly number[],
): Band[] | undefined {
  if (lines.length < 4) return undefined;
  const gaps = lines.slice(1).map((line, i) => line.box[3] - lines[i].box[3]);
  const order = [...gaps].sort((a, b) => a - b);
  const fontSize = lines[lines.length >> 1].fontSize;
  const cuts = order.flatMap((gap, i) =>
    i > 0 &&
    order[i - 1] > 0 &&
    order[i - 1] <= widestLeading * fontSize &&
    gap > clearlyWider * order[i - 1] &&
    gap > fontSize
      ? [(gap + order[i - 1]) / 2]
      : [],
  );
  for (const cut of cuts.reverse()) {
    const bands = clustersAt(page, lines, gaps, cut, layout, ofAmounts, rules);
    if (bands) return bands;
  }
  return undefined;
}

function clustersAt(
  page: PageContent,
  lines: readonly Line[],
  gaps: readonly number[],
  cut: number,
  layout: Layout,
  ofAmounts: ReadonlySet<number>,
  rules: readonly number[],
): Band[] | undefined {
  const bands: Band[] = [];
  lines.forEach((line, i) => {
    const ruled = i > 0 && rules.some((at) => at > lines[i - 1].box[3] - 1.5 && at < line.box[1] + 1.5);
    if (i > 0 && gaps[i - 1] < cut && !ruled) join(bands.at(-1)!, line);
    else bands.push({ box: line.box, lines: [line] });
  });
  const several = bands.filter((band) => band.lines.length > 1);
  if (bands.length < 3 || several.length < Math.max(2, 0.2 * bands.length)) return undefined;
  const amountsIn = (band: Band) =>
    band.lines.map((line) => [...amountColumns(page, line, layout)].filter((column) => ofAmounts.has(column)));
  let full = 0;
  for (const band of bands) {
    const found = amountsIn(band).flat();
    if (new Set(found).size < found.length) return undefined;
    if (holdsSeveralKeys(page, band.lines, layout)) return undefined;
    if (found.length > 0) full++;
  }
  if (ofAmounts.size === 0 || full < 0.75 * bands.length) return undefined;
  // Where the amounts stand on the first line the terms of going on tell as much, and headings besides.
  const middles = bands.filter((band) => amountsIn(band).findIndex((own) => own.length > 0) > 0).length;
  if (middles < 0.2 * bands.length) return undefined;
  return withHeadings(page, bands, layout, ofAmounts);
}

/** Bands, those above the first amount told as headings are. */
function withHeadings(
  page: PageContent,
  bands: readonly Band[],
  layout: Layout,
  ofAmounts: ReadonlySet<number>,
): Band[] {
  const heads = bands.findIndex((band) =>
    band.lines.some((line) => [...amountColumns(page, line, layout)].some((column) => ofAmounts.has(column))),
  );
  const above = bands.slice(0, heads).flatMap((band) => band.lines);
  return [...(above.length > 0 ? headingRows(page, above, layout) : []), ...bands.slice(heads)];
}

/** Rows whose texts do not stand at the top of them. */
function atLevel(
  page: PageContent,
  lines: readonly Line[],
  layout: Layout,
  ofAmounts: ReadonlySet<number>,
  rules: readonly number[],
): Band[] | undefined {
  const parted = (i: number) => rules.some((at) => at > lines[i - 1].box[3] - 1.5 && at < lines[i].box[1] + 1.5);
  const counts = rowsAtLevel(page, lines, layout, ofAmounts, parted);
  if (!counts) return undefined;
  let from = 0;
  const bands = counts.map((count): Band => {
    const own = lines.slice(from, (from += count));
    return { box: around(own.map((line) => line.box))!, lines: own };
  });
  return withHeadings(page, bands, layout, ofAmounts);
}

interface PrintedLine {
  readonly line: Line;
  readonly cells: readonly InColumns[];
  readonly amounts: ReadonlySet<number>;
}

interface OpenBand extends Band {
  readonly amounts: Set<number>;
  readonly print: PrintedLine[];
}

/** What is usual in a block of lines. */
interface Measures {
  /** Distance of baselines from row to row, where rows are sure: lines that have amounts in one column. */
  readonly pitch: number | undefined;
  /** The least distance of baselines. */
  readonly tightest: number;
  /** Do some lines follow more closely than the others, as wrapped text between rows does? */
  readonly wraps: boolean;
  /** The widest text of each column. */
  readonly widest: readonly number[];
  readonly ofAmounts: ReadonlySet<number>;
}

const pitchOf = (upper: Line, lower: Line) => lower.box[3] - upper.box[3];

function measuresOf(
  page: PageContent,
  print: readonly PrintedLine[],
  layout: Layout,
  ofAmounts: ReadonlySet<number>,
): Measures {
  const gaps = print.slice(1).map(({ line }, i) => pitchOf(print[i].line, line));
  const sure = gaps
    .filter((_, i) => [...print[i + 1].amounts].some((column) => print[i].amounts.has(column)))
    .sort((a, b) => a - b);
  const tightest = Math.min(...gaps);
  return {
    ofAmounts,
    pitch: sure.length >= 2 ? sure[sure.length >> 1] : undefined,
    tightest,
    wraps: gaps.length >= 2 && gaps.filter((gap) => gap > 1.2 * tightest).length >= 0.3 * gaps.length,
    widest: layout.columns.map((_, column) =>
      Math.max(
        0,
        ...print.flatMap(({ cells }) =>
          cells
            .filter((cell) => cell.column === column && cell.columnSpan === 1)
            .map((cell) => width(boxOf(page, cell.words))),
        ),
      ),
    ),
  };
}

const boxOf = (page: PageContent, words: readonly number[]) => around(words.map((w) => page.words[w].box))!;

/** Is a text set smaller or lighter than the one above it, as a description is below a name? */
const isSubordinate = (page: PageContent, words: readonly number[], above: readonly number[]) =>
  page.words[words[0]].fontSize < 0.97 * page.words[above[0]].fontSize ||
  (isBold(page.words, above) && !isBold(page.words, words));

/** Does a text end what the one above it in its column had opened in brackets? */
const closesBracket = (page: PageContent, above: readonly InColumns[], cells: readonly InColumns[]): boolean =>
  cells.some(({ column, words }) => {
    const before = above.find((cell) => cell.column === column);
    return (
      before !== undefined &&
      /\([^)]*$/.test(textOf(page.words, before.words)) &&
      /^[^(]*\)/.test(textOf(page.words, words))
    );
  });

/** Does a line beside a blank first column say the time of the date above it? */
const saysTheTime = (page: PageContent, above: readonly InColumns[], cells: readonly InColumns[]): boolean =>
  cells[0].column > 0 &&
  cells.some(({ column, words }) => {
    const before = above.find((cell) => cell.column === column);
    return (
      before !== undefined && isDate(textOf(page.words, before.words)) && timeOfDay.test(textOf(page.words, words))
    );
  });

/** Do the amounts of a line stand under nothing but signs of currency, which found no room beside them? */
const followsCurrency = (page: PageContent, above: readonly InColumns[], cells: readonly InColumns[]): boolean =>
  cells.every(({ column, words }) => {
    const before = above.find((cell) => cell.column === column);
    return (
      before !== undefined &&
      /^\p{Sc}$/u.test(textOf(page.words, before.words)) &&
      looksNumeric(textOf(page.words, words))
    );
  });

/** How much speaks for a line going on in the row above it; see the terms. */
function speaksForGoingOn(
  page: PageContent,
  open: OpenBand,
  print: readonly PrintedLine[],
  i: number,
  { pitch, tightest, wraps, widest, ofAmounts }: Measures,
  layout: Layout,
): number {
  const { line, cells, amounts } = print[i];
  const above = print[i - 1];
  if ([...amounts].some((column) => open.amounts.has(column))) return -Infinity;
  const distance = pitchOf(above.line, line);
  if (distance > widestLeading * Math.max(line.fontSize, above.line.fontSize)) return -Infinity;
  if (cells.some(({ columnSpan }) => columnSpan > 1) && layout.columns.length > 2) return -Infinity;
  if (
    closesBracket(page, above.cells, cells) ||
    saysTheTime(page, above.cells, cells) ||
    followsCurrency(page, above.cells, cells)
  )
    return enough;
  // A line that fills all columns below one that does is a row, whatever its texts look like.
  const filled = layout.columns.length;
  if (
    filled > 2 &&
    cells.length === filled &&
    above.cells.length === filled &&
    !/^\p{Ll}/u.test(page.words[cells[0].words[0]].text)
  )
    return -Infinity;
  const inRow = (column: number) => open.print.some((own) => own.cells.some((cell) => cell.column === column));
  const labelOnly = open.print.every((own) => own.cells.length === 1 && own.cells[0].column === 0);
  const lower = cells.every(
    ({ column, words }) =>
      /^\p{Ll}/u.test(page.words[words[0]].text) ||
      (!ofAmounts.has(column) && /^[\d(]/.test(page.words[words[0]].text)),
  );
  let weight = 0;
  if (pitch !== undefined) weight += distance < closer * pitch ? 2 : distance > wider * pitch ? -2 : 0;
  else if (wraps && distance <= 1.12 * tightest) weight += 2;
  weight += nearer(print, i, distance);
  // The label of a row may be wrapped with the amounts on its last line.
  if (labelOnly) {
    const same = isBold(page.words, open.print[0].cells[0].words) === isBold(page.words, cells[0].words);
    return cells[0].column === 0 && lower && same ? weight + 2 : -Infinity;
  }
  if (amounts.size > 0) weight -= 2;
  if (cells.length > 0.5 * layout.columns.length && layout.columns.length > 2) weight -= 1;
  if (cells.length === layout.columns.length) weight -= 2;
  if (lower) weight += 1;
  for (const { column, words } of cells) {
    if (!inRow(column)) {
      weight -= 1;
      continue;
    }
    const before = above.cells.find((cell) => cell.column === column && cell.columnSpan === 1);
    if (!before || widest[column] < leastMeasure * line.fontSize) continue;
    if (isSubordinate(page, words, before.words)) {
      weight += 0.5;
      continue;
    }
    const needed = width(boxOf(page, before.words)) + layout.space + width(page.words[words[0]].box);
    weight +=
      needed > widest[column] - 0.5 ? (column === 0 && !lower ? 0.6 : 1) : needed < 0.8 * widest[column] ? -1 : 0;
    if (column === 0 && isBold(page.words, words) && !isBold(page.words, before.words)) weight -= 1;
  }
  // A line beside a blank first column goes on more readily than one that may be a key.
  if (
    cells[0].column > 0 &&
    cells.every(({ column, words }) => inRow(column) && !looksNumeric(textOf(page.words, words)))
  )
    weight += 1;
  return weight;
}

/** The rows of lines that are known to be headings. */
export function headingRows(page: PageContent, all: readonly Line[], layout: Layout): Band[] {
  const between = linesBetween(page, all, layout);
  const lines = all.filter((line) => !between.has(line));
  const print = lines.map((line): PrintedLine => ({
    line,
    cells: phrasesInColumns(page, line, layout),
    amounts: new Set(),
  }));
  const rows = joinHeadings(
    page,
    print.map((own) => ({ box: own.line.box, lines: [own.line], amounts: new Set<number>(), print: [own] })),
    layout,
    [],
    true,
  );
  for (const [line, above] of between)
    join(
      rows.find((band) => band.lines.includes(above))!,
      line,
    );
  return rows;
}

/** What a column is given in: in brackets, a percent sign, a short unit. */
const isUnit = (text: string) => /^(?:[([].{1,14}[)\]]|%|‰|[$€£]|\p{L}{1,3}(?:\/\p{L}{1,2})?)$/u.test(text);

/** A last line of nothing but units, below headings on the first line, or of numbers that count the columns, is a row of its own. */
export function withUnitsApart(page: PageContent, band: Band, layout: Layout): Band[] {
  const lines = [...band.lines].sort((a, b) => a.box[3] - b.box[3]);
  const cells = lines.map((line) => phrasesInColumns(page, line, layout));
  const last = cells.at(-1)!;
  const above = lines.slice(0, -1);
  const headed = new Set(cells.slice(0, -1).flatMap((own) => own.map(({ column }) => column)));
  const texts = last.map(({ words }) => textOf(page.words, words));
  const counts = texts.length > 2 && texts.every((text, i) => i === 0 || Number(text) === Number(texts[i - 1]) + 1);
  const under =
    last.every(({ column }) => headed.has(column)) && (counts || last.length < headed.size || last.length > 1);
  if (cells.length < 2 || !under || !(counts || texts.every((text) => isUnit(text)))) return [band];
  return [
    { box: around(above.map((line) => line.box))!, lines: above },
    { box: lines.at(-1)!.box, lines: [lines.at(-1)!] },
  ];
}

/** Does a line without amounts stand nearer to the row above than the next row stands to it? */
function nearer(print: readonly PrintedLine[], i: number, distance: number): number {
  if (print[i].amounts.size > 0) return 0;
  const next = print.findIndex((own, n) => n > i && own.amounts.size > 0);
  if (next < 0 || print[i - 1].amounts.size + print[i - 1].cells.length < 2) return 0;
  const below = pitchOf(print[next - 1].line, print[next].line);
  return distance < 0.85 * below ? 1.5 : distance > 1.15 * below ? -1 : 0;
}

/** Heading lines whose texts stand each over one of the line below are one row of wrapped headings. */
function joinHeadings(
  page: PageContent,
  bands: readonly OpenBand[],
  layout: Layout,
  rules: readonly number[],
  all = false,
): Band[] {
  const plain = (text: string) => !looksNumeric(text) || /^(?:19|20)\d\d(?: \d{1,2})?$/.test(text);
  const isHeading = (band: OpenBand) =>
    band.print.every(({ cells }) => cells.every(({ words }) => plain(textOf(page.words, words))));
  const first = bands.findIndex((band) => !isHeading(band));
  // Without amounts below there is nothing that these lines would head.
  const heads = all ? bands.length : first < 0 || !bands.slice(first).some((band) => band.amounts.size > 0) ? 0 : first;
  const out: OpenBand[] = [];
  bands.forEach((band, i) => {
    const open = i < heads ? out.at(-1) : undefined;
    if (!open) {
      out.push(i < heads ? { ...band, lines: [...band.lines], print: [...band.print] } : band);
      return;
    }
    const columnsIn = (own: OpenBand) => own.print.flatMap(({ cells }) => cells.map(({ column }) => column));
    const single = (own: OpenBand) => own.print.every(({ cells }) => cells.every(({ columnSpan }) => columnSpan === 1));
    const close = pitchOf(open.lines.at(-1)!, band.lines[0]) <= widestLeading * band.lines[0].fontSize;
    const ruled = rules.some((at) => at > open.box[3] - 1.5 && at < band.box[1] + 1.5);
    const partly = page.rules.some(
      (rule) =>
        rule.direction === 'across' &&
        rule.at > open.box[3] - 2 &&
        rule.at < band.box[1] + 2 &&
        rule.from < band.box[2] &&
        rule.to > band.box[0],
    );
    const under =
      columnsIn(open).every((column) => columnsIn(band).includes(column)) &&
      columnsIn(open).some((column) => column > 0);
    const [upper, lower] = [open.print.at(-1)!.cells, band.print[0].cells];
    const wraps =
      upper.every((cell) => goesOnBelow(page, cell, lower)) &&
      !headsSeries(page, upper, lower) &&
      !upper.every((cell) => hadRoom(page, cell, lower, bands, layout));
    if (
      close &&
      wraps &&
      !ruled &&
      !partly &&
      under &&
      single(open) &&
      single(band) &&
      boxesInColumns(page, open, layout)
    ) {
      for (const line of band.lines) join(open, line);
      open.print.push(...band.print);
    } else out.push({ ...band, lines: [...band.lines], print: [...band.print] });
  });
  return out;
}

/** Would the first word of the text below have found room beside a text, in a column as wide as its widest text? */
function hadRoom(
  page: PageContent,
  { column, words }: InColumns,
  below: readonly InColumns[],
  bands: readonly OpenBand[],
  { space }: Layout,
): boolean {
  const next = below.find((cell) => cell.column === column);
  const widest = Math.max(
    0,
    ...bands.flatMap(({ print }) =>
      print.flatMap(({ cells }) =>
        cells
          .filter((cell) => cell.column === column && cell.columnSpan === 1)
          .map((cell) => width(boxOf(page, cell.words))),
      ),
    ),
  );
  return next !== undefined && width(boxOf(page, words)) + space + width(page.words[next.words[0]].box) < 0.75 * widest;
}

/** What headings count up: months, quarters, years. */
const series = /^(?:(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\p{L}*\.?|q[1-4]|(?:19|20)\d\d)$/iu;

/** Does a text stand over one of several headings that count up, and nothing over the others? Then it heads them all, and does not begin the one. */
function headsSeries(page: PageContent, upper: readonly InColumns[], lower: readonly InColumns[]): boolean {
  const counting = lower.filter(({ words }) => series.test(textOf(page.words, words)));
  const headed = counting.filter(({ column }) =>
    upper.some((cell) => cell.column === column && !series.test(textOf(page.words, cell.words))),
  );
  return headed.length > 0 && counting.length >= 2 && headed.length < counting.length;
}

/** Lines of one text share an edge or their middle, within so many points. */
const sameEdge = 2.2;

/** Does the text below a text in its column stand on an edge or the middle of it, as the next line of one text does? */
function goesOnBelow(page: PageContent, { column, words }: InColumns, below: readonly InColumns[]): boolean {
  const next = below.find((cell) => cell.column === column);
  if (!next) return true;
  const [upper, lower] = [boxOf(page, words), boxOf(page, next.words)];
  return [upper[0] - lower[0], upper[2] - lower[2], (upper[0] + upper[2] - lower[0] - lower[2]) / 2].some(
    (off) => Math.abs(off) < sameEdge,
  );
}

/** Does each text stand over its own column and the white space around it, and not over the middle of several columns? */
const boxesInColumns = (page: PageContent, { print }: OpenBand, layout: Layout) =>
  print.every(({ cells }) => cells.every(({ column, words }) => standsOver(boxOf(page, words), column, layout)));

/**
 * Lines at middle height between two rows, in columns that both leave blank: labels that run over both. Each comes with
 * the line above, to whose row it goes.
 */
function linesBetween(page: PageContent, lines: readonly Line[], layout: Layout): Map<Line, Line> {
  const columns = lines.map((line) =>
    phrasesInColumns(page, line, layout).flatMap(({ column, columnSpan }) =>
      Array.from({ length: columnSpan }, (_, i) => column + i),
    ),
  );
  const between = new Map<Line, Line>();
  lines.forEach((line, i) => {
    const [above, below] = [lines[i - 1], lines[i + 1]];
    if (!above || !below || between.has(above)) return;
    const touches = (other: Line) => overlapY(line.box, other.box) > 0.15 * height(line.box);
    const apart = (other: number) => columns[i].every((column) => !columns[other].includes(column));
    const rowsApart = overlapY(above.box, below.box) < 0.15 * height(line.box);
    const [up, down] = [middleY(line.box) - middleY(above.box), middleY(below.box) - middleY(line.box)];
    // A rule beside the line, under what stands above it, tells the same.
    const ruled = page.rules.some(
      (rule) =>
        rule.direction === 'across' &&
        rule.at > line.box[1] &&
        rule.at < line.box[3] &&
        overlap(rule.from, rule.to, above.box[0], above.box[2]) > 0 &&
        !line.words.some((w) => overlap(rule.from, rule.to, page.words[w].box[0], page.words[w].box[2]) > 0),
    );
    const halfway = Math.min(up, down) > 0.7 * Math.max(up, down) && up + down < (ruled ? 3 : 2.1) * line.fontSize;
    if (rowsApart && ((touches(above) && touches(below)) || halfway) && apart(i - 1) && apart(i + 1))
      between.set(line, above);
  });
  return between;
}

/**
 * How many rows may go on from the row above without the marks saying so: text under text beside a blank first column,
 * below the first row under the heading.
 */
export function doubtfulRows(page: PageContent, bands: readonly Band[], layout: Layout): number {
  const first = bands.findIndex(
    (band, i) => i > 0 && band.lines.some((line) => phrasesInColumns(page, line, layout)[0]?.column === 0),
  );
  return bands.filter((band, i) => {
    if (first < 0 || i <= first || band.lines.length > 1) return false;
    const cells = phrasesInColumns(page, band.lines[0], layout);
    return (
      cells.length <= 0.5 * layout.columns.length &&
      cells.every(({ column, words }) => column > 0 && !looksNumeric(textOf(page.words, words)))
    );
  }).length;
}

/** The doubt in words, to follow the reason of a reading; empty where there is none. */
export const doubtIn = (rows: number) =>
  rows === 0 ? '' : ` ${rows} ${rows === 1 ? 'row' : 'rows'} may go on from the row above; they were left apart.`;

/** Every line of print a row. */
export const bandsByLine = (lines: readonly Line[]): Band[] => lines.map((line) => ({ box: line.box, lines: [line] }));

/** Rows by the first column: a line that leaves it blank goes on from the row above. */
export function bandsByKey(page: PageContent, lines: readonly Line[], layout: Layout): Band[] {
  const bands: Band[] = [];
  for (const line of lines) {
    const open = bands.at(-1);
    if (open && phrasesInColumns(page, line, layout).every(({ column }) => column > 0)) join(open, line);
    else bands.push({ box: line.box, lines: [line] });
  }
  return bands;
}

/** A column of wrapped text is at least this many font sizes wide. */
const leastMeasure = 6;

const timeOfDay = /^\d{1,2}[:.]\d{2}(?::\d{2})?(?:\s?[ap]\.?m\.?)?$/i;
const isDate = (text: string) => isWholeDate(text) || isDateInNumbers(text) || isDateWithoutYear(text);

/** Columns in which each time of day stands below a date: both lines say when. */
function timesBelowDates(page: PageContent, lines: readonly Line[], layout: Layout): Set<number> {
  const texts = layout.columns.map((): string[] => []);
  for (const line of lines)
    for (const { column, words } of phrasesInColumns(page, line, layout)) texts[column].push(textOf(page.words, words));
  return new Set(
    texts.flatMap((own, column) =>
      own.some((text) => timeOfDay.test(text)) &&
      own.every((text, i) => !timeOfDay.test(text) || (i > 0 && isDate(own[i - 1])))
        ? [column]
        : [],
    ),
  );
}

/** Columns in which at least half of the texts are amounts: a number in another is part of a text. */
function columnsOfAmounts(page: PageContent, lines: readonly Line[], layout: Layout): Set<number> {
  const filled = layout.columns.map(() => 0);
  const amounts = layout.columns.map(() => 0);
  for (const line of lines)
    for (const { column, words } of phrasesInColumns(page, line, layout)) {
      filled[column]++;
      if (looksNumeric(textOf(page.words, words))) amounts[column]++;
    }
  const ofMoments = timesBelowDates(page, lines, layout);
  return new Set(
    layout.columns.flatMap((_, column) =>
      amounts[column] > 0 && amounts[column] >= 0.5 * filled[column] && !ofMoments.has(column) ? [column] : [],
    ),
  );
}

/** Columns in which a line of print has an amount. */
const amountColumns = (page: PageContent, line: Line, layout: Layout): Set<number> =>
  new Set(
    phrasesInColumns(page, line, layout).flatMap(({ column, words }) =>
      looksNumeric(textOf(page.words, words)) ? [column] : [],
    ),
  );

/** Do two lines of a band begin with a key each and fill the same columns, though the second key would have fit beside the first? */
function holdsSeveralKeys(page: PageContent, lines: readonly Line[], layout: Layout): boolean {
  const cells = lines.map((line) => phrasesInColumns(page, line, layout));
  const widest = Math.max(...cells.map((own) => (own[0].column === 0 ? width(boxOf(page, own[0].words)) : 0)));
  return cells.slice(1).some((own, i) => {
    const above = cells[i];
    if (own[0].column !== 0 || above[0].column !== 0 || own.length < 2 || own.length < 0.6 * layout.columns.length)
      return false;
    const fits =
      width(boxOf(page, above[0].words)) + layout.space + width(page.words[own[0].words[0]].box) <= widest + 0.5;
    return fits || (own.length === layout.columns.length && above.length === own.length);
  });
}

/** Does a band hold two lines with an amount in the same column, or a key each? Then it is more than one row, whatever the rules say. */
export function holdsSeveralRows(page: PageContent, lines: readonly Line[], layout: Layout): boolean {
  if (lines.length > 1 && holdsSeveralKeys(page, lines, layout)) return true;
  const seen = new Set<number>();
  const ofMoments = timesBelowDates(page, lines, layout);
  return lines.some((line) => {
    const own = [...amountColumns(page, line, layout)].filter((column) => !ofMoments.has(column));
    const again = own.some((column) => seen.has(column));
    own.forEach((column) => seen.add(column));
    return again;
  });
}

function join(band: Band, line: Line) {
  band.lines.push(line);
  band.box = extend(band.box, line.box);
}
