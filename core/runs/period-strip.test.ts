import { describe, expect, it } from 'vitest';
import { periodStrip } from './period-strip';

const report = (id: number, period: string | null, standing = 'counts') => ({
  id,
  path: `r${id}.pdf`,
  period,
  standing,
});
const strip = (...of: Parameters<typeof periodStrip>) =>
  periodStrip(...of).map(({ period, stands }) => [period, stands]);

describe('the periods of a pipeline', () => {
  it('stand as the last refresh left them, with holes where no report is', () => {
    const reports = [
      report(1, '2025-W01'),
      report(2, '2025-W02'),
      report(3, '2025-W03'),
      report(4, '2025-W06'),
      report(5, '2025-W07'),
      report(6, null),
    ];
    const lines = [
      { report: 1, state: 'unchanged' as const },
      { report: 2, state: 'failed' as const },
      { report: 3, state: 'held back' as const },
      { report: 4, state: 'stale' as const },
      { report: 6, state: 'added' as const },
    ];
    expect(strip(reports, lines, ['2025-W05'])).toEqual([
      ['2025-W01', 'in'],
      ['2025-W02', 'failed'],
      ['2025-W03', 'waits'],
      ['2025-W04', 'no report'],
      ['2025-W05', 'none expected'],
      ['2025-W06', 'stale'],
      ['2025-W07', 'not yet'],
      [null, 'in'],
    ]);
  });

  it('with several reports say the worst of them, and pass over what is replaced or a copy', () => {
    const reports = [
      report(1, '2025-01'),
      report(2, '2025-01', 'replaced'),
      report(3, '2025-02', 'undecided'),
      report(4, '2025-02', 'undecided'),
      report(5, '2025-03'),
      report(6, '2025-03'),
    ];
    expect(
      strip(
        reports,
        [
          { report: 1, state: 'changed' },
          { report: 2, state: 'replaced' },
          { report: 5, state: 'added' },
          { report: 6, state: 'failed' },
        ],
        [],
      ),
    ).toEqual([
      ['2025-01', 'in'],
      ['2025-02', 'waits'],
      ['2025-03', 'failed'],
    ]);
    expect(periodStrip(reports, [], [])[0].paths).toEqual(['r1.pdf']);
  });

  it('are none where there is no report', () => expect(periodStrip([], [], ['2025-01'])).toEqual([]));
});
