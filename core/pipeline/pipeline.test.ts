import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { findTables } from '../reading/find-tables';
import { sentence, type Problem } from '../sheet/problem';
import { page, words } from '../testing/print';
import { plain, textSheet, wordsBehind } from '../testing/sheets';
import { append, partialColumns, spelled } from './append';
import { CarryCache, carryReport, carryWhole } from './carry';
import { faultsOf, parsePipeline, resultDependsOn, splitAllReports } from './document';

const document = (parts: object = {}) =>
  parsePipeline({
    format: 'able-sieve/pipeline',
    version: 1,
    name: 'Landings',
    take: [{ name: 'Landings', heading: ['Code', 'Species', 'Boxes'] }],
    eachTable: [{ id: 'head', kind: 'promote header rows', settings: { rows: 1 } }],
    allReports: [
      {
        id: 'types',
        kind: 'set types',
        settings: { types: [{ columns: { by: 'names', names: ['Boxes'] }, type: 'integer' }] },
      },
    ],
    ...parts,
  });
const lines = [
  'Code   Species          Boxes',
  'HK1    Lantern hake       112',
  'SL2    Grey sole           48',
  'CR4    Rock crab          n/k',
];
const report = (key: string, text = lines) => {
  const pages = [page(words(text))];
  return { key, path: `${key}.pdf`, pages, tables: findTables(pages) };
};

describe('a found table that holds several', () => {
  it('falls into tables of their own: the steps below run on each, and columns are named by the heading of each', () => {
    const both = [...lines, 'LG1    Deep ling           75'];
    const eachTable = [
      { id: 'split', kind: 'split table', settings: { where: 'before rows that match', text: 'CR4' } },
      { id: 'head', kind: 'promote header rows', settings: { rows: 1 } },
      { id: 'no', kind: 'number rows', settings: { name: 'No.' } },
    ];
    const carried = carryReport(document({ eachTable, allReports: [] }), report('r1', both));
    // The row at which it is split is the heading of its part here.
    expect(plain(carried.sheet)).toEqual([
      ['No.', 'CR4', 'Rock crab', 'n/k', 'Code', 'Species', 'Boxes'],
      [1, null, null, null, 'HK1', 'Lantern hake', '112'],
      [2, null, null, null, 'SL2', 'Grey sole', '48'],
      [1, 'LG1', 'Deep ling', '75', null, null, null],
    ]);
    // Each is called by the text of the row at which it begins, and stamped with it, traced to its words.
    const titled = [
      { id: 'head', kind: 'promote header rows', settings: { rows: 1 } },
      { id: 'split', kind: 'split table', settings: { where: 'before rows that match', text: '* coast', title: true } },
      { id: 'coast', kind: 'stamp', settings: { from: 'table title', template: '{Coast} coast' } },
    ];
    const coasts = carryReport(
      document({ eachTable: titled, allReports: [] }),
      report('r2', [lines[0], 'North coast', ...lines.slice(1, 3), 'South coast', lines[3]]),
    );
    expect(plain(coasts.sheet)).toEqual([
      ['Coast', 'Code', 'Species', 'Boxes'],
      ['North', 'HK1', 'Lantern hake', '112'],
      ['North', 'SL2', 'Grey sole', '48'],
      ['South', 'CR4', 'Rock crab', 'n/k'],
    ]);
    expect(wordsBehind(coasts.sheet, 'Coast', 2)).toEqual(['r2 1:13', 'r2 1:14']);
    expect(coasts.layers.find(({ id }) => id === 'split')!.held.reasons).toEqual([
      'the table is split here; its text is the title of what follows',
      'the table is split here; its text is the title of what follows',
    ]);
    // In another zone the parts stay under one another.
    const later = carryReport(document({ eachTable: [], eachReport: eachTable, allReports: [] }), report('r1', both));
    expect(plain(later.sheet)).toEqual([
      ['No.', 'Code', 'Species', 'Boxes'],
      [1, 'HK1', 'Lantern hake', '112'],
      [2, 'SL2', 'Grey sole', '48'],
      [3, 'CR4', 'Rock crab', 'n/k'],
      [4, 'LG1', 'Deep ling', '75'],
    ]);
  });
});

describe('running from a cached prefix', () => {
  const step = (id: string, kind: string, settings: object) => ({ id, kind, settings });
  const variants = [
    [step('head', 'promote header rows', { rows: 1 }), step('noise', 'drop noise', {})],
    [
      step('head', 'promote header rows', { rows: 1 }),
      step('noise', 'drop noise', { pages: false }),
      step('trim', 'trim rows', { top: 1 }),
    ],
    [
      step('head', 'promote header rows', { rows: 1 }),
      step('sift', 'sift rows', { conditions: [{ of: { is: 'column', name: 'Code' }, test: 'is', value: 'SL2' }] }),
    ],
    [step('trim', 'trim rows', { bottom: 1 }), step('head', 'promote header rows', { rows: 1 })],
    [],
  ];

  it('equals running anew, whatever was run before', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...variants), { minLength: 2, maxLength: 6 }), (runs) => {
        const cache = new CarryCache();
        const input = report('r1');
        for (const eachTable of runs) {
          const pipeline = document({ eachTable, allReports: [] });
          const cached = carryReport(pipeline, input, { cache });
          const anew = carryReport(pipeline, input);
          expect(plain(cached.sheet)).toEqual(plain(anew.sheet));
          expect(cached.problems).toEqual(anew.problems);
          expect(cached.layers.map(({ id, rowsIn, held }) => [id, rowsIn, held.reasons])).toEqual(
            anew.layers.map(({ id, rowsIn, held }) => [id, rowsIn, held.reasons]),
          );
        }
      }),
    );
  });

  it('does not run the steps above the one that changed', () => {
    const cache = new CarryCache();
    const input = report('r1');
    const first = carryReport(document({ eachTable: variants[0], allReports: [] }), input, { cache });
    const second = carryReport(document({ eachTable: variants[1], allReports: [] }), input, { cache });
    expect(second.layers[1]).toBe(first.layers[1]);
    expect(second.layers[2]).not.toBe(first.layers[2]);
  });
});

describe('the pipeline document', () => {
  it('says where and what is wrong', () => {
    const wrong = {
      format: 'able-sieve/pipeline',
      version: 1,
      name: 'x',
      take: [],
      eachTable: [{ id: 'a', kind: 'trim rows', settings: { top: 'two' } }],
    };
    try {
      parsePipeline(wrong);
      expect.unreachable();
    } catch (error) {
      expect(faultsOf(error as v.ValiError<v.GenericSchema>)).toMatch(
        /^eachTable\.0\.settings\.top: .*Expected number but received "two"/,
      );
    }
    expect(() => document({ eachReport: [{ id: 'head', kind: 'trim rows', settings: {} }] })).toThrow('same id');
    expect(() => document({ reports: { template: 'week-{}' } })).toThrow('hole without a name');
  });

  it('of an older program is opened in the words of today', () => {
    const old = {
      format: 'able-sieve/pipeline',
      version: 1,
      name: 'x',
      take: [],
      eachReport: [{ id: 'a', kind: 'carry values down', settings: { columns: { by: 'all' } } }],
    };
    expect(parsePipeline(old).eachReport).toEqual([
      { id: 'a', kind: 'carry values', settings: { columns: { by: 'all' }, direction: 'down', stopAt: '' } },
    ]);
    expect(() => parsePipeline(null)).toThrow();
  });

  it('survives being saved and read again', () => {
    const once = document();
    expect(parsePipeline(JSON.parse(JSON.stringify(once)))).toEqual(once);
  });

  it('depends on the file name only where a step needs it, and not on names, notes or steps switched off', () => {
    const facts = {
      sha256: 'f',
      stages: { reading: 'r', steps: 's', values: 'v', formulas: 'f', checks: 'c' },
      path: 'a.pdf',
    };
    const plainKey = resultDependsOn(document(), facts);
    expect(resultDependsOn(document(), { ...facts, path: 'b.pdf' })).toBe(plainKey);
    const stamped = document({
      eachReport: [{ id: 's', kind: 'stamp', settings: { from: 'file name', template: '{n}.pdf' } }],
    });
    expect(resultDependsOn(stamped, { ...facts, path: 'b.pdf' })).not.toBe(resultDependsOn(stamped, facts));
    // Also below a step that needs the whole.
    const below = document({
      allReports: [
        { id: 'd', kind: 'demote header', settings: {} },
        { id: 's', kind: 'stamp', settings: { from: 'file name', template: '{n}.pdf' } },
      ],
    });
    expect(resultDependsOn(below, { ...facts, path: 'b.pdf' })).not.toBe(resultDependsOn(below, facts));
    const checked = document({ checks: [{ id: 'c', kind: 'formula', formula: 'report."file name" is not null' }] });
    expect(resultDependsOn(checked, { ...facts, path: 'b.pdf' })).not.toBe(resultDependsOn(checked, facts));
    const otherwise = document({
      take: [{ name: 'Landings', heading: ['Code'], readingIn: [{ report: 'b.pdf', reading: 'aligned' }] }],
    });
    expect(resultDependsOn(otherwise, { ...facts, path: 'b.pdf' })).not.toBe(resultDependsOn(otherwise, facts));
    expect(
      resultDependsOn(document({ eachReport: [{ id: 's', kind: 'trim rows', off: true, settings: {} }] }), facts),
    ).toBe(plainKey);
    expect(resultDependsOn(document({ name: 'Other' }), facts)).toBe(plainKey);
  });

  it('runs the commuting steps of all reports on each, the rest on the whole', () => {
    const types = document().allReports[0];
    const trim = { id: 'trim', kind: 'trim rows', settings: { top: 1 } };
    const split = splitAllReports(document({ allReports: [types, trim, { ...types, id: 'again' }] }));
    expect([split.perReport.map((s) => s.id), split.whole.map((s) => s.id)]).toEqual([['types'], ['trim', 'again']]);
  });
});

describe('appending', () => {
  it('goes by name, puts a new column behind its neighbour, and leaves blanks', () => {
    const { sheet } = append([
      textSheet([
        ['A', 'C'],
        ['1', '2'],
      ]),
      textSheet([
        ['A', 'B', 'C'],
        ['3', '4', '5'],
      ]),
    ]);
    expect(plain(sheet)).toEqual([
      ['A', 'B', 'C'],
      ['1', null, '2'],
      ['3', '4', '5'],
    ]);
  });

  it('makes clashing types text, and says so', () => {
    const typed = { ...textSheet([['A'], [7]]) };
    const number = { ...typed, columns: [{ ...typed.columns[0], type: 'integer' as const }] };
    const { sheet, problems } = append([number, textSheet([['A'], ['x']])]);
    expect(plain(sheet)).toEqual([['A'], ['7'], ['x']]);
    expect(problems[0]).toMatchObject({ column: 'A', came: 'integer and text' });
  });
});

describe('columns that are called differently', () => {
  it('become one by the table of spellings, and those that only some parts have are told', () => {
    const parts = [
      textSheet([
        ['Code', 'Boxes'],
        ['HK1', '3'],
      ]),
      textSheet([
        ['Code', 'No. of  boxes', 'Note'],
        ['SL2', '5', 'x'],
      ]),
    ];
    const problems: Problem[] = [];
    const alike = parts.map((part) => spelled(part, [{ to: 'Boxes', from: ['no. of boxes'] }], problems));
    expect(plain(append(alike).sheet)).toEqual([
      ['Code', 'Boxes', 'Note'],
      ['HK1', '3', null],
      ['SL2', '5', 'x'],
    ]);
    expect(problems).toEqual([]);
    expect(partialColumns(alike.map((part) => part.columns.map((column) => column.name)))).toEqual([
      { name: 'Note', lacks: [0] },
    ]);
    expect(
      partialColumns(parts.map((part) => part.columns.map((column) => column.name))).map(({ name }) => name),
    ).toEqual(['No. of  boxes', 'Note', 'Boxes']);
  });

  it('are spelled where a report is appended, and kept apart where two would be one', () => {
    const spelledOut = carryReport(document({ spellings: [{ to: 'Fish', from: ['Species'] }] }), report('r1'));
    expect(spelledOut.sheet.columns.map((column) => column.name)).toEqual(['Code', 'Fish', 'Boxes']);
    const clash = carryReport(document({ spellings: [{ to: 'Code', from: ['Species'] }] }), report('r1'));
    expect(clash.problems.map(({ expected }) => expected)).toContain('one column to be named “Code”');
  });
});

describe('older documents', () => {
  it('are read in the words of today', () => {
    const old = parsePipeline({
      ...document(),
      eachTable: [
        { id: 'a', kind: 'lift sections', settings: { into: 'Quay', known: 'bold' } },
        { id: 'b', kind: 'drop repeated headings', settings: { rows: 2 } },
        {
          id: 'c',
          kind: 'split column',
          settings: { column: 'Code', where: 'after so many letters', nth: 2, counted: 'from the right' },
        },
        { id: 'd', kind: 'carry values down', settings: { columns: { by: 'all' } } },
      ],
    });
    expect(old.eachTable.map(({ kind, settings }) => [kind, settings])).toMatchObject([
      ['lift sections', { levels: [{ into: 'Quay', known: 'bold' }] }],
      ['drop noise', { headings: true, headingRows: 2, dashes: false, pages: false }],
      ['split column', { where: 'at cuts', cuts: [-2] }],
      ['carry values', { direction: 'down' }],
    ]);
  });
});

describe('carrying a report', () => {
  it('gives the sheet below every layer, what was held, and the misfits', () => {
    const { layers, sheet, problems, matches } = carryReport(document(), report('r1'));
    expect(matches[0]).toMatchObject({ rule: 'Landings', sure: 1 });
    expect(
      layers.map((layer) => [layer.id, layer.rowsIn, layer.sheet.rows.length, layer.held.rows.rows.length]),
    ).toEqual([
      ['taken', 4, 4, 0],
      ['head', 4, 3, 1],
      ['joined', 3, 3, 0],
      ['appended', 3, 3, 0],
      ['types', 3, 3, 0],
    ]);
    expect(plain(sheet)).toEqual([
      ['Code', 'Species', 'Boxes'],
      ['HK1', 'Lantern hake', 112],
      ['SL2', 'Grey sole', 48],
      ['CR4', 'Rock crab', { text: 'n/k', expected: 'a whole number like 1,234' }],
    ]);
    expect(problems.map((each) => sentence(each, { step: () => 'Set types' }))).toEqual([
      'r1, page 1, step “Set types”, column “Boxes”: expected a whole number like 1,234, got “n/k”. Correct it with a step, hold the row, or choose another type.',
    ]);
    expect(sheet.rows.map(sheet.rows.id)).toEqual(
      [1, 2, 3].map((ordinal) => ({ report: 'r1', table: 'p1t1', ordinal })),
    );
  });

  it('stops after the step asked for', () => {
    expect(carryReport(document(), report('r1'), { until: 'head' }).layers.map((layer) => layer.id)).toEqual([
      'taken',
      'head',
    ]);
    expect(carryReport(document(), report('r1'), { until: 'taken' }).sheet.rows).toHaveLength(4);
  });

  it('lets the rows through a step that is switched off', () => {
    const off = document({
      eachTable: [{ id: 'head', kind: 'promote header rows', off: true, settings: { rows: 1 } }],
    });
    expect(carryReport(off, report('r1')).layers[1].sheet.rows).toHaveLength(4);
  });

  it('names a report in which nothing could be taken', () => {
    const result = carryReport(
      document(),
      report('r1', ['Vessel           Berth  Hours', 'Grey Heron       N3         9', 'Island Maid      W1        11']),
    );
    expect(result.sheet.rows).toHaveLength(0);
    expect(result.problems[0].kind).toBe('not taken');
  });

  it('runs steps that need the whole over all reports, the rows keeping their names', () => {
    const trimming = document({ allReports: [{ id: 'trim', kind: 'trim rows', settings: { top: 1 } }] });
    const reports = ['r1', 'r2'].map((key) => ({ key, ...carryReport(trimming, report(key)) }));
    const { sheet, layers } = carryWhole(trimming, reports);
    expect(layers[0].held.rows.rows).toHaveLength(1);
    expect(sheet.rows.map(sheet.rows.id).map(({ report: key, ordinal }) => [key, ordinal])).toEqual([
      ['r1', 2],
      ['r1', 3],
      ['r2', 1],
      ['r2', 2],
      ['r2', 3],
    ]);
    // The same words lie behind a cell, though the reports have one book now.
    expect(wordsBehind(sheet, 'Species', 4)).toEqual(wordsBehind(reports[1].sheet, 'Species', 2));
  });
});
