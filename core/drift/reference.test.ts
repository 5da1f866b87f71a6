import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, likenessOf, median, overlap, referenceOf, shareOf, usual } from './reference';
import type { ColumnTraits } from './traits';

const column = (some: Partial<ColumnTraits> = {}): ColumnTraits => ({
  name: 'Boxes',
  cells: 10,
  filled: 10,
  numbers: 10,
  sizes: [1, 1.5, 2],
  sum: 300,
  decimals: 0,
  sample: [1, 2, 3],
  ...some,
});
const texts = (some: Partial<ColumnTraits> = {}): ColumnTraits => ({
  name: 'Quay',
  cells: 10,
  filled: 10,
  numbers: 0,
  shape: 'aaa',
  shaped: 1,
  sample: [7, 8, 9],
  ...some,
});

describe('what a column usually looks like', () => {
  it('is the middle of what it is in several reports: one odd report does not move it', () => {
    const same = [column(), column(), column(), column()];
    const odd = column({ sizes: [4, 5, 6], decimals: 2, unit: 'kg', numbers: 2 });
    const { sample: _, repeats: __, ...plain } = referenceOf(same);
    expect(referenceOf([...same, odd])).toMatchObject(plain);
    expect(plain).toEqual({ share: 1, sizes: [1, 1.5, 2], decimals: 0 });
  });

  it('has no unit, form or digits that no more than half of the reports have', () => {
    expect(usual(['kg', 'kg', 't'])).toBe('kg');
    expect(usual(['kg', 't'])).toBeUndefined();
    expect(usual([])).toBeUndefined();
    expect(referenceOf([column({ decimals: 2 }), column({ decimals: 0 })]).decimals).toBeUndefined();
    expect([median([3, 1, 2]), median([4, 1, 3, 2]), median([5])]).toEqual([2, 2, 5]);
  });

  it('says nothing of columns that are blank everywhere', () => {
    const blank = column({ filled: 0, numbers: 0 });
    expect([
      shareOf(blank),
      referenceOf([blank, blank]).share,
      distance(column(), referenceOf([blank])),
      distance(blank, referenceOf([column()])),
    ]).toEqual([undefined, undefined, 0, 0]);
  });

  it('knows whether its values come again from report to report', () => {
    expect(referenceOf([texts(), texts(), texts()]).repeats).toBe(1);
    expect(referenceOf([texts({ sample: [1, 2] }), texts({ sample: [3, 4] }), texts({ sample: [5, 6] })]).repeats).toBe(
      0,
    );
    expect(overlap(texts({ sample: [] }), new Set())).toBe(1);
    expect(overlap(texts({ sample: [1, 2, 3, 4] }), new Set([2, 4, 9]))).toBe(0.5);
  });
});

describe('how unlike a column is to another', () => {
  const numbers = referenceOf([column(), column()]);
  const names = referenceOf([texts(), texts()]);

  it('is not at all for one that looks as it does', () => {
    expect([distance(column(), numbers), distance(texts(), names)]).toEqual([0, 0]);
    expect([likenessOf(column(), numbers), likenessOf(texts(), names)]).toEqual([1, 1]);
  });

  it('is more for texts in the place of numbers than for any numbers', () => {
    fc.assert(
      fc.property(
        fc.tuple(
          fc.double({ min: -3, max: 9, noNaN: true }),
          fc.double({ min: 0, max: 3, noNaN: true }),
          fc.double({ min: 0, max: 3, noNaN: true }),
        ),
        fc.constantFrom(0, 2),
        ([least, a, b], decimals) => {
          const other = column({ sizes: [least, least + a, least + a + b], decimals });
          expect(distance(texts(), numbers)).toBeGreaterThanOrEqual(distance(other, numbers));
          expect(likenessOf(other, numbers)).toBeGreaterThanOrEqual(0);
        },
      ),
    );
  });

  it('grows with the size of numbers, with other digits, and with another unit', () => {
    const bySize = [0, 0.5, 1, 2].map((more) => distance(column({ sizes: [1 + more, 1.5 + more, 2 + more] }), numbers));
    expect(bySize).toEqual([...bySize].sort((a, b) => a - b));
    expect(bySize[3]).toBeGreaterThan(bySize[0]);
    expect(distance(column({ decimals: 2 }), numbers)).toBe(0.5);
    expect(distance(column({ unit: 'kg' }), referenceOf([column({ unit: 't' }), column({ unit: 't' })]))).toBe(1);
  });

  it('of texts grows where values that came again do not, and where their form is another', () => {
    expect(distance(texts({ sample: [91, 92, 93] }), names)).toBe(1);
    expect(distance(texts({ sample: [7, 8, 93] }), names)).toBeCloseTo(1 / 3, 9);
    expect(distance(texts({ shape: '99-aa' }), names)).toBe(1);
    // Free texts look like nothing in particular.
    expect(distance(texts({ shaped: 0.4 }), names)).toBe(0.5);
  });

  it('tells which of two columns under other headings is which by their contents', () => {
    const weights = referenceOf([
      column({ sizes: [3, 3.5, 4], decimals: 1 }),
      column({ sizes: [3, 3.6, 4], decimals: 1 }),
    ]);
    const newer = column({ name: 'Cases', sizes: [1.1, 1.5, 2], decimals: 0 });
    expect(likenessOf(newer, numbers)).toBeGreaterThan(likenessOf(newer, weights));
  });
});
