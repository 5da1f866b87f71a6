import type { Span } from './ast';
import { Faulty } from './fault';

/** A word is told in small letters, as SQL takes it; a name in double quotes as it is written. */
export interface Token extends Span {
  readonly kind: 'word' | 'name' | 'number' | 'text' | 'sign' | 'end';
  readonly text: string;
  /** As it stands in the formula. */
  readonly written: string;
}

/** Longest first. */
const signs = [
  '!~*',
  '!~',
  '~*',
  '::',
  '<>',
  '!=',
  '<=',
  '>=',
  '||',
  '<',
  '>',
  '=',
  '~',
  '+',
  '-',
  '*',
  '/',
  '%',
  '^',
  '(',
  ')',
  ',',
  '.',
];
const unknownSigns: Readonly<Record<string, string>> = {
  ';': 'A formula is one expression: leave the semicolon out.',
  '[': 'There are no lists in square brackets: write the names of columns in double quotes, as "Value", and lists as (1, 2).',
  ']': 'There are no lists in square brackets: write the names of columns in double quotes, as "Value", and lists as (1, 2).',
  $: 'A column is written by its name in double quotes, as "Value".',
  '`': 'Write the names of columns in double quotes, as "Value".',
  '“': 'Write the names of columns in straight double quotes, as "Value", and texts in straight single ones.',
  '”': 'Write the names of columns in straight double quotes, as "Value", and texts in straight single ones.',
  '‘': "Write texts in straight single quotes, as 'landed'.",
  '’': "Write texts in straight single quotes, as 'landed'.",
  '&': 'Texts are put together by ||, conditions by and.',
};

/** The words and signs of a formula, an end behind them. @throws Faulty */
export function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  const take = (kind: Token['kind'], to: number, own: string) => {
    tokens.push({ kind, text: own, written: text.slice(at, to), from: at, to });
    at = to;
  };
  /** What stands in quotes, which are doubled where they belong to it. */
  const quoted = (mark: string, what: string): [string, number] => {
    let own = '';
    for (let i = at + 1; i < text.length; i++) {
      if (text[i] !== mark) own += text[i];
      else if (text[i + 1] === mark) own += text[i++];
      else return [own, i + 1];
    }
    throw new Faulty(`${what} begins here and does not end: close it with ${mark}.`, { from: at, to: text.length });
  };
  while (at < text.length) {
    const rest = text.slice(at);
    const gap = /^(?:\s+|--[^\n]*|\/\*[^]*?\*\/)/.exec(rest);
    if (gap) {
      at += gap[0].length;
      continue;
    }
    if (text[at] === '"') {
      const [name, to] = quoted('"', 'A name');
      take('name', to, name);
      continue;
    }
    if (text[at] === "'") {
      const [own, to] = quoted("'", 'A text');
      take('text', to, own);
      continue;
    }
    const number = /^(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?/i.exec(rest)?.[0];
    if (number !== undefined) {
      if (/^[\p{L}_]/u.test(rest.slice(number.length)))
        throw new Faulty(
          'A number ends before a letter: put a space or a sign between, or write the name of a column in double quotes.',
          { from: at, to: at + number.length + 1 },
        );
      take('number', at + number.length, number);
      continue;
    }
    const word = /^[\p{L}_][\p{L}\p{M}\p{N}_]*/u.exec(rest)?.[0];
    if (word !== undefined) {
      take('word', at + word.length, word.toLowerCase());
      continue;
    }
    const sign = signs.find((each) => rest.startsWith(each));
    if (sign === undefined) {
      const own = [...rest][0];
      throw new Faulty(unknownSigns[own] ?? `The sign ${own} means nothing in a formula.`, {
        from: at,
        to: at + own.length,
      });
    }
    take('sign', at + sign.length, sign === '!=' ? '<>' : sign);
  }
  tokens.push({ kind: 'end', text: '', written: '', from: text.length, to: text.length });
  return tokens;
}
