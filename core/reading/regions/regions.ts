import { around, grow, height, holdsCentre, overlapX, overlaps, width, type Box } from '../../page/box';
import { linesOf, type Line } from '../../page/lines';
import type { PageContent, Rule } from '../../page/page';
import { guttersOf, phrasesOf } from '../columns';
import { connected, joined } from '../rules';
import { wordsOfTagged } from '../tagged-words';
import { blocksOf } from './blocks';
import { crosses, isLeader, isRunningText, isTypedRule, phraseGap } from './print';
import { stacksOfRules } from './rule-stacks';
import { stacksOfShading } from './shaded-stacks';
import { partBeside } from './side-by-side';
import { stripsOf, type Strip } from './strips';
import { isChart, readsAsTable } from './table-test';

/** Where a table may stand, and which marks speak for it. */
export interface Region {
  readonly box: Box;
  readonly words: readonly number[];
  readonly by: 'tags' | 'grid' | 'rules' | 'shading' | 'space';
}

/**
 * Proposes the regions of a page, marks first: the file's tags and grids of rules, then in each strip of the page stacks of rules across,
 * shaded rows, and blocks of lines parted by white space. Words once claimed are not proposed again.
 */
export function regionsOf(page: PageContent, furniture: ReadonlySet<number>): Region[] {
  const free = new Set(page.words.flatMap((word, i) => (furniture.has(i) || word.angle !== 0 || isLeader(word.text) || isTypedRule(word.text) ? [] : [i])));
  const regions: Region[] = [];
  const claim = (words: readonly number[], box: Box, by: Region['by']) => {
    words.forEach((i) => free.delete(i));
    const whole = around([...words.map((i) => page.words[i].box), box])!;
    // Headings may be turned on their side to save room.
    const turned = page.words.flatMap((word, i) => ((word.angle === 90 || word.angle === 270) && holdsCentre(whole, word.box) ? [i] : []));
    regions.push({ box: whole, words: [...words, ...turned], by });
  };
  for (const { words, box } of taggedRegions(page, free)) claim(words, box, 'tags');
  const groups = gridsStacked(connected(joined([...page.rules, ...typedRules(page)])));
  for (const group of groups) {
    const words = [...free].filter((i) => holdsCentre(grow(group.box, 1), page.words[i].box));
    if (isGrid(group.rules) && words.length >= 2) claim(words, group.box, 'grid');
  }
  const rules = groups.filter((g) => !isGrid(g.rules)).flatMap((g) => g.rules);
  for (const strip of stripsOf(page, [...free], rules)) {
    const claimLines = (box: Box, by: 'rules' | 'shading') => {
      const words = strip.words.filter((i) => free.has(i) && holdsCentre(box, page.words[i].box));
      if (words.length < 2 || isChart(page, box)) return;
      const lines = withAdjoining(page, linesOf(page.words, words), linesOf(page.words, strip.words.filter((i) => free.has(i))), strip);
      if (!readsAsTable(page, lines, by)) return;
      claim(lines.flatMap((line) => line.words), around([box, ...lines.map((line) => line.box)])!, by);
    };
    for (const box of stacksOfRules(page, strip.rules, strip.words.filter((i) => free.has(i)))) claimLines(box, 'rules');
    for (const box of stacksOfShading(page.fills.filter((fill) => overlaps(fill.box, strip.box)))) if (overlapX(box, strip.box) > 0.8 * width(box)) claimLines(box, 'shading');
    const claimBlocks = (among: readonly Line[]) => {
      for (const lines of blocksOf(page, among)) {
        const middle = partBeside(page, lines);
        if (middle !== undefined) {
          const words = lines.flatMap((line) => line.words);
          claimBlocks(linesOf(page.words, words.filter((w) => page.words[w].box[2] <= middle)));
          claimBlocks(linesOf(page.words, words.filter((w) => page.words[w].box[0] >= middle)));
          continue;
        }
        const box = around(lines.map((line) => line.box))!;
        if (readsAsTable(page, lines, 'space') && !isChart(page, box)) claim(lines.flatMap((line) => line.words), grow(box, 1), 'space');
      }
    };
    claimBlocks(linesOf(page.words, strip.words.filter((i) => free.has(i))));
  }
  return regions.sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);
}

/** A cell of more words than this holds a text, not a value: tags that arrange a page, not a table. */
const longestCell = 60;

/** Tables by the file's own tags, when they hold what a table holds: several rows and columns of short texts. */
function taggedRegions(page: PageContent, free: ReadonlySet<number>): { words: number[]; box: Box }[] {
  return (page.tagged ?? []).flatMap((table) => {
    const rows = wordsOfTagged(page, table);
    const words = rows.flat().flatMap((cell) => cell.words).filter((w) => free.has(w));
    const filled = rows.map((row) => row.filter((cell) => cell.words.length > 0).length);
    const box = around(words.map((w) => page.words[w].box));
    const strangers = box ? [...free].filter((w) => holdsCentre(box, page.words[w].box)).length - words.length : 0;
    if (!box || rows.length < 2 || Math.max(...filled) < 2 || strangers > 0.1 * words.length) return [];
    return rows.flat().some((cell) => cell.words.length > longestCell) ? [] : [{ words, box: grow(box, 1) }];
  });
}

/** Rules typed as rows of dashes. A row of several is one rule from the first dash to the last. */
function typedRules(page: PageContent): Rule[] {
  return linesOf(page.words, page.words.flatMap((word, i) => (isTypedRule(word.text) && word.angle === 0 ? [i] : []))).map(({ box, fontSize }) => ({
    direction: 'across',
    at: (box[1] + box[3]) / 2,
    from: box[0],
    to: box[2],
    thickness: 0.05 * fontSize,
  }));
}

/** Room within a double rule, in points: the grids above and below it are one. */
const doubleRule = 5;

type Group = ReturnType<typeof connected>[number];

function gridsStacked(groups: readonly Group[]): Group[] {
  const out: Group[] = [];
  for (const group of [...groups].sort((a, b) => a.box[1] - b.box[1])) {
    const above = out.find(
      ({ box, rules }) =>
        group.box[1] >= box[3] - 1 &&
        group.box[1] - box[3] < doubleRule &&
        Math.abs(group.box[0] - box[0]) < 2 &&
        Math.abs(group.box[2] - box[2]) < 2 &&
        [rules, group.rules].every((set) => set.some((r) => r.direction === 'down')),
    );
    if (above) out[out.indexOf(above)] = { rules: [...above.rules, ...group.rules], box: around([above.box, group.box])! };
    else out.push(group);
  }
  return out;
}

const isGrid = (rules: readonly Rule[]) => {
  const down = rules.filter((r) => r.direction === 'down');
  const across = rules.filter((r) => r.direction === 'across');
  return (down.length >= 3 && across.length >= 2) || (down.length >= 1 && across.length >= 3);
};

/**
 * The lines of a region drawn by marks, with the rows above and below that no mark holds: headings above the first rule
 * or the first shaded row, rows below the last. Such a row follows closely and keeps to the columns.
 */
function withAdjoining(page: PageContent, inside: readonly Line[], all: readonly Line[], strip: Strip): Line[] {
  const gutters = guttersOf(page, inside);
  const measure = width(strip.box);
  const gaps = inside.slice(1).map((line, i) => line.box[1] - inside[i].box[3]);
  const lines = [...inside];
  const clear = (box: Box) => gutters.filter(({ from, to }) => box[0] >= from || box[2] <= to).length;
  const fits = (line: Line) => {
    const phrases = phrasesOf(page, line, phraseGap);
    const keeps = gutters.filter((gutter) => !crosses(page, line, gutter)).length >= 0.75 * gutters.length;
    return phrases.length > 1 && !isRunningText(page, line.words, measure) && (keeps || (phrases.length > 2 && phrases.every(({ box }) => clear(box) >= 0.6 * gutters.length)));
  };
  const ruled = (from: number, to: number) => strip.rules.some((rule) => rule.direction === 'across' && rule.at > from && rule.at < to);
  const follows = (upper: Line, lower: Line) => {
    const gap = lower.box[1] - upper.box[3];
    return gap < 2 * lower.fontSize && (gap <= Math.max(0.9 * lower.fontSize, ...gaps.map((g) => 1.2 * g)) || ruled(upper.box[3], lower.box[1]));
  };
  const before = all.filter((line) => line.box[3] <= inside[0].box[1] + 0.3 * height(line.box) && !inside.includes(line)).reverse();
  // The last line of a wrapped heading may have a text over one column only.
  const wraps = (line: Line) => phrasesOf(page, line, phraseGap).length === 1 && gutters.length > 0 && gutters.every((gutter) => !crosses(page, line, gutter)) && width(line.box) < 0.4 * measure;
  for (let i = 0; i < before.length; i++) {
    if (!follows(before[i], lines[0])) break;
    if (fits(before[i])) lines.unshift(before[i]);
    else if (wraps(before[i]) && before[i + 1] && follows(before[i + 1], before[i]) && fits(before[i + 1])) lines.unshift(before[++i], before[i - 1]);
    else break;
  }
  const after = all.filter((line) => line.box[1] >= inside.at(-1)!.box[3] - 0.3 * height(line.box));
  for (const line of after) {
    if (!follows(lines.at(-1)!, line) || !fits(line)) break;
    lines.push(line);
  }
  return lines;
}
