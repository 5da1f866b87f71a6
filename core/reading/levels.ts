import { around, width, type Box } from '../page/box';
import type { Line } from '../page/lines';
import type { PageContent } from '../page/page';
import { phrasesInColumns } from './columns';
import type { Layout } from './layout';

/** The height in a row at which the texts shorter than the row stand. */
export type Level = 'top' | 'middle' | 'bottom';

/** A row holds at most so many lines. */
const mostLines = 12;
/** Lines of one text follow each other by at most this many font sizes, and by the same within this part of one. */
const widestLeading = 1.5;
const sameLeading = 0.14;
/** Texts stand at one level within this part of a font size: a line more or less moves a middle by half a leading. */
const sameLevel = 0.22;
/** What a line broken where there was room for the next word costs. */
const brokenEarly = 0.7;
/** Lines of one text follow each other more closely than this part of the distance of rows, or a label over rows looks like a text at their bottom. */
const closer = 0.93;
/** By so much fewer rows and blanks a level must explain the lines better than the top does. */
const gain: Record<Level, number> = { top: 0, middle: 1.5, bottom: 2.5 };

interface Piece {
  readonly column: number;
  readonly box: Box;
  readonly first: number;
}

interface Printed {
  readonly pieces: readonly Piece[];
  /** Does a text reach over columns? Such a line is a row of its own. */
  readonly spans: boolean;
}

/**
 * Parts lines into rows for each level at which texts may stand in a row, as few rows and blanks as there can be (dynamic
 * programming over the lines), and tells the level that explains them best.
 * @param ofAmounts columns of amounts: a row has one of each at most
 * @param parted is there a rule above the line?
 * @returns how many lines each row has; nothing where the texts stand at the top of their rows
 */
export function rowsAtLevel(
  page: PageContent,
  lines: readonly Line[],
  layout: Layout,
  ofAmounts: ReadonlySet<number>,
  parted: (line: number) => boolean,
): number[] | undefined {
  if (lines.length < 4 || ofAmounts.size === 0) return undefined;
  const print = lines.map((line): Printed => {
    const cells = phrasesInColumns(page, line, layout);
    return {
      spans: cells.some(({ columnSpan }) => columnSpan > 1),
      pieces: cells.map(({ column, words }) => ({
        column,
        box: around(words.map((w) => page.words[w].box))!,
        first: width(page.words[words[0]].box),
      })),
    };
  });
  // Rows of one line each stand at no level.
  if (print.filter(({ pieces }) => !pieces.some(({ column }) => ofAmounts.has(column))).length < 2) return undefined;
  const sheet: Lines = {
    lines,
    print,
    layout,
    ofAmounts,
    parted,
    leading: leadingOf(lines, print),
    widest: layout.columns.map((_, column) =>
      Math.max(
        0,
        ...print.flatMap(({ pieces }) =>
          pieces.filter((piece) => piece.column === column).map(({ box }) => width(box)),
        ),
      ),
    ),
  };
  if (sheet.leading === undefined) return undefined;
  const top = divided(sheet, 'top');
  const pitch = pitchOf(lines, print, ofAmounts);
  const best = (['middle', 'bottom'] as const)
    .map((level) => ({ level, ...divided(sheet, level) }))
    .filter(({ level }) => level === 'middle' || (pitch !== undefined && sheet.leading! < closer * pitch))
    .filter(
      ({ level, cost, rows }) =>
        cost < top.cost - gain[level] && rows.filter((count) => count > 1).length >= (level === 'bottom' ? 2 : 1),
    )
    .sort((a, b) => a.cost - b.cost)[0];
  return best?.rows;
}

interface Lines {
  readonly lines: readonly Line[];
  readonly print: readonly Printed[];
  readonly layout: Layout;
  readonly ofAmounts: ReadonlySet<number>;
  readonly parted: (line: number) => boolean;
  /** Distance from line to line in a wrapped text. */
  readonly leading: number | undefined;
  readonly widest: readonly number[];
}

/** The least usual distance of two texts that follow each other in one column, where lines of one text may be so far apart. */
function leadingOf(lines: readonly Line[], print: readonly Printed[]): number | undefined {
  const last = new Map<number, number>();
  const distances: number[] = [];
  print.forEach(({ pieces }, i) => {
    for (const { column, box } of pieces) {
      const above = last.get(column);
      if (above !== undefined && box[3] - above <= widestLeading * lines[i].fontSize) distances.push(box[3] - above);
      last.set(column, box[3]);
    }
  });
  return distances.sort((a, b) => a - b)[Math.floor(0.1 * distances.length)];
}

/** The usual distance of two lines that follow each other, each with an amount of one column: two rows. */
function pitchOf(
  lines: readonly Line[],
  print: readonly Printed[],
  ofAmounts: ReadonlySet<number>,
): number | undefined {
  const amounts = print.map(({ pieces }) => pieces.flatMap(({ column }) => (ofAmounts.has(column) ? [column] : [])));
  const distances = lines
    .slice(1)
    .flatMap((line, i) =>
      amounts[i + 1].some((column) => amounts[i].includes(column)) ? [line.box[3] - lines[i].box[3]] : [],
    );
  return distances.sort((a, b) => a - b)[distances.length >> 1];
}

/** The division into rows that costs least at a level. */
function divided(sheet: Lines, level: Level): { cost: number; rows: number[] } {
  const { lines } = sheet;
  const best = [{ cost: 0, from: 0 }];
  for (let to = 1; to <= lines.length; to++) {
    let found = { cost: Infinity, from: to - 1 };
    for (let from = to - 1; from >= Math.max(0, to - mostLines); from--) {
      const own = costOfRow(sheet, from, to, level);
      if (best[from].cost + own < found.cost) found = { cost: best[from].cost + own, from };
      if (from > 0 && from < to && sheet.parted(from)) break;
    }
    best.push(found);
  }
  const rows: number[] = [];
  for (let to = lines.length; to > 0; to = best[to].from) rows.unshift(to - best[to].from);
  return { cost: best[lines.length].cost, rows };
}

/** What lines cost as one row: the row, its blank columns and lines broken early; without bound where they can be no row. */
function costOfRow(
  { lines, print, layout, ofAmounts, leading, widest }: Lines,
  from: number,
  to: number,
  level: Level,
): number {
  const columns = new Map<number, Piece[]>();
  for (let i = from; i < to; i++) {
    if (to - from > 1 && print[i].spans) return Infinity;
    for (const piece of print[i].pieces) {
      const own = columns.get(piece.column);
      if (own) own.push(piece);
      else columns.set(piece.column, [piece]);
    }
  }
  let cost = 1 + (layout.columns.length - columns.size) / layout.columns.length;
  if (to - from === 1) return cost;
  const { fontSize } = lines[from];
  const heights = {
    top: (own: readonly Piece[]) => own[0].box[3],
    middle: (own: readonly Piece[]) => (own[0].box[3] + own.at(-1)!.box[3]) / 2,
    bottom: (own: readonly Piece[]) => own.at(-1)!.box[3],
  };
  const blocks = [...columns.values()];
  const tallest = blocks.reduce((most, own) => (own.length > most.length ? own : most));
  if (blocks.some((own) => Math.abs(heights[level](own) - heights[level](tallest)) > sameLevel * fontSize))
    return Infinity;
  const hasAmount = [...columns.keys()].some((column) => ofAmounts.has(column));
  for (const [column, own] of columns) {
    if (own.length > 1 && ofAmounts.has(column)) return Infinity;
    for (let i = 1; i < own.length; i++) {
      if (Math.abs(own[i].box[3] - own[i - 1].box[3] - leading!) > sameLeading * fontSize) return Infinity;
      const needed = width(own[i - 1].box) + layout.space + own[i].first;
      if (needed > widest[column] - 0.5) continue;
      // A label over its rows stands as a text at the bottom of its row does.
      if (!hasAmount || level === 'bottom') return Infinity;
      cost += needed < 0.8 * widest[column] ? brokenEarly : 0.4 * brokenEarly;
    }
  }
  return cost;
}
