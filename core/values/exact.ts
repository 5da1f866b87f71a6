import { plainNumber } from './plain-number';

/** Digits behind the point of a number as it is written out. */
export const fractionDigits = (value: number): number => plainNumber(value).split('.')[1]?.length ?? 0;

/** A number as a whole number of its 10^-digits: 1.25 with two digits is 125. */
export const scaled = (value: number, digits: number): bigint => {
  const [whole, fraction = ''] = plainNumber(value).split('.');
  return BigInt(whole + fraction.padEnd(digits, '0'));
};

/** The sum of decimals as they are written out, not of their binary neighbours: 0.1 + 0.2 is 0.3. */
export function exactSum(values: readonly number[]): number {
  const digits = Math.max(0, ...values.map(fractionDigits));
  const sum = values.reduce((total, value) => total + scaled(value, digits), 0n);
  const text = String(sum < 0n ? -sum : sum).padStart(digits + 1, '0');
  return Number(`${sum < 0n ? '-' : ''}${text.slice(0, text.length - digits)}${digits > 0 ? `.${text.slice(-digits)}` : ''}`);
}
