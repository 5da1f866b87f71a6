import { RE2JS } from 're2js';
import { Mishap } from '../mishap';
import type { Numeric } from '../numeric';
import { bounded, type Value } from '../value';
import { declaring, type FormulaFunction } from './function';

const fn = declaring('patterns');

/** What regular expressions of SQL and of programs do not mean alike, each with what to do. */
const unlike: readonly (readonly [RegExp, string])[] = [
  [/\(\?(?!:)/, 'groups that look ahead or behind, or set options'],
  [/(?<!\\)[*+?}]\?/, 'a ? behind a quantity'],
  [/\\[1-9]/, 'references back to a group'],
  [/\\[bBAZzmMyYcGpPuUxkKQE]/, 'the escapes \\b, \\y, \\m, \\A and the like: use ^, $ and classes'],
  [/(?<!\\)\{(?!\d+(?:,\d*)?\})/, 'a { that begins no quantity: write \\{'],
  [/^\*|(?<!\\)[(|]\*/, 'a quantity of nothing'],
];

/**
 * A pattern of the subset that POSIX regular expressions and those of programs have in common: what is longest at the first place is
 * what fits. It is matched in time that grows with the text alone (RE2's automata). @throws Mishap
 */
function pattern(text: string, small: boolean): RE2JS {
  const own = unlike.find(([is]) => is.test(text.replace(/\\\\/g, '')));
  if (own) throw new Mishap(`a pattern with ${own[1]}`);
  try {
    return RE2JS.compile(withLetters(text), RE2JS.LONGEST_MATCH | RE2JS.DOTALL | (small ? RE2JS.CASE_INSENSITIVE : 0));
  } catch {
    throw new Mishap(`“${text}” is no pattern: close every bracket, and put \\ before signs that stand for themselves`);
  }
}

const letters: Readonly<Record<string, string>> = {
  '[:alpha:]': '\\p{L}',
  '[:alnum:]': '\\p{L}\\p{N}',
  '[:upper:]': '\\p{Lu}',
  '[:lower:]': '\\p{Ll}',
};
/** Letters are those of all languages, where RE2's own are those of ASCII. */
function withLetters(text: string): string {
  let inClass = false;
  return text.replace(/\[:\w+:\]|\\.|[[\]]/gsu, (mark) => {
    if (inClass && letters[mark]) return letters[mark];
    if (mark === '[') inClass = true;
    else if (mark === ']') inClass = false;
    if (mark === '\\w') return inClass ? '\\p{L}\\p{N}_' : '[\\p{L}\\p{N}_]';
    return mark === '\\W' && !inClass ? '[^\\p{L}\\p{N}_]' : mark;
  });
}

/** Compiled patterns are kept: most are the same in every row. */
function kept<Made>(make: (text: string) => Made): (text: string) => Made {
  let last: { text: string; made: Made } | undefined;
  return (text) => {
    if (last?.text !== text) last = { text, made: make(text) };
    return last.made;
  };
}

const signsOf = (text: string): readonly string[] => (/[\ud800-\udfff]/.test(text) ? [...text] : text.split(''));

/** What a like pattern is made of. @throws Mishap */
function likeParts(text: string, escape: string): (string | { readonly any: 'one' | 'many' })[] {
  if (signsOf(escape).length > 1) throw new Mishap('an escape of more than one sign');
  const parts: (string | { any: 'one' | 'many' })[] = [];
  const signs = signsOf(text);
  for (let i = 0; i < signs.length; i++) {
    if (escape !== '' && signs[i] === escape) {
      if (i + 1 === signs.length) throw new Mishap('a pattern that ends with its escape');
      parts.push(signs[++i]);
    } else parts.push(signs[i] === '%' ? { any: 'many' } : signs[i] === '_' ? { any: 'one' } : signs[i]);
  }
  return parts;
}

/** Does a text fit as a whole? One look back for each %, so that no pattern takes long. */
function fitsLike(text: string, parts: ReturnType<typeof likeParts>): boolean {
  const signs = signsOf(text);
  let [at, part, star, from] = [0, 0, -1, 0];
  while (at < signs.length) {
    const own = parts[part];
    if (own !== undefined && (typeof own === 'string' ? own === signs[at] : own.any === 'one'))
      [at, part] = [at + 1, part + 1];
    else if (own !== undefined && typeof own !== 'string') [star, from, part] = [part, at, part + 1];
    else if (star >= 0) [at, part] = [++from, star + 1];
    else return false;
  }
  return parts.slice(part).every((own) => typeof own !== 'string' && own.any === 'many');
}

const likeWith = (small: boolean) => () => {
  const parts = kept((key: string) => likeParts(key.slice(1), key[0] === '\u0000' ? '' : key[0]));
  const cased = (text: string) => (small ? text.toLowerCase() : text);
  return (text: string, like: string, escape = '\\') => {
    if (signsOf(escape).length > 1) throw new Mishap('an escape of more than one sign');
    return fitsLike(cased(text), parts(`${escape === '' ? '\u0000' : escape}${cased(like)}`));
  };
};

const matchWith = (small: boolean, wanted: boolean) => () => {
  const compiled = kept((text) => pattern(text, small));
  return (text: string, own: string) => compiled(own).matcher(text).find() === wanted;
};

const flagsOf = (flags: string): { small: boolean; all: boolean } => {
  const other = [...flags].find((flag) => flag !== 'g' && flag !== 'i');
  if (other !== undefined) throw new Mishap(`the flag “${other}”: there are g, every match, and i, capitals or not`);
  return { small: flags.includes('i'), all: flags.includes('g') };
};

/** `\1` is a group, `\&` the match, `\\` a backslash. */
const filled = (by: string, groups: readonly (string | null)[]): string =>
  by.replace(/\\([0-9&\\])/g, (_, mark: string) =>
    mark === '\\' ? '\\' : (groups[mark === '&' ? 0 : Number(mark)] ?? ''),
  );

function replaceWith() {
  const compiled = kept((key: string) => pattern(key.slice(1), key[0] === 'i'));
  return (text: string, own: string, by: string, flags = '') => {
    const { small, all } = flagsOf(flags);
    const matcher = compiled(`${small ? 'i' : ' '}${own}`).matcher(text);
    let [made, from] = ['', 0];
    while (matcher.find()) {
      made +=
        text.slice(from, matcher.start()) +
        filled(
          by,
          Array.from({ length: matcher.groupCount() + 1 }, (_, i) => matcher.group(i)),
        );
      bounded(made);
      from = matcher.end();
      if (!all) break;
    }
    return made + text.slice(from);
  };
}

function substrWith() {
  const compiled = kept((key: string) => pattern(key.slice(1), key[0] === 'i'));
  return (text: string, own: string, start?: Numeric, nth?: Numeric, flags = '', group?: Numeric): Value => {
    const [from, wanted, part] = [Number(start?.n ?? 1), Number(nth?.n ?? 1), Number(group?.n ?? 0)];
    if (from < 1 || wanted < 1 || part < 0) throw new Mishap('a place or a count below 1');
    const { small } = flagsOf(flags.replaceAll('g', 'x'));
    const signs = signsOf(text);
    if (from > signs.length + 1) return null;
    const matcher = compiled(`${small ? 'i' : ' '}${own}`).matcher(text);
    // What begins at a place further on does not begin there: ^ is the beginning of the text.
    let found = matcher.find(from === 1 ? 0 : signs.slice(0, from - 1).join('').length);
    for (let n = 1; found; n++, found = matcher.find())
      if (n === wanted)
        return matcher.groupCount() === 0 && part === 1
          ? matcher.group(0)
          : part > matcher.groupCount()
            ? null
            : matcher.group(part);
    return null;
  };
}

/** A function of which each use keeps what it has compiled. */
const using = (
  name: string,
  args: FormulaFunction['args'],
  result: FormulaFunction['result'],
  about: Parameters<typeof fn>[3],
  prepare: () => (...args: never[]) => Value,
): FormulaFunction => ({ ...fn(name, args, result, about, prepare()), prepare });

export const patterns = [
  using(
    'like',
    ['text', 'text', 'text'],
    'boolean',
    {
      optional: 1,
      says: 'Does the whole text fit? % is any text, _ any sign, \\ (or the sign behind escape) goes before those that stand for themselves.',
      example: ["'Total Saltby' like 'Total %'", 'true'],
    },
    likeWith(false),
  ),
  using(
    'ilike',
    ['text', 'text', 'text'],
    'boolean',
    { optional: 1, says: 'The same, capitals or not.', example: ["'TOTAL' ilike 'total'", 'true'] },
    likeWith(true),
  ),
  using(
    '~',
    ['text', 'text'],
    'boolean',
    { says: 'Does a part of the text fit the pattern?', example: ["'BN-1041' ~ '^[A-Z]{2}-\\d+$'", 'true'] },
    matchWith(false, true),
  ),
  using(
    '~*',
    ['text', 'text'],
    'boolean',
    { says: 'The same, capitals or not.', example: ["'bn-1041' ~* '^BN'", 'true'] },
    matchWith(true, true),
  ),
  using(
    '!~',
    ['text', 'text'],
    'boolean',
    { says: 'Does no part of the text fit the pattern?', example: ["'BN-1041' !~ '^[0-9]'", 'true'] },
    matchWith(false, false),
  ),
  using(
    '!~*',
    ['text', 'text'],
    'boolean',
    { says: 'The same, capitals or not.', example: ["'BN-1041' !~* '^bn'", 'false'] },
    matchWith(true, false),
  ),
  using(
    'regexp_replace',
    ['text', 'text', 'text', 'text'],
    'text',
    {
      optional: 1,
      says: 'The text with the first match replaced, or all with the flag g; \\1 is a group, \\& the match.',
      example: ["regexp_replace('1 234 567', ' ', '', 'g')", '1234567'],
      called: 'text, pattern, by, flags',
    },
    replaceWith,
  ),
  using(
    'regexp_substr',
    ['text', 'text', 'integer', 'integer', 'text', 'integer'],
    'text',
    {
      optional: 4,
      says: 'What of the text fits the pattern; blank: nothing does. From a place on, the nth match, with flags, a group of it.',
      example: ["regexp_substr('Berth N3, 14:30', '\\d+', 1, 2)", '14'],
      called: 'text, pattern, from, nth, flags, group',
    },
    substrWith,
  ),
];
