// The filter expressions of OData 4 that make sense for a flat table (OData URL Conventions 5.1.1).
import { dateOfDay, dayNumber, daysIn } from '../values/date';

export type Literal = string | number | boolean | null;
export type Operand =
  | { readonly is: 'property'; readonly name: string }
  | { readonly is: 'literal'; readonly value: Literal }
  | { readonly is: 'call'; readonly of: (typeof functions)[number]; readonly on: Operand };
export type Filter =
  | { readonly is: 'compare'; readonly sign: (typeof signs)[number]; readonly left: Operand; readonly right: Operand }
  | { readonly is: 'test'; readonly of: (typeof tests)[number]; readonly left: Operand; readonly right: Operand }
  | { readonly is: 'in'; readonly left: Operand; readonly values: readonly Literal[] }
  | { readonly is: 'property'; readonly name: string }
  | { readonly is: 'and' | 'or'; readonly left: Filter; readonly right: Filter }
  | { readonly is: 'not'; readonly of: Filter };

const signs = ['eq', 'ne', 'gt', 'ge', 'lt', 'le'] as const;
const tests = ['contains', 'startswith', 'endswith'] as const;
const functions = ['tolower', 'toupper', 'trim', 'length', 'year', 'month', 'day'] as const;

/** A filter that is not understood, with a sentence that says what and where. */
export class NoFilter extends Error {}

type Token = {
  readonly kind: 'word' | 'number' | 'text' | 'moment' | 'sign';
  readonly text: string;
  readonly at: number;
};

const patterns: readonly (readonly [Token['kind'], RegExp])[] = [
  ['text', /'(?:[^']|'')*'/y],
  ['moment', /\d{4}-\d\d-\d\d(?:T\d\d:\d\d(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d:\d\d)?)?/y],
  ['moment', /\d\d:\d\d:\d\d/y],
  ['number', /-?\d+(?:\.\d+)?(?:e[+-]?\d+)?/iy],
  ['word', /[A-Za-z_][\w$]*/y],
  ['sign', /[(),]/y],
];

function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  for (;;) {
    while (/\s/.test(text[at] ?? '')) at++;
    if (at >= text.length) return tokens;
    const found = patterns.flatMap(([kind, pattern]) => {
      pattern.lastIndex = at;
      const match = pattern.exec(text);
      return match ? [{ kind, text: match[0], at }] : [];
    })[0];
    if (!found) throw new NoFilter(`“${text.slice(at, at + 20)}” at ${at + 1} is not understood.`);
    tokens.push(found);
    at += found.text.length;
  }
}

/**
 * A day or a time as it is written; a moment in UTC with a blank before its time, as the dataset has them.
 * @returns undefined for a moment that there is not
 */
function momentText(text: string): string | undefined {
  const [, year, month, day, hour, minute, seconds = ':00', fraction = '', zone = 'Z'] =
    /^(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d)(:\d\d)?(\.\d+)?(Z|[+-]\d\d:\d\d)?$/.exec(text) ?? [];
  if (year === undefined) return text;
  const [y, m, d, h, min] = [year, month, day, hour, minute].map(Number);
  if (m < 1 || m > 12 || d < 1 || d > daysIn(y, m) || h > 23 || min > 59 || seconds > ':59') return undefined;
  const [sign, offsetHours, offsetMinutes] = zone === 'Z' ? [1, 0, 0] : offsetIn(zone);
  const minutes = h * 60 + min - sign * (offsetHours * 60 + offsetMinutes);
  const inDay = ((minutes % minutesOfDay) + minutesOfDay) % minutesOfDay;
  const two = (n: number) => String(n).padStart(2, '0');
  const date = dateOfDay(dayNumber(y, m, d) + Math.floor(minutes / minutesOfDay));
  return `${date} ${two(Math.floor(inDay / 60))}:${two(inDay % 60)}${seconds}${fraction.replace(/\.?0*$/, '')}`;
}
const minutesOfDay = 1440;
const offsetIn = (zone: string): [number, number, number] => {
  const [hours, minutes] = zone.slice(1).split(':').map(Number);
  return [zone.startsWith('-') ? -1 : 1, hours, minutes];
};

/** Deeper brackets are no filter that anybody wrote. */
const deepest = 60;

/** @throws NoFilter */
export function parseFilter(text: string): Filter {
  const tokens = tokensOf(text);
  let next = 0;
  let depth = 0;
  const peek = (): Token | undefined => tokens[next];
  const refuse = (expected: string): never => {
    const token = peek();
    throw new NoFilter(
      token ? `Expected ${expected} at ${token.at + 1}, got “${token.text}”.` : `Expected ${expected} at the end.`,
    );
  };
  const takes = (word: string): boolean => peek()?.text === word && peek()?.kind !== 'text' && (next++, true);
  const must = (sign: string) => takes(sign) || refuse(`“${sign}”`);

  function literal(): Literal | undefined {
    const token = peek();
    if (!token) return undefined;
    if (token.kind === 'text') return (next++, token.text.slice(1, -1).replaceAll("''", "'"));
    if (token.kind === 'number') return (next++, Number(token.text));
    if (token.kind === 'moment') return (next++, momentText(token.text) ?? refuse('a moment that there is'));
    if (token.kind === 'word' && ['true', 'false', 'null'].includes(token.text))
      return (next++, token.text === 'null' ? null : token.text === 'true');
    return undefined;
  }
  function operand(): Operand {
    const value = literal();
    if (value !== undefined) return { is: 'literal', value };
    const token = peek();
    if (token?.kind !== 'word') return refuse('a property or a value');
    next++;
    const of = functions.find((each) => each === token.text);
    if (!of || peek()?.text !== '(') return { is: 'property', name: token.text };
    must('(');
    const on = operand();
    must(')');
    return { is: 'call', of, on };
  }
  function primary(): Filter {
    if (++depth > deepest) throw new NoFilter(`Brackets stand more than ${deepest} deep.`);
    try {
      if (takes('not')) return { is: 'not', of: primary() };
      if (takes('(')) {
        const inside = either();
        must(')');
        return inside;
      }
      const test = tests.find((each) => each === peek()?.text && tokens[next + 1]?.text === '(');
      if (test) {
        next++;
        must('(');
        const left = operand();
        must(',');
        const right = operand();
        must(')');
        // contains(...) eq true is how some clients say it.
        const found: Filter = { is: 'test', of: test, left, right };
        if (takes('eq')) return literal() === true ? found : { is: 'not', of: found };
        return found;
      }
      const left = operand();
      if (takes('in')) {
        must('(');
        const values: Literal[] = [];
        do {
          const value = literal();
          if (value === undefined) return refuse('a value');
          values.push(value);
        } while (takes(','));
        must(')');
        return { is: 'in', left, values };
      }
      const sign = signs.find((each) => takes(each));
      if (sign) return { is: 'compare', sign, left, right: operand() };
      return left.is === 'property' ? { is: 'property', name: left.name } : refuse('eq, ne, gt, ge, lt, le or in');
    } finally {
      depth--;
    }
  }
  function both(): Filter {
    let left = primary();
    while (takes('and')) left = { is: 'and', left, right: primary() };
    return left;
  }
  function either(): Filter {
    let left = both();
    while (takes('or')) left = { is: 'or', left, right: both() };
    return left;
  }
  const filter = either();
  if (next < tokens.length) refuse('the end');
  return filter;
}
