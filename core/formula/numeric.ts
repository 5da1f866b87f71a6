import Decimal from 'decimal.js';
import { plainNumber } from '../values/plain-number';
import { Mishap } from './mishap';

/**
 * An exact decimal, n × 10^-s, as PostgreSQL's numeric: `s` is the digits behind the point that it is written with, which a
 * division and a text of it hang on. `n` is a number as long as it is a safe integer.
 */
export interface Numeric {
  readonly n: number | bigint;
  readonly s: number;
}

/** Digits that results have at most, and those that divisions and powers are worked out to at least (PostgreSQL, numeric.c). */
const mostDigits = 15;
const leastSignificant = 16;
const mostScale = 1000;
/** Its digits are kept in groups of four. */
const groupDigits = 4;
/** Whole numbers up to here, and the sum of two of them, are exact as they are. */
const safely = 2 ** 52;
/** More digits are refused before they are worked out. */
const longest = 2000;

const small = (n: bigint): number | bigint =>
  n >= Number.MIN_SAFE_INTEGER && n <= Number.MAX_SAFE_INTEGER ? Number(n) : n;
const made = (n: bigint, s: number): Numeric => ({ n: small(n), s });
const power10 = (count: number): bigint => 10n ** BigInt(count);
const powers = Array.from({ length: 16 }, (_, i) => 10 ** i);

export const zero: Numeric = { n: 0, s: 0 };
export const one: Numeric = { n: 1, s: 0 };
export const whole = (n: number): Numeric => ({ n, s: 0 });

/** A number of a cell, with the digits that it is written with at least. */
export function fromNumber(value: number): Numeric {
  if (Number.isSafeInteger(value)) return { n: value === 0 ? 0 : value, s: 0 };
  for (let s = 1; s <= 6; s++) {
    const n = Math.round(value * powers[s]);
    if (n / powers[s] === value && Math.abs(n) < 2 ** 51) return { n, s };
  }
  return parsed(plainNumber(value))!;
}

/** A decimal as it is written, with or without an exponent; undefined for any other text. */
export function parsed(text: string): Numeric | undefined {
  const match = /^([+-]?)(\d*)(?:\.(\d*))?(?:e([+-]?\d{1,4}))?$/i.exec(text.trim());
  if (!match || (match[2] ?? '') + (match[3] ?? '') === '') return undefined;
  const [, sign, left, right = '', exponent = '0'] = match;
  if (left.length + right.length > longest + mostScale) return undefined;
  const digits = BigInt(left + right);
  const s = right.length - Number(exponent);
  if (s > mostScale || s < -longest) return undefined;
  return made((sign === '-' ? -1n : 1n) * (s < 0 ? digits * power10(-s) : digits), Math.max(0, s));
}

/** As PostgreSQL writes it: with all its digits behind the point. */
export function numericText({ n, s }: Numeric): string {
  const negative = n < 0;
  const digits = String(n < 0 ? -n : n).padStart(s + 1, '0');
  return `${negative ? '-' : ''}${s === 0 ? digits : `${digits.slice(0, -s)}.${digits.slice(-s)}`}`;
}

const isSmall = (value: Numeric): value is { n: number; s: number } => typeof value.n === 'number';
const exact = ({ n }: Numeric): bigint => BigInt(n);

/** The same value with more digits behind the point. */
function at(value: Numeric, s: number): bigint {
  return s === value.s ? exact(value) : exact(value) * power10(s - value.s);
}

export function add(a: Numeric, b: Numeric): Numeric {
  const s = Math.max(a.s, b.s);
  if (isSmall(a) && isSmall(b) && Math.abs(a.s - b.s) < powers.length) {
    const [x, y] = [a.n * powers[s - a.s], b.n * powers[s - b.s]];
    if (Math.abs(x) <= safely && Math.abs(y) <= safely) return { n: x + y, s };
  }
  return made(at(a, s) + at(b, s), s);
}

export const negated = ({ n, s }: Numeric): Numeric => ({ n: n === 0 ? 0 : -n, s });
export const absolute = (value: Numeric): Numeric => (value.n < 0 ? negated(value) : value);
export const subtract = (a: Numeric, b: Numeric): Numeric => add(a, negated(b));
export const signOf = ({ n }: Numeric): -1 | 0 | 1 => (n < 0 ? -1 : n > 0 ? 1 : 0);

export function multiply(a: Numeric, b: Numeric): Numeric {
  if (isSmall(a) && isSmall(b)) {
    const n = a.n * b.n;
    if (Math.abs(n) <= safely) return { n: n === 0 ? 0 : n, s: a.s + b.s };
  }
  const product = made(exact(a) * exact(b), a.s + b.s);
  if (String(product.n).length > longest) throw new Mishap('a number of too many digits');
  return product.s > mostScale ? rounded(product, mostScale) : product;
}

export function compare(a: Numeric, b: Numeric): number {
  if (a.s === b.s) return a.n < b.n ? -1 : a.n > b.n ? 1 : 0;
  const s = Math.max(a.s, b.s);
  const [x, y] = [at(a, s), at(b, s)];
  return x < y ? -1 : x > y ? 1 : 0;
}

/** A quotient of whole numbers, half away from zero. */
function quotient(n: bigint, by: bigint): bigint {
  const [up, down] = [n < 0n ? -n : n, by < 0n ? -by : by];
  const half = (2n * up + down) / (2n * down);
  return n < 0n !== by < 0n ? -half : half;
}

/** The first group of digits that is not 0, and the power of 10,000 that it counts. */
function firstGroup(value: Numeric): { group: number; weight: number } {
  if (value.n === 0) return { group: 0, weight: 0 };
  const digits = String(value.n < 0 ? -value.n : value.n);
  /** The place of the first digit: 0 for ones. */
  const place = digits.length - 1 - value.s;
  const weight = Math.floor(place / groupDigits);
  const count = place - weight * groupDigits + 1;
  return { group: Number(digits.slice(0, count).padEnd(count, '0')), weight };
}

/** Digits behind the point that a quotient gets (PostgreSQL's select_div_scale). */
function quotientScale(a: Numeric, b: Numeric): number {
  const [first, second] = [firstGroup(a), firstGroup(b)];
  const weight = first.weight - second.weight - (first.group <= second.group ? 1 : 0);
  return Math.min(mostScale, Math.max(leastSignificant - weight * groupDigits, a.s, b.s, 0));
}

/** @throws Mishap by zero */
export function divide(a: Numeric, b: Numeric): Numeric {
  if (b.n === 0) throw new Mishap('division by zero');
  return quotientOf(a, b, quotientScale(a, b));
}

function quotientOf(a: Numeric, b: Numeric, s: number): Numeric {
  const shift = s + b.s - a.s;
  return made(
    shift >= 0 ? quotient(exact(a) * power10(shift), exact(b)) : quotient(exact(a), exact(b) * power10(-shift)),
    s,
  );
}

/** What is left of a division without a fraction, with the sign of what was divided. @throws Mishap by zero */
export function remainder(a: Numeric, b: Numeric): Numeric {
  if (b.n === 0) throw new Mishap('division by zero');
  const s = Math.max(a.s, b.s);
  return made(at(a, s) % at(b, s), s);
}

/** Half away from zero. @param digits behind the point; negative: tens, hundreds ... */
export function rounded(value: Numeric, digits: number): Numeric {
  if (digits < -longest) return zero;
  const s = Math.max(0, Math.min(mostScale, digits));
  if (digits >= value.s) return made(at(value, s), s);
  if (isSmall(value) && digits >= 0 && value.s - digits < 16) {
    const by = powers[value.s - digits];
    const left = value.n % by;
    return { n: (value.n - left) / by + (2 * Math.abs(left) >= by ? Math.sign(value.n) : 0) + 0, s };
  }
  const n = quotient(exact(value), power10(value.s - digits));
  return made(digits < 0 ? n * power10(-digits) : n, s);
}

/** Digits further behind are cut off. */
export function truncated(value: Numeric, digits: number): Numeric {
  if (digits < -longest) return zero;
  const s = Math.max(0, Math.min(mostScale, digits));
  if (digits >= value.s) return made(at(value, s), s);
  const n = exact(value) / power10(value.s - digits);
  return made(digits < 0 ? n * power10(-digits) : n, s);
}

export function floor(value: Numeric): Numeric {
  const cut = truncated(value, 0);
  return value.n < 0 && compare(cut, value) !== 0 ? subtract(cut, one) : cut;
}
export const ceiling = (value: Numeric): Numeric => negated(floor(negated(value)));

export const isWhole = (value: Numeric): boolean => value.s === 0 || compare(truncated(value, 0), value) === 0;

/** About how many digits stand before the point. */
const digitsBefore = (value: Numeric): number => String(value.n < 0 ? -value.n : value.n).length - value.s;

/** @throws Mishap where there is no such number */
export function power(base: Numeric, exponent: Numeric): Numeric {
  if (base.n === 0 && exponent.n < 0) throw new Mishap('zero raised to a negative power');
  const scaleFor = (weight: number) =>
    Math.min(mostScale, Math.max(leastSignificant - Math.trunc(weight), base.s, exponent.s, 0));
  if (base.n === 0 && exponent.n > 0) return { n: 0, s: Math.max(leastSignificant, base.s) };
  if (isWhole(exponent)) {
    const times = Number(truncated(exponent, 0).n);
    const weight = base.n === 0 ? 0 : times * Math.log10(Math.abs(Number(numericText(base)))) || 0;
    if (weight + 1 < -mostScale) return { n: 0, s: mostScale };
    if (weight > longest || Math.abs(times) * digitsBefore(absolute(base)) > 50 * longest)
      throw new Mishap('a number of too many digits');
    const s = scaleFor(weight);
    const of = made(exact(base) ** BigInt(Math.abs(times)), base.s * Math.abs(times));
    return times < 0 ? quotientOf(one, of, s) : rounded(of, s);
  }
  if (base.n < 0) throw new Mishap('a negative number raised to a power that is not whole');
  const Precise = Decimal.clone({ precision: 60, toExpNeg: -1e6, toExpPos: 1e6 });
  const result = new Precise(numericText(base)).pow(numericText(exponent));
  const weight = Number(new Precise(numericText(base)).ln().mul(numericText(exponent))) * 0.434294481903252;
  if (weight > longest) throw new Mishap('a number of too many digits');
  return parsed(result.toFixed(scaleFor(weight)))!;
}

/** The number of a cell: at most 15 digits count. @throws Mishap where it is too large */
export function toNumber(value: Numeric): number {
  if (isSmall(value) && value.s <= 22 && Math.abs(value.n) < 1e15) return value.n / 10 ** value.s;
  const digits = digitsBefore(value);
  const cut = rounded(value, mostDigits - digits);
  // Digits that a small number begins with behind the point are no digits of it.
  const text = numericText(cut);
  const number = Number(Number(text).toPrecision(mostDigits));
  if (!Number.isFinite(number)) throw new Mishap('a number of too many digits');
  return number;
}
