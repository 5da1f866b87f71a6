import { around, height, type Box } from '../../page/box';
import { linesOf, type Line } from '../../page/lines';
import type { PageContent, Rule } from '../../page/page';
import { phrasesOf } from '../phrases';
import { isRunningText, leastWords } from './print';

/** A part of the page that is read from top to bottom: the whole width, or one of the columns of running text. */
export interface Strip {
  readonly box: Box;
  readonly words: readonly number[];
  readonly rules: readonly Rule[];
}

/** Rules this close to a strip's first or last line belong to it. */
const reach = 14;

/**
 * Parts a page into strips. Where running text is set in columns, the columns are read one after the other; what is
 * printed across them (a title, a wide table) is a strip of its own between the columns above and below it.
 */
export function stripsOf(page: PageContent, words: readonly number[], rules: readonly Rule[]): Strip[] {
  const box = around([...words.map((w) => page.words[w].box), ...rules.map(boxOfRule)]);
  return box ? parted(page, { box, words, rules }, 2) : [];
}

const boxOfRule = (rule: Rule): Box =>
  rule.direction === 'across' ? [rule.from, rule.at, rule.to, rule.at] : [rule.at, rule.from, rule.at, rule.to];

interface Zone {
  sided: boolean;
  lines: Line[];
}

function parted(page: PageContent, strip: Strip, depth: number): Strip[] {
  const lines = linesOf(page.words, strip.words);
  const middle = depth > 0 ? gutterOfProse(page, strip, lines) : undefined;
  if (middle === undefined) return [strip];
  const zones = zonesOf(page, lines, middle, strip.rules);
  return zones.flatMap(({ sided, lines }): Strip[] => {
    const own = lines.flatMap((line) => line.words);
    const [top, bottom] = [
      Math.min(...lines.map((l) => l.box[1])) - reach,
      Math.max(...lines.map((l) => l.box[3])) + reach,
    ];
    const near = strip.rules.filter((rule) => {
      const box = boxOfRule(rule);
      return box[3] >= top && box[1] <= bottom;
    });
    if (!sided)
      return [
        stripFrom(
          page,
          own,
          near.filter((rule) => crosses(rule, middle) || !atEdge(rule, top, bottom)),
        ),
      ];
    const left = own.filter((w) => page.words[w].box[2] <= middle);
    const right = own.filter((w) => page.words[w].box[0] >= middle);
    return [
      ...parted(
        page,
        stripFrom(
          page,
          left,
          near.filter((rule) => boxOfRule(rule)[2] <= middle),
        ),
        depth - 1,
      ),
      ...parted(
        page,
        stripFrom(
          page,
          right,
          near.filter((rule) => boxOfRule(rule)[0] >= middle),
        ),
        depth - 1,
      ),
    ];
  });
}

const atEdge = (rule: Rule, top: number, bottom: number) =>
  rule.direction === 'across' && (rule.at < top + reach || rule.at > bottom - reach);

const stripFrom = (page: PageContent, words: readonly number[], rules: readonly Rule[]): Strip => ({
  box: around([...words.map((w) => page.words[w].box), ...rules.map(boxOfRule)]) ?? [0, 0, 0, 0],
  words,
  rules,
});

const crosses = (rule: Rule, x: number) => rule.direction === 'across' && rule.from < x - 5 && rule.to > x + 5;

/**
 * Runs of lines that are printed in columns, and runs that are printed across them. Lines that leave the gutter clear
 * belong to something wide all the same when they stand between marks or lines that cross it and no text runs in them.
 */
function zonesOf(page: PageContent, lines: readonly Line[], middle: number, rules: readonly Rule[]): Zone[] {
  const wide = rules.filter((rule) => crosses(rule, middle)).map((rule) => rule.at);
  const zones: (Zone & { ruledAbove: boolean })[] = [];
  let bottom = -Infinity;
  for (const line of lines) {
    const sided = !line.words.some((w) => page.words[w].box[0] < middle && page.words[w].box[2] > middle);
    const ruledAbove = wide.some((at) => at >= bottom - 2 && at <= line.box[1] + 0.3 * height(line.box));
    const open = zones.at(-1);
    if (open && open.sided === sided && !ruledAbove) open.lines.push(line);
    else zones.push({ sided, lines: [line], ruledAbove });
    bottom = line.box[3];
  }
  zones.forEach((zone, i) => {
    if (!zone.sided) return;
    const runs = zone.lines.some((line) =>
      halvesOf(page, line, middle).some((half) => isRunningText(page, half.words, half.measure)),
    );
    const below = zones[i + 1];
    const lastBottom = zone.lines.at(-1)!.box[3];
    const enclosedAbove = zone.ruledAbove || (i > 0 && !zones[i - 1].sided);
    const enclosedBelow = below ? !below.sided || below.ruledAbove : wide.some((at) => at >= lastBottom - 2);
    if (!runs && enclosedAbove && enclosedBelow && zone.lines.length <= 40) zone.sided = false;
  });
  zones.splice(0, zones.length, ...zones.flatMap((zone) => (zone.sided ? withoutRows(page, zone, middle) : [zone])));
  const merged: Zone[] = [];
  for (const { sided, lines } of zones) {
    const open = merged.at(-1);
    if (open && open.sided === sided) open.lines.push(...lines);
    else merged.push({ sided, lines: [...lines] });
  }
  return merged;
}

/** So many rows across the gutter are a table, not lines that happen to stand beside each other. */
const leastRows = 3;

/**
 * Parts a run of lines in columns where rows of a table stand across the gutter: several lines in a row with short texts
 * on both sides, on one baseline, where no text runs.
 */
function withoutRows(
  page: PageContent,
  zone: Zone & { ruledAbove: boolean },
  middle: number,
): (Zone & { ruledAbove: boolean })[] {
  const isRow = zone.lines.map((line) => {
    const [left, right] = halvesOf(page, line, middle);
    if (left.words.length === 0 || right.words.length === 0) return false;
    const level =
      Math.abs(page.words[left.words[0]].baseline - page.words[right.words[0]].baseline) < 0.1 * line.fontSize;
    return (
      level &&
      ![left, right].some((half) => isRunningText(page, half.words, half.measure)) &&
      (phrasesOf(page, { ...line, words: left.words }, 1).length > 1 ||
        phrasesOf(page, { ...line, words: right.words }, 1).length > 1)
    );
  });
  const parts: (Zone & { ruledAbove: boolean })[] = [];
  for (let i = 0; i < zone.lines.length;) {
    let end = i;
    while (end < zone.lines.length && isRow[end] === isRow[i]) end++;
    const sided = !isRow[i] || end - i < leastRows;
    const open = parts.at(-1);
    if (open && open.sided === sided) open.lines.push(...zone.lines.slice(i, end));
    else parts.push({ sided, lines: zone.lines.slice(i, end), ruledAbove: i === 0 && zone.ruledAbove });
    i = end;
  }
  return parts;
}

/** The words of a line left and right of x, each with the measure there: from the edge of the box, the line's own if none is given. */
const halvesOf = (page: PageContent, line: Line, x: number, [left, , right]: Box = line.box) => [
  { words: line.words.filter((w) => page.words[w].box[2] <= x), measure: x - left },
  { words: line.words.filter((w) => page.words[w].box[0] >= x), measure: right - x },
];

/** Columns of running text have at least this many lines that run on. */
const leastRuns = 5;

/** Could any part of the line be running text: several words in a row without a wide gap? */
function holdsRun(page: PageContent, line: Line): boolean {
  let run = 1;
  return line.words.some((w, i) => {
    const before = i > 0 ? page.words[line.words[i - 1]] : undefined;
    run = before && page.words[w].box[0] - before.box[2] < before.fontSize ? run + 1 : 1;
    return run >= leastWords;
  });
}

/** So many places over the width of a page are tried at most. */
const mostSteps = 600;

/** Where the gutter between two columns of running text lies, if there are two. Rules across it speak against it, as lines do. */
function gutterOfProse(page: PageContent, { box, rules }: Strip, lines: readonly Line[]): number | undefined {
  if (lines.length < 8 || lines.filter((line) => holdsRun(page, line)).length < leastRuns) return undefined;
  let best: { x: number; votes: number } | undefined;
  const span = box[2] - box[0];
  // However wide a page says it is.
  const step = Math.max(3, span / mostSteps);
  for (let x = box[0] + 0.25 * span; x <= box[0] + 0.75 * span; x += step) {
    const cut = lines.map((line) => line.words.some((w) => page.words[w].box[0] < x && page.words[w].box[2] > x));
    const crossed = rules.filter((rule) => crosses(rule, x)).length + cut.filter(Boolean).length;
    if (crossed >= 0.35 * lines.length) continue;
    const prose = [0, 0];
    let before = [false, false];
    lines.forEach((line, i) => {
      const runs = halvesOf(page, line, x, box).map((half) => !cut[i] && isRunningText(page, half.words, half.measure));
      // Running text runs on: a lone line may be a cell.
      runs.forEach((run, side) => (prose[side] += run && before[side] ? 1 : 0));
      before = runs;
    });
    // Text on one side only is a column of a table.
    const votes = Math.max(...prose) - crossed;
    const both = Math.min(...prose) >= 2 && Math.max(...prose) >= leastRuns;
    if (both && Math.max(...prose) > 1.5 * crossed && (!best || votes > best.votes)) best = { x, votes };
  }
  return best?.x;
}
