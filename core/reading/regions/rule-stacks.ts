import { extend, grow, height, holdsCentre, overlapX, width, type Box } from '../../page/box';
import { linesOf, textOf, type Line } from '../../page/lines';
import type { PageContent, Rule } from '../../page/page';
import { guttersOf } from '../gutters';
import { near } from '../rules';
import { isCaption, isParted, isProse, isRunningText, isTabular } from './print';

/** Rules across of like extent, one below the other, with lines of a table between each two. */
export function stacksOfRules(page: PageContent, rules: readonly Rule[], words: readonly number[]): Box[] {
  const across = rules.filter((r) => r.direction === 'across' && r.to - r.from > 20).sort((a, b) => a.at - b.at);
  const stacks: { box: Box; rules: Rule[] }[] = [];
  for (const rule of across) {
    const box: Box = [rule.from, rule.at, rule.to, rule.at];
    const stack = stacks.findLast(
      (s) =>
        overlapX(s.box, box) > 0.8 * Math.min(width(s.box), width(box)) && textRunsBetween(page, words, s.box, rule),
    );
    // A rule under part of the table (below a heading over several columns) belongs to the stack it hangs in.
    if (stack) {
      stack.box = extend(stack.box, box);
      stack.rules.push(rule);
    } else stacks.push({ box, rules: [rule] });
  }
  return stacks
    .flatMap((stack) => cutByText(page, words, stack.rules))
    .flatMap(cutByWidth)
    .filter((set) => set.length >= 2)
    .map((set): Box => [
      Math.min(...set.map((r) => r.from)),
      set[0].at,
      Math.max(...set.map((r) => r.to)),
      set.at(-1)!.at,
    ])
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

const linesIn = (page: PageContent, words: readonly number[], box: Box): Line[] =>
  linesOf(
    page.words,
    words.filter((i) => holdsCentre(box, page.words[i].box)),
  );

/** Lines without a gap this many font sizes wide follow each other. */
const widestGap = 3;

/** Is the space between a stack's end and the next rule filled with lines of print, without a break of several lines? */
function textRunsBetween(page: PageContent, words: readonly number[], [x0, , x1, y]: Box, next: Rule): boolean {
  const lines = linesIn(page, words, [
    Math.min(x0, next.from) - near,
    y - near,
    Math.max(x1, next.to) + near,
    next.at + near,
  ]);
  if (lines.length === 0) return next.at - y < 30;
  let bottom = y;
  for (const line of lines) {
    if (line.box[1] - bottom > widestGap * line.fontSize) return false;
    bottom = line.box[3];
  }
  return next.at - bottom < widestGap * lines[0].fontSize;
}

/** How many stretches between rules, above and below one, tell what the columns are there. */
const looked = 3;
/** A lone label between two rules of one table stands in no more room than this many font sizes. */
const labelRoom = 2.4;
/** Or than rows between rules have, by this much. */
const roomier = 1.4;

/**
 * Cuts a stack where what stands between two rules is no part of a table: running text that pays no heed to the columns
 * above and below it, the caption of the next table, a lone line with room about it between different columns.
 */
function cutByText(page: PageContent, words: readonly number[], rules: readonly Rule[]): Rule[][] {
  const [left, right] = [Math.min(...rules.map((r) => r.from)), Math.max(...rules.map((r) => r.to))];
  const stretches = rules
    .slice(1)
    .map((rule, i) => linesIn(page, words, [left - near, rules[i].at - near, right + near, rule.at + near]));
  const heights = rules
    .slice(1)
    .map((rule, i) => rule.at - rules[i].at)
    .sort((a, b) => a - b);
  const usual = heights[heights.length >> 1] ?? 0;
  const parts: Rule[][] = [[rules[0]]];
  rules.slice(1).forEach((rule, i) => {
    const lines = stretches[i];
    const goesOn = (): boolean => {
      if (lines.length === 0) return true;
      const above = stretches.slice(Math.max(0, i - looked), i).flat();
      const below = stretches.slice(i + 1, i + 1 + looked).flat();
      const around = [...above, ...below];
      if (
        lines.some((line) => isTabular(page, line)) &&
        !lines.some((line) => isRunningText(page, line.words, right - left))
      )
        return true;
      if (lines.some(isProse(page, guttersOf(page, around).length > 0 ? around : lines, right - left))) return false;
      if (lines.some((line) => isTabular(page, line) || isParted(page, line, guttersOf(page, around)))) return true;
      if (lines.some((line) => isCaption(textOf(page.words, line.words)))) return false;
      if (rule.at - rules[i].at <= Math.max(labelRoom * lines[0].fontSize * lines.length, roomier * usual)) return true;
      const [upper, lower] = [guttersOf(page, above), guttersOf(page, below)];
      return (
        upper.length > 0 &&
        upper.length === lower.length &&
        upper.every((gutter, n) => gutter.from < lower[n].to && lower[n].from < gutter.to)
      );
    };
    if (goesOn()) parts.at(-1)!.push(rule);
    else parts.push([rule]);
  });
  return parts;
}
