import { height, overlapX, width, type Box } from '../page/box';
import type { PageContent } from '../page/page';
import { positions } from './rules';

/** Edges of the shaded rows in a region, top to bottom: fills as wide as most of it, cell by cell or whole. */
export function shadingBands(page: PageContent, region: Box): number[] {
  const fills = page.fills.filter(
    ({ box }) =>
      box[1] >= region[1] - 3 &&
      box[3] <= region[3] + 3 &&
      overlapX(box, region) > 0 &&
      height(box) < 0.6 * height(region),
  );
  const rows = new Map<string, { top: number; bottom: number; covered: number }>();
  for (const { box } of fills) {
    const key = `${Math.round(box[1])}:${Math.round(box[3])}`;
    const row = rows.get(key) ?? { top: box[1], bottom: box[3], covered: 0 };
    row.covered += Math.min(width(box), width(region));
    rows.set(key, row);
  }
  const wide = [...rows.values()].filter((row) => row.covered > 0.7 * width(region));
  if (wide.length < 2) return [];
  return positions([region[1], ...wide.flatMap((row) => [row.top, row.bottom]), region[3]], 2.5);
}
