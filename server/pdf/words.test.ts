import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PlacedGlyph } from './typesetting';
import { wordsOf } from './words';

interface Set {
  readonly x?: number;
  readonly y?: number;
  readonly size?: number;
  readonly spacing?: number;
  readonly bold?: boolean;
}

/** Glyphs of a text set from left to right: letters half as wide as high, spaces a quarter. */
function glyphs(text: string, { x = 50, y = 100, size = 10, spacing = 0, bold = false }: Set = {}): PlacedGlyph[] {
  let at = x;
  return [...text].map((letter) => {
    const space = /\s/.test(letter);
    const advance = size * (space ? 0.25 : 0.5);
    const glyph: PlacedGlyph = {
      text: letter,
      x: at,
      y,
      advance,
      angle: 0,
      fontSize: size,
      ascent: 0.8 * size,
      descent: 0.2 * size,
      bold,
      italic: false,
      space,
    };
    at += advance + spacing;
    return glyph;
  });
}

const texts = (from: readonly PlacedGlyph[]) => wordsOf(from).map((word) => word.text);

describe('words from glyphs', () => {
  it('are the same in whatever order the glyphs are drawn', () => {
    const printed = [...glyphs('Lantern hake 1,204.50'), ...glyphs('Grey sole 88.10', { y: 114 })];
    fc.assert(
      fc.property(
        fc.shuffledSubarray(printed, { minLength: printed.length }),
        (shuffled) => void expect(texts(shuffled)).toEqual(['Lantern', 'hake', '1,204.50', 'Grey', 'sole', '88.10']),
      ),
    );
  });

  it('hold together over kerning and letter-spacing, and part where a space stands', () => {
    const kerned = glyphs('AVAST now').map((glyph, i) => ({ ...glyph, x: glyph.x + (i % 2 ? -0.8 : 0.6) }));
    expect(texts(kerned)).toEqual(['AVAST', 'now']);
    expect(texts(glyphs('spaced out', { spacing: 1.2 }))).toEqual(['spaced', 'out']);
  });

  it('are two when only the space between them tells so, because kerning drew them together', () => {
    const [p, point, space, t] = glyphs('P. T');
    const words = wordsOf([p, { ...point, x: p.x + 2.8 }, { ...space, x: p.x + 5.6 }, { ...t, x: p.x + 8.3 }]);
    expect(words.map((word) => word.text)).toEqual(['P.', 'T']);
    expect(words[1].afterSpace).toBe(true);
  });

  it('count once when drawn twice for weight', () => {
    expect(texts([...glyphs('Total 12'), ...glyphs('Total 12', { x: 50.3 })])).toEqual(['Total', '12']);
  });

  it('keep a number whole over the spaces set inside it', () => {
    expect(texts(glyphs('1\u202f234\u202f567,89 kg'))).toEqual(['1\u202f234\u202f567,89', 'kg']);
  });

  it('take dots that lead to a page number for one word of their own, with or without spaces between', () => {
    expect(texts(glyphs('Tides........14'))).toEqual(['Tides', '........', '14']);
    expect(texts(glyphs('Tides . . . . . . 14'))).toEqual(['Tides', '......', '14']);
  });

  it('leave out the last dots of a leader that had room for two or three only', () => {
    const led = (label: string, dots: number, y: number) => [
      ...glyphs(label, { x: 100 - 5 * (label.length + dots), y }),
      ...glyphs('.'.repeat(dots), { x: 100 - 5 * dots, y }),
      ...glyphs('12', { x: 110, y }),
    ];
    expect(texts([...led('Dues', 8, 100), ...led('Wages', 7, 114), ...led('Other costs', 3, 128)])).toEqual([
      'Dues',
      '........',
      '12',
      'Wages',
      '.......',
      '12',
      'Other',
      'costs',
      '12',
    ]);
    expect(texts([...glyphs('and so on...'), ...glyphs('12', { x: 130 })])).toEqual(['and', 'so', 'on...', '12']);
  });

  it('join an accent to the letter over which it is drawn, and leave one that stands by itself', () => {
    const [e, n] = glyphs('en');
    const over = (text: string, x: number): PlacedGlyph => ({ ...e, text, x });
    expect(texts([over('´', e.x + 0.4), e, n])).toEqual(['én']);
    expect(texts([e, over('˛', e.x), n])).toEqual(['ęn']);
    expect(texts([e, over('´', e.x + e.advance)])).toEqual(['e´']);
  });

  it('never let a raised mark become a digit of a number', () => {
    const amount = fc.integer({ min: 0, max: 9_999_999 }).map((n) => n.toLocaleString('en-GB'));
    const mark = fc.constantFrom('1', '2', '9', '12', 'a', '*', '1,2');
    fc.assert(
      fc.property(
        amount,
        mark,
        fc.double({ min: 0.5, max: 0.7, noNaN: true }),
        fc.double({ min: 0.3, max: 0.5, noNaN: true }),
        (number, raised, smaller, higher) => {
          const printed = [
            ...glyphs(number),
            ...glyphs(raised, { x: 50 + 5 * number.length, y: 100 - 10 * higher, size: 10 * smaller }),
          ];
          const [first] = texts(printed);
          expect(first.startsWith(number)).toBe(true);
          expect(first.slice(number.length)).not.toMatch(/\d/);
        },
      ),
    );
  });

  it('read from right to left where the script does, the numbers in it as they stand', () => {
    const hebrew = [...'שלום'].reverse().join('');
    expect(texts(glyphs(hebrew))).toEqual(['שלום']);
    expect(texts(glyphs(`123${hebrew}`))).toEqual(['שלום123']);
  });

  it('give the ideograph for a radical that looks like it', () => {
    expect(texts(glyphs('⻓⻛埠'))).toEqual(['长风埠']);
  });
});
