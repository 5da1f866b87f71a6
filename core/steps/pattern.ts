import { escaped } from '../values/escaped';
import { RE2JS } from 're2js';
import type { Problem } from '../sheet/problem';

/**
 * A regular expression of the analyst's. It is matched in time that grows with the text alone (RE2's automata), as one that is
 * tried again and again would stop everything; so it cannot look ahead or behind, nor refer back.
 */
export interface Pattern {
  test(text: string): boolean;
  /** The text with every match, or with the first only, replaced; `$1` is a group, `$&` the match, `$$` a dollar. */
  replace(text: string, by: string, which?: 'all' | 'first'): string;
  /** What stands between the matches. */
  split(text: string): string[];
  /** The first match. */
  find(text: string): { readonly start: number; readonly end: number } | undefined;
}

/** White space as it is printed; RE2's own is that of ASCII. */
const spaces = '\\s\\x{00A0}\\x{2009}\\x{202F}\\x{3000}';

/** The regular expression that a text says, or the problem that it says none. */
export function regularExpression(text: string, { capitals = false }: { capitals?: boolean } = {}): Pattern | Problem {
  try {
    return patternOf(RE2JS.compile(RE2JS.translateRegExp(withSpaces(text)), capitals ? 0 : RE2JS.CASE_INSENSITIVE));
  } catch {
    const looks = /\(\?(?:[=!]|<[=!])|\\[1-9]/.test(text);
    return {
      kind: 'step',
      expected: looks
        ? 'a regular expression without looking ahead or behind and without referring back'
        : 'a regular expression',
      came: `“${text}”`,
      remedy: looks
        ? 'Say what is to be found by groups, and use them as $1, $2.'
        : 'Close every bracket, and put \\ before marks that stand for themselves.',
    };
  }
}

export const isPattern = (of: Pattern | Problem): of is Pattern => 'test' in of;

function withSpaces(text: string): string {
  let inClass = false;
  return text.replace(/\\.|[[\]]/gsu, (mark) => {
    if (mark === '[') inClass = true;
    else if (mark === ']') inClass = false;
    if (mark === '\\s') return inClass ? spaces : `[${spaces}]`;
    return mark === '\\S' && !inClass ? `[^${spaces}]` : mark;
  });
}

function patternOf(compiled: RE2JS): Pattern {
  /** Every match: where it begins and ends, and its groups. */
  function* matches(text: string): Generator<{ start: number; end: number; groups: (string | null)[] }> {
    const matcher = compiled.matcher(text);
    while (matcher.find())
      yield {
        start: matcher.start(),
        end: matcher.end(),
        groups: Array.from({ length: matcher.groupCount() + 1 }, (_, i) => matcher.group(i)),
      };
  }
  return {
    test: (text) => compiled.matcher(text).find(),
    find: (text) => {
      const first = matches(text).next();
      return first.done ? undefined : first.value;
    },
    replace(text, by, which = 'all') {
      let replaced = '';
      let from = 0;
      for (const { start, end, groups } of matches(text)) {
        replaced += text.slice(from, start) + filled(by, groups);
        from = end;
        if (which === 'first') break;
      }
      return replaced + text.slice(from);
    },
    split(text) {
      const parts: string[] = [];
      let from = 0;
      for (const { start, end } of matches(text)) {
        if (start === end) continue;
        parts.push(text.slice(from, start));
        from = end;
      }
      return [...parts, text.slice(from)];
    },
  };
}

/** A text that is looked for letter by letter, anywhere or as the whole; nothing in it, nor in what replaces it, stands for something else. */
export function literally(text: string, { capitals, whole }: { capitals: boolean; whole: boolean }): Pattern {
  const literally = escaped(text);
  const expression = new RegExp(whole ? `^${literally}$` : literally, capitals ? 'gu' : 'giu');
  return {
    test: (own) => own.search(expression) >= 0,
    replace: (own, by) => own.replace(expression, () => by),
    split: (own) => own.split(expression),
    find(own) {
      const start = own.search(expression);
      return start < 0 ? undefined : { start, end: start + text.length };
    },
  };
}

const filled = (by: string, groups: readonly (string | null)[]): string =>
  by.replace(
    /\$(?:(\$)|(&)|(\d{1,2}))/g,
    (mark, dollar: string | undefined, all: string | undefined, number: string | undefined) => {
      if (dollar) return '$';
      if (all) return groups[0] ?? '';
      return Number(number) < groups.length && Number(number) > 0 ? (groups[Number(number)] ?? '') : mark;
    },
  );
