import type { Locale } from './locale';
import { misfit, value, withoutMarks, type Parsed } from './parsed';

const nil = /^(?:[-–—−.]|\.\.|--)$/;
const currencies = '€$£¥';
/** A double tells any two decimals of this many digits apart. */
export const exactDigits = 15;

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');
const shapes = new Map<Locale, RegExp>();

function shapeOf(locale: Locale): RegExp {
  let shape = shapes.get(locale);
  if (!shape) {
    const group = `[${locale.groups.map(escaped).join('')}]`;
    shape = new RegExp(`^(\\d{1,3}(?:(${group})\\d{3})(?:\\2\\d{3})*|\\d+)(?:${escaped(locale.decimal)}(\\d+))?$`);
    shapes.set(locale, shape);
  }
  return shape;
}

export interface NumberFormat {
  /** What a dash printed for nil means. */
  readonly nil: 'blank' | 'zero';
  readonly kind: 'integer' | 'decimal' | 'percent';
}

/**
 * Reads a printed number: group and decimal marks of the locale, brackets or a minus at either end for negative, signs
 * of currency, percent, footnote marks. Percent keeps the printed number (12.5 % is 12.5).
 */
export function parseNumber(text: string, locale: Locale, format: NumberFormat): Parsed {
  const example = format.kind === 'integer' ? `1${locale.groups[0]}234` : `1${locale.groups[0]}234${locale.decimal}5`;
  const expected = `${format.kind === 'integer' ? 'a whole number' : format.kind === 'percent' ? 'a percentage' : 'a number'} like ${example}`;
  let rest = withoutMarks(text);
  if (rest === '') return value(null);
  if (nil.test(rest)) return value(format.nil === 'zero' ? 0 : null);
  let negative = false;
  const bracketed = /^\((.*)\)$/.exec(rest);
  if (bracketed) {
    negative = true;
    rest = bracketed[1].trim();
  }
  rest = rest.replace(new RegExp(`^([-−–]?)\\s*[${currencies}]\\s*|\\s*[${currencies}]$`, 'g'), '$1');
  if (format.kind === 'percent') rest = rest.replace(/\s*%$/, '');
  const signed = /^([-−–+]?)\s*(.*?)\s*([-−–]?)$/.exec(rest)!;
  if (signed[1] && signed[1] !== '+') negative = !negative;
  if (signed[3]) negative = !negative;
  const parts = shapeOf(locale).exec(signed[2]);
  if (!parts) return misfit(expected);
  const whole = parts[1].replace(/\D/g, '');
  const digits = parts[3] === undefined ? whole : `${whole}.${parts[3]}`;
  if (format.kind === 'integer' && parts[3] !== undefined && /[1-9]/.test(parts[3])) return misfit(expected);
  if (digits.replace('.', '').replace(/^0+/, '').length > exactDigits) return misfit(`${expected} of at most ${exactDigits} digits`);
  const number = Number(digits);
  return value(negative && number !== 0 ? -number : number);
}
