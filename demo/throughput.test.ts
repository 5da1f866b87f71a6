import { describe, expect, it } from 'vitest';
import { halfYear, throughput, throughputYears } from './throughput';

const reports = throughputYears.flatMap((year) => [throughput(year, 'North'), throughput(year, 'West')]);

describe('the made-up throughput of the quays', () => {
  it('is the same every time', () =>
    expect(throughput(2023, 'West')).toEqual(reports.find(({ year, group }) => year === 2023 && group === 'West')));

  it('adds up: kinds to their class, classes to all cargo', () => {
    for (const { lines } of reports) {
      const plan = (of: readonly { months: readonly { plan: number }[] }[]) =>
        of.reduce((sum, { months }) => sum + months.reduce((own, month) => own + month.plan, 0), 0);
      expect(plan(lines.filter(({ level }) => level === 2))).toBe(plan(lines.filter(({ level }) => level === 1)));
      expect(plan(lines.filter(({ level }) => level === 0))).toBe(plan(lines.filter(({ level }) => level === 1)));
    }
  });

  it('lacks some months, and tells no share of a half-year that lacks one', () => {
    const months = reports.flatMap(({ lines }) => lines.flatMap((line) => line.months));
    expect(months.some(({ actual }) => actual === null)).toBe(true);
    expect(
      halfYear([
        { plan: 10, actual: 9 },
        { plan: 10, actual: null },
      ]),
    ).toEqual({ plan: 20, actual: null, reached: null });
    expect(halfYear([{ plan: 40, actual: 35 }])).toEqual({ plan: 40, actual: 35, reached: 875 });
  });
});
