import { extend, height, width, type Box } from '../../page/box';
import type { Fill } from '../../page/page';

/** The highest band of shading that may stand behind a row, in points. */
const highest = 80;

/** Shaded rows of one width, one below the other at most a few rows apart. */
export function stacksOfShading(fills: readonly Fill[]): Box[] {
  const rows: Box[] = [];
  for (const { box } of [...fills].sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0])) {
    if (height(box) > highest) continue;
    const row = rows.find(
      (r) => Math.abs(r[1] - box[1]) < 1 && Math.abs(r[3] - box[3]) < 1 && box[0] - r[2] < 3 && r[0] - box[2] < 3,
    );
    if (row) rows[rows.indexOf(row)] = extend(row, box);
    else rows.push(box);
  }
  const stacks: { box: Box; count: number }[] = [];
  for (const row of rows.filter((r) => width(r) > 60)) {
    const stack = stacks.find(
      (s) => Math.abs(s.box[0] - row[0]) < 3 && Math.abs(s.box[2] - row[2]) < 3 && row[1] - s.box[3] < 3 * height(row),
    );
    if (stack) {
      stack.box = extend(stack.box, row);
      stack.count++;
    } else stacks.push({ box: row, count: 1 });
  }
  return stacks.filter((s) => s.count >= 2).map((s) => s.box);
}
