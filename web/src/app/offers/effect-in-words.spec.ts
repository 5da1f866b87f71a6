import { describe, expect, it } from 'vitest';
import { effectInWords } from './effect-in-words';

const none = { rowsIn: 80, rowsOut: 80, held: 0, overwritten: 0, columnsAdded: [], columnsLeft: 0, misfits: 0, reports: 13, failing: [] };

describe('the effect of a proposed step', () => {
  it.each([
    [{ held: 30, rowsOut: 50 }, 'Holds 30 rows, in 13 reports.'],
    [{ held: 1, rowsOut: 79, reports: 1 }, 'Holds 1 row, in 1 report.'],
    // What becomes rows holds none of those that there were.
    [{ rowsOut: 280, held: 12 }, 'Makes 280 rows of 80, in 13 reports.'],
    [{ overwritten: 12 }, 'Changes 12 cells, in 13 reports.'],
    [{ columnsAdded: ['Quay'], held: 4, rowsOut: 76 }, 'Holds 4 rows, makes “Quay”, in 13 reports.'],
    [{ columnsAdded: ['A', 'B', 'C', 'D'] }, 'Makes 4 columns, in 13 reports.'],
    [{ columnsLeft: 13 }, 'Leaves a column out, in 13 reports.'],
    [{ columnsLeft: 26 }, 'Leaves columns out, in 13 reports.'],
    [{ misfits: 2 }, '2 cells would be misfits, in 13 reports.'],
    [{}, 'Sets types, in 13 reports.'],
  ])('of %j is told as “%s”', (some, says) => {
    expect(effectInWords({ ...none, ...some })).toBe(says);
  });
});
