import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { sentence } from '../sheet/problem';
import type { Sheet } from '../sheet/sheet';
import { textSheet } from '../testing/sheets';
import type { Cell } from '../values/cell';
import { check, checkSentence, type Check } from './check';
import { Reconciliation, reconciledWords, type AgreesWith, type RowHere } from './reconcile';
import { factsOf, proposedChecks } from './propose';
import { statedNumbers } from './printed-count';
import { runChecks } from './run-checks';

const sheetOf = (rows: readonly (readonly Cell[])[]): Sheet => {
  const made = textSheet(rows);
  return {
    ...made,
    columns: made.columns.map((column) => ({
      ...column,
      type: column.cells.some((cell) => typeof cell === 'number') ? 'decimal' : 'text',
    })),
  };
};
const checkOf = (settings: object): Check => v.parse(check, { id: 'c', ...settings });
const paperOf = (...pages: readonly (readonly string[])[]) => ({
  path: 'quays/week-24.pdf',
  title: () => ({ text: 'Landed' }),
  pages: pages.map((_, n) => n + 1),
  lines: (page: number) => pages[page - 1].map((text) => ({ text })),
});
const noPaper = paperOf();
const failing = (settings: object, sheet: Sheet, paper = noPaper) =>
  runChecks([checkOf(settings)], sheet, 'r1', paper).map(({ came, row, column, more }) => [
    came,
    row?.ordinal,
    column,
    ...(more ? [more] : []),
  ]);

const landed = sheetOf([
  ['Code', 'Species', 'Kept', 'Sold', 'Boxes', 'Price', 'Value', 'Quay'],
  ['HK1', 'Hake', 3, 7, 10, 1.25, 12.5, 'North'],
  ['SL2', 'Sole', 2, 6, 8, 3.33, 26.64, 'West'],
  ['CD3', 'Cod', 0.1, 0.2, 0.3, 7, 2.1, 'North'],
  ['LG4', null, 5, 4, 9, 2.5, 22.5, 'West'],
]);

describe('a check', () => {
  it.each<[object, unknown[][]]>([
    [{ kind: 'rows', least: 4, most: 4 }, []],
    [{ kind: 'rows', least: 5 }, [['4 rows', undefined, undefined]]],
    [{ kind: 'unique', columns: ['Code'] }, []],
    [
      { kind: 'unique', columns: ['Quay'] },
      [
        ['“North” again', 2, 'Quay'],
        ['“West” again', 3, 'Quay'],
      ],
    ],
    [{ kind: 'unique', columns: ['Quay', 'Code'] }, []],
    [{ kind: 'filled', columns: ['Code', 'Species'] }, [['a blank', 3, 'Species']]],
    [{ kind: 'range', column: 'Boxes', least: 0, most: 10 }, []],
    [
      { kind: 'range', column: 'Boxes', least: 1, most: 9 },
      [
        ['10', 0, 'Boxes'],
        ['0.3', 2, 'Boxes'],
      ],
    ],
    [{ kind: 'allowed', column: 'Quay', values: ['North', 'West'] }, []],
    [{ kind: 'allowed', column: 'Quay', values: ['North'] }, [['“West”', 1, 'Quay', 1]]],
    [{ kind: 'formula', formula: 'round("Boxes" * "Price", 2) = "Value"' }, []],
    [{ kind: 'formula', formula: '"Boxes" > 1 or "Quay" = \'West\'' }, [['Boxes 0.3, Quay “North”', 2, 'Boxes']]],
    [
      { kind: 'formula', formula: 'length("Species") < 4' },
      [
        ['Species “Hake”', 0, 'Species'],
        ['Species “Sole”', 1, 'Species'],
      ],
    ],
    [
      { kind: 'formula', formula: '10 / ("Boxes" - 8) > 0 and "Species" is not null' },
      [
        ['division by zero', 1, 'Boxes'],
        ['Boxes 0.3, Species “Cod”', 2, 'Boxes'],
        ['Boxes 9, Species blank', 3, 'Boxes'],
      ],
    ],
    [{ kind: 'formula', formula: '"Weight" > 0' }, [['no such column', undefined, 'Weight']]],
    [{ kind: 'formula', formula: '"Boxes" + 1' }, [['a formula that is neither true nor false', undefined, undefined]]],
    [
      { kind: 'formula', formula: '"Boxes" > "Quay"' },
      [
        [
          expect.stringContaining('a formula that cannot be worked out: A number and a text cannot be compared'),
          undefined,
          undefined,
        ],
      ],
    ],
    [{ kind: 'formula', formula: 'sum("Boxes") over () < 30' }, []],
    [
      {
        kind: 'formula',
        formula:
          'report."file name" = \'week-24.pdf\' and report."table title" = \'Landed\' and report.page = 1 and report.row < 4',
      },
      [['false', 3, undefined]],
    ],
    [{ kind: 'sum', columns: ['Kept', 'Sold'], is: 'Boxes' }, []],
    [
      { kind: 'sum', columns: ['Kept', 'Boxes'], is: 'Sold' },
      [
        ['7, worked out it is 13', 0, 'Sold'],
        ['6, worked out it is 10', 1, 'Sold'],
        ['0.2, worked out it is 0.4', 2, 'Sold', 1],
      ],
    ],
    [{ kind: 'product', columns: ['Boxes', 'Price'], is: 'Value' }, []],
    [{ kind: 'adds up to', column: 'Sold', is: 17.2 }, []],
    [
      { kind: 'adds up to', column: 'Sold', is: 100, by: ['Quay'] },
      [
        ['7.2 for “North”', 0, 'Sold'],
        ['10 for “West”', 1, 'Sold'],
      ],
    ],
    [{ kind: 'filled', columns: ['Gone'] }, [['no such column', undefined, 'Gone']]],
  ])('%j', (settings, failures) => expect(failing(settings, landed)).toEqual(failures));

  it('adds up to what a stamped total states, to the last digit', () => {
    const stated = sheetOf([
      ['Boxes', 'Value', 'Total boxes', 'Total value'],
      [3, 1.2, 12, 3.6],
      [4, 0.1, 12, 3.6],
      [5, 2.3, 12, 3.6],
    ]);
    expect(failing({ kind: 'stated sum', column: 'Boxes', is: 'Total boxes' }, stated)).toEqual([]);
    expect(failing({ kind: 'stated sum', column: 'Value', is: 'Total value' }, stated)).toEqual([]);
    expect(failing({ kind: 'stated sum', column: 'Boxes', is: 'Total value' }, stated)).toEqual([
      ['12, where 3.6 is stated', 0, 'Total value'],
    ]);
    expect(
      failing(
        { kind: 'stated sum', column: 'Boxes', is: 'Total boxes' },
        sheetOf([
          ['Boxes', 'Total boxes'],
          [3, 12],
          [8, 12],
        ]),
      ),
    ).toEqual([['11, where 12 is stated', 0, 'Total boxes']]);
    expect(
      failing(
        { kind: 'stated sum', column: 'Boxes', is: 'Total boxes' },
        sheetOf([
          ['Boxes', 'Total boxes'],
          [3, 11],
          [8, null],
        ]),
      ),
    ).toEqual([['11, where blank is stated', 1, 'Total boxes']]);
    const all = proposedChecks(
      [stated, stated, stated].map((each) => factsOf(each, noPaper)),
      [],
    ).map(({ check: each }) => checkSentence(each));
    expect(all).toEqual(
      expect.arrayContaining([
        '“Boxes” adds up to what “Total boxes” states',
        '“Value” adds up to what “Total value” states',
      ]),
    );
  });

  it('counts the rows that lines of the paper state: together, or each where all say the same', () => {
    const entries = { kind: 'printed count', line: '{n} entries' };
    expect(failing(entries, landed, paperOf(['4 entries']))).toEqual([]);
    expect(failing(entries, landed, paperOf(['1 of 2', '3 entries'], ['1 entries']))).toEqual([]);
    expect(failing(entries, landed, paperOf(['4 entries'], ['4 entries']))).toEqual([]);
    expect(failing(entries, landed, paperOf(['5 entries']))).toEqual([
      ['4 rows, where 5 are stated', undefined, undefined],
    ]);
    expect(failing(entries, landed, paperOf(['3 entries'], ['3 entries']))).toEqual([
      ['4 rows, where 6 are stated', undefined, undefined],
    ]);
    expect(failing(entries, landed, paperOf(['4 boxes']))).toEqual([
      ['4 rows, and no such line', undefined, undefined],
    ]);
    expect(failing(entries, sheetOf([['Code'], ['A1']]), paperOf(['1 entry']))).toEqual([]);
    expect(runChecks([checkOf(entries)], landed, 'r1', paperOf(['Landings'], ['5 entries']))[0].page).toBe(2);
    expect(() => checkOf({ kind: 'printed count', line: 'entries' })).toThrow(/\{n\} entries/);
  });

  it.each<[string, [string, number][]]>([
    ['128 entries', [['{n} entries', 128]]],
    ['Number of invoices: 1,204', [['Number of invoices: {n}', 1204]]],
    ['Anzahl Posten: 1.204', [['Anzahl Posten: {n}', 1204]]],
    ['1 204 lignes', [['{n} lignes', 1204]]],
    ['Page 1 of 3', []],
    ['Week ending 12.07.2026', []],
    ['Total 12.50', []],
    ['Share 12 %', []],
    ['Berth B12', []],
    ['17', []],
  ])('of “%s” it reads %j', (text, found) =>
    expect(statedNumbers(paperOf([text])).map(({ form, says }) => [form, says])).toEqual(found),
  );

  it('follows a running balance line by line, and counts the rows that the paper states', () => {
    const statement = sheetOf([
      ['In', 'Out', 'Balance', 'Entries'],
      [null, null, 100, 5],
      [50, null, 150, 5],
      [null, 20.1, 129.9, 5],
      [null, 9.9, 130, 5],
      [1, null, 131, 5],
    ]);
    expect(failing({ kind: 'balance', balance: 'Balance', plus: ['In'], minus: ['Out'] }, statement)).toEqual([
      ['130, from the line before it is 120', 3, 'Balance'],
    ]);
    expect(failing({ kind: 'stated rows', column: 'Entries' }, statement)).toEqual([]);
    expect(failing({ kind: 'stated rows', column: 'In' }, statement)).toEqual([
      ['5 rows, where nothing is stated', 0, 'In'],
    ]);
  });

  it('of dates goes by the calendar, and a misfit or blank is not told twice', () => {
    const sheet = sheetOf([['Day'], ['2025-03-01'], [null], [{ text: 'soon', expected: 'a date' }], ['2024-12-31']]);
    expect(failing({ kind: 'range', column: 'Day', least: '2025-01-01' }, sheet)).toEqual([['“2024-12-31”', 3, 'Day']]);
  });

  it('is a sentence that leads to row, cell and page', () => {
    const [problem] = runChecks([checkOf({ kind: 'filled', columns: ['Species'] })], landed, 'r1', noPaper);
    expect(problem).toMatchObject({
      kind: 'check',
      check: 'c',
      report: 'r1',
      page: 1,
      row: { report: 'r1', table: 'p1t1', ordinal: 3 },
    });
    expect(sentence(problem)).toBe(
      'r1, page 1, column “Species”: expected what is checked: “Species” is never blank, got a blank. Look at the cell and its paper; where the paper is right, change the check.',
    );
    expect(checkSentence(checkOf({ kind: 'unique', columns: ['Quay', 'Code'], over: 'dataset' }))).toBe(
      '“Quay” and “Code” together are unique in the dataset',
    );
    expect(checkSentence(checkOf({ kind: 'range', column: 'Boxes', least: 0 }))).toBe('“Boxes” is at least 0');
  });
});

describe('a dataset beside a list', () => {
  const list = {
    name: 'ledger.csv',
    rows: 5,
    columns: [
      { name: 'key', type: 'text' as const, cells: ['HK1', '007', 'SL2', 'SL2', 'ZZ9'] },
      { name: 'Amount', type: 'text' as const, cells: ['1,200.50', '7', '3', '4', '1'] },
    ],
  };
  const comparing = checkOf({
    kind: 'agrees with',
    from: { is: 'file', name: 'ledger.csv' },
    keys: [{ column: 'Code', of: 'key' }],
    columns: [{ column: 'Value', of: 'amount' }],
  }) as AgreesWith;
  const reconciled = (check: AgreesWith, rows: readonly RowHere[], with_: typeof list) => {
    const comparing = new Reconciliation(check, with_);
    // In pieces, as the database gives them.
    comparing.add(rows.slice(0, 2));
    comparing.add(rows.slice(2));
    return comparing.end();
  };
  const here = (rows: readonly (readonly [Cell, Cell])[]): RowHere[] =>
    rows.map(([key, value], row) => ({ row, keys: [key], cells: [value] }));

  it('names what only one has, what is different by how much, and what is there twice', () => {
    const compared = reconciled(
      comparing,
      here([
        ['HK1', '1200.5'],
        ['007', '7.25'],
        ['7', '7'],
        ['SL2', '3'],
        ['HK1', '1200.5'],
        [null, '5'],
      ]),
      list,
    );
    expect(compared.unlike).toEqual([
      { kind: 'twice there', key: 'SL2' },
      { kind: 'differs', key: '007', row: 1, column: 'Value', here: '7.25', there: '7', by: 0.25 },
      { kind: 'only here', key: '7', row: 2 },
      { kind: 'twice here', key: 'HK1', row: 4 },
      { kind: 'only here', key: '(blank)', row: 5 },
      { kind: 'only there', key: 'ZZ9' },
    ]);
    expect(reconciledWords(compared)).toBe(
      '2 only here, 1 only there, 1 different, 1 twice here, 1 twice there; 2 agree',
    );
  });

  it('says nothing where they agree, and what the list lacks', () => {
    const small = { ...list, rows: 1 };
    expect(reconciledWords(reconciled(comparing, here([['HK1', 1200.5]]), small))).toBeUndefined();
    expect(reconciledWords(reconciled(comparing, [], { ...list, columns: list.columns.slice(0, 1) }))).toBe(
      'the list has no column “amount”',
    );
    expect(checkSentence(comparing)).toBe('The dataset agrees with “ledger.csv” in “Value”, by “Code”');
  });
});

describe('checks are proposed', () => {
  const proposed = (sheets: readonly Sheet[], there: readonly Check[] = []) =>
    proposedChecks(
      sheets.map((each) => factsOf(each, noPaper)),
      there,
    ).map(({ check: each, reports }) => `${checkSentence(each)}: ${reports}`);
  const rows = landed.rows.length;

  it('from what holds in all reports so far', () => {
    expect(rows).toBe(4);
    const all = proposed([landed, landed, landed]);
    expect(all).toContain('“Code” is unique in each report: 3');
    expect(all).toContain('“Kept” and “Sold” add up to “Boxes”: 3');
    expect(all).toContain('“Boxes” times “Price” is “Value”: 3');
    expect(all).toContain('“Code”, “Kept”, “Sold”, “Boxes”, “Price”, “Value” and “Quay” are never blank: 3');
    expect(all).toContain('“Boxes” is at least 0: 3');
    expect(all.some((each) => each.includes('“Species”'))).toBe(false);
    expect(all.some((each) => each.startsWith('“Quay” is unique'))).toBe(false);
  });

  it('not where one report breaks it, nor again where it is kept', () => {
    const other = sheetOf([
      ['Code', 'Boxes'],
      ['HK1', -1],
      ['HK1', null],
      ['SL2', 4],
      ['CD3', 5],
    ]);
    const all = proposed([landed, other, landed]);
    expect(all.filter((each) => /^“(?:Code|Boxes)” is/.test(each))).toEqual(['“Code” is never blank: 3']);
    const [{ check: first }] = proposedChecks(
      [landed, landed, landed].map((each) => factsOf(each, noPaper)),
      [],
    );
    expect(proposed([landed, landed, landed], [first])).not.toContain(`${checkSentence(first)}: 3`);
  });

  it('for balances, shares and stated counts', () => {
    const statement = sheetOf([
      ['In', 'Out', 'Balance', 'Entries', 'Share'],
      [null, null, 100, 5, 20],
      [50, null, 150, 5, 33.3],
      [null, 20, 130, 5, 33.3],
      [null, 10, 120, 5, 0.5],
      [1, null, 121, 5, 12.9],
    ]);
    const all = proposed([statement, statement, statement]);
    expect(all.slice(0, 3)).toEqual([
      '“Balance” is the one before plus “In” less “Out”: 3',
      'A report has as many rows as “Entries” states: 3',
      '“Share” adds up to 100: 3',
    ]);
  });

  it('for lines of the paper that state how many rows there are, where not all have as many', () => {
    const few = sheetOf([['Code'], ['A1'], ['B2']]);
    const facts = [
      factsOf(landed, paperOf(['Landings', 'Week 28', '4 entries'])),
      factsOf(few, paperOf(['Landings', 'Week 29', '2 entries'])),
      factsOf(landed, paperOf(['Landings', 'Week 30', '4 entries'])),
    ];
    expect(proposedChecks(facts, []).map(({ check: each }) => checkSentence(each))).toContain(
      'A report has as many rows as its line “{n} entries” states',
    );
    const alike = proposedChecks([facts[0], facts[2], facts[2]], []).map(({ check: each }) => each.kind);
    expect(alike).not.toContain('printed count');
    expect(
      proposedChecks([...facts, factsOf(few, paperOf(['3 entries']))], []).map(({ check: each }) => each.kind),
    ).not.toContain('printed count');
  });

  it('for two columns that make a key together where neither does alone', () => {
    const sheet = sheetOf([
      ['Quay', 'Code'],
      ['North', 'HK1'],
      ['North', 'SL2'],
      ['West', 'HK1'],
    ]);
    expect(proposed([sheet, sheet, sheet])).toContain('“Quay” and “Code” together are unique in each report: 3');
  });

  it('each of which holds in the reports that it is proposed from', () => {
    const all = proposedChecks(
      [landed, landed, landed].map((each) => factsOf(each, noPaper)),
      [],
    );
    expect(all.length).toBeGreaterThan(6);
    expect(
      runChecks(
        all.map(({ check: each }) => each),
        landed,
        'r1',
        noPaper,
      ),
    ).toEqual([]);
  });
});
