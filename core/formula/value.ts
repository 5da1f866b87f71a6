import type { Interval, Moment } from './calendar';
import {
  dateText,
  dayFrom,
  intervalFrom,
  intervalSize,
  intervalText,
  momentFrom,
  momentText,
  timeFrom,
  timeText,
} from './calendar';
import type { CastType } from './ast';
import { Mishap } from './mishap';
import { compare as compareNumbers, numericText, parsed, rounded, zero, type Numeric } from './numeric';

/** What values of a formula are. A column of periods is text. */
export type FormulaType = 'numeric' | 'text' | 'date' | 'time' | 'timestamp' | 'interval' | 'boolean';

/** Signs of a text at most: one that grows beyond is told, as it would take all memory. */
export const longestText = 1_000_000;
export const tooLong = (): Mishap => new Mishap(`a text of more than ${longestText.toLocaleString('en')} signs`);
/** @throws Mishap */
export function bounded<Of extends Value>(value: Of): Of {
  if (typeof value === 'string' && value.length > longestText) throw tooLong();
  return value;
}

/** A date is its day number, a time its microseconds, both as plain numbers; null is blank. */
export type Value = Numeric | Interval | Moment | string | number | boolean | null;

/** Texts by their code points (collation "C"). */
export function compareTexts(a: string, b: string): number {
  if (a === b) return 0;
  const length = Math.min(a.length, b.length);
  for (let i = 0; i < length; i++) {
    const [x, y] = [a.charCodeAt(i), b.charCodeAt(i)];
    if (x === y) continue;
    // Halves of a pair stand for signs behind all that are one unit.
    const [high, low] = [x >= 0xd800 && x <= 0xdfff, y >= 0xd800 && y <= 0xdfff];
    return high === low ? x - y : high ? 1 : -1;
  }
  return a.length - b.length;
}

const orders: Readonly<Record<FormulaType, (a: never, b: never) => number>> = {
  numeric: (a: Numeric, b: Numeric) => compareNumbers(a, b),
  text: (a: string, b: string) => compareTexts(a, b),
  date: (a: number, b: number) => a - b,
  time: (a: number, b: number) => a - b,
  timestamp: (a: Moment, b: Moment) => a.day - b.day || a.micros - b.micros,
  interval: (a: Interval, b: Interval) => Number(intervalSize(a) - intervalSize(b)),
  boolean: (a: boolean, b: boolean) => Number(a) - Number(b),
};
/** How two values of a type stand to one another: below 0, 0, above 0. */
export const orderOf = (type: FormulaType) => orders[type] as (a: Value, b: Value) => number;

/** A value as PostgreSQL writes it when it is made a text. */
export function textOf(value: Exclude<Value, null>, type: FormulaType): string {
  switch (type) {
    case 'numeric':
      return numericText(value as Numeric);
    case 'text':
      return value as string;
    case 'date':
      return dateText(value as number);
    case 'time':
      return timeText(value as number);
    case 'timestamp':
      return momentText(value as Moment);
    case 'interval':
      return intervalText(value as Interval);
    case 'boolean':
      return value ? 'true' : 'false';
  }
}

const booleans: Readonly<Record<string, boolean>> = {
  true: true,
  t: true,
  yes: true,
  y: true,
  on: true,
  '1': true,
  false: false,
  f: false,
  no: false,
  n: false,
  off: false,
  '0': false,
};

/** A text as a value of a type. @throws Mishap where it is none */
export function valueFrom(text: string, type: FormulaType): Exclude<Value, null> {
  switch (type) {
    case 'numeric': {
      const number = parsed(text);
      if (!number) throw new Mishap(`“${text}” is no number such as 1234.5`);
      return number;
    }
    case 'text':
      return text;
    case 'date':
      return text.trim().length > 10 ? momentFrom(text).day : dayFrom(text);
    case 'time':
      return timeFrom(text);
    case 'timestamp':
      return momentFrom(text);
    case 'interval':
      return intervalFrom(text);
    case 'boolean': {
      const own = booleans[text.trim().toLowerCase()];
      if (own === undefined) throw new Mishap(`“${text}” is neither true nor false`);
      return own;
    }
  }
}

/** Largest whole number (four bytes), as PostgreSQL's integer holds. */
const mostInteger = 2_147_483_647;

export function asInteger(value: Numeric): Numeric {
  const own = rounded(value, 0);
  if (Math.abs(Number(own.n)) > mostInteger + (own.n < 0 ? 1 : 0)) throw new Mishap('a whole number beyond 2147483647');
  return own;
}

/** What casts there are, from type to type, beside those from and to text. */
export const castsBetween: Readonly<Partial<Record<FormulaType, Partial<Record<CastType, (value: never) => Value>>>>> =
  {
    numeric: { integer: asInteger },
    boolean: { integer: (value: boolean): Numeric => (value ? { n: 1, s: 0 } : zero) },
    date: { timestamp: (day: number): Moment => ({ day, micros: 0 }) },
    timestamp: { date: ({ day }: Moment) => day, time: ({ micros }: Moment) => micros },
  };
