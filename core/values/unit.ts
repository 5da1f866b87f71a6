import { escaped } from './escaped';
import { isOneOf, type Locale } from './locale';

/** Signs and codes of currencies, longest first where one holds another. */
const currencyMarks = [
  'US$',
  'CA$',
  'A$',
  'R$',
  'NZ$',
  'HK$',
  '€',
  '$',
  '£',
  '¥',
  '₹',
  '₩',
  '₺',
  'zł',
  'kr.',
  'kr',
  'Fr.',
  'CHF',
  'EUR',
  'USD',
  'GBP',
  'JPY',
  'INR',
  'SEK',
  'NOK',
  'DKK',
  'PLN',
  'BRL',
  'Rs.',
  'Rs',
];
const currencies = new Set(currencyMarks.map((mark) => mark.toLowerCase()));
const anyCurrency = currencyMarks.map(escaped).join('|');
const currencyBefore = new RegExp(`^([-−–+]?)\\s*(${anyCurrency})\\s*`, 'i');
const currencyBehind = new RegExp(`\\s*(${anyCurrency})(?=[-−–]?$)`, 'i');

/** Units of measure as they are printed beside numbers. */
const measures = new Set([
  'kg',
  'g',
  'mg',
  't',
  'to',
  'lb',
  'oz',
  'm',
  'km',
  'cm',
  'mm',
  'mi',
  'nm',
  'ft',
  'in',
  'm²',
  'm2',
  'ha',
  'm³',
  'm3',
  'cbm',
  'l',
  'ml',
  'hl',
  'gal',
  'kwh',
  'mwh',
  'gwh',
  'kw',
  'mw',
  'w',
  'v',
  'a',
  'bar',
  '°c',
  '°f',
  'pcs',
  'pc',
  'st',
  'stk',
  'teu',
  'grt',
  'gt',
  'dwt',
  'bbl',
  'h',
  'hrs',
  'min',
  's',
  'days',
  'tonnes',
  'tons',
  'units',
  '%',
  '‰',
]);

export const isUnit = (text: string): boolean => measures.has(text.toLowerCase()) || currencies.has(text.toLowerCase());

/** Patterns of a unit before a number and behind it, made once. */
const unitPatterns = new Map<string, readonly [before: RegExp, behind: RegExp]>();
function besideNumber(unit: string): readonly [before: RegExp, behind: RegExp] {
  let patterns = unitPatterns.get(unit);
  if (!patterns) {
    const own = escaped(unit);
    patterns = [
      new RegExp(`^([-−–+]?)\\s*${own}\\.?\\s*(?=[-−–+(\\d])`, 'i'),
      new RegExp(`(?<=[\\d)⁰¹²³⁴⁵⁶⁷⁸⁹])\\s*${own}\\.?(?=[-−–]?$)`, 'i'),
    ];
    unitPatterns.set(unit, patterns);
  }
  return patterns;
}

/**
 * A number without the unit that stands beside it.
 * @param unit the unit expected; "" takes any sign of currency off, and nothing else
 * @returns undefined when another unit stands there
 */
export function withoutUnit(text: string, unit: string): string | undefined {
  if (unit === '') return text.replace(currencyBefore, '$1').replace(currencyBehind, '');
  const [before, behind] = besideNumber(unit);
  const bare = text.replace(before, '$1').replace(behind, '');
  return /\p{L}|\p{Sc}/u.test(bare) ? undefined : bare;
}

/** What stands beside the number of a text: a unit, a currency or another word; "" for nothing. */
export function unitBeside(text: string): string {
  const parts =
    /^[-−–+(]?\s*([^\d\s.,'’()\-−–+][^\d\s()]*)?\s*[-−–+(]?\d[\d\s.,'’\u00a0\u202f\u2009]*[-−–)]?\s*([^\d\s.,'’()\-−–+⁰¹²³⁴⁵⁶⁷⁸⁹*†‡§][^\d\s()*†‡§]*)?[-−–)⁰¹²³⁴⁵⁶⁷⁸⁹*†‡§]*$/u.exec(
      text.trim(),
    );
  const [, before, behind] = parts ?? [];
  if (before === undefined) return behind ?? '';
  // "BN-1041", "V1001" and "IN-101" are names of something: before a number a unit of measure stands apart from it.
  const bare = before.replace(/[-–/]+$/, '');
  const isCurrency = currencies.has(bare.toLowerCase()) || /\p{Sc}/u.test(bare);
  return isCurrency || (isUnit(bare) && new RegExp(`${escaped(bare)}\\s`).test(text)) ? bare : '';
}

/** A scale that a title or heading states: numbers are printed in powers of ten of what they mean. */
export interface Scale {
  readonly exponent: number;
  /** As printed. */
  readonly says: string;
}

/** Words for scales that are names and other words as well: Old Mill School, vehicle miles, Maryland. */
const alsoOtherWords = /^(?:mill|mil|miles|mila|mille|mi|bi|mds?)$/i;

/** Does what stands beside such a word say that it is a scale: a full stop, a bracket, “in”, a currency or a unit? */
function isScaleThere(text: string, words: readonly string[], at: number): boolean {
  const [before = '', word, after = ''] = [words[at - 1], words[at], words[at + 1]];
  return (
    word.endsWith('.') ||
    new RegExp(`[([]\\s*${escaped(word)}(?![\\p{L}])`, 'u').test(text) ||
    /^(?:in|en|em|w|i|de)$/i.test(before) ||
    /^(?:de|d|di)$/i.test(after) ||
    isUnit(before) ||
    isUnit(after)
  );
}

/** The scale that a text states, like "in thousands", "('000)", "£m" or "in Mio. €". */
export function scaleIn(text: string, locale: Locale): Scale | undefined {
  const zeros = /(?:^|[\s(])((?:[€$£¥]\s?)?['’‘]?(?:\d{0,1}\s?)?000s?['’]?(?:\s?[€$£]|\s\p{L}+)?)(?=$|[\s),])/u.exec(
    text,
  );
  const bracketed = /[([]\s*((?:\p{Sc}\s?)?1[.,\s]?000(?:\s?\p{Sc}|\s\p{L}{1,5})?)\s*[)\]]/u.exec(text);
  if (bracketed) return { exponent: 3, says: bracketed[1] };
  if (zeros && /['’‘]000|000s|[€$£¥]\s?000|000\s?[€$£]/.test(zeros[1])) return { exponent: 3, says: zeros[1].trim() };
  const words = text.split(/[\s(),;:]+/);
  for (const [exponent, names] of [
    [9, locale.billion],
    [6, locale.million],
    [3, locale.thousand],
  ] as const) {
    // A lone letter is a scale only beside a sign of currency.
    const at = words.findIndex(
      (word, i) =>
        word.replace('.', '').length > 1 &&
        isOneOf(names, word) &&
        (!alsoOtherWords.test(word.replace('.', '')) || isScaleThere(text, words, i)),
    );
    if (at >= 0)
      return { exponent, says: at > 0 && words[at - 1].length <= 3 ? `${words[at - 1]} ${words[at]}` : words[at] };
  }
  const letter = /[€$£]\s?([mM]|bn|k|K)(?=$|[\s),])/.exec(text);
  if (letter) return { exponent: /bn/.test(letter[1]) ? 9 : /m/i.test(letter[1]) ? 6 : 3, says: letter[0] };
  return undefined;
}

/** The unit that a heading states: in brackets, after "in", or as its last word. */
export function unitIn(heading: string): string {
  const bracketed = /[([]\s*([^\s()[\]]{1,8})\s*[)\]]/.exec(heading);
  if (bracketed && isUnit(bracketed[1])) return bracketed[1];
  const words = heading.trim().split(/[\s,]+/);
  const last = words.at(-1)!.replace(/[().]/g, '');
  // A price per kg is not in kg, and what was over 60 days ago is not in days.
  if (words.length > 1 && /^(?:.*\d|per|je|pro|par|por|al|za|\/)$/i.test(words.at(-2)!)) return '';
  // In capitals it is a week of the calendar, and no power; "Paid in" is no length.
  if (last === 'KW' || last.toLowerCase() === 'in') return '';
  return words.length > 1 && isUnit(last) && last.length <= 4 && last !== 'a' ? last : /%/.test(heading) ? '%' : '';
}
