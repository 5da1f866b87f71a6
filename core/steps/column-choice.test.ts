import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { textSheet } from '../testing/sheets';
import { chosen, namesChosen, type ColumnChoice } from './column-choice';

const names = ['Quay', '2024', '2025', 'Net weight', 'Value'];
const name = fc.constantFrom(...names, 'net  WEIGHT', 'gone');
const choice: fc.Arbitrary<ColumnChoice> = fc.oneof(
  fc.constant<ColumnChoice>({ by: 'all' }),
  fc.array(name).map((all): ColumnChoice => ({ by: 'names', names: all })),
  fc.array(name).map((all): ColumnChoice => ({ by: 'all but', names: all })),
  fc.constantFrom('20*', '*', 'V*', 'x').map((pattern): ColumnChoice => ({ by: 'names matching', pattern })),
  fc.constantFrom(...names, 'value').map((after): ColumnChoice => ({ by: 'all after', name: after })),
);

describe('a choice of columns', () => {
  it('takes the same columns told by names alone as it takes of a sheet', () => {
    fc.assert(
      fc.property(choice, (of) => {
        const taken = chosen(textSheet([names]), of).columns.map((column) => column.name);
        expect([...namesChosen(names, of)].sort()).toEqual([...new Set(taken)].sort());
      }),
    );
  });

  it('after a column that is gone takes none, and says so', () => {
    const sheet = textSheet([names]);
    expect(chosen(sheet, { by: 'all after', name: 'gone' })).toMatchObject({
      columns: [],
      problems: [{ column: 'gone' }],
    });
    expect(namesChosen(names, { by: 'all after', name: 'gone' })).toEqual([]);
  });
});
