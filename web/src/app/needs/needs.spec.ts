import { describe, expect, it } from 'vitest';
import type { Difference } from '../../../../core/drift/difference';
import type { Problem } from '../../../../core/sheet/problem';
import type { PublishedAnswer, RunFull, StoredReport } from '../../../../server/contract/contract';
import { needsOf, type NeedsInput } from './needs';

const report = (id: number, period: string, standing = 'counts') => ({ id, path: `week-${id}.pdf`, period, standing }) as unknown as StoredReport;
const difference: Difference = { what: 'new column', rule: 'T', column: 'Grade', now: 'after “Boxes”', reports: ['2', '3'], span: { how: 'from', at: ['2025-W02'] }, page: 4, holds: true, proposals: [{ decided: 'as it is' }] };
const problem = (kind: Problem['kind'], more: Partial<Problem> = {}): Problem => ({ kind, expected: 'this', came: 'that', remedy: 'Look.', ...more });
const line = (id: number, state: string, problems: Problem[] = []) => ({ report: id, path: `week-${id}.pdf`, state, problems });
const run = (reports: object[], differences: Difference[] = []) => ({ run: { notes: [{ kind: 'differences', differences, reports: 3 }] }, reports }) as unknown as RunFull;
const published = (reports: object[]) => ({ reports, totals: [], whole: null, version: 1 }) as unknown as PublishedAnswer;

const needs = (more: Partial<NeedsInput>) =>
  needsOf({ document: { answers: [], accepted: [], checks: [], reports: {} }, needs: [], reports: [report(1, '2025-W01'), report(2, '2025-W02'), report(3, '2025-W03')], run: undefined, published: undefined, sentenceOf: ({ report: of, kind }) => `${of} ${kind}`, ...more });
const told = (more: Partial<NeedsInput>) => needs(more).map(({ kind, says, until }) => `${kind}: ${says} ${until}`);

describe('what needs the analyst', () => {
  it('is nothing where all is well', () => expect(told({ run: run([line(1, 'unchanged')]) })).toEqual([]));

  it('is a difference as long as no answer speaks for all of its reports', () => {
    expect(needs({ run: run([], [difference]) })).toMatchObject([{ kind: 'difference', says: 'From 2025-W02 on (2 reports), a column “Grade” stands after “Boxes”.', until: '2 reports are held back until it is answered', report: 2, page: 4 }]);
    const answer = { what: 'new column', rule: 'T', column: 'Grade', decided: 'as it is', only: false } as const;
    const answered = (answers: object[]) => told({ run: run([], [difference]), document: { answers, accepted: [], checks: [], reports: {} } as never });
    expect(answered([{ ...answer, reports: [], from: '2025-W02' }])).toEqual([]);
    expect(answered([{ ...answer, reports: ['week-2.pdf'], only: true }])).toEqual(['difference: From 2025-W02 on (1 report), a column “Grade” stands after “Boxes”. 1 report is held back until it is answered']);
    expect(answered([{ ...answer, column: 'Other', reports: [], from: '2025-W02' }])).toHaveLength(1);
    // What was answered to be kept out needs nobody.
    expect(told({ run: run([], [{ ...difference, stopped: true }]) })).toEqual([]);
  });

  it('is a report that could not be had, once, unless that follows from a difference', () => {
    const reports = [line(1, 'failed', [problem('scanned'), problem('not taken')]), line(2, 'held back', [problem('differs'), problem('step')]), line(3, 'stale', [problem('damaged')])];
    expect(told({ run: run(reports) })).toEqual(['report: 1 scanned nothing of week-1.pdf is in the dataset', 'report: 3 damaged the rows of its last good version stay']);
  });

  it('is a misfit, and a step that could not do its work, alike ones once', () => {
    const step = problem('step', { step: 's', column: 'Boxes' });
    expect(told({ published: published([{ ...line(1, ''), problems: [step, problem('misfit', { step: 't' })] }, { ...line(2, ''), problems: [step] }, { ...line(3, ''), problems: [step] }]) })).toEqual([
      'step: 1 step So in 2 more reports. published as it is',
      'step: 1 misfit its cell is an error cell, blank in files',
    ]);
  });

  it('is a check that fails, of reports and of the dataset', () => {
    const failing = problem('check', { check: 'c' });
    const checks = [{ id: 'c', kind: 'rows', least: 1, severity: 'hold back' }];
    expect(told({ run: run([line(2, 'held back', [failing])]), published: published([{ ...line(1, ''), problems: [failing] }]), document: { answers: [], accepted: [], checks, reports: {} } as never })).toEqual(['check: 1 check It fails in 2 reports. the report is held back; rows of its last good version stay']);
    const noted = { run: { notes: [{ kind: 'check', check: 'd', expected: '“Code” is unique in the dataset', came: '2 keys are there more than once', stops: false }] }, reports: [] } as unknown as RunFull;
    expect(told({ run: noted })).toEqual(['check: Checked: “Code” is unique in the dataset; 2 keys are there more than once. published as it is']);
  });

  it('is a run that ended otherwise, and that there was none', () => {
    expect(told({ needs: [{ kind: 'run ended', state: 'failed', notes: [{ kind: 'failed', error: 'The disk is full.' }] }, { kind: 'stale', count: 2 }] })).toEqual(['run: The refresh failed: The disk is full. The dataset before it stays published. the dataset is as it was before']);
    expect(told({ needs: [{ kind: 'not refreshed' }] })).toEqual(['run: Not refreshed yet. there is no dataset yet']);
  });

  it('is a period without a report, until it is said that there is none', () => {
    const reports = [report(1, '2025-W01'), report(4, '2025-W04')];
    expect(told({ reports })).toEqual(['hole: There is no report for 2025-W02. the dataset has no rows for it', 'hole: There is no report for 2025-W03. the dataset has no rows for it']);
    expect(told({ reports, document: { answers: [], accepted: [], checks: [], reports: { none: ['2025-W02', '2025-W03'] } } })).toEqual([]);
  });
});
