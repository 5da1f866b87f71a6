import { overlap, type Box } from '../page/box';
import type { Rule } from '../page/page';

/** Marks closer than this many points are one mark. */
export const near = 2;

/** Joins collinear rules that touch or overlap: cell borders drawn one by one become the line that is seen. */
export function joined(rules: readonly Rule[]): Rule[] {
  const out: Rule[] = [];
  for (const direction of ['across', 'down'] as const) {
    const order = rules.filter((r) => r.direction === direction).sort((a, b) => a.at - b.at || a.from - b.from);
    for (let i = 0; i < order.length;) {
      // All rules at one place: positions may creep by rounding, so each is held against the first.
      let end = i;
      while (end < order.length && order[end].at - order[i].at <= near) end++;
      const same = order.slice(i, end).sort((a, b) => a.from - b.from);
      let open: Rule | undefined;
      for (const rule of same) {
        if (open && rule.from - open.to <= near)
          open = { ...open, to: Math.max(open.to, rule.to), thickness: Math.max(open.thickness, rule.thickness) };
        else {
          if (open) out.push(open);
          open = rule;
        }
      }
      if (open) out.push(open);
      i = end;
    }
  }
  return out;
}

const boxOf = (r: Rule): Box => (r.direction === 'across' ? [r.from, r.at, r.to, r.at] : [r.at, r.from, r.at, r.to]);

const touch = (a: Rule, b: Rule): boolean =>
  a.direction === b.direction
    ? Math.abs(a.at - b.at) <= near && overlap(a.from, a.to, b.from, b.to) >= -near
    : b.at >= a.from - near && b.at <= a.to + near && a.at >= b.from - near && a.at <= b.to + near;

/** Rules that hang together, directly or through others. */
export function connected(rules: readonly Rule[]): { rules: Rule[]; box: Box }[] {
  const group = rules.map((_, i) => i);
  const root = (i: number): number => (group[i] === i ? i : (group[i] = root(group[i])));
  for (let i = 0; i < rules.length; i++)
    for (let j = i + 1; j < rules.length; j++) if (touch(rules[i], rules[j])) group[root(i)] = root(j);
  const sets = new Map<number, Rule[]>();
  rules.forEach((rule, i) => sets.set(root(i), [...(sets.get(root(i)) ?? []), rule]));
  return [...sets.values()].map((set) => {
    const boxes = set.map(boxOf);
    return {
      rules: set,
      box: [
        Math.min(...boxes.map((b) => b[0])),
        Math.min(...boxes.map((b) => b[1])),
        Math.max(...boxes.map((b) => b[2])),
        Math.max(...boxes.map((b) => b[3])),
      ] as Box,
    };
  });
}

/** Sorted positions with near ones merged into their mean. */
export function positions(values: readonly number[], tolerance = near): number[] {
  const order = [...values].sort((a, b) => a - b);
  const groups: number[][] = [];
  for (const value of order) {
    const open = groups.at(-1);
    if (open && value - open[0] <= tolerance) open.push(value);
    else groups.push([value]);
  }
  return groups.map((g) => g.reduce((sum, v) => sum + v, 0) / g.length);
}
