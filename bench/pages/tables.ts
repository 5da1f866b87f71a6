import { random } from '../../demo/random';
import type { Block, Cell, Paper, Style, Table } from './paper';

type Random = ReturnType<typeof random>;

const nouns = [
  'harbour',
  'quay',
  'vessel',
  'berth',
  'cargo',
  'crane',
  'tide',
  'gauge',
  'buoy',
  'pilot',
  'tonnage',
  'lock',
  'basin',
  'dredger',
  'signal',
  'warehouse',
  'ferry',
  'slipway',
  'mooring',
  'channel',
];
const verbs = [
  'records',
  'follows',
  'exceeds',
  'describes',
  'limits',
  'measures',
  'replaces',
  'shows',
  'supports',
  'requires',
];
const small = ['the', 'a', 'each', 'this', 'every', 'its'];
const places = [
  'Northreach',
  'Eastwick',
  'Sable Point',
  'Gannet Holm',
  'Marrow Bay',
  'Tern Ness',
  'Old Staithe',
  'Kelder Mouth',
  'Long Strand',
  'Whin Cove',
  'Fairlead',
  'Scaur End',
];
const goods = [
  'Bulk cement',
  'Timber, sawn',
  'Fertiliser',
  'Road salt',
  'Frozen fish',
  'Steel coil',
  'Grain',
  'Machinery',
  'Containers, 20 ft',
  'Containers, 40 ft',
  'Scrap metal',
  'Peat',
];
const cell = (text: string, more: Partial<Cell> = {}): Cell => ({ text, ...more });

export function sentence(r: Random): string {
  const part = () => `${r.one(small)} ${r.one(nouns)} ${r.one(verbs)} ${r.one(small)} ${r.one(nouns)}`;
  const text = r.chance(0.5)
    ? `${part()} when ${part()}`
    : `${part()}, and ${part()} of ${r.whole(2, 90)} ${r.one(nouns)}s`;
  return `${text[0].toUpperCase()}${text.slice(1)}.`;
}
export const prose = (r: Random, sentences: number): Block => ({
  kind: 'prose',
  text: Array.from({ length: sentences }, () => sentence(r)).join(' '),
});
const amount = (r: Random, most = 900000) => r.whole(0, r.chance(0.3) ? 900 : most).toLocaleString('en-GB');
const money = (r: Random) => (r.whole(100, 9_000_000) / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 });
const share = (r: Random) => (r.whole(-300, 999) / 10).toFixed(1).replace('-', '−');

export function statistics(r: Random, style: Style, columns = 5, count = 9): Table {
  const names = r.some(places, count);
  const years = Array.from({ length: columns }, (_, i) => cell(String(2019 + i), { bold: true }));
  const body = names.map((name) => [
    cell(name),
    ...Array.from({ length: columns }, () => cell(r.chance(0.08) ? '–' : amount(r))),
  ]);
  return {
    kind: 'table',
    title: `Tonnes handled by ${r.one(nouns)}, 2019 to ${2018 + columns}`,
    style,
    align: `l${'r'.repeat(columns)}`,
    headingRows: 1,
    rows: [
      [cell('Harbour', { bold: true }), ...years],
      ...body,
      [
        cell('Total', { bold: true }),
        ...Array.from({ length: columns }, () => cell(amount(r, 9_000_000), { bold: true })),
      ],
    ],
  };
}

export function plannedAndActual(r: Random, style: Style): Table {
  const head = [
    [
      cell('Cargo', { rows: 2, bold: true }),
      ...['January', 'February', 'March'].map((m) => cell(m, { columns: 2, bold: true })),
    ],
    ['Planned', 'Actual', 'Planned', 'Actual', 'Planned', 'Actual'].map((t) => cell(t, { bold: true })),
  ];
  return {
    kind: 'table',
    title: 'Planned and actual tonnes of the quarter',
    style,
    align: 'lrrrrrr',
    headingRows: 2,
    rows: [...head, ...r.some(goods, 8).map((g) => [cell(g), ...Array.from({ length: 6 }, () => cell(amount(r)))])],
  };
}

/** Groups of rows under a label that spans them. */
export function grouped(r: Random, style: Style): Table {
  const rows: Cell[][] = [
    [
      cell('Harbour', { bold: true }),
      cell('Cargo', { bold: true }),
      cell('Tonnes', { bold: true }),
      cell('Change %', { bold: true }),
    ],
  ];
  for (const place of r.some(places, 4))
    r.some(goods, 3).forEach((good, i) =>
      rows.push([...(i === 0 ? [cell(place, { rows: 3 })] : []), cell(good), cell(amount(r)), cell(share(r))]),
    );
  return { kind: 'table', title: 'Cargo by harbour', style, align: 'llrr', headingRows: 1, rows };
}

/** Options of a command and what they do: two or three columns of words, the last wrapped. */
export function options(r: Random, style: Style): Table {
  const rows: Cell[][] = [
    [cell('Setting', { bold: true }), cell('Default', { bold: true }), cell('Meaning', { bold: true })],
  ];
  for (const noun of r.some(nouns, 7))
    rows.push([
      cell(`${noun}_${r.one(['limit', 'rate', 'mode', 'size'])}`),
      cell(r.one(['off', 'on', '12', '250 ms', 'auto'])),
      cell(Array.from({ length: r.whole(1, 3) }, () => sentence(r)).join(' ')),
    ]);
  return { kind: 'table', title: 'Settings of the gauge', style, align: 'llp', headingRows: 1, rows };
}

/** Coefficients with stars, and below each its standard error in brackets. */
export function estimates(r: Random, style: Style): Table {
  const rows: Cell[][] = [[cell(''), ...['(1)', '(2)', '(3)', '(4)'].map((t) => cell(t))]];
  for (const name of ['Wind speed', 'Tide range', 'Draught', 'Crew size']) {
    const given = [0, 1, 2, 3].map(() => r.chance(0.8));
    rows.push([
      cell(name),
      ...given.map((g) =>
        cell(g ? `${(r.whole(-999, 999) / 1000).toFixed(3).replace('-', '−')}${r.one(['', '*', '**', '***'])}` : ''),
      ),
    ]);
    rows.push([cell(''), ...given.map((g) => cell(g ? `(${(r.whole(10, 99) / 1000).toFixed(3)})` : ''))]);
  }
  rows.push([cell('Observations'), ...[0, 1, 2, 3].map(() => cell(amount(r, 9000)))]);
  return { kind: 'table', title: 'Determinants of turnaround time', style, align: 'lcccc', headingRows: 1, rows };
}

export function statement(r: Random, style: Style): Table {
  const rows: Cell[][] = [['Date', 'Details', 'Paid out', 'Paid in', 'Balance'].map((t) => cell(t, { bold: true }))];
  rows.push([cell('01 Mar 2025'), cell('Opening balance'), cell(''), cell(''), cell(money(r))]);
  for (let day = 2; day < 20; day += r.whole(1, 3)) {
    const out = r.chance(0.6);
    rows.push([
      cell(`${String(day).padStart(2, '0')} Mar 2025`),
      cell(
        r.chance(0.4)
          ? `Berth dues ${r.one(places)} note ${r.whole(1000, 9999)} paid by transfer, ref. ${r.whole(100000, 999999)}`
          : `Transfer ${r.one(places)}`,
      ),
      cell(out ? money(r) : ''),
      cell(out ? '' : money(r)),
      cell(money(r)),
    ]);
  }
  return { kind: 'table', title: 'Account 4471', style, align: 'lprrr', headingRows: 1, rows };
}

export function symbols(r: Random, style: Style): Table {
  const rows: Cell[][] = [['Quantity', 'Symbol', 'Value', 'Unit'].map((t) => cell(t, { bold: true }))];
  for (const [name, symbol, unit] of [
    ['Depth at chart datum', 'D', 'm'],
    ['Mean tide range', 'R', 'm'],
    ['Current', 'v', 'm/s'],
    ['Sand grain', 'd', 'mm'],
    ['Water density', 'W', 'kg/m³'],
    ['Swell period', 'T', 's'],
  ])
    rows.push([cell(name), cell(symbol), cell((r.whole(1, 90000) / 100).toString()), cell(unit)]);
  return { kind: 'table', title: 'Quantities used', style, align: 'lcrl', headingRows: 1, rows };
}

export const tiny = (r: Random, style: Style): Table => ({
  kind: 'table',
  title: 'Berths in use',
  style,
  align: 'lrr',
  headingRows: 1,
  rows: [
    ['', 'East', 'West'].map((t) => cell(t)),
    ...['Day', 'Night'].map((t) => [cell(t), cell(String(r.whole(2, 40))), cell(String(r.whole(2, 40)))]),
  ],
});

export function listing(r: Random, style: Style, count: number, repeats: boolean): Table {
  const rows: Cell[][] = [['Entry', 'Vessel', 'From', 'Tonnes', 'Dues'].map((t) => cell(t, { bold: true }))];
  for (let i = 1; i <= count; i++)
    rows.push([
      cell(`E${10000 + i * 7}`),
      cell(`${r.one(['Grey', 'Little', 'Bright', 'Far'])} ${r.one(['Gannet', 'Heron', 'Petrel', 'Curlew', 'Dunlin'])}`),
      cell(r.one(places)),
      cell(amount(r, 40000)),
      cell(money(r)),
    ]);
  return { kind: 'table', title: 'Register of arrivals', style, align: 'lllrr', headingRows: 1, rows, repeats };
}

/** Rows under section labels, with values only here and there. */
export function sections(r: Random, style: Style): Table {
  const rows: Cell[][] = [['Class', 'Q1', 'Q2', 'Q3', 'Q4'].map((t) => cell(t, { bold: true }))];
  for (const section of ['Dry bulk', 'Liquid bulk', 'General cargo']) {
    rows.push([cell(section, { bold: true }), ...Array.from({ length: 4 }, () => cell(''))]);
    for (const good of r.some(goods, 3))
      rows.push([
        cell(good, { indent: true }),
        ...Array.from({ length: 4 }, () => cell(r.chance(0.7) ? amount(r, 90000) : '')),
      ]);
  }
  return { kind: 'table', title: 'Cargo classes by quarter', style, align: 'lrrrr', headingRows: 1, rows };
}

const references = (r: Random): Block => ({
  kind: 'references',
  texts: Array.from(
    { length: 9 },
    (_, i) =>
      `[${i + 1}] ${r.one(['A.', 'B.', 'K.', 'R.'])} ${r.one(['Haldane', 'Merrow', 'Quill', 'Starling'])}. ${sentence(r)} Harbour Notes, ${r.whole(1, 40)}(${r.whole(1, 4)}):${r.whole(1, 90)}–${r.whole(91, 300)}, ${r.whole(1991, 2024)}.`,
  ),
});
const code = (r: Random): Block => ({
  kind: 'code',
  lines: [
    'for (let i = 0; i < berths.length; i += 1) {',
    `  const depth = gauge[i] * ${r.whole(2, 9)};`,
    '  if (depth > limit) {',
    '    warn(i, depth);',
    '  } else {',
    `    total  =  total + ${r.whole(10, 99)};`,
    '  }',
    '}',
  ],
});
const points = (r: Random, numbered: boolean): Block => ({
  kind: 'points',
  numbered,
  texts: Array.from({ length: 6 }, (_, i) => (i % 2 ? sentence(r) : `${sentence(r)} ${sentence(r)}`)),
});
const heading = (text: string): Block => ({ kind: 'heading', text });
const formula: Block = {
  kind: 'formula',
  latex:
    '\\frac{\\partial h}{\\partial t} + \\sum_{i=1}^{n} \\frac{Q_i}{A} = \\left( \\begin{array}{c} a \\\\ b \\end{array} \\right) \\qquad (3)',
  plain: 'h = sum Q / A      (3)',
};

/** The papers that every writer sets, each seeded by its own name. */
export function papers(seed = 7): Paper[] {
  const paper = (name: string, blocks: (r: Random) => Block[], twoColumns = false): Paper => ({
    name,
    twoColumns,
    blocks: blocks(random([...name].reduce((sum, c) => Math.imul(sum, 31) + c.charCodeAt(0), seed))),
  });
  return [
    paper('report', (r) => [
      heading('Quarterly notes'),
      prose(r, 4),
      statistics(r, 'booktabs'),
      prose(r, 3),
      plannedAndActual(r, 'booktabs'),
      prose(r, 2),
    ]),
    paper('ledger', (r) => [heading('Statement of account'), statement(r, 'lines'), prose(r, 1)]),
    paper('manual', (r) => [
      heading('Setting up the gauge'),
      prose(r, 3),
      points(r, false),
      options(r, 'booktabs'),
      prose(r, 2),
      code(r),
    ]),
    paper('manual-grid', (r) => [
      heading('Reference'),
      prose(r, 2),
      options(r, 'grid'),
      prose(r, 2),
      symbols(r, 'grid'),
    ]),
    paper(
      'article',
      (r) => [
        heading('On turnaround'),
        prose(r, 9),
        estimates(r, 'booktabs'),
        prose(r, 8),
        symbols(r, 'booktabs'),
        prose(r, 9),
        formula,
        prose(r, 8),
        references(r),
      ],
      true,
    ),
    paper(
      'article-prose',
      (r) => [
        heading('A survey'),
        prose(r, 12),
        heading('Method'),
        prose(r, 9),
        formula,
        points(r, true),
        prose(r, 8),
        code(r),
        prose(r, 6),
        references(r),
      ],
      true,
    ),
    paper('words', (r) => [
      heading('A walk along the quay'),
      prose(r, 6),
      points(r, true),
      prose(r, 5),
      code(r),
      formula,
      prose(r, 4),
      references(r),
    ]),
    paper('plain', (r) => [
      heading('Figures'),
      prose(r, 3),
      statistics(r, 'plain', 4, 8),
      prose(r, 3),
      symbols(r, 'plain'),
      prose(r, 3),
      tiny(r, 'plain'),
    ]),
    paper('groups', (r) => [heading('Groups'), grouped(r, 'booktabs'), prose(r, 3), grouped(r, 'grid')]),
    paper('groups-lines', (r) => [heading('Groups'), grouped(r, 'lines'), prose(r, 3), sections(r, 'plain')]),
    paper('zebra', (r) => [
      heading('Shaded'),
      prose(r, 2),
      statistics(r, 'zebra', 6, 10),
      prose(r, 2),
      sections(r, 'zebra'),
    ]),
    paper('boxed', (r) => [
      heading('Boxed'),
      prose(r, 2),
      plannedAndActual(r, 'boxed'),
      prose(r, 2),
      symbols(r, 'boxed'),
    ]),
    paper('tight', (r) => [
      heading('Tight'),
      prose(r, 2),
      { ...statistics(r, 'plain', 8, 10), tight: true },
      prose(r, 2),
      { ...plannedAndActual(r, 'lines'), tight: true },
    ]),
    paper('estimates', (r) => [
      heading('Estimates'),
      prose(r, 3),
      estimates(r, 'booktabs'),
      prose(r, 3),
      estimates(r, 'plain'),
    ]),
    paper('register', (r) => [heading('Register'), listing(r, 'booktabs', 130, true)]),
    paper('register-once', (r) => [heading('Register'), listing(r, 'plain', 120, false)]),
    paper('captions-below', (r) => [
      heading('Captions below'),
      prose(r, 3),
      { ...statistics(r, 'booktabs', 3, 6), titleBelow: true },
      prose(r, 3),
      { ...grouped(r, 'lines'), titleBelow: true },
      prose(r, 2),
    ]),
  ];
}
