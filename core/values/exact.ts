import { plainNumber } from './plain-number';

/** Digits behind the point of a number as it is written out. */
export const fractionDigits = (value: number): number => plainNumber(value).split('.')[1]?.length ?? 0;

/** A number as a whole number of its 10^-digits: 1.25 with two digits is 125. */
export const scaled = (value: number, digits: number): bigint => {
  const [whole, fraction = ''] = plainNumber(value).split('.');
  return BigInt(whole + fraction.padEnd(digits, '0'));
};

/** The number of which so many digits stand behind the point: see `scaled`. */
export function unscaled(value: bigint, digits: number): number {
  const text = String(value < 0n ? -value : value).padStart(digits + 1, '0');
  return Number(`${value < 0n ? '-' : ''}${text.slice(0, text.length - digits)}${digits > 0 ? `.${text.slice(-digits)}` : ''}`);
}

/** The sum of decimals as they are written out, not of their binary neighbours: 0.1 + 0.2 is 0.3. */
export function exactSum(values: Iterable<number>): number {
  let total = 0n;
  let digits = 0;
  for (const value of values) {
    const own = fractionDigits(value);
    if (own > digits) {
      total *= 10n ** BigInt(own - digits);
      digits = own;
    }
    total += scaled(value, digits);
  }
  return unscaled(total, digits);
}
