import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { emptySheet } from '../sheet/sheet';
import { kindOf } from '../steps/kinds';
import { paper, around, plain, textSheet } from '../testing/sheets';
import { locales } from '../values/locale';
import { columnsWorkedOut } from './columns-worked-out';
import { errorsOf } from './errors';
import type { Layer } from './carry';

const sheets = [
  {
    key: 'r1',
    paper: paper(),
    sheet: textSheet([['Berth', 'Value'], ...Array.from({ length: 12 }, (_, n) => [`N${n}`, `1,2${10 + n}.50`])]),
  },
  {
    key: 'r2',
    paper: paper(),
    sheet: textSheet(
      [
        ['Berth', 'Value', 'Note no.'],
        ['S1', 'n/k', '00412'],
        ['S2', '3.10', '00413'],
      ],
      [{ page: 4 }, { page: 5 }],
    ),
  },
];

describe('columns worked out over reports', () => {
  it('look at every value of all of them, and place the misfits', () => {
    const [berth, value, note] = columnsWorkedOut(sheets, locales['en-GB']);
    expect([berth.format.type, value.format.type, note.format.type]).toEqual(['text', 'decimal', 'text']);
    expect(value.firstMisfits).toEqual([
      { report: 'r2', row: 0, page: 4, text: 'n/k', expected: 'a number like 1,234.5' },
    ]);
    expect(note.reason).toContain('“00412”');
    expect([berth.everywhere, note.everywhere]).toEqual([true, false]);
  });

  it('see that reports print numbers in different ways, and read each by its own', () => {
    const english = {
      key: 'r1',
      paper: paper(),
      sheet: textSheet([['Landed'], ...['1,234.5', '12.0', '2,000', '7.5', '8.5'].map((text) => [text])]),
    };
    const german = {
      key: 'r2',
      paper: paper(),
      sheet: textSheet([['Landed'], ...['1.234,5', '2.000', 'n/k', '3,5', '4,5'].map((text) => [text])]),
    };
    const [landed] = columnsWorkedOut([english, german], locales['en-GB']);
    expect([landed.format.type, landed.format.marks, landed.misfits]).toEqual([
      'decimal',
      'as each report prints them',
      1,
    ]);
    expect(landed.firstMisfits).toMatchObject([{ report: 'r2', row: 2, text: 'n/k' }]);
    expect(landed.reason).toBe(
      'The reports print numbers in different ways: as the locale, 1.234,56. Each is read by its own.',
    );
    // One way for all: nothing else is proposed, and codes stay texts.
    expect(columnsWorkedOut([english, { ...english, key: 'r3' }], locales['en-GB'])[0].format.marks).toBe(
      'as the locale',
    );
    const codes = (key: string, ...texts: string[]) => ({
      key,
      paper: paper(),
      sheet: textSheet([['Account no.'], ...texts.map((text) => [text])]),
    });
    expect(
      columnsWorkedOut([codes('r1', '1.1', '1.10', '1.2'), codes('r2', '1,1', '1,2', '2,10')], locales['en-GB'])[0]
        .format.type,
    ).toBe('text');
  });

  it('let one column tell the marks that another leaves open, where it is read with the same', () => {
    const priced = (...rows: string[][]) =>
      columnsWorkedOut([{ key: 'r', paper: paper(), sheet: textSheet([['Mean', 'Low'], ...rows]) }], locales['en-GB']);
    expect(priced(['8.275', '7.64'], ['7.195', '6.96'])[0]).toMatchObject({ format: { type: 'decimal' } });
    expect(priced(['8.275', '7.64'], ['7.195', '6.96'])[0].doubt).toBeUndefined();
    for (const beside of [
      ['7', '6'],
      ['1,64', '6,96'],
      ['cod', 'hake'],
      ['9.164', '6.961'],
    ])
      expect(priced(['8.275', beside[0]], ['7.195', beside[1]])[0].doubt).toMatch(
        /could have its decimals or its thousands/,
      );
  });

  it('say where the rows are in different units, told by their labels', () => {
    const mixed = {
      key: 'r',
      paper: paper(),
      sheet: textSheet([
        ['Cargo', 'Landed'],
        ['Grain (t)', '12'],
        ['Fish (kg)', '480'],
        ['Coal (t)', '7'],
      ]),
    };
    expect(columnsWorkedOut([mixed], locales['en-GB'])[1].doubt).toMatch(/different units, told by “Cargo” \(t, kg\)/);
    expect(columnsWorkedOut(sheets, locales['en-GB'])[1].doubt).toBeUndefined();
  });

  it('pass over columns that are typed already', () => {
    const typed = {
      ...sheets[0].sheet,
      columns: sheets[0].sheet.columns.map((column) =>
        column.name === 'Value' ? { ...column, type: 'decimal' as const } : column,
      ),
    };
    expect(columnsWorkedOut([{ ...sheets[0], sheet: typed }], locales['en-GB']).map(({ name }) => name)).toEqual([
      'Berth',
    ]);
  });
});

describe('error cells', () => {
  const layerOf = (id: string, sheet: Layer['sheet']): Layer => ({
    id,
    zone: 'eachReport',
    title: id,
    rowsIn: sheet.rows.length,
    sheet,
    held: { rows: emptySheet, reasons: [] },
    leftOut: emptySheet,
    overwritten: [],
    problems: [],
  });
  const run = (kind: string, settings: object, sheet: Layer['sheet']) => {
    const step = { id: kind, kind, settings: settings as Record<string, unknown> };
    return kindOf(step).run(sheet, v.parse(kindOf(step).settings, step.settings), around()).sheet;
  };

  it('are told with the step at which they start, also after a later step has renamed and moved them', () => {
    const printed = textSheet([
      ['Berth', 'Value'],
      ['N1', '12.5'],
      ['N2', 'n/k'],
    ]);
    const typed = run(
      'set types',
      {
        locale: 'en-GB',
        types: [
          {
            columns: { by: 'names', names: ['Value'] },
            type: 'decimal',
            marks: 'as the locale',
            nil: 'blank',
            unit: '',
            scale: 'as printed',
            scaleIs: 'applied',
          },
        ],
      },
      printed,
    );
    const trimmed = run('trim rows', { top: 1, bottom: 0, from: 0, to: 0 }, typed);
    const renamed = run('rename', { names: [{ to: 'Dues', from: ['Value'] }] }, trimmed);
    const layers = [
      layerOf('taken', printed),
      layerOf('types', typed),
      layerOf('trim', trimmed),
      layerOf('names', renamed),
    ];
    expect(plain(renamed)[1][0]).toBe('N2');
    expect(errorsOf(layers, 3)).toEqual([
      {
        row: 0,
        column: 'Dues',
        text: 'n/k',
        expected: 'a number like 1,234.5',
        page: 1,
        step: 'types',
        title: 'types',
      },
    ]);
    expect(errorsOf(layers, 0)).toEqual([]);
  });
});
