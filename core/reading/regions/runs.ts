// One file, though long: all of it answers which lines belong to one table, upwards and downwards by the same terms.
import { around, height, middleY, width, type Box } from '../../page/box';
import { isBold, textOf, type Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { guttersOf, type Gutter } from '../gutters';
import { isAmount, phrasesOf, spaceOf, typical, type Phrase } from '../phrases';
import { looksNumeric } from '../../values/numeric';
import { totalWords } from '../roles';
import { crosses, isCaption, isParted } from './print';
import type { Zone } from './zones';
import {
  acrossBetween,
  gapAbove,
  headsAnew,
  isBeside,
  isProse,
  isTabular,
  isTitle,
  looked,
  part,
  piecesOf,
  runsOn,
  tell,
  textGap,
  textIn,
  trimmed,
  type Context,
  type Run,
  year,
} from './breaks';

/** Lines further below the rows above, in font sizes, belong to them only if they stand on the same edges. */
const closely = 1.7;
/** The same where a rule stands between. */
const closelyRuled = 2.4;
/** No table goes on over more room than this, in font sizes. */
const widest = 5;
/** So many lone lines in a row (labels of sections, notes between rows) may stand between rows. */
const mostLone = 2;
/** So many, where they are lines of a text that wraps within its column, at whatever height the row's other texts stand. */
const mostInColumn = 8;
/** Rows in type larger than others by this much are of another table. */
const otherType = 1.12;
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
  const order = seeds
    .flatMap((seed) => piecesOf(context, seed))
    .sort((a, b) => a.from - b.from || b.to - a.to)
    .reduce<Run[]>((out, seed) => {
      const last = out.at(-1);
      if (last && seed.from < last.to)
        return [...out.slice(0, -1), { from: last.from, to: Math.max(last.to, seed.to) }];
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
    runs.push(trimmed(context, withRowAbove(context, run, runs.at(-1)?.to ?? 0)));
  }
  return runs;
}

/** The run with the row above it, if that stands no further off than rows within the run do, on the same edges: a blank row may part the first row from the others. */
function withRowAbove(context: Context, run: Run, limit: number): Run {
  const { page } = context;
  const [i, rows] = [run.from - 1, part(context, { from: run.from, to: Math.min(run.to, run.from + looked) })];
  if (i < limit || !isTabular(context, i) || isProse(context, i)) return run;
  const widestGap = Math.max(0, ...rows.slice(1).map((line, n) => line.box[1] - rows[n].box[3]));
  const gutters = guttersOf(page, rows);
  const fits =
    gapAbove(context, run.from) < 1.1 * widestGap &&
    context.print[i].length > 0.6 * (gutters.length + 1) &&
    Math.abs(context.lines[i].fontSize - rows[0].fontSize) < 0.03 * rows[0].fontSize;
  return fits &&
    agreement(context, { from: i, to: i + 1 }, run, gutters) >= surely &&
    !headsAnew(context, { from: i, to: i + 1 }, run.from)
    ? { from: i, to: run.to }
    : run;
}

/** Do two runs, one below the other, have the same columns, and does nothing between them say that another table begins? */
function goesOn(context: Context, above: Run, below: Run): boolean {
  const { page, lines } = context;
  const between = Array.from({ length: below.from - above.to }, (_, i) => above.to + i);
  const sizeOf = (run: Run) => typical(part(context, run).map(({ fontSize }) => fontSize));
  if (Math.max(sizeOf(above), sizeOf(below)) > otherType * Math.min(sizeOf(above), sizeOf(below))) return false;
  const rows = part(context, { from: Math.max(above.from, above.to - looked), to: above.to });
  const columns = guttersOf(page, rows);
  if (between.some((i) => isNote(context, columns, rows, i))) return false;
  if (between.filter((i) => !isInColumn(context, columns, rows, i)).length > mostLone || between.length > mostInColumn)
    return false;
  if (between.some((i) => isProse(context, i) || isCaption(textIn(context, i)))) return false;
  const room = between.reduce(
    (sum, i) => sum - height(lines[i].box),
    lines[below.from].box[1] - lines[above.to - 1].box[3],
  );
  const fontSize = lines[below.from].fontSize;
  if (room > (between.length + 1) * widest * 0.7 * fontSize + 2) return false;
  const [upper, lower] = [
    part(context, { from: Math.max(above.from, above.to - looked), to: above.to }),
    part(context, { from: below.from, to: Math.min(below.to, below.from + looked) }),
  ];
  const whole = guttersOf(page, [...upper, ...lower]);
  if (whole.length === 0) return false;
  const [own, other] = [guttersOf(page, upper), guttersOf(page, lower)];
  const agreeing = agreement(context, above, below, whole);
  // Rows between which a column is blank on one side still have all gutters of the fuller side.
  const fewer = whole.length < Math.max(own.length, upper.length > 2 && lower.length > 2 ? other.length : 0);
  if (fewer && (agreeing < surely || whole.length < Math.min(own.length, other.length))) return false;
  if (beginsAnew(context, above, below, room / (between.length + 1))) return false;
  if (
    Array.from({ length: Math.min(2, below.to - below.from) }, (_, i) => below.from + i).some((i) =>
      headsAnew(context, above, i),
    )
  )
    return false;
  if (between.some((i) => isTitle(context, above, i))) return false;
  if (room <= closely * fontSize * (between.length + 1)) return agreeing >= 0.33;
  return agreeing >= 0.6;
}

/** The share of columns on one edge above which a difference in gutters does not count. */
const surely = 0.75;

/** Does the lower run begin, after more room than the rows above keep, with headings of its own and amounts below them? */
function beginsAnew(context: Context, above: Run, below: Run, room: number): boolean {
  const { lines } = context;
  const gaps = part(context, above)
    .slice(1)
    .map((line, i) => line.box[1] - lines[above.from + i].box[3])
    .sort((a, b) => a - b);
  if (room <= 1.5 * Math.max(0, gaps[gaps.length >> 1] ?? 0) + 0.3 * lines[below.from].fontSize) return false;
  const head = Array.from({ length: Math.min(3, below.to - below.from) }, (_, i) => below.from + i).find((i) =>
    isTabular(context, i),
  );
  if (head === undefined) return false;
  const { texts } = tell(context, head);
  const headings = texts.filter(({ text, isHeading }) => isHeading && /\p{L}{2}|\d{4}/u.test(text));
  const followed = Array.from({ length: Math.min(3, below.to - head - 1) }, (_, i) => head + 1 + i).some((i) =>
    tell(context, i)
      .texts.slice(1)
      .some(({ isAmount }) => isAmount),
  );
  return (
    !texts.some(({ isAmount }) => isAmount) && headings.length >= 2 && headings.length >= 0.6 * texts.length && followed
  );
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
    const meet = (edge: (box: Box) => number) =>
      lower[column].some((box) => boxes.some((other) => Math.abs(edge(box) - edge(other)) <= sameEdge));
    if (meet((box) => box[0]) || meet((box) => box[2]) || meet((box) => (box[0] + box[2]) / 2)) agree++;
  });
  return shared < 2 ? 0 : agree / shared;
}

/** Where the run ends, grown over the rows below it, up to `limit`. */
function downwards(context: Context, run: Run, limit: number): number {
  const { page, lines, zone } = context;
  let to = run.to;
  for (let i = to, lone = 0; i < limit; i++) {
    const fontSize = lines[i].fontSize;
    const gap = gapAbove(context, i);
    if (
      i === to &&
      lone === 0 &&
      isBeside(context, i - 1, i) &&
      lines[i].box[2] <
        Math.max(...part(context, { from: Math.max(run.from, to - looked), to }).map(({ box }) => box[2])) + 14
    ) {
      to = i + 1;
      continue;
    }
    if (gap > widest * fontSize) break;
    if (!isTabular(context, i) && startsNote(context, i, lines[to - 1])) break;
    if (lone === 0 && i === to && endsInAmount(context, { from: run.from, to }, i)) to = i + 1;
    else if (isTabular(context, i) || isPartedAsAbove(context, { from: run.from, to }, i)) {
      const rows = part(context, { from: Math.max(run.from, to - looked), to });
      const gutters = guttersOf(page, [...rows, lines[i]]);
      const own = guttersOf(page, rows);
      const { texts } = tell(context, i);
      const keeps =
        gutters.length > 0 &&
        gutters.length >= own.length &&
        gutters.every((gutter) => !texts.some(({ box }) => reachesOver(box, gutter)));
      // Few rows leave gutters by chance, where the spaces of their texts fall below each other.
      const onEdges = () =>
        gutters.length > 1 &&
        gutters.length < own.length &&
        gutters.length >= own.length - 2 &&
        agreement(context, { from: run.from, to }, { from: i, to: i + 1 }, gutters) >= surely;
      if ((!keeps && !onEdges()) || headsAnew(context, { from: run.from, to }, i)) break;
      const agreeing = agreement(context, { from: run.from, to }, { from: i, to: i + 1 }, gutters);
      const gaps = rows.slice(1).map((line, n) => line.box[1] - rows[n].box[3]);
      const ruled = acrossBetween(zone.rules, lines[i - 1].box[3], lines[i].box[1], lines[i].box);
      if (
        gap > Math.max(closely * fontSize, 1.3 * Math.max(0, ...gaps)) &&
        !(agreeing >= 0.6 || (ruled && agreeing >= 0.5))
      )
        break;
      if (agreeing < 0.33) break;
      to = i + 1;
      lone = 0;
    } else if (lone === 0 && runsOn(context, { from: run.from, to }, i)) to = i + 1;
    else {
      if (isProse(context, i) || isCaption(textIn(context, i)) || isTitle(context, { from: run.from, to }, i)) break;
      const rows = part(context, { from: Math.max(run.from, to - looked), to });
      const columns = guttersOf(page, rows);
      if (i - to >= mostInColumn || isNote(context, columns, rows, i)) break;
      if (!isInStep(context, run, i) && !isInColumn(context, columns, rows, i) && ++lone > mostLone) break;
      // A lone line begins at the left edge, as labels do, or it is no part of the table.
      const left = Math.min(...part(context, { from: run.from, to }).map((line) => line.box[0]));
      if (lines[i].box[0] - left > 40 || lines[i].box[0] < left - 4) break;
    }
  }
  const rows = part(context, { from: Math.max(run.from, to - looked), to });
  const columns = guttersOf(page, rows);
  while (
    to < limit &&
    !isTabular(context, to) &&
    (isLastLabel(context, columns, rows, to) || isLastInColumn(context, columns, rows, to))
  )
    to++;
  // A label alone before the rule that ends the table is its last row.
  if (to < limit && !isTabular(context, to) && endsByRule(context, { from: run.from, to }, to)) to++;
  return to;
}

/** Is a line whose texts nearly touch parted at the gutters of the rows above? */
function isPartedAsAbove({ page, lines }: Context, run: Run, i: number): boolean {
  const rows = lines.slice(Math.max(run.from, run.to - looked), run.to);
  // The title of the next table may have gaps there by chance.
  if (rows.length < 3 || lines[i].fontSize > otherType * rows.at(-1)!.fontSize) return false;
  const gutters = guttersOf(page, [...rows, lines[i]]);
  return gutters.length > 0 && gutters.length >= guttersOf(page, rows).length && isParted(page, lines[i], gutters);
}

/** Does a line whose texts nearly touch follow in step and end in an amount where the rows' amounts end? A total set in bold type leaves hardly a gap. */
function endsInAmount(context: Context, run: Run, i: number): boolean {
  const { page, lines } = context;
  const rows = part(context, { from: Math.max(run.from, run.to - looked), to: run.to });
  const usual = usualGap(rows);
  const last = lines[i].words.at(-1)!;
  if (
    rows.length < 2 ||
    usual === undefined ||
    lines[i].words.length < 2 ||
    !isAmount(page.words[last].text) ||
    gapAbove(context, i) > Math.max(1.5 * usual, usual + 0.4 * lines[i].fontSize)
  )
    return false;
  const right = Math.max(...rows.map(({ box }) => box[2]));
  const onEdge = rows.filter(
    (row) => Math.abs(row.box[2] - right) < sameEdge && isAmount(page.words[row.words.at(-1)!].text),
  );
  return (
    Math.abs(page.words[last].box[2] - right) < sameEdge &&
    onEdge.length >= 0.5 * rows.length &&
    Math.abs(lines[i].fontSize - rows.at(-1)!.fontSize) < 0.03 * lines[i].fontSize &&
    lines[i].box[0] > rows[0].box[0] - 2
  );
}

/** Does a lone line follow the line above as rows do, a label like theirs? */
function isInStep(context: Context, run: Run, i: number): boolean {
  const { lines } = context;
  const rows = part(context, run);
  const usual = usualGap(rows);
  const left = Math.min(...rows.map((line) => line.box[0]));
  return (
    usual !== undefined &&
    Math.abs(gapAbove(context, i) - usual) < 0.15 * lines[i].fontSize &&
    Math.abs(lines[i].box[0] - left) < 14 &&
    lines[i].box[2] < left + 0.6 * (Math.max(...rows.map((line) => line.box[2])) - left)
  );
}

/** Is a line bold below rows that are not? */
const isBolder = ({ page, lines }: Context, rows: readonly Line[], i: number) =>
  isBold(page.words, lines[i].words) && !rows.some(({ words }) => isBold(page.words, words));

/** Is a lone line a label in step with the rows above, and not nearer to what stands below it? */
function isLastLabel(context: Context, gutters: readonly Gutter[], rows: readonly Line[], i: number): boolean {
  const { lines } = context;
  const usual = usualGap(rows);
  const below = lines[i + 1] ? lines[i + 1].box[1] - lines[i].box[3] : Infinity;
  if (
    usual === undefined ||
    gutters.length === 0 ||
    lines[i].box[2] > gutters[0].to - 1 ||
    below < 1.1 * usual ||
    (isBolder(context, rows, i) && !totalWords.test(textIn(context, i))) ||
    isProse(context, i) ||
    isCaption(textIn(context, i))
  )
    return false;
  const [{ fontSize }, left] = [rows.at(-1)!, Math.min(...rows.map(({ box }) => box[0]))];
  return (
    Math.abs(gapAbove(context, i) - usual) < 0.1 * fontSize &&
    Math.abs(lines[i].fontSize - fontSize) < 0.03 * fontSize &&
    Math.abs(lines[i].box[0] - left) < 2
  );
}

/** Does a lone line follow in step with the rows, and stand in one of their columns on the edge on which all texts there stand? */
function isLastInColumn(context: Context, gutters: readonly Gutter[], rows: readonly Line[], i: number): boolean {
  const { page, lines } = context;
  const usual = usualGap(rows);
  const { box, fontSize } = lines[i];
  if (
    usual === undefined ||
    rows.length < 3 ||
    Math.abs(gapAbove(context, i) - usual) > 0.1 * fontSize ||
    Math.abs(fontSize - rows.at(-1)!.fontSize) > 0.03 * fontSize ||
    isBolder(context, rows, i)
  )
    return false;
  if (gutters.length === 0 || box[0] < gutters[0].to - 1 || gutters.some((gutter) => reachesOver(box, gutter)))
    return false;
  const column = gutters.findLastIndex((gutter) => box[0] >= gutter.to - 1);
  const own = rows
    .map((row) => cellsIn(phrasesOf(page, row, 0.5), gutters)[column + 1]?.box)
    .filter((other) => other !== undefined);
  return (
    own.length >= 3 &&
    (own.every((other) => Math.abs(other[0] - box[0]) < sameEdge) ||
      own.every((other) => Math.abs(other[2] - box[2]) < sameEdge))
  );
}

const noteMark = /^(?:\(\w{1,2}\)|\w{1,2}\)|[*†‡]+) /;

/** Is a lone line smaller than the rows, and does it begin with the mark of a note? */
const startsNote = (context: Context, i: number, row: Line) =>
  context.lines[i].fontSize < 0.97 * row.fontSize && noteMark.test(textIn(context, i));

/** Is a lone line smaller than the rows, and does it begin with a mark or pay no heed to their columns? */
const isNote = (context: Context, gutters: readonly Gutter[], rows: readonly Line[], i: number) =>
  startsNote(context, i, rows.at(-1)!) ||
  (context.lines[i].fontSize < 0.97 * rows.at(-1)!.fontSize &&
    gutters.some((gutter) => reachesOver(context.lines[i].box, gutter)));

/** Does a lone line, in the rows' type, stand within one of their columns, as close to the line above or below as lines of one text do, or in step with the rows? */
function isInColumn({ lines }: Context, gutters: readonly Gutter[], rows: readonly Line[], i: number): boolean {
  const { fontSize } = rows.at(-1)!;
  if (
    Math.abs(lines[i].fontSize - fontSize) > 0.03 * fontSize ||
    gutters.length === 0 ||
    gutters.some((gutter) => reachesOver(lines[i].box, gutter))
  )
    return false;
  const usual = usualGap(rows);
  return [
    [lines[i - 1], lines[i]],
    [lines[i], lines[i + 1]],
  ].some(([upper, lower]) => {
    const gap = upper && lower ? lower.box[1] - upper.box[3] : Infinity;
    return (
      gap < 0.45 * fontSize ||
      (usual !== undefined && Math.abs(gap - usual) < 0.1 * fontSize && isLabel(rows, lines[i]))
    );
  });
}

/** Does a line begin where the rows do? */
const isLabel = (rows: readonly Line[], line: Line) =>
  Math.abs(line.box[0] - Math.min(...rows.map(({ box }) => box[0]))) < 14;

/** Does a text begin on one side of a gutter and reach to the other? One that ends in the gutter is longer than those by which it was told. */
const reachesOver = (box: Box, { from, to }: Gutter) => box[0] < from + 1 && box[2] > to - 1;

/** Does a rule as wide as the rows follow a lone line, close below the rows, with none between? */
function endsByRule(context: Context, run: Run, i: number): boolean {
  const { lines, zone } = context;
  const box = around(part(context, run).map((line) => line.box))!;
  const below = lines[i + 1]?.box[1] ?? lines[i].box[3] + lines[i].fontSize;
  const largest = Math.max(
    ...part(context, { from: Math.max(run.from, run.to - looked), to: run.to }).map((line) => line.fontSize),
  );
  // In larger type it is the title over the rule that begins the next table.
  if (lines[i].fontSize > otherType * largest) return false;
  const ruled =
    lines[i].fontSize < 1.05 * largest && acrossBetween(zone.rules, lines[i - 1].box[3], lines[i].box[1], box);
  return (
    gapAbove(context, i) < (ruled ? closelyRuled : closely) * lines[i].fontSize &&
    Math.abs(lines[i].box[0] - box[0]) < 14 &&
    lines[i].box[2] < box[2] &&
    acrossBetween(zone.rules, lines[i].box[3], Math.min(below, lines[i].box[3] + lines[i].fontSize), box) &&
    !isProse(context, i)
  );
}

/** The run grown over headings and rows above it, down from line `limit`. */
function upwards(context: Context, seed: Run, limit: number): Run {
  const { page, lines, zone } = context;
  let from = seed.from;
  const rows = () => part(context, { from, to: Math.min(seed.to, from + looked) });
  const inner = rows()
    .slice(1)
    .map((line, i) => line.box[1] - rows()[i].box[3]);
  for (let i = from - 1; i >= limit; i--) {
    const gap = lines[from].box[1] - lines[i].box[3];
    const fontSize = lines[i].fontSize;
    const own = rows();
    const box = around(own.map((line) => line.box))!;
    const ruled = acrossBetween(zone.rules, lines[i].box[3] - 2, lines[from].box[1], lines[i].box);
    if (isBeside(context, i, from) && lines[i].box[0] > box[0] - 14 && lines[i].box[2] < box[2] + 14) {
      from = i;
      continue;
    }
    const row = rowOverColumn(context, own, i, limit);
    if (row !== undefined) {
      from = row;
      i = row;
      continue;
    }
    const heading = headingOverLabels(context, own, i, limit);
    if (heading !== undefined && !isTitle(context, seed, i)) {
      from = heading;
      i = heading;
      continue;
    }
    if (
      gap > Math.max(2 * fontSize, ...inner.map((g) => Math.min(1.3 * g, 3 * fontSize))) ||
      (gap > Math.max(0.9 * fontSize, ...inner.map((g) => 1.2 * g)) && !ruled)
    )
      break;
    if (isProse(context, i) || isCaption(textIn(context, i))) break;
    const gutters = guttersOf(page, own);
    if (gutters.length === 0) break;
    const fine = phrasesOf(
      page,
      lines[i],
      0,
      Math.min(textGap * fontSize, (1.5 * spaceOf(page, own) * fontSize) / own[0].fontSize),
    );
    if (fine.length > 1) {
      const clear = (phrase: Box) =>
        gutters.filter((gutter) => phrase[0] >= gutter.from - 1 || phrase[2] <= gutter.to + 1).length;
      const keeps = gutters.filter((gutter) => !crosses(page, lines[i], gutter)).length >= 0.75 * gutters.length;
      const spans = fine.every(
        ({ box: phrase }) =>
          clear(phrase) >= Math.min(0.6 * gutters.length, gutters.length - 1) && phrase[2] <= box[2] + 12,
      );
      const heads = context.print[i].length === 1 && headsOne(context, i, gutters, box, gap);
      if (!keeps && !spans && !heads) break;
      from = i;
    } else if (headsOne(context, i, gutters, box, gap) || headsEach(context, i, own, gutters)) from = i;
    else break;
  }
  if (from > limit && isLabelLikeWithin(context, { from, to: seed.to }, from - 1)) from--;
  if (from > limit && isFirstUnderRule(context, { from, to: seed.to }, from - 1)) from--;
  from = headingBand(context, { from, to: seed.to }, limit);
  return { from, to: seed.to };
}

/** Does a lone label stand in step over the first row, with the rule that begins the table just above it and none below? */
function isFirstUnderRule(context: Context, run: Run, i: number): boolean {
  const { lines, zone } = context;
  const box = around(part(context, run).map((line) => line.box))!;
  const usual = usualGap(part(context, { from: run.from, to: Math.min(run.to, run.from + looked) }));
  if (
    usual === undefined ||
    isTabular(context, i) ||
    isProse(context, i) ||
    isCaption(textIn(context, i)) ||
    Math.abs(lines[i].box[0] - box[0]) > 4 ||
    lines[i].box[2] > box[2]
  )
    return false;
  const { fontSize } = lines[i];
  return (
    gapAbove(context, run.from) < usual + 0.2 * fontSize &&
    Math.abs(fontSize - lines[run.from].fontSize) < 0.03 * fontSize &&
    acrossBetween(zone.rules, lines[i].box[1] - fontSize, lines[i].box[1], box) &&
    !acrossBetween(zone.rules, lines[i].box[3], lines[run.from].box[1], box)
  );
}

/** Do the words of a line whose texts nearly touch stand on the edges of the columns below, a text over each? */
function headsEach(
  { page, lines, print }: Context,
  i: number,
  rows: readonly Line[],
  gutters: readonly Gutter[],
): boolean {
  if (gutters.length < 2 || print[i][0].box[0] < gutters[0].from) return false;
  const edges = [...gutters.slice(1), undefined].map((next, n): [number, number] => {
    const texts = rows.flatMap((row) =>
      row.words
        .map((w) => page.words[w].box)
        .filter((box) => box[0] >= gutters[n].to - 1 && (!next || box[2] <= next.from + 1)),
    );
    return [Math.min(...texts.map((box) => box[0])), Math.max(...texts.map((box) => box[2]))];
  });
  const own = lines[i].words.map((w) => page.words[w].box);
  const met = edges.filter(([left, right]) =>
    own.some((box) => Math.abs(box[0] - left) < sameEdge || Math.abs(box[2] - right) < sameEdge),
  );
  return met.length >= 0.75 * edges.length;
}

/** The first line of the shaded band in or just above which the run begins, if the band is as wide as the run and holds a few lines. */
function headingBand({ lines, zone }: Context, run: Run, limit: number): number {
  const box = around(lines.slice(run.from, run.to).map((line) => line.box))!;
  const band = zone.fills.find(
    ({ box: own }) =>
      own[1] < box[1] - 2 &&
      own[3] > box[1] - lines[run.from].fontSize &&
      own[3] < box[3] &&
      own[0] < box[0] + 2 &&
      own[2] > box[2] - 2 &&
      width(own) < 1.3 * width(box) + 12 &&
      height(own) < highestBand * lines[run.from].fontSize,
  );
  let from = run.from;
  while (
    band &&
    from > limit &&
    middleY(lines[from - 1].box) > band.box[1] &&
    lines[from - 1].box[0] > band.box[0] - 2 &&
    lines[from - 1].box[2] < band.box[2] + 2
  )
    from--;
  return from;
}

/** A band of shading behind headings is no higher than this many font sizes. */
const highestBand = 6;

/** Is a lone line over the run set as a lone line within it is: its edge, type and room below? Both are labels of sections. */
function isLabelLikeWithin(context: Context, run: Run, i: number): boolean {
  const { page, lines, print } = context;
  if (isTabular(context, i) || isProse(context, i) || isCaption(textIn(context, i))) return false;
  const below = (at: number) => lines[at + 1].box[1] - lines[at].box[3];
  const own = lines[i];
  return Array.from({ length: run.to - run.from - 1 }, (_, n) => run.from + n).some(
    (at) =>
      print[at].length === 1 &&
      Math.abs(lines[at].box[0] - own.box[0]) < 2 &&
      Math.abs(lines[at].fontSize - own.fontSize) < 0.03 * own.fontSize &&
      isBold(page.words, lines[at].words) === isBold(page.words, own.words) &&
      Math.abs(below(at) - below(i)) < 0.25 * own.fontSize,
  );
}

/** The row of the same columns above lone lines that each stand within a column, up from line `i`; down from `limit`. */
function rowOverColumn(context: Context, rows: readonly Line[], i: number, limit: number): number | undefined {
  if (isTabular(context, i)) return undefined;
  const { page, lines, print } = context;
  const gutters = guttersOf(page, rows);
  let at = i;
  while (at >= limit && i - at < mostInColumn && !isTabular(context, at) && isInColumn(context, gutters, rows, at))
    at--;
  if (at === i || at < limit || gutters.some((gutter) => print[at].some(({ box }) => reachesOver(box, gutter))))
    return undefined;
  const table = around(rows.map((line) => line.box))!;
  if (!isTabular(context, at))
    return gutters.length > 0 &&
      !isProse(context, at) &&
      !isCaption(textIn(context, at)) &&
      headsOne(context, at, gutters, table, lines[at + 1].box[1] - lines[at].box[3])
      ? at
      : undefined;
  return guttersOf(page, [lines[at], ...rows]).length >= gutters.length &&
    (print[at].length > gutters.length ||
      tell(context, at)
        .texts.slice(1)
        .some(({ isAmount }) => isAmount))
    ? at
    : undefined;
}

/** The usual room between rows. */
function usualGap(rows: readonly Line[]): number | undefined {
  const gaps = rows
    .slice(1)
    .map((line, n) => line.box[1] - rows[n].box[3])
    .sort((a, b) => a - b);
  return gaps[gaps.length >> 1];
}

/** So many labels may stand between the heading and the first row with more than a label. */
const mostLabels = 3;

/** The line that heads the columns, above lone lines that are the labels of sections, or of rows that hold nothing else; up from line `i`. */
function headingOverLabels(context: Context, rows: readonly Line[], i: number, limit: number): number | undefined {
  const { page, lines, print, zone } = context;
  const box = around(rows.map((line) => line.box))!;
  const gutters = guttersOf(page, rows);
  if (gutters.length === 0) return undefined;
  const usual = usualGap(rows) ?? 0;
  const isLabel = (at: number) =>
    !isTabular(context, at) &&
    !isProse(context, at) &&
    !isCaption(textIn(context, at)) &&
    print[at][0].box[0] - box[0] <= 40 &&
    print[at][0].box[0] >= box[0] - 12;
  /** Does a line follow the one above as a label does? */
  const follows = (at: number, upper: number) => {
    const ruled = at <= i && acrossBetween(zone.rules, lines[upper].box[3], lines[at].box[1], box);
    return (
      lines[at].box[1] - lines[upper].box[3] <=
      Math.max(
        (ruled ? closelyRuled : 1.6) * lines[at].fontSize,
        Math.min(1.1 * usual + 0.7 * lines[at].fontSize, 2.8 * lines[at].fontSize),
      )
    );
  };
  let at = i;
  while (at > limit && i - at < mostLabels && isLabel(at) && follows(at + 1, at) && follows(at, at - 1)) at--;
  if (at === i) return undefined;
  if (!isTabular(context, at))
    return print[at].length === 1 && headsOne(context, at, gutters, box, lines[at + 1].box[1] - lines[at].box[3])
      ? at
      : undefined;
  const clear = (phrase: Phrase) =>
    gutters.filter((gutter) => phrase.box[0] >= gutter.from - 1 || phrase.box[2] <= gutter.to + 1).length;
  const heads =
    print[at].length >= Math.min(2, gutters.length) &&
    print[at].length >= 0.6 * gutters.length &&
    print[at].every((phrase) => clear(phrase) >= Math.min(0.6 * gutters.length, gutters.length - 1));
  return heads &&
    !print[at]
      .slice(1)
      .some((phrase) => looksNumeric(textOf(page.words, phrase.words)) && !year.test(textOf(page.words, phrase.words)))
    ? at
    : undefined;
}

/** Does the rule that begins the table stand just above a line, and none between it and the rows? What stands inside the table's rules is no title. */
function isUnderTopRule({ box, fontSize }: Line, zone: Zone, table: Box): boolean {
  const asWide = zone.rules.filter(
    (rule) =>
      rule.direction === 'across' &&
      Math.min(rule.to, table[2]) - Math.max(rule.from, table[0]) > 0.9 * width(table) &&
      rule.to - rule.from < 1.1 * width(table) + 4 * fontSize,
  );
  return (
    asWide.some(({ at }) => at > box[1] - 0.9 * fontSize && at < box[1] + 1) &&
    !asWide.some(({ at }) => at > middleY(box) && at < table[1] + 1)
  );
}

/** Does a lone line head a column or a group of columns, and not the whole table? */
function headsOne(
  { page, lines, print, zone }: Context,
  i: number,
  gutters: readonly Gutter[],
  table: Box,
  gap: number,
): boolean {
  const { box } = print[i][0];
  if (width(box) > 0.6 * width(table)) return false;
  const afterLabels = box[0] >= gutters[0].from - 1;
  if (!afterLabels) return false;
  const middle = (box[0] + box[2]) / 2;
  const ruledBelow = zone.rules.some(
    (rule) =>
      rule.direction === 'across' &&
      rule.at > lines[i].box[3] - 2 &&
      rule.at < lines[i].box[3] + 0.8 * lines[i].fontSize &&
      rule.to - rule.from < 0.85 * width(table) &&
      rule.from <= middle &&
      rule.to >= middle,
  );
  if (ruledBelow || isUnderTopRule(lines[i], zone, table)) return true;
  // A title is set over the middle of the whole table; the first line of a wrapped heading stands closely above the next.
  const centred = Math.abs(middle - (table[0] + table[2]) / 2) <= 6;
  if (centred && gap > 0.6 * lines[i].fontSize) return false;
  if (gutters.every((gutter) => !crosses(page, lines[i], gutter)))
    return gutters.length > 1 || Math.abs(box[2] - table[2]) < 2 || box[0] >= gutters[0].to - 4;
  return !centred;
}
