import type { charts, SummaryTable } from '../../../../core/dataset/summary';
import type { ChartOption } from '../shared/chart';

type Kind = (typeof charts)[number];

/** Keys of a figure as one label. */
export const labelOf = (keys: readonly (string | null)[]): string => keys.map((key) => key ?? '(blank)').join(' · ') || 'all';

/** More lines or bars beside one another cannot be told apart. */
const mostSeries = 12;

/** A summary as a chart: what stands across along the axis, a bar, line or area for each that stands down; a heat map of both. */
export function summaryChart(kind: Kind, { down, across }: Pick<SummaryTable, 'down' | 'across'>, figures: readonly (readonly (number | undefined)[])[], unit: string): ChartOption | undefined {
  if (kind === 'none' || down.length === 0) return undefined;
  const plain = { grid: { left: 72, right: 16, top: 34, bottom: 46 }, tooltip: { trigger: kind === 'heat' ? 'item' : 'axis' } };
  if (kind === 'heat') {
    const told = figures.flatMap((row, r) => row.flatMap((figure, c) => (figure === undefined ? [] : [[c, r, figure] as const])));
    const values = told.map(([, , figure]) => figure);
    return {
      ...plain,
      grid: { ...plain.grid, left: 150, right: 90 },
      xAxis: { type: 'category', data: across.map(labelOf) },
      yAxis: { type: 'category', data: down.map(labelOf), inverse: true },
      visualMap: { min: Math.min(...values), max: Math.max(...values), calculable: true, orient: 'vertical', right: 0, top: 'center', inRange: { color: ['#ddece9', '#236a62'] } },
      series: [{ type: 'heatmap', data: told.map((each) => [...each]) }],
    };
  }
  // Without anything across the axis is what stands down.
  const alone = across.length === 1 && across[0].length === 0;
  const axis = alone ? down.map(labelOf) : across.map(labelOf);
  const series = alone ? [{ name: unit, data: figures.map((row) => row[0] ?? null) }] : down.slice(0, mostSeries).map((keys, r) => ({ name: labelOf(keys), data: figures[r].map((figure) => figure ?? null) }));
  return {
    ...plain,
    legend: { type: 'plain', top: 0, left: 0, itemHeight: 8 },
    xAxis: { type: 'category', data: axis, axisLabel: { hideOverlap: true } },
    yAxis: { type: 'value' },
    series: series.map((each) => ({ ...each, type: kind === 'bar' ? 'bar' : 'line', ...(kind === 'area' ? { areaStyle: { opacity: 0.3 }, stack: 'all' } : {}), symbolSize: 5 })),
  };
}

/** Whether a chart leaves some of the rows out. */
export const leavesOut = (kind: Kind, { down, across }: Pick<SummaryTable, 'down' | 'across'>): number => (kind === 'heat' || kind === 'none' || (across.length === 1 && across[0].length === 0) ? 0 : Math.max(0, down.length - mostSeries));
