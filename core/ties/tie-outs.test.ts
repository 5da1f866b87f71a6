import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sentence } from '../sheet/problem';
import { findTables } from '../reading/find-tables';
import type { FoundTable } from '../reading/found-table';
import { page, words } from '../testing/print';
import { carryReport, carryWhole, type CarriedReport } from '../pipeline/carry';
import { parsePipeline, type Pipeline } from '../pipeline/document';
import { wouldTie } from './would-tie';
import { addedUp, countTies, noTies, tied, tiedWhole, tiesBefore, tiesSentence } from './tied';

const step = (id: string, kind: string, settings: object = {}) => ({ id, kind, settings });
const head = step('head', 'promote header rows', { rows: 1 });
const totals = step('totals', 'hold totals', { wording: ['Total*'], marked: false });
const types = (more: object = {}) =>
  step('types', 'set types', {
    types: [
      { columns: { by: 'names', names: ['Boxes'] }, type: 'integer' },
      { columns: { by: 'names', names: ['Value'] }, type: 'decimal', ...more },
    ],
  });
const lines = [
  'Quay         Species        Boxes     Value',
  'Saltby       Hake              12  1,014.40',
  'Saltby       Sole              48    862.40',
  'Total Saltby                   60  1,876.80',
  'Fairlead     Crab              61    318.80',
  'Total Fairlead                 61    318.80',
  'Total                         121  2,195.60',
];

function ties(eachReport: object[], text: readonly string[] = lines, accepted: object[] = []) {
  const document = parsePipeline({
    format: 'able-sieve/pipeline',
    version: 1,
    name: 'Ties',
    take: [{ name: 'T', heading: ['Quay', 'Species'] }],
    eachTable: [head],
    eachReport,
    accepted,
  });
  const pages = [page(words(text))];
  return tied(document, carryReport(document, { key: 'r1', path: 'a.pdf', pages, tables: findTables(pages) }));
}
const told = ({ ties: all }: ReturnType<typeof ties>) =>
  all.map(({ label, column, outcome, printed, computed, because }) => [
    label,
    column,
    outcome,
    printed,
    because ?? computed,
  ]);

const ofAll = (document: Pipeline, reports: readonly (CarriedReport & { key: string })[]) =>
  tiedWhole(
    document,
    carryWhole(document, reports),
    reports.map((report) => tiesBefore(document, report.key, tied(document, report))),
  );

describe('printed totals', () => {
  it('are each compared with the rows that they cover, those of totals as well', () => {
    expect(told(ties([totals, types()]))).toEqual([
      ['Total Saltby', 'Boxes', 'equal', 60, 60],
      ['Total Saltby', 'Value', 'equal', 1876.8, 1876.8],
      ['Total Fairlead', 'Boxes', 'equal', 61, 61],
      ['Total Fairlead', 'Value', 'equal', 318.8, 318.8],
      ['Total', 'Boxes', 'equal', 121, 121],
      ['Total', 'Value', 'equal', 2195.6, 2195.6],
    ]);
  });

  it('are followed through names, scales, places and shapes', () => {
    const renamed = step('names', 'rename', { names: [{ from: ['Value'], to: 'Worth' }] });
    const moved = [
      step('sort', 'sort', { by: [{ column: 'Species' }] }),
      step('pick', 'pick columns', { columns: { by: 'names', names: ['Value', 'Boxes'] } }),
    ];
    const turned = step('turn', 'unpivot', { columns: { by: 'names', names: ['Boxes', 'Value'] } });
    const turnedTypes = step('types', 'set types', {
      types: [{ columns: { by: 'names', names: ['Value'] }, type: 'decimal' }],
    });
    for (const steps of [
      [totals, types(), renamed],
      [totals, ...moved, types()],
      [totals, turned, turnedTypes],
    ])
      expect(new Set(ties(steps).ties.map(({ outcome }) => outcome)), JSON.stringify(steps)).toEqual(
        new Set(['equal']),
      );
    expect(told(ties([totals, types({ scale: 'thousands', unit: 'kg' })]))[1]).toEqual([
      'Total Saltby',
      'Value',
      'equal',
      1_876_800,
      1_876_800,
    ]);
  });

  it('are compared with the sums of a summary, where these are of their rows alone', () => {
    const summed = (by: string) =>
      step('sum', 'summarise', {
        by: { by: 'names', names: [by] },
        values: [{ columns: { by: 'names', names: ['Boxes', 'Value'] } }],
      });
    expect(new Set(ties([totals, types(), summed('Quay')]).ties.map(({ outcome }) => outcome))).toEqual(
      new Set(['equal']),
    );
    const mixed = [...lines.slice(0, 4), lines[4].replace('Crab', 'Hake'), ...lines.slice(5)];
    expect(told(ties([totals, types(), summed('Species')], mixed)).slice(0, 1)).toEqual([
      ['Total Saltby', 'Boxes', 'not comparable', 60, '“Boxes” holds amounts of other rows as well'],
    ]);
  });

  it('are compared as well where a step over all reports keeps them, each with the rows of its report', () => {
    const document = parsePipeline({
      format: 'able-sieve/pipeline',
      version: 1,
      name: 'Ties',
      take: [{ name: 'T', heading: ['Quay', 'Species'] }],
      eachTable: [head],
      allReports: [step('all', 'trim rows', { top: 0 }), totals, types()],
    });
    const misprinted = lines.map((line) =>
      line.replace('Total Fairlead                 61    318.80', 'Total Fairlead                 61    318.90'),
    );
    const carried = [lines, misprinted].map((text, i) => {
      const pages = [page(words(text))];
      return {
        ...carryReport(document, { key: `r${i + 1}`, path: `${i + 1}.pdf`, pages, tables: findTables(pages) }),
        key: `r${i + 1}`,
      };
    });
    const whole = ofAll(document, carried);
    expect(whole.ties.map(({ row, label, column, outcome }) => [row.report, label, column, outcome])).toEqual([
      ['r1', 'Total Saltby', 'Boxes', 'equal'],
      ['r1', 'Total Saltby', 'Value', 'equal'],
      ['r1', 'Total Fairlead', 'Boxes', 'equal'],
      ['r1', 'Total Fairlead', 'Value', 'equal'],
      ['r1', 'Total', 'Boxes', 'equal'],
      ['r1', 'Total', 'Value', 'equal'],
      ['r2', 'Total Saltby', 'Boxes', 'equal'],
      ['r2', 'Total Saltby', 'Value', 'equal'],
      ['r2', 'Total Fairlead', 'Boxes', 'equal'],
      ['r2', 'Total Fairlead', 'Value', 'off'],
      ['r2', 'Total', 'Boxes', 'equal'],
      ['r2', 'Total', 'Value', 'equal'],
    ]);
    expect(
      whole.problems.filter(({ kind }) => kind === 'tie-out').map(({ report, column }) => [report, column]),
    ).toEqual([['r2', 'Value']]);
  });

  it('are compared with what steps over all reports leave of their rows: held ones are named, and sums over reports send back to the rows before', () => {
    const after = (step: object) => {
      const document = parsePipeline({
        format: 'able-sieve/pipeline',
        version: 1,
        name: 'Ties',
        take: [{ name: 'T', heading: ['Quay', 'Species'] }],
        eachTable: [head],
        eachReport: [totals, types()],
        allReports: [step],
      });
      const other = [
        lines[0],
        lines[1],
        lines[2],
        lines[3],
        'Fairlead     Crab              62    319.80',
        'Total Fairlead                 62    319.90',
        'Total                         122  2,196.60',
      ];
      const carried = [lines, other].map((text, i) => {
        const pages = [page(words(text))];
        return {
          ...carryReport(document, { key: `r${i + 1}`, path: `${i + 1}.pdf`, pages, tables: findTables(pages) }),
          key: `r${i + 1}`,
        };
      });
      const whole = ofAll(document, carried);
      return {
        told: whole.ties
          .map(({ row, label, outcome, because }) => [row.report, label, outcome, because])
          .filter((_, i) => i % 2 === 1),
        before: whole.tiedBefore,
      };
    };
    const sums = after(
      step('sum', 'summarise', {
        by: { by: 'names', names: ['Species'] },
        values: [{ columns: { by: 'names', names: ['Boxes', 'Value'] } }],
      }),
    );
    expect(sums.told.map(([report, label, outcome]) => [report, label, outcome])).toEqual([
      ['r1', 'Total Saltby', 'equal'],
      ['r1', 'Total Fairlead', 'equal'],
      ['r1', 'Total', 'equal'],
      ['r2', 'Total Saltby', 'equal'],
      ['r2', 'Total Fairlead', 'off'],
      ['r2', 'Total', 'equal'],
    ]);
    expect(sums.before).toEqual(['Summarise']);
    const distinct = after(
      step('once', 'deduplicate', { columns: { by: 'names', names: ['Quay', 'Species', 'Boxes'] } }),
    );
    expect(distinct.before).toEqual([]);
    expect(distinct.told).toEqual([
      ['r1', 'Total Saltby', 'equal', undefined],
      ['r1', 'Total Fairlead', 'equal', undefined],
      ['r1', 'Total', 'equal', undefined],
      ['r2', 'Total Saltby', 'not comparable', '2 of its 2 rows were held by “Deduplicate”'],
      ['r2', 'Total Fairlead', 'off', undefined],
      ['r2', 'Total', 'not comparable', '2 of its 3 rows were held by “Deduplicate”'],
    ]);
  });

  it('that are off say where and by how much, until they are accepted as they are printed', () => {
    const misprinted = lines.map((line) => line.replace('1,876.80', '1,876.30'));
    const off = ties([totals, types()], misprinted);
    expect(told(off).filter(([, , outcome]) => outcome === 'off')).toEqual([
      ['Total Saltby', 'Value', 'off', 1876.3, 1876.8],
    ]);
    expect(off.problems.map((problem) => sentence(problem, { report: () => 'a.pdf' }))).toEqual([
      expect.stringMatching(
        /^a\.pdf, page 1, step “totals”, column “Value”: expected 1876\.3, as printed for “Total Saltby”, got 1876\.8 from its 2 rows\. Look for a row/,
      ),
    ]);
    const [{ row }] = off.ties.filter(({ outcome }) => outcome === 'off');
    const as = {
      report: 'a.pdf',
      table: row.table,
      row: row.ordinal,
      column: 'Value',
      printed: 1876.3,
      why: 'the office has confirmed it',
    };
    const accepted = ties([totals, types()], misprinted, [as]);
    expect([accepted.problems, accepted.ties.filter((tie) => tie.accepted)]).toEqual([
      [],
      [expect.objectContaining({ outcome: 'off', accepted: 'the office has confirmed it' })],
    ]);
    // Another misprint at that place is another question.
    expect(
      ties(
        [totals, types()],
        lines.map((line) => line.replace('1,876.80', '1,871.80')),
        [as],
      ).problems,
    ).toHaveLength(1);
  });

  it('that miss a row name the step that held it', () => {
    const sift = step('sift', 'sift rows', {
      conditions: [{ of: { is: 'column', name: 'Species' }, test: 'is', value: 'Sole' }],
    });
    expect(told(ties([totals, sift, types()]))[0]).toEqual([
      'Total Saltby',
      'Boxes',
      'not comparable',
      60,
      '1 of its 2 rows was held by “Sift rows”',
    ]);
    expect(
      told(ties([totals, step('pick', 'pick columns', { columns: { by: 'all but', names: ['Boxes'] } }), types()]))[0],
    ).toEqual(['Total Saltby', 'Boxes', 'not comparable', 60, '2 of its 2 amounts are not in the dataset']);
    expect(told(ties([totals, step('types', 'set types', { types: [] })]))[0]).toEqual([
      'Total Saltby',
      'Boxes',
      'not comparable',
      60,
      '“Boxes” holds texts in the end',
    ]);
  });

  it('that are off are asked of rows that were held, that may be doubled, and of cells that may be read wrong', () => {
    const candidates = (eachReport: object[], text = lines, notTaken: readonly FoundTable[] = []) => {
      const { layers, ties: all } = ties(eachReport, text);
      const at = layers.findIndex(({ id }) => id === 'totals');
      return all
        .filter(({ outcome }) => outcome === 'off')
        .map(({ row, column, label }) => [
          label,
          column,
          wouldTie(
            layers,
            at,
            layers[at].held.rows.rows
              .map((each) => each)
              .find((each) => layers[at].held.rows.rows.id(each).ordinal === row.ordinal)!,
            column,
            'en-GB',
            notTaken,
          ).map(({ places, ...would }) => ({ ...would, words: places.flatMap((place) => place.words).length })),
        ]);
    };
    const sift = step('sift', 'sift rows', {
      conditions: [{ of: { is: 'column', name: 'Boxes' }, test: 'is', value: '12' }],
    });
    expect(candidates([sift, totals, types()])[1]).toEqual([
      'Total Saltby',
      'Value',
      [{ kind: 'held', step: 'Sift rows', label: 'Saltby · Hake · 12', amount: '1,014.40', page: 1, words: 1 }],
    ]);
    const twice = [...lines.slice(0, 3), lines[2], ...lines.slice(3)];
    expect(candidates([totals, types()], twice)[1]).toEqual([
      'Total Saltby',
      'Value',
      [
        expect.objectContaining({ kind: 'doubled', amount: '862.40' }),
        expect.objectContaining({ kind: 'doubled', amount: '862.40' }),
      ],
    ]);
    expect(
      candidates(
        [totals, types()],
        lines.map((line) => line.replace('1,876.80', '1,872.80')),
      ),
    ).toEqual([
      [
        'Total Saltby',
        'Value',
        [{ kind: 'digit', label: 'Saltby · Hake · 12', amount: '1,014.40', instead: '1010.4', page: 1, words: 1 }],
      ],
    ]);
    expect(
      candidates(
        [totals, types()],
        lines.map((line) => line.replace('862.40', 'B62.40')),
      )[0],
    ).toEqual([
      'Total Saltby',
      'Value',
      [{ kind: 'misfit', label: 'Saltby · Sole · 48', amount: 'B62.40', instead: '862.4', page: 1, words: 1 }],
    ]);
    expect(
      candidates(
        [totals, types()],
        lines.map((line) => line.replace('1,876.80', '1,632.17')),
      ),
    ).toEqual([['Total Saltby', 'Value', []]]);
    const overleaf = (rows: string[]) => findTables([page(words([lines[0], ...rows]), { number: 2 })]);
    const lacking = lines.map((line) => line.replace('1,876.80', '1,955.25'));
    expect(
      candidates(
        [totals, types()],
        lacking,
        overleaf(['Saltby       Ling              22     78.45', 'Saltby       Cusk              20     60.00']),
      ),
    ).toEqual([
      [
        'Total Saltby',
        'Value',
        [{ kind: 'not taken', label: 'Saltby · Ling · 22', amount: '78.45', page: 2, words: 1 }],
      ],
    ]);
    expect(
      candidates(
        [totals, types()],
        lacking,
        overleaf(['Saltby       Ling              22     18.45', 'Saltby       Cusk              20     60.00']),
      ),
    ).toEqual([
      ['Total Saltby', 'Value', [{ kind: 'not taken', label: 'all 2 rows', amount: '78.45', page: 2, words: 0 }]],
    ]);
  });

  it('of rounded amounts may be off by what rounding makes, and say so; counts never', () => {
    const rounded = lines.map((line) => line.replace('1,876.80', '1,876.81'));
    expect(told(ties([totals, types()], rounded))[1]).toEqual([
      'Total Saltby',
      'Value',
      'within rounding',
      1876.81,
      1876.8,
    ]);
    expect(
      told(
        ties(
          [totals, types()],
          lines.map((line) => line.replace(/ 60 /, ' 61 ')),
        ),
      )[0],
    ).toEqual(['Total Saltby', 'Boxes', 'off', 61, 60]);
  });

  it('that stand between their rows are means, and no false alarm', () => {
    const means = lines.map((line) => line.replace('1,876.80', '  938.40').replace('2,195.60', '  731.87'));
    // Where another total of the column is a sum, this one is off.
    expect(
      told(
        ties(
          [totals, types()],
          lines.map((line) => line.replace('1,876.80', '  938.40')),
        ),
      )[1],
    ).toEqual(['Total Saltby', 'Value', 'off', 938.4, 1876.8]);
    expect(told(ties([totals, types()], means))[1]).toEqual([
      'Total Saltby',
      'Value',
      'not comparable',
      938.4,
      'it stands between the least and the most of its rows, as a mean does',
    ]);
  });

  it('find every digit of an amount that is another on the paper than in its total, or the other way round', () => {
    const amount = fc.integer({ min: 1000, max: 999_999 });
    const print = (cents: number) => (cents / 100).toFixed(2).padStart(10);
    fc.assert(
      fc.property(fc.array(amount, { minLength: 2, maxLength: 8 }), fc.nat(), fc.nat(9), (amounts, which, digit) => {
        const sum = amounts.reduce((total, each) => total + each, 0);
        const at = which % (amounts.length + 1);
        const own = [...amounts, sum];
        const text = print(own[at]).split('');
        const place = text.findIndex((letter, i) => /[1-9]/.test(letter) && i >= which % 3);
        if (place < 0 || text[place] === String(digit)) return;
        text[place] = String(digit);
        const printed = own.map((each, i) => (i === at ? text.join('') : print(each)));
        const rows = [
          'Quay     Species          Value',
          ...printed.slice(0, -1).map((each, i) => `Q${String(i).padEnd(8)}Hake      ${each}`),
          `Total               ${printed.at(-1)!}`,
        ];
        const [{ outcome, because }] = ties(
          [
            totals,
            step('types', 'set types', { types: [{ columns: { by: 'names', names: ['Value'] }, type: 'decimal' }] }),
          ],
          rows,
        ).ties;
        // Half a cent a row could be rounding, and is said.
        expect(
          ['off', 'within rounding'].includes(outcome) || because?.includes('as a mean does'),
          rows.join('\n'),
        ).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});

describe('how printed totals stand', () => {
  it('is one sentence', () => {
    expect(tiesSentence(noTies)).toBe('');
    expect(tiesSentence({ ...noTies, equal: 152 })).toBe('All 152 printed totals tie out.');
    expect(tiesSentence({ ...noTies, equal: 3 }, ['Deduplicate'])).toBe(
      'All 3 printed totals tie out, some as the rows were before “Deduplicate” over all reports.',
    );
    expect(tiesSentence({ ...noTies, equal: 1 })).toBe('The one printed total ties out.');
    expect(tiesSentence({ equal: 149, rounded: 1, off: 1, accepted: 1, notComparable: 4 })).toBe(
      '150 of 152 printed totals tie out, 1 is off, 1 is accepted as misprinted, 1 within rounding, 4 cannot be compared.',
    );
    expect(tiesSentence({ ...noTies, notComparable: 2 })).toBe('2 printed totals cannot be compared.');
    expect(
      addedUp([
        { ...noTies, equal: 2 },
        { ...noTies, equal: 3, off: 1 },
      ]),
    ).toEqual({ ...noTies, equal: 5, off: 1 });
    expect(countTies(ties([totals, types()]).ties)).toEqual({ ...noTies, equal: 6 });
  });
});
