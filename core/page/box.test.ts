import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { page, words } from '../testing/print';
import {
  around,
  extend,
  grow,
  height,
  holdsCentre,
  middleX,
  middleY,
  overlap,
  overlaps,
  overlapX,
  overlapY,
  width,
  type Box,
} from './box';
import { inReadingOrder, linesOf, textOf } from './lines';

const box: fc.Arbitrary<Box> = fc
  .tuple(
    fc.integer({ min: -50, max: 50 }),
    fc.integer({ min: -50, max: 50 }),
    fc.integer({ min: 1, max: 60 }),
    fc.integer({ min: 1, max: 60 }),
  )
  .map(([x, y, wide, high]) => [x, y, x + wide, y + high]);

describe('boxes', () => {
  it('around others hold each of them, and are no larger than they need to be', () => {
    fc.assert(
      fc.property(fc.array(box, { minLength: 1, maxLength: 6 }), (all) => {
        const whole = around(all)!;
        for (const each of all) expect(extend(whole, each)).toEqual(whole);
        for (const side of [0, 1, 2, 3] as const) expect(all.some((each) => each[side] === whole[side])).toBe(true);
        expect(around([...all].reverse())).toEqual(whole);
      }),
    );
    expect(around([])).toBeUndefined();
  });

  it('overlap where a point lies in both, and by as much as they share', () => {
    fc.assert(
      fc.property(box, box, (a, b) => {
        const shared = Array.from({ length: 121 }, (_, x) => x - 60.5 + 10).some(
          (x) => x > a[0] && x < a[2] && x > b[0] && x < b[2],
        );
        if (shared) expect(overlapX(a, b)).toBeGreaterThan(0);
        expect(overlaps(a, b)).toBe(overlaps(b, a));
        expect(overlaps(a, b)).toBe(overlapX(a, b) > 0 && overlapY(a, b) > 0);
        expect(overlap(a[0], a[2], b[0], b[2])).toBe(overlap(b[0], b[2], a[0], a[2]));
        expect(overlapX(a, a)).toBe(width(a));
        expect(overlapY(a, a)).toBe(height(a));
        if (overlapX(a, b) < 0) expect(Math.min(Math.abs(a[2] - b[0]), Math.abs(b[2] - a[0]))).toBe(-overlapX(a, b));
      }),
    );
  });

  it('hold the centre of what lies in their middle, and grow on all sides', () => {
    fc.assert(
      fc.property(box, fc.integer({ min: 0, max: 20 }), (own, by) => {
        const larger = grow(own, by);
        expect(holdsCentre(larger, own)).toBe(true);
        expect([width(larger), height(larger), middleX(larger), middleY(larger)]).toEqual([
          width(own) + 2 * by,
          height(own) + 2 * by,
          middleX(own),
          middleY(own),
        ]);
        expect(holdsCentre(own, [own[2] + 1, own[1], own[2] + 9, own[3]])).toBe(false);
      }),
    );
  });
});

describe('lines of print', () => {
  const line = fc
    .array(fc.stringMatching(/^[A-Za-z0-9.,]{1,7}$/), { minLength: 1, maxLength: 6 })
    .map((texts) => texts.join('  '));
  const texts = fc.array(line, { minLength: 1, maxLength: 9 });
  const shuffled = <Of>(all: readonly Of[], seed: number): Of[] =>
    all
      .map((each, i) => [((i + 1) * 7919 * (seed + 1)) % 1009, each] as const)
      .sort((a, b) => a[0] - b[0])
      .map(([, each]) => each);

  it('are those that were set, whatever the order in which their words are drawn', () => {
    fc.assert(
      fc.property(texts, fc.nat(1000), (lines, seed) => {
        const drawn = shuffled(words(lines), seed);
        const found = linesOf(drawn);
        expect(found.map((each) => each.words.map((w) => drawn[w].text).join('  '))).toEqual(lines);
        expect(found.flatMap((each) => each.words).sort((a, b) => a - b)).toEqual(drawn.map((_, i) => i));
        for (const each of found) for (const w of each.words) expect(extend(each.box, drawn[w].box)).toEqual(each.box);
      }),
    );
  });

  it('are told apart where they stand closely, and of some of the words alone', () => {
    fc.assert(
      fc.property(texts, fc.integer({ min: 10, max: 30 }), (lines, pitch) => {
        const set = words(lines, { pitch });
        expect(linesOf(set)).toHaveLength(lines.length);
        const odd = set.flatMap((_, i) => (i % 2 === 1 ? [i] : []));
        expect(
          linesOf(set, odd)
            .flatMap((each) => each.words)
            .sort((a, b) => a - b),
        ).toEqual(odd);
      }),
    );
  });

  it('give the text of a cell in the order in which it is read', () => {
    fc.assert(
      fc.property(texts, fc.nat(1000), (lines, seed) => {
        const content = page(shuffled(words(lines), seed));
        const all = content.words.map((_, i) => i);
        const order = inReadingOrder(content.words, all);
        expect([...order].sort((a, b) => a - b)).toEqual(all);
        expect(textOf(content.words, order)).toBe(lines.join(' ').replaceAll('  ', ' '));
      }),
    );
  });
});
