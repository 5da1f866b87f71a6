import { describe, expect, it } from 'vitest';
import { across, page, words, type Printed } from '../testing/print';
import type { Fill, Rule } from '../page/page';
import { findTables } from './find-tables';
import { plainRows } from './found-table';

/** The first readings of the tables found on a page of typed lines. */
const read = (lines: readonly string[], { rules, fills, ...how }: Printed & { rules?: readonly Rule[]; fills?: readonly Fill[] } = {}) =>
  findTables([page(words(lines, how), { rules, fills })]).map((table) => plainRows(table.pieces[0].readings[0]));

const accounts = ['                       2031     2030', 'Harbour dues          4,120    3,990', 'Pilotage              1,015      980', 'Total income          5,135    4,970', 'Wages                 2,200    2,150', 'Repairs                 310      405', 'Total costs           2,510    2,555'];

describe('a table stays whole', () => {
  it('where rules stand over the figures of its sums only', () => {
    const sums = [3, 6].flatMap((row) => [across(100 + row * 14 - 2, 155, 180), across(100 + row * 14 - 2, 200, 225)]);
    const [table, ...others] = read(accounts, { rules: sums });
    expect(others).toEqual([]);
    expect(table).toHaveLength(7);
    expect(table[3]).toEqual(['Total income', '5,135', '4,970']);
  });

  it('over blank rows and labels of sections', () => {
    const lines = ['Item                   2031     2030', 'Income', ...accounts.slice(1, 4), '', '', 'Costs', ...accounts.slice(4)];
    const [table, ...others] = read(lines);
    expect(others).toEqual([]);
    expect(table.map(([first]) => first)).toEqual(['Item', 'Income', 'Harbour dues', 'Pilotage', 'Total income', 'Costs', 'Wages', 'Repairs', 'Total costs']);
  });

  it('over shaded bands', () => {
    const bands = [1, 4].map((row): Fill => ({ box: [48, 98 + row * 14, 232, 111 + row * 14], colour: '#dfe6e4' }));
    expect(read(accounts, { fills: bands }).map((table) => table.length)).toEqual([7]);
  });

  it('with a label of a section right under its heading', () => {
    expect(read(['EUR m                  2031     2030', 'Revenue', ...accounts.slice(1, 4)])[0].slice(0, 2)).toEqual([['EUR m', '2031', '2030'], ['Revenue', '', '']]);
  });
});

describe('two tables are two', () => {
  it('where the second heads columns anew', () => {
    const tables = read(['Harbour       Calls   Tonnes', 'Saltby           12      340', 'Fairlead        140    9,120', 'Vessel        Berth    Hours', 'Gannet            4       18', 'Petrel            9       31']);
    expect(tables.map((table) => table[0])).toEqual([['Harbour', 'Calls', 'Tonnes'], ['Vessel', 'Berth', 'Hours']]);
  });

  it('beside each other, with the same headings on one line', () => {
    const row = (a: string, b: string) => `${a.padEnd(22)}        ${b}`;
    const side = (name: string, first: number) => [`${name.padEnd(10)}  2030  2031`, ...['Saltby', 'Fairlead', 'Whin Cove', 'Holm'].map((place, i) => `${place.padEnd(10)}  ${String(first + i * 31).padStart(4)}  ${String(first + i * 17).padStart(4)}`)];
    const [left, right] = [side('Region', 110), side('Product', 470)];
    const tables = read(left.map((text, i) => row(text, right[i])));
    expect(tables.map((table) => [table.length, table[0].join(' ')])).toEqual([[5, 'Region 2030 2031'], [5, 'Product 2030 2031']]);
  });

  it('and running text beside a table is none of it', () => {
    const prose = ['The landings of the year were', 'higher than in any year since', 'the old pier was rebuilt, and', 'the harbour masters expect no', 'change of this in the spring.', 'Dues are to stay as they are,', 'but for the smallest vessels,', 'which will pay by the length.'];
    const table = ['Harbour    Calls', 'Saltby        12', 'Fairlead     140', 'Whin Cove      7', 'Holm          33'];
    const left = words(prose, { pitch: 13 });
    const right = words(table, { left: 260, top: 105, pitch: 17 });
    const found = findTables([page([...left, ...right])]).map(({ pieces }) => plainRows(pieces[0].readings[0]));
    expect(found).toEqual([[['Harbour', 'Calls'], ['Saltby', '12'], ['Fairlead', '140'], ['Whin Cove', '7'], ['Holm', '33']]]);
  });
});

describe('headings', () => {
  const body = ['Weir pool   39   4.35   0.39   46   2.58   0.45', 'Mill race   23   5.57   0.77   12   5.70   0.55', 'Outfall     42   3.45   0.54    9   8.55   0.80'];

  it('over several columns stand over the first of those that they head', () => {
    const [table] = read(['                 Spring               Autumn', 'Site         n   Mean   s.d.    n   Mean   s.d.', ...body]);
    expect(table.slice(0, 2)).toEqual([['', 'Spring', '', '', 'Autumn', '', ''], ['Site', 'n', 'Mean', 's.d.', 'n', 'Mean', 's.d.']]);
  });

  it('of several lines are one row where each stands over one column', () => {
    const [table] = read(['           Average            Days in', 'Harbour   per call   Tonnes      port', 'Saltby         340    9,120        12', 'Fairlead       118    4,055         7', 'Holm           251      871        33'], { pitch: 12 });
    expect(table[0]).toEqual(['Harbour', 'Average per call', 'Tonnes', 'Days in port']);
  });
});

describe('titles and pages', () => {
  const table = (first: string) => [first, 'Saltby           12      340', 'Fairlead        140    9,120', 'Whin Cove         7      118'];

  it('take a caption below a table that is nearer to it than to the next', () => {
    const lines = [...table('Harbour       Calls   Tonnes'), 'Table 1: Calls of the year', '', '', ...table('Vessel        Berth    Hours'), 'Table 2: Berths in use'];
    expect(findTables([page(words(lines))]).map(({ title }) => title)).toEqual(['Table 1: Calls of the year', 'Table 2: Berths in use']);
  });

  it('take the title and not the line that gives the units', () => {
    const lines = ['Calls and tonnes', '(in thousands)', ...table('Harbour       Calls   Tonnes')];
    expect(findTables([page(words(lines, { bold: (_, line) => line === 0 }))])[0].title).toBe('Calls and tonnes');
  });

  it('link pages by the edges of the columns, but not columns that go on to the right', () => {
    const rows = Array.from({ length: 40 }, (_, i) => `Berth ${String(i).padEnd(6)}  ${String(100 + i).padStart(5)}   ${String(900 - i).padStart(6)}`);
    const first = page(words(['Harbour       Calls   Tonnes', ...rows], { top: 60 }));
    const goesOn = page(words(rows.slice(0, 9), { top: 60 }), { number: 2 });
    const right = page(words(['Vessel        Hours     Crew', ...rows.slice(0, 9)], { top: 60 }), { number: 2 });
    expect(findTables([first, goesOn]).map(({ pieces }) => pieces.length)).toEqual([2]);
    expect(findTables([first, right]).map(({ pieces }) => pieces.length)).toEqual([1, 1]);
  });
});
