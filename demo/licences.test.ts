import { describe, expect, it } from 'vitest';
import { licenceRoll, rollYears } from './licences';

const rolls = rollYears.map(licenceRoll);

describe('the made-up rolls of licences', () => {
  it('are the same every time', () => expect(rollYears.map(licenceRoll)).toEqual(rolls));

  it('have five to seven lines a licence, with lists of vessels of any length up to three', () => {
    for (const { licences } of rolls) {
      const lines = licences.map(({ vessels, phone }) => 3 + vessels.length + (phone === null ? 0 : 1));
      expect([Math.min(...lines), Math.max(...lines)]).toEqual([5, 7]);
      expect(new Set(licences.map(({ vessels }) => vessels.length))).toEqual(new Set([1, 2, 3]));
      expect(licences.some(({ phone }) => phone === null)).toBe(true);
    }
  });

  it('have every number once', () => {
    for (const { licences } of rolls) expect(new Set(licences.map(({ number }) => number)).size).toBe(licences.length);
  });
});
