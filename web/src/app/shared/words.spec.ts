import { describe, expect, it } from 'vitest';
import type { LayerCounts, Need } from '../../../../server/contract/contract';
import { cellShown } from './cell-shown';
import { measureSentence } from './measure-sentence';
import { becameSentence, dayOf, needSentence, plural, progressSentence, shortPeriod, titleIn } from './words';

describe('sentences of the screens', () => {
  it('count one and many', () => {
    expect([plural(1, 'report'), plural(0, 'report'), plural(12_345, 'row'), plural(1, 'check fails', 'checks fail'), plural(2, 'check fails', 'checks fail')]).toEqual(['1 report', '0 reports', '12,345 rows', '1 check fails', '2 checks fail']);
  });

  it('call a period by what tells it from its neighbours', () => {
    expect(['2025-W07', '2025-Q3', '2025-06', '2025', '2025-06-09'].map(shortPeriod)).toEqual(['wk 7', 'Q3', 'Jun', '2025', '2025-06-09']);
  });

  it('say what a run does', () => {
    expect([progressSentence({ kind: 'folder' }), progressSentence({ kind: 'whole' }), progressSentence({ kind: 'publishing' }), progressSentence({ kind: 'report', path: 'a.pdf' } as never), progressSentence({ kind: 'report', path: 'a.pdf', page: 2, pages: 9 } as never)]).toEqual([
      'Looking at the folder', 'Steps that need all reports at once', 'Publishing', 'a.pdf', 'a.pdf, page 2 of 9',
    ]);
  });

  it('say what needs the analyst', () => {
    const needs: Need[] = [{ kind: 'not refreshed' }, { kind: 'failed', count: 1 }, { kind: 'differs', count: 2 }, { kind: 'no report', count: 1 }, { kind: 'checks', count: 3 }, { kind: 'held back', count: 2 }, { kind: 'stale', count: 1 }, { kind: 'misfits', count: 7 }, { kind: 'totals off', count: 1 }] as Need[];
    expect(needs.map(needSentence)).toEqual([
      'Not refreshed yet', '1 report could not be read', '2 differences between reports wait for an answer', 'no report for 1 period', '3 checks fail', '2 reports are held back', '1 report is held at the last good version', '7 misfits', '1 printed total is off',
    ]);
    expect(needSentence({ kind: 'run ended', state: 'cancelled', notes: [] } as unknown as Need)).toBe('The last refresh ended as cancelled');
  });

  it('say what columns that became rows were made into, and nothing of other steps', () => {
    const counts = (some: object) => ({ id: 'u', title: 'Unpivot', rowsIn: 40, rows: 280, held: 0, ...some }) as unknown as LayerCounts;
    expect([becameSentence(counts({ turned: 7 })), becameSentence(counts({ turned: 1, held: 12 })), becameSentence(counts({}))]).toEqual(['40 rows × 7 columns became 280 rows', '40 rows × 1 column became 280 rows; 12 blank held', undefined]);
    expect([titleIn([counts({})])('u'), titleIn([])('gone')]).toEqual(['Unpivot', 'gone']);
  });

  it('tell a moment as a day and a time, and leave what is none as it is', () => {
    expect(dayOf('2025-06-09 15:04:05.123+00')).toMatch(/^\d{1,2} Jun, \d\d:04$/);
    expect(dayOf('never')).toBe('never');
  });
});

describe('cells on the screen', () => {
  it('have the digits of their column, and all that they hold beyond', () => {
    expect([cellShown(8589, 2), cellShown(8589.125, 2), cellShown(1234567), cellShown(0.1 + 0.2, 1), cellShown(-5), cellShown(1e-7), cellShown(0.000001)]).toEqual(['8,589.00', '8,589.125', '1,234,567', '0.3', '-5', '0.0000001', '0.000001']);
    expect([cellShown(true), cellShown(false), cellShown(null), cellShown('Saltby'), cellShown({ text: 'n/a', expected: 'a number' })]).toEqual(['yes', 'no', '', 'Saltby', 'n/a']);
  });

  it('that are chosen are told in a line', () => {
    const measured = { cells: 12, blank: 0, misfits: 0, numbers: 0, columns: 1 };
    expect(measureSentence(measured as never)).toBe('12 cells');
    expect(measureSentence({ ...measured, blank: 1, misfits: 1, numbers: 10, sum: '1234.5', mean: 123.4567891, least: -2, most: 900, unit: 'kg' } as never)).toBe('12 cells, 1 blank, 1 misfit, 10 numbers, sum 1234.5 kg, mean 123.4568 kg, least -2, most 900');
    expect(measureSentence({ ...measured, numbers: 2, columns: 2, sum: 3 } as never)).toContain('sum 3 over 2 columns');
    expect(measureSentence({ ...measured, numbers: 2, columns: 2 } as never)).toContain('not added: of unlike kinds or units');
  });
});
