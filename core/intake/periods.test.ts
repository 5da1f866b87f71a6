import { describe, expect, it } from 'vitest';
import { nextPeriod } from '../values/period';
import { rhythmOf, slotsOf } from './periods';

const report = (period: string | null, name = period) => ({ period, name });

describe('the time ruler', () => {
  it('shows a hole for a missing period, and both reports of a doubled one', () => {
    expect(
      slotsOf([report('2025-W34', 'b'), report('2025-W36'), report('2025-W34', 'a')]).map((slot) => [
        slot.period,
        slot.reports.length,
      ]),
    ).toEqual([
      ['2025-W34', 2],
      ['2025-W35', 0],
      ['2025-W36', 1],
    ]);
  });

  it('is a ruler of files where reports have no period', () => {
    expect(slotsOf([report(null, 'x'), report(null, 'y')]).map((slot) => slot.period)).toEqual([null, null]);
  });

  it.each([
    ['2025-W52', '2026-W01'],
    ['2020-W52', '2020-W53'],
    ['2025-Q4', '2026-Q1'],
    ['2025-12', '2026-01'],
    ['2025', '2026'],
    ['soon', undefined],
  ])('goes on from %s to %s', (from, to) => expect(nextPeriod(from)).toBe(to));
});

describe('reports by day', () => {
  const holes = (days: readonly string[]) =>
    slotsOf(days.map((period) => ({ period })))
      .filter(({ reports }) => reports.length === 0)
      .map(({ period }) => period);

  it.each<[string, string[], string | undefined, string[]]>([
    ['every week', ['2025-06-07', '2025-06-14', '2025-06-28', '2025-07-05'], 'weekly', ['2025-06-21']],
    [
      'every workday, over a weekend',
      ['2025-06-05', '2025-06-06', '2025-06-09', '2025-06-11', '2025-06-12', '2025-06-13'],
      'workdays',
      ['2025-06-10'],
    ],
    ['every day', ['2025-06-05', '2025-06-06', '2025-06-07', '2025-06-08', '2025-06-10'], 'daily', ['2025-06-09']],
    ['at the end of every month', ['2025-01-31', '2025-02-28', '2025-04-30', '2025-05-31'], 'monthly', ['2025-03-31']],
    ['on one day of every month', ['2025-01-15', '2025-02-15', '2025-03-15', '2025-05-15'], 'monthly', ['2025-04-15']],
    ['now and then', ['2025-01-15', '2025-02-03', '2025-06-30'], undefined, []],
  ])('%s: a hole is seen', (_, days, rhythm, missing) =>
    expect([rhythmOf(days), holes(days)]).toEqual([rhythm, missing]),
  );
});
