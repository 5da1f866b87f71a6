import { describe, expect, it } from 'vitest';
import { labelOf, leavesOut, summaryChart } from './summary-chart';

type Series = { name?: string; type: string; data: unknown[]; stack?: string };
const down = [['Saltby'], ['Tern Point'], [null]];
const across = [['2025-W22'], ['2025-W23']];
const figures = [[1, 2], [3, undefined], [undefined, 5]];
const made = (...asked: Parameters<typeof summaryChart>) => summaryChart(...asked) as unknown as { series: Series[]; xAxis: { data?: string[] }; yAxis: { data?: string[] }; visualMap: { min: number; max: number } };

describe('a summary as a chart', () => {
  it('has a bar or line for each row, a gap where no rows meet, and the name of blanks', () => {
    const { series, xAxis } = made('bar', { down, across }, figures, 'kg');
    expect(xAxis.data).toEqual(['2025-W22', '2025-W23']);
    expect(series.map(({ name, type, data }) => [name, type, ...data])).toEqual([['Saltby', 'bar', 1, 2], ['Tern Point', 'bar', 3, null], ['(blank)', 'bar', null, 5]]);
    expect(made('line', { down, across }, figures, 'kg').series[0].type).toBe('line');
    expect(made('area', { down, across }, figures, 'kg').series.map(({ stack }) => stack)).toEqual(['all', 'all', 'all']);
  });

  it('of one column stands along what stands down', () => {
    const { series, xAxis } = made('bar', { down, across: [[]] }, [[1], [undefined], [5]], 'kg');
    expect(xAxis.data).toEqual(['Saltby', 'Tern Point', '(blank)']);
    expect(series).toMatchObject([{ name: 'kg', data: [1, null, 5] }]);
  });

  it('of heat has the figures at their places, and none where there is none', () => {
    const { series, visualMap, yAxis } = made('heat', { down, across }, figures, 'kg');
    expect(series[0].data).toEqual([[0, 0, 1], [1, 0, 2], [0, 1, 3], [1, 2, 5]]);
    expect([visualMap.min, visualMap.max, yAxis.data]).toEqual([1, 5, ['Saltby', 'Tern Point', '(blank)']]);
  });

  it('that would have too many lines leaves some out, and says how many', () => {
    const many = Array.from({ length: 20 }, (_, i) => [`Quay ${i}`]);
    expect(made('line', { down: many, across }, many.map(() => [1, 2]), '').series).toHaveLength(12);
    expect([leavesOut('line', { down: many, across }), leavesOut('heat', { down: many, across }), leavesOut('bar', { down: many, across: [[]] }), leavesOut('line', { down, across })]).toEqual([8, 0, 0, 0]);
  });

  it('is none where none is wanted or nothing is there', () => {
    expect([summaryChart('none', { down, across }, figures, ''), summaryChart('bar', { down: [], across }, [], '')]).toEqual([undefined, undefined]);
    expect([labelOf(['Saltby', null, '2025']), labelOf([])]).toEqual(['Saltby · (blank) · 2025', 'all']);
  });
});
