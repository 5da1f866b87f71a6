import { describe, expect, it } from 'vitest';
import { fuzz } from '../testing/fuzz';
import { often } from '../testing/tier';

describe('files with seeded faults', () => {
  it('never crash a thread or stand still, and what is lost of them is named', async () => {
    const lines: string[] = [];
    const { counts } = await fuzz(often(600, 45), 1, (line) => lines.push(line));
    expect(lines).toEqual([]);
    for (const { tried, pastHeader, same, named, saidSo } of Object.values(counts)) {
      expect(same + named + saidSo).toBe(tried);
      // Many get past the header, many change nothing, and many are named: it is not always one answer.
      expect(Math.min(pastHeader, same, named)).toBeGreaterThan(tried / 20);
    }
  });
});
