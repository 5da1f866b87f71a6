import { Mishap } from '../mishap';
import { whole, type Numeric } from '../numeric';
import { longestText, textOf, tooLong, type FormulaType, type Value } from '../value';
import { declaring } from './function';

const fn = declaring('texts');

const isPaired = (text: string): boolean => /[\ud800-\udfff]/.test(text);
/** The signs of a text: a sign of two units is one. */
const signsOf = (text: string): readonly string[] => (isPaired(text) ? [...text] : text.split(''));
const length = (text: string): number => (isPaired(text) ? [...text].length : text.length);
const cut = (text: string, from: number, to?: number): string =>
  isPaired(text) ? [...text].slice(from, to).join('') : text.slice(from, to);
const number = ({ n }: Numeric): number => Number(n);

/** Letter by letter: one that would become several stays. */
const byLetters = (text: string, way: (letter: string) => string): string => {
  const all = way(text);
  if (all.length === text.length && !isPaired(text) && !/[\u0130\u03a3]/.test(text)) return all;
  return [...text].map((letter) => (length(way(letter)) === 1 ? way(letter) : letter)).join('');
};
const upper = (text: string) => byLetters(text, (letter) => letter.toUpperCase());
const lower = (text: string) => byLetters(text, (letter) => letter.toLowerCase());

function substring(text: string, from: Numeric, count?: Numeric): string {
  const start = number(from);
  if (count === undefined) return cut(text, Math.max(0, start - 1));
  if (count.n < 0) throw new Mishap('a text of a negative length');
  return cut(text, Math.max(0, start - 1), Math.max(0, start - 1 + number(count)));
}

function padded(text: string, to: Numeric, fill = ' ', left: boolean): string {
  const wanted = number(to);
  if (wanted > longestText) throw tooLong();
  const own = length(text);
  if (wanted <= own || fill === '') return cut(text, 0, Math.max(0, Math.min(wanted, own)));
  const signs = signsOf(fill);
  const pad = Array.from({ length: wanted - own }, (_, i) => signs[i % signs.length]).join('');
  return left ? pad + text : text + pad;
}

/** Without the signs that stand among those given, at either end or both. */
function trimmed(text: string, signs = ' ', side: 'both' | 'left' | 'right'): string {
  const gone = new Set(signsOf(signs));
  const all = signsOf(text);
  let [from, to] = [0, all.length];
  if (side !== 'right') while (from < to && gone.has(all[from])) from++;
  if (side !== 'left') while (to > from && gone.has(all[to - 1])) to--;
  return from === 0 && to === all.length ? text : all.slice(from, to).join('');
}

function replaced(text: string, sought: string, by: string): string {
  if (sought === '') return text;
  const parts = text.split(sought);
  // Before it is made: it may be more than there is memory.
  if (text.length + (parts.length - 1) * by.length > longestText + parts.length * sought.length) throw tooLong();
  return parts.join(by);
}

function splitPart(text: string, mark: string, nth: Numeric): string {
  const n = number(nth);
  if (n === 0) throw new Mishap('a part with the number 0: they are counted from 1, or from -1 at the end');
  const parts = mark === '' ? [text] : text.split(mark);
  return parts[n > 0 ? n - 1 : parts.length + n] ?? '';
}

/** A value among others in a text: true and false are t and f then. */
const joinedText = (value: Exclude<Value, null>, type: FormulaType): string =>
  type === 'boolean' ? (value ? 't' : 'f') : textOf(value, type);

/** Values with their types, as functions get them that take any. */
export interface Typed {
  readonly value: Value;
  readonly type: FormulaType;
}

export const texts = [
  fn(
    '||',
    ['text', 'any'],
    'text',
    { says: 'Two texts put together; numbers and dates are written out.', example: ["'BN-' || 1041", 'BN-1041'] },
    (a: string, b: Typed) => a + textOf(b.value!, b.type),
  ),
  fn(
    '||',
    ['any', 'text'],
    'text',
    { says: 'The same with the text behind.', example: ["12.50 || ' kg'", '12.50 kg'] },
    (a: Typed, b: string) => textOf(a.value!, a.type) + b,
  ),
  fn(
    'length',
    ['text'],
    'integer',
    { says: 'How many signs the text has.', example: ["length('quay')", '4'] },
    (text: string) => whole(length(text)),
  ),
  fn(
    'char_length',
    ['text'],
    'integer',
    { says: 'The same as length.', example: ["char_length('quay')", '4'] },
    (text: string) => whole(length(text)),
  ),
  fn(
    'upper',
    ['text'],
    'text',
    { says: 'The text in capitals.', example: ["upper('Tern Point')", 'TERN POINT'] },
    upper,
  ),
  fn(
    'lower',
    ['text'],
    'text',
    { says: 'The text in small letters.', example: ["lower('Tern Point')", 'tern point'] },
    lower,
  ),
  fn(
    'initcap',
    ['text'],
    'text',
    {
      says: 'The first letter of each word as a capital, the others small.',
      example: ["initcap('TERN point')", 'Tern Point'],
    },
    (text: string) => {
      let inWord = false;
      return [...text]
        .map((letter) => {
          const own = inWord ? lower(letter) : upper(letter);
          inWord = /[\p{L}\p{M}\p{N}]/u.test(letter);
          return own;
        })
        .join('');
    },
  ),
  fn(
    'btrim',
    ['text', 'text'],
    'text',
    {
      optional: 1,
      says: 'The text without spaces, or the signs given, at both ends; also written trim(both ... from ...).',
      example: ["btrim('**Quay**', '*')", 'Quay'],
      called: 'text, signs',
    },
    (text: string, signs?: string) => trimmed(text, signs, 'both'),
  ),
  fn(
    'ltrim',
    ['text', 'text'],
    'text',
    {
      optional: 1,
      says: 'The same at the beginning only; also trim(leading ... from ...).',
      example: ["ltrim('007', '0')", '7'],
      called: 'text, signs',
    },
    (text: string, signs?: string) => trimmed(text, signs, 'left'),
  ),
  fn(
    'rtrim',
    ['text', 'text'],
    'text',
    {
      optional: 1,
      says: 'The same at the end only; also trim(trailing ... from ...).',
      example: ["rtrim('12.50', '0')", '12.5'],
      called: 'text, signs',
    },
    (text: string, signs?: string) => trimmed(text, signs, 'right'),
  ),
  fn(
    'left',
    ['text', 'integer'],
    'text',
    {
      says: 'The first signs; a negative count leaves so many out at the end.',
      example: ["left('2025-06', 4)", '2025'],
      called: 'text, count',
    },
    (text: string, count: Numeric) =>
      cut(text, 0, count.n < 0 ? Math.max(0, length(text) + number(count)) : number(count)),
  ),
  fn(
    'right',
    ['text', 'integer'],
    'text',
    {
      says: 'The last signs; a negative count leaves so many out at the beginning.',
      example: ["right('2025-06', 2)", '06'],
      called: 'text, count',
    },
    (text: string, count: Numeric) =>
      cut(text, count.n < 0 ? -number(count) : Math.max(0, length(text) - number(count))),
  ),
  fn(
    'substring',
    ['text', 'integer', 'integer'],
    'text',
    {
      optional: 1,
      says: 'The signs from a place on, counted from 1, and how many; also written substring(text from 2 for 3).',
      example: ["substring('Saltby' from 2 for 3)", 'alt'],
      called: 'text, from, count',
    },
    substring,
  ),
  fn(
    'substr',
    ['text', 'integer', 'integer'],
    'text',
    {
      optional: 1,
      says: 'The same as substring.',
      example: ["substr('Saltby', 5)", 'by'],
      called: 'text, from, count',
    },
    substring,
  ),
  fn(
    'position',
    ['text', 'text'],
    'integer',
    {
      says: 'Where the first text begins in the second, from 1; 0: nowhere.',
      example: ["position('by' in 'Saltby')", '5'],
      called: 'sought in text',
    },
    (sought: string, text: string) =>
      whole(text.includes(sought) ? length(text.slice(0, text.indexOf(sought))) + 1 : 0),
  ),
  fn(
    'strpos',
    ['text', 'text'],
    'integer',
    { says: 'The same, with the text first.', example: ["strpos('Saltby', 'by')", '5'], called: 'text, sought' },
    (text: string, sought: string) =>
      whole(text.includes(sought) ? length(text.slice(0, text.indexOf(sought))) + 1 : 0),
  ),
  fn(
    'split_part',
    ['text', 'text', 'integer'],
    'text',
    {
      says: 'The part of a text between marks, counted from 1, or from -1 at the end.',
      example: ["split_part('HK1 - Hake', ' - ', 2)", 'Hake'],
      called: 'text, mark, nth',
    },
    splitPart,
  ),
  fn(
    'replace',
    ['text', 'text', 'text'],
    'text',
    {
      says: 'The text with every other in it replaced.',
      example: ["replace('1 234', ' ', '')", '1234'],
      called: 'text, sought, by',
    },
    replaced,
  ),
  fn(
    'lpad',
    ['text', 'integer', 'text'],
    'text',
    {
      optional: 1,
      says: 'The text filled up at its beginning, or cut, to a length.',
      example: ["lpad('7', 3, '0')", '007'],
      called: 'text, length, fill',
    },
    (text: string, to: Numeric, fill?: string) => padded(text, to, fill, true),
  ),
  fn(
    'rpad',
    ['text', 'integer', 'text'],
    'text',
    {
      optional: 1,
      says: 'The text filled up at its end, or cut, to a length.',
      example: ["rpad('7', 3, '.')", '7..'],
      called: 'text, length, fill',
    },
    (text: string, to: Numeric, fill?: string) => padded(text, to, fill, false),
  ),
  fn(
    'starts_with',
    ['text', 'text'],
    'boolean',
    {
      says: 'Does the text begin with the other?',
      example: ["starts_with('Total Saltby', 'Total')", 'true'],
      called: 'text, beginning',
    },
    (text: string, beginning: string) => text.startsWith(beginning),
  ),
  fn(
    'concat',
    ['any'],
    'text',
    {
      rest: 'any',
      takesBlanks: true,
      says: 'All values put together; blanks are left out.',
      example: ["concat('Q', 2, null, ' 2025')", 'Q2 2025'],
      called: 'values',
    },
    (...all: Typed[]) => all.map(({ value, type }) => (value === null ? '' : joinedText(value, type))).join(''),
  ),
  fn(
    'concat_ws',
    ['text', 'any'],
    'text',
    {
      rest: 'any',
      takesBlanks: true,
      says: 'All values with a text between; blanks are left out.',
      example: ["concat_ws(', ', 'Saltby', null, 'N3')", 'Saltby, N3'],
      called: 'between, values',
    },
    (between: string | null, ...all: Typed[]) => {
      if (between === null) return null;
      const texts = all.flatMap(({ value, type }) => (value === null ? [] : [joinedText(value, type)]));
      const length = texts.reduce((sum, text) => sum + text.length, between.length * Math.max(0, texts.length - 1));
      if (length > longestText) throw tooLong();
      return texts.join(between);
    },
  ),
];
