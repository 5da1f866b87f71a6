import { describe, expect, it } from 'vitest';
import type { CarriedReport } from '../pipeline/carry';
import { parsePipeline } from '../pipeline/document';
import { emptySheet, rowsAt } from '../sheet/sheet';
import { paper, textSheet } from '../testing/sheets';
import { blankRows } from './blank-rows';
import { blocksAside } from './blocks-aside';
import { continuedLines } from './continued-lines';
import { datesInParts } from './dates-in-parts';
import { fileNameParts } from './file-name-parts';
import { footnoteMarks } from './footnote-marks';
import { linesAsRecords } from './lines-as-records';
import { noiseRows } from './noise-rows';
import { printedTotals } from './printed-totals';
import { periodsAcross } from './periods-across';
import { restRows } from './rest-rows';
import { rowTotals } from './row-totals';
import { sectionRows } from './section-rows';
import { sectionTotals } from './section-totals';
import type { Detector, Seen } from './suggestion';
import { tablesAside } from './tables-aside';
import { summaryRows } from './summary-rows';
import { tableTitles } from './table-titles';
import { tornColumns } from './torn-columns';
import { valuesBelow } from './values-below';

/** Reports that stand as these sheets above the appends. */
const seen = (...sheets: ReturnType<typeof textSheet>[]): Seen => ({
  locale: () => 'en-GB',
  pipeline: parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'Seen', take: [] }),
  reports: sheets.map((sheet, i) => {
    const layers = ['taken', 'joined', 'appended'].map((id) => ({ id, sheet, leftOut: emptySheet }));
    return {
      read: { key: `r${i}`, path: `r${i}.pdf`, pages: [], tables: [] },
      carried: { layers, sheet, paper: paper(), matches: [], problems: [] } as unknown as CarriedReport,
    };
  }),
});
const reasons = (detect: Detector, ...sheets: ReturnType<typeof textSheet>[]) =>
  detect(seen(...sheets)).map(({ reason }) => reason);

const names = ['Code', 'Species', 'Boxes', 'Value'];
const first = ['HK1', 'Lantern hake', '12', '326.10'];
const second = ['SL2', 'Grey sole', '8', '135.20'];

describe('a detector', () => {
  it('of blank rows sees those, and says nothing of cells that are blank', () => {
    expect(reasons(blankRows, textSheet([names, first, [null, null, null, null], second]))).toEqual([
      '1 row is blank throughout',
    ]);
    expect(reasons(blankRows, textSheet([names, first, [null, null, '3', null], second]))).toEqual([]);
  });

  it('of noise tells dashes and page numbers, and takes no row with a value for them', () => {
    const noisy = textSheet([
      names,
      first,
      ['-----', '-----', '-----', '-----'],
      ['Page 2 of 3', null, null, null],
      second,
    ]);
    expect(reasons(noiseRows, noisy)).toEqual(['1 row of dashes, 1 page number']);
    expect(noiseRows(seen(noisy))[0].settings).toMatchObject({
      dashes: true,
      pages: true,
      headings: false,
      furniture: false,
    });
    expect(reasons(noiseRows, textSheet([names, first, ['-', '–', '12', '-'], second]))).toEqual([]);
  });

  it('of lines that go on sees words where the other rows are full, and no row of amounts, no section', () => {
    const going = textSheet([names, first, [null, 'from the outer bank', null, null], second]);
    expect(continuedLines(seen(going))).toMatchObject([
      {
        settings: { keys: { by: 'names', names: ['Code', 'Boxes', 'Value'] } },
        reason: '1 line goes on from the row above, such as “from the outer bank”',
      },
    ]);
    for (const other of [
      [null, null, '5', null],
      ['Saltby', null, null, null],
      [null, '1,250.00', null, null],
      [null, 'Plaice', '4', '20.00'],
    ])
      expect(reasons(continuedLines, textSheet([names, first, other, second]))).toEqual([]);
  });

  it('of records sees lines in one column that begin alike, with their labels, and no prose', () => {
    const entry = (n: number, ...vessels: string[]) =>
      [
        `L-01${n} Holder ${n}`,
        `${n} Net Street, Saltby`,
        ...vessels,
        ...(n % 2 ? [`Phone: 555-01${n}`] : []),
        'Valid to: 31 March 2026',
      ].map((line) => [line]);
    const roll = (...entries: string[][][]) => textSheet([['Column 1'], ...entries.flat()]);
    const eight = roll(
      ...Array.from({ length: 9 }, (_, n) => entry(n, ...(n % 3 ? ['Far Petrel'] : ['Old Gull', 'Grey Rose']))),
    );
    expect(linesAsRecords(seen(eight))).toMatchObject([
      {
        zone: 'eachReport',
        settings: {
          begins: 'where a line matches',
          text: 'L-*',
          fields: [
            { into: 'Line 1', line: 1 },
            { into: 'Line 2', line: 2 },
            { into: 'Other lines' },
            { into: 'Valid to', label: 'Valid to:', missing: false },
          ],
        },
        reason: '9 stretches of lines begin with “L-” and a number, and have the same in them',
      },
    ]);
    // Too few, lines that stand before the first, and prose without labels in which nothing comes again.
    for (const other of [
      roll(entry(1, 'a')),
      roll([['Roll of licences']], ...Array.from({ length: 9 }, (_, n) => entry(n, 'a'))),
      textSheet([['Column 1'], ...Array.from({ length: 30 }, (_, n) => [`Words of a report, line ${n}`])]),
    ])
      expect(linesAsRecords(seen(other))).toEqual([]);
    const spaced = textSheet(
      [['Column 1'], ...Array.from({ length: 40 }, (_, n) => [`Line ${n}`])],
      Array.from({ length: 40 }, (_, n) => (n % 4 === 0 ? { spaced: true } : {})),
    );
    expect(linesAsRecords(seen(spaced))).toMatchObject([
      {
        settings: {
          begins: 'after a blank line',
          fields: [1, 2, 3, 4].map((line) => ({ into: `Line ${line}`, line })),
        },
        reason: '10 stretches of lines stand under white space, and have the same in them',
      },
    ]);
    const paragraphs = textSheet(
      [['Column 1'], ...Array.from({ length: 40 }, (_, n) => [`Line ${n}`])],
      Array.from({ length: 40 }, (_, n) => (n % 4 === 0 || n % 7 === 0 ? { spaced: true } : {})),
    );
    expect(linesAsRecords(seen(paragraphs))).toEqual([]);
  });

  it('of sections sees marked rows in most reports, and their levels by how far they stand in', () => {
    const sections = (...indents: number[]) =>
      textSheet(
        [names, ...indents.flatMap((_, i) => [[`Quay ${i}`, null, null, null], first])],
        indents.flatMap((indent) => [{ role: 'section' as const, indent }, {}]),
      );
    expect(sectionRows(seen(sections(0, 0)))).toMatchObject([
      { settings: { levels: [{ into: 'Section', known: 'one filled cell' }] } },
    ]);
    expect(sectionRows(seen(sections(0, 12)))).toMatchObject([
      {
        settings: {
          levels: [
            { into: 'Section', indent: 'outermost' },
            { into: 'Subsection', indent: 'second' },
          ],
        },
      },
    ]);
    // One note in one of many reports is no section.
    expect(
      reasons(sectionRows, sections(0), ...Array.from({ length: 3 }, () => textSheet([names, first, second]))),
    ).toEqual([]);
  });

  it('of totals on the lines of their sections sees bold rows that add up those below, and no bold rows that do not', () => {
    const budget = (dues: string, marks: object[] = [{ bold: true }, {}, {}, { bold: true }, {}, {}]) =>
      textSheet(
        [
          ['Account', 'Budget', 'Actual'],
          ['Dues', dues, '70'],
          ['Vessels', '60', '30'],
          ['Cargo', '40', '40'],
          ['Leases', '25', '30'],
          ['Sheds', '20', '21'],
          ['Land', '5', '9'],
        ],
        marks,
      );
    expect(sectionTotals(seen(budget('100'), budget('100')))).toMatchObject([
      {
        kind: 'lift sections',
        settings: { levels: [{ into: 'Section', known: 'bold print and amounts' }], stays: true },
        reason: '4 bold rows head the rows that they add up, such as “Dues”',
      },
      {
        kind: 'hold totals',
        settings: { bold: true, marked: false },
        reason: '4 bold rows head the rows that they add up, such as “Dues”; 4 of 4 add up to the rows below',
      },
    ]);
    // Amounts of their own, all in bold, one bold row that is merely set off, and a first row that heads nothing.
    for (const other of [
      budget('311'),
      budget(
        '100',
        Array.from({ length: 6 }, () => ({ bold: true })),
      ),
      budget('100', [{ bold: true }, {}, {}, {}, {}, {}]),
      budget('100', [{}, {}, {}, { bold: true }, {}, {}]),
    ])
      expect(sectionTotals(seen(other, other))).toEqual([]);
  });

  it('of totals on the lines of their sections sees rows that add up those further in below them, and no "of which"', () => {
    const areas = (saltby: string) =>
      textSheet(
        [
          ['Area', 'Calls'],
          ['East', '30'],
          ['Saltby', saltby],
          ['Holm', '18'],
          ['West', '9'],
          ['Cobble', '4'],
          ['Marsh End', '5'],
        ],
        [0, 10, 10, 0, 10, 10].map((indent) => ({ indent })),
      );
    expect(sectionTotals(seen(areas('12'), areas('12')))).toMatchObject([
      {
        kind: 'lift sections',
        settings: { levels: [{ into: 'Section', known: 'indented rows below' }], stays: true },
        reason: '4 rows add up the rows further in below them, such as “East”',
      },
      {
        kind: 'hold totals',
        settings: { indented: true, marked: false },
        reason: '4 rows add up the rows further in below them, such as “East”; 4 of 4 add up to the rows below',
      },
    ]);
    expect(sectionTotals(seen(areas('7'), areas('7')))).toEqual([]);
  });

  it('of means and extremes sees them at the end of tables, and no name that begins like one', () => {
    const days = (...ends: [string, string][]) =>
      textSheet([['Day', 'Wind'], ...[1, 2, 3, 4, 5, 6].map((day) => [String(day), String(day * 3)]), ...ends]);
    expect(summaryRows(seen(days(['Mean', '10'], ['Max.', '18']), days(['Mean', '10'], ['Max.', '18'])))).toMatchObject(
      [
        {
          kind: 'sift rows',
          settings: { conditions: [{ of: { name: 'Day' }, test: 'is one of', values: ['Mean', 'Max.'] }] },
          reason: '4 rows at the end say what the rows above come to otherwise than by adding, such as “Mean”',
        },
      ],
    );
    expect(summaryRows(seen(days(['Mean', '10']), days(), days()))).toEqual([]);
    expect(summaryRows(seen(days(['Maxwell', '10'])))).toEqual([]);
    expect(
      summaryRows(
        seen(
          textSheet([
            ['Kind', 'Sold'],
            ['Media', '3'],
            ['Paper', '4'],
            ['Ink', '2'],
            ['Media', '5'],
          ]),
        ),
      ),
    ).toEqual([]);
  });

  it('of rows among the totals sees what lacks what every row has, and shares, and no data', () => {
    /** Reports from which some rows were held as totals. */
    const of = (rows: readonly (readonly (string | null)[])[], ...totals: number[]) => {
      const whole = textSheet([['Pos', 'Article', 'Amount'], ...rows]);
      const passing = rowsAt(
        whole,
        whole.rows.map((row) => row).filter((row) => !totals.includes(row)),
      );
      const base = seen(passing);
      const [report] = base.reports;
      const held = { rows: rowsAt(whole, totals), reasons: [], kept: 'totals' as const };
      const layers = report.carried.layers.map((layer) =>
        layer.id === 'joined' ? { ...layer, held } : { ...layer, held: { rows: rowsAt(whole, []), reasons: [] } },
      );
      return restRows({ ...base, reports: [{ ...report, carried: { ...report.carried, layers } }] });
    };
    const lines = [
      ['1', 'Rope', '10.00'],
      ['2', 'Diesel', '30.00'],
      ['3', 'Paint', '5.00'],
    ];
    expect(
      of([...lines, [null, 'Net', '45.00'], [null, 'VAT 20 %', '9.00'], [null, 'Due', '54.00']], 3, 5),
    ).toMatchObject([
      {
        kind: 'sift rows',
        settings: { conditions: [{ of: { is: 'column', name: 'Pos' }, test: 'is blank' }] },
        reason: '1 row stands among the totals and has no “Pos”, such as “VAT 20 %”',
      },
    ]);
    const shares = [
      ['1', 'Rope', '10.00'],
      ['2', 'Diesel', '30.00'],
      [null, 'Ice', '5.00'],
      [null, 'All', '45.00'],
      [null, 'Share', '100.0 %'],
    ];
    expect(of(shares, 3)).toMatchObject([
      {
        settings: { conditions: [{ of: { is: 'column', name: 'Article' }, test: 'is one of', values: ['Share'] }] },
        reason: '1 row stands among the totals with percentages under amounts, such as “Share”',
      },
    ]);
    // One blank amount may be one of data: what the row says is asked for as well.
    const ofWhich = [
      ['1', 'Day trips', '10'],
      ['2', 'Cruises', '30'],
      ['3', 'Ferries', '5'],
      ['4', 'All', '45'],
      ['5', 'of which children', null],
    ];
    expect(of(ofWhich, 3)).toMatchObject([
      {
        settings: {
          conditions: [
            { of: { name: 'Amount' }, test: 'is blank' },
            { of: { name: 'Article' }, test: 'is one of', values: ['of which children'] },
          ],
        },
      },
    ]);
    // Data below a subtotal, a line that is as full as the others, and none at all.
    expect(
      of(
        [
          ...lines,
          [null, 'Net', '45.00'],
          ['4', 'Ice', '9.00'],
          ['5', 'Gas', '1.00'],
          ['6', 'Oil', '2.00'],
          ['7', 'Tar', '2.00'],
        ],
        3,
      ),
    ).toEqual([]);
    expect(of([...lines, [null, 'Net', '45.00'], ['4', 'Ice', '9.00']], 3)).toEqual([]);
    expect(of([...lines, [null, 'Net', '45.00']], 3)).toEqual([]);
  });

  it('of a crosstab sees columns called by numbers that count up, and says which amount beside them comes again with each', () => {
    const across = (...columns: string[]) => {
      const sheet = textSheet([columns, columns.map((_, i) => (i === 0 ? 'Gate 1' : String(i * 7)))]);
      return periodsAcross(seen({ ...sheet, columns: sheet.columns.map((column, c) => ({ ...column, namedBy: c })) }));
    };
    expect(across('Gate', '1', '2', '3', '4')).toMatchObject([
      {
        kind: 'unpivot',
        settings: { columns: { by: 'all but', names: ['Gate'] }, into: 'Number' },
        reason: '4 columns are numbers that count up: “1” to “4” in the report',
      },
    ]);
    expect(across('Gate', ...Array.from({ length: 31 }, (_, i) => String(i + 1)))).toMatchObject([
      { settings: { into: 'Day' } },
    ]);
    expect(across('Gate', 'Jan', 'Feb', 'Mar', 'Last year')[0].reason).toBe(
      '3 columns are months: “Jan” to “Mar” (“Last year” then stands on the row of each) in the report',
    );
    for (const columns of [
      ['Gate', '1', '2', '3'],
      ['Gate', '1', '2', '4', '5'],
      ['Gate', '1', '2', 'Note', '3', '4'],
    ])
      expect(across(...columns)).toEqual([]);
    // Days of the week shortened to two letters, in the order of one language; and dates in several ways.
    expect(across('Name', 'Mo', 'Di', 'Mi', 'Do', 'Fr')).toMatchObject([
      { settings: { into: 'Day', heading: 'one column' }, reason: '5 columns are days: “Mo” to “Fr” in the report' },
    ]);
    for (const columns of [
      ['Name', 'Mo', 'Di', 'Mi'],
      ['Name', 'Mo', 'Di', 'Do', 'Fr', 'So'],
      ['Name', 'So', 'Me', 'Di', 'Mo', 'Ma'],
    ])
      expect(across(...columns)).toEqual([]);
    for (const columns of [
      ['02.06.', '03.06.', '04.06.'],
      ['2 Jun', '3 Jun', '4 Jun'],
      ['02/06/2025', '03/06/2025', '04/06/2025'],
      ['2025-06-02', '2025-06-03', '2025-06-04'],
    ])
      expect(across('Gate', ...columns)).toMatchObject([
        { settings: { columns: { by: 'all but', names: ['Gate'] }, into: 'Date', heading: 'one column' } },
      ]);
    expect(across('Gate', 'Mon 2 Jun', 'Tue 3 Jun', 'Wed. 4 Jun')).toMatchObject([
      { settings: { heading: 'the parts of a template', template: '{Weekday} {Date}' } },
    ]);
    expect(across('Code', 'wk 51', 'wk 52', 'wk 1')).toMatchObject([
      { settings: { template: 'wk {Week}' }, reason: '3 columns are weeks: “wk 51” to “wk 1” in the report' },
    ]);
    for (const columns of [
      ['Code', 'Bin 1', 'Bin 2', 'Bin 3'],
      ['Code', 'wk 1', 'kw 2', 'wk 3'],
      ['Code', 'wk 70', 'wk 71', 'wk 72'],
      ['Code', 'S1', 'S2', 'S3'],
    ])
      expect(across(...columns)).toEqual([]);
    // Two years are a crosstab where the next report has others.
    const years = (...columns: string[]) =>
      textSheet([columns, columns.map((_, i) => (i === 0 ? 'Dues' : String(i * 7)))]);
    const marked = (sheet: ReturnType<typeof textSheet>) => ({
      ...sheet,
      columns: sheet.columns.map((column, c) => ({ ...column, namedBy: c })),
    });
    const [last, next] = [marked(years('Item', '2024', '2023')), marked(years('Item', '2025', '2024'))];
    expect(periodsAcross(seen(last, next))).toMatchObject([{ kind: 'unpivot', settings: { into: 'Year' } }]);
    expect([seen(last), seen(last, last)].map(periodsAcross)).toEqual([[], []]);
    expect(across('Name', 'Sat 29', 'Sun 30', 'Mon 1')).toMatchObject([
      { settings: { heading: 'the parts of a template', template: '{Weekday} {Day}' } },
    ]);
    expect(across('Name', 'Gate 1', 'Gate 2', 'Gate 3')).toEqual([]);
  });

  it('of a table beside another sees it where it stands apart, has labels of its own and ends elsewhere', () => {
    /** Rows on a page, columns from so far left on, all 20 wide in a type of 10. */
    const of = (rows: readonly (readonly (string | null)[])[], lefts: readonly number[]) => {
      const made = textSheet([['Product', 'Tonnes', 'Buyer', 'Lots'], ...rows]);
      const words = rows.flatMap((row, r) =>
        Array.from({ length: 100 }, (_, c) => ({
          text: row[c] ?? '',
          box: [lefts[c] ?? lefts[0], 20 * r, (lefts[c] ?? lefts[0]) + 20, 20 * r + 10],
          baseline: 20 * r + 8,
          fontSize: 10,
        })),
      );
      const all = seen({ ...made, columns: made.columns.map((column, c) => ({ ...column, namedBy: c })) });
      return tablesAside({
        ...all,
        reports: all.reports.map((report) => ({
          ...report,
          read: { ...report.read, pages: [{ number: 1, words }] as unknown as typeof report.read.pages },
        })),
      });
    };
    const short = [
      ['Cod', '1', 'Quill', '7'],
      ['Hake', '2', 'Marsh', '8'],
      ['Ling', '3', null, null],
    ];
    expect(of(short, [0, 40, 120, 160])).toMatchObject([
      {
        kind: 'pick columns',
        settings: { columns: { names: ['Product', 'Tonnes'] } },
        name: 'Leave out the table at the right',
        reason:
          '“Buyer”, “Lots” stand apart, with labels of their own, and end above the others in 1 table: another table, which a pipeline of its own can take',
      },
    ]);
    expect(of([...short.slice(0, 2), [null, null, 'Reed', '9']], [0, 40, 120, 160])).toMatchObject([
      { settings: { columns: { names: ['Buyer', 'Lots'] } }, name: 'Leave out the table at the left' },
    ]);
    // As near as other columns, of equal length, or without labels it is no table of its own.
    expect(of(short, [0, 40, 80, 120])).toEqual([]);
    expect(of(short.slice(0, 2), [0, 40, 120, 160])).toEqual([]);
    expect(
      of(
        short.map(([a, b, , d], i) => [a, b, i === 2 ? null : '12', d]),
        [0, 40, 120, 160],
      ),
    ).toEqual([]);
  });

  it('of totals goes by the word where it finds more that add up than are marked', () => {
    const rows = [
      ['Rope', '10'],
      ['Ice', '20'],
      ['Total', '30'],
      ['Salt', '5'],
      ['Tar', '7'],
      ['Total', '12'],
    ];
    const of = (...marked: number[]) =>
      printedTotals(
        seen(
          textSheet(
            [['For', 'Amount'], ...rows],
            rows.map((_, row) => ({ role: marked.includes(row) ? ('total' as const) : ('body' as const) })),
          ),
        ),
      );
    expect(of(2)).toMatchObject([
      {
        settings: { wording: ['Total'], marked: false },
        reason: '2 rows are printed totals, such as “Total”; 2 of 2 add up to the rows above',
      },
    ]);
    // A word that heads rows of data too tells less than the marks.
    const list = [
      ['Total care', '10'],
      ['Ice', '20'],
      ['Total care', '30'],
    ];
    expect(
      printedTotals(
        seen(
          textSheet(
            [['For', 'Amount'], ...list],
            list.map((_, row) => ({ role: row === 2 ? ('total' as const) : ('body' as const) })),
          ),
        ),
      ),
    ).toMatchObject([{ settings: { wording: [], marked: true } }]);
  });

  it('of totals across counts the rows of all reports together, and takes blanks for none', () => {
    const quays = (...sums: string[]) =>
      textSheet([
        ['Quay', 'Jan', 'Feb', 'Mar', 'Total'],
        ['North', '1', '2', '3', sums[0]],
        ['South', '10', null, '5', sums[1]],
        ['East', '4', null, '6', sums[2]],
      ]);
    expect(reasons(rowTotals, quays('6', '15', '10'), quays('6', '15', '10'))).toEqual([
      '“Total” adds up the columns before',
    ]);
    // Three rows alone are too few to tell, and sums of other rows are none.
    expect(reasons(rowTotals, quays('6', '15', '10'))).toEqual([]);
    expect(reasons(rowTotals, quays('6', '15', '10'), quays('7', '16', '11'))).toEqual([]);
  });

  it('of file names calls a part what its word or its neighbours say that it is, and a bare number a number', () => {
    const sheet = textSheet([names, first, second]);
    const of = (...paths: string[]) =>
      fileNameParts({
        ...seen(sheet, sheet),
        reports: seen(sheet, sheet).reports.map((report, i) => ({
          ...report,
          read: { ...report.read, path: paths[i] },
        })),
      })[0]?.settings['template'];
    expect(of('inspections 1.pdf', 'inspections 2.pdf')).toBe('inspections {Number}.pdf');
    expect(of('notes-14.pdf', 'notes-15.pdf')).toBe('notes-{Number}.pdf');
    expect(of('gates 03-05-2025.pdf', 'gates 04-05-2025.pdf')).toBe('gates {Day}-{Month}-{Year}.pdf');
    expect(of('readings_2025-01-15.pdf', 'readings_2025-02-12-r2.pdf')).toBe('readings_{Date}[-{Issue}].pdf');
    expect(of('week 1.pdf', 'week 2.pdf')).toBe('week {Week}.pdf');
    expect(of('landings-2025-07.pdf', 'landings-2025-08.pdf')).toBe('landings-{Month}.pdf');
    expect(of('landings-march-2025.pdf', 'landings-april-2025.pdf')).toBe('landings-{Month}.pdf');
    // Read as no month, the parts stay as they are.
    expect(of('landings_march_2025.pdf', 'landings_april_2025.pdf')).toBe('landings_{Month}_{Year}.pdf');
    // A column for each part, or one with other zeros before its numbers, says it as well.
    const saying = (columns: string[], cells: string[], ...paths: string[]) => {
      const own = textSheet([
        [...columns, ...names],
        [...cells, ...first],
        [...cells, ...second],
      ]);
      return fileNameParts({
        ...seen(own, own),
        reports: seen(own, own).reports.map((report, i) => ({ ...report, read: { ...report.read, path: paths[i] } })),
      }).length;
    };
    expect(saying(['Quarter', 'Year'], ['1', '2025'], 'cargo Q1 2025.pdf', 'cargo Q1 2025 b.pdf')).toBe(0);
    expect(saying(['Ending'], ['4 May 2025'], 'ops_04052025.pdf', 'ops_04052025.pdf')).toBe(0);
    expect(of('manifests 7 July 2025.pdf', 'manifests 8 July 2025.pdf')).toBe('manifests {Date}.pdf');
    expect(of('landings March.pdf', 'landings May.pdf')).toBe('landings {Month}.pdf');
  });

  it('of titles sees those that tell tables of one report apart and come again, and none that a column says or that only go on', () => {
    const of = (
      titles: Record<string, string>,
      more = seen(
        textSheet(
          [names, first, second, first, second],
          [{ table: 'p1t1' }, { table: 'p1t1' }, { table: 'p1t2' }, { table: 'p1t2' }],
        ),
      ),
    ) =>
      tableTitles({
        ...more,
        reports: [more.reports[0], more.reports[0]].map((report) => ({
          ...report,
          carried: {
            ...report.carried,
            paper: {
              ...paper(),
              title: (table: string) => (titles[table] ? { text: titles[table], page: 1, words: [] } : undefined),
            },
          },
        })),
      }).map(({ reason }) => reason);
    expect(of({ p1t1: 'Fishing berths', p1t2: 'Leisure berths' })).toEqual([
      'Titles tell 2 sections apart, such as “Fishing berths”',
    ]);
    expect(of({ p1t1: 'Landings', p1t2: 'Landings (continued)' })).toEqual([]);
    expect(of({ p1t1: 'Fishing berths' })).toEqual([]);
    const said = textSheet(
      [
        ['Quay', ...names],
        ['Fishing', ...first],
        ['Leisure', ...first],
      ],
      [{ table: 'p1t1' }, { table: 'p1t2' }],
    );
    expect(of({ p1t1: 'Fishing berths', p1t2: 'Leisure berths' }, seen(said))).toEqual([]);
  });

  it('of columns torn apart sees those without a heading that stand a space behind the one before, and none that stand further off', () => {
    const rows = [
      ['A1', '+44', '7946', '12'],
      ['B2', '+47', '2210', '8'],
      ['C3', '+49', '4030', '5'],
    ];
    const made = textSheet([['Code', 'Phone', 'Column 3', 'Boxes'], ...rows]);
    const named = (nameless: readonly string[]) => ({
      ...made,
      columns: made.columns.map((column, c) => (nameless.includes(column.name) ? column : { ...column, namedBy: c })),
    });
    /** The words of the rows, columns from so far left on, all 20 wide in a type of 10. */
    const of = (lefts: readonly number[], sheet = named(['Column 3']), lower = 0) => {
      const words = rows.flatMap((row, r) =>
        Array.from({ length: 100 }, (_, c) => ({
          text: row[c] ?? '',
          box: [lefts[c] ?? 0, 20 * r, (lefts[c] ?? 0) + 20, 20 * r + 10],
          baseline: 20 * r + 8 + (c === 2 ? lower : 0),
          fontSize: 10,
        })),
      );
      const all = seen(sheet);
      return tornColumns({
        ...all,
        reports: all.reports.map((report) => ({
          ...report,
          read: { ...report.read, pages: [{ number: 1, words }] as unknown as typeof report.read.pages },
        })),
      });
    };
    expect(of([0, 50, 73, 150])).toMatchObject([
      {
        kind: 'concatenate columns',
        settings: { columns: { names: ['Phone', 'Column 3'] }, joiner: ' ', into: 'Phone' },
        reason: '1 column without a heading stands a mere space behind “Phone”',
      },
    ]);
    expect(of([0, 50, 80, 150])).toEqual([]);
    expect(of([0, 50, 73, 150], named([]))).toEqual([]);
    expect(of([0, 50, 73, 150], named(['Column 3']), 10)).toEqual([]);
    expect(of([0, 50, 73, 96], named(['Column 3', 'Boxes']))).toMatchObject([
      {
        settings: { columns: { names: ['Phone', 'Column 3', 'Boxes'] } },
        reason: '2 columns without a heading stand a mere space behind “Phone”',
      },
    ]);
  });

  it('of columns torn apart sees each of several at once', () => {
    const sheet = textSheet([
      ['Arrived', 'Column 2', 'Left', 'Column 4'],
      ...[1, 2, 3].map((n) => [`0${n}.01.25`, '10:30', `0${n}.02.25`, '11:00']),
    ]);
    const marked = {
      ...sheet,
      columns: sheet.columns.map((column, c) => ({ ...column, ...(c % 2 === 0 ? { namedBy: c } : {}) })),
    };
    const printed = Array.from({ length: 3 }, (_, row) =>
      [0, 43, 100, 143].map((left, c) => ({
        text: String(sheet.columns[c].cells[row]),
        box: [left, 20 * row, left + 40, 20 * row + 10],
        baseline: 20 * row + 8,
        fontSize: 10,
      })),
    );
    const all = seen(marked);
    const torn = tornColumns({
      ...all,
      reports: all.reports.map((report) => ({
        ...report,
        read: {
          ...report.read,
          pages: [
            {
              number: 1,
              words: Array.from({ length: 300 }, (_, i) => printed[Math.floor(i / 100)][i % 100] ?? printed[0][0]),
            },
          ] as unknown as typeof report.read.pages,
        },
      })),
    });
    expect(torn.map(({ settings }) => settings)).toMatchObject([{ into: 'Arrived' }, { into: 'Left' }]);
  });

  it('of halves sees headings that come again beside themselves, and takes no single column for one', () => {
    const named = (...columns: string[]) => {
      const sheet = textSheet([columns, ...Array.from({ length: 3 }, (_, n) => columns.map((_, c) => `${n}${c}`))]);
      return { ...sheet, columns: sheet.columns.map((column) => ({ ...column, namedBy: 0 })) };
    };
    expect(blocksAside(seen(named('Code', 'Boxes', 'Code after Boxes', 'Boxes after Code')))).toMatchObject([
      {
        kind: 'stack blocks',
        settings: { order: 'block by block' },
        reason: 'in the table the headings “Code”, “Boxes” come again beside themselves',
      },
    ]);
    for (const columns of [
      ['Code', 'Boxes', 'Value', 'Note'],
      ['Boxes', 'Boxes after Boxes'],
      ['Code', 'Boxes', 'Code after Boxes'],
    ])
      expect(blocksAside(seen(named(...columns)))).toEqual([]);
    // In one of three reports it is no rule.
    expect(
      blocksAside(
        seen(
          named('Code', 'Boxes', 'Code after Boxes', 'Boxes after Code'),
          named('Code', 'Boxes'),
          named('Code', 'Boxes'),
        ),
      ),
    ).toEqual([]);
  });

  it('of footnote marks sees them behind amounts, and behind texts that stand without one elsewhere', () => {
    const column = (...texts: string[]) => textSheet([['Code', 'Of'], ...texts.map((text, n) => [`C${n}`, text])]);
    expect(footnoteMarks(seen(column('1,204', '998*', '77', '12.50')))).toMatchObject([
      {
        settings: { columns: { names: ['Of'] }, marks: 'go' },
        reason: '1 text of “Of” ends in footnote marks, such as “998*”',
      },
    ]);
    expect(reasons(footnoteMarks, column('Hake', 'Sole', 'Hake *', 'Plaice', 'Sole*'))).toEqual([
      '2 texts of “Of” end in footnote marks, such as “Hake *”',
    ]);
    expect(reasons(footnoteMarks, column('Hake', 'Sole¹', 'Plaice', 'Ling†', 'Cod'))).toEqual([
      '2 texts of “Of” end in footnote marks, such as “Sole¹”',
    ]);
    // A note under the table says what the star is for.
    const noted = seen(column('Shore power, night*', 'Fresh water', 'Crane'));
    const withNote = (line: string) =>
      footnoteMarks({
        ...noted,
        reports: noted.reports.map((report) => ({
          ...report,
          carried: { ...report.carried, paper: paper('a.pdf', { 1: ['Tariff', line] }) },
        })),
      });
    expect(withNote('* On request only.').map(({ reason }) => reason)).toEqual([
      '1 text of “Of” ends in footnote marks, such as “Shore power, night*”',
    ]);
    expect(withNote('Prices * hours')).toEqual([]);
    // Codes with a star of their own, units, marks alone, and what is marked throughout.
    for (const texts of [
      ['A*', 'B', 'C', 'D'],
      ['12 m²', '14', '7', '9'],
      ['*', '1', '2', '3'],
      ['1*', '2*', '3', '4*'],
      ['x*', '1', '2', '3'],
    ])
      expect(reasons(footnoteMarks, column(...texts)), texts.join()).toEqual([]);
  });

  it('of totals goes by the words that mark them where these find nothing else, and by the marks where they do', () => {
    const of = (label: string) =>
      textSheet([names, first, second, [null, 'Total', '20', '461.30']].concat([[null, label, '1', '2.00']]), [
        {},
        {},
        { role: 'total' },
        {},
      ]);
    expect(printedTotals(seen(of('Plaice')))).toMatchObject([
      {
        settings: { wording: ['Total'], marked: false },
        reason: '1 row is a printed total, such as “Total”; 1 of 1 add up to the rows above',
      },
    ]);
    expect(printedTotals(seen(of('Total')))[0].settings).toMatchObject({ wording: [], marked: true });
  });

  it('of totals sees rows that no word marks where they add up, and not where the word stands elsewhere', () => {
    const rows = [
      ['Grain', '10', '100.5'],
      ['Coal', '20', '200.25'],
      ['Timber', '35', '310.75'],
    ];
    const all = ['All', '65', '611.5'];
    expect(printedTotals(seen(textSheet([['Cargo', 'Ships', 'Tonnes'], ...rows, all])))).toMatchObject([
      { settings: { wording: ['All'], marked: false } },
    ]);
    expect(
      printedTotals(
        seen(textSheet([['Cargo', 'Ships', 'Tonnes'], ['All', '1', '1.5'], ...rows, ['All', '66', '613']])),
      ),
    ).toEqual([]);
    expect(printedTotals(seen(textSheet([['Cargo', 'Ships', 'Tonnes'], ...rows, ['All', '65', '611.4']])))).toEqual([]);
  });

  it('of totals sees sums under several texts, each of one row, by what they begin with where that is theirs alone', () => {
    const flow = (...last: string[][]) =>
      textSheet([
        ['Section', 'Item', 'Actual', 'Budget'],
        ['Operating', 'Dues', '1,200', '900'],
        ['Operating', 'Wages', '(450)', '(400)'],
        ['Operating', 'Net cash from operating', '750', '500'],
        ['Financing', 'Loans', '310', '320'],
        ['Financing', 'Interest', '(75)', '(80)'],
        ['Financing', 'Net cash from financing', '235', '240'],
        ...last,
      ]);
    const movement = ['Financing', 'Net movement', '985', '740'];
    expect(printedTotals(seen(flow(movement)))).toMatchObject([
      {
        settings: { wording: ['Net cash *', 'Net movement'], marked: false },
        reason: '3 rows such as “Net cash *”: 3 of 3 add up to the rows above',
      },
    ]);
    // A row of the data that begins alike: then each is named whole.
    expect(printedTotals(seen(flow(movement, ['Other', 'Net cash at bank', '7', '9'])))[0].settings).toMatchObject({
      wording: ['Net cash from operating', 'Net cash from financing', 'Net movement'],
    });
    // Off in one of three reports it is told, and not taken for data.
    const misprinted = flow(['Financing', 'Net movement', '986', '740']);
    expect(printedTotals(seen(flow(movement), flow(movement), misprinted))[0].settings).toMatchObject({
      wording: ['Net cash *', 'Net movement'],
    });
  });

  it('of totals holds sums without a word as well, where the others only add up then, and where there are no others', () => {
    const unsaid = [
      names,
      first,
      second,
      [null, null, '20', '461.30'],
      ['CR4', 'Rock crab', '5', '50.00'],
      ['LG1', 'Deep ling', '2', '25.00'],
      [null, null, '7', '75.00'],
    ];
    const sheet = textSheet([...unsaid, ['Total', null, '27', '536.30']], [{}, {}, {}, {}, {}, {}, { role: 'total' }]);
    expect(printedTotals(seen(sheet))).toMatchObject([
      {
        settings: { wording: ['Total'], arithmetic: true },
        reason: '3 rows are printed totals, such as “Total”; 3 of 3 add up to the rows above',
      },
    ]);
    expect(printedTotals(seen(textSheet(unsaid)))).toMatchObject([
      {
        settings: { wording: [], marked: false, arithmetic: true },
        reason: '2 rows without a text add up the rows above',
      },
    ]);
    // A total that is misprinted is no reason to look for others.
    const misprinted = textSheet([names, first, second, ['Total', null, '21', '461.31']], [{}, {}, { role: 'total' }]);
    expect(printedTotals(seen(misprinted))[0].settings).not.toHaveProperty('arithmetic');
  });

  it('of values printed once leaves totals, lines that go on and numbers alone', () => {
    const rows = [
      ['N2', 'Pilot', '1.8', '100.80'],
      [null, 'Crane', '33.1', '2,424.58'],
      ['N3', 'Lines', '2.0', '9.15'],
    ];
    const head = ['Berth', 'Service', 'Units', 'Amount'];
    expect(valuesBelow(seen(textSheet([head, ...rows])))).toMatchObject([
      { settings: { columns: { names: ['Berth'] } } },
    ]);
    expect(
      reasons(
        valuesBelow,
        textSheet([head, ...rows, [null, 'Total', '36.9', '2,534.53']], [{}, {}, {}, { role: 'total' }]),
      ),
    ).toEqual([]);
    expect(reasons(valuesBelow, textSheet([head, ...rows, [null, 'by night', null, null]]))).toEqual([]);
    // An amount beside a text is a row of its own in however many columns; a text or amounts alone may go on.
    const wide = ['Date', 'Details', 'Note', 'Out', 'In', 'Balance'];
    const account = (...cells: (string | null)[]) =>
      textSheet([
        wide,
        ['2 Feb', 'Rent', null, '40.00', null, null],
        cells,
        ['3 Feb', 'Sale', null, null, '9.50', '81.15'],
      ]);
    expect(valuesBelow(seen(account(null, 'Ice', null, '8.35', null, null)))).toMatchObject([
      { settings: { columns: { names: ['Date'] } } },
    ]);
    expect(reasons(valuesBelow, account(null, 'of shed 4', null, null, null, null))).toEqual([]);
    expect(reasons(valuesBelow, account(null, null, null, '8.35', '2.00', null))).toEqual([]);
    expect(
      reasons(
        valuesBelow,
        textSheet([
          ['No.', ...head.slice(1)],
          ['1', 'Pilot', '1.8', '100.80'],
          [null, 'Crane', '33.1', '2,424.58'],
          ['2', 'Lines', '2.0', '9.15'],
        ]),
      ),
    ).toEqual([]);
  });

  it('of dates in parts needs a month told once and a day in each row', () => {
    const days = Array.from({ length: 28 }, (_, i) => ['May 2025', String(i + 1), '4.2']);
    expect(datesInParts(seen(textSheet([['Month', 'Day', 'Height'], ...days])))).toMatchObject([
      { settings: { whole: 'Month', part: 'Day', into: 'Date' } },
    ]);
    expect(
      reasons(
        datesInParts,
        textSheet([['Month', 'Day', 'Height'], ...days.map(([month, , height]) => [month, '3', height])]),
      ),
    ).toEqual([]);
    expect(
      reasons(
        datesInParts,
        textSheet([['Month', 'Day', 'Height'], ...days.map(([, day, height]) => ['May', day, height])]),
      ),
    ).toEqual([]);
  });

  it('of a quarter and its year, each told once, makes one', () => {
    const sheet = textSheet([
      ['Quarter', 'Year', 'Port'],
      ['1', '2025', 'Saltby'],
      ['1', '2025', 'Holm'],
    ]);
    expect(reasons(datesInParts, sheet)).toEqual(['“Quarter” is one of the year in “Year”']);
    expect(
      reasons(
        datesInParts,
        textSheet([
          ['Quay', 'Year', 'Port'],
          ['1', '2025', 'Saltby'],
          ['1', '2025', 'Holm'],
        ]),
      ),
    ).toEqual([]);
  });

  it('of dates without a year needs it told once; ratios and amounts are no dates', () => {
    const jobs = (month: string, ...dates: string[]) =>
      textSheet([['Month', 'Date', 'Hours'], ...dates.map((date) => [month, date, '4.5'])]);
    expect(datesInParts(seen(jobs('June 2025', '1 Jun', '3 Jun'), jobs('July 2025', '2 Jul')))).toMatchObject([
      {
        settings: { of: 'a year and a date without one', whole: 'Month', part: 'Date', into: 'Date', locale: 'en-GB' },
        reason: 'the dates in “Date” have no year, and “Month” tells it',
      },
    ]);
    for (const dates of [
      ['01/06', '30/06'],
      ['1.6.', '3.6.'],
      ['June 1', 'June 3rd'],
      ['1. Juni', '3. Juli'],
    ])
      expect(reasons(datesInParts, jobs('2025', ...dates)), dates[0]).toHaveLength(1);
    for (const dates of [
      ['1/2', '3/4'],
      ['13/14', '15/16'],
      ['1.6', '3.6'],
      ['1 Jun', '3 boxes'],
      ['1 Jun 2025', '3 Jun 2025'],
    ])
      expect(reasons(datesInParts, jobs('2025', ...dates)), dates[0]).toEqual([]);
    expect(reasons(datesInParts, jobs('June', '1 Jun', '3 Jun'))).toEqual([]);
  });
});
