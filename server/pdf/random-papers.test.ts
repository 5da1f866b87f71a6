import { describe, expect, it } from 'vitest';
import { readRandom } from '../../bench/random/read-random';
import { figuresOf } from '../../bench/scoring/score-files';

/** Seeds that development does not look at. */
const seeds = [9001, 9002];
const papers = 150;

describe('random papers', () => {
  it.each(seeds)(
    'of seed %i are read as they are known to be, all but a few',
    async (seed) => {
      const { f1, exact, missed, invented, tables, pages } = figuresOf(
        (await readRandom({ seed, count: papers })).map(({ file }) => file),
      );
      expect(tables).toBeGreaterThan(papers);
      expect(f1).toBeGreaterThan(0.95);
      expect(exact).toBeGreaterThan(0.8);
      expect(missed / tables).toBeLessThan(0.03);
      expect(invented / pages).toBeLessThan(0.06);
    },
    120_000,
  );

  it('come out the same from the same seed', async () => {
    const [once, again] = [await readRandom({ seed: 5, count: 6 }), await readRandom({ seed: 5, count: 6 })];
    expect(again.map(({ file }) => file.truth.tables.map(({ cells }) => cells))).toEqual(
      once.map(({ file }) => file.truth.tables.map(({ cells }) => cells)),
    );
  });
});
