import { signal } from '@angular/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GridGeometry, headHeight, isSkipped, mostHeight, rowHeight } from './grid-geometry';
import type { GridColumn, GridRow } from './grid-source';

interface Asked {
  readonly rows?: number;
  readonly columns?: readonly GridColumn[];
  readonly sample?: readonly GridRow[];
  readonly widths?: Readonly<Record<string, number>>;
  readonly upTo?: string;
}
const column = (name: string, type: GridColumn['type'] = 'text'): GridColumn => ({ name, type });
function geometry({ rows = 100, columns = [column('Quay'), column('Value', 'decimal')], sample = [], widths = {}, upTo }: Asked = {}) {
  return new GridGeometry({
    rows: signal(rows),
    columns: signal(columns),
    sample: signal(sample),
    reasons: signal(false),
    layout: signal({ widths, ...(upTo === undefined ? {} : { upTo }) }),
    text: (cell) => (cell === null ? '' : String(cell)),
  });
}
const many = (count: number) => Array.from({ length: count }, (_, i) => column(`Column ${i}`));

describe('the columns of a grid', () => {
  it('are as wide as what stands in them, within limits, or as they were dragged', () => {
    const sample: GridRow[] = [{ label: '1·2', cells: ['x'.repeat(20), 1.5, 'y'.repeat(400), null] }];
    const at = geometry({ columns: [column('A'), column('B', 'decimal'), column('C'), column('D')], sample, widths: { D: 123 } });
    const [a, b, c, d] = at.widths();
    expect([a > b, c, d]).toEqual([true, 320, 123]);
    expect(b).toBeGreaterThanOrEqual(56);
    expect(at.width()).toBe(at.marginWidth() + a + b + c + d);
  });

  it('show as many digits as their numbers have', () => {
    const sample: GridRow[] = [{ label: '', cells: [1.5, 2, 8589.25] }, { label: '', cells: [2.125, 3, null] }];
    expect(geometry({ columns: [column('A', 'decimal'), column('B', 'integer'), { ...column('C', 'decimal'), decimals: 4 }], sample }).decimals()).toEqual([3, 0, 4]);
  });

  it('together with the room between them are all of the width, wherever one scrolls', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 120 }), fc.integer({ min: 0, max: 12_000 }), fc.integer({ min: 200, max: 2000 }), fc.integer({ min: -1, max: 8 }), (count, left, width, upTo) => {
        const columns = many(count);
        const at = geometry({ columns, ...(upTo >= 0 && upTo < count ? { upTo: columns[upTo].name } : {}) });
        at.view.set({ top: 0, left, height: 600, width });
        const shown = at.shown();
        expect(shown.reduce((sum, each) => sum + each.width, 0)).toBe(at.lefts().at(-1));
        const drawn = shown.filter((each) => !isSkipped(each));
        expect(new Set(drawn.map(({ at: own }) => own)).size).toBe(drawn.length);
        expect(drawn.map(({ at: own }) => own)).toEqual([...drawn.map(({ at: own }) => own)].sort((a, b) => a - b));
        // Whatever lies in sight is drawn.
        const lefts = at.lefts();
        const from = left + at.frozenWidth();
        for (let i = at.frozen(); i < count; i++) if (lefts[i + 1] > from && lefts[i] < left + width - at.marginWidth()) expect(drawn.some(({ at: own }) => own === i)).toBe(true);
      }),
    );
  });

  it('that are to stay in sight do so as long as they leave room for others', () => {
    const columns = many(30);
    const at = geometry({ columns, upTo: 'Column 2' });
    at.view.set({ top: 0, left: 5000, height: 600, width: 1200 });
    expect(at.frozen()).toBe(3);
    expect(at.shown().slice(0, 3).map(({ left }) => left)).toEqual([0, 1, 2].map((i) => at.marginWidth() + at.lefts()[i]));
    expect(at.shown().slice(3).every(({ left }) => left === null)).toBe(true);
    at.view.set({ top: 0, left: 0, height: 600, width: 220 });
    expect(at.frozen()).toBeLessThan(3);
    expect(geometry({ columns, upTo: 'gone' }).frozen()).toBe(0);
  });
});

describe('the rows of a grid', () => {
  it('in sight are fetched with a few more on both sides, from the first to the last', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2_000_000 }), fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 100, max: 1400 }), (rows, share, height) => {
        const at = geometry({ rows });
        const most = Math.max(0, at.height() + headHeight - height);
        at.view.set({ top: Math.round(share * most), left: 0, height, width: 900 });
        const { first, last } = at.range();
        expect(first).toBeGreaterThanOrEqual(0);
        expect(last).toBeLessThanOrEqual(rows);
        expect(first).toBeLessThanOrEqual(at.firstInSight());
        if (rows > 0) expect(last).toBeGreaterThan(Math.min(at.firstInSight(), rows - 1));
      }),
    );
  });

  it('are all reached by the scroll bar, also beyond the height that browsers bear', () => {
    for (const rows of [10, 1000, 1_000_000, 1_900_000]) {
      const at = geometry({ rows });
      expect(at.height()).toBe(Math.min(rows * rowHeight, mostHeight));
      at.view.set({ top: Math.max(0, at.height() - (600 - headHeight)), left: 0, height: 600, width: 900 });
      expect(at.range().last).toBe(rows);
      at.view.set({ top: 0, left: 0, height: 600, width: 900 });
      expect(at.range().first).toBe(0);
    }
  });

  it('are scrolled to where they are not in sight, and left where they are', () => {
    fc.assert(
      fc.property(fc.integer({ min: 50, max: 2_000_000 }), fc.double({ min: 0, max: 1, noNaN: true }), (rows, share) => {
        const at = geometry({ rows });
        const row = Math.round(share * (rows - 1));
        const top = at.topFor(row, 600);
        if (top === undefined) expect(row).toBeLessThan(20);
        else {
          at.view.set({ top, left: 0, height: 600, width: 900 });
          expect(at.topFor(row, 600)).toBeUndefined();
        }
      }),
    );
  });
});
