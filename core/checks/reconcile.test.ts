// Against a comparison that looks each key up anew.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { List } from '../sheet/list';
import type { Cell } from '../values/cell';
import { Reconciliation, reconciledWords, type AgreesWith, type RowHere, type Unlike } from './reconcile';

const check = {
  kind: 'agrees with',
  id: 'c',
  keys: [{ column: 'Code', of: 'code' }],
  columns: [{ column: 'Boxes', of: 'boxes' }],
} as unknown as AgreesWith;
const list = (rows: readonly (readonly [Cell, Cell])[]): List =>
  ({
    rows: rows.length,
    columns: ['code', 'boxes'].map((name, i) => ({ name, cells: rows.map((row) => row[i]) })),
  }) as unknown as List;
const here = (rows: readonly (readonly [Cell, Cell])[]): RowHere[] =>
  rows.map(([key, cell], row) => ({ row, keys: [key], cells: [cell] }));
function compared(ours: readonly (readonly [Cell, Cell])[], theirs: readonly (readonly [Cell, Cell])[], pieces = 1) {
  const reconciliation = new Reconciliation(check, list(theirs));
  const rows = here(ours);
  for (let i = 0; i < pieces; i++)
    reconciliation.add(
      rows.slice(Math.floor((i * rows.length) / pieces), Math.floor(((i + 1) * rows.length) / pieces)),
    );
  return reconciliation.end();
}
const kinds = (unlike: readonly Unlike[]) => unlike.map(({ kind, key }) => `${kind} ${key}`);

describe('a dataset and a list', () => {
  it('that hold the same rows agree, in whatever order and form', () => {
    expect(
      compared(
        [
          ['HK1', 12],
          ['7', 1.5],
          ['SL2', null],
        ],
        [
          ['SL2', ''],
          ['7.0', '1.50'],
          ['HK1', '12'],
        ],
      ),
    ).toEqual({ same: 3, unlike: [], lacks: [] });
    // A code that begins with zeros is no number.
    expect(kinds(compared([['007', 1]], [['7', 1]]).unlike)).toEqual(['only here 007', 'only there 7']);
  });

  it('differ by what only one has, what both say otherwise, and by how much', () => {
    const { same, unlike } = compared(
      [
        ['HK1', 12.3],
        ['SL2', 8],
        ['CD3', 'x'],
      ],
      [
        ['HK1', '12'],
        ['LG4', 9],
        ['CD3', 'y'],
      ],
    );
    expect([same, unlike]).toEqual([
      0,
      [
        { kind: 'differs', key: 'HK1', row: 0, column: 'Boxes', here: '12.3', there: '12', by: 0.3 },
        { kind: 'only here', key: 'SL2', row: 1 },
        { kind: 'differs', key: 'CD3', row: 2, column: 'Boxes', here: 'x', there: 'y' },
        { kind: 'only there', key: 'LG4' },
      ],
    ]);
  });

  it('name a key that comes twice, and never compare its second row in silence', () => {
    expect(
      kinds(
        compared(
          [
            ['HK1', 12],
            ['HK1', 99],
          ],
          [
            ['HK1', 12],
            ['SL2', 1],
            ['SL2', 2],
          ],
        ).unlike,
      ),
    ).toEqual(['twice there SL2', 'twice here HK1', 'only there SL2']);
  });

  it('name the rows that have no key, on both sides, but for those that say nothing at all', () => {
    const { same, unlike } = compared(
      [
        ['HK1', 12],
        [null, 40],
      ],
      [
        ['HK1', 12],
        ['', 7],
        ['', ''],
      ],
    );
    expect([same, kinds(unlike)]).toEqual([1, ['only here (blank)', 'only there (blank)']]);
    // Also where nothing but the keys is compared.
    const byKeys = new Reconciliation(
      { ...check, columns: [] },
      list([
        ['HK1', 12],
        ['', 7],
      ]),
    );
    byKeys.add(here([['HK1', 12]]));
    expect(kinds(byKeys.end().unlike)).toEqual(['only there (blank)']);
  });

  it('come out the same whatever pieces the dataset comes in, and leave no row untold', () => {
    const key = fc.constantFrom<Cell>('A', 'B', 'C', '7', 7, '7.0', null, '');
    const rows = fc.array(fc.tuple(key, fc.constantFrom<Cell>(1, 2, '2', '2.0', 'x', null)), { maxLength: 9 });
    const form = (cell: Cell) =>
      cell === null || cell === '' ? '' : /^[\d.]+$/.test(String(cell)) ? String(Number(cell)) : String(cell);
    fc.assert(
      fc.property(rows, rows, fc.integer({ min: 1, max: 4 }), (ours, theirs, pieces) => {
        const result = compared(ours, theirs, pieces);
        expect(result).toEqual(compared(ours, theirs));
        const firstThere = new Map(
          [...theirs]
            .reverse()
            .filter(([own]) => form(own) !== '')
            .map(([own, cell]) => [form(own), cell]),
        );
        const told = (kind: Unlike['kind']) => result.unlike.filter((each) => each.kind === kind).length;
        // Each row here agrees, differs, stands here only, or comes again.
        expect(result.same + told('differs') + told('only here') + told('twice here')).toBe(ours.length);
        const seen = new Set<string>();
        let [same, only, twice] = [0, 0, 0];
        for (const [own, cell] of ours) {
          const id = form(own);
          if (id === '' || !firstThere.has(id)) only++;
          else if (seen.has(id)) twice++;
          else if (form(cell) === form(firstThere.get(id)!)) same++;
          seen.add(id);
        }
        expect([result.same, told('only here'), told('twice here')]).toEqual([same, only, twice]);
        // As does each row there, but for blank ones.
        const distinct = new Set(theirs.map(([own]) => form(own)).filter((id) => id !== ''));
        const speaking = theirs.filter(([own]) => form(own) !== '').length;
        expect(told('twice there')).toBe(speaking - distinct.size);
        expect(told('only there')).toBe(
          [...distinct].filter((id) => !ours.some(([own]) => form(own) === id)).length +
            theirs.filter(([own, cell]) => form(own) === '' && form(cell) !== '').length,
        );
      }),
      { numRuns: 300 },
    );
  });

  it('are told in words, and not at all where they agree', () => {
    expect(reconciledWords(compared([['A', 1]], [['A', 1]]))).toBeUndefined();
    expect(
      reconciledWords(
        compared(
          [
            ['A', 1],
            ['B', 1],
            ['C', 2],
          ],
          [
            ['A', 1],
            ['C', 3],
            ['D', 1],
            ['D', 1],
          ],
        ),
      ),
    ).toBe('1 only here, 1 only there, 1 different, 1 twice there; 1 agrees');
    const lacking = new Reconciliation({ ...check, columns: [{ column: 'Boxes', of: 'cases' }] }, list([['A', 1]]));
    lacking.add(here([['A', 1]]));
    expect([lacking.end().same, reconciledWords(lacking.end())]).toEqual([0, 'the list has no column “cases”']);
  });
});
