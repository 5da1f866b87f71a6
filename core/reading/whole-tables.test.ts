import { describe, expect, it } from 'vitest';
import { across, page, words, type Printed } from '../testing/print';
import type { Fill, Rule } from '../page/page';
import { findTables } from './find-tables';
import { TableFinder } from './table-finder';
import { plainRows } from './found-table';

/** The first readings of the tables found on a page of typed lines. */
const read = (
  lines: readonly string[],
  { rules, fills, ...how }: Printed & { rules?: readonly Rule[]; fills?: readonly Fill[] } = {},
) => findTables([page(words(lines, how), { rules, fills })]).map((table) => plainRows(table.pieces[0].readings[0]));

const accounts = [
  '                       2031     2030',
  'Harbour dues          4,120    3,990',
  'Pilotage              1,015      980',
  'Total income          5,135    4,970',
  'Wages                 2,200    2,150',
  'Repairs                 310      405',
  'Total costs           2,510    2,555',
];

describe('a table stays whole', () => {
  it('where rules stand over the figures of its sums only', () => {
    const sums = [3, 6].flatMap((row) => [across(100 + row * 14 - 2, 155, 180), across(100 + row * 14 - 2, 200, 225)]);
    const [table, ...others] = read(accounts, { rules: sums });
    expect(others).toEqual([]);
    expect(table).toHaveLength(7);
    expect(table[3]).toEqual(['Total income', '5,135', '4,970']);
  });

  it('over blank rows and labels of sections', () => {
    const lines = [
      'Item                   2031     2030',
      'Income',
      ...accounts.slice(1, 4),
      '',
      '',
      'Costs',
      ...accounts.slice(4),
    ];
    const [table, ...others] = read(lines);
    expect(others).toEqual([]);
    expect(table.map(([first]) => first)).toEqual([
      'Item',
      'Income',
      'Harbour dues',
      'Pilotage',
      'Total income',
      'Costs',
      'Wages',
      'Repairs',
      'Total costs',
    ]);
  });

  it('over shaded bands', () => {
    const bands = [1, 4].map((row): Fill => ({ box: [48, 98 + row * 14, 232, 111 + row * 14], colour: '#dfe6e4' }));
    expect(read(accounts, { fills: bands }).map((table) => table.length)).toEqual([7]);
  });

  it('with a label of a section right under its heading', () => {
    expect(read(['EUR m                  2031     2030', 'Revenue', ...accounts.slice(1, 4)])[0].slice(0, 2)).toEqual([
      ['EUR m', '2031', '2030'],
      ['Revenue', '', ''],
    ]);
  });
});

describe('a table of another form under the first is one of its own', () => {
  const gates = [
    'Gate        Trucks    Wait   Refused',
    'North        1,651      36         5',
    'South          427       9         5',
    'East         1,666      19        11',
  ];
  const incidents = [
    'Day       Incident   Seen by     State',
    '14.03.    Spill      A. Quill    open',
    '20.03.    Fire       B. Marsh    closed',
  ];
  const heads = (lines: readonly string[]) => ({
    bold: (_: string, line: number) => /^(?:Gate|Day|Total)/.test(lines[line]),
  });
  /** A closed grid over so many lines, with rules at these places between the columns. */
  const grid = (lines: number): Rule[] => [
    ...Array.from({ length: lines + 1 }, (_, i) => across(98 + i * 14, 46, 240)),
    ...[46, 95, 150, 205, 240].map((at): Rule => ({
      direction: 'down',
      at,
      from: 98,
      to: 98 + lines * 14,
      thickness: 0.5,
    })),
  ];

  it('in one grid with it, below a blank row', () => {
    const lines = [...gates, '', ...incidents];
    expect(
      read(lines, { ...heads(lines), rules: grid(lines.length) }).map((table) => [table.length, table[0][0]]),
    ).toEqual([
      [4, 'Gate'],
      [3, 'Day'],
    ]);
  });

  it('close under its total, by the mark of its heading', () => {
    const lines = [
      'Vessel      Berth    Hours     Fee',
      'Marlin 1    B2          56   952.50',
      'Heron 2     B1          29   348.50',
      'Total                   85 1,301.00',
      '',
      'Berth       Calls    State   Share',
      'B1              1    open     40 %',
      'B2              1    shut     60 %',
    ];
    expect(
      read(lines, { bold: (_, line) => /^(?:Vessel|Total|Berth)/.test(lines[line]) }).map((table) => [
        table.length,
        table[0][0],
      ]),
    ).toEqual([
      [4, 'Vessel'],
      [3, 'Berth'],
    ]);
  });

  it('but not where the same columns are headed anew, or nothing sets the heading off', () => {
    const again = [...gates, '', gates[0].replace('Gate', 'Day '), ...gates.slice(1)];
    expect(read(again, { ...heads(again), rules: grid(again.length) })).toHaveLength(1);
    const close = [...gates, ...incidents];
    expect(read(close, { ...heads(close), rules: grid(close.length) })).toHaveLength(1);
  });
});

describe('labels without figures stay in the table', () => {
  it('below the last figures, in step with the rows', () => {
    const [table] = read([
      'Harbour     Calls   Tonnes',
      'Saltby         12      340',
      'Fairlead      140    9,120',
      'Whin Cove       7      118',
      'Holm',
      '',
      '',
      'The clerks ask that all slips be handed in before noon',
    ]);
    expect(table.at(-1)).toEqual(['Holm', '', '']);
  });

  it('between the heading and the first figures', () => {
    const [table] = read([
      'Harbour     Calls',
      'Holm',
      'Tern Ness',
      'Saltby         12',
      'Fairlead      140',
      'Whin Cove       7',
    ]);
    expect(table.map(([first]) => first)).toEqual(['Harbour', 'Holm', 'Tern Ness', 'Saltby', 'Fairlead', 'Whin Cove']);
  });

  it('over the first row, set as the other labels of sections are', () => {
    const lines = [
      'Part One',
      'Slate and its uses            4',
      'Peat                         11',
      'Part Two',
      'Frozen fish                  17',
      'Salt                         23',
      'Part Three',
      'Machinery                    31',
    ];
    expect(read(lines, { bold: (_, line) => lines[line].startsWith('Part') })[0].map(([first]) => first)).toContain(
      'Part One',
    );
  });

  it('but a note in smaller type ends it', () => {
    const rows = words([
      'Harbour     Calls   Tonnes',
      'Saltby         12      340',
      'Fairlead      140    9,120',
      'Whin Cove       7      118',
    ]);
    const note = words(['(1) counted twice'], { top: 156 }).map((word) => ({
      ...word,
      fontSize: 8,
      box: [word.box[0], word.box[1] + 2, word.box[2], word.box[3]] as const,
    }));
    const [{ pieces }] = findTables([page([...rows, ...note])]);
    expect(plainRows(pieces[0].readings[0])).toHaveLength(4);
  });
});

describe('no line at the edge of a table is lost', () => {
  const rows = [
    'Harbour        Calls    Tonnes',
    'Saltby            12       340',
    'Fairlead         140     9,120',
    'Whin Cove          7       118',
  ];
  const firsts = (table: readonly string[][]) => table.map(([first]) => first);

  it('a total whose bold type leaves hardly a gap before its amount', () => {
    const print = words([...rows, '                  Sum to 9,578'], { bold: (_, line) => line === 4 });
    const [{ pieces }] = findTables([page(print)]);
    expect(plainRows(pieces[0].readings[0]).at(-1)!.join(' ')).toContain('9,578');
    expect(pieces[0].readings[0].rows).toHaveLength(5);
  });

  it('a heading over labels that hold no figures', () => {
    expect(firsts(read([rows[0], 'Open ports:', 'Gannet', ...rows.slice(1)])[0])).toEqual([
      'Harbour',
      'Open ports:',
      'Gannet',
      'Saltby',
      'Fairlead',
      'Whin Cove',
    ]);
  });

  it('all lines of a heading in one shaded band', () => {
    const lines = ['              Days in', 'Harbour          port    Tonnes', ...rows.slice(1)];
    const fills: Fill[] = [0, 3].map((row) => ({
      box: [46, 98 + row * 14, 204, 98 + (row === 0 ? 2 : row + 1) * 14],
      colour: '#dfe6e4',
    }));
    expect(read(lines, { fills })[0].flat().join(' ')).toContain('Days in');
  });

  it('headings whose texts nearly touch, each on the edge of its column', () => {
    const lines = [
      '               2031 2032 2033',
      'Saltby           12  340   31',
      'Fairlead        140  912   22',
      'Whin Cove         7  118   10',
      'Holm             31   40   55',
    ];
    expect(read(lines)[0].flat().join(' ')).toContain('2031');
  });

  it('a label right under the rule that begins the table, and the bold label of a total that ends it', () => {
    const lines = ['Open ports', ...rows.slice(1), 'Total'];
    const rules = [across(97, 48, 205), across(98 + 5 * 14 + 1, 48, 205)];
    expect(firsts(read(lines, { rules, bold: (word) => word === 'Total' })[0])).toEqual([
      'Open ports',
      'Saltby',
      'Fairlead',
      'Whin Cove',
      'Total',
    ]);
  });

  it('labels alone between rules at the end', () => {
    const lines = [...rows, 'Holm', 'Old Staithe', 'Tern Ness', 'Scaur End'];
    const rules = Array.from({ length: 9 }, (_, i) => across(98 + i * 14, 48, 205));
    expect(firsts(read(lines, { rules })[0]).slice(-4)).toEqual(['Holm', 'Old Staithe', 'Tern Ness', 'Scaur End']);
  });

  it('a first row that a blank one parts from the others, as blank rows do further down', () => {
    const more = ['Holm              31       402', 'Tern Ness         18        77'];
    const print = [
      ...words([rows[1]]),
      ...words(rows.slice(2), { top: 124 }),
      ...words(more, { top: 162 }),
      ...words(rows.slice(1), { top: 200 }),
    ];
    const tables = findTables([page(print)]);
    expect(tables.map(({ pieces }) => pieces[0].readings[0].rows.length)).toEqual([8]);
  });

  it('years at the top of the page, which are no page number', () => {
    const lines = ['                2031      2032', ...rows];
    expect(read(lines, { top: 40 })[0].flat().join(' ')).toContain('2031');
  });

  it('the last row of all alone at the top of the next page', () => {
    const long = Array.from(
      { length: 46 },
      (_, i) => `Berth ${String(i).padEnd(8)}${String(100 + i).padStart(6)}${String(9000 - i).padStart(10)}`,
    );
    const pages = [
      page(words([rows[0], ...long.slice(0, -1)], { top: 60 })),
      page(words(long.slice(-1), { top: 60 }), { number: 2 }),
    ];
    const [table, ...others] = findTables(pages);
    expect(others).toEqual([]);
    expect(table.pieces.map(({ readings: [reading] }) => plainRows(reading).at(-1))).toEqual([
      ['Berth 44', '144', '8956'],
      ['Berth 45', '145', '8955'],
    ]);
    // Its word says what it is, also where it stands alone.
    const total = page(
      words([`Total         ${String(6624).padStart(6)}${String(410000).padStart(10)}`], { top: 60 }),
      { number: 2 },
    );
    expect(findTables([pages[0], total])[0].pieces[1].readings[0].rows.map(({ role }) => role)).toEqual(['total']);
    const prose = page(words(['The clerks ask that all slips be handed in before noon'], { top: 60 }), { number: 2 });
    expect(findTables([pages[0], prose]).flatMap(({ pieces }) => pieces)).toHaveLength(1);
  });
});

describe('the few rows that go on overleaf', () => {
  const line = (date: string, details: string, out: string, into: string, balance: string) =>
    `${date.padEnd(8)}${details.padEnd(24)}${out.padStart(9)}${into.padStart(10)}${balance.padStart(11)}`;
  const long = Array.from({ length: 44 }, (_, i) =>
    line(
      i % 2 ? '' : `${1 + (i >> 1)} May`,
      i % 3 ? 'Card payment' : 'Standing order',
      i % 4 ? `${100 + i}.25` : '',
      i % 4 ? '' : `${200 + i}.50`,
      i % 2 ? `1,${300 + i}.75` : '',
    ),
  );
  const overleaf = (...lines: string[]) =>
    findTables([
      page(words([line('Date', 'Details', 'Paid out', 'Paid in', 'Balance'), ...long], { top: 60 })),
      page(words(lines, { top: 60 }), { number: 2 }),
    ])[0].pieces[1].readings[0];

  it('are read by the columns of the table before, though they leave one blank and show no space between two', () => {
    const reading = overleaf(
      line('23 May', 'Card payment at stores', '783.88', '', ''),
      line('', 'Cheque 100231', '305.27', '', '-108.78'),
      line('', 'BALANCE CARRIED FORWARD', '', '', '-108.78'),
    );
    expect(plainRows(reading)).toEqual([
      ['23 May', 'Card payment at stores', '783.88', '', ''],
      ['', 'Cheque 100231', '305.27', '', '-108.78'],
      ['', 'BALANCE CARRIED FORWARD', '', '', '-108.78'],
    ]);
    expect(reading.rows.map(({ role }) => role)).toEqual(['body', 'body', 'subtotal']);
    expect(reading.reason).toContain('On the columns of the table that it goes on from');
  });

  it('begin with the end of a row that the page cuts, which is no part of the headings that come again', () => {
    const head = 'No.   Reported    What happened             Closed';
    const row = (n: number, what: string) =>
      `${String(n).padEnd(6)}${`${10 + (n % 20)}/06/2025`.padEnd(12)}${what.padEnd(26)}${10 + (n % 20)}/07/2025`;
    const first = page(
      words(
        [
          head,
          ...Array.from({ length: 44 }, (_, i) =>
            row(301 + i, i === 43 ? 'The barrier did not open' : i % 3 ? 'Lamp out' : 'Oil seen on the water'),
          ),
        ],
        { top: 60 },
      ),
    );
    const second = page(
      words(
        [head, `${' '.repeat(18)}until the watchman came`, row(345, 'Lamp out'), row(346, 'Oil seen on the water')],
        { top: 60 },
      ),
      { number: 2 },
    );
    const [{ pieces }] = findTables([first, second]);
    expect(plainRows(pieces[1].readings[0]).slice(0, 3)).toEqual([
      ['No.', 'Reported', 'What happened', 'Closed'],
      ['', '', 'until the watchman came', ''],
      ['345', '15/06/2025', 'Lamp out', '15/07/2025'],
    ]);
    expect(pieces[1].readings[0].rows.map(({ role }) => role)).toEqual(['heading', 'body', 'body', 'body']);
  });

  it('stand under a label that is left alone at the foot of the page before, where it is set as the other labels are', () => {
    const rows = (from: number, many: number) =>
      Array.from(
        { length: many },
        (_, i) => `Lowe ${String(from + i).padEnd(9)}${String(100 + i).padStart(6)}${String(9000 - i).padStart(10)}`,
      );
    const italic = (lines: readonly string[]) =>
      words(lines, { top: 60 }).map((word) =>
        /^(?:Saltby|Holm|Marsh)$/.test(word.text) ? { ...word, italic: true } : word,
      );
    const head = 'Buyer           Lots     Value';
    const second = page(italic([head, ...rows(60, 4)]), { number: 2 });
    const rolesWith = (last: readonly string[]) =>
      findTables([
        page(italic([head, 'Saltby', ...rows(1, 20), 'Holm', ...rows(30, 21), ...last])),
        second,
      ])[0].pieces[0].readings[0].rows.map(({ role }) => role);
    expect(rolesWith(['Marsh']).slice(-2)).toEqual(['body', 'section']);
    // Page by page it is handed over as it is found in all.
    const finder = new TableFinder();
    const first = page(italic([head, 'Saltby', ...rows(1, 20), 'Holm', ...rows(30, 21), 'Marsh']));
    const handed = [...[first, second].flatMap((each) => finder.add(each)), ...finder.end()].flatMap(
      ({ pieces }) => pieces,
    );
    expect(handed).toEqual(finder.tables[0].pieces);
    expect(rolesWith(['Saturday']).filter((role) => role === 'section')).toHaveLength(2);
  });

  it('keep their own where they have as many, or where their words stand across', () => {
    const whole = overleaf(...long.slice(0, 12));
    expect([whole.columns.length, whole.reason]).toEqual([5, expect.not.stringContaining('goes on from')]);
    const other = [
      'Berth 1 of the north   12  1,200',
      'Berth 2 of the north   14  1,400',
      'Berth 3 of the north   19  1,900',
    ];
    const pieces = findTables([
      page(words([line('Date', 'Details', 'Paid out', 'Paid in', 'Balance'), ...long], { top: 60 })),
      page(words(other, { top: 60, left: 61 }), { number: 2 }),
    ]).flatMap((table) => table.pieces);
    expect(pieces.at(-1)!.readings[0].reason).not.toContain('goes on from');
  });
});

describe('wrapped texts', () => {
  it('in two columns of a table are no columns of running text', () => {
    const row = (n: number, name: readonly string[], use: readonly string[], year: string) =>
      Array.from(
        { length: Math.max(name.length, use.length) },
        (_, i) =>
          `${(i === 0 ? String(n) : '').padEnd(5)}${(name[i] ?? '').padEnd(28)}${(use[i] ?? '').padEnd(30)}${i === 0 ? year : ''}`,
      );
    const lines = ['No.  Name                        Place and use                 Since'];
    const long = (first: string) => [
      first,
      'as the outer gate was',
      'shut for two tides and',
      'the pilot boat was out',
      'of the water for a day',
    ];
    for (let n = 1; n <= 9; n++)
      lines.push(
        ...row(
          n,
          n % 2 ? long('Oil and fats held back') : ['Slate'],
          n % 2 ? ['Holm'] : long('Scaur End, moved away'),
          String(2000 + n),
        ),
      );
    const [table, ...others] = read(lines, { pitch: 11 });
    expect(others).toEqual([]);
    expect(table.every((cells) => cells.length === 4)).toBe(true);
    expect(table[1].join(' ')).toContain('2001');
  });

  it('in a list of contents are long, and it is a table all the same', () => {
    const lines = [
      '1 Slate and its uses in the harbours of the north                4',
      '2 Peat and salt, landed by the boats of the outer isles          11',
      '3 Frozen fish, and how it is counted at the gates                17',
      '4 Machinery on its way through the yards                         23',
    ];
    expect(read(lines)[0].map((cells) => cells.at(-1))).toEqual(['4', '11', '17', '23']);
  });
});

describe('two tables are two', () => {
  it('beside each other where hardly a line of one is level with one of the other, however narrow the alley', () => {
    const left = words(
      [
        'No.   Name          Boxes      Value',
        '1     Saltby           41         88',
        '2     Fairlead      5,605      7,164',
        '3     Holm          4,869      8,627',
      ],
      { pitch: 14 },
    );
    const right = words(
      [
        'Goods          2032      2031',
        'Slate          -884        29',
        'Peat             88       727',
        'Grain            84       737',
        'Salt             25       535',
      ],
      { left: 50 + 36 * 5 + 18, top: 107, pitch: 19 },
    );
    const found = findTables([page([...left, ...right])]).map(
      ({ pieces }) => plainRows(pieces[0].readings[0])[0].length,
    );
    expect(found.sort()).toEqual([3, 4]);
  });

  it('where the second heads columns anew', () => {
    const tables = read([
      'Harbour       Calls   Tonnes',
      'Saltby           12      340',
      'Fairlead        140    9,120',
      'Vessel        Berth    Hours',
      'Gannet            4       18',
      'Petrel            9       31',
    ]);
    expect(tables.map((table) => table[0])).toEqual([
      ['Harbour', 'Calls', 'Tonnes'],
      ['Vessel', 'Berth', 'Hours'],
    ]);
  });

  it('beside each other, with the same headings on one line', () => {
    const row = (a: string, b: string) => `${a.padEnd(22)}        ${b}`;
    const side = (name: string, first: number) => [
      `${name.padEnd(10)}  2030  2031`,
      ...['Saltby', 'Fairlead', 'Whin Cove', 'Holm'].map(
        (place, i) =>
          `${place.padEnd(10)}  ${String(first + i * 31).padStart(4)}  ${String(first + i * 17).padStart(4)}`,
      ),
    ];
    const [left, right] = [side('Region', 110), side('Product', 470)];
    const tables = read(left.map((text, i) => row(text, right[i])));
    expect(tables.map((table) => [table.length, table[0].join(' ')])).toEqual([
      [5, 'Region 2030 2031'],
      [5, 'Product 2030 2031'],
    ]);
  });

  it('beside each other with the very same headings, row by row', () => {
    const half = (places: readonly string[], first: number) => [
      'Harbour    Calls  Tonnes',
      ...places.map(
        (place, i) => `${place.padEnd(10)}  ${String(first + i * 7).padStart(4)}  ${String(first * 9 + i).padStart(6)}`,
      ),
    ];
    const [left, right] = [
      half(['Saltby', 'Fairlead', 'Holm', 'Tern Ness'], 12),
      half(['Eastwick', 'Marrow Bay', 'Scaur End', 'Whin Cove'], 41),
    ];
    expect(
      read(left.map((text, i) => `${text.padEnd(24)}      ${right[i]}`)).map((table) => table.map(([first]) => first)),
    ).toEqual([
      ['Harbour', 'Saltby', 'Fairlead', 'Holm', 'Tern Ness'],
      ['Harbour', 'Eastwick', 'Marrow Bay', 'Scaur End', 'Whin Cove'],
    ]);
  });

  it('and running text beside a table is none of it', () => {
    const prose = [
      'The landings of the year were',
      'higher than in any year since',
      'the old pier was rebuilt, and',
      'the harbour masters expect no',
      'change of this in the spring.',
      'Dues are to stay as they are,',
      'but for the smallest vessels,',
      'which will pay by the length.',
    ];
    const table = ['Harbour    Calls', 'Saltby        12', 'Fairlead     140', 'Whin Cove      7', 'Holm          33'];
    const left = words(prose, { pitch: 13 });
    const right = words(table, { left: 260, top: 105, pitch: 17 });
    const found = findTables([page([...left, ...right])]).map(({ pieces }) => plainRows(pieces[0].readings[0]));
    expect(found).toEqual([
      [
        ['Harbour', 'Calls'],
        ['Saltby', '12'],
        ['Fairlead', '140'],
        ['Whin Cove', '7'],
        ['Holm', '33'],
      ],
    ]);
  });
});

describe('headings', () => {
  const body = [
    'Weir pool   39   4.35   0.39   46   2.58   0.45',
    'Mill race   23   5.57   0.77   12   5.70   0.55',
    'Outfall     42   3.45   0.54    9   8.55   0.80',
  ];

  it('over several columns stand over the first of those that they head', () => {
    const [table] = read([
      '                 Spring               Autumn',
      'Site         n   Mean   s.d.    n   Mean   s.d.',
      ...body,
    ]);
    expect(table.slice(0, 2)).toEqual([
      ['', 'Spring', '', '', 'Autumn', '', ''],
      ['Site', 'n', 'Mean', 's.d.', 'n', 'Mean', 's.d.'],
    ]);
  });

  it('over narrow print hang over into the white before the next column, and head their own alone', () => {
    const lines = [
      'Species   Grade          Price',
      '                Low     High     Mean   Change',
      'Cod       1    7.64     8.91    8.275     0.34',
      'Cod       2    6.96     7.43    7.195     0.12',
      'Sole      1    9.15     9.99    9.570     0.02',
    ];
    const { cells } = findTables([page(words(lines))])[0].pieces[0].readings[0];
    expect(
      cells
        .filter(({ text }) => ['Grade', 'Price'].includes(text))
        .map(({ text, column, columnSpan }) => [text, column, columnSpan]),
    ).toEqual([
      ['Grade', 1, 1],
      ['Price', 2, 4],
    ]);
  });

  it('of several lines are one row where each stands over one column', () => {
    const [table] = read(
      [
        '           Average            Days in',
        'Harbour   per call   Tonnes      port',
        'Saltby         340    9,120        12',
        'Fairlead       118    4,055         7',
        'Holm           251      871        33',
      ],
      { pitch: 12 },
    );
    expect(table[0]).toEqual(['Harbour', 'Average per call', 'Tonnes', 'Days in port']);
  });
});

describe('headings of groups and of columns', () => {
  const body = [
    'Saltby      12     14     31     22',
    'Fairlead   140    151     88     91',
    'Holm         7      9     10      4',
  ];

  it('share the columns by the period in which the headings below come again, wherever they stand over them', () => {
    const [table] = read(['              2030         2031', '            In    Out     In    Out', ...body]);
    expect(table[0]).toEqual(['', '2030', '', '2031', '']);
  });

  it('are one over each column where there are as many, though they stand in the white space between', () => {
    const [table] = read(['Harbour  Q1     Q2     Q3     Q4', ...body]);
    expect(table[0]).toEqual(['Harbour', 'Q1', 'Q2', 'Q3', 'Q4']);
  });

  it('leave units in a row of their own, and numbers that count the columns', () => {
    const rules = [across(98, 48, 230), across(142, 48, 230), across(186, 48, 230)];
    const lines = (second: string) => [
      'Harbour    Calls   Weight    Dues',
      second,
      '',
      'Saltby        12       31      22',
      'Fairlead     140       88      91',
      'Holm           7       10       4',
    ];
    expect(read(lines('                     (t)     EUR'), { rules })[0].slice(0, 2)).toEqual([
      ['Harbour', 'Calls', 'Weight', 'Dues'],
      ['', '', '(t)', 'EUR'],
    ]);
    expect(read(lines('   1           2       3       4'), { rules })[0].slice(0, 2)).toEqual([
      ['Harbour', 'Calls', 'Weight', 'Dues'],
      ['1', '2', '3', '4'],
    ]);
  });
});

describe('columns that hardly more than a word space parts', () => {
  it('are told by the edges on which the texts of all lines stand', () => {
    const [table] = read([
      'Code   Harbour   Cargo',
      '181/98 Long Reach Grain',
      '671/9  Old Wall   Salt',
      '98/44  Sable Spit Peat',
      '769/20 Marrow Bay Oil',
      '7/1    Fairlead   Wool',
    ]);
    expect(table[1]).toEqual(['181/98', 'Long Reach', 'Grain']);
    expect(table.map((row) => row.length)).toEqual([3, 3, 3, 3, 3, 3]);
  });

  it('are one where only the words of texts begin alike', () => {
    const [table] = read([
      'Place          Dues',
      'Berth one        12',
      'Berth two        31',
      'Berth six         7',
      'Berth ten        90',
    ]);
    expect(table[1]).toEqual(['Berth one', '12']);
  });

  it('keep two amounts apart where the one reaches out of its column', () => {
    const lines = [
      'Harbour       Paid        Due      Rest',
      'Saltby        38.25       41.50      7.50',
      'Fairlead       9.50        3.25     10.25',
      'Holm      408843     555000          6.50',
      'Whin Cove     61.75       12.50     44.75',
    ];
    expect(read(lines)[0].find(([first]) => first === 'Holm')).toEqual(['Holm', '408843', '555000', '6.50']);
  });
});

describe('rows', () => {
  it('join what opens a bracket with what closes it', () => {
    const [table] = read(
      [
        'Harbour      Weight     Boxes',
        '              (1000',
        '                 t)      (t)',
        'Saltby           12      340',
        'Fairlead        140      912',
        'Whin Cove         7      118',
      ],
      { pitch: 11 },
    );
    expect(table.flat()).not.toContain('t)');
    expect(table.flat().join(' ')).toContain('(1000 t)');
  });

  it('keep a heading over several months apart from the first of these', () => {
    const [table] = read(
      [
        '            Part',
        'Harbour     Jan      Feb      Mar',
        'Saltby       12      340       31',
        'Fairlead    140      912       22',
        'Whin Cove     7      118       10',
      ],
      { pitch: 12 },
    );
    expect(table[1]).toEqual(['Harbour', 'Jan', 'Feb', 'Mar']);
    expect(table[0].join('')).toBe('Part');
  });
});

describe('amounts', () => {
  it('are told with their signs after them, and full rows stay rows', () => {
    const rows = [
      'Harbour      Cargo          Dues         Paid',
      'Saltby       Slate      4,354.65+       90.60-',
      'Fairlead     Grain     60,953.43-   76,963.46+',
      'Holm         Oil       36,207.96-       1.05+',
    ];
    expect(read(rows)[0].map(([first]) => first)).toEqual(['Harbour', 'Saltby', 'Fairlead', 'Holm']);
    const debit = ['Harbour        Dues', 'Saltby       12.40 CR', 'Fairlead     88.10 DR', 'Holm          7.05 CR'];
    expect(read(debit)[0].slice(1)).toEqual([
      ['Saltby', '12.40 CR'],
      ['Fairlead', '88.10 DR'],
      ['Holm', '7.05 CR'],
    ]);
  });

  it('side by side a word space apart are two values, thousands of one number are not', () => {
    expect(read(['Harbour   Calls Dues', 'Saltby       12 9.50', 'Fairlead    140 8.25'])[0][1]).toEqual([
      'Saltby',
      '12',
      '9.50',
    ]);
    expect(
      read(['Harbour      Tonnes', 'Saltby       12 340', 'Fairlead    140 825', 'Holm          9 410'])[0][1],
    ).toEqual(['Saltby', '12 340']);
  });

  it('after a label that nearly reaches them are cells of their own', () => {
    const [table] = read([
      'Goods                          Boxes   Value',
      'Slate                             12      31',
      'Wages, salaries, staff costs     140     188',
      'Peat                               7      10',
    ]);
    expect(table.map((row) => row.length)).toEqual([3, 3, 3, 3]);
    expect(table[2]).toEqual(['Wages, salaries, staff costs', '140', '188']);
  });
});

describe('readings of another extent', () => {
  const readings = (lines: readonly string[], how: Printed = {}) =>
    findTables([page(words(lines, how))])[0].pieces[0].readings;

  it('offer the table with the line that stands just below it, and say which', () => {
    const offered = readings([
      'Harbour     Calls   Tonnes',
      'Saltby         12      340',
      'Fairlead      140    9,120',
      'Whin Cove       7      118',
      'counted at the gates',
    ]);
    const more = offered.find(({ name }) => name === 'with the line below')!;
    expect(plainRows(more)).toHaveLength(5);
    expect(more.reason).toContain('“counted at the gates” is taken in');
  });

  it('offer two like tables under each other as one', () => {
    const rows = (first: string) => [
      first,
      'Saltby         12      340',
      'Fairlead      140    9,120',
      'Whin Cove       7      118',
    ];
    const offered = readings([...rows('Harbour     Calls   Tonnes'), '', '', ...rows('Vessel      Hours     Crew')]);
    expect(plainRows(offered.find(({ name }) => name === 'joined with the next table')!)).toHaveLength(8);
  });

  it('offer none where nothing stands near', () => {
    expect(
      readings(['Harbour     Calls   Tonnes', 'Saltby         12      340', 'Fairlead      140    9,120'])
        .map(({ name }) => name)
        .filter((name) => /line (?:above|below)|joined|widest/.test(name)),
    ).toEqual([]);
  });
});

describe('titles and pages', () => {
  const table = (first: string) => [
    first,
    'Saltby           12      340',
    'Fairlead        140    9,120',
    'Whin Cove         7      118',
  ];

  it('take a caption below a table that is nearer to it than to the next', () => {
    const lines = [
      ...table('Harbour       Calls   Tonnes'),
      'Table 1: Calls of the year',
      '',
      '',
      ...table('Vessel        Berth    Hours'),
      'Table 2: Berths in use',
    ];
    expect(findTables([page(words(lines))]).map(({ title }) => title)).toEqual([
      'Table 1: Calls of the year',
      'Table 2: Berths in use',
    ]);
  });

  it('take the title and not the line that gives the units', () => {
    const lines = ['Calls and tonnes', '(in thousands)', ...table('Harbour       Calls   Tonnes')];
    expect(findTables([page(words(lines, { bold: (_, line) => line === 0 }))])[0].title).toBe('Calls and tonnes');
  });

  it('take a bold line just below where none stands above, and no line of dashes', () => {
    const below = [
      ...table('Harbour       Calls   Tonnes'),
      'Calls of the year at all',
      '',
      '',
      'The clerks ask that all slips be handed in before noon on the day',
    ];
    expect(findTables([page(words(below, { bold: (_, line) => line === 4 }))])[0].title).toBe(
      'Calls of the year at all',
    );
    const typed = ['Table 3 Calls of the year', '------------------------', ...table('Harbour       Calls   Tonnes')];
    expect(findTables([page(words(typed))])[0].title).toBe('Table 3 Calls of the year');
  });

  it('do without one where the next line stands on both sides of the table and not below it', () => {
    const inner = words(table('Harbour       Calls   Tonnes'), { left: 150 });
    const around = words(['left                                                            right'], {
      left: 50,
      top: 158,
    });
    expect(findTables([page([...inner, ...around])])[0].title).toBeUndefined();
  });

  it('link pages by the edges of the columns, but not columns that go on to the right', () => {
    const rows = Array.from(
      { length: 40 },
      (_, i) => `Berth ${String(i).padEnd(6)}  ${String(100 + i).padStart(5)}   ${String(900 - i).padStart(6)}`,
    );
    const first = page(words(['Harbour       Calls   Tonnes', ...rows], { top: 60 }));
    const goesOn = page(words(rows.slice(0, 9), { top: 60 }), { number: 2 });
    const right = page(words(['Vessel        Hours     Crew', ...rows.slice(0, 9)], { top: 60 }), { number: 2 });
    expect(findTables([first, goesOn]).map(({ pieces }) => pieces.length)).toEqual([2]);
    expect(findTables([first, right]).map(({ pieces }) => pieces.length)).toEqual([1, 1]);
  });
});
