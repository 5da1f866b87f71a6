import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linesOf, textOf } from '../page/lines';
import { across, page, words } from '../testing/print';
import { looksNil, looksNumeric } from '../values/numeric';
import { amountsApart, areThousands, isAmount, phrasesOf, spaceOf, typical } from './phrases';
import { ruledRows, spacedRows } from './row-gaps';

const lineOf = (text: string) => {
  const content = page(words([text]));
  return { content, line: linesOf(content.words)[0] };
};
const phrases = (text: string, gap: number) => {
  const { content, line } = lineOf(text);
  return phrasesOf(content, line, gap).map((each) => textOf(content.words, each.words));
};

describe('phrases of a line', () => {
  it('are cut where the gap between words is wide', () => {
    expect(phrases('Tern Point      48   12.5', 1)).toEqual(['Tern Point', '48', '12.5']);
    expect(phrases('Tern Point      48   12.5', 100)).toEqual(['Tern Point 48 12.5']);
    expect(phrases('Tern Point', 0)).toEqual(['Tern', 'Point']);
  });

  it('hold each word once, in order, in a box around them', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.stringMatching(/^[a-z0-9]{1,8}$/), fc.integer({ min: 1, max: 9 })), {
          minLength: 1,
          maxLength: 8,
        }),
        fc.double({ min: 0, max: 4, noNaN: true }),
        (parts, gap) => {
          const { content, line } = lineOf(parts.map(([text, room]) => text + ' '.repeat(room)).join(''));
          const found = phrasesOf(content, line, gap);
          expect(found.flatMap((each) => each.words)).toEqual(line.words);
          for (const each of found) {
            const boxes = each.words.map((w) => content.words[w].box);
            expect(each.box).toEqual([
              Math.min(...boxes.map((box) => box[0])),
              Math.min(...boxes.map((box) => box[1])),
              Math.max(...boxes.map((box) => box[2])),
              Math.max(...boxes.map((box) => box[3])),
            ]);
          }
          // A wider gap cuts no more.
          expect(phrasesOf(content, line, gap + 1).length).toBeLessThanOrEqual(found.length);
        },
      ),
    );
  });

  it('are parted between amounts side by side, but not within thousands set off by spaces', () => {
    const apart = (text: string) => {
      const { content, line } = lineOf(text);
      return amountsApart(content, phrasesOf(content, line, 100)).map((each) => textOf(content.words, each.words));
    };
    expect(apart('12.50 8.25 7')).toEqual(['12.50', '8.25', '7']);
    expect(apart('1 234 567')).toEqual(['1 234 567']);
    expect(apart('June 2025 2024')).toEqual(['June 2025 2024']);
    expect(apart('Hake 12')).toEqual(['Hake 12']);
    expect([
      areThousands('1', '234'),
      areThousands('12', '34'),
      areThousands('1234', '567'),
      areThousands('1', '234.50'),
      isAmount('(12.5)'),
      isAmount('12a'),
      isAmount('-'),
    ]).toEqual([true, false, false, true, true, false, false]);
  });
});

describe('the word space of a block', () => {
  it('is as wide as a letter where all letters are', () => {
    const content = page(words(['Lantern hake and grey sole', 'Harbour squid, rock crab too']));
    expect(spaceOf(content, linesOf(content.words))).toBeCloseTo(5, 0);
  });
  it('is what is usual for the size of type where nothing tells it', () => {
    const { content, line } = lineOf('12');
    expect(spaceOf(content, [line])).toBeCloseTo(2.8, 5);
    expect([typical([]), typical([3]), typical([1, 9, 5])]).toEqual([10, 3, 5]);
  });
});

describe('a printed text', () => {
  it('looks like an amount with its marks, signs and units', () => {
    for (const text of [
      '12',
      '-12',
      '(1,234.50)',
      '1.234,50',
      '1 234',
      '€12',
      '12 %',
      '12CR',
      '£1,000.00 Dr',
      '<0.5',
      '3–5',
      '1.2e-3',
      '3 × 10⁵',
      '12*',
      '14:30',
      '2025/06',
      "1'234",
      'R$ 1.234,56',
      'CHF 12',
      '-kr 500',
      '(US$ 4.00)',
      '12 zł',
      '3,50 EUR',
    ])
      expect(looksNumeric(text), text).toBe(true);
    for (const text of [
      'Saltby',
      '12 boxes',
      'HK1',
      'A-12',
      '',
      '12 - Tern',
      'Berth 3',
      'CHF',
      'R 12',
      'EURO 12',
      'krill 3',
    ])
      expect(looksNumeric(text), text).toBe(false);
  });
  it('is a nil by a dash, dots or n/a', () => {
    for (const text of ['-', '–', '—', '...', '··', 'n/a', 'N/A', 'n.a.', 'nk.'])
      expect([looksNil(text), looksNumeric(text)], text).toEqual([true, true]);
    for (const text of ['', '0', 'none', '-----', 'na-']) expect(looksNil(text), text).toBe(false);
  });
});

describe('rows set apart', () => {
  const row = (top: number): [number, number, number, number] => [50, top, 300, top + 10];
  it('have clearly more white space above them than is usual', () => {
    expect(spacedRows([row(0), row(14), row(28), row(50), row(64)])).toEqual([false, false, false, true, false]);
    expect(spacedRows([row(0), row(14), row(29), row(43)])).toEqual([false, false, false, false]);
    expect([spacedRows([]), spacedRows([row(0)])]).toEqual([[], [false]]);
  });
  it('or a rule over most of their width', () => {
    expect(ruledRows([row(0), row(14), row(28)], [across(26, 50, 300)])).toEqual([false, false, true]);
    expect(
      ruledRows(
        [row(0), row(14), row(28)],
        [across(26, 50, 120), { direction: 'down', at: 60, from: 0, to: 40, thickness: 1 }],
      ),
    ).toEqual([false, false, false]);
    expect(ruledRows([row(0), row(14)], [])).toEqual([false, false]);
  });
});
