import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { around, paper, textSheet } from '../testing/sheets';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { conditionAsFormula, conditionFromFormula } from './condition-formula';
import { testOf, type Condition } from './conditions';
import { kinds } from './kinds';

const { papers } = around({
  ...paper('quays/week-24.pdf'),
  title: () => ({ text: 'Fishing berths', page: 1, words: [] }),
});
const on = (
  name: string,
  test: Condition['test'],
  value: Condition['value'] = '',
  values: string[] = [],
): Condition => ({ of: { is: 'column', name }, test, value, values });
const columns = [
  { name: 'Quay', type: 'text' as const },
  { name: 'Value "n"', type: 'decimal' as const },
  { name: 'Day', type: 'date' as const },
];

const texts = ['Saltby', 'SALTBY north', 'by', "it's", '', null, 'Tern Point '];
const numbers = [1, -2.5, 0, null, 10];
function sheetOf(rows: readonly (readonly [string | null, number | null, string | null])[]): Sheet {
  const made = textSheet([['Quay', 'Value "n"', 'Day'], ...rows.map(() => [null, null, null])]);
  return makeSheet(
    made.columns.map((column, c) => ({ ...column, type: columns[c].type, cells: rows.map((row) => row[c]) })),
    made.rows,
  );
}
const row = fc.tuple(
  fc.constantFrom(...texts),
  fc.constantFrom(...numbers),
  fc.constantFrom('2025-01-31', '2024-12-31', null),
);
const condition = fc.oneof(
  fc
    .tuple(
      fc.constantFrom('is', 'is not', 'contains', 'starts with', 'is blank', 'is filled'),
      fc.constantFrom('saltby', 'BY', "it's", 'Tern'),
    )
    .map(([test, value]) =>
      on('Quay', test as Condition['test'], test.startsWith('is ') && !test.endsWith('not') ? '' : value),
    ),
  fc
    .tuple(fc.constantFrom('is one of', 'is none of'), fc.subarray(['Saltby', 'BY', 'Tern Point'], { minLength: 1 }))
    .map(([test, values]) => on('Quay', test as Condition['test'], '', values)),
  fc
    .tuple(fc.constantFrom('is at least', 'is at most', 'is above', 'is below'), fc.constantFrom(0, -2.5, 10))
    .map(([test, value]) => on('Value "n"', test as Condition['test'], value)),
  fc
    .tuple(fc.constantFrom('is at least', 'is below'), fc.constantFrom('2025-01-01', '2024-12-31'))
    .map(([test, value]) => on('Day', test as Condition['test'], value)),
);
const asked = (sheet: Sheet, of: Condition): boolean[] => {
  const test = testOf(sheet, of, papers);
  if (typeof test !== 'function') throw new Error(JSON.stringify(test));
  return sheet.rows.map(test);
};

describe('a condition opened as a formula', () => {
  it('matches the same rows, and goes back into the form as it was', () => {
    fc.assert(
      fc.property(condition, fc.array(row, { minLength: 1, maxLength: 8 }), (of, rows) => {
        const formula = conditionAsFormula(of, columns)!;
        const sheet = sheetOf(rows);
        expect(asked(sheet, { ...of, of: { is: 'formula', formula } }), formula).toEqual(asked(sheet, of));
        const back = conditionFromFormula(formula)!;
        expect(back).toMatchObject({ of: of.of, test: of.test });
        expect(conditionAsFormula(back, columns)).toBe(formula);
        expect(asked(sheet, back)).toEqual(asked(sheet, of));
      }),
    );
  });

  it('is written as people write it', () => {
    expect(conditionAsFormula(on('Value "n"', 'is at least', 5), columns)).toBe('"Value ""n""" >= 5');
    expect(conditionAsFormula(on('Quay', 'is one of', '', ['Saltby', "it's"]), columns)).toBe(
      "btrim(lower(\"Quay\")) in ('saltby', 'it''s')",
    );
    expect(
      conditionAsFormula({ of: { is: 'mark', name: 'page' }, test: 'is above', value: 2, values: [] }, columns),
    ).toBe('report.page > 2');
  });

  it('is not opened where no formula says the same, and says no more than the form can', () => {
    for (const of of [
      on('Quay', 'is a misfit'),
      on('Quay', 'has the pattern', '^a'),
      on('Quay', 'is', ''),
      on('Value "n"', 'contains', '5'),
      { of: { is: 'mark' as const, name: 'bold' as const }, test: 'is' as const, value: 'true', values: [] },
    ])
      expect(conditionAsFormula(of, columns)).toBeUndefined();
    for (const text of [
      '"Quay" = \'Saltby\' and true',
      "\"Quay\" || 'x' = 'y'",
      'not "Quay" is null',
      '1 +',
      '"Value" > "Other"',
      'lower("Quay") in (\'a\', "Quay")',
    ])
      expect(conditionFromFormula(text)).toBeUndefined();
  });
});

describe('a condition by a formula', () => {
  const sheet = sheetOf([
    ['Saltby', 10, null],
    ['by', 0, null],
    [null, null, null],
  ]);
  const problemOf = (formula: string) => {
    const test = testOf(sheet, { of: { is: 'formula', formula }, test: 'is', value: '', values: [] }, papers);
    if (typeof test === 'function') throw new Error('It can be asked.');
    return test;
  };

  it('is true, and neither false nor blank', () => {
    expect(
      asked(sheet, {
        of: { is: 'formula', formula: 'length("Quay") < 5 or "Value ""n""" > 5' },
        test: 'is',
        value: '',
        values: [],
      }),
    ).toEqual([true, true, false]);
  });

  it('asks for what only the paper says, which its step then needs', () => {
    const by = (formula: string): Condition => ({ of: { is: 'formula', formula }, test: 'is', value: '', values: [] });
    expect(asked(sheet, by('report."file name" like \'week-24%\''))).toEqual([true, true, true]);
    expect(asked(sheet, by('report."table title" = \'Fishing berths\' and "Quay" is null'))).toEqual([
      false,
      false,
      true,
    ]);
    const conditions = [by('report."file name" = \'a\''), by('report."table title" is null')];
    for (const [kind, settings] of [
      ['sift rows', { conditions }],
      ['find and replace', { where: conditions }],
      ['close gaps', { where: conditions }],
    ] as const)
      expect(kinds.get(kind)!.needs(settings)).toEqual(['file name', 'page text']);
  });

  it('holds and passes nothing where it has no value, is no condition, or a column is gone', () => {
    expect(problemOf('1 / "Value ""n""" > 0')).toMatchObject({
      came: '“division by zero” in 1 of 3 rows',
      remedy: expect.stringContaining('case or nullif'),
    });
    expect(problemOf('"Value ""n""" * 2')).toMatchObject({ expected: 'a formula that is true or false' });
    expect(problemOf('"Boxes" > 2')).toMatchObject({ column: 'Boxes', expected: 'a column “Boxes”' });
    expect(problemOf('')).toMatchObject({ came: 'none' });
  });
});
