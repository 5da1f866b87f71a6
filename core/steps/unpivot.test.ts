import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { append } from '../pipeline/append';
import { exactSum } from '../values/exact';
import { columnNamed, type Column } from '../sheet/column';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { around, plain, textSheet, wordsBehind } from '../testing/sheets';
import { namesChanged } from './follow-names';
import { promoteHeaderRows } from './promote-header-rows';
import { unpivot } from './unpivot';

const run = (sheet: Sheet, settings: Record<string, unknown>) =>
  unpivot.run(sheet, v.parse(unpivot.settings, settings), around());
const allBut = (...names: string[]) => ({ by: 'all but', names });
/** The sheet with some of its columns of other types. */
const typed = (of: Sheet, types: Record<string, Partial<Column>>) =>
  makeSheet(
    of.columns.map((column) => ({ ...column, ...types[column.name] })),
    of.rows,
  );
const came = ({ problems = [] }: { problems?: readonly { came: string }[] }) => problems.map((problem) => problem.came);

describe('unpivot', () => {
  const years = textSheet([
    ['Quay', '2024', '2025'],
    ['Saltby', '3', '4'],
    ['Fairlead', null, '7'],
  ]);

  it('puts each amount into a row with its heading, in the order of the rows, and holds what is blank with its reason', () => {
    const result = run(years, { columns: allBut('Quay'), into: 'Year', value: 'Boxes' });
    expect(plain(result.sheet)).toEqual([
      ['Quay', 'Year', 'Boxes'],
      ['Saltby', '2024', '3'],
      ['Saltby', '2025', '4'],
      ['Fairlead', '2025', '7'],
    ]);
    expect(plain(result.held!.rows)).toEqual([
      ['Quay', 'Year', 'Boxes'],
      ['Fairlead', '2024', null],
    ]);
    expect(result.held!.reasons).toEqual(['blank: no value stands under this heading']);
    expect(result).toMatchObject({ added: 2, turned: 2 });
  });

  it('keeps blanks and goes column by column when told so', () => {
    const result = run(years, { columns: allBut('Quay'), into: 'Year', blanks: 'kept', order: 'column by column' });
    expect(plain(result.sheet).slice(1)).toEqual([
      ['Saltby', '2024', '3'],
      ['Fairlead', '2024', null],
      ['Saltby', '2025', '4'],
      ['Fairlead', '2025', '7'],
    ]);
    expect(result.held).toBeUndefined();
  });

  it('takes along the column of next year where columns are chosen by a rule', () => {
    const next = textSheet([
      ['Quay', '2025', '2026'],
      ['Saltby', '4', '9'],
    ]);
    expect(plain(run(next, { columns: allBut('Quay'), into: 'Year' }).sheet)).toContainEqual(['Saltby', '2026', '9']);
  });

  it('traces each value to its cell and each heading to all of its printed rows', () => {
    const printed = textSheet([
      ['1', '2', '3'],
      [null, 'Weight', null],
      ['Quay', 'Gutted', 'Whole'],
      ['Saltby', '12', '14'],
    ]);
    // The heading “Weight” runs over two columns: the cell under its end comes from the same words.
    printed.columns[2].origins[0] = printed.columns[1].origins[0];
    const promoted = promoteHeaderRows.run(printed, { rows: 2, spread: true, joiner: ' ', blank: '' }, around()).sheet;
    const { sheet } = run(promoted, {
      columns: allBut('Quay'),
      heading: 'the parts of a template',
      template: '{Measure} {State}',
    });
    expect(plain(sheet)).toEqual([
      ['Quay', 'Measure', 'State', 'Value'],
      ['Saltby', 'Weight', 'Gutted', '12'],
      ['Saltby', 'Weight', 'Whole', '14'],
    ]);
    expect(wordsBehind(sheet, 'Value', 1)).toEqual(['r1 1:202']);
    expect(wordsBehind(sheet, 'State', 1)).toEqual(['r1 1:1', 'r1 1:102']);
    expect(wordsBehind(sheet, 'Measure', 1)).toEqual(['r1 1:1', 'r1 1:102']);
  });

  it('traces a heading that comes again on every page to the page of the row', () => {
    const onPage = (page: number) =>
      textSheet(
        [
          ['Quay', '2024'],
          ['Saltby', String(page)],
        ],
        [{ page }],
      );
    const parts = [1, 2].map(onPage).map((sheet, i) =>
      makeSheet(
        sheet.columns.map((column) =>
          column.name === '2024' ? { ...column, namedBy: sheet.rows.book.origins.intern('r1', i + 1, [7, 8]) } : column,
        ),
        sheet.rows,
      ),
    );
    const { sheet } = run(append(parts).sheet, { columns: allBut('Quay') });
    expect([0, 1].map((row) => wordsBehind(sheet, 'Heading', row))).toEqual([
      ['r1 1:7', 'r1 1:8'],
      ['r1 2:7', 'r1 2:8'],
    ]);
  });

  it('takes headings apart at a mark; the last part takes what is left', () => {
    const marked = textSheet([
      ['Quay', '2025 / Q1', '2025 / Q2 / late'],
      ['Saltby', '1', '2'],
    ]);
    expect(
      plain(
        run(marked, {
          columns: allBut('Quay'),
          heading: 'the parts between marks',
          mark: '/',
          parts: ['Year', 'Quarter'],
        }).sheet,
      ),
    ).toEqual([
      ['Quay', 'Year', 'Quarter', 'Value'],
      ['Saltby', '2025', 'Q1', '1'],
      ['Saltby', '2025', 'Q2 / late', '2'],
    ]);
  });

  it('takes a heading that could be cut in two ways apart as the others are, and says so where they do not tell', () => {
    const halves = (...names: string[]) =>
      textSheet([
        ['Cargo', ...names],
        ['Grain', ...names.map((_, i) => String(i))],
      ]);
    const by = (how: Record<string, unknown>, ...names: string[]) =>
      run(halves(...names), { columns: allBut('Cargo'), measure: 'Measure', ...how });
    const template = { heading: 'the parts of a template', template: '{Period} {Measure}' };
    const marks = { heading: 'the parts between marks', mark: ' ', parts: ['Period', 'Measure'] };
    for (const how of [template, marks]) {
      const sure = by(how, 'January Plan', 'January Actual', 'First half-year Plan', 'First half-year Reached');
      // That there is a first half-year is told by its plan.
      expect([plain(sure.sheet), came(sure)]).toEqual([
        [
          ['Cargo', 'Period', 'Plan', 'Actual', 'Reached'],
          ['Grain', 'January', '0', '1', null],
          ['Grain', 'First half-year', '2', null, '3'],
        ],
        [],
      ]);
      expect(came(by(how, 'Long weekend Riders', 'Short weekend Riders'))).toEqual([
        '“Long weekend Riders”, taken apart as “Long” and “weekend Riders”',
        '“Short weekend Riders”, taken apart as “Short” and “weekend Riders”',
      ]);
    }
  });

  it('names columns by a part of the headings, and traces them to all words with that part', () => {
    const riders = textSheet([
      ['Line', 'Weekdays Riders', 'Weekdays Runs', 'Night Riders'],
      ['7', '310', '12', '45'],
    ]);
    const worded = makeSheet(
      riders.columns.map((column, i) => ({ ...column, namedBy: riders.rows.book.origins.intern('r1', 1, [900 + i]) })),
      riders.rows,
    );
    const { sheet } = run(worded, {
      columns: allBut('Line'),
      heading: 'the parts of a template',
      template: '{Days} {Measure}',
      measure: 'Measure',
    });
    expect(plain(sheet)).toEqual([
      ['Line', 'Days', 'Riders', 'Runs'],
      ['7', 'Weekdays', '310', '12'],
      ['7', 'Night', '45', null],
    ]);
    expect(
      sheet.rows.book.origins.places(columnNamed(sheet, 'Riders')!.namedBy!).flatMap(({ words }) => words),
    ).toEqual([901, 903]);
  });

  it('keeps unlike types and unlike units apart, each with its type', () => {
    const mixed = typed(
      textSheet([
        ['Quay', 'Boxes', 'Weight', 'Landed', 'Rate'],
        ['Saltby', 3, 2.5, '2025-06-14', 1.25],
      ]),
      {
        Boxes: { type: 'integer' },
        Weight: { type: 'decimal', unit: 'kg' },
        Landed: { type: 'date' },
        Rate: { type: 'decimal' },
      },
    );
    const { sheet } = run(mixed, { columns: allBut('Quay') });
    expect(plain(sheet)).toEqual([
      ['Quay', 'Heading', 'Value', 'Value kg', 'Value date'],
      ['Saltby', 'Boxes', 3, null, null],
      ['Saltby', 'Weight', null, 2.5, null],
      ['Saltby', 'Landed', null, null, '2025-06-14'],
      ['Saltby', 'Rate', 1.25, null, null],
    ]);
    expect(sheet.columns.slice(2).map(({ type, unit }) => [type, unit])).toEqual([
      ['decimal', undefined],
      ['decimal', 'kg'],
      ['date', undefined],
    ]);
  });

  it('keeps the values of a heading that does not fit, under the whole heading, and names it', () => {
    const odd = textSheet([
      ['Quay', '2025 Q1', 'Remarks'],
      ['Saltby', '1', 'late'],
    ]);
    const result = run(odd, {
      columns: allBut('Quay'),
      heading: 'the parts of a template',
      template: '{Year:4} {Quarter}',
    });
    expect(plain(result.sheet).slice(1)).toEqual([
      ['Saltby', '2025', 'Q1', '1'],
      ['Saltby', 'Remarks', null, 'late'],
    ]);
    expect(came(result)).toEqual(['“Remarks”']);
  });

  it('never writes one value over another where two headings say the same', () => {
    const twice = textSheet([
      ['Line', 'Night Riders', 'NIGHT Riders', 'Night  Riders'],
      ['7', '1', '2', '3'],
    ]);
    const result = run(twice, {
      columns: allBut('Line'),
      heading: 'the parts of a template',
      template: '{Days} {Measure}',
      measure: 'Measure',
    });
    expect(plain(result.sheet)).toEqual([
      ['Line', 'Days', 'Riders'],
      ['7', 'Night', '1'],
      ['7', 'NIGHT', '2'],
      ['7', 'Night', '3'],
    ]);
    expect(came(result)).toEqual(['another one under “Night  Riders”']);
  });

  it('lets the rows pass, and says so, where no column is chosen, the template has no hole or the measure is no part', () => {
    const unturned = (settings: Record<string, unknown>) => {
      const result = run(years, settings);
      expect(result.sheet).toBe(years);
      return came(result);
    };
    expect(unturned({ columns: { by: 'names', names: [] } })).toEqual(['none']);
    expect(unturned({ columns: allBut('Quay'), heading: 'the parts of a template', template: 'Year' })).toEqual([
      '“Year”',
    ]);
    expect(
      unturned({ columns: allBut('Quay'), heading: 'the parts of a template', template: '{Year}', measure: 'Measure' }),
    ).toEqual(['the parts “Year”']);
    expect(unturned({ columns: { by: 'names', names: ['2031'] } })).toEqual(['columns “Quay”, “2024”, “2025”']);
  });

  it('gives names that are taken a number, and the steps below follow a new one', () => {
    expect(
      plain(
        run(
          textSheet([
            ['Value', '2024'],
            ['a', '1'],
          ]),
          { columns: { by: 'names', names: ['2024'] } },
        ).sheet,
      )[0],
    ).toEqual(['Value', 'Heading', 'Value 2']);
    const step = (into: string) => ({ id: 'a', kind: 'unpivot', settings: { columns: allBut('Quay'), into } });
    expect([...namesChanged({ names: ['Quay', '2024'] }, step('Heading'), step('Year')).known]).toEqual([
      ['Heading', 'Year'],
    ]);
  });

  it('keeps every value and every sum, whatever the numbers', () => {
    const amounts = fc.array(
      fc.array(fc.option(fc.integer({ min: -99_999, max: 99_999 }).map((cents) => cents / 100)), {
        minLength: 4,
        maxLength: 4,
      }),
      { minLength: 1, maxLength: 20 },
    );
    fc.assert(
      fc.property(
        amounts,
        fc.constantFrom('held', 'kept'),
        fc.constantFrom('row by row', 'column by column'),
        (rows, blanks, order) => {
          const sheet = typed(
            textSheet([['Quay', 'A', 'B', 'C', 'D'], ...rows.map((row, i) => [`Quay ${i}`, ...row])]),
            Object.fromEntries(['A', 'B', 'C', 'D'].map((name) => [name, { type: 'decimal' as const }])),
          );
          const result = run(sheet, { columns: allBut('Quay'), blanks, order });
          const values = columnNamed(result.sheet, 'Value')!.cells.filter((cell) => cell !== null) as number[];
          const printed = rows.flat().filter((cell) => cell !== null);
          expect([...values].sort()).toEqual([...printed].sort());
          expect(exactSum(values)).toBe(exactSum(printed));
          expect(result.sheet.rows.length + (result.held?.rows.rows.length ?? 0)).toBe(4 * rows.length);
        },
      ),
    );
  });
});
