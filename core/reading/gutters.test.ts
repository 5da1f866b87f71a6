// Blocks of words set in columns whose places are known.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linesOf } from '../page/lines';
import type { PageContent, Word } from '../page/page';
import { moved, page, words } from '../testing/print';
import { areOnEdges, guttersOf, otherTunings } from './gutters';

const size = 9;
const wide = (text: string) => text.length * 0.5 * size;
const word = (text: string, x: number, y: number): Word => ({
  text,
  box: [x, y, x + wide(text), y + size],
  baseline: y + 0.8 * size,
  fontSize: size,
  weight: 400,
  italic: false,
  angle: 0,
});

interface Column {
  readonly texts: readonly string[];
  readonly toRight: boolean;
}
/** Columns beside one another with so many points between the widest of their texts. */
function set(columns: readonly Column[], room: number): { content: PageContent; gaps: [number, number][] } {
  const all: Word[] = [];
  const gaps: [number, number][] = [];
  let left = 40;
  columns.forEach(({ texts, toRight }, at) => {
    const width = Math.max(...texts.map(wide));
    texts.forEach((text, row) => {
      let x = toRight ? left + width - wide(text) : left;
      for (const part of text.split(' ')) {
        all.push(word(part, x, 100 + row * 14));
        x += wide(part) + 0.5 * size;
      }
    });
    if (at > 0) gaps.push([left - room, left]);
    left += width + room;
  });
  return { content: page(all), gaps };
}
const rows = 8;
const amount = fc.integer({ min: 0, max: 99_999 }).map(String);
const name = fc.constantFrom('Saltby', 'Tern', 'Lantern', 'Hake', 'Sole', 'Crab', 'Lock', 'Mole');
const column: fc.Arbitrary<Column> = fc.oneof(
  fc.array(amount, { minLength: rows, maxLength: rows }).map((texts) => ({ texts, toRight: true })),
  fc.array(name, { minLength: rows, maxLength: rows }).map((texts) => ({ texts, toRight: false })),
);

describe('gutters', () => {
  it('are the white space between columns, each once, from left to right', () => {
    fc.assert(
      fc.property(
        fc.array(column, { minLength: 2, maxLength: 7 }),
        fc.integer({ min: 16, max: 60 }),
        (columns, room) => {
          const { content, gaps } = set(columns, room);
          const found = guttersOf(content, linesOf(content.words));
          expect(found.length).toBe(gaps.length);
          // Each lies where no text of any row stands.
          found.forEach(({ from, to }, i) => {
            expect(from).toBeLessThanOrEqual(gaps[i][0] + 0.01);
            expect(to).toBeGreaterThanOrEqual(gaps[i][1] - 0.01);
            expect(content.words.some(({ box }) => box[0] < to - 0.01 && box[2] > from + 0.01)).toBe(false);
          });
        },
      ),
    );
  });

  it('do not hang on the place of the block on its page', () => {
    fc.assert(
      fc.property(
        fc.array(column, { minLength: 2, maxLength: 5 }),
        fc.integer({ min: 16, max: 40 }),
        fc.integer({ min: -20, max: 200 }),
        fc.integer({ min: 0, max: 400 }),
        (columns, room, right, down) => {
          const { content } = set(columns, room);
          const elsewhere = moved(content, right, down);
          const own = guttersOf(content, linesOf(content.words));
          const other = guttersOf(elsewhere, linesOf(elsewhere.words));
          expect(other.length).toBe(own.length);
          other.forEach(({ from, to }, i) => {
            expect(from - right).toBeCloseTo(own[i].from, 6);
            expect(to - right).toBeCloseTo(own[i].to, 6);
          });
        },
      ),
    );
  });

  it('are asked for again without being worked out anew, and not changed by that', () => {
    const { content } = set(
      [
        { texts: ['Saltby', 'Tern'], toRight: false },
        { texts: ['12', '7'], toRight: true },
      ],
      30,
    );
    const lines = linesOf(content.words);
    const first = guttersOf(content, lines);
    expect(guttersOf(content, lines)).toBe(first);
    for (const tuning of otherTunings) guttersOf(content, lines, tuning);
    expect(guttersOf(content, lines)).toEqual(first);
  });

  it('are none in prose, none of a single column and none of nothing', () => {
    const prose = page(
      words([
        'The board met on the second day after the spring tide and took',
        'note of the repairs to the lock chamber, which will go on until',
        'the oak has dried. The clerks ask that all slips be handed in',
        'before noon on the last working day of the month, and thank the',
      ]),
    );
    expect(guttersOf(prose, linesOf(prose.words))).toEqual([]);
    const { content } = set([{ texts: ['Saltby', 'Tern', 'Lantern'], toRight: false }], 0);
    expect(guttersOf(content, linesOf(content.words))).toEqual([]);
    expect(guttersOf(content, [])).toEqual([]);
  });

  it('are not those between a sign and its amount, nor beside a column of operators', () => {
    const signed = set(
      [
        { texts: ['Hake', 'Sole', 'Crab', 'Lock'], toRight: false },
        { texts: ['$', '$', '$', '$'], toRight: false },
        { texts: ['1200', '85', '430', '77'], toRight: true },
      ],
      20,
    );
    expect(guttersOf(signed.content, linesOf(signed.content.words))).toHaveLength(1);
    const formulas = set(
      [
        { texts: ['aa', 'bb', 'cc', 'dd'], toRight: false },
        { texts: ['=', '=', '=', '='], toRight: false },
        { texts: ['12', '85', '43', '77'], toRight: true },
      ],
      20,
    );
    expect(guttersOf(formulas.content, linesOf(formulas.content.words))).toEqual([]);
  });
});

describe('texts on edges', () => {
  const pair = (left: number, right: number): [[number, number, number, number], [number, number, number, number]] => [
    [left - 30, 0, left, 9],
    [right, 0, right + 20, 9],
  ];

  it('are two columns where one of the inner edges is straight and the other is not', () => {
    expect(areOnEdges([pair(50, 100), pair(58, 100), pair(63, 100.3)])).toBe(true);
    expect(areOnEdges([pair(50, 100), pair(50, 108), pair(50.2, 113)])).toBe(true);
    expect(areOnEdges([pair(50, 100), pair(58, 104), pair(63, 111)])).toBe(false);
    // Two rows may stand so by chance.
    expect(areOnEdges([pair(50, 100), pair(58, 100)])).toBe(false);
  });
});
