import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { across, down, grid, moved, page, words } from '../testing/print';
import { findTables } from './find-tables';
import { wholePage } from './page-tables';
import { plainRows, type FoundTable } from './found-table';

const prose = [
  'The board met on the second day after the spring tide and took',
  'note of the repairs to the lock chamber, which will go on until',
  'the oak has dried. The clerks ask that all slips be handed in',
  'before noon on the last working day of the month, and thank the',
  'tally room for its patience during the storms of the winter.',
];
const landings = [
  'Code   Species              Boxes     Value',
  'HK1    Lantern hake           112 13,014.40',
  'SL2    Grey sole               48  7,862.40',
  'CR4    Rock crab               61  4,318.80',
  'MK1    Blue mackerel          210  7,686.00',
  'SQ1    Harbour squid           33  4,435.20',
];
const asRows = (lines: readonly string[]) => lines.map((line) => line.split(/\s{2,}|(?<=\d) (?=\d)/));
const rowsOf = (table: FoundTable, piece = 0) => plainRows(table.pieces[piece].readings[0]);

describe('finding tables', () => {
  it('reads columns by white space alone', () => {
    const [table, ...others] = findTables([page(words(landings))]);
    expect(others).toEqual([]);
    expect(table.pieces[0].readings[0].name).toBe('aligned');
    expect(rowsOf(table)).toEqual(asRows(landings));
  });

  it('keeps a total that is wider than its column in that column', () => {
    const lines = [
      'Vessel          Length  Gross  Dues',
      'True Beacon      61.79  2,067  8.32',
      'Jolly Gull       92.01  2,962  7.30',
      'Calm Gull        42.39  2,047  7.45',
      'Quick Dunlin     96.72  5,925  8.63',
    ];
    const wide = [...lines, 'Total              38,528,124'];
    expect(rowsOf(findTables([page(words(wide))])[0]).at(-1)).toEqual(['Total', '', '38,528,124', '']);
  });

  it('keeps the label of a section whole, also where a word of it begins a column', () => {
    const lines = [
      'No.     Vessel          Weight   Days     Dues',
      'North quay',
      '1       Castor          51,851      9   223.33',
      '2       Delta Queen     41,250     18   883.77',
      'South quay',
      '1       Ems Trader      80,483     63   771.92',
      '2       Castor          77,217     73   418.38',
    ];
    // Bold print is wider: "quay" begins where the vessels do, a word space behind "North".
    const printed = words(lines).map((word) =>
      /^(?:North|South|quay)$/.test(word.text)
        ? {
            ...word,
            weight: 700 as const,
            box: [word.text === 'quay' ? 90 : 50, word.box[1], word.text === 'quay' ? 110 : 86.5, word.box[3]] as const,
          }
        : word,
    );
    expect(
      rowsOf(findTables([page(printed)])[0])
        .map(([first, second]) => [first, second])
        .filter(([first]) => /quay|North|South/.test(first)),
    ).toEqual([
      ['North quay', ''],
      ['South quay', ''],
    ]);
  });

  it('marks what only states a balance, and no line of a table of balances', () => {
    const ledger = [
      'Date         For               In     Out   Balance',
      '             Opening balance              8,604',
      '01/03/2025   Tug Heron      2,251            10,855',
      '02/03/2025   Pilot boat              585   10,270',
      '03/03/2025   Crane 2                 270   10,000',
      '             Closing balance             10,000',
    ];
    const roles = (lines: readonly string[]) =>
      findTables([page(words(lines))])[0].pieces[0].readings[0].rows.map(({ role }) => role);
    expect(roles(ledger)).toEqual(['heading', 'subtotal', 'body', 'body', 'body', 'total']);
    const balances = [
      'Item               2023    2024',
      'Opening balance     500     620',
      'Additions           220     110',
      'Disposals           100      50',
      'Closing balance     620     680',
    ];
    expect(roles(balances)).toEqual(['heading', 'body', 'body', 'body', 'body']);
  });

  it('finds one of amounts with their units, which stand in no order of letters', () => {
    const lines = [
      'Point    Date           Depth      Flow',
      ...Array.from({ length: 9 }, (_, n) => `P-10${n}    ${n + 1} May 2025     ${n + 2}.5 m    ${n}89 m3/h`),
    ];
    expect(findTables([page(words(lines))]).map((table) => rowsOf(table).length)).toEqual([10]);
  });

  it('takes numbers that count up across the top for headings, and none of a first row of data', () => {
    const days = [
      'Gate      1   2   3   4   5   6',
      'Gate 1   12  45       3  77  21',
      'Gate 2   31   2  19  55   8  40',
      'Gate 3    4  28  64      13  95',
    ];
    const headings = (lines: readonly string[]) =>
      findTables([page(words(lines))])[0].pieces[0].readings[0].headingRows;
    expect(headings(days)).toBe(1);
    expect(headings(['Gate     Mo  Di  Mi  Do  Fr  Sa', ...days])).toBe(1);
  });

  it('finds none in prose, in a list of points or in a chart', () => {
    expect(findTables([page(words(prose))])).toEqual([]);
    expect(
      findTables([
        page(words(['1. first the lines are cast off', '2. then the engine is started', '3. last the flag is struck'])),
      ]),
    ).toEqual([]);
    const bars = [40, 60, 55, 80].map((high, i) => ({
      box: [80 + i * 60, 300 - high, 110 + i * 60, 300] as const,
      colour: '#567',
    }));
    const axis = words(['  Saltby      Tern        Lantern     Marrow'], { top: 305 });
    const labels = words(['40', '', '20', '', '0'], { left: 40, top: 220, pitch: 18 });
    expect(
      findTables([
        page([...labels, ...axis], { fills: bars, rules: [0, 20, 40].map((y) => across(300 - y, 70, 330)) }),
      ]),
    ).toEqual([]);
  });

  it('takes the meshes of a drawn grid as cells, and a mesh over two columns as one spanning cell', () => {
    const text = words(['    Weight', 'A1  10   20', 'A2  30   40'], { left: 52, top: 102, pitch: 20 });
    const ys = [98, 118, 138, 158];
    const rules = [
      ...ys.map((y) => across(y, 48, 120)),
      ...[48, 68, 120].map((x) => down(x, 98, 158)),
      down(92, 118, 158),
    ];
    const [table] = findTables([page(text, { rules })]);
    const [best] = table.pieces[0].readings;
    expect(best.name).toBe('ruled');
    expect(plainRows(best)).toEqual([
      ['', 'Weight', ''],
      ['A1', '10', '20'],
      ['A2', '30', '40'],
    ]);
    expect(best.cells.find((cell) => cell.text === 'Weight')).toMatchObject({ column: 1, columnSpan: 2 });
  });

  it('keeps rows apart that share one mesh of the rules, when each has its own amounts', () => {
    const text = words(['A1   10   20', 'A2   30   40', 'A3   50   60'], { left: 52, top: 122 });
    const head = words(['Key  In   Out'], { left: 52, top: 102 });
    const [table] = findTables([page([...head, ...text], { rules: grid([48, 72, 97, 125], [98, 118, 166]) })]);
    expect(rowsOf(table)).toEqual([
      ['Key', 'In', 'Out'],
      ['A1', '10', '20'],
      ['A2', '30', '40'],
      ['A3', '50', '60'],
    ]);
  });

  it('never joins two lines with amounts in one column, however the leading varies', () => {
    const line = fc.tuple(fc.integer({ min: 1, max: 99 }), fc.integer({ min: 100, max: 999 }));
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 3, maxLength: 9 }),
        fc.array(fc.constantFrom(12, 13, 15, 22), { minLength: 9, maxLength: 9 }),
        (lines, pitches) => {
          let top = 100;
          const text = lines.flatMap(([a, b], i) => {
            const row = words([`R${i}    ${String(a).padStart(4)}    ${String(b).padStart(6)}`], { top });
            top += pitches[i];
            return row;
          });
          const tables = findTables([page(text, { rules: [across(95, 48, 150), across(top, 48, 150)] })]);
          for (const cell of tables.flatMap((table) => rowsOf(table).flat())) expect(cell).not.toMatch(/\d \d/);
        },
      ),
    );
  });

  it('joins wrapped lines to their row when the leading says so', () => {
    const text = [
      ...words(['K1  tin funnel, cut to    12', '    length and packed'], { top: 100, pitch: 12 }),
      ...words(['K2  glass float           7', ''], { top: 136 }),
      ...words(['K3  signal lamp glass,    9', '    tarred'], { top: 160, pitch: 12 }),
      ...words(['K4  oar                   3'], { top: 196 }),
    ];
    const [table] = findTables([page(text)]);
    expect(rowsOf(table).map((row) => row.slice(0, 2))).toContainEqual(['K1', 'tin funnel, cut to length and packed']);
    expect(rowsOf(table)).toHaveLength(4);
  });

  it('reads the same when the page is moved, and whatever the order of its words', () => {
    const marks = { rules: [across(98, 48, 270), across(112, 48, 270), across(185, 48, 270)] };
    const still = rowsOf(findTables([page(words(landings), marks)])[0]);
    fc.assert(
      fc.property(
        fc.integer({ min: -40, max: 250 }),
        fc.integer({ min: -60, max: 400 }),
        fc.shuffledSubarray(words(landings), { minLength: words(landings).length }),
        (dx, dy, shuffled) => {
          const [table] = findTables([moved(page(shuffled, marks), dx, dy)]);
          expect(rowsOf(table)).toEqual(still);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('gives a title that stands above, and none that is running text', () => {
    const titled = [...words(['Landings by species'], { top: 76, bold: () => true }), ...words(landings)];
    expect(findTables([page(titled)])[0].title).toBe('Landings by species');
    const below = words([...prose, '', ''], { top: 30 - 14, pitch: 14 });
    expect(findTables([page([...below, ...words(landings, { top: 110 })])])[0].title).toBeUndefined();
  });

  it('links pieces over pages by a repeated heading, and starts anew under a new title', () => {
    const head = (number: number) =>
      words(['Board of quays              Sheet'], { top: 20 }).map((word) => ({ ...word, number }));
    const long = [landings[0], ...Array.from({ length: 40 }, (_, i) => landings[1 + (i % 5)])];
    const first = page([...head(1), ...words(long, { top: 90 })], { number: 1 });
    const second = page([...head(2), ...words(landings, { top: 60 })], { number: 2 });
    const third = page(
      [...head(3), ...words(['Vessel calls'], { top: 46, bold: () => true }), ...words(landings, { top: 66 })],
      { number: 3 },
    );
    const tables = findTables([first, second, third]);
    expect(tables.map((table) => table.pieces.map((piece) => piece.page))).toEqual([[1, 2], [3]]);
    expect(tables[0].pieces[1].continues).toBe(tables[0].pieces[0].id);
    expect(rowsOf(tables[0], 1)[0]).toEqual(['Code', 'Species', 'Boxes', 'Value']);
    expect(tables[1].title).toBe('Vessel calls');
  });

  it('offers at most five readings, best first, no two with the same grid', () => {
    const [table] = findTables([
      page(words(landings), { rules: [across(98, 48, 270), across(112, 48, 270), across(185, 48, 270)] }),
    ]);
    const { readings } = table.pieces[0];
    expect(readings.length).toBeGreaterThan(1);
    expect(readings.length).toBeLessThanOrEqual(5);
    expect(readings.map((reading) => reading.score)).toEqual(
      readings.map((reading) => reading.score).sort((a, b) => b - a),
    );
    expect(new Set(readings.map((reading) => JSON.stringify(plainRows(reading)))).size).toBe(readings.length);
    expect(readings.at(-1)!.name).toBe('line by line');
  });

  it('marks roles: heading, section, subtotal, total', () => {
    const lines = [
      'Code   Species              Boxes     Value',
      'Saltby',
      'HK1    Lantern hake           112 13,014.40',
      'SL2    Grey sole               48  7,862.40',
      '       Total Saltby           160 20,876.80',
      'Tern Point',
      'CR4    Rock crab               61  4,318.80',
      '       Total Tern Point        61  4,318.80',
      '       Total all quays        221 25,195.60',
    ];
    const [table] = findTables([
      page(words(lines), { rules: [across(98, 48, 270), across(112, 48, 270), across(228, 48, 270)] }),
    ]);
    expect(table.pieces[0].readings[0].rows.map((row) => row.role)).toEqual([
      'heading',
      'section',
      'body',
      'body',
      'subtotal',
      'section',
      'body',
      'subtotal',
      'total',
    ]);
  });

  it('takes units in brackets below the headings for headings, also where one looks like an amount below nought', () => {
    const lines = [
      'Commodity  Quantity      Value   Share',
      '                (t)  (£ 1,000)     (%)',
      'Timber       68,628      4,235    16.9',
      'Grain        27,120      6,779    27.1',
      'Salt          7,221     (1,000)   56.0',
    ];
    const roles = (of: string[]) => findTables([page(words(of))])[0].pieces[0].readings[0].rows.map((row) => row.role);
    expect(roles(lines)).toEqual(['heading', 'heading', 'body', 'body', 'body']);
    expect(roles([lines[0], ...lines.slice(2)])).toEqual(['heading', 'body', 'body', 'body']);
    expect(roles([lines[0], '               (12)     (1,000)   (3.0)', ...lines.slice(2)])[1]).toBe('body');
  });

  it('marks labels of a part and of a part of it under the headings as sections, not as headings', () => {
    const lines = [
      'Customer          Boxes     Net    Gross',
      'North coast',
      ' Saltby',
      '  Marr & Sons       112   14.40    17.28',
      '  Fenn & Co          48   62.40    74.88',
      ' Tern Ness',
      '  Vale & Co          61   18.80    22.56',
      'South coast',
      ' Fairlead',
      '  Quarr & Co         21   25.60    30.72',
    ];
    const printed = words(lines).map((word) =>
      /^(?:Customer|Boxes|Net|Gross|North|South|coast)$/.test(word.text) ? { ...word, weight: 700 as const } : word,
    );
    expect(findTables([page(printed)])[0].pieces[0].readings[0].rows.map((row) => row.role)).toEqual([
      'heading',
      'section',
      'section',
      'body',
      'body',
      'section',
      'body',
      'section',
      'section',
      'body',
    ]);
  });

  it('marks a label under years alone as a section where a rule parts it from them', () => {
    const lines = [
      '                 2025    2024',
      'Assets',
      ' Quays           1200    1100',
      ' Vessels          300     280',
      'Liabilities',
      ' Loans            900     950',
      ' Creditors        200     190',
    ];
    const roles = (rules: ReturnType<typeof across>[]) =>
      findTables([page(words(lines), { rules })])[0].pieces[0].readings[0].rows.map(({ role }) => role);
    expect(roles([across(112, 48, 230)])).toEqual(['heading', 'section', 'body', 'body', 'section', 'body', 'body']);
    // Without one it may be what the first column is called.
    expect(roles([across(126, 48, 230)])[1]).toBe('heading');
  });

  it('offers the whole page read by white space and line by line', () => {
    const whole = wholePage(page(words([...prose, '', ...landings])))!;
    const lines = whole.readings.find((reading) => reading.name === 'line by line')!;
    expect(plainRows(lines)[0]).toEqual([prose[0]]);
    expect(lines.rows).toHaveLength(prose.length + landings.length);
  });

  describe('read column after column, a whole page', () => {
    /** Two columns of lines at heights of their own, below a running head. */
    const directory = page([
      ...words(['Harbour Board                     Roll 2025'], { top: 40 }),
      ...words(['L-1 Orrin Vale', '14 Tarry Lane', 'L-2 Mira Quarr', '9 Net Street', 'L-3 Ada Fell', '2 Quay Steps'], {
        top: 100,
      }),
      ...words(['7 Salt Market', 'L-4 Ivo Marr', '31 Beacon Road', 'L-5 Della Usk', '5 Net Street'], {
        left: 230,
        top: 105,
      }),
      ...words(['               Page 1'], { top: 260 }),
    ]);
    const reading = wholePage(directory)!.readings.find(({ name }) => name === 'column after column')!;

    it('has the lines of the first column, then those of the next, each by itself', () => {
      expect(plainRows(reading).flat()).toEqual([
        'Harbour Board Roll 2025',
        'L-1 Orrin Vale',
        '14 Tarry Lane',
        'L-2 Mira Quarr',
        '9 Net Street',
        'L-3 Ada Fell',
        '2 Quay Steps',
        '7 Salt Market',
        'L-4 Ivo Marr',
        '31 Beacon Road',
        'L-5 Della Usk',
        '5 Net Street',
        'Page 1',
      ]);
    });

    it('has every word of the page once, and knows what white space sets apart', () => {
      expect(reading.cells.flatMap((cell) => cell.words).sort((a, b) => a - b)).toEqual(
        directory.words.map((_, i) => i),
      );
      expect(reading.rows.flatMap(({ spaced }, row) => (spaced ? [row] : []))).toEqual([1, 12]);
    });

    it('is not offered where there is one column of print', () => {
      expect(wholePage(page(words(prose)))!.readings.map(({ name }) => name)).not.toContain('column after column');
    });
  });

  it('marks rows that white space or a rule sets apart from the row above', () => {
    const lines = [
      'Code    Boxes  Value',
      'HK1        12  14.40',
      'SL2        48  62.40',
      '',
      'CR4        61  18.80',
      'LG1        21  95.60',
      'MK1        11  15.60',
    ];
    const rows = findTables([page(words(lines), { rules: [across(112, 48, 150), across(183, 48, 150)] })])[0].pieces[0]
      .readings[0].rows;
    expect(rows.map(({ spaced = false }) => spaced)).toEqual([false, false, false, true, false, false]);
    expect(rows.map(({ ruled = false }) => ruled)).toEqual([false, true, false, false, false, true]);
  });

  it('gives every cell the words it was read from', () => {
    const printed = page(words(landings));
    for (const cell of findTables([printed])[0].pieces[0].readings[0].cells)
      expect(cell.words.map((w) => printed.words[w].text).join(' ')).toBe(cell.text);
  });
});
