import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exactSum } from './exact';

describe('sums of decimals', () => {
  it('are those of the printed digits', () => {
    expect(exactSum([0.1, 0.2])).toBe(0.3);
    expect(exactSum([1e-7, 2e-7])).toBe(3e-7);
    expect(exactSum([])).toBe(0);
    expect(exactSum([-1.5, 1.25])).toBe(-0.25);
  });
  it('do not depend on the order', () => {
    const cents = fc.integer({ min: -1e9, max: 1e9 }).map((n) => n / 100);
    fc.assert(fc.property(fc.array(cents), (amounts) => void expect(exactSum(amounts)).toBe(exactSum([...amounts].reverse()))));
    fc.assert(fc.property(fc.array(fc.integer({ min: -1e6, max: 1e6 })), (whole) => void expect(exactSum(whole.map((n) => n / 100))).toBe(whole.reduce((sum, n) => sum + n, 0) / 100)));
  });
});
