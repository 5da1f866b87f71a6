import { describe, expect, it } from 'vitest';
import { page, words, type Printed } from '../testing/print';
import { findTables } from './find-tables';
import { plainRows } from './found-table';

/** The rows of the one table of a page: its lines, and labels at the middle height between lines (`at` 0.5: between the first two). */
function rowsOf(
  lines: readonly string[],
  labels: readonly { at: number; text: string }[],
  how: Printed = {},
): string[][] {
  const beside = labels.flatMap(({ at, text }) => words([text], { ...how, top: 100 + at * 14 }));
  const tables = findTables([page([...words(lines, how), ...beside])]);
  expect(tables).toHaveLength(1);
  return plainRows(tables[0].pieces[0].readings[0]);
}

const cargoes = [
  'Harbour     Cargo      Boxes   Value',
  '            Slate         12      31',
  '            Peat         140     188',
  '            Grain          7      10',
  '            Salt          90      44',
];

describe('labels in the middle of the rows that they name together', () => {
  it('go to the first of these rows', () => {
    const table = rowsOf(cargoes, [
      { at: 1.5, text: 'Saltby' },
      { at: 3.5, text: 'Fairlead' },
    ]);
    expect(table.map(([first]) => first)).toEqual(['Harbour', 'Saltby', '', 'Fairlead', '']);
  });

  it('go to the first row of three, and to the only row of one', () => {
    const table = rowsOf(
      [...cargoes, '            Oil           31      55', 'Holm        Wool          18      20'],
      [
        { at: 1.5, text: 'Saltby' },
        { at: 4, text: 'Fairlead' },
      ],
    );
    expect(table.map(([first]) => first)).toEqual(['Harbour', 'Saltby', '', 'Fairlead', '', '', 'Holm']);
  });

  it('stay where they are printed where each stands beside the first row of its own', () => {
    const lines = [
      cargoes[0],
      `Saltby${cargoes[1].slice(6)}`,
      cargoes[2],
      `Fairlead${cargoes[3].slice(8)}`,
      cargoes[4],
    ];
    expect(rowsOf(lines, []).map(([first]) => first)).toEqual(['Harbour', 'Saltby', '', 'Fairlead', '']);
  });

  it('lose none of the words, wherever they stand', () => {
    for (const labels of [
      [
        { at: 1.5, text: 'Saltby' },
        { at: 3, text: 'Fairlead' },
      ],
      [
        { at: 1.4, text: 'Saltby' },
        { at: 3.6, text: 'Whin Cove' },
      ],
    ]) {
      const text = rowsOf(cargoes, labels).flat().join(' ');
      for (const { text: label } of labels) for (const word of label.split(' ')) expect(text).toContain(word);
    }
  });
});
