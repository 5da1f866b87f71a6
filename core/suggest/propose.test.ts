import { describe, expect, it } from 'vitest';
import type { ReportRead } from '../intake/take';
import { carryReport } from '../pipeline/carry';
import { parsePipeline, type Pipeline } from '../pipeline/document';
import { findTables } from '../reading/find-tables';
import { plain } from '../testing/sheets';
import { page, words } from '../testing/print';
import { proposeSteps } from './propose';

/** A pipeline that takes the table with these headings, and has no steps. */
const taking = (heading: string[], more: object = {}): Pipeline =>
  parsePipeline({
    format: 'able-sieve/pipeline',
    version: 1,
    name: 'Proposed',
    take: [{ name: 'T', heading }],
    ...more,
  });
/** A report of one page or more from lines of text as on a typewriter. */
function report(path: string, ...pages: string[][]): ReportRead {
  const content = pages.map((lines, i) =>
    page(words(lines, { bold: (_, line) => bold.has(lines[line]) }), { number: i + 1 }),
  );
  return { key: path, path, pages: content, tables: findTables(content) };
}
const bold = new Set<string>();
const kindsOf = (proposals: ReturnType<typeof proposeSteps>) => proposals.map(({ step }) => step.kind);
const found = (proposals: ReturnType<typeof proposeSteps>, kind: string) =>
  proposals.find(({ step }) => step.kind === kind);
const taken = (pipeline: Pipeline, proposals: ReturnType<typeof proposeSteps>): Pipeline =>
  proposals.reduce((all, { zone, step }) => ({ ...all, [zone]: [...all[zone], step] }), pipeline);

const head = 'Code      Species        Boxes     Weight     Value';
const heading = ['Code', 'Species', 'Boxes', 'Weight', 'Value'];
const rowsOf = (n: number) => [
  `HK1       Lantern hake      1${n}      101.5    326.10`,
  `SL2       Grey sole          8       33.0    135.20`,
  `CD3       Fell cod          31      240.9    662.00`,
  `PL1       Marsh plaice      20       80.0    312.00`,
];
const total = (n: number) => `          Total             ${69 + n}      455.4  1,435.30`;
const weeks = (lines: (n: number) => string[]) => [1, 2, 3].map((n) => report(`week-2${n}.pdf`, lines(n)));

describe('steps proposed from what reports print', () => {
  it('put halves under one another, which changes the shape alone', () => {
    const lines = (n: number) => [
      'No.   Buoy       Depth      No.   Buoy       Depth',
      ...[1, 2, 3, 4].map((i) => `${i}     Red ${i}       ${n}.${i}      ${i + 4}     Red ${i + 4}       1${n}.${i}`),
    ];
    const reads = weeks(lines);
    const pipeline = taking(['No.', 'Buoy', 'Depth']);
    const proposals = proposeSteps(pipeline, reads);
    expect(kindsOf(proposals)).toContain('stack blocks');
    const { sheet } = carryReport(taken(pipeline, proposals), reads[0]);
    expect([
      sheet.rows.length,
      ...['No.', 'Buoy', 'Depth'].map((name) => sheet.columns.find((column) => column.name === name)!.cells[4]),
    ]).toEqual([8, 5, 'Red 5', 11.1]);
    expect(proposeSteps(taken(pipeline, proposals), reads)).toEqual([]);
  });

  it('name the columns, hold the totals, stamp what stands above, and set types; taken, nothing more is proposed', () => {
    const reads = weeks((n) => [`Landings in the week ending ${n} June 2025`, '', head, ...rowsOf(n), total(n)]);
    const pipeline = taking(heading);
    const proposals = proposeSteps(pipeline, reads);
    expect(kindsOf(proposals)).toEqual(['promote header rows', 'hold totals', 'stamp', 'stamp', 'set types']);
    expect(found(proposals, 'promote header rows')).toMatchObject({
      zone: 'eachTable',
      reason: 'the first row of all 3 tables is the heading',
      effect: { held: 3, reports: 3, failing: [] },
    });
    expect(found(proposals, 'hold totals')).toMatchObject({
      zone: 'eachReport',
      reason: '3 rows are printed totals, such as “Total”; 3 of 3 add up to the rows above',
      effect: { rowsIn: 15, rowsOut: 12, held: 3 },
    });
    expect(found(proposals, 'stamp')!.step.settings).toMatchObject({
      from: 'page text',
      template: 'Landings in the week ending {the week ending}',
    });
    const all = taken(pipeline, proposals);
    expect(proposeSteps(all, reads)).toEqual([]);
    expect(plain(carryReport(all, reads[0]).sheet).slice(0, 2)).toEqual([
      ['Week', 'the week ending', 'Code', 'Species', 'Boxes', 'Weight', 'Value'],
      [21, '2025-06-01', 'HK1', 'Lantern hake', 11, 101.5, 326.1],
    ]);
  });

  it('leave alone what is in order: no blank rows, no noise, no sections, nothing to carry, fold or turn', () => {
    const proposals = proposeSteps(
      taking(heading),
      weeks((n) => [head, ...rowsOf(n)]),
    );
    for (const kind of [
      'drop blank rows',
      'drop noise',
      'lift sections',
      'hold totals',
      'carry values',
      'fold lines',
      'unpivot',
      'rename',
    ])
      expect(kindsOf(proposals)).not.toContain(kind);
  });

  it('name a column that a report calls otherwise, and say where', () => {
    const reads = [
      ...weeks((n) => [head, ...rowsOf(n)]),
      report('week-24.pdf', [head.replace('Boxes', 'Cases'), ...rowsOf(4)]),
    ];
    const proposal = found(proposeSteps(taking(heading), reads), 'rename');
    expect(proposal).toMatchObject({ reason: '“Cases” stands where 3 tables have “Boxes”', effect: { reports: 1 } });
    expect(proposal!.step.settings).toMatchObject({ names: [{ from: ['Cases'], to: 'Boxes' }] });
    // Other contents at that place are another column.
    const words_ = report('week-24.pdf', [
      head.replace('Boxes', 'Grade'),
      ...rowsOf(4).map((row) => row.replace(/ {2,}\d+ {2,}(?=\d+\.\d )/, '         A    ')),
    ]);
    expect(
      found(proposeSteps(taking(heading), [...weeks((n) => [head, ...rowsOf(n)]), words_]), 'rename'),
    ).toBeUndefined();
  });

  it('hold a heading that is printed again on the next page', () => {
    const reads = [report('week-21.pdf', [head, ...rowsOf(1), ...rowsOf(2)], [head, ...rowsOf(3)])];
    expect(found(proposeSteps(taking(heading), reads), 'drop noise')?.reason ?? 'joined by the reading').toMatch(
      /1 row says the heading again|joined by the reading/,
    );
  });

  it('carry down what is printed once for several rows, and no numbers', () => {
    const wide = (quay: string, code: string, boxes: number) =>
      `${quay.padEnd(10)}${code.padEnd(10)}${String(boxes).padStart(5)}     ${(boxes * 2.5).toFixed(1).padStart(6)}`;
    const reads = weeks((n) => [
      'Quay      Code      Boxes     Weight',
      wide('Saltby', 'HK1', n),
      wide('', 'SL2', 8),
      wide('', 'CD3', 30),
      wide('Fairlead', 'HK1', 12),
      wide('', 'SL2', 4),
    ]);
    const proposal = found(proposeSteps(taking(['Quay', 'Code', 'Boxes', 'Weight']), reads), 'carry values');
    expect(proposal?.step.settings).toMatchObject({ columns: { by: 'names', names: ['Quay'] }, direction: 'down' });
    expect(proposal?.reason).toBe('“Quay” is printed once for the rows below: 9 rows without');
  });

  it('turn columns of years into rows, and leave the total across out', () => {
    const line = (name: string, ...amounts: number[]) =>
      `${name.padEnd(12)}${[...amounts, amounts.reduce((a, b) => a + b, 0)].map((n) => String(n).padStart(10)).join('')}`;
    const reads = [1, 2].map((n) =>
      report(`flows-${n}.pdf`, [
        `Cargo       ${['2021', '2022', '2023', '2024', 'Together'].map((t) => t.padStart(10)).join('')}`,
        ...['Grain', 'Coal', 'Timber', 'Steel', 'Paper', 'Fish'].map((name, i) =>
          line(name, 100 + i * 7 + n, 200 + i, 150 + 3 * i, 90 + i),
        ),
      ]),
    );
    const proposals = proposeSteps(taking(['Cargo', '2021', '2022', '2023', '2024', 'Together']), reads);
    expect(found(proposals, 'pick columns')?.step.settings).toEqual({
      columns: { by: 'all but', names: ['Together'] },
    });
    expect(found(proposals, 'unpivot')?.step.settings).toMatchObject({
      columns: { by: 'all but', names: ['Cargo'] },
      heading: 'one column',
      into: 'Year',
    });
    expect(found(proposals, 'unpivot')?.effect).toMatchObject({ rowsIn: 12, rowsOut: 48 });
  });

  it('read numbers as the language of the reports prints them', () => {
    const reads = [1, 2].map((n) =>
      report(`bericht-${n}.pdf`, [
        'Code      Sorte          Kisten    Gewicht      Wert',
        `HK1       Seehecht          1${n}      1.101,5  3.326,10`,
        'SL2       Seezunge           8         33,0    135,20',
        'CD3       Kabeljau          31        240,9    662,00',
        '          Summe             52      1.375,4  4.123,30',
      ]),
    );
    const proposals = proposeSteps(taking(['Code', 'Sorte', 'Kisten', 'Gewicht', 'Wert']), reads);
    expect(found(proposals, 'set types')?.step.settings).toMatchObject({ locale: 'de-DE' });
    expect(found(proposals, 'hold totals')?.step.settings).toMatchObject({ locale: 'de-DE', wording: ['Summe'] });
  });

  it('stamp a line that says nothing but the month, and the year with the week or quarter that stands beside it', () => {
    const stampsOf = (lines: (n: number) => string[]) => {
      const reads = [1, 2, 3].map((n) => report(`gates ${'abc'[n - 1]}.pdf`, [...lines(n), '', head, ...rowsOf(n)]));
      const proposals = proposeSteps(taking(heading), reads);
      expect(proposeSteps(taken(taking(heading), proposals), reads)).toEqual([]);
      const { sheet } = carryReport(taken(taking(heading), proposals), reads[1]);
      return [
        ...proposals
          .filter(({ step }) => step.kind === 'stamp')
          .map(({ step }) => step.settings['template'] || step.settings['column']),
        sheet.columns[0].name,
        sheet.columns[0].cells[0],
      ];
    };
    expect(stampsOf((n) => ['Gates of the harbour', '', `${['May', 'June', 'July'][n - 1]} 2025`])).toEqual([
      'Month',
      'Month',
      '2025-06',
    ]);
    // Next year the year is another, though it is the same in these.
    expect(stampsOf((n) => [`Boxes counted, week ${n + 20} of 2025`])).toEqual([
      'Boxes counted, {Week}',
      'Week',
      '2025-W22',
    ]);
    expect(stampsOf((n) => [`Quarter ${n}, 2025`])).toEqual(['Quarter', 'Quarter', '2025-Q2']);
    // Two such lines, and it is not known which is meant.
    expect(stampsOf((n) => [`${n} June 2025`, '', `${n + 3} July 2025`])[0]).toBe('Code');
  });

  it('stamp a date with the day of the week before it, whichever that will be, and no amount that stands by itself', () => {
    const reads = weeks((n) => [
      `Thursday, ${n} June 2025 - first sale`,
      '',
      head,
      ...rowsOf(n),
      '',
      '',
      '',
      `All quays                       ${n}40.5 kg`,
    ]);
    const stamps = proposeSteps(taking(heading), reads).filter(({ step }) => step.kind === 'stamp');
    expect(stamps.map(({ step }) => step.settings['template'])).toEqual(['{Date} - first sale', 'week-{Week}.pdf']);
  });

  it('stamp a date whole, though its year is the same, and what stands beside labels in bold print', () => {
    const dates = weeks((n) => [`Open items as of March ${n}, 2025`, '', head, ...rowsOf(n)]);
    expect(proposeSteps(taking(heading), dates).flatMap(({ step }) => step.settings['template'] ?? [])).toEqual([
      'Open items as of {items as of}',
      'week-{Week}.pdf',
    ]);
    const card = (n: number, isBold: (word: string) => boolean) => {
      const content = [
        page(words([`Craft   Marlin ${n}      Foreman   Holt`, '', '', head, ...rowsOf(n)], { bold: isBold })),
      ];
      return { key: `${n}`, path: `card-${n}0${n}.pdf`, pages: content, tables: findTables(content) };
    };
    const labels = (isBold: (word: string) => boolean) =>
      proposeSteps(
        taking(heading),
        [1, 2, 3].map((n) => card(n, isBold)),
      ).flatMap(({ step }) => step.settings['label'] || []);
    expect(labels((word) => ['Craft', 'Foreman'].includes(word))).toEqual(['Craft']);
    expect(labels(() => true)).toEqual([]);
    // At the other side of the page stands something else.
    const far = [1, 2, 3].map((n) => {
      const content = [
        page(
          words([`Board${' '.repeat(60)}Issued ${n} June`, '', head, ...rowsOf(n)], {
            bold: (word) => word === 'Board',
          }),
        ),
      ];
      return { key: `${n}`, path: `far-${n}0${n}.pdf`, pages: content, tables: findTables(content) };
    });
    expect(proposeSteps(taking(heading), far).flatMap(({ step }) => step.settings['label'] || [])).toEqual([]);
  });

  it('stamp what one text of a line says, and not what stands far beside it', () => {
    const reads = weeks((n) => [
      `Report no. R-${n}7              Page one`,
      `June 202${n}              Harbour Board`,
      '',
      head,
      ...rowsOf(n),
    ]);
    const all = taken(taking(heading), proposeSteps(taking(heading), reads));
    const { sheet } = carryReport(all, reads[0]);
    const valuesOf = (name: string) => [...new Set(sheet.columns.find((column) => column.name === name)?.cells)];
    expect([valuesOf('Report no'), valuesOf('Month')]).toEqual([['R-17'], ['2021-06']]);
    // A template over several texts still finds the whole line.
    const wide = carryReport(
      {
        ...taking(heading),
        eachReport: [
          {
            id: 's',
            kind: 'stamp',
            settings: {
              from: 'page text',
              template: 'Report no. {No} Page {Page}',
              label: '',
              side: 'right',
              column: '',
            },
          },
        ],
      },
      reads[0],
    );
    expect(wide.sheet.columns.slice(0, 2).map(({ name, cells }) => [name, cells[0]])).toEqual([
      ['No', 'R-17'],
      ['Page', 'one'],
    ]);
  });

  it('know a total by its label where the amounts bear the code of their currency', () => {
    const reads = weeks((n) => [
      'Data         Produto          Valor',
      `0${n}/02/2025   Atum      R$ 1.916,00`,
      `1${n}/02/2025   Polvo     R$ 3.921,30`,
      'Total geral            R$ 5.837,30',
    ]);
    expect(found(proposeSteps(taking(['Data', 'Produto', 'Valor']), reads), 'hold totals')).toMatchObject({
      step: { settings: { wording: ['Total geral'] } },
      reason: '3 rows are printed totals, such as “Total geral”; 3 of 3 add up to the rows above',
    });
  });

  it('put a quarter and its year together where it is one of the calendar', () => {
    const kindsUnder = (title: string) =>
      kindsOf(
        proposeSteps(
          taking(heading),
          [1, 2, 3].map((n) =>
            report(`boxes ${'abc'[n - 1]}.pdf`, [
              title,
              '',
              `Issued: Harbour`,
              '',
              `Boxes of quarter ${n} in the year ${2020 + n}`,
              '',
              head,
              ...rowsOf(n),
            ]),
          ),
        ),
      );
    expect(kindsUnder('Boxes landed')).toContain('date from parts');
    expect(kindsUnder('Boxes landed, fiscal years')).not.toContain('date from parts');
  });

  it('hold the sums of each form of a report, and what stands among them', () => {
    const form = (n: number) => [
      'Pos   Service          Qty    Amount',
      `1     Towage              2    1${n}0.00`,
      '2     Ice                 5    50.50',
      '3     Water               1     9.50',
      `      Net                      ${170 + 10 * (n - 1)}.00`,
      `      VAT 10 %                  ${17 + n - 1}.00`,
      `      To pay                   ${187 + 11 * (n - 1)}.00`,
    ];
    const reads = [report('a.pdf', form(1), form(2)), report('b.pdf', form(3), form(4))];
    const pipeline = taking(['Pos', 'Service', 'Qty', 'Amount']);
    const proposals = proposeSteps(pipeline, reads);
    expect(found(proposals, 'hold totals')).toMatchObject({
      reason: '8 rows such as “Net”: 8 of 8 add up to the rows above',
    });
    expect(carryReport(taken(pipeline, proposals), reads[0]).sheet.columns[1].cells).toEqual([
      'Towage',
      'Ice',
      'Water',
      'Towage',
      'Ice',
      'Water',
    ]);
  });

  it('hold the sum of all that is worded unlike those of its parts', () => {
    const lines = (n: number) => [
      'Port       Cargo     Tonnes',
      `Saltby     Grain        ${n}12`,
      '           Fish          33',
      `Saltby total            ${n}45`,
      'Holm       Ore          101',
      '           Fish          99',
      'Holm total              200',
      `All ports               ${n + 2}45`,
    ];
    const proposals = proposeSteps(taking(['Port', 'Cargo', 'Tonnes']), weeks(lines));
    expect(found(proposals, 'hold totals')).toMatchObject({
      step: { settings: { wording: ['All ports'] } },
      reason: expect.stringContaining('9 of 9 add up'),
    });
    expect(found(proposals, 'carry values')).toMatchObject({ step: { settings: { columns: { names: ['Port'] } } } });
  });

  it('make a record of each card of labels, and no heading of its first line', () => {
    const card = (n: number) => [
      `Berth     B${n}`,
      `Length    ${n * 13} m`,
      ...(n % 3 === 0 ? [] : [`Depth     ${n}.5 m`]),
    ];
    const reads = [
      [1, 2, 3],
      [4, 5, 6],
    ].map((own, i) => report(`berths-${i + 1}.pdf`, own.flatMap(card)));
    const pipeline = taking(['Berth', 'B1']);
    const proposals = proposeSteps(pipeline, reads);
    expect(proposals[0]).toMatchObject({
      step: { kind: 'lines to records' },
      reason: '6 cards of labels from “Berth” to “Depth”, each with its value beside it',
    });
    expect(plain(carryReport(taken(pipeline, proposals.slice(0, 1)), reads[0]).sheet)).toEqual([
      ['Berth', 'Length', 'Depth'],
      ['B1', '13 m', '1.5 m'],
      ['B2', '26 m', '2.5 m'],
      ['B3', '39 m', null],
    ]);
    expect(kindsOf(proposals)).not.toContain('promote header rows');
    // Names that come again in a list of two columns are no labels of cards.
    const list = [
      'Vessel    Cargo',
      'Heron     Ice',
      'Marlin    Salt',
      'Heron     Rope',
      'Tern      Ice',
      'Marlin    Ice',
      'Heron     Tar',
    ];
    expect(kindsOf(proposeSteps(taking(['Vessel', 'Cargo']), [report('list.pdf', list)]))).toContain(
      'promote header rows',
    );
    expect(kindsOf(proposeSteps(taking(['Vessel', 'Cargo']), [report('list.pdf', list)]))).not.toContain(
      'lines to records',
    );
  });

  it('say where thousands and decimals cannot be told, and go by the language of the paper', () => {
    const lines = (n: number) => [
      `Presupuesto ${2020 + n}, importes en euros`,
      '',
      'Concepto      Plan      Real',
      `Ingresos    28.06${n}    27.184`,
      'Gastos      65.172    16.631',
    ];
    const proposal = found(proposeSteps(taking(['Concepto', 'Plan', 'Real']), weeks(lines)), 'set types');
    expect(proposal).toMatchObject({
      step: { settings: { locale: 'es-ES' } },
      reason: expect.stringMatching(
        /Look at “Plan”, “Real”: “\d\d\.\d{3}” could have its decimals or its thousands after the mark/,
      ),
    });
  });

  it('stay dismissed once they are, until they are asked back', () => {
    const reads = weeks((n) => [head, ...rowsOf(n), total(n)]);
    const pipeline = taking(heading);
    const first = proposeSteps(pipeline, reads);
    const totals = found(first, 'hold totals')!;
    const without = proposeSteps(pipeline, reads, { dismissed: [totals.id] });
    expect(kindsOf(without)).toEqual(kindsOf(first).filter((kind) => kind !== 'hold totals'));
    expect(kindsOf(proposeSteps(pipeline, reads))).toEqual(kindsOf(first));
  });

  it('say nothing of reports from which nothing is taken', () => {
    expect(
      proposeSteps(
        taking(['Nothing', 'Like', 'It']),
        weeks((n) => [head, ...rowsOf(n)]),
      ),
    ).toEqual([]);
    expect(proposeSteps(taking(heading), [])).toEqual([]);
  });
});
