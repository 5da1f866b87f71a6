import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { exactSum } from '../values/exact';
import { columnNamed, type Column } from '../sheet/column';
import { rowKey } from '../sheet/row';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { around, plain, textSheet, wordsBehind } from '../testing/sheets';
import type { Cell } from '../values/cell';
import { kinds } from './kinds';

const run = (kind: string, sheet: Sheet, settings: Record<string, unknown>) => {
  const declaration = kinds.get(kind)!;
  return declaration.run(sheet, v.parse(declaration.settings, settings), around());
};
const names = (...all: string[]) => ({ by: 'names', names: all });
const typed = (of: Sheet, types: Record<string, Partial<Column>>) =>
  makeSheet(
    of.columns.map((column) => ({ ...column, ...types[column.name] })),
    of.rows,
  );
const came = ({ problems = [] }: { problems?: readonly { came: string }[] }) => problems.map((problem) => problem.came);
const body = (of: Sheet) => plain(of).slice(1);

describe('summarise', () => {
  const landings = typed(
    textSheet([
      ['Quay', 'Species', 'Boxes', 'Day'],
      ['Saltby', 'Hake', 0.1, '2025-06-02'],
      ['Fairlead', 'Ling', 5, '2025-06-01'],
      ['Saltby', 'Sole', 0.2, null],
      ['Saltby', 'Hake', { text: 'n/k', expected: 'a number' }, '2025-05-30'],
    ]),
    { Boxes: { type: 'decimal', unit: 't' }, Day: { type: 'date' } },
  );
  const of = (how: string, column: string, more = {}) =>
    body(
      run('summarise', landings, { by: names('Quay'), values: [{ columns: names(column), how, ...more }] }).sheet,
    ).map((row) => row[1]);

  it('works out sums exactly, and every other way, group by group in the order in which they come', () => {
    expect(of('sum', 'Boxes')).toEqual([0.3, 5]);
    expect(of('mean', 'Boxes')).toEqual([0.15, 5]);
    expect(of('count', 'Boxes')).toEqual([2, 1]);
    expect(of('count of different', 'Species')).toEqual([2, 1]);
    expect([of('least', 'Day'), of('most', 'Day')]).toEqual([
      ['2025-05-30', '2025-06-01'],
      ['2025-06-02', '2025-06-01'],
    ]);
    expect([of('first', 'Species'), of('last', 'Species')]).toEqual([
      ['Hake', 'Ling'],
      ['Hake', 'Ling'],
    ]);
    expect(of('list', 'Species', { joiner: ' / ' })).toEqual(['Hake / Sole / Hake', 'Ling']);
  });

  it('keeps unit and type of what it works out, and names columns by what was done', () => {
    const { sheet } = run('summarise', landings, {
      by: names('Quay'),
      values: [
        { columns: names('Boxes') },
        { columns: names('Boxes'), how: 'count' },
        { columns: names('Day'), how: 'most', into: 'Last day' },
      ],
    });
    expect(sheet.columns.map(({ name, type, unit }) => [name, type, unit])).toEqual([
      ['Quay', 'text', undefined],
      ['Boxes', 'decimal', 't'],
      ['Boxes count', 'integer', undefined],
      ['Last day', 'date', undefined],
    ]);
  });

  it('says what did not count', () => {
    expect(
      came(run('summarise', landings, { by: names('Quay'), values: [{ columns: names('Boxes', 'Day', 'Species') }] })),
    ).toEqual(['1 misfit', '1 blank, 3 texts such as “2025-06-02”', '4 texts such as “Hake”']);
    expect(came(run('summarise', landings, { by: names('gone'), values: [] }))).toEqual([
      'columns “Quay”, “Species”, “Boxes”, “Day”',
    ]);
  });

  it('knows no least and no most of texts, in whose order 9 stands behind 10', () => {
    const printed = textSheet([
      ['Quay', 'Boxes'],
      ['Saltby', '9'],
      ['Saltby', '10'],
    ]);
    const result = run('summarise', printed, { by: names('Quay'), values: [{ columns: names('Boxes'), how: 'most' }] });
    expect([body(result.sheet), came(result)]).toEqual([[['Saltby', null]], ['2 texts such as “9”']]);
  });

  it('traces each result to all of its rows and their words', () => {
    const { sheet } = run('summarise', landings, { by: names('Quay'), values: [{ columns: names('Boxes') }] });
    expect(sheet.rows.sources(0).map(({ ordinal }) => ordinal)).toEqual([0, 2, 3]);
    // A misfit is behind the row, not behind the sum.
    expect(wordsBehind(sheet, 'Boxes', 0)).toEqual(['r1 1:2', 'r1 1:202']);
    expect(wordsBehind(sheet, 'Quay', 0)).toEqual(['r1 1:0', 'r1 1:200', 'r1 1:300']);
  });

  it('makes one row of a hundred thousand, still traced to each', () => {
    const many = typed(textSheet([['A', 'B'], ...Array.from({ length: 100_000 }, (): Cell[] => ['all', 1])]), {
      B: { type: 'integer' },
    });
    const { sheet } = run('summarise', many, { by: names('A'), values: [{ columns: names('B') }] });
    expect([sheet.rows.length, columnNamed(sheet, 'B')!.cells[0]]).toEqual([1, 100_000]);
    expect(sheet.rows.sources(0)).toHaveLength(100_000);
  });

  it('keeps the sum of all, whatever the groups', () => {
    const row = fc.tuple(
      fc.constantFrom('a', 'b', 'c', null),
      fc.integer({ min: -9999, max: 9999 }).map((n) => n / 100),
    );
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 40 }), (rows) => {
        const { sheet } = run('summarise', typed(textSheet([['A', 'B'], ...rows]), { B: { type: 'decimal' } }), {
          by: names('A'),
          values: [{ columns: names('B') }],
        });
        expect(exactSum(columnNamed(sheet, 'B')!.cells as number[])).toBe(exactSum(rows.map(([, value]) => value)));
        expect(sheet.rows.map(sheet.rows.sources).flat().map(rowKey).sort()).toEqual(
          rows.map((_, i) => rowKey({ report: 'r1', table: 'p1t1', ordinal: i })).sort(),
        );
      }),
    );
  });
});

describe('pivot', () => {
  const long = typed(
    textSheet([
      ['Quay', 'Quarter', 'Boxes'],
      ['Saltby', 'Q1', 3],
      ['Saltby', 'Q2', 4],
      ['Saltby', 'q1', 9],
      ['Fairlead', 'Q2', 5],
    ]),
    { Boxes: { type: 'integer', unit: 'boxes' } },
  );
  const by = (meet: string, more = {}) =>
    run('pivot', long, { names: names('Quarter'), values: names('Boxes'), meet, ...more });

  it('never writes one value over another unsaid: two for one place are a problem, added up, or one is held', () => {
    const problem = by('a problem');
    expect(body(problem.sheet)).toEqual([
      ['Saltby', 3, 4],
      ['Fairlead', null, 5],
    ]);
    expect([came(problem), problem.held!.reasons]).toEqual([
      ['another row for “Q1”'],
      ['a value for “Q1” was there before it'],
    ]);
    expect(body(by('added up').sheet)).toEqual([
      ['Saltby', 12, 4],
      ['Fairlead', null, 5],
    ]);
    expect([by('added up').held, came(by('added up'))]).toEqual([undefined, []]);
    const last = by('the last');
    expect([body(last.sheet)[0], last.held!.reasons]).toEqual([
      ['Saltby', 9, 4],
      ['another value for “Q1” came after it'],
    ]);
    expect([body(by('the first').sheet)[0], came(by('the first'))]).toEqual([['Saltby', 3, 4], []]);
  });

  it('keeps the columns expected, in their order, and names a new one as drift', () => {
    const result = by('added up', { expected: ['Q4', 'Q1'] });
    expect(plain(result.sheet)[0]).toEqual(['Quay', 'Q4', 'Q1', 'Q2']);
    expect(result.problems).toMatchObject([{ kind: 'drift', column: 'Q2' }]);
    expect(result.sheet.columns[1]).toMatchObject({ type: 'integer', unit: 'boxes', cells: [null, null] });
  });

  it('traces values to their cells, sums to all of theirs, and columns to the words that name them', () => {
    const { sheet } = by('added up');
    expect(wordsBehind(sheet, 'Q1', 0)).toEqual(['r1 1:2', 'r1 1:202']);
    expect(
      sheet.rows.book.origins
        .places(columnNamed(sheet, 'Q2')!.namedBy!)
        .flatMap(({ words }) => words)
        .sort((a, b) => a - b),
    ).toEqual([101, 301]);
  });

  it('keeps apart what only looks the same when it is joined, and says so', () => {
    const alike = typed(
      textSheet([
        ['Quay', 'Fish', 'Size', 'Boxes'],
        ['Saltby', 'Cod', 'large', 3],
        ['Saltby', 'Cod large', '', 4],
        ['Saltby', '(blank)', '', 1],
        ['Saltby', '', '', 2],
        ['Saltby', 'cod', 'Large', 5],
      ]),
      { Boxes: { type: 'integer' } },
    );
    const result = run('pivot', alike, { names: names('Fish', 'Size'), values: names('Boxes'), meet: 'added up' });
    const [, ...across] = plain(result.sheet)[0];
    expect(new Set(across).size).toBe(4);
    expect(body(result.sheet)).toEqual([['Saltby', 8, 4, 1, 2]]);
    expect(came(result)).toEqual([
      '“Cod” with “large” and “Cod large” with a blank',
      '“(blank)” with a blank and a blank with a blank',
    ]);
  });

  it.each(['the first', 'the last'])('takes as %s one that has a value', (meet) => {
    const blanks = typed(
      textSheet([
        ['Quay', 'Quarter', 'Boxes'],
        ['Saltby', 'Q1', null],
        ['Saltby', 'Q1', 4],
        ['Saltby', 'Q1', null],
      ]),
      { Boxes: { type: 'integer' } },
    );
    const result = run('pivot', blanks, { names: names('Quarter'), values: names('Boxes'), meet });
    expect(body(result.sheet)).toEqual([['Saltby', 4]]);
    expect(result.held!.reasons).toEqual(Array(2).fill('it has no value for “Q1”, and another row has'));
  });

  it('is an error where texts should be added up, and says so', () => {
    const texts = textSheet([
      ['Quay', 'Quarter', 'Boxes'],
      ['Saltby', 'Q1', '3'],
      ['Saltby', 'Q1', '4'],
    ]);
    const result = run('pivot', texts, { names: names('Quarter'), values: names('Boxes'), meet: 'added up' });
    expect(body(result.sheet)).toEqual([['Saltby', { text: '3 + 4', expected: 'numbers to add up' }]]);
    expect(came(result)).toEqual(['“3”']);
  });

  it('gives back the sheet that was unpivoted', () => {
    const amounts = fc.array(
      fc
        .array(fc.option(fc.integer()), { minLength: 3, maxLength: 3 })
        .filter((row) => row.some((cell) => cell !== null)),
      { minLength: 1, maxLength: 12 },
    );
    fc.assert(
      fc.property(amounts, (rows) => {
        const types = Object.fromEntries(['2023', '2024', '2025'].map((name) => [name, { type: 'integer' as const }]));
        const wide = typed(
          textSheet([['Quay', '2023', '2024', '2025'], ...rows.map((row, i) => [`Quay ${i}`, ...row])]),
          types,
        );
        const across = run('unpivot', wide, { columns: { by: 'all but', names: ['Quay'] }, into: 'Year' }).sheet;
        const back = run('pivot', across, {
          names: names('Year'),
          values: names('Value'),
          expected: ['2023', '2024', '2025'],
        });
        expect(plain(back.sheet)).toEqual(plain(wide));
        expect(back.problems).toEqual([]);
      }),
    );
  });
});

describe('transpose', () => {
  it('twice gives the sheet back, with its trace', () => {
    const sheet = textSheet([
      ['Measure', 'Saltby', 'Fairlead'],
      ['Boxes', '3', '5'],
      ['Value', '9.50', null],
    ]);
    const once = run('transpose', sheet, { into: 'Measure' }).sheet;
    expect(wordsBehind(once, 'Boxes', 1)).toEqual(['r1 1:2']);
    expect(plain(run('transpose', once, { into: 'Measure' }).sheet)).toEqual(plain(sheet));
  });

  it('keeps numbers where all are numbers, and refuses more rows than there can be columns', () => {
    const numbers = typed(
      textSheet([
        ['M', 'A', 'B'],
        ['Boxes', 3, 5.5],
      ]),
      { A: { type: 'integer' }, B: { type: 'decimal' } },
    );
    expect(run('transpose', numbers, {}).sheet.columns.map(({ type }) => type)).toEqual(['text', 'decimal']);
    expect(
      body(
        run(
          'transpose',
          typed(
            textSheet([
              ['M', 'A', 'B'],
              ['Boxes', 3, 'x'],
            ]),
            { A: { type: 'integer' } },
          ),
          {},
        ).sheet,
      ),
    ).toEqual([
      ['A', '3'],
      ['B', 'x'],
    ]);
    const long = textSheet([['A', 'B'], ...Array.from({ length: 501 }, (_, i) => [String(i), 'x'])]);
    expect([run('transpose', long, {}).sheet, came(run('transpose', long, {}))]).toEqual([long, ['501 rows']]);
  });
});

describe('stack blocks', () => {
  it('tells blocks by headings that come again, however they were told apart', () => {
    const halves = textSheet([
      ['Code', 'Boxes', 'Code after Boxes', 'Boxes after Code after Boxes'],
      ['HK1', '3', 'LG1', '5'],
      ['SL2', '4', null, null],
    ]);
    const result = run('stack blocks', halves, { sides: names() });
    expect(plain(result.sheet)).toEqual([
      ['Code', 'Boxes'],
      ['HK1', '3'],
      ['LG1', '5'],
      ['SL2', '4'],
    ]);
    expect(result.held!.reasons).toEqual(['blank: this block holds nothing here']);
    expect(body(run('stack blocks', halves, { sides: names(), order: 'block by block' }).sheet)).toEqual([
      ['HK1', '3'],
      ['SL2', '4'],
      ['LG1', '5'],
    ]);
    expect(wordsBehind(result.sheet, 'Boxes', 1)).toEqual(['r1 1:3']);
  });

  it('repeats what belongs to all blocks, and makes a column of the parent heading', () => {
    const days = textSheet([
      ['Hour', 'Mon High', 'Mon Low', 'Tue High'],
      ['06', '4.1', '0.3', '4.4'],
    ]);
    expect(
      plain(run('stack blocks', days, { sides: names('Hour'), by: 'a parent heading', into: 'Day' }).sheet),
    ).toEqual([
      ['Hour', 'Day', 'High', 'Low'],
      ['06', 'Mon', '4.1', '0.3'],
      ['06', 'Tue', '4.4', null],
    ]);
  });

  it('says where there are no blocks, and where their types differ', () => {
    const sheet = textSheet([
      ['Code', 'Boxes'],
      ['HK1', '3'],
    ]);
    expect(run('stack blocks', sheet, { sides: names() })).toMatchObject({
      sheet,
      problems: [{ came: '“Code”, “Boxes”' }],
    });
    const unlike = typed(
      textSheet([
        ['A', 'A 2'],
        [3, 'x'],
      ]),
      { A: { type: 'integer' } },
    );
    const result = run('stack blocks', unlike, { sides: names() });
    expect([body(result.sheet), came(result)]).toEqual([[['3'], ['x']], ['number and text']]);
  });

  it('keeps every value', () => {
    const cells = fc.array(fc.array(fc.constantFrom('1', '2', null), { minLength: 6, maxLength: 6 }), {
      minLength: 1,
      maxLength: 10,
    });
    fc.assert(
      fc.property(cells, fc.constantFrom(1, 2, 3, 4, 5), (rows, size) => {
        const result = run('stack blocks', textSheet([['A', 'B', 'C', 'D', 'E', 'F'], ...rows]), {
          sides: names(),
          by: 'every so many columns',
          columns: size,
        });
        expect(body(result.sheet).flat().filter(Boolean).sort()).toEqual(rows.flat().filter(Boolean).sort());
      }),
    );
  });
});

describe('stacked, then split', () => {
  it('gives the blocks back, value by value with the words behind each', () => {
    const cells = fc.array(fc.tuple(...Array.from({ length: 4 }, () => fc.constantFrom('1', '2', 'x'))), {
      minLength: 2,
      maxLength: 8,
    });
    fc.assert(
      fc.property(cells, (rows) => {
        const sheet = textSheet([['A', 'B', 'C', 'D'], ...rows]);
        const stacked = run('stack blocks', sheet, {
          sides: names(),
          by: 'every so many columns',
          columns: 2,
          order: 'block by block',
        }).sheet;
        const blocks = run('split table', stacked, { where: 'at a row number', row: rows.length + 1 }).parts!;
        expect(blocks.map(body)).toEqual([rows.map(([a, b]) => [a, b]), rows.map(([, , c, d]) => [c, d])]);
        for (const [n, block] of blocks.entries())
          for (const [c, name] of block.columns.entries())
            for (const row of rows.keys())
              expect(wordsBehind(block, name.name, row)).toEqual(
                wordsBehind(sheet, ['A', 'B', 'C', 'D'][2 * n + c], row),
              );
      }),
    );
  });
});

describe('split table', () => {
  const two = textSheet([
    ['1', '2'],
    ['Quay', 'Boxes'],
    ['Saltby', '3'],
    [null, null],
    ['Crane', 'Hours'],
    ['N4', '7'],
  ]);
  const parts = (settings: Record<string, unknown>, sheet = two) =>
    run('split table', sheet, settings).parts!.map((part) => body(part));

  it('falls into parts where white space or a rule sets rows apart; no row is held for it', () => {
    const apart = (mark: object) => textSheet([['1'], ['Quay'], ['Saltby'], ['Crane'], ['N4']], [mark, {}, mark, {}]);
    expect(parts({ where: 'at white space' }, apart({ spaced: true }))).toEqual([
      [['Quay'], ['Saltby']],
      [['Crane'], ['N4']],
    ]);
    expect(parts({ where: 'below rules' }, apart({ ruled: true }))).toEqual([
      [['Quay'], ['Saltby']],
      [['Crane'], ['N4']],
    ]);
    expect(parts({ where: 'below rules' }, apart({ spaced: true }))).toHaveLength(1);
    expect(run('split table', apart({ spaced: true }), { where: 'at white space' }).held).toBeUndefined();
  });

  it('falls into parts at blank rows, which are held, at a row, or where a heading comes again', () => {
    expect(parts({})).toEqual([
      [
        ['Quay', 'Boxes'],
        ['Saltby', '3'],
      ],
      [
        ['Crane', 'Hours'],
        ['N4', '7'],
      ],
    ]);
    expect(run('split table', two, {}).held!.reasons).toEqual(['blank: the table is split here']);
    expect(parts({ where: 'at a row number', row: 4 })).toEqual([
      [
        ['Quay', 'Boxes'],
        ['Saltby', '3'],
        [null, null],
      ],
      [
        ['Crane', 'Hours'],
        ['N4', '7'],
      ],
    ]);
    const again = textSheet([['1'], ['Quay'], ['Saltby'], ['QUAY'], ['Fairlead']]);
    expect(parts({ where: 'where the heading comes again' }, again)).toEqual([
      [['Quay'], ['Saltby']],
      [['QUAY'], ['Fairlead']],
    ]);
  });

  it('puts the text of the splitting row beside the rows of its part, traced to its words', () => {
    const coasts = textSheet([
      ['Quay', 'Boxes'],
      ['North coast', null],
      ['Saltby', '3'],
      ['South coast', null],
      ['Fairlead', '5'],
    ]);
    const result = run('split table', coasts, { where: 'before rows that match', text: '* coast', into: 'Coast' });
    expect(result.parts!.map((part) => body(part))).toEqual([
      [['North coast', 'Saltby', '3']],
      [['South coast', 'Fairlead', '5']],
    ]);
    expect(wordsBehind(result.sheet, 'Coast', 1)).toEqual(['r1 1:200']);
    // Left in its part, nothing is held.
    expect(run('split table', coasts, { where: 'before rows that match', text: '* coast' }).held).toBeUndefined();
  });

  it('has all rows of the sheet in its parts and what it held, in their order', () => {
    const cells = fc.array(fc.constantFrom('x', 'Total', null), { maxLength: 15 });
    fc.assert(
      fc.property(
        cells,
        fc.constantFrom('at blank rows', 'before rows that match', 'after rows that match'),
        fc.constantFrom('', 'Part'),
        (rows, where, into) => {
          const result = run('split table', textSheet([['A'], ...rows.map((cell) => [cell])]), {
            where,
            text: 'Total',
            into,
          });
          expect(result.parts!.flatMap((part) => part.rows.map(part.rows.id)).map(rowKey)).toEqual(
            result.sheet.rows.map(result.sheet.rows.id).map(rowKey),
          );
          expect(result.sheet.rows.length + (result.held?.rows.rows.length ?? 0)).toBe(rows.length);
        },
      ),
    );
  });
});

describe('lines to records', () => {
  const directory = (...lines: (string | null)[]) => textSheet([['Licences'], ...lines.map((line) => [line])]);
  const fields = [
    { into: 'Name', known: 'its place', line: 1 },
    { into: 'Phone', known: 'a label', label: 'Phone:', missing: true },
    { into: 'Berth', known: 'its place', line: -1 },
  ];

  it('names and holds a record with other lines than expected, and shifts nothing into its neighbours', () => {
    const result = run(
      'lines to records',
      directory('Orrin Vale', 'Phone: 1', 'N4', null, 'Mira Quarr', 'Grey Gull', 'S1', null, 'Ada Fell', 'W2'),
      { fields },
    );
    expect(plain(result.sheet)).toEqual([
      ['Name', 'Phone', 'Berth'],
      ['Orrin Vale', '1', 'N4'],
      ['Ada Fell', null, 'W2'],
    ]);
    expect(came(result)).toEqual(['3 lines, 1 too many (“Mira Quarr”)']);
    expect(body(result.held!.rows).flat()).toEqual([null, 'Mira Quarr', 'Grey Gull', 'S1', null]);
  });

  it('that is let pass keeps all of its lines', () => {
    const declaration = kinds.get('lines to records')!;
    const sheet = directory('Mira Quarr', 'Grey Gull', 'S1');
    const result = declaration.run(sheet, v.parse(declaration.settings, { fields }), {
      ...around(),
      letPass: () => true,
    });
    expect(body(result.sheet).flat().join(' ')).toContain('Grey Gull');
    expect(result.held).toBeUndefined();
  });

  it('begins a record where a line matches, and lets one go on over the page', () => {
    const pages = textSheet(
      [['L'], ['No. 12'], ['Orrin Vale'], ['N4'], ['No. 13'], ['Mira Quarr'], ['S1']],
      [{ page: 1 }, { page: 1 }, { page: 2 }, { page: 2 }, { page: 2 }, { page: 2 }],
    );
    const result = run('lines to records', pages, {
      begins: 'where a line matches',
      text: 'No. *',
      fields: [{ into: 'No', known: 'a label', label: 'No.' }, ...fields.filter(({ known }) => known === 'its place')],
    });
    expect(body(result.sheet)).toEqual([
      ['12', 'Orrin Vale', 'N4'],
      ['13', 'Mira Quarr', 'S1'],
    ]);
    expect(wordsBehind(result.sheet, 'Berth', 0)).toEqual(['r1 1:200']);
    expect(result.sheet.rows.sources(0)).toHaveLength(3);
  });

  it('begins a record after white space, or below a rule, as after a blank line', () => {
    const texts = ['Orrin Vale', 'N4', 'Mira Quarr', 'S1'];
    const printed = (mark: object) => textSheet([['L'], ...texts.map((text) => [text])], [{}, {}, mark, {}]);
    const placed = fields.filter(({ known }) => known === 'its place');
    expect(body(run('lines to records', printed({ spaced: true }), { fields: placed }).sheet)).toEqual([
      ['Orrin Vale', 'N4'],
      ['Mira Quarr', 'S1'],
    ]);
    expect(
      body(run('lines to records', printed({ ruled: true }), { begins: 'below a rule', fields: placed }).sheet),
    ).toEqual([
      ['Orrin Vale', 'N4'],
      ['Mira Quarr', 'S1'],
    ]);
    // Without such a mark it is one record, which is too long, and held.
    expect(run('lines to records', printed({}), { fields: placed }).held!.rows.rows.length).toBe(4);
  });

  it('takes a list of any length in, and says which label is lacking', () => {
    const some = [
      { into: 'Name', known: 'its place', line: 1 },
      { into: 'Vessels', known: 'all other lines' },
      { into: 'Phone', known: 'a label', label: 'phone:' },
    ];
    const result = run(
      'lines to records',
      directory('A', 'v1', 'v2', 'v3', 'Phone: 1', null, 'B', 'PHONE: 2', null, 'C', 'v4'),
      { fields: some },
    );
    expect(body(result.sheet)).toEqual([
      ['A', 'v1; v2; v3', '1'],
      ['B', null, '2'],
    ]);
    expect(came(result)).toEqual(['no line that begins with “phone:” (“C”)']);
  });

  it('has every line in a record or held, whatever stands there', () => {
    const lines = fc.array(fc.constantFrom('Name', 'Phone: 1', 'x', null), { maxLength: 20 });
    fc.assert(
      fc.property(
        lines,
        fc.constantFrom('after a blank line', 'below a rule', 'where a line matches', 'every so many lines'),
        (all, begins) => {
          const sheet = directory(...all);
          const result = run('lines to records', sheet, { begins, text: 'Name', fields });
          const words = (of: Sheet) =>
            of.columns.flatMap((column) =>
              [...column.cells.keys()].flatMap((row) => wordsBehind(of, column.name, row)),
            );
          expect([...words(result.sheet), ...(result.held ? words(result.held.rows) : [])].sort()).toEqual(
            words(sheet).sort(),
          );
        },
      ),
    );
  });
});
