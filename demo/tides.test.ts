import { describe, expect, it } from 'vitest';
import { hours, sumOf, tideMonth, tideMonths, type Water } from './tides';

const months = tideMonths.map(([year, month]) => tideMonth(year, month));

describe('the made-up tides', () => {
  it('are the same every time', () =>
    expect(tideMonths.map(([year, month]) => tideMonth(year, month))).toEqual(months));

  it('have every day of each month, with a flow for each stretch of two hours but where the gauge was out', () => {
    expect(months.map(({ days }) => days.length)).toEqual([31, 30, 31]);
    for (const { days } of months) for (const { flow } of days) expect(flow).toHaveLength(hours.length);
    expect(months.flatMap(({ days }) => days.flatMap(({ flow }) => flow)).some((each) => each === null)).toBe(true);
    expect(sumOf([3, null, 4])).toBe(7);
  });

  it('turn half a lunar day later each time, so that some days have one high or low water only', () => {
    const days = months.flatMap((month) => month.days);
    const inDay = (water: Water | null) => water === null || (water.at >= 0 && water.at < 24 * 60);
    for (const { high, low } of days) expect([...high, ...low].every(inDay)).toBe(true);
    for (const {
      high: [first, second],
    } of days)
      if (second) expect(Math.abs(second.at - first.at - 745)).toBeLessThan(2);
    expect(days.filter(({ high, low }) => !high[1] || !low[1]).length).toBeGreaterThan(4);
  });
});
