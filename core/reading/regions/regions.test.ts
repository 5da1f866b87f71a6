import { describe, expect, it } from 'vitest';
import type { PageContent } from '../../page/page';
import { across, page, words } from '../../testing/print';
import { findTables } from '../find-tables';
import { plainRows } from '../found-table';

const rowsOf = (of: PageContent) => findTables([of]).map((table) => plainRows(table.pieces[0].readings[0]));

const prose = [
  'The board met on the second day after the spring tide and took',
  'note of the repairs to the lock chamber, which will go on until',
  'the oak has dried. The clerks ask that all slips be handed in',
];
const tonnes = [
  'Harbour       2023     2024',
  'Saltby      14,210   16,004',
  'Tern Point   3,310    2,998',
  'Fairlead       812      790',
];
const hours = [
  'Vessel       Hours   Dues',
  'Grey Gull       12  88.20',
  'Fair Tern        7  41.00',
  'Old Lass        31 190.10',
];

describe('regions of a page', () => {
  it('end a table at running text between its rules and those of the next', () => {
    const rules = [96, 112, 156, 216, 232, 276].map((y) => across(y, 48, 370));
    const printed = page([...words(tonnes), ...words(prose, { top: 162, pitch: 13 }), ...words(hours, { top: 220 })], {
      rules,
    });
    expect(rowsOf(printed).map((rows) => rows.length)).toEqual([4, 4]);
  });

  it('take in the heading above the first rule and the rows below the last', () => {
    const rules = [across(112, 48, 200), across(140, 48, 200)];
    expect(rowsOf(page(words(tonnes), { rules }))).toEqual([tonnes.map((line) => line.split(/\s{2,}/))]);
  });

  describe('with days down and hours across, under three lines of headings', () => {
    const flow = [
      '                Flow in two hours from',
      'Day         a.m.                      p.m.           All day',
      '     00:00   06:00   09:00   12:00   18:00   21:00',
      ...Array.from(
        { length: 5 },
        (_, i) => ` ${i + 1}   121.${i}    43.2     8.3    49.${i}   124.3   165.6     512.${i}`,
      ),
    ];
    const below = 100 + flow.length * 14;
    /** The table between its rules, with the title of the next in larger type just above that one's first rule. */
    const printed = page(
      [
        ...words(flow),
        ...words(['High and low water'], { top: below + 6 }).map((word) => ({
          ...word,
          fontSize: 13,
          box: [
            50 + 1.3 * (word.box[0] - 50),
            word.box[1] - 2,
            50 + 1.3 * (word.box[2] - 50),
            word.box[3] + 1,
          ] as const,
        })),
        ...words(['Water     Time   Height', 'First    10:08      5.1', 'Second   22:33      5.0'], {
          top: below + 26,
        }),
      ],
      {
        rules: [
          across(97, 48, 312),
          across(139, 48, 312),
          across(below - 2, 48, 312),
          across(below + 23, 48, 170),
          across(below + 39, 48, 170),
          across(below + 67, 48, 170),
        ],
      },
    );
    const [first, second] = findTables([printed]).map((table) => ({
      title: table.title,
      reading: table.pieces[0].readings[0],
      rows: plainRows(table.pieces[0].readings[0]),
    }));

    it('hold the heading over all columns, which stands between the rules and is no title', () => {
      expect(first.rows[0].join('')).toBe('Flow in two hours from');
      expect([first.reading.headingRows, first.rows.length]).toEqual([3, 8]);
    });

    it('put it over the columns that it heads, not over the labels, and each part of the day over its hours', () => {
      const spans = first.reading.cells
        .filter(({ columnSpan }) => columnSpan > 1)
        .map(({ text, column, columnSpan }) => [text, column, columnSpan]);
      expect(spans).toEqual([
        ['Flow in two hours from', 1, 6],
        ['a.m.', 1, 3],
        ['p.m.', 4, 3],
      ]);
    });

    it('end at the rule: what stands below it in larger type is the title of the next', () => {
      expect(first.rows.at(-1)![0]).toBe('5');
      expect([second.title, second.rows[0]]).toEqual(['High and low water', ['Water', 'Time', 'Height']]);
    });
  });

  it('take rules typed as dashes for rules', () => {
    const typed = [...'x'].flatMap(() => [
      '='.repeat(27),
      tonnes[0],
      '-'.repeat(27),
      ...tonnes.slice(1),
      '='.repeat(27),
    ]);
    expect(rowsOf(page(words(typed)))).toEqual([tonnes.map((line) => line.split(/\s{2,}/))]);
  });

  it('part two tables beside each other by their own titles, headings or rows', () => {
    const beside = (left: readonly string[], right: readonly string[]) =>
      Array.from({ length: Math.max(left.length, right.length) }, (_, i) =>
        `${(left[i] ?? '').padEnd(40)}${right[i] ?? ''}`.trimEnd(),
      );
    const titled = beside(['Tonnes handled', ...tonnes], ['Hours in port', ...hours]);
    expect(rowsOf(page(words(titled, { left: 20 }))).map((rows) => rows[0])).toEqual([
      ['Harbour', '2023', '2024'],
      ['Vessel', 'Hours', 'Dues'],
    ]);
    const months = ['Month    Tonnes', 'January   1,200', 'February    340', 'March     5,600'];
    const later = ['Month    Tonnes', 'July      3,111', 'August      144', 'Septembr    288'];
    expect(rowsOf(page(words(beside(months, later), { left: 20 })))).toHaveLength(2);
  });

  it('read two columns of running text one after the other, with a table in one of them', () => {
    const left = [...prose, ...prose, ...prose].map((line) => line.slice(0, 44));
    const right = [...prose, '', ...tonnes, '', ...prose, ...prose].map((line) => line.slice(0, 44));
    const printed = page([...words(left, { left: 30 }), ...words(right, { left: 290 })]);
    expect(rowsOf(printed)).toEqual([tonnes.map((line) => line.split(/\s{2,}/))]);
  });

  it.each([
    [
      'lines of a numbered listing',
      ['30   for each berth of the quay', '31   take the depth', '32   compare it', '33   done with it'],
    ],
    ['formulas with their numbers', ['(1)    h = a + b', '(2)    Q = v A', '(3)    R = h / Q']],
    [
      'an index set in columns',
      [
        'anchor, 12      crane, 8       mooring, 31',
        'basin, 4        dredger, 17    pilot, 2',
        'berth, 9, 22    gauge, 40      quay, 1, 5',
        'buoy, 3         lock, 11       tide, 28',
      ],
    ],
    [
      'references with their marks',
      [
        '[1]   A. Haldane. On the silting of the outer basin. Notes, 4.',
        '[2]   R. Merrow. The tide gauge of the old pier, rebuilt. Notes, 7.',
        '[3]   K. Quill. A survey of the moorings in the roads. Notes, 9.',
      ],
    ],
  ])('do not take %s for a table', (_, lines) => {
    expect(rowsOf(page(words(lines)))).toEqual([]);
  });

  it('keep the last line of a wrapped text, and a total that a rule sets off', () => {
    const lines = [
      'Berth  Description            Amount',
      'N4     Lines shifted          88.20',
      'S1     Vessel lying          190.10',
      '       alongside another',
    ];
    const total = words(['       Total                 278.30'], { top: 172 });
    const printed = page([...words(lines, { pitch: 13 }), ...total], { rules: [across(163, 80, 230)] });
    const [rows] = rowsOf(printed);
    expect(rows.flat().join(' ')).toContain('alongside another');
    expect(rows.at(-1)).toEqual(['', 'Total', '278.30']);
    // Without a rule it belongs to the table as well, where it stands on the edges of its columns, and else does not.
    expect(rowsOf(page([...words(lines, { pitch: 13 }), ...total]))[0].at(-1)).toEqual(['', 'Total', '278.30']);
    const elsewhere = words(['   Total                278.30 in all'], { top: 172 });
    expect(rowsOf(page([...words(lines, { pitch: 13 }), ...elsewhere]))[0].flat()).not.toContain('Total');
  });

  it('keep a column that holds nothing but its heading', () => {
    const lines = [
      'Date     Details      Out     In  Balance',
      '01 Mar   Opening                  1,200.00',
      '04 Mar   Berth dues  88.20         1,111.80',
      '09 Mar   Tally       11.80         1,100.00',
    ];
    const rules = [across(96, 48, 270), across(112, 48, 270), across(156, 48, 270)];
    expect(rowsOf(page(words(lines), { rules }))[0][0]).toEqual(['Date', 'Details', 'Out', 'In', 'Balance']);
  });
});
