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
  return Number(
    `${value < 0n ? '-' : ''}${text.slice(0, text.length - digits)}${digits > 0 ? `.${text.slice(-digits)}` : ''}`,
  );
}

/** Whole numbers up to here are added without a loss, and so is what a product of two numbers rounds to. */
const safely = 2 ** 51;
const mostDigits = 15;

/** The sum of decimals as they are written out, not of their binary neighbours: 0.1 + 0.2 is 0.3. */
export function exactSum(values: Iterable<number>): number {
  let total = 0n;
  /** What was added since the total was last brought up to date. */
  let open = 0;
  let digits = 0;
  let power = 1;
  const close = () => {
    total += BigInt(open);
    open = 0;
  };
  const widen = (to: number) => {
    close();
    total *= 10n ** BigInt(to - digits);
    [digits, power] = [to, 10 ** to];
  };
  for (const value of values) {
    // Most are whole numbers of the last digit of those before.
    let whole = Math.round(value * power);
    for (
      let wider = digits + 1;
      whole / power !== value && wider <= mostDigits && Math.abs(value) * 10 ** wider < safely;
      wider++
    ) {
      if (Math.round(value * 10 ** wider) / 10 ** wider !== value) continue;
      widen(wider);
      whole = Math.round(value * power);
    }
    if (whole / power === value && Math.abs(whole) < safely) {
      open += whole;
      if (Math.abs(open) > safely) close();
      continue;
    }
    const own = fractionDigits(value);
    if (own > digits) widen(own);
    total += scaled(value, digits);
  }
  close();
  return unscaled(total, digits);
}
