import { describe, expect, it } from 'vitest';
import { noteSentence, stateSentence, type RunNote } from './run';

describe('what there is to say of a run', () => {
  it.each<[RunNote, string]>([
    [{ kind: 'computed anew' }, 'All rows were computed anew, because a step needs all reports at once.'],
    [
      { kind: 'computed anew', steps: [{ title: 'Sort', took: 12 }] },
      'All rows were computed anew, as “Sort” (0.1 s) needs all reports at once.',
    ],
    [
      {
        kind: 'computed anew',
        steps: [
          { title: 'Sort', took: 1240 },
          { title: 'Deduplicate', took: 420 },
          { title: 'Pivot', took: 90_400 },
        ],
      },
      'All rows were computed anew, as “Sort” (1.2 s), “Deduplicate” (0.4 s) and “Pivot” (90.4 s) need all reports at once.',
    ],
    [
      { kind: 'many gone', reports: ['a.pdf', 'b.pdf', 'c.pdf', 'd.pdf'], of: 9 },
      '4 of 9 reports are gone from the folder (a.pdf, b.pdf, c.pdf ...). The dataset stays as it was published; if they are gone on purpose, refresh and let them go.',
    ],
    [
      {
        kind: 'not stored',
        problem: {
          kind: 'no list',
          expected: 'an uploaded list “q.csv”',
          came: 'none of that name',
          remedy: 'Upload it.',
        },
      },
      'Expected an uploaded list “q.csv”, got none of that name. Upload it. The dataset stays as it was published.',
    ],
    [{ kind: 'came', added: ['2025-W38'], changed: [], rows: 71, held: 13 }, '2025-W38 added: 71 rows, 13 held.'],
    [
      { kind: 'came', added: ['2025-W38', '2025-W39'], changed: ['2025-W01'], rows: 213, held: 0 },
      '2 reports added, 2025-W01 made anew: 213 rows, 0 held.',
    ],
    [{ kind: 'gaps', periods: ['2025-W35'] }, 'There is no report for 2025-W35.'],
    [
      { kind: 'gaps', periods: ['1', '2', '3', '4', '5', '6', '7'] },
      'There is no report for 1, 2, 3, 4, 5 and 2 more periods.',
    ],
    [{ kind: 'differences', differences: [], reports: 15 }, 'Nothing differs in 15 reports.'],
    [
      {
        kind: 'wrong within',
        checks: [{ expected: 'A report has at least 70 rows', reports: 1 }],
        misfits: 0,
        reports: 0,
      },
      'One report fails what is checked: A report has at least 70 rows.',
    ],
    [
      {
        kind: 'wrong within',
        checks: [
          { expected: '“Code” is never blank', reports: 3 },
          { expected: '“Boxes” is at least 0', reports: 1 },
        ],
        misfits: 12,
        reports: 2,
      },
      '3 reports fail what is checked: “Code” is never blank. So with 1 more check. 12 cells do not fit their type, in 2 reports.',
    ],
    [{ kind: 'wrong within', checks: [], misfits: 1, reports: 1 }, '1 cell does not fit its type.'],
    [{ kind: 'waiting', reports: 1 }, 'Besides, one report waits or could not be had.'],
    [{ kind: 'waiting', reports: 2 }, 'Besides, 2 reports wait or could not be had.'],
    [{ kind: 'nothing changed', waiting: 2 }, 'Nothing new came into the dataset; 2 reports wait or could not be had.'],
    [
      { kind: 'failed', error: 'The disk is full.' },
      'The refresh failed: The disk is full. The dataset before it stays published.',
    ],
  ])('%j is a sentence', (note, sentence) => expect(noteSentence(note)).toBe(sentence));

  it('names each report that has no rows of its own, and none that has', () => {
    const told = (state: Parameters<typeof stateSentence>[0]['state'], of: string | null = null) =>
      stateSentence({ state, path: 'a.pdf', of });
    expect([told('replaced', 'b.pdf'), told('a copy', 'b.pdf'), told('removed')]).toEqual([
      'a.pdf is replaced by b.pdf, a later issue for the same period.',
      'a.pdf has the same content as b.pdf and is counted once.',
      'a.pdf is no longer in the folder; its rows left the dataset.',
    ]);
    expect([told('added'), told('unchanged'), told('failed')]).toEqual([undefined, undefined, undefined]);
  });
});
