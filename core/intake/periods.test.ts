import { describe, expect, it } from 'vitest';
import { nextPeriod } from '../values/period';
import { slotsOf } from './periods';

const report = (period: string | null, name = period) => ({ period, name });

describe('the time ruler', () => {
  it('shows a hole for a missing period, and both reports of a doubled one', () => {
    expect(slotsOf([report('2025-W34', 'b'), report('2025-W36'), report('2025-W34', 'a')]).map((slot) => [slot.period, slot.reports.length])).toEqual([['2025-W34', 2], ['2025-W35', 0], ['2025-W36', 1]]);
  });

  it('is a ruler of files where reports have no period', () => {
    expect(slotsOf([report(null, 'x'), report(null, 'y')]).map((slot) => slot.period)).toEqual([null, null]);
  });

  it.each([['2025-W52', '2026-W01'], ['2020-W52', '2020-W53'], ['2025-Q4', '2026-Q1'], ['2025-12', '2026-01'], ['2025', '2026'], ['soon', undefined]])('goes on from %s to %s', (from, to) => expect(nextPeriod(from)).toBe(to));
});
