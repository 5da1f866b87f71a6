import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { results } from '../../testing/formula-results';
import { quotedText } from '../print';

const texts = fc.string({ unit: fc.constantFrom('a', 'b', 'A', '%', '_', '\\', '🐟'), maxLength: 7 });
const gives = (formula: string) => results(formula)[0];

/** What like means, said as plainly as it can be: slow, and only for short texts. */
function fits(text: readonly string[], like: readonly string[]): boolean {
  const [first, ...rest] = like;
  if (first === undefined) return text.length === 0;
  if (first === '%') return Array.from({ length: text.length + 1 }, (_, i) => i).some((i) => fits(text.slice(i), rest));
  if (first === '\\') return text[0] === rest[0] && text.length > 0 && fits(text.slice(1), rest.slice(1));
  return text.length > 0 && (first === '_' || first === text[0]) && fits(text.slice(1), rest);
}
const endsOpen = (like: string) => /(?:^|[^\\])(?:\\\\)*\\$/.test(like);

describe('like', () => {
  it('fits a text as a whole: any text for %, one sign for _, a sign itself behind \\', () => {
    fc.assert(
      fc.property(texts, texts, (text, like) => {
        fc.pre(!endsOpen(like));
        expect(gives(`${quotedText(text)} like ${quotedText(like)}`)).toBe(fits([...text], [...like]));
      }),
      { numRuns: 400 },
    );
  });

  it('may have another escape, or none', () => {
    fc.assert(
      fc.property(texts, texts, (text, like) => {
        fc.pre(!endsOpen(like));
        // The escape, and what it escapes, are another sign in the text and in the pattern alike.
        const [own, other] = [quotedText(text), quotedText(like.replaceAll('\\', '!'))];
        expect(gives(`replace(${own}, '\\', '!') like ${other} escape '!'`)).toBe(fits([...text], [...like]));
        expect(gives(`${own} like ${quotedText(like)} escape ''`)).toBe(
          fits(
            [...text],
            [...like].flatMap((sign) => (sign === '\\' ? ['\\', '\\'] : [sign])),
          ),
        );
      }),
    );
    expect(gives("'a' like 'a' escape '!!'")).toBe('? an escape of more than one sign');
    expect(gives("'a' like 'a\\'")).toBe('? a pattern that ends with its escape');
  });

  it('with capitals or not is the same on small letters', () => {
    fc.assert(
      fc.property(texts, texts, (text, like) => {
        fc.pre(!endsOpen(like));
        expect(gives(`${quotedText(text)} ilike ${quotedText(like)}`)).toBe(
          fits([...text.toLowerCase()], [...like.toLowerCase()]),
        );
      }),
    );
  });
});

describe('regular expressions', () => {
  /** Patterns that fit the same whether what is longest or what comes first is taken. */
  const pattern = fc.constantFrom(
    'a',
    '^a',
    'b$',
    'a+',
    '[ab]',
    '[^ab]+',
    '.b',
    '(a)(b)',
    'ab?c',
    '\\d+',
    '^\\D*$',
    'a{2}',
    '(?:ab)+',
    '\\s',
    'x|y',
    '\\.',
    '^$',
  );
  const sample = fc.string({ unit: fc.constantFrom('a', 'b', 'c', '1', '2', ' ', '.', 'x', '\n'), maxLength: 9 });

  it('of the subset find what other programs find', () => {
    fc.assert(
      fc.property(sample, pattern, (text, own) => {
        const quoted = quotedText(text);
        const found = new RegExp(own, 's').exec(text);
        expect(gives(`${quoted} ~ ${quotedText(own)}`)).toBe(found !== null);
        expect(gives(`${quoted} !~ ${quotedText(own)}`)).toBe(found === null);
        expect(gives(`regexp_substr(${quoted}, ${quotedText(own)})`)).toBe(
          found === null || found[0] === '' ? null : found[0],
        );
      }),
      { numRuns: 400 },
    );
  });

  it('replace the first match, or every one', () => {
    fc.assert(
      fc.property(sample, pattern, (text, own) => {
        const [quoted, sought] = [quotedText(text), quotedText(own)];
        expect(
          gives(
            `regexp_replace(${quoted}, ${sought}, '<\\&>') = ${quotedText(text.replace(new RegExp(own, 's'), '<$&>'))}`,
          ),
        ).toBe(true);
        expect(
          gives(
            `regexp_replace(${quoted}, ${sought}, '', 'g') = ${quotedText(text.replace(new RegExp(own, 'gs'), ''))}`,
          ),
        ).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  it('give the nth match, and a group of it', () => {
    const found = (more: string) => gives(`regexp_substr('N3 14:30, N4 15:45', '(\\d+):(\\d+)'${more})`);
    expect([
      found(''),
      found(', 1, 2'),
      found(', 5'),
      found(', 1, 3'),
      found(", 1, 2, '', 1"),
      found(", 1, 2, '', 2"),
      found(", 1, 1, '', 3"),
      found(', 99'),
    ]).toEqual(['14:30', '15:45', '4:30', null, '15', '45', null, null]);
    expect(found(', 0')).toBe('? a place or a count below 1');
    expect(found(", 1, 1, 'x'")).toMatch(/^\? the flag “x”/);
  });

  it('with a group that took no part have nothing in its place', () => {
    expect(gives("regexp_replace('b', '(a)|(b)', '[\\1\\2]')")).toBe('[b]');
    expect(gives("regexp_replace('a', 'a', '\\\\1')")).toBe('\\1');
  });
});
