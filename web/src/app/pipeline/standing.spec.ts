import type { Problem } from '../../../../core/sheet/problem';
import type { ReportSummary } from '../../../../server/contract/contract';
import { standingOf, type ReadSoFar } from './standing';

const summary = (changes: Partial<ReportSummary> = {}): ReportSummary => ({
  pageCount: 1, pages: [], tables: [], parsed: true, scanned: false, problems: [], matches: [], layers: [], columns: [], untyped: {}, rows: 3, held: 0, misfits: 0, heldBack: [], ...changes,
});
const nothing: ReadSoFar = { progress: undefined, summary: undefined, reading: false, takes: true };
const problem = { kind: 'nothing taken', severity: 'error' } as unknown as Problem;
const of = (known: Partial<ReadSoFar>, standing = 'counts', standingOfFile: string | null = null) => standingOf({ standing, standingOf: standingOfFile }, { ...nothing, ...known }, ({ kind }) => `Told: ${kind}.`);

describe('how a report stands', () => {
  it('is what the folder says, as long as that keeps it out', () => {
    expect(of({ summary: summary() }, 'replaced', 'b.pdf')).toEqual({ word: 'replaced', tone: 'plain', detail: 'replaced by b.pdf' });
    expect(of({ summary: summary() }, 'a copy', 'b.pdf').detail).toBe('same content as b.pdf');
    expect(of({ summary: summary() }, 'undecided', 'b.pdf')).toMatchObject({ word: 'two issues', tone: 'needs' });
    expect(of({}, 'not readable').tone).toBe('error');
    for (const standing of ['set aside', 'left out', 'not a PDF']) expect(of({}, standing).word).toBe(standing);
  });

  it('waits for its turn while others are read, and is not read when nothing reads', () => {
    expect(of({ reading: true }).word).toBe('waiting');
    expect(of({}).word).toBe('not read');
    expect(of({ reading: true, progress: { page: 2, pages: 9 }, summary: summary() })).toEqual({ word: 'reading', tone: 'plain', detail: 'page 2 of 9' });
  });

  it('is what the last refresh said of it, until it is read again', () => {
    expect(of({ reading: true, last: { state: 'unchanged', rows: 64 } })).toEqual({ word: 'read', tone: 'passes', detail: '64 rows at the last refresh' });
    expect(of({ reading: true, last: { state: 'unchanged', rows: 64 }, differs: true })).toMatchObject({ word: 'differs', tone: 'needs' });
    for (const state of ['stale', 'held back'] as const) expect(of({ last: { state, rows: 0 } })).toMatchObject({ word: state, tone: 'needs' });
    expect(of({ last: { state: 'failed', rows: 0 } }).tone).toBe('error');
    expect(of({ reading: true, last: { state: 'a copy', rows: 0 } }).word).toBe('waiting');
    expect(of({ last: { state: 'unchanged', rows: 64 }, summary: summary({ misfits: 2 }) }).word).toBe('2 misfits');
  });

  it('is never “read” while something about it needs a look', () => {
    expect(of({ summary: { unreadable: { kind: 'locked', severity: 'error' } as unknown as Problem } })).toEqual({ word: 'locked', tone: 'error', detail: 'Told: locked.' });
    expect(of({ summary: summary({ scanned: true }) }).tone).toBe('needs');
    expect(of({ summary: summary({ heldBack: [problem, problem] }) })).toEqual({ word: 'held back', tone: 'needs', detail: 'Told: nothing taken. Told: nothing taken.' });
    expect(of({ summary: summary({ misfits: 1 }) })).toMatchObject({ word: '1 misfit', tone: 'needs' });
    expect(of({ summary: summary() })).toEqual({ word: 'read', tone: 'passes', detail: '1 page, 0 tables found' });
  });

  it('is not held back before anything is taken from the reports', () => {
    expect(of({ takes: false, summary: summary({ heldBack: [problem] }) }).word).toBe('read');
  });
});
