import { describe, expect, it } from 'vitest';
import type { AcceptedTotal } from '../../../../core/pipeline/document';
import type { Problem } from '../../../../core/sheet/problem';
import type { PublishedAnswer, RunReport } from '../../../../server/contract/contract';
import { dayFrom, dayText } from './days';
import { toldProblems } from './told-problems';
import { toldTies } from './told-ties';

const report = (id: number, problems: readonly Problem[] = []) => ({ report: id, path: `week-${id}.pdf`, sha256: `sha ${id}`, layers: [{ id: 'types', title: 'Set types' }], problems }) as unknown as PublishedAnswer['reports'][number];
const total = (id: number, ordinal: number, ...ties: object[]) => ({ step: 'totals', row: { report: String(id), table: 0, ordinal }, page: 2, ties }) as unknown as PublishedAnswer['totals'][number];
const tie = (column: string, outcome: string, printed: number, computed?: number, more: object = {}) => ({ label: 'Total Saltby', column, outcome, printed, ...(computed === undefined ? {} : { computed }), rows: [], ...more });
const published = (totals: PublishedAnswer['totals'], reports = [report(1), report(2)]) => ({ reports, totals, whole: null }) as unknown as PublishedAnswer;

describe('printed totals', () => {
  const answer = published([total(1, 7, tie('Boxes', 'equal', 10, 10), tie('Value', 'off', 217.42, 177.42)), total(2, 9, tie('Weight', 'within rounding', 1.5, 1.52), tie('Note', 'not comparable', 3, undefined, { because: 'a text column' })), total(9, 1, tie('Boxes', 'off', 1, 2))]);

  it('that are off stand first, each with how it stands in words', () => {
    const { ties, off, sentence } = toldTies(answer, []);
    expect(ties.map(({ title, stands, says }) => `${title}: ${stands}, ${says}`)).toEqual([
      'Total Saltby · Value: off, off by 40.00',
      'Total Saltby · Note: not comparable, a text column',
      'Total Saltby · Weight: within rounding, within rounding',
      'Total Saltby · Boxes: equal, ties out',
    ]);
    expect(off).toBe(1);
    expect(sentence).toContain('1 is off');
  });

  it('of reports that are not published any more are left out', () => {
    expect(toldTies(answer, []).ties.map(({ path }) => path)).not.toContain('week-9.pdf');
  });

  it('accepted stay in the list with their reason, and count as off no more', () => {
    const accepted: AcceptedTotal = { ...toldTies(answer, []).ties[0].place, why: 'misprinted' } as AcceptedTotal;
    const { ties, off } = toldTies(answer, [accepted]);
    const own = ties.find(({ column }) => column === 'Value')!;
    expect([own.stands, own.says, own.accepted, own.pending, off]).toEqual(['accepted', 'off by 40.00, accepted', 'misprinted', true, 0]);
    expect(own.isThat(accepted)).toBe(true);
    expect(own.isThat({ ...accepted, printed: 217.43 } as AcceptedTotal)).toBe(false);
  });

  it('are each told from all others', () => {
    const ids = toldTies(answer, []).ties.map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe('what needs a look', () => {
  const problem = (came: string): Problem => ({ kind: 'misfits', came, expected: 'x', remedy: 'y' }) as unknown as Problem;
  const says = ({ came }: Problem, { step }: { step: (id: string) => string }) => `${came} in ${step('types')}`;

  it('is told by report, that of all reports first', () => {
    const answer = { ...published([], [report(1, [problem('a')]), report(2)]), whole: { problems: [problem('w')], layers: [{ id: 'types', title: 'Whole types' }] } } as unknown as PublishedAnswer;
    expect(toldProblems(answer, [], says)).toEqual([{ path: 'All reports', state: '', sentences: ['w in Whole types'] }, { path: 'week-1.pdf', state: '', sentences: ['a in Set types'] }]);
  });

  it('is that of the last run where a report could not be had since, and not that of the rows before', () => {
    const late = { ...report(1, [problem('held')]), state: 'held back' } as unknown as RunReport;
    const fine = { ...report(2, [problem('never')]), state: 'added' } as unknown as RunReport;
    expect(toldProblems(published([], [report(1, [problem('old')]), report(2)]), [late, fine], says).map(({ path, state, sentences }) => [path, state, ...sentences])).toEqual([['week-1.pdf', 'held back', 'held in Set types']]);
    expect(toldProblems(undefined, [], says)).toEqual([]);
  });
});

describe('days of a calendar', () => {
  it('are the ISO texts of conditions, and no others', () => {
    for (const text of ['2025-06-09', '2024-02-29', '1999-12-31']) expect(dayText(dayFrom(text))).toBe(text);
    expect(['2025-02-29', '2025-13-01', '9.6.2025', '', '2025-6-9', '2025-06-31'].map(dayFrom)).toEqual(Array(6).fill(null));
    expect([dayText(null), dayText('2025-0')]).toEqual(['', '2025-0']);
  });
});
