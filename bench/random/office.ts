import { cell, headings, left, look, money, numbersOf, right, wrapping } from './business';
import { figuresOf, goods, places, randomSheet, remarks, sentence, type Random } from './random-sheet';
import type { Block, Cell, Column, Row, Sheet } from './sheet';

const people = [
  'A. Merrow',
  'K. Starling',
  'B. Quill',
  'S. Eastmarch',
  'T. Okehurst',
  'D. van Holm',
  'I. Brackwell',
  'L. Northgill',
  'W. Sandler',
];
const departments = ['Harbour office', 'Dredging', 'Pilots', 'Stores', 'Lights and buoys', 'Accounts'];
const body = (texts: readonly string[], more: Partial<Row> = {}): Row => ({
  kind: 'body',
  cells: texts.map(cell),
  ...more,
});
const prose = (r: Random, sentences: number): Block => ({
  kind: 'prose',
  text: Array.from({ length: sentences }, () => sentence(r)).join(' '),
});

/** Measurements of each hour of a day in many narrow columns, with the least and the most of the day below. */
function hourly(r: Random, properties: Set<string>): Block[] {
  properties.add('hourly');
  const names = r.some(
    ['Temp', 'Wind', 'Gust', 'Dir', 'Press', 'Rain', 'Level', 'Wave', 'Vis', 'Hum', 'Sea', 'Flow'],
    r.whole(4, 11),
  );
  const figures = names.map(() =>
    figuresOf(numbersOf(r), r.one([40, 400, 1100]), r.one([0, 1, 1]), { negative: 0.05, nil: 0.03 }),
  );
  const columns: Column[] = [left, ...names.map(() => right)];
  const row = (label: string, more: Partial<Row> = {}) => body([label, ...figures.map((own) => own(r))], more);
  const units = r.chance(0.4)
    ? [
        {
          kind: 'heading',
          cells: [undefined, ...names.map((): Cell => ({ text: r.one(['°C', 'm/s', 'hPa', 'mm', 'cm', '%']) }))],
        } satisfies Row,
      ]
    : [];
  const rows = [
    headings([r.one(['Hour', 'Time', '']), ...names], r.chance(0.3)),
    ...units,
    ...Array.from({ length: 24 }, (_, hour) =>
      row(r.chance(0.5) ? String(hour).padStart(2, '0') : `${String(hour).padStart(2, '0')}:00`),
    ),
  ];
  const closing = r
    .some(['Min', 'Max', 'Mean'], r.whole(0, 3))
    .map((label, i) => row(label, { kind: 'total', bold: true, ruleAbove: i === 0 ? 'row' : undefined }));
  const sheet: Sheet = {
    ...look(r, ['none', 'zebra', 'grid', 'booktabs', 'rows', 'upright']),
    title: 'Readings of the day',
    columns,
    headingRows: 1 + units.length,
    rows: [...rows, ...closing],
    size: r.one([6.5, 7, 8]),
    level: 'top',
  };
  return [sheet, ...(r.chance(0.5) ? [prose(r, 2)] : [])];
}

/** What is done when and by whom: no figures but times. */
function agenda(r: Random, properties: Set<string>): Block[] {
  properties.add('agenda');
  const ranges = r.chance(0.5);
  const rooms = r.chance(0.4);
  const rows = Array.from({ length: r.whole(4, 12) }, (_, i): Row => {
    const time = `${String(8 + i).padStart(2, '0')}:${r.one(['00', '15', '30'])}`;
    return body([
      ranges ? `${time}–${String(9 + i).padStart(2, '0')}:00` : time,
      `${r.one(['Report on', 'Vote on', 'Discussion of', 'Review of'])} the ${r.one(goods).toLowerCase()}${r.chance(0.4) ? `, ${r.one(remarks)}` : ''}`,
      r.one(people),
      ...(rooms ? [r.one(['Hall', 'Room 2', 'Yard office'])] : []),
    ]);
  });
  const columns = [left, wrapping(r.whole(28, 44)), left, ...(rooms ? [left] : [])];
  return [
    prose(r, 2),
    {
      ...look(r, ['none', 'none', 'rows', 'grid', 'zebra']),
      columns,
      headingRows: 1,
      rows: [headings(['Time', 'Item', 'Speaker', ...(rooms ? ['Place'] : [])], false), ...rows],
    },
  ];
}

/** Names and where to reach them, under the letters or departments by which they are ordered. */
function directory(r: Random, properties: Set<string>): Block[] {
  properties.add('directory');
  const grouped = r.chance(0.5);
  const mailed = r.chance(0.5);
  const columns = [left, ...(grouped ? [] : [left]), left, ...(mailed ? [left] : [])];
  const rows = r.some(departments, r.whole(2, 5)).flatMap((department): Row[] => [
    ...(grouped
      ? [
          {
            kind: 'section' as const,
            bold: true,
            cells: columns.map((_, c) => (c === 0 ? { text: department } : undefined)),
          },
        ]
      : []),
    ...r
      .some(people, r.whole(2, 4))
      .map((name) =>
        body([
          name,
          ...(grouped ? [] : [department]),
          `0${r.whole(30, 79)} ${r.whole(100, 999)} ${r.whole(100, 999)}`,
          ...(mailed ? [`${name.split(' ').at(-1)!.toLowerCase()}@northreach.example`] : []),
        ]),
      ),
  ]);
  return [
    {
      ...look(r, ['none', 'none', 'rows', 'grid', 'zebra']),
      columns,
      headingRows: 1,
      rows: [
        headings(['Name', ...(grouped ? [] : ['Department']), 'Telephone', ...(mailed ? ['Mail'] : [])], r.chance(0.3)),
        ...rows,
      ],
    },
  ];
}

/** A slide: a few rows in large type, with points beside or below. */
function slide(r: Random, properties: Set<string>): Block[] {
  properties.add('slide');
  const sheet: Sheet = {
    ...randomSheet(r, properties, 6, { rows: r.whole(3, 7) }),
    size: r.whole(12, 17),
    pitch: r.one([1.6, 2, 2.4]),
    spreads: true,
  };
  const points: Block = { kind: 'points', texts: Array.from({ length: r.whole(2, 4) }, () => sentence(r)) };
  return [{ kind: 'heading', text: 'The quarter at a glance' }, sheet, points];
}

/** Figures in tiles on top, small tables below. */
function figuresAtAGlance(r: Random, properties: Set<string>): Block[] {
  properties.add('tiles');
  const amount = money(r);
  const count = r.whole(3, 5);
  const labels = r.some(
    ['Calls', 'Tonnes handled', 'Dues', 'Vessels in port', 'Opening balance', 'Closing balance', 'Staff'],
    count,
  );
  const tiles: Block = {
    kind: 'tiles',
    labels,
    figures: labels.map(() => r.one([amount(r), String(r.whole(3, 900)), `${r.whole(1, 99)}%`])),
    framed: r.chance(0.5),
    labelsBelow: r.chance(0.4),
  };
  const change = (own: Random) => `${own.one(['▲ ', '▼ '])}${own.whole(0, 20)}.${own.whole(0, 9)}%`;
  const rows = r
    .some(places, r.whole(3, 8))
    .map((place) => body([place, String(r.whole(10, 900)), amount(r), change(r)]));
  const sheet: Sheet = {
    ...look(r, ['none', 'rows', 'zebra', 'heading band', 'booktabs']),
    title: 'By harbour',
    columns: [left, right, right, right],
    headingRows: 1,
    rows: [headings(['Harbour', 'Calls', 'Dues', 'Change'], r.chance(0.4)), ...rows],
  };
  return [tiles, sheet, ...(r.chance(0.4) ? [randomSheet(r, properties, 5, { rows: r.whole(3, 8) })] : [])];
}

/** Lines of a savings book or a giro account: dates without marks, short codes, signs after the amounts. */
function passbook(r: Random, properties: Set<string>): Block[] {
  properties.add('passbook');
  const amount = money(r, 99000);
  const signs = r.one([
    ['-', '+'],
    [' S', ' H'],
    [' DR', ' CR'],
    ['-', ''],
  ]);
  const apart = r.chance(0.5);
  const columns = apart ? [left, left, right, right, right] : [left, left, left, right, right];
  const names = apart
    ? ['Date', 'Code', 'Withdrawn', 'Paid in', 'Balance']
    : ['Date', 'Value', 'Text', 'Amount', 'Balance'];
  const rows = Array.from({ length: r.whole(6, 30) }, (_, i): Row => {
    const date = `${String(1 + (i % 28)).padStart(2, '0')}${r.one(['.', '/', ' '])}${String(r.whole(1, 12)).padStart(2, '0')}`;
    const out = r.chance(0.5);
    if (apart)
      return body([
        date,
        r.one(['ATM', 'SAL', 'DD', 'INT', 'CHQ']),
        out ? amount(r) : '',
        out ? '' : amount(r),
        `${r.one(['', '', '**'])}${amount(r)}`,
      ]);
    return body([
      date,
      date,
      `${r.one(['Transfer', 'Salary', 'Fees', 'Standing order'])} ${r.one(places)}`,
      `${amount(r)}${signs[out ? 0 : 1]}`,
      `${amount(r)}${signs[1]}`,
    ]);
  });
  const ends = (label: string): Row => ({
    kind: 'total',
    bold: r.chance(0.4),
    cells: [undefined, { text: label }, ...columns.slice(3).map(() => undefined), { text: amount(r) }],
  });
  return [
    { kind: 'address', lines: [r.one(people), `${r.whole(1, 90)} Quay Road`, 'Northreach'] },
    {
      ...look(r, ['none', 'none', 'rows', 'booktabs', 'zebra', 'grid', 'upright']),
      columns,
      headingRows: 1,
      rows: [headings(names, false), ends('Old balance'), ...rows, ends('New balance')],
    },
  ];
}

/** What a report holds and on which page: dots lead to the numbers, parts have none. */
function contents(r: Random, properties: Set<string>): Block[] {
  properties.add('contents');
  let on = r.whole(1, 4);
  const parts = r.chance(0.5);
  const entry = (text: string, indent: number, bold = false): Row => ({
    kind: 'body',
    bold,
    cells: [{ text, ...(indent ? { indent } : {}) }, { text: String((on += r.whole(0, 6))) }],
  });
  const rows = Array.from({ length: r.whole(3, 6) }, (_, i): Row[] => [
    ...(parts && i % 2 === 0
      ? [
          {
            kind: 'section' as const,
            bold: true,
            room: r.chance(0.5) ? 0.6 : undefined,
            cells: [{ text: `Part ${['One', 'Two', 'Three'][i / 2]}` }, undefined],
          },
        ]
      : []),
    entry(`${i + 1} ${r.one(goods)} and ${r.one(remarks)}`, 0, r.chance(0.6)),
    ...Array.from({ length: r.whole(0, 4) }, (__, n) =>
      entry(`${i + 1}.${n + 1} ${r.one(goods)} at ${r.one(places)}`, 1),
    ),
  ]).flat();
  return [
    { kind: 'heading', text: 'Contents' },
    {
      ...look(r, ['none']),
      columns: [left, right],
      headingRows: 0,
      rows,
      leaders: r.chance(0.7),
      spreads: true,
      level: 'top',
    },
  ];
}

/** A short report in prose with a small table or two between. */
function brief(r: Random, properties: Set<string>): Block[] {
  properties.add('brief');
  const sheets = Array.from({ length: r.whole(1, 2) }, () => randomSheet(r, properties, 5, { rows: r.whole(3, 7) }));
  const text = (): Block[] => [
    { kind: 'heading', text: r.one(['Sales', 'Dues', 'Outlook', 'Staff']) },
    prose(r, r.whole(3, 7)),
  ];
  if (r.chance(0.5)) return [...text(), ...sheets.flatMap((sheet) => [sheet, ...text()])];
  return [
    { kind: 'beside', left: [...text(), sheets[0], prose(r, 4)], right: [prose(r, 6), ...sheets.slice(1), ...text()] },
  ];
}

/** What stands on a paper of the kinds that offices send around. */
export const officePaper = (r: Random, properties: Set<string>): Block[] =>
  r.one([contents, hourly, agenda, directory, slide, figuresAtAGlance, passbook, brief, brief])(r, properties);
