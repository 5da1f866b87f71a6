import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { around, paper, plain, textSheet, wordsBehind } from '../testing/sheets';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import type { Cell } from '../values/cell';
import { followed, namesChanged } from './follow-names';
import { kinds, stepSchema, type Step } from './kinds';

const declaration = kinds.get('compute column')!;
const settingsOf = (...columns: object[]) => v.parse(declaration.settings, { columns }) as Record<string, unknown>;
const run = (sheet: Sheet, ...columns: object[]) => declaration.run(sheet, settingsOf(...columns), around(paper()));
function numbers(sheet: Sheet, ...names: string[]): Sheet {
  return makeSheet(
    sheet.columns.map((column) =>
      names.includes(column.name)
        ? {
            ...column,
            type: 'decimal' as const,
            cells: column.cells.map((cell): Cell => (cell === null ? null : Number(cell))),
          }
        : column,
    ),
    sheet.rows,
  );
}
const landings = () =>
  numbers(
    textSheet([
      ['Quay', 'Whole', 'Price', 'Value'],
      ['Saltby', '12', '2.5', '30'],
      ['Fairlead', '4', '0', '0'],
      [null, null, '3', '9'],
    ]),
    'Whole',
    'Price',
    'Value',
  );

describe('compute column', () => {
  it('puts columns behind the others, of which each may use those before it', () => {
    const { sheet, problems } = run(
      landings(),
      { into: 'Reckoned', formula: 'round("Whole" * "Price", 2)', unit: 'EUR' },
      { into: 'Off', formula: '"Value" - "Reckoned"' },
      { into: 'Fits', formula: '"Off" = 0' },
    );
    expect(problems).toEqual([]);
    expect(plain(sheet).map((row) => row.slice(4))).toEqual([
      ['Reckoned', 'Off', 'Fits'],
      [30, 0, true],
      [0, 0, true],
      [null, null, null],
    ]);
    expect(sheet.columns.slice(4).map(({ type, unit }) => [type, unit])).toEqual([
      ['decimal', 'EUR'],
      ['decimal', undefined],
      ['boolean', undefined],
    ]);
  });

  it('writes a column anew that is there, and lists every cell that it overwrote', () => {
    const { sheet, overwritten } = run(landings(), { into: 'quay', formula: 'coalesce(upper("Quay"), \'?\')' });
    expect(plain(sheet)[0]).toEqual(['Quay', 'Whole', 'Price', 'Value']);
    expect(sheet.columns[0].cells).toEqual(['SALTBY', 'FAIRLEAD', '?']);
    expect(overwritten).toEqual([
      { column: 'Quay', rows: [0, 1, 2], old: ['Saltby', 'Fairlead', null], why: 'worked out' },
    ]);
  });

  it('traces each result to the words of all columns that it uses', () => {
    const { sheet } = run(
      landings(),
      { into: 'Reckoned', formula: '"Whole" * "Price"' },
      { into: 'Same', formula: '"Price"' },
      { into: 'None', formula: '1' },
    );
    expect(wordsBehind(sheet, 'Reckoned', 0)).toEqual([
      ...wordsBehind(sheet, 'Whole', 0),
      ...wordsBehind(sheet, 'Price', 0),
    ]);
    expect(wordsBehind(sheet, 'Same', 0)).toEqual(wordsBehind(sheet, 'Price', 0));
    expect(wordsBehind(sheet, 'None', 0)).toEqual([]);
  });

  it('has a misfit where a row has no value, and lets the others come', () => {
    const { sheet, problems } = run(landings(), { into: 'Per price', formula: '"Value" / "Price"' });
    expect(problems).toEqual([]);
    expect(sheet.columns[4].cells).toEqual([
      12,
      { text: 'division by zero', expected: 'a result of "Value" / "Price"' },
      3,
    ]);
  });

  it('leaves the sheet as it is, with the reason, where a formula cannot be worked out', () => {
    const gone = run(landings(), { into: 'A', formula: '"Boxes" * 2' });
    expect(plain(gone.sheet)).toEqual(plain(landings()));
    expect(gone.problems).toEqual([expect.objectContaining({ column: 'Boxes', expected: 'a column “Boxes”' })]);
    expect(run(landings(), { into: 'A', formula: '"Value" +' }).problems).toEqual([
      expect.objectContaining({
        column: 'A',
        expected: 'a formula that can be worked out',
        came: '“"Value" +”',
        remedy: expect.stringContaining('not finished'),
      }),
    ]);
    expect(run(landings(), { into: 'A', formula: '' }).problems).toEqual([expect.objectContaining({ came: 'none' })]);
  });

  it('knows what stands above the table and in the name of the file, and says that it needs them', () => {
    const { sheet } = run(landings(), {
      into: 'From',
      formula: "report.\"file name\" || ' ' || report.page || '.' || report.row",
    });
    expect(sheet.columns[4].cells).toEqual([`${paper().path} 1.1`, `${paper().path} 1.2`, `${paper().path} 1.3`]);
    expect(
      declaration.needs(settingsOf({ formula: 'report."file name"' }, { formula: 'report."table title"' })),
    ).toEqual(['file name', 'page text']);
    expect(declaration.needs(settingsOf({ formula: '1 +' }))).toEqual([]);
  });

  it('commutes with the append unless it looks at other rows', () => {
    const commutes = (formula: string) =>
      (declaration.commutesWithAppend as (settings: unknown) => boolean)(settingsOf({ formula }));
    expect(['"A" * 2', 'sum("A") over ()', 'report.row', 'report.page'].map(commutes)).toEqual([
      true,
      false,
      false,
      true,
    ]);
  });

  it('calls columns as they are called above it, after a rename too', () => {
    const step = (kind: string, settings: object): Step =>
      v.parse(stepSchema, { id: kind.replaceAll(' ', '-'), kind, settings });
    const rename = (to: string) => step('rename', { names: [{ from: ['Boxes'], to }] });
    const names = namesChanged({ names: ['Item', 'Boxes'] }, rename('Crates'), rename('Cases'));
    const [computed, sifted] = followed(
      [
        step('compute column', { columns: [{ into: 'Twice', formula: '"Crates" * 2 -- "Crates"' }] }),
        step('sift rows', {
          conditions: [{ of: { is: 'formula', formula: '"Crates" > 0 or "Item" = \'Crates\'' }, test: 'is' }],
        }),
      ],
      names,
    );
    expect(computed.settings).toMatchObject({ columns: [{ formula: '"Cases" * 2 -- "Crates"' }] });
    expect(sifted.settings).toMatchObject({ conditions: [{ of: { formula: '"Cases" > 0 or "Item" = \'Crates\'' } }] });
  });
});
