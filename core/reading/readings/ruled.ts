import { around, extend, overlap, width, type Box } from '../../page/box';
import { linesOf, type Line } from '../../page/lines';
import type { PageContent, Rule } from '../../page/page';
import { phrasesInColumns } from '../columns';
import { faultsInWords, soundness } from '../faults';
import type { Layout } from '../layout';
import type { ReadRegion } from '../found-table';
import { asReading, closeGrid, type Slot } from '../grid';
import { phrasesOf } from '../phrases';
import {
  bandsBetween,
  bandsByLeading,
  headingRows,
  doubtfulRows,
  doubtIn,
  holdsSeveralRows,
  withUnitsApart,
  type Band,
} from '../rows';
import { gridOfBands, viewOf, type TallCell } from '../region-view';
import { joined, near, positions } from '../rules';
import { shadingBands } from '../shading';

/**
 * Reads a region by its drawn marks. With rules both ways the cells are the meshes of the grid; with rules across or
 * shading only, those give the rows and white space gives the columns.
 */
export const readRuled: ReadRegion = (page, words, region) => {
  const rules = joined(page.rules).filter((rule) => within(rule, region));
  const down = rules.filter((rule) => rule.direction === 'down');
  const across = rules.filter((rule) => rule.direction === 'across');
  if (isMesh(page, words, region, across, down)) return readMeshes(page, words, region, across, down);
  return readBands(page, words, region, across);
};

/**
 * Do the rules make meshes? They do if they close the region at both sides and divide it, or part most rows. Rules down
 * between the columns of the body alone leave the heading open: there white space tells as much and more.
 */
function isMesh(
  page: PageContent,
  words: readonly number[],
  region: Box,
  across: readonly Rule[],
  down: readonly Rule[],
): boolean {
  if (across.length < 2) return false;
  const high = region[3] - region[1];
  const side = (at: number) =>
    down.some((rule) => Math.abs(rule.at - at) <= 2 * near) &&
    down.filter((rule) => Math.abs(rule.at - at) <= 2 * near).reduce((sum, rule) => sum + rule.to - rule.from, 0) >
      0.75 * high;
  const inner = down.filter((rule) => rule.at > region[0] + 3 * near && rule.at < region[2] - 3 * near);
  if (inner.length === 0) return false;
  if (side(region[0]) && side(region[2])) return true;
  const long = positions(
    across.filter((rule) => rule.to - rule.from > 0.3 * (region[2] - region[0])).map((rule) => rule.at),
  );
  return long.length >= 0.5 * linesOf(page.words, words).length;
}

const within = (rule: Rule, [x0, y0, x1, y1]: Box) =>
  rule.direction === 'across'
    ? rule.at >= y0 - near && rule.at <= y1 + near && overlap(rule.from, rule.to, x0, x1) > 0.5 * (rule.to - rule.from)
    : rule.at >= x0 - near && rule.at <= x1 + near && overlap(rule.from, rule.to, y0, y1) > 0.5 * (rule.to - rule.from);

/** Is the stretch from..to at `at` drawn for more than half of its length? */
const drawn = (rules: readonly Rule[], at: number, from: number, to: number) => {
  let length = 0;
  for (const rule of rules)
    if (Math.abs(rule.at - at) <= near) length += Math.max(0, overlap(rule.from, rule.to, from, to));
  return length > 0.5 * (to - from);
};

function readMeshes(page: PageContent, words: readonly number[], region: Box, across: Rule[], down: Rule[]) {
  const ys = positions(across.map((rule) => rule.at));
  const xs = positions(down.map((rule) => rule.at));
  // Open sides (a grid without its outer rules) close at the region's own edge.
  if (xs.length === 0 || xs[0] > region[0] + 4) xs.unshift(region[0]);
  if (xs.at(-1)! < region[2] - 4) xs.push(region[2]);
  if (ys[0] > region[1] + 4) ys.unshift(region[1]);
  if (ys.at(-1)! < region[3] - 4) ys.push(region[3]);
  const undrawn = new Set([...rowCuts(page, words, xs, ys), ...endsOfRules(page, words, down, ys)]);
  ys.push(...undrawn);
  ys.sort((a, b) => a - b);
  const rowCount = ys.length - 1;
  const columnCount = xs.length - 1;
  if (rowCount < 1 || columnCount < 1 || rowCount * columnCount < 2) return undefined;

  const owner = Array.from({ length: rowCount * columnCount }, (_, i) => i);
  const root = (i: number): number => (owner[i] === i ? i : (owner[i] = root(owner[i])));
  for (let r = 0; r < rowCount; r++)
    for (let c = 0; c < columnCount; c++) {
      const at = r * columnCount + c;
      if (c + 1 < columnCount && !drawn(down, xs[c + 1], ys[r], ys[r + 1])) owner[root(at + 1)] = root(at);
      if (r + 1 < rowCount && !undrawn.has(ys[r + 1]) && !drawn(across, ys[r + 1], xs[c], xs[c + 1]))
        owner[root(at + columnCount)] = root(at);
    }
  const slots = new Map<number, Slot>();
  let boxes = 0;
  for (let at = 0; at < owner.length; at++) {
    const key = root(at);
    const row = Math.floor(at / columnCount);
    const column = at % columnCount;
    const slot = slots.get(key);
    if (!slot) slots.set(key, { row, column, rowSpan: 1, columnSpan: 1, words: [] });
    else {
      slot.rowSpan = Math.max(slot.rowSpan, row - slot.row + 1);
      const first = Math.min(slot.column, column);
      slot.columnSpan = Math.max(slot.column + slot.columnSpan, column + 1) - first;
      slot.column = first;
    }
  }
  const overflowing = overflows(page, words, xs);
  for (const index of words) {
    const [x0, y0, x1, y1] = page.words[index].box;
    const column = overflowing.get(index) ?? meshAt(xs, (x0 + x1) / 2);
    const row = meshAt(ys, (y0 + y1) / 2);
    slots.get(root(row * columnCount + column))!.words.push(index);
  }
  const filled = [...slots.values()].filter((slot) => slot.words.length > 0);
  for (const slot of filled) if (slot.rowSpan === 1 && slot.columnSpan === 1) boxes++;
  // A mesh that swallowed many lines of several columns is a frame around a table, not a grid of it.
  if (filled.length <= 2 && words.length > 12) return undefined;
  const columns = xs.slice(1).map((x, i): [number, number] => [xs[i], x]);
  const rows = ys.slice(1).map((y, i): Box => [region[0], ys[i], region[2], y]);
  const regular = boxes / Math.max(1, filled.length);
  // Lines of a drawing cut the page into meshes too, but few texts of it stand in a mesh of their own.
  if (regular < 0.2) return undefined;
  return asReading(
    closeGrid(page, { slots: filled, rows, columns }),
    'ruled',
    0.8 + 0.2 * regular,
    `${columnCount} columns and ${rowCount} rows stand between drawn rules; ${Math.round(regular * 100)} % of the filled cells are single meshes.`,
  );
}

/** The columns of words that belong to a text which stands across a rule down: they go with its first word, word space by word space. */
function overflows(page: PageContent, words: readonly number[], xs: readonly number[]): Map<number, number> {
  const across = ([x0, , x1]: Box) => xs.slice(1, -1).some((x) => x0 < x - 1.5 && x1 > x + 1.5);
  const found = new Map<number, number>();
  if (!words.some((w) => across(page.words[w].box))) return found;
  for (const line of linesOf(page.words, words))
    for (const phrase of phrasesOf(page, line, widestSpace)) {
      const at = phrase.words.findIndex((w) => across(page.words[w].box));
      const first = page.words[phrase.words[0]].box;
      if (at > 0 && /\p{L}/u.test(page.words[phrase.words[at]].text))
        for (const w of phrase.words.slice(at)) found.set(w, meshAt(xs, (first[0] + first[2]) / 2));
    }
  return found;
}

/** The words of one text are no further apart than this many font sizes. */
const widestSpace = 0.4;

/** Cuts between rows that no rule parts: a mesh with several lines of amounts holds several rows. */
function rowCuts(
  page: PageContent,
  words: readonly number[],
  xs: readonly number[],
  ys: readonly number[],
): Set<number> {
  const columns = xs.slice(1).map((x, i): [number, number] => [xs[i], x]);
  const layout: Layout = {
    columns,
    gutters: columns.slice(1).map(([x]) => ({ from: x, to: x })),
    edges: columns.map(() => ({})),
    space: 0,
  };
  const cuts = new Set<number>();
  for (const band of bandsBetween(linesOf(page.words, words), ys)) {
    const rows = holdsSeveralRows(page, band.lines, layout)
      ? bandsByLeading(page, band.lines, layout)
      : rowsByKey(page, band, columns);
    rows.slice(1).forEach((row, i) => cuts.add((rows[i].box[3] + row.box[1]) / 2));
  }
  return cuts;
}

/** So many keys in one mesh are a list of rows, not one text. */
const leastKeys = 3;

/**
 * Rows of a mesh by the lines of its first column, where these are no wrapped text: the next line would have fit on the
 * one before. Lines beside no key go on from the row above.
 */
function rowsByKey(page: PageContent, band: Band, [[left, right]]: readonly [number, number][]): Band[] {
  const inFirst = (line: Line) =>
    line.words.filter((w) => page.words[w].box[2] <= right + near && page.words[w].box[0] >= left - near);
  const keys = band.lines.filter((line) => inFirst(line).length > 0);
  if (
    keys.length < leastKeys ||
    keys[0] !== band.lines[0] ||
    keys.some((line) => inFirst(line).length === line.words.length)
  )
    return [band];
  const room = (line: Line) => right - left - width(around(inFirst(line).map((w) => page.words[w].box))!);
  const fits = keys
    .slice(1)
    .filter((line, i) => width(page.words[inFirst(line)[0]].box) + 0.6 * line.fontSize < room(keys[i])).length;
  if (fits < 0.7 * (keys.length - 1)) return [band];
  const rows: Band[] = [];
  for (const line of band.lines) {
    if (keys.includes(line)) rows.push({ box: line.box, lines: [line] });
    else {
      const open = rows.at(-1)!;
      open.lines.push(line);
      open.box = extend(open.box, line.box);
    }
  }
  return rows;
}

/** A rule down that begins or ends between two lines of print parts the rows there, though no rule across does. */
function endsOfRules(
  page: PageContent,
  words: readonly number[],
  down: readonly Rule[],
  ys: readonly number[],
): number[] {
  const ends = down
    .flatMap((rule) => [rule.from, rule.to])
    .filter((y) => !ys.some((known) => Math.abs(known - y) <= 2 * near));
  return positions(ends).filter((y) => {
    const band = words.filter((w) => {
      const { box } = page.words[w];
      return ys.findLast((edge) => edge < (box[1] + box[3]) / 2) === ys.findLast((edge) => edge < y);
    });
    const above = band.filter((w) => page.words[w].box[3] <= y + 0.3 * page.words[w].fontSize).length;
    const below = band.filter((w) => page.words[w].box[1] >= y - 0.3 * page.words[w].fontSize).length;
    // A text that runs over several rows may stand right on the place.
    return above > 0 && below > 0 && band.length - above - below < above + below;
  });
}

const meshAt = (edges: readonly number[], value: number) => {
  let at = 0;
  while (at + 2 < edges.length && value >= edges[at + 1]) at++;
  return at;
};

function readBands(page: PageContent, words: readonly number[], region: Box, across: Rule[]) {
  const view = viewOf(page, words, region);
  const { lines, layout } = view;
  if (lines.length < 2 || !layout) return undefined;
  const long = across.filter((rule) => rule.to - rule.from > 0.6 * (region[2] - region[0]));
  const cuts = positions(long.map((rule) => rule.at));
  const shading = shadingBands(page, region);
  const { columns } = layout;
  const bands = bandsOf(page, lines, region, cuts, shading, layout);
  if (!bands) return undefined;
  const agreeing = bands.length / lines.length;
  return asReading(
    gridOfBands(page, view, bands, tallCells(bands, columns, across)),
    'ruled',
    (0.7 + 0.2 * Math.min(1, agreeing)) * soundness(view.faults),
    `${shading.length > cuts.length ? 'Shading' : 'Drawn rules'} part ${bands.length} rows; white space parts ${columns.length} columns.${faultsInWords(view.faults)}${doubtIn(doubtfulRows(page, bands, layout))}`,
  );
}

/** Cells over several rows: no rule parts a column there, where rules part most of the others, and one closes it above and below. */
function tallCells(
  bands: readonly Band[],
  columns: readonly (readonly [number, number])[],
  across: readonly Rule[],
): TallCell[] {
  const heights = positions(across.map((rule) => rule.at));
  const middles = bands.map(({ lines }) => {
    const box = around(lines.map((line) => line.box));
    return box && (box[1] + box[3]) / 2;
  });
  /** In which columns the rule below each band is drawn; none where there is no rule. */
  const below = middles.slice(1).map((next, i) => {
    const middle = middles[i];
    const at = middle === undefined || next === undefined ? undefined : heights.find((y) => y > middle && y < next);
    const own = at === undefined ? [] : columns.map(([from, to]) => drawn(across, at, from, to));
    return own.filter(Boolean).length * 2 > own.length ? own : undefined;
  });
  return columns.flatMap((_, column) => {
    const cells: TallCell[] = [];
    for (let from = 1; from < bands.length; from++) {
      let to = from;
      while (below[to] && !below[to]![column]) to++;
      if (to > from && below[from - 1]?.[column] && (to === bands.length - 1 || below[to]?.[column]))
        cells.push({ column, from, to });
      from = to;
    }
    return cells;
  });
}

function bandsOf(
  page: PageContent,
  lines: readonly Line[],
  region: Box,
  cuts: number[],
  shading: number[],
  layout: Layout,
): Band[] | undefined {
  if (shading.length >= 4 && shading.length > cuts.length) {
    // The first band holds the heading and may hold a row that is not shaded.
    const [first, ...rest] = bandsBetween(lines, shading);
    const top = bandsByLeading(page, lines, layout, shading).filter((row) =>
      row.lines.every((line) => first.lines.includes(line)),
    );
    return [
      ...(top.reduce((sum, row) => sum + row.lines.length, 0) === first.lines.length
        ? top
        : rowsOfBand(page, first, layout, rest)),
      ...rest.flatMap((band) => rowsOfBand(page, band, layout, rest)),
    ];
  }
  if (cuts.length < 2) return undefined;
  const edges = [Math.min(region[1], cuts[0]), ...cuts, Math.max(region[3], cuts.at(-1)!)];
  const bands = bandsBetween(lines, positions(edges));
  // Rules under nearly every row part the rows; a few rules only part heading, body and total.
  const single = bands.filter((band) => !holdsSeveralRows(page, band.lines, layout)).length;
  if (bands.length >= 4 && (bands.length >= 0.45 * lines.length || single >= 0.9 * bands.length))
    return bands.flatMap((band, i) =>
      i === 0 ? headingBands(page, band, layout) : rowsOfBand(page, band, layout, bands),
    );
  return bandsByLeading(page, lines, layout, cuts);
}

const rowsOfBand = (page: PageContent, band: Band, layout: Layout, among: readonly Band[]): Band[] =>
  holdsSeveralRows(page, band.lines, layout)
    ? bandsByLeading(page, band.lines, layout)
    : withLabelsApart(page, band, layout, among);

/** A row that no mark parts from the row above, and a label below it that had found room there: two rows, as far apart as rows are. */
function withLabelsApart(page: PageContent, band: Band, layout: Layout, among: readonly Band[]): Band[] {
  const [first, label, ...more] = band.lines;
  if (!label || more.length > 0 || label.box[3] - first.box[3] < 0.92 * pitchOf(among)) return [band];
  const [own, above] = [phrasesInColumns(page, label, layout), phrasesInColumns(page, first, layout)[0]];
  if (own.length > 1 || own[0].column > 0 || above.column > 0) return [band];
  const wide = (words: readonly number[]) => width(around(words.map((w) => page.words[w].box))!);
  const widest = Math.max(
    ...among.flatMap(({ lines }) =>
      lines.flatMap((line) =>
        phrasesInColumns(page, line, layout).flatMap((cell) =>
          cell.column === 0 && cell.columnSpan === 1 ? [wide(cell.words)] : [],
        ),
      ),
    ),
  );
  const hadRoom = wide(above.words) + layout.space + width(page.words[own[0].words[0]].box) < widest;
  return hadRoom ? band.lines.map((line) => ({ box: line.box, lines: [line] })) : [band];
}

/** The usual distance of rows that are one line each and follow each other. */
function pitchOf(bands: readonly Band[]): number {
  const distances = bands
    .slice(1)
    .flatMap((band, i) =>
      band.lines.length === 1 && bands[i].lines.length === 1 ? [band.lines[0].box[3] - bands[i].lines[0].box[3]] : [],
    );
  return distances.length > 1 ? distances.sort((a, b) => a - b)[distances.length >> 1] : Infinity;
}

/** The heading may hold several rows between two rules: lines that fill different columns stay apart. */
const headingBands = (page: PageContent, band: Band, layout: Layout): Band[] =>
  band.lines.some((line) => phrasesInColumns(page, line, layout).some((p) => p.columnSpan > 1))
    ? headingRows(page, band.lines, layout)
    : withUnitsApart(page, band, layout);
