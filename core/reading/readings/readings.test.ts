import { describe, expect, it } from 'vitest';
import type { PageContent, TaggedTable } from '../../page/page';
import { across, down, page, words } from '../../testing/print';
import { findTables } from '../find-tables';
import { plainRows, type Reading } from '../found-table';

const readingsOf = (of: PageContent) => findTables([of])[0].pieces[0].readings;
const named = (readings: readonly Reading[], name: Reading['name']) =>
  readings.find((reading) => reading.name === name);

describe('the tagged reading', () => {
  /** Every word a piece of marked content of its own, numbered in the order of the words. */
  const tagged = (lines: readonly string[], table: (numbers: number[]) => TaggedTable): PageContent => {
    const print = words(lines).map((word, tag) => ({ ...word, tag }));
    return { ...page(print), tagged: [table(print.map((_, i) => i))] };
  };
  const row = (...cells: number[][]) => ({ cells: cells.map((content) => ({ heading: false, content })) });

  it('takes cells and rows from the tags, and puts a heading over the columns in whose middle it stands', () => {
    const lines = ['          Weights', 'Code    Full    Net', 'A1        12     10', 'A2       140     95'];
    const printed = tagged(lines, ([weight, ...n]) => ({
      caption: [],
      rows: [row([], [weight]), row([n[0]], [n[1]], [n[2]]), row([n[3]], [n[4]], [n[5]]), row([n[6]], [n[7]], [n[8]])],
    }));
    const reading = named(readingsOf(printed), 'tagged')!;
    expect(plainRows(reading)).toEqual([
      ['', 'Weights', ''],
      ['Code', 'Full', 'Net'],
      ['A1', '12', '10'],
      ['A2', '140', '95'],
    ]);
    expect(reading.cells.find((cell) => cell.text === 'Weights')).toMatchObject({ column: 1, columnSpan: 2 });
  });

  it('keeps the words of one cell together over several lines', () => {
    const lines = ['Key   Meaning', 'rate  how often the gauge', '      is looked at', 'mode  tide or depth'];
    const printed = tagged(lines, (n) => ({
      caption: [],
      rows: [row([n[0]], [n[1]]), row([n[2]], n.slice(3, 10)), row([n[10]], n.slice(11))],
    }));
    expect(plainRows(named(readingsOf(printed), 'tagged')!)).toEqual([
      ['Key', 'Meaning'],
      ['rate', 'how often the gauge is looked at'],
      ['mode', 'tide or depth'],
    ]);
  });

  it('takes heading rows and the title from the tags, where they name them', () => {
    const lines = ['Depths at low water', '', '', 'Key   Meaning', 'rate  of the gauge', 'mode  of the tide'];
    const printed = tagged(lines, ([depths, at, low, water, key, meaning, ...n]) => ({
      caption: [depths, at, low, water],
      rows: [
        {
          cells: [
            { heading: true, content: [key] },
            { heading: true, content: [meaning] },
          ],
        },
        row([n[0]], n.slice(1, 4)),
        row([n[4]], n.slice(5)),
      ],
    }));
    const [table] = findTables([printed]);
    expect(table.title).toBe('Depths at low water');
    const reading = named(table.pieces[0].readings, 'tagged')!;
    expect(reading.headingRows).toBe(1);
    expect(reading.rows.map((each) => each.role)).toEqual(['heading', 'body', 'body']);
  });

  it('is none where the tags do not agree with what is printed', () => {
    const lines = ['Code    Full    Net', 'A1        12     10', 'A2       140     95'];
    const printed = tagged(lines, (n) => ({
      caption: [],
      rows: [row([n[0], n[4]], [n[1]], [n[2]]), row([n[3]], [n[7]], [n[5]]), row([n[6]], [n[8], n[0]], [n[1]])],
    }));
    expect(named(readingsOf(printed), 'tagged')).toBeUndefined();
  });
});

describe('the ruled reading', () => {
  it('parts the rows of a mesh by its keys, where these are no wrapped text', () => {
    const text = words(
      ['l     set to the left', 'c     set in the middle', 'r     set to the right and', '      never hyphenated'],
      { left: 52, top: 102 },
    );
    const rules = [
      ...[98, 160].map((y) => across(y, 48, 210)),
      ...[48, 76, 210].map((x) => down(x, 98, 160)),
      across(98, 48, 210),
      across(178, 48, 210),
      ...[48, 76, 210].map((x) => down(x, 160, 178)),
    ];
    const last = words(['x     none'], { left: 52, top: 163 });
    const [best] = readingsOf(page([...text, ...last], { rules }));
    expect(plainRows(best)).toEqual([
      ['l', 'set to the left'],
      ['c', 'set in the middle'],
      ['r', 'set to the right and never hyphenated'],
      ['x', 'none'],
    ]);
  });

  it('parts heading rows where a rule down begins between them', () => {
    const text = words(['        Weight', 'Code   Full  Net', 'A1       12   10', 'A2      140   95'], {
      left: 52,
      top: 102,
    });
    const rules = [
      across(98, 48, 140),
      across(128, 48, 140),
      across(158, 48, 140),
      ...[48, 78, 140].map((x) => down(x, 98, 158)),
      down(115, 114, 158),
    ];
    expect(plainRows(readingsOf(page(text, { rules }))[0])).toEqual([
      ['', 'Weight', ''],
      ['Code', 'Full', 'Net'],
      ['A1', '12', '10'],
      ['A2', '140', '95'],
    ]);
  });

  it('is none for a drawing, whose lines hold few texts in meshes of their own', () => {
    const text = words(['  Plot region', '', 'mai', '    3.0', '1.5 margin'], { left: 60, top: 110, pitch: 20 });
    const rules = [
      across(100, 50, 200),
      across(150, 50, 90),
      across(230, 50, 200),
      down(50, 100, 230),
      down(200, 100, 230),
      down(90, 140, 160),
      down(130, 100, 120),
    ];
    for (const table of findTables([page(text, { rules })]))
      expect(named(table.pieces[0].readings, 'ruled')).toBeUndefined();
  });
});

describe('the aligned reading', () => {
  const wrapped = [
    'Setting   Default  Meaning of it',
    'rate      12 ms    how often the gauge is',
    '                   looked at in a tide',
    'mode      off      which of the gauges',
    'limit     40       depth in centimetres',
    '                   at which it warns',
  ];

  it('joins a text that found no room on its line, at the same leading as the rows', () => {
    expect(plainRows(readingsOf(page(words(wrapped)))[0])).toContainEqual([
      'rate',
      '12 ms',
      'how often the gauge is looked at in a tide',
    ]);
    expect(plainRows(readingsOf(page(words(wrapped)))[0])).toHaveLength(4);
  });

  it('joins the time to the date above it, as no two amounts are', () => {
    const rows = (...second: string[]) => [
      'No.  Reported    Where   Action',
      '301  01/06/2025  Slip    None.',
      second[0],
      '302  02/06/2025  Gate 2  Line replaced.',
      second[1],
      '303  03/06/2025  Slip    Boom laid.',
      second[2],
      '304  04/06/2025  Slip    None.',
      second[3],
    ];
    const times = rows('     13:15', '     08:05', '     22:40', '     00:15');
    expect(plainRows(named(readingsOf(page(words(times))), 'aligned')!).slice(1, 3)).toEqual([
      ['301', '01/06/2025 13:15', 'Slip', 'None.'],
      ['302', '02/06/2025 08:05', 'Gate 2', 'Line replaced.'],
    ]);
    const amounts = rows('     1,200', '     3,450', '     2,222', '     9,100');
    expect(plainRows(named(readingsOf(page(words(amounts))), 'aligned')!)).toHaveLength(9);
  });

  it('joins amounts to the signs of currency above them, which had no room beside', () => {
    const lines = [
      'Customer     Amount      Open',
      'Marsh      2,789.19    310.00',
      'Lowe         170.96     85.48',
      'Tern       3,885.21    942.60',
      'TOTAL             $         $',
      '           6,845.36  1,338.08',
    ];
    expect(plainRows(named(readingsOf(page(words(lines))), 'aligned')!).at(-1)).toEqual([
      'TOTAL',
      '$ 6,845.36',
      '$ 1,338.08',
    ]);
  });

  it('leaves rows apart when in doubt, and says so', () => {
    const lines = [
      'Setting   Default  Meaning of it',
      'rate      12 ms    how often',
      '                   seldom',
      'mode      off      which of the gauges',
      'limit     40       depth in centimetres',
    ];
    const [best] = readingsOf(page(words(lines)));
    expect(plainRows(best)).toHaveLength(5);
    expect(best.reason).toContain('1 row may go on from the row above; they were left apart.');
  });

  it('gives a text in the middle of a cell over several rows to the first of them, where rules across leave it open', () => {
    const lines = [
      'Area    Shift   People',
      '        early        6',
      'Crane   late        13',
      '        night        4',
      '        early        7',
      'Gate    late         4',
      '        night       19',
    ];
    // Lines stand 15 apart, from 100 on: a rule under each, which leaves the first column open but for the ends of the two cells.
    const ends = [113, 158, 203];
    const rules = Array.from({ length: 7 }, (_, n) => across(113 + 15 * n, ends.includes(113 + 15 * n) ? 48 : 85, 170));
    const reading = readingsOf(page(words(lines, { pitch: 15 }), { rules }))[0];
    expect(plainRows(reading).map(([area, shift]) => [area, shift])).toEqual([
      ['Area', 'Shift'],
      ['Crane', 'early'],
      ['', 'late'],
      ['', 'night'],
      ['Gate', 'early'],
      ['', 'late'],
      ['', 'night'],
    ]);
    expect(reading.cells.find(({ text }) => text === 'Gate')).toMatchObject({ row: 4, rowSpan: 3 });
    // Labels that stand on their own rows stay there, and so they do where no rule closes their cell.
    const open = Array.from({ length: 7 }, (_, n) => across(113 + 15 * n, 85, 170));
    expect(plainRows(readingsOf(page(words(lines, { pitch: 15 }), { rules: open }))[0]).map(([area]) => area)).toEqual([
      'Area',
      '',
      'Crane',
      '',
      '',
      'Gate',
      '',
    ]);
  });

  it('offers the rows told by the first column as well, where that differs', () => {
    const lines = [
      'Setting   Default  Meaning of it',
      'rate      12 ms    how often',
      '                   seldom',
      'mode      off      which of the gauges',
      'limit     40       depth in centimetres',
    ];
    const rules = [across(96, 48, 260), across(112, 48, 260), across(170, 48, 260)];
    const readings = readingsOf(page(words(lines), { rules }));
    expect(plainRows(readings[0])).toContainEqual(['', '', 'seldom']);
    expect(readings.slice(1).map(plainRows).flat()).toContainEqual(['rate', '12 ms', 'how often seldom']);
  });
});

describe('turned headings', () => {
  it('belong to the cells they stand in, and are read along their own direction', () => {
    const upright = words(['Harbour', 'Saltby        12   3', 'Fairlead     140  95'], {
      left: 52,
      top: 142,
      pitch: 20,
    });
    const turned = (text: string, x: number, bottom: number, length: number) => ({
      text,
      box: [x, bottom - length, x + 10, bottom] as const,
      baseline: bottom,
      fontSize: 10,
      weight: 400 as const,
      italic: false,
      angle: 270,
    });
    const rules = [
      ...[98, 158, 178, 198].map((y) => across(y, 48, 160)),
      ...[48, 105, 140, 160].map((x) => down(x, 98, 198)),
    ];
    const printed = page(
      [...upright, turned('Gross', 118, 154, 25), turned('tonnes', 118, 126, 26), turned('Net', 145, 154, 15)],
      { rules },
    );
    expect(plainRows(readingsOf(printed)[0])[0]).toEqual(['Harbour', 'Gross tonnes', 'Net']);
  });
});
