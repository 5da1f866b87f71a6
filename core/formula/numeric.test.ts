// Against whole numbers without end: a decimal n × 10^-s is the fraction n / 10^s.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  absolute,
  add,
  ceiling,
  compare,
  divide,
  floor,
  fromNumber,
  isWhole,
  multiply,
  negated,
  numericText,
  parsed,
  power,
  remainder,
  rounded,
  signOf,
  subtract,
  toNumber,
  truncated,
  whole,
  zero,
  type Numeric,
} from './numeric';

const large = fc.bigInt({ min: -(10n ** 40n), max: 10n ** 40n });
const small = fc.integer({ min: -1_000_000, max: 1_000_000 }).map(BigInt);
/** Numbers of few digits and of many, as they may be written. */
const numeric = fc
  .record({ n: fc.oneof(small, large), s: fc.integer({ min: 0, max: 12 }) })
  .map(({ n, s }) => parsed(textOf(n, s))!);
const nonzero = numeric.filter(({ n }) => n !== 0);

function textOf(n: bigint, s: number): string {
  const digits = String(n < 0n ? -n : n).padStart(s + 1, '0');
  return `${n < 0n ? '-' : ''}${s === 0 ? digits : `${digits.slice(0, -s)}.${digits.slice(-s)}`}`;
}
/** The number times 10^at, which is whole as `at` is as large as its scale. */
const times = ({ n, s }: Numeric, at: number): bigint => BigInt(n) * 10n ** BigInt(at - s);
const far = 60;
const abs = (n: bigint) => (n < 0n ? -n : n);
const given = (text: string) => parsed(text)!;

describe('a decimal', () => {
  it('is read and written as it stands, with all its digits', () => {
    fc.assert(
      fc.property(fc.oneof(small, large), fc.integer({ min: 0, max: 30 }), (n, s) => {
        const text = textOf(n, s);
        expect(numericText(given(text))).toBe(n === 0n ? text.replace('-', '') : text);
      }),
    );
  });

  it('may be written with an exponent, a sign, or a bare point', () => {
    expect(
      ['1e3', '1.5E-3', '+2', '.5', '5.', '-0.10', '12e0', '1e-2'].map((text) => numericText(given(text))),
    ).toEqual(['1000', '0.0015', '2', '0.5', '5', '-0.10', '12', '0.01']);
    expect(['', '.', 'e5', '1e', '1,5', '0x10', '1 000', '--1', 'NaN', 'Infinity', '1e99999'].map(parsed)).toEqual(
      Array(11).fill(undefined),
    );
  });

  it('is made of a cell with no more digits than the cell shows, and becomes the cell again', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.integer(),
          fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }),
          fc.integer({ min: -1e9, max: 1e9 }).map((n) => n / 1000),
        ),
        (value) => {
          const cell = Number(value.toPrecision(15));
          expect(toNumber(fromNumber(cell))).toBe(cell + 0);
        },
      ),
    );
    expect(
      [0.1, 1234.5, 1e-7, -98_765_432_109.87, 1e21, 5e-324].map((value) =>
        numericText(fromNumber(value)).replace(/0{40,}/, '0…0'),
      ),
    ).toEqual(['0.1', '1234.5', '0.0000001', '-98765432109.87', '1000000000000000000000', '0.0…05']);
  });

  it('has no sign where it is nothing', () => {
    for (const nothing of [
      fromNumber(-0),
      negated(zero),
      multiply(given('-1'), given('0.00')),
      subtract(given('1.5'), given('1.5')),
      truncated(given('-0.4'), 0),
      rounded(given('-0.4'), 0),
    ]) {
      expect(signOf(nothing)).toBe(0);
      expect(numericText(nothing)).not.toContain('-');
      expect(Object.is(toNumber(nothing), 0)).toBe(true);
    }
  });
});

describe('sums, differences and products', () => {
  it('are exact, with the digits that both have', () => {
    fc.assert(
      fc.property(numeric, numeric, (a, b) => {
        const [sum, difference, product] = [add(a, b), subtract(a, b), multiply(a, b)];
        expect(times(sum, far)).toBe(times(a, far) + times(b, far));
        expect(times(difference, far)).toBe(times(a, far) - times(b, far));
        expect(times(product, far)).toBe((times(a, 30) * times(b, 30)) / 1n);
        expect([sum.s, difference.s, product.s]).toEqual([Math.max(a.s, b.s), Math.max(a.s, b.s), a.s + b.s]);
      }),
    );
  });

  it('keep the rules of reckoning: order, grouping, and taking away what was added', () => {
    fc.assert(
      fc.property(numeric, numeric, numeric, (a, b, c) => {
        expect(compare(add(a, b), add(b, a))).toBe(0);
        expect(compare(add(add(a, b), c), add(a, add(b, c)))).toBe(0);
        expect(compare(multiply(a, add(b, c)), add(multiply(a, b), multiply(a, c)))).toBe(0);
        expect(compare(subtract(add(a, b), b), a)).toBe(0);
      }),
    );
  });

  it('are one number whether it was small or large on the way', () => {
    const edge = 2n ** 53n;
    for (const near of [edge - 2n, edge - 1n, edge, edge + 1n, 2n ** 52n, 2n ** 52n + 1n].flatMap((n) => [n, -n])) {
      const value = given(String(near));
      expect(numericText(subtract(add(value, value), value))).toBe(String(near));
      expect(numericText(add(value, given('1')))).toBe(String(near + 1n));
      expect(numericText(multiply(value, given('3')))).toBe(String(near * 3n));
    }
  });
});

describe('quotients', () => {
  it('are off by half of their last digit at most, and have at least 16 digits that count', () => {
    fc.assert(
      fc.property(numeric, nonzero, (a, b) => {
        const quotient = divide(a, b);
        // |a - q b| <= |b| / 2 of the last digit of q.
        const scale = quotient.s + 20;
        const rest = abs(
          times(a, scale + 20) -
            BigInt(quotient.n) * 10n ** BigInt(20) * times(b, 20) * 10n ** BigInt(scale - 20 - quotient.s),
        );
        expect(2n * rest <= abs(times(b, 20)) * 10n ** BigInt(scale - quotient.s)).toBe(true);
        if (quotient.n !== 0) expect(String(abs(BigInt(quotient.n))).length).toBeGreaterThanOrEqual(13);
        expect(quotient.s).toBeGreaterThanOrEqual(Math.max(a.s, b.s));
      }),
    );
  });

  it('by zero are a mishap, as is what is left of them', () => {
    for (const text of ['0', '0.000', '-0']) {
      expect(() => divide(given('1'), given(text))).toThrow('division by zero');
      expect(() => remainder(given('1'), given(text))).toThrow('division by zero');
    }
  });

  it('leave what was not divided, with the sign of what was', () => {
    fc.assert(
      fc.property(numeric, nonzero, (a, b) => {
        const left = remainder(a, b);
        expect(compare(absolute(left), absolute(b))).toBeLessThan(0);
        expect(left.n === 0 || signOf(left) === signOf(a)).toBe(true);
        expect((times(a, far) - times(left, far)) % times(b, far)).toBe(0n);
      }),
    );
  });
});

describe('rounding', () => {
  const digits = fc.integer({ min: -8, max: 14 });

  it('goes to the nearest, halves away from zero', () => {
    fc.assert(
      fc.property(numeric, digits, (value, to) => {
        const result = rounded(value, to);
        const unit = 10n ** BigInt(far - to);
        expect(times(result, far) % unit).toBe(0n);
        const off = abs(times(result, far)) - abs(times(value, far));
        expect(2n * off <= unit && 2n * off > -unit).toBe(true);
        expect(rounded(result, to)).toEqual(result);
      }),
    );
    expect(
      ['2.5', '-2.5', '0.5', '-0.5', '1.45', '1250'].map((text) =>
        [0, 1, -2].map((to) => numericText(rounded(given(text), to))),
      ),
    ).toEqual([
      ['3', '2.5', '0'],
      ['-3', '-2.5', '0'],
      ['1', '0.5', '0'],
      ['-1', '-0.5', '0'],
      ['1', '1.5', '0'],
      ['1250', '1250.0', '1300'],
    ]);
  });

  it('cuts towards zero, down and up where it is asked to', () => {
    fc.assert(
      fc.property(numeric, digits, (value, to) => {
        const cut = truncated(value, to);
        const unit = 10n ** BigInt(far - to);
        const off = abs(times(value, far)) - abs(times(cut, far));
        expect(off >= 0n && off < unit && times(cut, far) % unit === 0n).toBe(true);
        const [down, up] = [floor(value), ceiling(value)];
        expect(isWhole(down) && isWhole(up)).toBe(true);
        expect(compare(down, value) <= 0 && compare(value, up) <= 0).toBe(true);
        expect(numericText(subtract(up, down)).replace(/\.0*$/, '')).toBe(isWhole(value) ? '0' : '1');
      }),
    );
  });
});

describe('the order of decimals', () => {
  it('is that of their fractions, whatever digits they are written with', () => {
    fc.assert(
      fc.property(numeric, numeric, fc.integer({ min: 0, max: 6 }), (a, b, more) => {
        const [x, y] = [times(a, far), times(b, far)];
        expect(Math.sign(compare(a, b))).toBe(x < y ? -1 : x > y ? 1 : 0);
        expect(compare(a, given(numericText(a) + (a.s === 0 ? '.' : '') + '0'.repeat(more)))).toBe(0);
      }),
    );
  });
});

describe('powers', () => {
  it('of whole numbers are products, those below zero their quotients', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -999, max: 999 }).filter((n) => n !== 0),
        fc.integer({ min: 0, max: 12 }),
        (base, times) => {
          const product = Array.from({ length: times }, () => whole(base)).reduce(multiply, whole(1));
          expect(compare(power(whole(base), whole(times)), product)).toBe(0);
          const { n, s } = power(whole(base), whole(-times));
          const off = abs(BigInt(n) * BigInt(product.n) - 10n ** BigInt(s));
          expect(2n * off <= abs(BigInt(product.n))).toBe(true);
        },
      ),
    );
  });

  it('that are not whole are roots', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1_000_000 }), (n) => {
        expect(toNumber(power(whole(n * n), given('0.5')))).toBe(n);
        expect(toNumber(power(whole(n), given('1.5')))).toBeCloseTo(n * Math.sqrt(n), 0);
      }),
    );
  });

  it('that do not exist or have too many digits are mishaps', () => {
    expect(() => power(zero, given('-1'))).toThrow('zero raised to a negative power');
    expect(() => power(given('-2'), given('0.5'))).toThrow('a negative number raised to a power that is not whole');
    for (const [base, exponent] of [
      ['10', '5000'],
      ['9.99', '9999999'],
      ['-3', '100001'],
      ['1e300', '1e3'],
    ])
      expect(() => power(given(base), given(exponent))).toThrow('a number of too many digits');
    expect(numericText(power(zero, given('0'))).replace(/0+$/, '')).toBe('1.');
    expect(signOf(power(given('0.001'), given('1000')))).toBe(0);
  });
});
