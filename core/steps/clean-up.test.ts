import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import type { Cell } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import { paper, around, plain, textSheet, wordsBehind } from '../testing/sheets';
import { kinds } from './kinds';
import type { StepResult } from './step';

const run = (kind: string, settings: object, sheet: Sheet, of = paper()): StepResult => {
  const declaration = kinds.get(kind)!;
  return declaration.run(sheet, v.parse(declaration.settings, settings), around(of));
};
const names = (...all: string[]) => ({ by: 'names', names: all });
const column = (result: StepResult, name: string): readonly Cell[] =>
  result.sheet.columns.find((each) => each.name === name)!.cells;
const rows = (result: StepResult) => plain(result.sheet).slice(1);

describe('tidy text', () => {
  const sheet = textSheet([['A'], ['  Ｇrey \n gull '], ['ﬁsh\u00ad¹'], ['TERN-POINT quay'], [null]]);
  it('evens out spaces, line breaks and look-alikes, keeps raised marks, and lists what it changed', () => {
    const result = run('tidy text', { columns: names('A') }, sheet);
    expect(column(result, 'A')).toEqual(['Grey gull', 'fish¹', 'TERN-POINT quay', null]);
    expect(result.overwritten).toEqual([
      { column: 'A', rows: [0, 1], old: ['  Ｇrey \n gull ', 'ﬁsh\u00ad¹'], why: 'tidied' },
    ]);
  });
  it('sets letters, and takes footnote marks off to a column', () => {
    expect(column(run('tidy text', { columns: names('A'), letters: 'first letter of each word' }, sheet), 'A')[2]).toBe(
      'Tern-Point Quay',
    );
    const result = run('tidy text', { columns: names('A'), marks: 'into a column' }, sheet);
    expect([column(result, 'A')[1], column(result, 'A mark')]).toEqual(['fish', [null, '¹', null, null]]);
    expect(result.sheet.columns[1].origins[1]).toBe(sheet.columns[0].origins[1]);
  });
});

describe('find and replace', () => {
  const sheet = textSheet([
    ['Quay', 'N'],
    ['Saltby (N)', '1'],
    ['salt $1', null],
    [null, '3'],
  ]);
  it('finds a text, the whole cell, a pattern with groups, or blanks', () => {
    expect(
      column(run('find and replace', { columns: names('Quay'), text: 'salt', replace: 'Silt' }, sheet), 'Quay'),
    ).toEqual(['Siltby (N)', 'Silt $1', null]);
    expect(
      column(
        run(
          'find and replace',
          { columns: names('Quay'), text: 'salt $1', find: 'the whole cell', replace: '$&' },
          sheet,
        ),
        'Quay',
      )[1],
    ).toBe('$&');
    expect(
      column(
        run(
          'find and replace',
          { columns: names('Quay'), find: 'a pattern', text: '^(.+) \\((.)\\)$', replace: '$2 $1' },
          sheet,
        ),
        'Quay',
      )[0],
    ).toBe('N Saltby');
    expect(
      column(run('find and replace', { columns: { by: 'all' }, find: 'a blank', replace: '0' }, sheet), 'N'),
    ).toEqual(['1', '0', '3']);
  });
  it('works only where its conditions hold, and lists what stood there', () => {
    const result = run(
      'find and replace',
      {
        columns: names('Quay'),
        text: 'salt',
        replace: '',
        where: [{ of: { is: 'column', name: 'N' }, test: 'is filled' }],
      },
      sheet,
    );
    expect(column(result, 'Quay')).toEqual(['by (N)', 'salt $1', null]);
    expect(result.overwritten).toEqual([{ column: 'Quay', rows: [0], old: ['Saltby (N)'], why: 'found a text' }]);
  });
  it('says what is wrong with a pattern', () =>
    expect(
      run('find and replace', { columns: names('Quay'), find: 'a pattern', text: '(' }, sheet).problems![0].expected,
    ).toBe('a regular expression'));
});

describe('recode and group labels', () => {
  const sheet = textSheet([['Code'], ['HK1'], ['hk 2'], ['CR4'], [null]]);
  it('put other values in the place of those listed', () => {
    const values = [{ from: ['HK1', 'HK 2'], to: 'Hake' }];
    expect(column(run('recode', { columns: names('Code'), values }, sheet), 'Code')).toEqual([
      'Hake',
      'Hake',
      'CR4',
      null,
    ]);
    expect(column(run('recode', { columns: names('Code'), values, others: 'blank' }, sheet), 'Code')).toEqual([
      'Hake',
      'Hake',
      null,
      null,
    ]);
    expect(run('recode', { columns: names('Code'), values, others: 'a problem' }, sheet).problems![0].came).toBe(
      '“CR4”',
    );
  });
  it('put the category into a column of its own', () => {
    const result = run(
      'group labels',
      { column: 'Code', into: 'Kind', groups: [{ category: 'Fish', values: ['HK*'] }], others: 'Other' },
      sheet,
    );
    expect(plain(result.sheet)).toEqual([
      ['Kind', 'Code'],
      ['Fish', 'HK1'],
      ['Fish', 'hk 2'],
      ['Other', 'CR4'],
      [null, null],
    ]);
  });
});

describe('split column', () => {
  const split = (settings: object, ...texts: string[]) =>
    rows(run('split column', { column: 'A', ...settings }, textSheet([['A'], ...texts.map((text) => [text])])));
  it('cuts at the n-th mark from either end, at every mark, after letters, or before the unit', () => {
    expect(split({ mark: ' - ', nth: 1 }, 'N4 - Saltby - east', 'S1')).toEqual([
      ['N4', 'Saltby - east'],
      ['S1', null],
    ]);
    expect(split({ mark: ' - ', nth: 1, counted: 'from the right' }, 'N4 - Saltby - east')).toEqual([
      ['N4 - Saltby', 'east'],
    ]);
    expect(split({ where: 'at every mark', mark: '/' }, 'a/b/c', 'd')).toEqual([
      ['a', 'b', 'c'],
      ['d', null, null],
    ]);
    expect(split({ where: 'between quantity and unit' }, '1,234.5 kg', '(12) t', 'none')).toEqual([
      ['1,234.5', 'kg'],
      ['(12)', 't'],
      [null, 'none'],
    ]);
    expect(split({ where: 'at cuts', cuts: [2] }, 'HK1')).toEqual([['HK', '1']]);
  });
  it('names the parts, holds the column as left out, and traces the parts to its words', () => {
    const sheet = textSheet([['A'], ['N4 Saltby']]);
    const result = run('split column', { column: 'A', into: ['Berth', 'Quay'] }, sheet);
    expect(plain(result.sheet)).toEqual([
      ['Berth', 'Quay'],
      ['N4', 'Saltby'],
    ]);
    expect(result.leftOut).toEqual([sheet.columns[0]]);
    expect(result.sheet.columns[1].origins[0]).toBe(sheet.columns[0].origins[0]);
  });
});

describe('pull text', () => {
  it('takes parts out by a template, and names a text that does not fit', () => {
    const result = run(
      'pull text',
      { column: 'A', template: '{Code} - {Name}' },
      textSheet([['A'], ['HK1 - Lantern hake'], ['odd']]),
    );
    expect(plain(result.sheet)).toEqual([
      ['A', 'Code', 'Name'],
      ['HK1 - Lantern hake', 'HK1', 'Lantern hake'],
      ['odd', null, null],
    ]);
    expect(result.problems![0]).toMatchObject({ came: '“odd”' });
  });
});

describe('concatenate, constant and numbered columns', () => {
  const sheet = textSheet(
    [
      ['A', 'B', 'C'],
      ['x', null, '1'],
      ['y', 'z', '2'],
    ],
    [{ table: 't1' }, { table: 't2' }],
  );
  it('join texts, skip blanks, and come from the words of all', () => {
    const result = run('concatenate columns', { columns: names('A', 'B'), joiner: '-', into: 'AB' }, sheet);
    expect(plain(result.sheet)).toEqual([
      ['AB', 'C'],
      ['x', '1'],
      ['y-z', '2'],
    ]);
    expect(wordsBehind(result.sheet, 'AB', 1)).toEqual(['r1 1:100', 'r1 1:101']);
    expect(result.leftOut!.map(({ name }) => name)).toEqual(['A', 'B']);
  });
  it('hold one text, or count', () => {
    expect(rows(run('constant column', { name: 'Port', value: 'Saltby' }, sheet))[1][0]).toBe('Saltby');
    expect(column(run('number rows', { anew: 'never', from: 5 }, sheet), 'Row')).toEqual([5, 6]);
    expect(column(run('number rows', { anew: 'each table' }, sheet), 'Row')).toEqual([1, 1]);
  });
});

describe('sort and deduplicate', () => {
  const sheet = textSheet([
    ['K', 'N'],
    ['b', '1'],
    ['a', '2'],
    [null, '3'],
    ['b', '1'],
    ['a', '4'],
  ]);
  it('order rows by columns, blanks last, alike rows as they were', () => {
    expect(rows(run('sort', { by: [{ column: 'K' }] }, sheet))).toEqual([
      ['a', '2'],
      ['a', '4'],
      ['b', '1'],
      ['b', '1'],
      [null, '3'],
    ]);
    expect(
      rows(
        run(
          'sort',
          {
            by: [
              { column: 'K', order: 'down' },
              { column: 'N', order: 'down' },
            ],
          },
          sheet,
        ),
      ).at(-1),
    ).toEqual([null, '3']);
    expect(run('sort', { by: [{ column: 'gone' }] }, sheet).problems![0].column).toBe('gone');
  });
  it('let one of alike rows pass, and hold the others with the reason', () => {
    const result = run('deduplicate', { columns: names('K', 'N') }, sheet);
    expect(result.sheet.rows).toHaveLength(4);
    expect(result.held!.reasons).toEqual(['the same K, N as row 1']);
    expect(rows(run('deduplicate', { columns: names('K'), keep: 'the last' }, sheet))).toEqual([
      [null, '3'],
      ['b', '1'],
      ['a', '4'],
    ]);
    expect(run('deduplicate', { columns: names('K', 'gone') }, sheet).held).toBeUndefined();
  });
});

describe('fold lines', () => {
  const sheet = textSheet([
    ['Key', 'What'],
    ['1', 'Mooring by'],
    [null, 'the night'],
    [null, 'crew'],
    ['2', 'Water'],
  ]);
  it('joins lines that go on into the row above or below, and holds them', () => {
    const result = run('fold lines', { keys: names('Key') }, sheet);
    expect(rows(result)).toEqual([
      ['1', 'Mooring by the night crew'],
      ['2', 'Water'],
    ]);
    expect(result.held!.reasons).toEqual(['folded into the row above', 'folded into the row above']);
    expect(result.overwritten).toEqual([
      { column: 'What', rows: [0], old: ['Mooring by'], why: 'joined with the lines that go on from it' },
    ]);
    expect(rows(run('fold lines', { keys: names('Key'), into: 'the row below' }, sheet))).toEqual([
      ['1', 'Mooring by'],
      ['2', 'the night crew Water'],
    ]);
  });
  it('never folds over into another report', () => {
    const two = textSheet(
      [
        ['Key', 'What'],
        ['1', 'a'],
        [null, 'b'],
      ],
      [{}, { report: 'r2' }],
    );
    expect(run('fold lines', { keys: names('Key') }, two).sheet.rows).toHaveLength(2);
  });
});

describe('drop noise and close gaps', () => {
  it('hold rows of dashes, page numbers and rows of a role', () => {
    const sheet = textSheet(
      [
        ['A', 'B'],
        ['-----', '----'],
        ['Page 3 of 8', null],
        ['1', '–'],
        ['note', null],
      ],
      [{}, {}, {}, { role: 'note' }],
    );
    expect(run('drop noise', { role: 'note' }, sheet).held!.reasons).toEqual([
      'a row of dashes',
      'a page number',
      'marked as note',
    ]);
  });
  it('move values that slipped into a neighbour, with their words', () => {
    const sheet = textSheet([
      ['A', 'B', 'C'],
      [null, '1', '2'],
      ['3', null, '4'],
      ['5', '6', '7'],
    ]);
    const result = run('close gaps', { columns: { by: 'all' } }, sheet);
    expect(rows(result)).toEqual([
      ['1', '2', null],
      ['3', '4', null],
      ['5', '6', '7'],
    ]);
    expect(result.sheet.columns[0].origins[0]).toBe(sheet.columns[1].origins[0]);
    expect(result.overwritten!.map(({ column: name, rows: at }) => [name, at])).toEqual([
      ['A', [0]],
      ['B', [0, 1]],
      ['C', [0, 1]],
    ]);
    expect(rows(run('close gaps', { columns: { by: 'all' }, to: 'the right' }, sheet))[0]).toEqual([null, '1', '2']);
  });
});

describe('correct cells', () => {
  const sheet = textSheet([
    ['Quay', 'Value'],
    ['Saltby', '1,2O0'],
    ['Saltby', '7'],
  ]);
  const correction = {
    report: 'week-24.pdf',
    page: 1,
    word: 1,
    column: 'Value',
    from: '1,2O0',
    to: '1,200',
    why: 'a letter for a zero',
  };
  it('corrects the cell at its place on paper, and says why', () => {
    const result = run('correct cells', { corrections: [correction] }, sheet);
    expect(column(result, 'Value')).toEqual(['1,200', '7']);
    expect(result.overwritten).toEqual([
      { column: 'Value', rows: [0], old: ['1,2O0'], why: 'corrected by hand; a letter for a zero' },
    ]);
  });
  it('knows a report by its path, as two folders may hold files of one name', () => {
    const other = paper('2031/week-24.pdf');
    expect(column(run('correct cells', { corrections: [correction] }, sheet, other), 'Value')[0]).toBe('1,2O0');
    expect(
      column(
        run('correct cells', { corrections: [{ ...correction, report: '2031/week-24.pdf' }] }, sheet, other),
        'Value',
      )[0],
    ).toBe('1,200');
  });
  it('leaves other reports alone, and reports a paper that says something else by now', () => {
    expect(run('correct cells', { corrections: [{ ...correction, report: 'week-25.pdf' }] }, sheet).problems).toEqual(
      [],
    );
    const other = run('correct cells', { corrections: [{ ...correction, from: '1,300' }] }, sheet);
    expect(column(other, 'Value')[0]).toBe('1,2O0');
    expect(other.problems![0]).toMatchObject({ expected: '“1,300” where it was corrected', came: '“1,2O0”' });
    expect(run('correct cells', { corrections: [{ ...correction, word: 77 }] }, sheet).problems![0].came).toBe(
      'nothing at this place',
    );
  });
  it('moves a text into a blank cell of another column, with the words it comes from', () => {
    const slipped = textSheet([
      ['Quay', 'Value', 'Note'],
      ['Saltby', '1,2O0', null],
      ['Saltby', '7', 'x'],
    ]);
    const result = run('correct cells', { corrections: [{ ...correction, to: '', into: 'Note' }] }, slipped);
    expect(plain(result.sheet).slice(1)).toEqual([
      ['Saltby', null, '1,2O0'],
      ['Saltby', '7', 'x'],
    ]);
    expect(result.sheet.columns[2].origins[0]).toBe(slipped.columns[1].origins[0]);
    expect(result.overwritten!.map(({ column: name, old }) => [name, old])).toEqual([
      ['Value', ['1,2O0']],
      ['Note', [null]],
    ]);
    const filled = run('correct cells', { corrections: [{ ...correction, into: 'Quay' }] }, slipped);
    expect(plain(filled.sheet)).toEqual(plain(slipped));
    expect(filled.problems![0]).toMatchObject({ expected: 'a blank cell in “Quay” to move it into', came: '“Saltby”' });
    expect(
      run('correct cells', { corrections: [{ ...correction, into: 'Gone' }] }, slipped).problems![0].expected,
    ).toBe('a column “Gone”');
  });
});

describe('demote header', () => {
  it('makes the names a row again', () => {
    expect(
      plain(
        run(
          'demote header',
          {},
          textSheet([
            ['Quay', 'N'],
            ['Saltby', '1'],
          ]),
        ).sheet,
      ),
    ).toEqual([
      ['Column 1', 'Column 2'],
      ['Quay', 'N'],
      ['Saltby', '1'],
    ]);
  });
});
