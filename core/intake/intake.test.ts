import { describe, expect, it } from 'vitest';
import type { PageContent } from '../page/page';
import { findTables } from '../reading/find-tables';
import { RowBook } from '../sheet/row';
import { across, page, words } from '../testing/print';
import { plain } from '../testing/sheets';
import { nameFacts, placeFiles, type NameReading } from './file-names';
import { noRevision } from './revisions';
import { tableSheet } from './table-sheet';
import { likeness } from './likeness';
import { takeTables } from './take';
import { ruleOf } from './take-rule';

const naming = { template: 'week-{week}[-r{revision}].pdf', year: 2025 };
const file = (path: string, sha256 = path) => ({ path, sha256, pdf: path.endsWith('.pdf') });

describe('file names', () => {
  it('tell period and revision', () => {
    expect(nameFacts('week-34-r2.pdf', naming)).toEqual({
      period: '2025-W34',
      revision: { kind: 'number', value: 2, mark: '2' },
    });
    expect(nameFacts('statement 2024-06.pdf', { template: 'statement {year}-{month}.pdf' })).toEqual({
      period: '2024-06',
      revision: noRevision,
    });
    expect(nameFacts('other.pdf', naming)).toEqual({ revision: noRevision });
    expect(nameFacts('week-99.pdf', naming)).toEqual({ revision: noRevision });
  });

  it.each([
    ['statement 2024-06 rev A.pdf', 'letter', 1],
    ['statement 2024-06 rev B.pdf', 'letter', 2],
    ['statement 2024-06 v2.pdf', 'number', 2],
    ['statement 2024-06 (3).pdf', 'number', 3],
    ['statement 2024-06_amended.pdf', 'word', 0],
    ['statement 2024-06-final.pdf', 'word', 0],
    ['statement 2024-06 (corrected).pdf', 'word', 0],
    ['statement 2024-06 draft.pdf', 'draft', 0],
    ['statement 2024-06.pdf', 'none', 0],
    // No mark, but the end of the period.
    ['statement 2024 (06).pdf', 'none', 0, 'statement {year} ({month}).pdf'],
  ])(
    'tell the revision at the end of %s, though the template has no hole for it',
    (name, kind, value, template = 'statement {year}-{month}.pdf') => {
      expect(nameFacts(name, { template: template })).toMatchObject({
        period: '2024-06',
        revision: { kind, value },
      });
    },
  );

  describe('of two issues for one period', () => {
    const reading = { template: 'statement {year}-{month}.pdf' };
    const standings = (names: readonly string[], said: Pick<NameReading, 'answers' | 'aside'> = {}) =>
      Object.fromEntries(
        placeFiles(
          names.map((name) => file(`${name}.pdf`)),
          { ...reading, ...said },
        ).map(({ file: { path }, standing }) => [path.slice(10, -4), standing.counts ? 'counts' : standing.because]),
      );

    it.each([
      [['2024-06', '2024-06 rev A'], '2024-06 rev A'],
      [['2024-06 rev B', '2024-06 rev A'], '2024-06 rev B'],
      [['2024-06', '2024-06 amended'], '2024-06 amended'],
      [['2024-06', '2024-06 draft'], '2024-06'],
      [['2024-06 v10', '2024-06 v9', '2024-06'], '2024-06 v10'],
    ])('%j, the later counts and the others are replaced', (names, later) => {
      const told = standings(names.map((name) => `statement ${name}`));
      expect(told).toEqual(Object.fromEntries(names.map((name) => [name, name === later ? 'counts' : 'replaced'])));
    });

    it.each([[['2024-06 amended', '2024-06 corrected']], [['2024-06 rev A', '2024-06 v2']]])(
      '%j, neither counts before it is said, as nothing orders them',
      (names) => {
        const paths = names.map((name) => `statement ${name}`);
        expect(Object.values(standings(paths))).toEqual(['undecided', 'undecided']);
        const among = paths.map((path) => `${path}.pdf`);
        expect(standings(paths, { answers: [{ among, counts: [among[0]] }] })).toEqual({
          [names[0]]: 'counts',
          [names[1]]: 'replaced',
        });
        // The last answer counts.
        expect(
          standings(paths, {
            answers: [
              { among, counts: [among[0]] },
              { among, counts: [among[1]] },
            ],
          }),
        ).toEqual({ [names[0]]: 'replaced', [names[1]]: 'counts' });
        expect(Object.values(standings(paths, { answers: [{ among, counts: among }] }))).toEqual(['counts', 'counts']);
        expect(standings(paths, { aside: [`${paths[1]}.pdf`] })).toEqual({
          [names[0]]: 'counts',
          [names[1]]: 'set aside',
        });
      },
    );

    it('what was answered says nothing of an issue that comes later', () => {
      const [two, b] = ['statement 2024-06 r2.pdf', 'statement 2024-06 rev B.pdf'];
      const said = { answers: [{ among: [two, b], counts: [b] }] };
      const all = (name: string) => standings(['statement 2024-06 r2', 'statement 2024-06 rev B', name], said);
      expect(all('statement 2024-06 rev C')).toEqual({
        '2024-06 r2': 'replaced',
        '2024-06 rev B': 'replaced',
        '2024-06 rev C': 'counts',
      });
      expect(all('statement 2024-06 amended')).toEqual({
        '2024-06 r2': 'replaced',
        '2024-06 rev B': 'undecided',
        '2024-06 amended': 'undecided',
      });
    });

    it('answers that contradict each other leave all of them open', () => {
      const [a, b, c] = ['a', 'b', 'c'].map((folder) => `${folder}/statement 2024-06.pdf`);
      const beats = (first: string, second: string) => ({ among: [first, second], counts: [first] });
      const placed = placeFiles(
        [a, b, c].map((path) => file(path)),
        { ...reading, answers: [beats(a, b), beats(b, c), beats(c, a)] },
      );
      expect(placed.map(({ standing }) => (standing.counts ? 'counts' : standing.because))).toEqual([
        'undecided',
        'undecided',
        'undecided',
      ]);
    });

    it('in two folders under one name, the path decides nothing', () => {
      const placed = placeFiles(
        [file('north/statement 2024-06.pdf', 'n'), file('south/statement 2024-06.pdf', 's')],
        reading,
      );
      expect(placed.map(({ standing }) => (standing.counts ? 'counts' : standing.because))).toEqual([
        'undecided',
        'undecided',
      ]);
    });
  });

  describe('in several series', () => {
    const reading = { template: '{series}/landings-{year}-{month}.pdf' };
    const standings = (paths: readonly string[], own: NameReading = reading) =>
      Object.fromEntries(
        placeFiles(
          paths.map((path) => file(path)),
          own,
        ).map(({ file: { path }, standing }) => [path, standing.counts ? 'counts' : standing.because]),
      );

    it('stand beside each other for one period; later issues replace those of their own series only', () => {
      expect(nameFacts('2025/Saltby/landings-2025-06.pdf', reading)).toEqual({
        period: '2025-06',
        series: 'Saltby',
        revision: noRevision,
      });
      expect(
        standings([
          'a/landings-2025-06.pdf',
          'b/landings-2025-06.pdf',
          'b/landings-2025-06 v2.pdf',
          'B/landings-2025-06 v3.pdf',
        ]),
      ).toEqual({
        'a/landings-2025-06.pdf': 'counts',
        'b/landings-2025-06.pdf': 'replaced',
        'b/landings-2025-06 v2.pdf': 'replaced',
        'B/landings-2025-06 v3.pdf': 'counts',
      });
    });

    it('are told by the names as well', () => {
      expect(
        standings(['saltby-24.pdf', 'tern-24.pdf', 'tern-24-r2.pdf'], { template: '{series}-{week}.pdf', year: 2025 }),
      ).toEqual({ 'saltby-24.pdf': 'counts', 'tern-24.pdf': 'replaced', 'tern-24-r2.pdf': 'counts' });
    });

    it('have no period where there is no folder above the file', () => {
      expect(nameFacts('landings-2025-06.pdf', reading)).toEqual({ revision: noRevision });
    });
  });

  it('order the folder, and say which file counts and why another does not', () => {
    const placed = placeFiles(
      [
        file('week-34-r2.pdf'),
        file('notes.txt'),
        file('week-34.pdf'),
        file('week-9.pdf'),
        file('copy.pdf', 'week-9.pdf'),
      ],
      naming,
    );
    expect(placed.map(({ file: { path }, standing }) => [path, standing])).toEqual([
      ['week-9.pdf', { counts: true }],
      ['week-34.pdf', { counts: false, because: 'replaced', of: 'week-34-r2.pdf' }],
      ['week-34-r2.pdf', { counts: true }],
      ['copy.pdf', { counts: false, because: 'a copy', of: 'week-9.pdf' }],
      ['notes.txt', { counts: false, because: 'not a PDF' }],
    ]);
  });
});

const landings = [
  'Code   Species          Boxes',
  'HK1    Lantern hake       112',
  'SL2    Grey sole           48',
  'CR4    Rock crab           61',
];
const calls = [
  'Vessel           Berth  Hours',
  'Grey Heron       N3         9',
  'Island Maid      W1        11',
  'Cairn Star       S4        27',
];
const titled = (title: string, top: number) => words([title], { top: top - 24, bold: () => true });
const sheetPage = page([
  ...titled('Landings', 100),
  ...words(landings),
  ...titled('Vessel calls', 300),
  ...words(calls, { top: 300 }),
]);
const tables = findTables([sheetPage]);
const rule = (settings: object) => ruleOf({ name: 'Landings', ...settings });
const take = (rules: Parameters<typeof takeTables>[0], pages: readonly PageContent[] = [sheetPage]) => {
  const { taken, problems } = takeTables(rules, { key: 'r1', path: 'r1.pdf', pages, tables: findTables(pages) });
  return { matches: taken.map(({ match }) => match), problems };
};

describe('taking tables', () => {
  it('takes the table most like title and heading words, and says how sure', () => {
    const { matches, problems } = take([rule({ title: 'Landings', heading: ['Code', 'Species', 'No. of boxes'] })]);
    expect(problems).toEqual([]);
    expect(matches).toMatchObject([
      {
        rule: 'Landings',
        table: tables[0].id,
        found: [tables[0].id],
        pages: [1],
        sure: expect.closeTo(0.84, 1),
        lacks: [],
      },
    ]);
  });

  it('names a report in which nothing is like it', () => {
    const { matches, problems } = take([rule({ title: 'Dues', heading: ['Ship', 'Tonnage', 'Due'] })]);
    expect(matches).toEqual([]);
    expect(problems[0]).toMatchObject({ kind: 'not taken', report: 'r1', expected: 'a table like “Landings”' });
  });

  it('names two that cannot be told apart', () => {
    const twice = [page([...words(landings), ...words(landings, { top: 300 })])];
    expect(take([rule({ heading: ['Code', 'Species', 'Boxes'] })], twice).problems[0].came).toContain('two');
    expect(take([rule({ heading: ['Code', 'Species', 'Boxes'], which: 'all alike' })], twice).matches).toHaveLength(2);
  });

  it('finds a table whose headings are days or months of another time, where no other is as alike', () => {
    const rota = (...days: string[]) =>
      page(
        words([
          `Shift     ${days.map((day) => day.padEnd(12)).join('')}`,
          ...['Early', 'Late', 'Night'].map(
            (shift) => `${shift.padEnd(10)}${days.map((_, i) => ['Quill', 'Marsh', 'Reed'][i].padEnd(12)).join('')}`,
          ),
        ]),
      );
    const wanted = rule({ heading: ['Shift', 'Mon 2 Jun', 'Tue 3 Jun', 'Wed 4 Jun'], least: 0.8 });
    expect(take([wanted], [rota('Mon 30 Jun', 'Tue 1 Jul', 'Wed 2 Jul')]).matches).toMatchObject([{ sure: 0.9 }]);
    expect(take([wanted], [rota('Mon 2 Jun', 'Tue 3 Jun', 'Wed 4 Jun')]).matches).toMatchObject([{ sure: 1 }]);
    expect(take([wanted], [rota('North', 'South', 'West')]).matches).toEqual([]);
    // Days stand across many tables: what stays in the heading must be the same.
    const gates = page(
      words([
        'Gate      02/06       03/06       04/06',
        'North     12          7           9',
        'South     3           8           11',
      ]),
    );
    expect(take([rule({ heading: ['Line', '09/06', '10/06', '11/06'] })], [gates]).matches).toEqual([]);
    expect(take([rule({ heading: ['Gate', '09/06', '10/06', '11/06'] })], [gates]).matches).toHaveLength(1);
  });

  it('likens bags of words', () => {
    expect(likeness('Weight (kg)', 'weight kg')).toBe(1);
    expect(likeness('Boxes', 'Crates')).toBe(0);
    expect(likeness('a b', 'a c')).toBe(0.5);
  });
});

describe('a found table as a sheet', () => {
  it('joins pieces, keeps pages, and knows the words of every cell', () => {
    const second = page(words(landings, { top: 60 }), { number: 2 });
    const first = page(
      words([landings[0], ...Array.from({ length: 45 }, (_, i) => landings[1 + (i % 3)])], { top: 60 }),
      { number: 1 },
    );
    const [table] = findTables([first, second]);
    const { sheet } = tableSheet(table, 'r1', new RowBook());
    expect(sheet.rows.map(sheet.rows.page)).toEqual([...Array<number>(46).fill(1), ...Array<number>(4).fill(2)]);
    expect(plain(sheet)[0]).toEqual(['Column 1', 'Column 2', 'Column 3']);
    const [place] = sheet.rows.book.origins.places(sheet.columns[1].origins[48]);
    expect(place.words.map((w) => second.words[w].text).join(' ')).toBe('Grey sole');
  });

  it('joins the end of a row that the page cuts to it, words of both pages behind it, and no row of its own', () => {
    const head = 'Date    Details                 Paid out';
    const rows = Array.from(
      { length: 45 },
      (_, i) =>
        `${`${1 + (i % 28)} May`.padEnd(8)}${(i === 44 ? 'Rent of shed 4, paid' : i % 3 ? 'Card payment' : 'Standing order').padEnd(24)}${`${100 + i}.25`.padStart(8)}`,
    );
    const taken = (...overleaf: string[]) => {
      const pages = [
        page(words([head, ...rows], { top: 60 })),
        page(words([...overleaf, ...rows.slice(0, 4)], { top: 60 }), { number: 2 }),
      ];
      return tableSheet(findTables(pages)[0], 'r1', new RowBook()).sheet;
    };
    const sheet = taken('        with thanks');
    expect(plain(sheet).slice(46, 48)).toEqual([
      ['17 May', 'Rent of shed 4, paid with thanks', '144.25'],
      ['1 May', 'Standing order', '100.25'],
    ]);
    expect(sheet.rows.length).toBe(50);
    expect(
      sheet.rows.book.origins
        .places(sheet.columns[1].origins[45])
        .map(({ page: number, words: own }) => [number, own.length]),
    ).toEqual([
      [1, 5],
      [2, 2],
    ]);
    // A text that may be a row of its own, and one with an amount, are no ends of another.
    expect(
      [taken('        With thanks'), taken('        with thanks           12.50')].map(
        ({ rows: { length } }) => length,
      ),
    ).toEqual([51, 51]);
  });

  it('leaves a cell under a span blank, coming from the words of the span', () => {
    const printed = page(
      words([
        '        Weight (kg)',
        'Code    Gutted  Whole',
        'HK1         12     14',
        'SL2         48     50',
        'CR4         61     70',
        'MK1         10     20',
      ]),
      {
        rules: [across(98, 48, 160), across(128, 48, 160), across(186, 48, 160)],
      },
    );
    const [table] = findTables([printed]);
    const { sheet } = tableSheet(table, 'r1', new RowBook());
    expect(sheet.columns.map((column) => column.cells[0])).toEqual([null, 'Weight (kg)', null]);
    expect(sheet.columns[2].origins[0]).toBe(sheet.columns[1].origins[0]);
  });
});
