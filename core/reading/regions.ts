import { around, extend, grow, height, holdsCentre, overlaps, overlapX, width, type Box } from '../page/box';
import { linesOf, textOf, type Line } from '../page/lines';
import type { PageContent, Rule } from '../page/page';
import { guttersOf, phrasesOf } from './columns';
import { looksNumeric } from './numeric';
import { connected, joined, near } from './rules';

/** Where a table may stand, and which marks speak for it. */
export interface Region {
  readonly box: Box;
  readonly words: readonly number[];
  readonly by: 'grid' | 'rules' | 'shading' | 'space';
}

/** A gap wider than this many font sizes parts phrases of a tabular line. */
const phraseGap = 1;

/**
 * Proposes the regions of a page, marks first: grids of rules, then stacks of rules across, then shaded rows, then
 * blocks of lines parted by white space. Words once claimed are not proposed again.
 */
export function regionsOf(page: PageContent, furniture: ReadonlySet<number>): Region[] {
  const free = new Set(page.words.flatMap((word, i) => (furniture.has(i) || word.angle !== 0 || isLeader(word.text) ? [] : [i])));
  const regions: Region[] = [];
  const claim = (box: Box, by: Region['by']) => {
    const words = [...free].filter((i) => holdsCentre(box, page.words[i].box));
    if (words.length < 2) return;
    if (by !== 'grid' && (isChart(page, box) || !readsAsTable(page, linesOf(page.words, words), by))) return;
    words.forEach((i) => free.delete(i));
    regions.push({ box: around([...words.map((i) => page.words[i].box), box])!, words, by });
  };
  const rules = joined(page.rules);
  const groups = connected(rules);
  for (const group of groups) if (isGrid(group.rules)) claim(grow(group.box, 1), 'grid');
  for (const box of stacksOfRules(page, groups.filter((g) => !isGrid(g.rules)).flatMap((g) => g.rules), free)) claim(box, 'rules');
  for (const box of stacksOfShading(page)) claim(box, 'shading');
  for (const side of sidesOf(page, [...free]))
    for (const lines of blocksOf(page, side)) {
      const box = around(lines.map((line) => line.box))!;
      if (readsAsTable(page, lines, 'space') && !isChart(page, box)) regions.push({ box: grow(box, 1), words: lines.flatMap((line) => line.words), by: 'space' });
    }
  return regions.sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);
}

const isGrid = (rules: readonly Rule[]) => {
  const down = rules.filter((r) => r.direction === 'down');
  const across = rules.filter((r) => r.direction === 'across');
  return (down.length >= 3 && across.length >= 2) || (down.length >= 1 && across.length >= 3) || (down.length === 2 && across.length >= 3);
};

/** Rules across of like extent, one below the other, with text between each two. */
function stacksOfRules(page: PageContent, rules: readonly Rule[], free: ReadonlySet<number>): Box[] {
  const across = rules.filter((r) => r.direction === 'across' && r.to - r.from > 20).sort((a, b) => a.at - b.at);
  const stacks: { box: Box; rules: Rule[] }[] = [];
  for (const rule of across) {
    const box: Box = [rule.from, rule.at, rule.to, rule.at];
    const stack = stacks.findLast((s) => overlapX(s.box, box) > 0.8 * Math.min(width(s.box), width(box)) && textRunsBetween(page, free, s.box, rule.at));
    // A rule under part of the table (below a heading over several columns) belongs to the stack it hangs in.
    if (stack) {
      stack.box = extend(stack.box, box);
      stack.rules.push(rule);
    } else stacks.push({ box, rules: [rule] });
  }
  return stacks
    .flatMap((stack) => cutByWidth(stack.rules))
    .filter((set) => set.length >= 2)
    .map((set): Box => [Math.min(...set.map((r) => r.from)), set[0].at, Math.max(...set.map((r) => r.to)), set.at(-1)!.at])
    .filter((box) => height(box) > 8)
    .map((box) => grow(box, near));
}

/** A table ends with a rule of its full width: shorter ones below the last such rule belong to another table. */
function cutByWidth(rules: readonly Rule[]): Rule[][] {
  if (rules.length === 0) return [];
  const length = (rule: Rule) => rule.to - rule.from;
  const full = Math.max(...rules.map(length));
  const last = rules.findLastIndex((rule) => length(rule) >= 0.9 * full);
  return [rules.slice(0, last + 1), ...cutByWidth(rules.slice(last + 1))];
}

/** Is the space between a stack's end and the next rule filled with lines of print, without a break of several lines? */
function textRunsBetween(page: PageContent, free: ReadonlySet<number>, stack: Box, next: number): boolean {
  const between: Box = [stack[0] - near, stack[3] - near, stack[2] + near, next + near];
  const lines = linesOf(page.words, [...free].filter((i) => holdsCentre(between, page.words[i].box)));
  if (lines.length === 0) return next - stack[3] < 30;
  let bottom = stack[3];
  for (const line of lines) {
    if (line.box[1] - bottom > 3 * line.fontSize) return false;
    bottom = line.box[3];
  }
  return next - bottom < 3 * lines[0].fontSize;
}

/** Shaded rows of one width, one below the other at most a few rows apart. */
function stacksOfShading(page: PageContent): Box[] {
  const rows: Box[] = [];
  for (const { box } of [...page.fills].sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0])) {
    if (height(box) > 80) continue;
    const row = rows.find((r) => Math.abs(r[1] - box[1]) < 1 && Math.abs(r[3] - box[3]) < 1 && box[0] - r[2] < 3 && r[0] - box[2] < 3);
    if (row) rows[rows.indexOf(row)] = extend(row, box);
    else rows.push(box);
  }
  const stacks: { box: Box; count: number }[] = [];
  for (const row of rows.filter((r) => width(r) > 60)) {
    const stack = stacks.find((s) => Math.abs(s.box[0] - row[0]) < 3 && Math.abs(s.box[2] - row[2]) < 3 && row[1] - s.box[3] < 3 * height(row));
    if (stack) {
      stack.box = extend(stack.box, row);
      stack.count++;
    } else stacks.push({ box: row, count: 1 });
  }
  return stacks.filter((s) => s.count >= 2).map((s) => withUnshadedEnd(page, s.box));
}

/** A last row without shading hangs below the last shaded one. */
function withUnshadedEnd(page: PageContent, box: Box): Box {
  const below: Box = [box[0], box[3], box[2], box[3] + 16];
  const line = linesOf(page.words, page.words.flatMap((w, i) => (holdsCentre(below, w.box) ? [i] : [])))[0];
  return line && phrasesOf(page, line, phraseGap).length > 1 && line.box[1] - box[3] < 8 ? extend(box, [box[0], box[3], box[2], line.box[3] + 1]) : box;
}

/** Two columns of running text are read one after the other: words left and right of the gutter, and those across it. */
function sidesOf(page: PageContent, words: readonly number[]): Line[][] {
  const lines = linesOf(page.words, words);
  const middle = gutterOfProse(page, lines);
  if (middle === undefined) return [lines];
  const left: number[] = [];
  const right: number[] = [];
  const over: Line[] = [];
  for (const line of lines) {
    const crosses = line.words.some((w) => page.words[w].box[0] < middle && page.words[w].box[2] > middle);
    if (crosses) over.push(line);
    else for (const w of line.words) (page.words[w].box[2] <= middle ? left : right).push(w);
  }
  return [over, linesOf(page.words, left), linesOf(page.words, right)];
}

function gutterOfProse(page: PageContent, lines: readonly Line[]): number | undefined {
  if (lines.length < 8) return undefined;
  let best: { x: number; votes: number } | undefined;
  for (let x = 0.35 * page.width; x <= 0.65 * page.width; x += 4) {
    let prose = 0;
    let crossed = 0;
    for (const line of lines) {
      const left = line.words.filter((w) => page.words[w].box[2] <= x);
      const right = line.words.filter((w) => page.words[w].box[0] >= x);
      if (left.length + right.length < line.words.length) crossed++;
      else if (isRunningText(page, left, x - line.box[0]) || isRunningText(page, right, line.box[2] - x)) prose++;
    }
    if (prose >= 6 && crossed < 0.35 * lines.length && prose > 1.5 * crossed && (!best || prose - crossed > best.votes)) best = { x, votes: prose - crossed };
  }
  return best?.x;
}

/** Words set closely, filling most of their measure. */
function isRunningText(page: PageContent, words: readonly number[], measure: number): boolean {
  if (words.length < 5 || measure <= 0) return false;
  const box = around(words.map((w) => page.words[w].box))!;
  const letters = textOf(page.words, words).replace(/[^\p{L}]/gu, '').length;
  const gaps = words.slice(1).map((w, i) => page.words[w].box[0] - page.words[words[i]].box[2]);
  return width(box) > 0.7 * measure && Math.max(...gaps) < page.words[words[0]].fontSize && letters > 15;
}

/** Blocks of lines that follow closely and have at least two tabular lines; they begin and end with one. */
function blocksOf(page: PageContent, lines: readonly Line[]): Line[][] {
  const tabular = lines.map((line) => phrasesOf(page, line, phraseGap).length > 1);
  const blocks: Line[][] = [];
  let open: number[] = [];
  const close = () => {
    while (open.length > 0 && !tabular[open.at(-1)!]) open.pop();
    if (open.filter((i) => tabular[i]).length >= 2) blocks.push(open.map((i) => lines[i]));
    open = [];
  };
  lines.forEach((line, i) => {
    if (open.length > 0) {
      const above = lines[open.at(-1)!];
      const gap = line.box[1] - above.box[3];
      const plain = open.length - 1 - open.findLastIndex((at) => tabular[at]);
      if (gap > 1.6 * line.fontSize || plain >= 2 || (plain >= 1 && !tabular[i])) close();
    }
    if (open.length > 0 || tabular[i]) open.push(i);
  });
  close();
  return blocks.flatMap((block) => splitByShape(page, block));
}

/** Two tables set closely one below the other show as a change of gutters across a wider gap. */
function splitByShape(page: PageContent, lines: Line[]): Line[][] {
  for (let i = 2; i < lines.length - 1; i++) {
    const gap = lines[i].box[1] - lines[i - 1].box[3];
    if (gap < 0.9 * lines[i].fontSize) continue;
    const above = guttersOf(page, lines.slice(0, i)).length;
    const below = guttersOf(page, lines.slice(i)).length;
    const all = guttersOf(page, lines).length;
    if (above > 0 && below > 0 && above !== below && all < Math.max(above, below)) return [lines.slice(0, i), ...splitByShape(page, lines.slice(i))];
  }
  return [lines];
}

/** Dots that lead the eye from a text to its number: ink, but no text. */
const isLeader = (text: string) => /^[.·…]{4,}$/.test(text) || text === '…';

const bullet = /^(?:[•▪◦‣∙·*–—-]|\(?[0-9a-z]{1,3}[.)])$/i;

/** Does a block hold short texts in columns, and not running text, a list of points, or a single column? */
function readsAsTable(page: PageContent, lines: readonly Line[], by: Region['by']): boolean {
  if (lines.length < 2) return false;
  const gutters = guttersOf(page, lines);
  if (gutters.length === 0) return false;
  const phrases = lines.map((line) => phrasesOf(page, line, by === 'space' ? 0.7 : phraseGap));
  const wide = phrases.filter((line) => line.length > 1);
  if (wide.length < 2 || (by === 'space' && wide.length < 0.4 * lines.length)) return false;
  const texts = wide.flatMap((line) => line.map((phrase) => textOf(page.words, phrase.words)));
  const numeric = texts.filter(looksNumeric).length / texts.length;
  const wordsEach = wide.flatMap((line) => line.map((phrase) => phrase.words.length));
  const meanWords = wordsEach.reduce((sum, n) => sum + n, 0) / wordsEach.length;
  const bullets = wide.filter((line) => bullet.test(textOf(page.words, line[0].words))).length;
  if (by === 'space' && gutters.length === 1 && bullets > 0.5 * wide.length) return false;
  if (by === 'space' && meanWords > (numeric > 0.25 ? 5 : 3.4)) return false;
  return !(by === 'space' && numeric < 0.05 && gutters.length === 1 && meanWords > 2.2);
}

/** Bars that stand on one base line and rise to different heights (or start at one line and run to different lengths): a chart. */
function isChart(page: PageContent, region: Box): boolean {
  const bars = page.fills.map((fill) => fill.box).filter((box) => overlaps(box, grow(region, 4)) && !page.words.some((word) => holdsCentre(box, word.box)));
  const alongOneLine = (base: 0 | 3, length: (box: Box) => number) =>
    bars.some((bar) => {
      const same = bars.filter((other) => Math.abs(other[base] - bar[base]) < 1);
      return same.length >= 3 && new Set(same.map((box) => Math.round(length(box)))).size >= 2;
    });
  return alongOneLine(3, height) || alongOneLine(0, width);
}
