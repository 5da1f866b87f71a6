import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { across, down, page, words } from '../testing/print';
import { boxTurnedBack, quarterTurn, turnsToUpright } from './turn';
import type { Box } from './box';

const sample = page(words(['one two', 'three']), {
  rules: [across(90, 40, 200), down(60, 80, 300)],
  fills: [{ box: [10, 20, 30, 40], colour: '#ccc' }],
});

describe('turning a page', () => {
  it('comes back to itself after four quarters', () => {
    let turned = sample;
    for (let i = 0; i < 4; i++) turned = quarterTurn(turned);
    expect(turned.words.map((word) => word.box.map(Math.round))).toEqual(
      sample.words.map((word) => word.box.map(Math.round)),
    );
    expect(turned.rules).toEqual(sample.rules);
    expect([turned.width, turned.height]).toEqual([sample.width, sample.height]);
  });

  it('sets text that runs down the page upright with one quarter', () => {
    const sideways = { ...sample, words: sample.words.map((word) => ({ ...word, angle: 90 })) };
    expect(turnsToUpright(sideways)).toBe(1);
    expect(quarterTurn(sideways).words.every((word) => word.angle === 0)).toBe(true);
  });

  it('brings a box back to where it is printed, however often the page was turned', () => {
    const box = fc.tuple(
      fc.integer({ min: 0, max: 250 }),
      fc.integer({ min: 0, max: 400 }),
      fc.integer({ min: 1, max: 250 }),
      fc.integer({ min: 1, max: 400 }),
    );
    fc.assert(
      fc.property(box, fc.integer({ min: 0, max: 3 }), ([x, y, w, h], turns) => {
        const printed: Box = [x, y, x + w, y + h];
        let turned = { ...sample, fills: [{ box: printed, colour: '#000' }] };
        for (let i = 0; i < turns; i++) turned = { ...quarterTurn(turned), fills: [...quarterTurn(turned).fills] };
        expect(boxTurnedBack(turned.fills[0].box, turns, sample)).toEqual(printed);
      }),
    );
  });
});
