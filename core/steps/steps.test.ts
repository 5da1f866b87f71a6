import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { plain, around, paper, textSheet, wordsBehind } from '../testing/sheets';
import { append } from '../pipeline/append';
import type { Sheet } from '../sheet/sheet';
import { wildcard } from './wildcard';
import { kinds } from './kinds';
import type { Paper } from './step';

/** Runs a kind with its settings as saved, so that defaults are filled in as the schema says. */
function run(kind: string, settings: unknown, sheet: Sheet, of: Paper = paper()) {
  const declaration = kinds.get(kind)!;
  return declaration.run(sheet, v.parse(declaration.settings, settings), around(of));
}
const names = (...list: string[]) => ({ by: 'names', names: list });

describe('drop blank rows', () => {
  it('holds rows that are blank in the chosen columns', () => {
    const sheet = textSheet([
      ['A', 'B'],
      ['1', 'x'],
      [null, null],
      [null, 'y'],
    ]);
    const all = run('drop blank rows', { columns: { by: 'all' } }, sheet);
    expect(plain(all.sheet)).toEqual([
      ['A', 'B'],
      ['1', 'x'],
      [null, 'y'],
    ]);
    expect(all.held!.reasons).toEqual(['blank in all columns']);
    expect(plain(run('drop blank rows', { columns: names('A') }, sheet).sheet)).toEqual([
      ['A', 'B'],
      ['1', 'x'],
    ]);
  });

  it('names a column that is gone and lets the rows pass', () => {
    const result = run('drop blank rows', { columns: names('C') }, textSheet([['A'], [null]]));
    expect(result.sheet.rows).toHaveLength(1);
    expect(result.problems![0]).toMatchObject({ column: 'C', expected: 'a column “C”' });
  });
});

describe('trim rows', () => {
  it('holds from the top, from the bottom and in a range', () => {
    const sheet = textSheet([['A'], ...'abcdef'.split('').map((c) => [c])]);
    expect(plain(run('trim rows', { top: 1, bottom: 2, from: 3, to: 3 }, sheet).sheet).slice(1)).toEqual([
      ['b'],
      ['d'],
    ]);
  });
});

describe('promote header rows', () => {
  const origins = {
    ...textSheet([
      ['Column 1', 'Column 2', 'Column 3', 'Column 4'],
      ['Code', 'Weight (kg)', null, 'Value'],
      [null, 'Gutted', 'Whole', null],
      ['HK1', '1', '2', '3'],
    ]),
  };
  // The third column of the first row is covered by the span: it comes from the same words.
  const spanned: Sheet = {
    ...origins,
    columns: origins.columns.map((column, i) =>
      i === 2 ? { ...column, origins: Int32Array.from([1, ...column.origins.slice(1)]) } : column,
    ),
  };

  it('joins the rows and spreads spans over their columns', () => {
    const { sheet, held } = run('promote header rows', { rows: 2 }, spanned);
    expect(plain(sheet)).toEqual([
      ['Code', 'Weight (kg) Gutted', 'Weight (kg) Whole', 'Value'],
      ['HK1', '1', '2', '3'],
    ]);
    expect(held!.rows.rows).toHaveLength(2);
    expect(held!.reasons).toEqual(['became the column names', 'became the column names']);
  });

  it('leaves spans in their first column when told so', () => {
    expect(
      run('promote header rows', { rows: 2, spread: false, joiner: '/' }, spanned).sheet.columns.map((c) => c.name),
    ).toEqual(['Code', 'Weight (kg)/Gutted', 'Whole', 'Value']);
  });

  it('takes the rows marked as heading, and says so when there are none', () => {
    const marked = textSheet([['Column 1'], ['Name'], ['x']], [{ role: 'heading' }]);
    expect(plain(run('promote header rows', {}, marked).sheet)).toEqual([['Name'], ['x']]);
    const unmarked = run('promote header rows', {}, textSheet([['Column 1'], ['x']]));
    expect(unmarked.sheet.rows).toHaveLength(1);
    expect(unmarked.problems).toHaveLength(1);
  });

  it('tells doubled names apart by what stands before them', () => {
    expect(
      run(
        'promote header rows',
        { rows: 1 },
        textSheet([
          ['1', '2', '3', '4'],
          ['Plan', 'Share', 'Real', 'Share'],
        ]),
      ).sheet.columns.map((c) => c.name),
    ).toEqual(['Plan', 'Share', 'Real', 'Share after Real']);
  });
});

describe('drop noise', () => {
  it('holds the heading printed again, before and after the promotion', () => {
    const sheet = textSheet([
      ['Column 1', 'Column 2'],
      ['Code', 'Value'],
      ['A', '1'],
      ['code', 'VALUE'],
      ['B', '2'],
    ]);
    expect(plain(run('drop noise', { headings: true, headingRows: 1 }, sheet).sheet).slice(1)).toEqual([
      ['Code', 'Value'],
      ['A', '1'],
      ['B', '2'],
    ]);
    const promoted = run('promote header rows', { rows: 1 }, sheet).sheet;
    expect(plain(run('drop noise', { headings: true }, promoted).sheet).slice(1)).toEqual([
      ['A', '1'],
      ['B', '2'],
    ]);
    // Also where the next row that is marked as heading says the names already.
    const first = textSheet(
      [
        ['Code', 'Value'],
        ['Code', 'Value'],
        ['A', '1'],
      ],
      [{ role: 'heading' }],
    );
    expect(plain(run('drop noise', { headings: true }, first).sheet).slice(1)).toEqual([['A', '1']]);
  });
});

describe('sift rows', () => {
  const sheet = textSheet(
    [
      ['Code', 'Note'],
      ['A1', 'ok'],
      ['B2', null],
      ['A3', 'Void'],
    ],
    [{}, { bold: true }, { page: 2 }],
  );
  const on = (name: string, test: string, value?: unknown) => ({
    of: { is: 'column', name },
    test,
    ...(value === undefined ? {} : { value }),
  });

  it('holds the matching rows, or all others', () => {
    expect(plain(run('sift rows', { conditions: [on('Code', 'starts with', 'a')] }, sheet).sheet).slice(1)).toEqual([
      ['B2', null],
    ]);
    expect(
      plain(run('sift rows', { hold: 'all others', conditions: [on('Code', 'is like', 'A*')] }, sheet).sheet).slice(1),
    ).toEqual([
      ['A1', 'ok'],
      ['A3', 'Void'],
    ]);
  });

  it('joins conditions by all or any, on columns and row marks', () => {
    const conditions = [on('Note', 'is blank'), { of: { is: 'mark', name: 'page' }, test: 'is above', value: 1 }];
    expect(plain(run('sift rows', { when: 'any', conditions }, sheet).sheet).slice(1)).toEqual([['A1', 'ok']]);
    expect(run('sift rows', { when: 'all', conditions }, sheet).sheet.rows).toHaveLength(3);
  });

  it('waits with all rows when a column is gone', () => {
    const result = run('sift rows', { conditions: [on('Gone', 'is blank'), on('Note', 'is filled')] }, sheet);
    expect(result.sheet).toBe(sheet);
    expect(result.problems).toHaveLength(1);
  });
});

describe('pick columns', () => {
  const sheet = textSheet([
    ['A', 'B', '2024', '2025'],
    ['1', '2', '3', '4'],
  ]);
  it.each([
    [names('B', 'A'), ['B', 'A']],
    [{ by: 'all but', names: ['A'] }, ['B', '2024', '2025']],
    [{ by: 'all after', name: 'B' }, ['2024', '2025']],
    [{ by: 'names matching', pattern: '20*' }, ['2024', '2025']],
  ])('keeps %j', (columns, kept) => {
    const { sheet: picked, leftOut } = run('pick columns', { columns }, sheet);
    expect(picked.columns.map((c) => c.name)).toEqual(kept);
    expect([...kept, ...leftOut!.map((c) => c.name)].sort()).toEqual(['2024', '2025', 'A', 'B']);
  });
});

describe('rename', () => {
  it('gives several spellings one name, and leaves absent ones alone', () => {
    const settings = { names: [{ to: 'Boxes', from: ['No. of boxes', 'Box'] }] };
    expect(run('rename', settings, textSheet([['no. of  boxes'], ['1']])).sheet.columns[0].name).toBe('Boxes');
    expect(run('rename', settings, textSheet([['Boxes'], ['1']])).problems).toEqual([]);
  });

  it('never gives two columns one name', () => {
    const result = run(
      'rename',
      { names: [{ to: 'Boxes', from: ['Box', 'Crates'] }] },
      textSheet([
        ['Box', 'Crates'],
        ['1', '2'],
      ]),
    );
    expect(result.sheet.columns.map((c) => c.name)).toEqual(['Boxes', 'Crates']);
    expect(result.problems![0].came).toBe('two of them in one sheet');
  });
});

describe('lift sections', () => {
  it('carries the label down and holds its row, origin and all', () => {
    const sheet = textSheet([
      ['Code', 'Boxes'],
      ['Saltby', null],
      ['HK1', '1'],
      ['SL2', '2'],
      ['Tern Point', null],
      ['CR4', '3'],
    ]);
    const { sheet: lifted, held } = run('lift sections', { levels: [{ into: 'Quay' }] }, sheet);
    expect(plain(lifted)).toEqual([
      ['Quay', 'Code', 'Boxes'],
      ['Saltby', 'HK1', '1'],
      ['Saltby', 'SL2', '2'],
      ['Tern Point', 'CR4', '3'],
    ]);
    expect(lifted.columns[0].origins[1]).toBe(sheet.columns[0].origins[0]);
    expect(held!.reasons[0]).toBe('section label, carried into Quay');
  });

  it('leaves rows that have the amounts of their section, which are held as totals below', () => {
    const sheet = textSheet(
      [
        ['Account', 'Budget'],
        ['Dues', '100'],
        ['Vessels', '60'],
        ['Cargo', '40'],
        ['Leases', '25'],
        ['Sheds', '25'],
      ],
      [{ bold: true }, {}, {}, { bold: true }, {}],
    );
    const { sheet: lifted, held } = run(
      'lift sections',
      { levels: [{ into: 'Part', known: 'bold print and amounts' }], stays: true },
      sheet,
    );
    expect([
      plain(lifted)
        .slice(1)
        .map(([part]) => part),
      held,
    ]).toEqual([['Dues', 'Dues', 'Dues', 'Leases', 'Leases'], undefined]);
    const totals = run('hold totals', { marked: false, bold: true }, lifted);
    expect(plain(totals.sheet).slice(1)).toEqual([
      ['Dues', 'Vessels', '60'],
      ['Dues', 'Cargo', '40'],
      ['Leases', 'Sheds', '25'],
    ]);
    expect(totals.held!.covers!.map(({ rows, differs }) => [rows.length, differs.length])).toEqual([
      [2, 0],
      [1, 0],
    ]);
  });

  it('knows sections with amounts by the rows further in below them, at each level, and ends them where a row stands no further in', () => {
    const indents = [0, 10, 20, 20, 10, 0, 10, 20];
    const sheet = textSheet(
      [
        ['Area', 'Calls'],
        ['East', '30'],
        ['Saltby', '12'],
        ['Bulk', '7'],
        ['Fish', '5'],
        ['Fairlead', '18'],
        ['West', '4'],
        ['Holm', '4'],
        ['Bulk', '4'],
      ],
      indents.map((indent) => ({ indent })),
    );
    const levels = ['outermost', 'second'].map((indent, i) => ({
      into: ['Coast', 'Port'][i],
      known: 'indented rows below',
      indent,
    }));
    const { sheet: lifted } = run('lift sections', { levels, stays: true }, sheet);
    const { sheet: rows, held } = run('hold totals', { marked: false, indented: true }, lifted);
    expect(plain(rows).slice(1)).toEqual([
      ['East', 'Saltby', 'Bulk', '7'],
      ['East', 'Saltby', 'Fish', '5'],
      ['East', null, 'Fairlead', '18'],
      ['West', 'Holm', 'Bulk', '4'],
    ]);
    expect(held!.covers!.map(({ rows: own, differs }) => [own.length, differs.length])).toEqual([
      [3, 0],
      [2, 0],
      [1, 0],
      [1, 0],
    ]);
  });

  it('goes on under a label that says so, at every level, and only where that section is open', () => {
    const sheet = textSheet([
      ['Code', 'Boxes'],
      ['North'],
      ['Saltby'],
      ['HK1', '1'],
      ['North (continued)'],
      ['Saltby (cont.)'],
      ['SL2', '2'],
      ['Fairlead'],
      ['CR4', '3'],
      ['Saltby, continued'],
      ['CR5', '4'],
    ]);
    const { sheet: lifted, held } = run(
      'lift sections',
      { levels: [{ into: 'Coast', known: 'pattern', pattern: 'North*' }, { into: 'Quay' }] },
      sheet,
    );
    expect(plain(lifted).slice(1)).toEqual([
      ['North', 'Saltby', 'HK1', '1'],
      ['North', 'Saltby', 'SL2', '2'],
      ['North', 'Fairlead', 'CR4', '3'],
      ['North', 'Saltby, continued', 'CR5', '4'],
    ]);
    expect(held!.rows.rows.length).toBe(6);
    // A name that merely ends in such a word is a section of its own.
    const rooms = textSheet([
      ['Room', 'Nights'],
      ['Harbour'],
      ['1', '3'],
      ['Harbour suite'],
      ['2', '5'],
      ['Harbour - suite'],
      ['3', '4'],
    ]);
    expect(
      plain(run('lift sections', { levels: [{ into: 'Kind' }] }, rooms).sheet)
        .slice(1)
        .map(([kind]) => kind),
    ).toEqual(['Harbour', 'Harbour suite', 'Harbour - suite']);
  });

  it('does not run over into the next report', () => {
    const sheet = textSheet(
      [
        ['Code', 'Boxes'],
        ['Saltby', null],
        ['HK1', '1'],
        ['SL2', '2'],
      ],
      [{}, {}, { report: 'r2' }],
    );
    expect(plain(run('lift sections', { levels: [{ into: 'Quay' }] }, sheet).sheet).slice(1)).toEqual([
      ['Saltby', 'HK1', '1'],
      [null, 'SL2', '2'],
    ]);
  });
});

describe('hold totals', () => {
  it('holds a stated balance against the row above it, and what is carried over against either', () => {
    const ledger = textSheet([
      ['For', 'In', 'Balance'],
      ['Opening balance', null, '100'],
      ['Heron', '50', '150'],
      ['Marlin', '20', '170'],
      ['Carried forward', null, '170'],
      ['Brought forward', null, '170'],
      ['Crane', '30', '200'],
      ['Closing balance', null, '200'],
    ]);
    const covers = (sheet: typeof ledger) =>
      run('hold totals', { wording: ['* balance', '* forward'], marked: false }, sheet).held!.covers!.map(
        ({ rows, differs }) => [rows.length, differs.length],
      );
    expect(covers(ledger)).toEqual([
      [0, 0],
      [1, 0],
      [1, 0],
      [1, 0],
    ]);
    // The next account begins in a table of its own, and is of nothing above.
    const accounts = [
      ['For', 'In', 'Balance'],
      ['Brought forward', null, '100'],
      ['Heron', '50', '150'],
      ['Carried forward', null, '150'],
      ['Brought forward', null, '900'],
      ['Crane', '30', '930'],
      ['Carried forward', null, '930'],
    ];
    const tables = accounts.slice(1).map((_, row) => ({ table: row < 3 ? 't1' : 't2' }));
    expect(covers(textSheet(accounts, tables))).toEqual([
      [0, 0],
      [1, 0],
      [0, 0],
      [1, 0],
    ]);
    // In the same table the page was carried over wrong.
    expect(covers(textSheet(accounts)).map(([, differs]) => differs)).toEqual([0, 0, 1, 0]);
    const misprinted = textSheet([
      ['For', 'In', 'Balance'],
      ['Opening balance', null, '100'],
      ['Heron', '50', '150'],
      ['Closing balance', null, '160'],
    ]);
    expect(covers(misprinted)).toEqual([
      [0, 0],
      [1, 1],
    ]);
    // Rows that say only what moves are no balances to hold the last one against.
    const movements = [
      ['For', 'Amount'],
      ['Opening balance', '100'],
      ['Heron', '50'],
      ['Marlin', '20'],
      ['Closing balance', '170'],
    ];
    expect(covers(textSheet(movements))).toEqual([
      [0, 0],
      [0, 0],
    ]);
    expect(covers(textSheet(movements.filter(([label]) => label !== 'Opening balance')))).toEqual([[0, 0]]);
    expect(covers(textSheet([...movements.slice(0, -1), ['Closing balance', '171']]))).toEqual([
      [0, 0],
      [1, 1],
    ]);
    const summed = textSheet([
      ['For', 'Amount'],
      ['Heron', '50'],
      ['Marlin', '20'],
      ['Carried forward', '70'],
      ['Crane', '30'],
      ['Carried forward', '100'],
    ]);
    expect(covers(summed)).toEqual([
      [2, 0],
      [3, 0],
    ]);
  });

  it('takes totals that are printed above their rows for the sums of these, report by report', () => {
    const covers = (sheet: ReturnType<typeof textSheet>) =>
      run('hold totals', { wording: ['Total *', 'All'] }, sheet).held!.covers!.map(({ rows, level, differs }) => [
        [...rows],
        level,
        differs.length,
      ]);
    const first = [
      ['Unit', 'Boxes', 'Value'],
      ['Total north', '3', '30'],
      ['Tugs', '1', '10'],
      ['Cranes', '2', '20'],
      ['Total west', '9', '70'],
      ['Pilots', '4', '30'],
      ['Stores', '5', '40'],
    ];
    expect(covers(textSheet(first))).toEqual([
      [[1, 2], 1, 0],
      [[4, 5], 1, 0],
    ]);
    // The whole above its parts, and one that is misprinted.
    expect(covers(textSheet([first[0], ['All', '12', '100'], ...first.slice(1)]))).toEqual([
      [[2, 3, 5, 6], 2, 0],
      [[2, 3], 1, 0],
      [[5, 6], 1, 0],
    ]);
    expect(covers(textSheet([...first.slice(0, 4), ['Total west', '9', '71'], ...first.slice(5)]))).toEqual([
      [[1, 2], 1, 0],
      [[4, 5], 1, 1],
    ]);
    // Another report has them under its rows.
    const both = textSheet(
      [...first, ['Tugs', '1', '10'], ['Cranes', '2', '20'], ['Total north', '3', '30']],
      [{}, {}, {}, {}, {}, {}, { report: 'r2' }, { report: 'r2' }, { report: 'r2' }],
    );
    expect(covers(both)).toEqual([
      [[1, 2], 1, 0],
      [[4, 5], 1, 0],
      [[6, 7], 1, 0],
    ]);
    // One that no row adds up to stands alone.
    expect(
      covers(
        textSheet([
          ['Unit', 'Boxes'],
          ['All', '17'],
          ['Tugs', '1'],
          ['Cranes', '2'],
        ]),
      ),
    ).toEqual([[[], 1, 0]]);
  });

  it('holds by wording or by mark, and keeps what it held as totals', () => {
    const sheet = textSheet(
      [
        ['Name', 'Value'],
        ['HK1', '1'],
        ['Total Saltby', '1'],
        ['All', '2'],
      ],
      [{}, {}, { role: 'total' }],
    );
    const result = run('hold totals', { wording: ['Total *'] }, sheet);
    expect(plain(result.sheet).slice(1)).toEqual([['HK1', '1']]);
    expect(result.held).toMatchObject({
      kept: 'totals',
      reasons: [
        'total by wording “Total *”, covers 1 row of page 1, adding up to it',
        'marked as total, covers 1 row of page 1; “Value” does not add up: printed 2, the rows give 1',
      ],
    });
  });
});

describe('crop between marks', () => {
  const sheet = textSheet([
    ['A', 'B'],
    ['Notes', null],
    ['Stays', null],
    ['N4', '2'],
    ['Total stays', '9'],
    ['Stays', null],
    ['S1', '3'],
    ['End', null],
  ]);
  const passed = (settings: object) =>
    plain(run('crop between marks', settings, sheet).sheet)
      .slice(1)
      .map(([a]) => a);
  it('passes each stretch, the first or the last, with or without the marks', () => {
    expect(passed({ from: 'stays', to: 'total' })).toEqual(['Stays', 'N4', 'Stays', 'S1', 'End']);
    expect(passed({ from: 'stays', to: 'total', which: 'first', withFrom: false, withTo: true })).toEqual([
      'N4',
      'Total stays',
    ]);
    expect(passed({ from: 'stays', to: 'total', which: 'last' })).toEqual(['Stays', 'S1', 'End']);
    expect(passed({ to: 'N4 2' })).toEqual(['Notes', 'Stays']);
  });

  it('lets every row pass, and says so, when the first mark is not there', () => {
    const result = run('crop between marks', { from: 'Refunds' }, sheet);
    expect(result.sheet.rows).toHaveLength(7);
    expect(result.problems![0].expected).toContain('Refunds');
    expect(run('crop between marks', { from: 'End', to: 'After' }, sheet).problems![0].came).toContain(
      'rows to the end passed',
    );
  });
});

describe('carry values', () => {
  it('go up or to the right, and stop where another column changes', () => {
    const sheet = textSheet([
      ['Quay', 'Day', 'A', 'B'],
      ['N', null, '1', null],
      ['N', 'Mon', null, '2'],
      ['S', null, '3', null],
    ]);
    const carried = (settings: object) => plain(run('carry values', settings, sheet).sheet).slice(1);
    expect(carried({ columns: names('Day'), direction: 'up' }).map(([, day]) => day)).toEqual(['Mon', 'Mon', null]);
    expect(carried({ columns: names('Day'), stopAt: 'Quay' }).map(([, day]) => day)).toEqual([null, 'Mon', null]);
    expect(carried({ columns: names('A', 'B'), direction: 'right' }).map(([, , a, b]) => [a, b])).toEqual([
      ['1', '1'],
      [null, '2'],
      ['3', '3'],
    ]);
    expect(run('carry values', { columns: names('Day'), stopAt: 'gone' }, sheet).problems![0].column).toBe('gone');
  });

  it('fills blanks from above, lists them, and stops at the next report', () => {
    const sheet = textSheet(
      [
        ['Day', 'N'],
        ['Mon', '1'],
        [null, '2'],
        [null, '3'],
      ],
      [{}, {}, { report: 'r2' }],
    );
    const result = run('carry values', { columns: names('Day') }, sheet);
    expect(plain(result.sheet).slice(1)).toEqual([
      ['Mon', '1'],
      ['Mon', '2'],
      [null, '3'],
    ]);
    expect(result.overwritten).toEqual([{ column: 'Day', rows: [1], old: [null], why: 'blank: took the value above' }]);
    expect(result.sheet.columns[0].origins[1]).toBe(sheet.columns[0].origins[0]);
  });
});

describe('stamp', () => {
  const sheet = textSheet([['A'], ['1']], [{ page: 2 }]);
  it('reads holes off the file name', () => {
    expect(plain(run('stamp', { from: 'file name', template: 'week-{Week}[-r{Revision}].pdf' }, sheet).sheet)).toEqual([
      ['Week', 'Revision', 'A'],
      ['24', null, '1'],
    ]);
  });

  it('reads holes off the page, and knows the words', () => {
    const of = paper('x.pdf', { 1: ['Landing sheet'], 2: ['Harbour Board', 'Week ending 14 June 2025'] });
    const { sheet: stamped } = run('stamp', { from: 'page text', template: 'Week ending {Ending}' }, sheet, of);
    expect(plain(stamped)).toEqual([
      ['Ending', 'A'],
      ['14 June 2025', '1'],
    ]);
    expect(wordsBehind(stamped, 'Ending', 0)).toEqual(['r1 2:2', 'r1 2:3', 'r1 2:4']);
  });

  it('leaves blanks and names the report when nothing fits', () => {
    const when = run(
      'stamp',
      { from: 'line that says when', column: 'Month' },
      sheet,
      paper('r1.pdf', { 1: ['Harbour report of June', 'June 2025', 'Page 3'] }),
    );
    expect(when.sheet.columns[0]).toMatchObject({ name: 'Month', cells: sheet.rows.map(() => 'June 2025') });
    expect(
      run('stamp', { from: 'line that says when', column: 'Month' }, sheet, paper('r1.pdf', { 1: ['2025'] }))
        .problems![0],
    ).toMatchObject({ report: 'r1', expected: 'a line that says nothing but a date or a period' });
    const result = run('stamp', { from: 'page text', template: 'Month of {Month}' }, sheet);
    expect(result.sheet.columns[0].cells).toEqual([null]);
    expect(result.problems![0]).toMatchObject({ report: 'r1', expected: '“Month of {Month}” in the page text' });
  });

  it('takes the value beside a label, or names the report without it', () => {
    const labelled: Paper['labelled'] = (page, label) =>
      page === 3 && label === 'Note no.:' ? [{ text: 'B-112', page, words: [7], box: [10, 10, 60, 20] }] : [];
    const of: Paper = { ...paper('x.pdf', { 1: [], 3: [] }), labelled };
    const { sheet: stamped } = run('stamp', { from: 'label', label: 'Note no.:' }, sheet, of);
    expect(plain(stamped)).toEqual([
      ['Note no', 'A'],
      ['B-112', '1'],
    ]);
    expect(wordsBehind(stamped, 'Note no', 0)).toEqual(['r1 3:7']);
    expect(run('stamp', { from: 'label', label: 'Flag', side: 'below' }, sheet, of).problems![0]).toMatchObject({
      report: 'r1',
      expected: 'a value under the label “Flag”',
    });
  });

  it('puts the page number on every row', () => {
    expect(plain(run('stamp', { from: 'page', column: 'Page' }, sheet).sheet)).toEqual([
      ['Page', 'A'],
      [2, '1'],
    ]);
  });
});

describe('set types', () => {
  it('brings the first and last day of periods where wanted, and the unit of numbers', () => {
    const sheet = textSheet([
      ['Quarter', 'Landed'],
      ['Q1 2025', '12 kg'],
    ]);
    const { sheet: typed } = run(
      'set types',
      {
        types: [
          { columns: names('Quarter'), type: 'period', days: true },
          { columns: names('Landed'), type: 'integer', unit: 'kg' },
        ],
      },
      sheet,
    );
    expect(plain(typed)).toEqual([
      ['Quarter', 'Quarter first day', 'Quarter last day', 'Landed'],
      ['2025-Q1', '2025-01-01', '2025-03-31', 12],
    ]);
    expect(typed.columns.map(({ type, unit }) => [type, unit])).toEqual([
      ['period', undefined],
      ['date', undefined],
      ['date', undefined],
      ['integer', 'kg'],
    ]);
  });

  it('reads the numbers of each report as that report prints them, all columns of the rule together, and guesses none', () => {
    const types = {
      types: [
        { columns: names('Plan', 'Actual'), type: 'decimal', marks: 'as each report prints them', scale: 'thousands' },
      ],
    };
    const sheet = append([
      textSheet(
        [
          ['Plan', 'Actual'],
          ['1,234', '12.5'],
          ['2,000', '..'],
        ],
        [{ report: 'r1' }, { report: 'r1' }],
      ),
      textSheet(
        [
          ['Plan', 'Actual'],
          ['1.234', '12,5'],
          ['n/k', '0,25'],
        ],
        [{ report: 'r2' }, { report: 'r2' }],
      ),
      textSheet(
        [
          ['Plan', 'Actual'],
          ['1,234', '17'],
        ],
        [{ report: 'r3' }],
      ),
    ]).sheet;
    const { sheet: typed, problems } = run('set types', types, sheet);
    expect(typed.columns[0].cells).toEqual([
      1_234_000,
      2_000_000,
      1_234_000,
      { text: 'n/k', expected: expect.stringMatching(/^a number like/) },
      { text: '1,234', expected: expect.stringMatching(/marks the other numbers of its report tell/) },
    ]);
    expect(typed.columns[1].cells).toEqual([12_500, null, 12_500, 250, 17_000]);
    expect(problems!.map(({ report, came }) => [report, came])).toEqual([
      ['r2', '“n/k”'],
      ['r3', '“1,234”'],
    ]);
  });

  it('turns texts into values and keeps a misfit with its text and reason', () => {
    const sheet = textSheet([
      ['N', 'D'],
      ['1,234', '14 June 2025'],
      ['n/k', '–'],
    ]);
    const types = [
      { columns: names('N'), type: 'integer' },
      { columns: names('D'), type: 'date' },
    ];
    const { sheet: typed, problems } = run('set types', { types }, sheet);
    expect(typed.columns.map((c) => c.type)).toEqual(['integer', 'date']);
    expect(typed.columns[0].cells).toEqual([1234, { text: 'n/k', expected: 'a whole number like 1,234' }]);
    expect(typed.columns[1].cells).toEqual(['2025-06-14', null]);
    expect(problems!.map((p) => p.came)).toEqual(['“n/k”']);
    expect(typed.columns[0].origins).toBe(sheet.columns[0].origins);
  });
});

describe('hold totals over what they cover', () => {
  const rows = [
    ['Item', 'Boxes', 'Value'],
    ['Hake', '3', '120.10'],
    ['Sole', '5', '99.90'],
    ['North', '8', '220.00'],
    ['Crab', '2', '10.00'],
    ['Cod', '1', '5.50'],
    ['South', '3', '15.50'],
    ['All quays', '11', '235.50'],
  ];
  const levels = (result: ReturnType<typeof run>) =>
    result.held?.covers?.map(({ rows: own, level }) => ({ rows: own, level }));

  it('finds the rows that add up, level over level', () => {
    const result = run('hold totals', { arithmetic: true }, textSheet(rows));
    expect(
      plain(result.sheet)
        .slice(1)
        .map(([item]) => item),
    ).toEqual(['Hake', 'Sole', 'Crab', 'Cod']);
    expect(levels(result)).toEqual([
      { rows: [0, 1], level: 1 },
      { rows: [3, 4], level: 1 },
      { rows: [0, 1, 3, 4], level: 2 },
    ]);
    expect(result.held!.reasons[2]).toBe('adds up, covers 4 rows of page 1, adding up to it');
  });

  it('says of no misprinted total that the rows add up to it, but names the column, what is printed and what the rows give', () => {
    for (const [column, printed] of [
      [1, '9'],
      [2, '220.10'],
    ] as const) {
      const misprinted = rows.map((row) =>
        row[0] === 'North' ? row.map((cell, i) => (i === column ? printed : cell)) : row,
      );
      const { held } = run('hold totals', { wording: ['North', 'South', 'All quays'] }, textSheet(misprinted));
      const given = column === 1 ? '8' : '220';
      expect(held!.reasons[0]).toBe(
        `total by wording “North”, covers 2 rows of page 1; “${rows[0][column]}” does not add up: printed ${printed.replace(/0$/, '')}, the rows give ${given}`,
      );
      expect(held!.reasons[1]).toContain('adding up to it');
      expect(held!.covers!.map(({ differs }) => differs)).toEqual([
        [{ column: rows[0][column], printed: Number(printed), computed: Number(given) }],
        [],
        [],
      ]);
    }
  });

  it('goes by place where amounts do not tie', () => {
    const wrong = rows.map((row, i) =>
      i === 0 || !['North', 'South', 'All quays'].includes(row[0]) ? row : [row[0], '9', '9.99'],
    );
    expect(levels(run('hold totals', { wording: ['North', 'South', 'All *'] }, textSheet(wrong)))).toEqual([
      { rows: [0, 1], level: 1 },
      { rows: [3, 4], level: 1 },
      { rows: [0, 1, 3, 4], level: 2 },
    ]);
  });

  it('does not take rows that add up by chance', () => {
    expect(
      run(
        'hold totals',
        { arithmetic: true },
        textSheet([
          ['Item', 'Boxes'],
          ['Hake', '1'],
          ['Sole', '2'],
          ['Crab', '3'],
        ]),
      ).held,
    ).toBeUndefined();
  });

  it('takes what a page carries over for all that came so far, and goes on with the sums that it stands among', () => {
    const carried = [
      ['Item', 'Boxes', 'Value'],
      ['Hake', '3', '120.10'],
      ['North', '3', '120.10'],
      ['Sole', '5', '99.90'],
      ['Carried forward', '8', '220.00'],
      ['Brought forward', '8', '220.00'],
      ['Crab', '2', '10.00'],
      ['South', '7', '109.90'],
      ['Cod', '1', '5.50'],
      ['Übertrag', '11', '235.50'],
      ['Ling', '4', '4.00'],
      ['East', '5', '9.50'],
      ['All quays', '15', '239.50'],
    ];
    const result = run(
      'hold totals',
      { wording: ['North', 'South', 'East', 'All *', '* forward', 'Übertrag'] },
      textSheet(carried),
    );
    expect(
      plain(result.sheet)
        .slice(1)
        .map(([item]) => item),
    ).toEqual(['Hake', 'Sole', 'Crab', 'Cod', 'Ling']);
    const of = result.held!.covers!.map(({ rows: own }, i) => [
      plain(result.held!.rows).slice(1)[i][0],
      own.map((row) => carried[row + 1][0]).join(' '),
    ]);
    expect(of).toEqual([
      ['North', 'Hake'],
      ['Carried forward', 'Hake Sole'],
      ['Brought forward', 'Hake Sole'],
      ['South', 'Sole Crab'],
      ['Übertrag', 'Hake Sole Crab Cod'],
      ['East', 'Cod Ling'],
      ['All quays', 'Hake Sole Crab Cod Ling'],
    ]);
    // One that is misprinted stands for all before it, and moves nothing else.
    const misprinted = carried.map((row) => (row[0] === 'Übertrag' ? ['Übertrag', '11', '253.50'] : row));
    const off = run(
      'hold totals',
      { wording: ['North', 'South', 'East', 'All *', '* forward', 'Übertrag'] },
      textSheet(misprinted),
    );
    expect(off.held!.covers!.flatMap(({ differs }) => differs)).toEqual([
      { column: 'Value', printed: 253.5, computed: 235.5 },
    ]);
  });

  it('ends at each report', () => {
    const sheet = textSheet(
      rows.slice(0, 4).concat(rows.slice(1, 4)),
      [0, 0, 0, 1, 1, 1].map((n) => ({ report: `r${n}` })),
    );
    expect(levels(run('hold totals', { wording: ['North'] }, sheet))).toEqual([
      { rows: [0, 1], level: 1 },
      { rows: [3, 4], level: 1 },
    ]);
  });
});

describe('lift sections by several levels', () => {
  it('tells levels by indent, and ends the inner ones at an outer one', () => {
    const indents = [0, 12, 24, 12, 24, 0, 24];
    const sheet = textSheet(
      [
        ['Item', 'Boxes'],
        ['North coast'],
        ['Saltby'],
        ['Hake', '3'],
        ['Fairlead'],
        ['Sole', '5'],
        ['South coast'],
        ['Crab', '2'],
      ],
      indents.map((indent) => ({ indent })),
    );
    const { sheet: lifted, held } = run(
      'lift sections',
      {
        levels: [
          { into: 'Coast', indent: 'outermost' },
          { into: 'Quay', indent: 'second' },
        ],
      },
      sheet,
    );
    expect(plain(lifted).slice(1)).toEqual([
      ['North coast', 'Saltby', 'Hake', '3'],
      ['North coast', 'Fairlead', 'Sole', '5'],
      ['South coast', null, 'Crab', '2'],
    ]);
    expect(held!.reasons[1]).toBe('section label, carried into Quay');
  });

  it('names the level that no row is of', () => {
    const { problems } = run(
      'lift sections',
      { levels: [{ into: 'Coast', known: 'bold' }, { into: 'Quay' }] },
      textSheet([['Item', 'Boxes'], ['Saltby'], ['Hake', '3']]),
    );
    expect(problems!.map(({ expected }) => expected)).toEqual(['rows that are a section label for Coast']);
  });
});

describe('promote header rows of difficult headings', () => {
  it('leaves a title over all columns out of their names, unless it is all that there is', () => {
    const made = textSheet(
      [
        ['1', '2', '3'],
        ['Arrivals and dues', null, null],
        ['Vessel', 'Tonnes', 'Dues'],
        ['Grey Gull', '12', '3.50'],
      ],
      [{ role: 'heading' }, { role: 'heading' }],
    );
    // Its words stand over each of the columns.
    const spanning = {
      ...made,
      columns: made.columns.map((column) => ({
        ...column,
        origins: column.origins.map((origin, row) => (row === 0 ? made.columns[0].origins[0] : origin)),
      })),
    };
    const { sheet, held } = run('promote header rows', { rows: 2 }, spanning);
    expect(sheet.columns.map(({ name }) => name)).toEqual(['Vessel', 'Tonnes', 'Dues']);
    expect(held!.reasons).toEqual(['a heading over all columns', 'became the column names']);
    expect(run('promote header rows', { rows: 1 }, spanning).sheet.columns[0].name).toBe('Arrivals and dues');
  });

  it('tells doubled names apart by the heading over them, never by a number', () => {
    const sheet = textSheet([
      ['1', '2', '3', '4', '5'],
      ['Item', 'Plan', null, 'Real', null],
      [null, 'Share', 'Weight', 'Share', 'Weight'],
    ]);
    expect(run('promote header rows', { rows: 2, spread: false }, sheet).sheet.columns.map((c) => c.name)).toEqual([
      'Item',
      'Plan Share',
      'Plan Weight',
      'Real Share',
      'Real Weight',
    ]);
    const three = textSheet([
      ['1', '2', '3'],
      ['Share', 'Share', 'Share'],
    ]);
    expect(run('promote header rows', { rows: 1 }, three).sheet.columns.map((c) => c.name)).toEqual([
      'Share',
      'Share after Share',
      'Share after Share after Share',
    ]);
  });

  it('fills blank names', () => {
    expect(
      run(
        'promote header rows',
        { rows: 1, blank: 'Remark' },
        textSheet([
          ['1', '2', '3'],
          ['Item', null, null],
        ]),
      ).sheet.columns.map((c) => c.name),
    ).toEqual(['Item', 'Remark', 'Remark after Remark']);
  });

  it('gives a table without heading the names of the one before, if it has as many columns', () => {
    const declaration = kinds.get('promote header rows')!;
    const settings = v.parse(declaration.settings, {});
    const before = textSheet([
      ['Code', 'Boxes'],
      ['HK1', '3'],
    ]);
    const bare = declaration.run(
      textSheet([
        ['1', '2'],
        ['SL2', '5'],
      ]),
      settings,
      { ...around(), before },
    );
    expect(plain(bare.sheet)).toEqual([
      ['Code', 'Boxes'],
      ['SL2', '5'],
    ]);
    expect(bare.problems ?? []).toEqual([]);
    expect(declaration.run(textSheet([['1'], ['SL2']]), settings, { ...around(), before }).problems).toHaveLength(1);
  });
});

describe('drop noise at the edges of pages', () => {
  it('holds what most pages say there, the same but for digits', () => {
    const rows = [
      ['Harbour Board 1'],
      ['Hake', '3', 'x'],
      ['Sole', '5', 'x'],
      ['Harbour Board 2'],
      ['Crab', '5', 'x'],
      ['Sole', '9', 'x'],
    ];
    const sheet = textSheet(
      [['A', 'B', 'C'], ...rows],
      [1, 1, 1, 2, 2, 2].map((page) => ({ page })),
    );
    const result = run('drop noise', { furniture: true }, sheet);
    expect(
      plain(result.sheet)
        .slice(1)
        .map(([item]) => item),
    ).toEqual(['Hake', 'Sole', 'Crab', 'Sole']);
    expect(result.held!.reasons[0]).toContain('page furniture');
  });

  it('lets an amount pass that stands where the other rows have theirs', () => {
    const rows = [1, 2].flatMap((page) =>
      [
        ['Hake', `${page}7`, '12.50'],
        ['Sole', '5', '9.00'],
        ['To pay', null, '21.50'],
      ].map((cells) => ({ cells, page })),
    );
    const sheet = textSheet(
      [['A', 'B', 'C'], ...rows.map(({ cells }) => cells)],
      rows.map(({ page }) => ({ page })),
    );
    const wide = {
      ...sheet,
      columns: [...sheet.columns, { ...sheet.columns[1], name: 'D' }, { ...sheet.columns[1], name: 'E' }],
    };
    expect(run('drop noise', { furniture: true }, wide).held).toBeUndefined();
  });

  it('holds page furniture in lines of one column only where white space sets it off', () => {
    const lines = (spaced: boolean) => {
      const rows = [1, 2, 3].flatMap(
        (page) =>
          [
            ['Harbour Board', page, false],
            [`Vessel ${page}`, page, spaced],
            ['Valid to: 31 March', page, false],
            [`Page ${page}`, page, spaced],
          ] as const,
      );
      return textSheet(
        [['L'], ...rows.map(([text]) => [text])],
        rows.map(([, page, apart]) => ({ page, spaced: apart })),
      );
    };
    const held = (spaced: boolean) =>
      run('drop noise', { furniture: true, pages: false }, lines(spaced)).held?.rows.columns[0].cells ?? [];
    expect(held(true)).toEqual(['Harbour Board', 'Page 1', 'Harbour Board', 'Page 2', 'Harbour Board', 'Page 3']);
    expect(held(false)).toEqual([]);
  });
});

describe('fold lines by column', () => {
  it('joins, keeps or adds up, and says what could not be added', () => {
    const sheet = textSheet([
      ['Berth', 'Text', 'Agent', 'Hours'],
      ['N4', 'Mooring', 'Tern', 0.1],
      [null, 'by night', 'Quarr', 0.2],
      ['S1', 'Water', null, 'n/k'],
      [null, null, 'Lorton', 4],
    ]);
    const by = [
      { columns: names('Agent'), how: 'kept' },
      { columns: names('Hours'), how: 'added up' },
    ];
    const result = run('fold lines', { keys: names('Berth'), by }, sheet);
    expect(plain(result.sheet).slice(1)).toEqual([
      ['N4', 'Mooring by night', 'Tern', 0.3],
      ['S1', 'Water', 'Lorton', 'n/k'],
    ]);
    expect(result.problems).toMatchObject([{ column: 'Hours', expected: 'numbers to add up', came: '“n/k”' }]);
  });
});

describe('rename by more than a list', () => {
  const sheet = textSheet([
    ['Item', 'Wt 1', 'Wt 2'],
    ['a', '1', '2'],
  ]);
  it('by a pattern, or counted', () => {
    expect(
      run('rename', { patterns: [{ pattern: '^Wt (\\d)$', replace: 'Weight $1' }] }, sheet).sheet.columns.map(
        (c) => c.name,
      ),
    ).toEqual(['Item', 'Weight 1', 'Weight 2']);
    expect(
      run(
        'rename',
        { series: [{ columns: { by: 'all after', name: 'Item' }, name: 'Quarter #', from: 3 }] },
        sheet,
      ).sheet.columns.map((c) => c.name),
    ).toEqual(['Item', 'Quarter 3', 'Quarter 4']);
  });
  it('says what is wrong with a pattern, and keeps two columns from one name', () => {
    expect(run('rename', { patterns: [{ pattern: '(' }] }, sheet).problems![0].expected).toBe('a regular expression');
    const one = run('rename', { patterns: [{ pattern: '^Wt \\d$', replace: 'Weight' }] }, sheet);
    expect(one.sheet.columns.map((c) => c.name)).toEqual(['Item', 'Weight', 'Wt 2']);
    expect(one.problems![0]).toMatchObject({ column: 'Wt 2', expected: 'one column to be named “Weight”' });
  });
});

describe('split column into rows', () => {
  it('repeats the other cells, keeps rows that hold one part or none, and traces the parts', () => {
    const sheet = textSheet([
      ['Vessel', 'Catch'],
      ['Grey Gull', 'hake; sole;'],
      ['Tern', 'crab'],
      ['Heron', null],
    ]);
    const result = run('split column', { column: 'Catch', where: 'at every mark', mark: ';', to: 'rows' }, sheet);
    expect(plain(result.sheet).slice(1)).toEqual([
      ['Grey Gull', 'hake'],
      ['Grey Gull', 'sole'],
      ['Tern', 'crab'],
      ['Heron', null],
    ]);
    expect(result.added).toBe(1);
    expect([...result.sheet.columns[1].origins]).toEqual([1, 1, 101, -1]);
    expect(result.overwritten).toEqual([
      { column: 'Catch', rows: [0, 1], old: ['hake; sole;', 'hake; sole;'], why: 'split into rows' },
    ]);
  });
  it('cuts at a pattern, and after letters counted from either end', () => {
    const cut = (settings: object) =>
      plain(run('split column', { column: 'A', ...settings }, textSheet([['A'], ['HK1/3 - 2025']])).sheet)[1];
    expect(cut({ where: 'at a pattern', pattern: '\\s*[-/]\\s*' })).toEqual(['HK1', '3', '2025']);
    expect(cut({ where: 'at cuts', cuts: [3, -4] })).toEqual(['HK1', '/3 -', '2025']);
  });
});

describe('texts with a * for any text', () => {
  it('take every other mark for itself', () => {
    for (const text of ['Pelham-Rigg', 'a.b (c) [d] {e} $1 ^ | \\\\ / + ?']) {
      expect(wildcard(text).test(text)).toBe(true);
      expect(wildcard(`${text} *`).test(`${text} and more`)).toBe(true);
      expect(wildcard(text).test('another')).toBe(false);
    }
  });
});

describe('conditions', () => {
  const held = (condition: object, sheet: Sheet) =>
    run('sift rows', { conditions: [{ of: { is: 'column', name: 'A' }, ...condition }] }, sheet).held?.rows.rows
      .length ?? 0;
  it('on a list of values, a pattern, a date', () => {
    const sheet = textSheet([['A'], ['Saltby'], ['saltby '], ['Tern'], [null]]);
    expect(held({ test: 'is one of', values: ['Saltby'] }, sheet)).toBe(2);
    expect(held({ test: 'is none of', values: ['Saltby', ''] }, sheet)).toBe(1);
    expect(held({ test: 'has the pattern', value: '^[st].*n$' }, sheet)).toBe(1);
    const dated = textSheet([['A'], ['2025-06-14'], ['2025-07-01'], [null]]);
    const dates: Sheet = { ...dated, columns: dated.columns.map((column) => ({ ...column, type: 'date' as const })) };
    expect(held({ test: 'is above', value: '2025-06-30' }, dates)).toBe(1);
    // A text is no date: it is not compared.
    expect(held({ test: 'is above', value: '2025-06-30' }, dated)).toBe(0);
  });
});
