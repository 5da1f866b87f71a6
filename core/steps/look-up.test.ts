import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import type { List } from '../sheet/list';
import { around, plain, sampleList, textSheet, wordsBehind } from '../testing/sheets';
import { isError } from '../values/cell';
import { formOf } from './fields';
import { kinds } from './kinds';

const { settings: schema, run } = kinds.get('look up')!;
const base = {
  from: { is: 'file', name: 'species.csv' },
  keys: [{ column: 'Code', of: 'Code' }],
  columns: [{ name: 'Species' }],
  version: 'species.csv',
};
const look = (
  rows: Parameters<typeof textSheet>[0],
  settings: Record<string, unknown> = {},
  lists?: Record<string, List>,
) =>
  run(textSheet(rows), v.parse(schema, { ...base, ...settings }), {
    ...around(),
    ...(lists ? { lists: (version: string) => lists[version] } : {}),
  });
const told = (result: ReturnType<typeof look>) =>
  (result.problems ?? []).map(({ kind, column, expected, came }) => [kind, column, expected, came]);

describe('look up', () => {
  it('brings columns behind the key, whatever its case and spaces, traced to the words of the key', () => {
    const result = look(
      [
        ['Boxes', 'Code', 'Value'],
        ['3', ' hk1 ', '9.50'],
        ['5', 'SL2', '1.00'],
      ],
      { columns: [{ name: 'Species', into: 'Name' }, { name: 'Quota' }] },
    );
    expect(plain(result.sheet)).toEqual([
      ['Boxes', 'Code', 'Name', 'Quota', 'Value'],
      ['3', ' hk1 ', 'Lantern hake', 120, '9.50'],
      ['5', 'SL2', 'Grey sole', 45, '1.00'],
    ]);
    expect(wordsBehind(result.sheet, 'Name', 1)).toEqual(wordsBehind(result.sheet, 'Code', 1));
    expect(result.sheet.columns.map(({ type }) => type)).toEqual(['text', 'text', 'text', 'integer', 'text']);
    expect(told(result)).toEqual([]);
  });

  it('never overwrites a column that is there', () => {
    expect(
      plain(
        look([
          ['Code', 'Species'],
          ['SL2', 'as printed'],
        ]).sheet,
      ),
    ).toEqual([
      ['Code', 'Species 2', 'Species'],
      ['SL2', 'Grey sole', 'as printed'],
    ]);
  });

  it('names the rows that are not found and leaves blank what they lack', () => {
    const result = look([['Code'], ['XX9'], ['SL2'], ['XX9'], [null]]);
    expect(plain(result.sheet)).toEqual([
      ['Code', 'Species'],
      ['XX9', null],
      ['SL2', 'Grey sole'],
      ['XX9', null],
      [null, null],
    ]);
    expect(told(result)).toEqual([
      ['step', 'Code', 'every key in “species.csv”', '“XX9” (2 rows), a blank (1 row) that are not there'],
    ]);
  });

  it('counts the keys beyond those that it names', () => {
    const result = look([['Code'], ...Array.from({ length: 8 }, (_, i) => [`X${i}`])]);
    expect(result.problems![0].came).toMatch(/“X4” \(1 row\) and 3 more that are not there$/);
  });

  it('holds the rows that are not found with the reason, where that is wanted, and looks the others up by their own keys', () => {
    const result = look([['Code'], ['XX9'], ['SL2'], [null], ['HK1']], { missing: 'are held' });
    expect(plain(result.sheet)).toEqual([
      ['Code', 'Species'],
      ['SL2', 'Grey sole'],
      ['HK1', 'Lantern hake'],
    ]);
    expect(result.held!.reasons).toEqual(['“XX9” is not in “species.csv”', 'no key to look up in “species.csv”']);
    expect(told(result)).toEqual([]);
  });

  it('lets a row pass that the analyst lets pass, with blanks', () => {
    const sheet = textSheet([['Code'], ['XX9'], ['SL2']]);
    const result = run(sheet, v.parse(schema, { ...base, missing: 'are held' }), {
      ...around(),
      letPass: (_: unknown, row: number) => row === 0,
    });
    expect(plain(result.sheet)).toEqual([
      ['Code', 'Species'],
      ['XX9', null],
      ['SL2', 'Grey sole'],
    ]);
  });

  it('never doubles a row in silence: a key found twice is a misfit that says both, and a problem', () => {
    const result = look([
      ['Code', 'Boxes'],
      ['CD3', '1'],
      ['SL2', '2'],
      ['CD3', '3'],
    ]);
    expect(result.sheet.rows.length).toBe(3);
    const [cell, fine] = result.sheet.columns[1].cells;
    expect(cell).toEqual({ text: 'Fell cod / Fell cod, small', expected: 'one row of “species.csv”, not rows 3, 4' });
    expect(fine).toBe('Grey sole');
    expect(told(result)).toEqual([
      ['step', 'Code', 'each key once in “species.csv”', '“CD3” 2 times, and such keys in 1 more rows'],
    ]);
  });

  it('takes what is found twice where that is wanted and all rows say the same of what is brought', () => {
    const list: List = {
      ...sampleList,
      columns: [...sampleList.columns, { name: 'Kind', type: 'text', cells: ['round', 'flat', 'round', 'round'] }],
    };
    const settings = { twice: 'is taken where all say the same', columns: [{ name: 'Kind' }] };
    const same = look([['Code'], ['CD3']], settings, { 'species.csv': list });
    expect([plain(same.sheet), told(same)]).toEqual([
      [
        ['Code', 'Kind'],
        ['CD3', 'round'],
      ],
      [],
    ]);
    const other = look(
      [['Code'], ['CD3']],
      { ...settings, columns: [{ name: 'Kind' }, { name: 'Species' }] },
      { 'species.csv': list },
    );
    expect(other.sheet.columns.slice(1).every(({ cells: [cell] }) => isError(cell))).toBe(true);
    expect(other.problems).toHaveLength(1);
  });

  it('finds by several columns at once, none of which may be blank', () => {
    const list: List = {
      name: 'dues.csv',
      rows: 3,
      columns: [
        { name: 'Quay', type: 'text', cells: ['N', 'N', 'S'] },
        { name: 'Berth', type: 'text', cells: ['1', '2', '1'] },
        { name: 'Rate', type: 'decimal', cells: [1.5, 2.5, 3.5] },
      ],
    };
    const result = look(
      [
        ['Quay', 'Berth'],
        ['N', '2'],
        ['S', '1'],
        ['S', '2'],
        ['S', null],
      ],
      {
        keys: [
          { column: 'Quay', of: 'Quay' },
          { column: 'Berth', of: 'Berth' },
        ],
        columns: [{ name: 'Rate' }],
      },
      { 'species.csv': list },
    );
    expect(result.sheet.columns[2].cells).toEqual([2.5, 3.5, null, null]);
    expect(result.problems![0].came).toBe('“S / 2” (1 row), “S / ” (1 row) that are not there');
    expect(wordsBehind(result.sheet, 'Rate', 0)).toEqual([
      ...wordsBehind(result.sheet, 'Quay', 0),
      ...wordsBehind(result.sheet, 'Berth', 0),
    ]);
  });

  it('compares numbers by their value, but codes of many digits by each digit', () => {
    const list: List = {
      name: 'n',
      rows: 3,
      columns: [
        { name: 'No', type: 'text', cells: ['007', '1.50', '90071992547409931'] },
        { name: 'Says', type: 'text', cells: ['seven', 'one and a half', 'long'] },
      ],
    };
    const sheet = textSheet([['No'], [7], [1.5], ['90071992547409932']]);
    const typed = { ...sheet, columns: [{ ...sheet.columns[0], type: 'decimal' as const }] };
    const result = run(
      typed,
      v.parse(schema, { ...base, keys: [{ column: 'No', of: 'No' }], columns: [{ name: 'Says' }] }),
      { ...around(), lists: () => list },
    );
    expect(result.sheet.columns[1].cells).toEqual(['seven', 'one and a half', null]);
    // Texts stay texts on both sides.
    expect(
      look(
        [['No'], ['7']],
        { keys: [{ column: 'No', of: 'No' }], columns: [{ name: 'Says' }] },
        { 'species.csv': list },
      ).sheet.columns[1].cells,
    ).toEqual([null]);
  });

  it('says that a list is missing, or lacks a column, and brings blanks: such a report is held back', () => {
    const gone = look([['Code'], ['SL2']], { version: 'gone' });
    expect(plain(gone.sheet)).toEqual([
      ['Code', 'Species'],
      ['SL2', null],
    ]);
    expect(told(gone)).toEqual([['no list', undefined, 'an uploaded list “species.csv”', 'none of that name']]);
    const lacks = look([['Code'], ['SL2']], { columns: [{ name: 'Weight' }, { name: 'Species' }] });
    expect(plain(lacks.sheet)).toEqual([
      ['Code', 'Weight', 'Species'],
      ['SL2', null, 'Grey sole'],
    ]);
    expect(told(lacks)).toEqual([
      ['no list', 'Weight', 'a column “Weight” in “species.csv”', 'columns “Code”, “Species”, “Quota”'],
    ]);
  });

  it('says that its own key column is missing, with the columns that are there', () => {
    const result = look([['Kode'], ['SL2']]);
    expect(told(result)).toEqual([['step', 'Code', 'a column “Code”', 'columns “Kode”']]);
    expect(plain(result.sheet)).toEqual([
      ['Kode', 'Species'],
      ['SL2', null],
    ]);
  });

  it('says what it lacks while it is being set up, which holds reports back', () => {
    const begun = (settings: Record<string, unknown>) =>
      run(textSheet([['Code'], ['SL2']]), v.parse(schema, settings), around());
    expect(told(begun({}))).toEqual([['no list', undefined, 'a list to look into', 'none yet']]);
    expect(told(begun({ from: base.from, version: base.version }))).toEqual([
      ['no list', undefined, 'columns by which rows are found', 'none yet'],
    ]);
  });

  it('has a form in which the list is chosen', () => {
    expect(formOf(kinds.get('look up')!).map(({ name, widget }) => [name, widget])).toEqual([
      ['from', 'list source'],
      ['keys', 'list'],
      ['columns', 'list'],
      ['missing', 'pick'],
      ['twice', 'pick'],
      ['version', 'text'],
    ]);
  });
});
