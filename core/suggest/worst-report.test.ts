import { describe, expect, it } from 'vitest';
import { worstReport, type ReportOutcome } from './worst-report';

const usual: ReportOutcome = {
  rows: 80,
  held: 12,
  misfits: 0,
  problems: 0,
  columns: ['Code', 'Value'],
  nothing: false,
};
const among = (...odd: Partial<ReportOutcome>[]) =>
  worstReport([usual, usual, usual, ...odd.map((each) => ({ ...usual, ...each })), usual]);

describe('the report that differs most', () => {
  it.each([
    ['gives nothing', { nothing: true, rows: 0, columns: [] }, 'nothing of it is taken'],
    ['has misfits', { misfits: 2 }, '2 misfits'],
    ['has a problem', { problems: 1 }, '1 problem'],
    ['lacks a column and has another', { columns: ['Code', 'Price'] }, '2 columns that differ from the others'],
    ['loses many rows', { rows: 50, held: 42 }, '42 rows held, more than is usual, 50 rows, where 80 are usual'],
    ['is far larger', { rows: 300, held: 45 }, '300 rows, where 80 are usual'],
  ])('is the one that %s', (_, odd, because) => {
    expect(among(odd)).toEqual({ at: 3, because });
  });

  it('is the worse of two, and none where all are alike', () => {
    expect(among({ problems: 1 }, { misfits: 4 })).toMatchObject({ at: 4, because: '4 misfits' });
    expect(among({ rows: 90 })).toBeUndefined();
    expect(worstReport([])).toBeUndefined();
  });
});
