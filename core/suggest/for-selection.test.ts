import { describe, expect, it } from 'vitest';
import type { Sheet } from '../sheet/sheet';
import { around, paper, textSheet } from '../testing/sheets';
import { offer, offersFor, type Selected } from './for-selection';

const of = textSheet(
  [
    ['Code', 'Species', 'Boxes', 'Where'],
    ['HK1', 'Lantern hake', '12', 'Saltby - north'],
    ['SL2', 'Grey sole', null, 'Saltby - south'],
    ['HK1', 'Lantern hake, small', '1,031', 'Fairlead - north'],
    [null, 'Total hake', '1,043', null],
    ['Notes', null, null, null],
  ],
  [{}, {}, {}, { role: 'total' }, { role: 'section' }],
);
const offers = (selected: Selected) => offersFor(of, selected, around(), { key: 'r1', paper: paper() });
const cell = (row: number, column: number): Selected => ({ rows: [row, row], columns: [column, column] });
const column = (from: number, to = from): Selected => ({ rows: [0, of.rows.length - 1], columns: [from, to] });
const says = (selected: Selected) => offers(selected).map((each) => each.says);

describe('what is offered for a selection', () => {
  it('of a cell: rows like it are held, kept or blanked, with their places and their print', () => {
    expect(says(cell(0, 0))).toEqual([
      'make this row the column names',
      'hold 2 rows with “HK1”',
      'keep only 2 rows with it',
      'make 2 cells blank',
    ]);
    const [, held, , blanked] = offers(cell(0, 0));
    expect(held).toMatchObject({ kind: 'sift rows', held: [0, 2], changed: [], leftOut: [] });
    expect(held.printed.map(({ words }) => words)).toEqual([
      [0, 1, 2, 3],
      [200, 201, 202, 203],
    ]);
    expect(blanked.changed).toEqual([
      [0, 0, null],
      [2, 0, null],
    ]);
    expect([held.rowsIn, held.rowsOut, held.holds]).toEqual([5, 3, 2]);
  });

  it('of a blank cell: the value above goes down, or the rows blank there are held', () => {
    expect(says(cell(1, 2))).toEqual(['carry values down into 2 blanks', 'hold 2 rows blank in “Boxes”']);
  });

  it('of a total: the printed totals, kept to be added up, come first', () => {
    expect(says(cell(3, 1))[0]).toBe('hold 1 printed total, kept to be added up');
    expect(offers(cell(3, 1))[0].settings).toMatchObject({ wording: ['Total *'], marked: false });
  });

  it('of a total or a column reads amounts and dates as the sheet prints them', () => {
    const german = textSheet(
      [
        ['Posten', 'Tag', 'Betrag'],
        ['Tau', '3. März 2025', '1.234,50'],
        ['Farbe', '14. Mai 2025', '10,00'],
        ['Summe', null, '1.244,50'],
      ],
      [{}, {}, { role: 'total' }],
    );
    const [total] = offersFor(german, cell(2, 0), around(), { key: 'r1', paper: paper() });
    expect(total).toMatchObject({ kind: 'hold totals', settings: { locale: 'de-DE' } });
    const [types] = offersFor(german, { rows: [0, 2], columns: [1, 1] }, around(), { key: 'r1', paper: paper() });
    expect([types.says, types.settings['locale']]).toEqual(['read as date', 'de-DE']);
  });

  it('of a row that only says a section: it is put beside the rows below', () => {
    expect(says(cell(4, 0))[0]).toBe('put “Notes” beside the rows below');
  });

  it('of a text with a mark: the column is cut there', () => {
    expect(says(cell(0, 3))).toContain('cut 3 texts at “ - ”');
    expect(says(column(3))).toEqual(expect.arrayContaining(['cut 3 texts at “ - ”', 'leave “Where” out']));
  });

  it('of a column: its type, its blanks, and leaving it out', () => {
    expect(says(column(2))).toEqual([
      'read as whole number',
      'carry values down into 2 blanks',
      'hold 2 rows blank here',
      'leave “Boxes” out',
    ]);
    expect(offers(column(2)).at(-1)!.leftOut).toEqual([2]);
  });

  it('of several columns: they are joined, turned, kept or left out', () => {
    expect(says(column(0, 1))).toEqual(
      expect.arrayContaining([
        'join “Code” and “Species” into one column',
        'leave “Code” and “Species” out',
        'keep only “Code” and “Species”',
      ]),
    );
    expect(says(column(1, 3))).toContain('turn 3 columns into 10 rows');
  });

  it('of numbers of one kind, and of two dates: what is worked out of them', () => {
    const made = textSheet([
      ['Kept', 'Sold', 'From', 'To'],
      ['3', '4', '2025-01-30', '2025-02-02'],
      ['5', null, '2025-02-01', '2025-02-01'],
    ]);
    const typed = (unit?: string): Sheet => ({
      ...made,
      columns: made.columns.map((column, c) =>
        c < 2
          ? {
              ...column,
              type: 'decimal',
              ...(unit && c === 1 ? { unit } : {}),
              cells: column.cells.map((cell) => (cell === null ? null : Number(cell))),
            }
          : { ...column, type: 'date' },
      ),
    });
    const saysOf = (sheet: Sheet, from: number, to: number) =>
      offersFor(sheet, { rows: [0, 1], columns: [from, to] }, around(), { key: 'r1', paper: paper() });
    expect(saysOf(typed(), 0, 1).map(({ says: own }) => own)).toEqual(
      expect.arrayContaining(['add “Kept” and “Sold” up into one more', 'divide “Kept” by “Sold”']),
    );
    expect(saysOf(typed(), 0, 1).find(({ says: own }) => own.startsWith('divide'))!.settings).toEqual({
      columns: [{ into: 'Kept per Sold', formula: '"Kept" / nullif("Sold", 0)', unit: '' }],
    });
    expect(saysOf(typed(), 2, 3).map(({ says: own }) => own)).toContain('count the days from “From” to “To”');
    // Kilograms and pieces are not added up.
    expect(
      saysOf(typed('kg'), 0, 1)
        .map(({ says: own }) => own)
        .filter((own) => own.startsWith('add')),
    ).toEqual([]);
    expect(saysOf(typed(), 1, 2).map(({ kind }) => kind)).not.toContain('compute column');
  });

  it('of rows: those at an end are held, those of a role, and the first become the names', () => {
    const rows = (from: number, to: number): Selected => ({ rows: [from, to], columns: [0, 3] });
    expect(says(rows(0, 1))).toEqual(['make these 2 rows the column names', 'hold 2 rows at the top']);
    expect(says(rows(4, 4))).toEqual(['hold 1 row at the bottom', 'hold 1 row marked as section']);
    expect(says({ rows: [0, 1], columns: [0, 0] })).toContain('hold 3 rows with one of these 2 values');
  });

  it('is nothing where a step would do nothing, or cannot be done', () => {
    const wanted = (settings: Record<string, unknown>) =>
      offer(of, { kind: 'sift rows', settings, says: () => '' }, around());
    expect(
      wanted({ conditions: [{ of: { is: 'column', name: 'Code' }, test: 'is', value: 'nowhere' }] }),
    ).toBeUndefined();
    expect(wanted({ conditions: [{ of: { is: 'column', name: 'No such' }, test: 'is blank' }] })).toBeUndefined();
    expect(wanted({ conditions: 'none' })).toBeUndefined();
    expect(offer(of, { kind: 'no such kind', settings: {}, says: () => '' }, around())).toBeUndefined();
  });
});
