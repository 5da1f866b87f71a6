import { describe, expect, it } from 'vitest';
import { page, words } from '../testing/print';
import { compareReadings, differences } from './compare';
import { findTables } from './find-tables';
import type { Reading } from './found-table';

const reading = (rows: string[][]): Reading => ({
  name: 'aligned',
  score: 1,
  reason: '',
  headingRows: 1,
  columns: rows[0].map((_, i) => [i * 10, i * 10 + 9] as const),
  rows: rows.map(() => ({ box: [0, 0, 1, 1], role: 'body', indent: 0, bold: false, shaded: false })),
  cells: rows.flatMap((row, r) =>
    row.flatMap((text, column) =>
      text === '' ? [] : [{ row: r, column, rowSpan: 1, columnSpan: 1, text, words: [], box: [0, 0, 1, 1] as const }],
    ),
  ),
});

describe('two readings compared', () => {
  it('set rows of the same ink side by side and mark the cells that differ', () => {
    const pairs = compareReadings(
      reading([
        ['A', 'B'],
        ['x', '1'],
        ['y z', '2'],
        ['w', '3'],
      ]),
      reading([
        ['A', 'B'],
        ['x', '1'],
        ['y', 'z 2'],
        ['w', '3'],
      ]),
    );
    expect(pairs.map(({ differs }) => differs)).toEqual([[], [], [0, 1], []]);
    expect(differences(pairs)).toBe(2);
  });

  it('show a row that one of them has in two lines', () => {
    const pairs = compareReadings(
      reading([
        ['A', 'B'],
        ['long text', '1'],
        ['w', '3'],
      ]),
      reading([
        ['A', 'B'],
        ['long', '1'],
        ['text', ''],
        ['w', '3'],
      ]),
    );
    expect(pairs.map(({ left, right }) => [left?.[0], right?.[0]])).toEqual([
      ['A', 'A'],
      ['long text', 'long'],
      [undefined, 'text'],
      ['w', 'w'],
    ]);
  });

  it('find nothing between a reading and itself', () => {
    const [table] = findTables([
      page(
        words([
          'Harbour       2023     2024',
          'Saltby      14,210   16,004',
          'Tern Point   3,310    2,998',
          'Fairlead       812      790',
        ]),
      ),
    ]);
    expect(differences(compareReadings(table.pieces[0].readings[0], table.pieces[0].readings[0]))).toBe(0);
  });
});
