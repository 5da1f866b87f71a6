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
  it('are exact for amounts of any size and any number of digits, next to each other', () => {
    expect(exactSum([9007199254740991, 1, 0.5])).toBe(9007199254740992);
    expect(exactSum([0.1, 1e15, -1e15])).toBe(0.1);
    expect(exactSum([1e22, 1, -1e22])).toBe(1);
    expect(exactSum([123456789.123456, 0.000001, 5e-324 * 0])).toBe(123456789.123457);
    const amount = fc
      .tuple(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 0, max: 6 }))
      .map(([n, digits]) => ({ units: BigInt(n) * 10n ** BigInt(6 - digits), value: n / 10 ** digits }));
    // Against whole millionths.
    fc.assert(
      fc.property(
        fc.array(amount, { maxLength: 40 }),
        (amounts) =>
          void expect(exactSum(amounts.map(({ value }) => value))).toBe(
            Number(amounts.reduce((sum, { units }) => sum + units, 0n)) / 1e6,
          ),
      ),
    );
  });
  it('do not depend on the order', () => {
    const cents = fc.integer({ min: -1e9, max: 1e9 }).map((n) => n / 100);
    fc.assert(
      fc.property(fc.array(cents), (amounts) => void expect(exactSum(amounts)).toBe(exactSum([...amounts].reverse()))),
    );
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -1e6, max: 1e6 })),
        (whole) => void expect(exactSum(whole.map((n) => n / 100))).toBe(whole.reduce((sum, n) => sum + n, 0) / 100),
      ),
    );
  });
});
