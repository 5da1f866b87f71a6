import { provideRouter } from '@angular/router';
import { describe, expect, it } from 'vitest';
import type { PipelineSummary } from '../../../../server/contract/contract';
import { show } from '../../testing/shown';
import { PipelineCard } from './pipeline-card';

const summary = (some: Partial<PipelineSummary>): PipelineSummary => ({ id: 3, name: 'Landings', folder: '/reports', managed: false, viewName: 'landings', reports: 3, rows: 1204, lastRuns: [], running: null, needs: [], periods: [], ties: 'All 4 printed totals tie out.', ...some });
const card = async (some: Partial<PipelineSummary>) => {
  const shown = await show(PipelineCard, { of: summary(some) }, [provideRouter([])]);
  return { ...shown, says: () => shown.root.textContent!.replace(/\s+/g, ' ') };
};

describe('the card of a pipeline', () => {
  it('says its rows and ties, and how each period stands, in colour, height and words', async () => {
    const { root, says } = await card({ periods: [{ period: '2025-W01', stands: 'in', paths: ['a.pdf'] }, { period: '2025-W02', stands: 'failed', paths: ['b.pdf'] }, { period: '2025-W03', stands: 'no report', paths: [] }] });
    expect(says()).toContain('1,204 rows are published; 3 reports count. All 4 printed totals tie out.');
    expect([...root.querySelectorAll<HTMLElement>('.periods i')].map((bar) => [bar.dataset['stands'], bar.title])).toEqual([['in', '2025-W01: in the dataset'], ['failed', '2025-W02: could not be had'], ['no report', '2025-W03: no report']]);
    expect(root.querySelector('.periods')!.getAttribute('aria-label')).toBe('3 periods, wk 1 2025 to wk 3 2025: 1 in the dataset, 1 could not be had, 1 no report');
  });

  it('says how far a refresh is that is under way', async () => {
    const { root, says } = await card({ running: { run: 4, done: 3, total: 12, now: { kind: 'report', path: 'week-24.pdf', page: 2, pages: 4 } } });
    expect(says()).toContain('Refreshing: 3 of 12 week-24.pdf, page 2 of 4');
    expect(root.querySelector('[role=progressbar]')!.getAttribute('aria-valuenow')).toBe('25');
  });

  it('leads to what needs the analyst, and is never just a green light', async () => {
    const { root } = await card({ needs: [{ kind: 'totals off', count: 1 }, { kind: 'no report', count: 2 }] });
    expect([root.querySelector('.needs a')!.textContent, root.querySelector('.needs a')!.getAttribute('href')]).toEqual(['1 printed total is off; no report for 2 periods', '/pipelines/3/needs']);
    expect((await card({})).says()).toContain('Nothing needed you at the last refresh.');
  });

  it('of a pipeline never refreshed says so', async () => {
    const { says } = await card({ rows: null, reports: 0, ties: '', needs: [{ kind: 'not refreshed' }] });
    expect(says()).toMatch(/Nothing is published yet; no report is known\. .*Not refreshed yet.*never refreshed/);
  });
});
