import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isPattern, literally, regularExpression, type Pattern } from './pattern';
import { wildcard } from './wildcard';

const pattern = (text: string, capitals = false): Pattern => {
  const found = regularExpression(text, { capitals });
  if (!isPattern(found)) throw new Error(found.came);
  return found;
};

describe('a pattern of the analyst', () => {
  it('finds, replaces by groups, and splits', () => {
    expect(pattern('^quay (\\d+)').test('Quay 12')).toBe(true);
    expect(pattern('^quay', true).test('Quay 12')).toBe(false);
    expect(pattern('(\\w+)-(\\d+)').replace('HK-1 and SL-2', '$2/$1')).toBe('1/HK and 2/SL');
    expect(pattern('\\d').replace('1 2', '<$&> $$ $7', 'first')).toBe('<1> $ $7 2');
    expect(pattern('\\s*[,;]\\s*').split('cod ; hake,sole')).toEqual(['cod', 'hake', 'sole']);
    expect(pattern('\\s\\p{L}+').find('12\u00a0kg')).toMatchObject({ start: 2, end: 5 });
  });

  it('gives what a usual engine gives, where both know the pattern', () => {
    const piece = fc.constantFrom(
      'a',
      'b',
      '\\d',
      '[ab]',
      '.',
      'a+',
      'b*',
      '(a|b)',
      '\\s',
      '^',
      '$',
      'a?',
      '\\d{2}',
      '[^a]',
    );
    fc.assert(
      fc.property(
        fc.array(piece, { minLength: 1, maxLength: 5 }),
        fc.string({ unit: fc.constantFrom('a', 'b', 'A', '1', '2', ' ', '\u00a0'), maxLength: 12 }),
        (pieces, text) => {
          const source = pieces.join('');
          expect(pattern(source).test(text)).toBe(new RegExp(source, 'iu').test(text));
          expect(pattern(source).replace(text, 'x')).toBe(text.replace(new RegExp(source, 'giu'), 'x'));
        },
      ),
    );
  });

  it('takes no longer over a text that other engines try again and again', () => {
    const text = 'a'.repeat(5000);
    for (const source of ['^(a+)+$', '(a|aa)+$', '(.*)*b', '^(([a-z])+.)+[A-Z]([a-z])+$', 'a*a*a*a*a*a*a*b'])
      expect(typeof pattern(source).test(`${text}!`)).toBe('boolean');
    // A million letters more are no other matter.
    expect(wildcard('*a*a*a*a*a*a*a*a*a*b').test(text.repeat(20))).toBe(false);
  });

  it('is a problem when it is none, or needs to look around or back', () => {
    expect(regularExpression('(')).toMatchObject({
      kind: 'step',
      expected: 'a regular expression',
      remedy: expect.stringContaining('Close every bracket'),
    });
    for (const source of ['(?=a)b', '(?<!a)b', '(a)\\1'])
      expect(regularExpression(source)).toMatchObject({
        expected: expect.stringContaining('without looking ahead'),
        came: `“${source}”`,
      });
  });
});

describe('a text looked for letter by letter', () => {
  it('means nothing but its letters, also in what replaces it', () => {
    expect(literally('1.5', { capitals: false, whole: false }).replace('105 1.5', '$&')).toBe('105 $&');
    expect(literally('total', { capitals: false, whole: true }).test('Total fish')).toBe(false);
    expect(literally('TOTAL', { capitals: true, whole: false }).find('a TOTAL')).toEqual({ start: 2, end: 7 });
  });
});

describe('a text in which a star stands for any', () => {
  it.each<[string, string, boolean]>([
    ['Total *', 'total  Saltby', true],
    ['Total *', 'Total', false],
    ['*(kg)', 'Weight (kg)', true],
    ['20*-*', '2025-06', true],
    ['a*a', 'a', false],
    ['*', '', true],
    ['a*b*c', 'a c b', false],
    ['Weight', 'Weights', false],
  ])('“%s” and “%s”', (pattern, text, fits) => expect(wildcard(pattern).test(text)).toBe(fits));
});
