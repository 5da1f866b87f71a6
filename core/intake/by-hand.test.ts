import { describe, expect, it } from 'vitest';
import type { PageContent } from '../page/page';
import { findTables } from '../reading/find-tables';
import { plainRows } from '../reading/found-table';
import { separatorsOf } from '../reading/readings/drawn';
import { picturesWithoutText } from '../reading/pictures';
import { RowBook } from '../sheet/row';
import { plain } from '../testing/sheets';
import { moved, page, scaled, words } from '../testing/print';
import { fitOf } from './anchors';
import { findText } from './find-text';
import { labelledValue, labelsFor } from './labels';
import { takeTables, type Taken } from './take';
import { takenSheet } from './table-sheet';
import { ruleOf, type TakeRule } from './take-rule';

/** Descriptions run up to the units, so that no white space parts them. */
const items = [
  'Berth  Description        Units  Amount',
  'N4     Mooring by the night crew    2   88.20',
  'N4     Waste brought ashore, dry   12   41.00',
  'S1     Water                       30  190.10',
];
const report = (...pages: PageContent[]) => ({ key: 'r', path: 'r.pdf', pages, tables: findTables(pages) });
const take = (settings: Partial<TakeRule>, ...pages: PageContent[]) =>
  takeTables([ruleOf({ name: 'x', ...settings })], report(...pages));
const gridOf = (taken: Taken) =>
  'table' in taken ? taken.table.pieces.map((piece) => plainRows(piece.readings[0])) : [];
const heading = (of: PageContent) => of.words.slice(0, 4).map(({ text, box }) => ({ text, box }));

describe('a drawn reading', () => {
  const guide = page(words(items));
  const drawing = { anchors: heading(guide), columns: [{ at: 80 }, { at: 212 }, { at: 240 }], rows: 'every line' };
  const rule = {
    name: 'Items',
    heading: ['Berth', 'Description', 'Units', 'Amount'],
    reading: 'drawn',
    drawing,
    least: 0.1,
  } as unknown as TakeRule;
  const expected = [
    ['Berth', 'Description', 'Units', 'Amount'],
    ['N4', 'Mooring by the night crew', '2', '88.20'],
    ['N4', 'Waste brought ashore, dry', '12', '41.00'],
    ['S1', 'Water', '30', '190.10'],
  ];

  it('parts columns where no white space does', () => {
    const wide = {
      ...rule,
      drawing: { ...drawing, columns: [{ at: 80 }, { at: 215 }, { at: 242 }] },
    } as unknown as TakeRule;
    const printed = page(words(['Berth  Description                 No.   Amount', ...items.slice(1)]));
    const { taken, problems } = take({ ...wide, drawing: { ...wide.drawing!, anchors: heading(printed) } }, printed);
    expect(gridOf(taken[0])[0].slice(1)).toEqual(expected.slice(1));
    expect(problems).toEqual([]);
  });

  it('gives the same grid when its page is moved and scaled', () => {
    const [first] = take(rule, guide).taken;
    for (let n = 0; n < 40; n++) {
      const factor = 0.6 + (n % 8) * 0.15;
      const elsewhere = moved(scaled(guide, factor), -20 + n * 3, 15 - n);
      const { taken, problems } = take(rule, elsewhere);
      expect(problems).toEqual([]);
      expect(gridOf(taken[0])).toEqual(gridOf(first));
    }
  });

  it('keeps a word that a separator would cut whole, on the side set', () => {
    const at = guide.words.find((word) => word.text === 'Water')!.box[0] + 8;
    const kept = (keep: string) =>
      gridOf(
        take({ ...rule, drawing: { ...drawing, columns: [{ at, keep }] } } as unknown as TakeRule, guide).taken[0],
      )[0][3];
    expect(kept('left')).toEqual(['S1 Water', '30 190.10']);
    expect(kept('right')).toEqual(['S1', 'Water 30 190.10']);
  });

  it('tells rows by the first column, or by separators drawn between them', () => {
    const wrapped = page(words(['Berth  What', 'N4     Mooring by the', '       night crew', 'S1     Water']));
    const by = (rows: object) =>
      gridOf(
        take(
          {
            ...rule,
            heading: ['Berth', 'What'],
            drawing: {
              anchors: wrapped.words.slice(0, 2).map(({ text, box }) => ({ text, box })),
              columns: [{ at: 80 }],
              ...rows,
            },
          } as unknown as TakeRule,
          wrapped,
        ).taken[0],
      )[0];
    const joined = [
      ['Berth', 'What'],
      ['N4', 'Mooring by the night crew'],
      ['S1', 'Water'],
    ];
    expect(by({ rows: 'first column' })).toEqual(joined);
    expect(by({ rows: 'drawn', cuts: [112, 140] })).toEqual(joined);
    expect(by({ rows: 'every line' })).toHaveLength(4);
  });

  it('names the words of the heading that it does not find', () => {
    const { taken, problems } = take({ ...rule }, page(words([items[0].replace('Units', 'Count'), ...items.slice(1)])));
    expect(taken[0].match.lacks).toEqual(['Units']);
    expect(problems[0]).toMatchObject({ kind: 'drift', page: 1, expected: expect.stringContaining('“Units”') });
  });

  it('keeps its places on a page without the heading', () => {
    const long = Array.from({ length: 48 }, (_, i) => items[1 + (i % 3)]);
    const { taken } = take(
      rule,
      page(words([items[0], ...long], { top: 60 })),
      page(words(long.slice(0, 9), { top: 60 }), { number: 2 }),
    );
    const [first, second] = gridOf(taken[0]);
    expect(second).toEqual(first.slice(1, 10));
  });

  it('begins with the separators of the best reading', () => {
    const [table] = findTables([
      page(
        words([
          'Harbour       2023     2024',
          'Saltby      14,210   16,004',
          'Tern Point   3,310    2,998',
          'Fairlead       812      790',
        ]),
      ),
    ]);
    const [reading] = table.pieces[0].readings;
    const own = separatorsOf(reading).map(({ at }) => at);
    expect(own).toHaveLength(2);
    expect(own[0]).toBeGreaterThan(100);
    expect(own[1]).toBeLessThan(160);
  });
});

describe('anchors', () => {
  it('are found again though some are missing and others stand twice', () => {
    const guide = page(words(['Day   Left   Right   Sum']));
    const other = moved(scaled(page(words(['Sum of all', 'Day   Left   Rechts  Sum'])), 1.2), 30, 7);
    const fit = fitOf(
      heading(guide),
      other,
      other.words.map((_, i) => i),
    )!;
    expect(fit.missing).toEqual(['Right']);
    expect(fit.scale).toBeCloseTo(1.2, 1);
    expect(fitOf(heading(guide), page(words(['None of them'])), [0, 1, 2])).toBeUndefined();
  });
});

describe('an area drawn where nothing was found', () => {
  const note = (rows: string[]) => ['Tides at the bar', 'High 04:12', ...rows, 'All times are local'];
  const guide = page(words(note(['Low 10:20', 'High 16:38'])));
  const drawing = {
    anchors: guide.words.slice(0, 4).map(({ text, box }) => ({ text, box })),
    columns: [{ at: 69.8 }],
    rows: 'every line',
    box: [45, 112, 200, 156],
    below: 'All times are local',
  };
  const rule = { name: 'Tides', of: 'area', reading: 'drawn', drawing } as unknown as TakeRule;

  it('fits other reports, and ends where the line that ended it stands', () => {
    expect(findTables([guide])).toEqual([]);
    const longer = moved(page(words(note(['Low 10:20', 'High 16:38', 'Low 22:51', 'High 23:59']))), 12, 60);
    expect(gridOf(take(rule, guide).taken[0])[0]).toEqual([
      ['High', '04:12'],
      ['Low', '10:20'],
      ['High', '16:38'],
    ]);
    expect(gridOf(take(rule, longer).taken[0])[0]).toHaveLength(5);
  });

  it('is named where its words are not found', () => {
    const { taken, problems } = take(rule, page(words(['Nothing of the kind'])));
    expect(taken).toEqual([]);
    expect(problems[0]).toMatchObject({ kind: 'not taken', expected: expect.stringContaining('“Tides”') });
  });
});

const tonnes = [
  'Harbour       2023     2024',
  'Saltby      14,210   16,004',
  'Tern Point   3,310    2,998',
  'Fairlead       812      790',
];

describe('outlines', () => {
  const halves = page([
    ...words(tonnes),
    ...words(['Old Quay       520      611', 'Marrow       1,210    1,004', 'Low Bar         33       41'], {
      top: 210,
    }),
  ]);

  it('join a table found in two halves', () => {
    expect(findTables([halves])).toHaveLength(2);
    const { taken } = take({ heading: ['Harbour', '2023', '2024'], join: { place: 'below', tables: 1 } }, halves);
    expect(gridOf(taken[0])).toEqual([
      [
        ...tonnes.map((line) => line.split(/\s{2,}/)),
        ['Old Quay', '520', '611'],
        ['Marrow', '1,210', '1,004'],
        ['Low Bar', '33', '41'],
      ],
    ]);
    expect(taken[0].match.found).toHaveLength(2);
  });

  it('do not join a table with a title of its own', () => {
    const other = page([
      ...words(tonnes),
      ...words(['Vessels'], { top: 180, bold: () => true }),
      ...words(['Boat         Hours   Dues', 'Grey Gull       12  88.20', 'Old Lass        31 190.10'], { top: 210 }),
    ]);
    expect(
      take({ heading: ['Harbour', '2023', '2024'], join: { place: 'below', tables: 1 } }, other).taken[0].match.found,
    ).toHaveLength(1);
  });

  const one = page(words([...tonnes, 'Surcharges', 'Waste           12       14', 'Water          310      298']));
  it('cut two tables found as one at a row, each part its own rule', () => {
    const cutAt = (part: string) =>
      take(
        { heading: ['Harbour', '2023', '2024'], cut: { by: 'row', text: 'Surcharges', part } } as Partial<TakeRule>,
        one,
      );
    expect(gridOf(cutAt('before').taken[0])[0]).toEqual(tonnes.map((line) => line.split(/\s{2,}/)));
    expect(gridOf(cutAt('from there').taken[0])[0].at(-1)).toEqual(['Water', '310', '298']);
    expect(cutAt('from there').taken[0].match.table).not.toBe(cutAt('before').taken[0].match.table);
  });

  it('cut at a column, and say where the text is not found', () => {
    const cutAt = (part: string) =>
      take(
        { heading: ['Harbour', '2023', '2024'], cut: { by: 'column', text: '2024', part } } as Partial<TakeRule>,
        page(words(tonnes)),
      );
    expect(gridOf(cutAt('before').taken[0])[0][1]).toEqual(['Saltby', '14,210']);
    expect(
      take(
        {
          heading: ['Harbour', '2023', '2024'],
          cut: { by: 'row', text: 'Refunds', part: 'from there' },
        },
        one,
      ).problems[0].expected,
    ).toContain('“Refunds”');
  });
});

describe('taking many', () => {
  const five = [
    'Harbour       2023     2024    2025',
    'Saltby      14,210   16,004     1.5',
    'Tern Point   3,310    2,998     1.0',
    'Fairlead       812      790     2.2',
  ];
  const both = page([...words(tonnes), ...words(five, { top: 260 }), ...words(tonnes, { top: 420 })]);

  it('takes all of one shape, and names those of another', () => {
    const { taken, problems } = take({ heading: ['Harbour', '2023', '2024'], which: 'all alike' }, both);
    expect(taken).toHaveLength(2);
    expect(problems[0].came).toContain('4 columns');
    expect(take({ columns: 4, which: 'all alike' }, both).taken).toHaveLength(1);
  });

  it('takes what stands on some pages only', () => {
    const { taken } = take({ pages: { from: 2, to: 2 }, which: 'all alike' }, both, page(words(tonnes), { number: 2 }));
    expect(taken.map(({ match }) => match.pages)).toEqual([[2]]);
  });
});

describe('labels', () => {
  const printed = page(
    words(['Note no.: B-112       Vessel', 'Date 4 June 2025      Grey Gull', '', 'Agent ........ Tern & Sons']),
  );

  it('give one row of the values beside or under them', () => {
    const labels = [
      { name: 'Note', label: 'Note no.' },
      { name: 'Vessel', label: 'Vessel', side: 'below' },
      { name: 'Agent', label: 'Agent' },
    ];
    const { taken, problems } = take({ of: 'labels', labels } as Partial<TakeRule>, printed);
    expect(plain(takenSheet(taken[0], 'r', new RowBook()).sheet)).toEqual([
      ['Note', 'Vessel', 'Agent'],
      ['B-112', 'Grey Gull', 'Tern & Sons'],
    ]);
    expect(problems).toEqual([]);
  });

  it('are named where they are missing, and leave a blank', () => {
    const { taken, problems } = take(
      {
        of: 'labels',
        labels: [
          { name: 'Note', label: 'Note no.' },
          { name: 'Flag', label: 'Flag' },
        ],
      } as Partial<TakeRule>,
      printed,
    );
    expect(taken[0].match.lacks).toEqual(['Flag']);
    expect(problems[0]).toMatchObject({ kind: 'drift', expected: expect.stringContaining('“Flag”') });
  });

  it('tell when another page has another value beside the same label', () => {
    const settings = { of: 'labels', labels: [{ name: 'Note', label: 'Note no.' }] } as Partial<TakeRule>;
    const second = (text: string) => ({ ...page(words([`Note no.: ${text}`])), number: 2 });
    expect(take(settings, printed, second('B-113')).problems[0]).toMatchObject({
      page: 2,
      came: '“B-112” on page 1 and “B-113” on page 2; the first was taken',
    });
    expect(take(settings, printed, second('B-112')).problems).toEqual([]);
  });

  it('stand behind a colon where the label has one, and anywhere where no colon is printed', () => {
    const of = (label: string, ...lines: string[]) =>
      labelledValue([page(words(lines))], { label, side: 'right' })?.text;
    expect(of('Day:', 'Harbour day sheet', 'Day: 1 March')).toBe('1 March');
    expect(of('Day', 'Harbour day sheet', 'Day: 1 March')).toBe('sheet');
    expect(of('Day:', 'Day   1 March')).toBe('1 March');
  });

  it('are proposed for the value pointed at, and found again by the proposal', () => {
    for (const [text, label, side] of [
      ['B-112', 'Note no.:', 'right'],
      ['Gull', 'Vessel', 'below'],
      ['June', 'Date', 'right'],
      ['Sons', 'Agent', 'right'],
    ] as const) {
      const proposals = labelsFor(
        printed,
        printed.words.findIndex((word) => word.text === text),
      );
      const proposal = proposals.find((each) => each.side === side)!;
      expect(proposal.label).toBe(label);
      expect(labelledValue([printed], proposal)!.text).toBe(proposal.value);
    }
  });
});

describe('whole pages', () => {
  it('can be taken, page by page', () => {
    const { taken } = take(
      { of: 'whole page', reading: 'line by line', pages: { from: 2, to: 3 } },
      page(words(['One'])),
      page(words(['Two', 'Three']), { number: 2 }),
      page(words(['Four', 'Five']), { number: 3 }),
    );
    expect(gridOf(taken[0]).flat(2)).toEqual(['Two', 'Three', 'Four', 'Five']);
  });
});

describe('what is on the pages beside tables', () => {
  it('names a picture that may hold a table, unless text stands over it', () => {
    const scan = {
      ...page(words(['Caption'])),
      pictures: [{ box: [50, 200, 500, 500] as const }, { box: [10, 10, 60, 30] as const }],
    };
    expect(picturesWithoutText(scan)).toEqual([[50, 200, 500, 500]]);
    expect(picturesWithoutText({ ...scan, words: words(['Text that was recognised'], { top: 300 }) })).toEqual([]);
  });

  it('finds text whatever its case and accents, also within words and over spaces', () => {
    const printed = page(words(['Dues of the Quai Élan', 'no such dues']));
    expect(findText(printed, 'quai elan').map(({ line }) => line)).toEqual(['Dues of the Quai Élan']);
    expect(findText(printed, 'DUE').map(({ page: at }) => at)).toEqual([1, 1]);
    expect(findText(printed, ' ')).toEqual([]);
  });
});
