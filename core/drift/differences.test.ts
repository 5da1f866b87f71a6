import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { random } from '../../demo/random';
import type { Sheet } from '../sheet/sheet';
import { textSheet } from '../testing/sheets';
import type { Answer } from './answers';
import type { Difference, Expecting, Seen } from './difference';
import { answerTo, differencesOf } from './differences';
import { documentText, parsePipeline } from '../pipeline/document';
import { asSeen, expectsOf } from './expects';
import { traitsOf, type TableTraits } from './traits';
import { decisionWords, differenceProblem, differenceSentence } from './words';

type Row = readonly (string | null)[];
type Change = (rows: readonly Row[], n: number) => readonly Row[];

const species = [
  'Lantern hake',
  'Grey sole',
  'Fell cod',
  'Reef ling',
  'Brook perch',
  'Dune plaice',
  'Sand eel',
  'Pale skate',
];
const money = (value: number) => value.toLocaleString('en', { minimumFractionDigits: 2, maximumFractionDigits: 2 });

/** A week as it is printed: what was landed of each species, with code, boxes, weight, price and quay. */
function week(n: number): Row[] {
  const draw = random(1000 + n);
  return [
    ['Code', 'Species', 'Boxes', 'Weight kg', 'Price', 'Quay'],
    ...species.map((name, i): Row => [
      `${name.slice(0, 2).toUpperCase()}${i + 1}`,
      name,
      String(draw.whole(8, 60)),
      money(draw.whole(9000, 60000) / 10),
      money(draw.whole(150, 900) / 100),
      ['North', 'West'][draw.whole(0, 1)],
    ]),
  ];
}

const columnAt = (rows: readonly Row[], name: string) => rows[0].indexOf(name);
const renamed =
  (from: string, to: string): Change =>
  ([names, ...body]) => [names.map((name) => (name === from ? to : name)), ...body];
const without =
  (name: string): Change =>
  (rows) =>
    rows.map((row) => row.filter((_, i) => i !== columnAt(rows, name)));
const withColumn =
  (name: string, cell: (row: Row) => string, at = 3): Change =>
  ([names, ...body]) => [names.toSpliced(at, 0, name), ...body.map((row) => row.toSpliced(at, 0, cell(row)))];
const each =
  (name: string, cell: (text: string) => string): Change =>
  (rows) =>
    rows.map((row, r) => row.map((text, i) => (r > 0 && i === columnAt(rows, name) ? cell(text!) : text)));
/** The contents change places, the headings stay. */
const swapped =
  (a: string, b: string): Change =>
  (rows) =>
    rows.map((row, r) =>
      r === 0
        ? row
        : row.map((text, i) =>
            i === columnAt(rows, a) ? row[columnAt(rows, b)] : i === columnAt(rows, b) ? row[columnAt(rows, a)] : text,
          ),
    );
const amount = (text: string) => Number(text.replaceAll(',', ''));

/** With boxes as whole numbers. */
const typed = (of: Sheet): Sheet => ({
  ...of,
  columns: of.columns.map((column) =>
    column.name === 'Boxes'
      ? {
          ...column,
          type: 'integer',
          cells: column.cells.map((cell) =>
            /^\d+$/.test(String(cell)) ? Number(cell) : { text: String(cell), expected: 'a whole number' },
          ),
        }
      : column,
  ),
});

interface Story {
  readonly weeks?: number;
  /** From this week on, until that one. */
  readonly from?: number;
  readonly until?: number;
  readonly change?: Change;
  readonly table?: Partial<TableTraits>;
  readonly known?: (n: number) => boolean;
}

function seenIn({
  weeks = 12,
  from = 9,
  until = weeks,
  change = (rows) => rows,
  table = {},
  known = () => false,
}: Story): Seen[] {
  return Array.from({ length: weeks }, (_, i): Seen => {
    const n = i + 1;
    const applies = n >= from && n <= until;
    const sheet = textSheet(applies ? change(week(n), n) : week(n));
    const traits = traitsOf({
      matches: [{ rule: 'Landings', table: 'p1t1', found: ['p1t1'], pages: [1], sure: 1, lacks: [], pieces: [] }],
      sheets: [sheet],
      taken: [sheet],
      pages: [],
      found: 1,
      last: typed(sheet),
    });
    return {
      key: String(n),
      path: `week-${n}.pdf`,
      period: `2025-W${String(n).padStart(2, '0')}`,
      known: known(n),
      traits: applies ? { ...traits, tables: traits.tables.map((own) => ({ ...own, ...table })) } : traits,
    };
  });
}

const expecting = (more: Partial<Expecting> = {}): Expecting => ({
  answers: [],
  spelled: (name) => name,
  knows: () => false,
  ...more,
});
const told = (seen: readonly Seen[], more: Partial<Expecting> = {}) =>
  differencesOf(seen, expecting(more)).map(
    (difference) => `${difference.holds ? 'holds' : 'look'}: ${differenceSentence(difference)}`,
  );
const among = (seen: readonly Seen[], { reports }: Difference) => seen.filter(({ key }) => reports.includes(key));

describe('what differs is told once for all reports that have it', () => {
  it.each<[string, Story, string[]]>([
    [
      'a column that comes',
      { change: withColumn('Grade', () => 'A') },
      ['holds: From 2025-W09 on (4 reports), a column “Grade” stands between “Boxes” and “Weight kg”.'],
    ],
    [
      'a column that goes',
      { change: without('Price') },
      ['holds: From 2025-W09 on (4 reports), the column “Price” is missing.'],
    ],
    [
      'a column without a heading',
      { change: withColumn('Column 4', () => 'x') },
      ['holds: From 2025-W09 on (4 reports), a column “Column 4” stands between “Boxes” and “Weight kg”.'],
    ],
    [
      'a heading spelled otherwise',
      { change: renamed('Boxes', 'Crates') },
      ['holds: From 2025-W09 on (4 reports), “Crates” stands where “Boxes” stood.'],
    ],
    [
      'a heading in other letters',
      { change: renamed('Boxes', 'BOXES'), from: 5, until: 5 },
      ['holds: Only in 2025-W05, “BOXES” stands where “Boxes” stood.'],
    ],
    [
      'contents swapped under their headings',
      { change: swapped('Boxes', 'Weight kg'), from: 12 },
      [
        'holds: From 2025-W12 on (1 report), what stands under “Boxes” looks like “Weight kg”, and the other way round.',
      ],
    ],
    [
      'texts swapped under their headings',
      { change: swapped('Code', 'Species'), from: 6, until: 7 },
      [
        'holds: In 2025-W06, 2025-W07 (2 reports), what stands under “Code” looks like “Species”, and the other way round.',
      ],
    ],
    [
      'a known heading over texts',
      { change: each('Boxes', (text) => `lot ${'ABCDEFG'[amount(text) % 7]}`), from: 12 },
      ['holds: From 2025-W12 on (1 report), “Boxes” holds texts, where it held numbers.'],
    ],
    [
      'a known heading over numbers',
      { change: each('Quay', (text) => String(text.length)), from: 12 },
      ['holds: From 2025-W12 on (1 report), “Quay” holds numbers, where it held texts.'],
    ],
    [
      'numbers a thousand times as large',
      { change: each('Weight kg', (text) => money(amount(text) * 1000)), from: 10 },
      ['holds: From 2025-W10 on (3 reports), the numbers of “Weight kg” are about 1,000 times as large as before.'],
    ],
    [
      'numbers a thousand times as small',
      { change: each('Weight kg', (text) => money(amount(text) / 1000)), from: 11 },
      ['holds: From 2025-W11 on (2 reports), the numbers of “Weight kg” are about 1,000 times as small as before.'],
    ],
    [
      'numbers five times as large, which may be right',
      { change: each('Weight kg', (text) => money(amount(text) * 5)), from: 12 },
      ['look: From 2025-W12 on (1 report), “Weight kg” sums up to about 91,900, where it was 21,400 to 31,600 before.'],
    ],
    [
      'a unit beside the numbers',
      { change: each('Price', (text) => `€ ${text}`), from: 10 },
      ['look: From 2025-W10 on (3 reports), “Price” is printed in €, where it was without one.'],
    ],
    [
      'columns in another order',
      { change: (rows) => rows.map(([code, name, boxes, ...rest]) => [code, boxes, name, ...rest]), from: 11 },
      [
        'look: From 2025-W11 on (2 reports), the columns stand in another order: “Code”, “Boxes”, “Species”, “Weight kg”, “Price”, “Quay”.',
      ],
    ],
    [
      'a scale that is stated otherwise',
      { table: { scale: 'in millions' }, from: 12 },
      ['holds: From 2025-W12 on (1 report), above the table stands “in millions”, where nothing was said of a scale.'],
    ],
    [
      'a decimal comma throughout',
      { table: { points: 0, commas: 16 }, from: 12 },
      [
        'holds: From 2025-W12 on (1 report), numbers are printed with a decimal comma, where they were with a decimal point.',
      ],
    ],
    [
      'another depth of headings',
      { table: { headingRows: 2 }, from: 12 },
      ['look: From 2025-W12 on (1 report), the table has 2 heading rows, where it had 0.'],
    ],
    [
      'more tables than before',
      { table: { tables: 2 }, from: 12 },
      ['look: From 2025-W12 on (1 report), there are 2 tables, where there was 1 table.'],
    ],
    [
      'far fewer rows than ever before',
      { change: (rows) => rows.slice(0, 3), from: 12 },
      ['look: From 2025-W12 on (1 report), the table has 2 rows, where the others have 8.'],
    ],
    [
      'blanks where there hardly ever were',
      { change: (rows) => rows.map((row, r) => (r % 2 ? row.with(4, null) : row)), from: 12 },
      ['look: From 2025-W12 on (1 report), “Price” is blank in 4 of 8 rows, where it hardly ever was.'],
    ],
  ])('%s', (_, story, sentences) => expect(told(seenIn(story))).toEqual(sentences));

  it('two columns alike in kind and size swapped, of which one was always so much smaller; not that it outgrows the other', () => {
    const gutted =
      (last: Change): Change =>
      (rows, n) => {
        const both = withColumn('Gutted kg', (row) => money(amount(row[3]!) * 0.9))(rows, n);
        return n === 12 ? last(both, n) : both;
      };
    expect(told(seenIn({ from: 1, change: gutted(swapped('Gutted kg', 'Weight kg')) }))).toEqual([
      'holds: From 2025-W12 on (1 report), what stands under “Gutted kg” looks like “Weight kg”, and the other way round.',
    ]);
    expect(
      told(
        seenIn({
          from: 1,
          change: gutted((rows) => rows.map((row, r) => (r === 0 ? row : row.with(3, money(amount(row[4]!) * 1.02))))),
        }),
      ),
    ).toEqual([]);
  });

  it('in what units are, both ways', () => {
    const inKg = seenIn({ from: 1, change: each('Weight kg', (text) => `${text} kg`) });
    const inPounds = seenIn({ from: 12, change: each('Weight kg', (text) => `${text} lb`) });
    expect(told([...inKg.slice(0, 11), inPounds[11]])).toEqual([
      'holds: From 2025-W12 on (1 report), “Weight kg” is printed in lb, where it was kg.',
    ]);
  });

  it('a text that does not fit, in a report that comes to a dataset that is there', () => {
    const story: Story = {
      change: each('Boxes', (text) => (text.endsWith('1') || text.endsWith('2') ? 'tba' : text)),
      from: 12,
    };
    expect(told(seenIn({ ...story, known: (n) => n < 12 }))).toEqual([
      'holds: From 2025-W12 on (1 report), “tba” does not fit the type of “Boxes”.',
    ]);
    expect(told(seenIn(story))).toEqual([]);
    // The same is in the dataset already.
    expect(told(seenIn({ ...story, from: 11, known: (n) => n < 12 }))).toEqual([]);
  });

  it('names the place on paper, and says it of each report as a problem', () => {
    const [difference] = differencesOf(seenIn({ change: without('Price'), from: 12 }), expecting());
    expect(differenceProblem(difference, '12')).toMatchObject({
      kind: 'differs',
      report: '12',
      column: 'Price',
      came: 'something else: the column “Price” is missing',
    });
  });

  it('never questions what is in the dataset by its contents again', () => {
    const story: Story = { change: each('Weight kg', (text) => money(amount(text) * 1000)), from: 10 };
    expect(told(seenIn({ ...story, known: () => true }))).toEqual([]);
    // That two of eleven are so makes it not usual.
    expect(told(seenIn({ ...story, known: (n) => n < 12 }))).toHaveLength(1);
    expect(told(seenIn({ ...story, known: (n) => n < 10 }))).toHaveLength(1);
  });
});

describe('what is the same is not told', () => {
  it('of clean weeks, whatever they hold', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 30 }), fc.integer({ min: 0, max: 30 }), (weeks, accepted) => {
        expect(told(seenIn({ weeks, from: weeks + 1, known: (n) => n <= accepted }))).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it('of headings that name a moment', () => {
    const seen = seenIn({
      from: 1,
      change: (rows, n) => renamed('Boxes', `Boxes ${2000 + n}`)(renamed('Price', `Price at ${n}.03.2025`)(rows, n), n),
    });
    expect(told(seen)).toEqual([]);
  });

  it('of a column that the steps name, or that comes and goes', () => {
    expect(told(seenIn({ change: withColumn('Grade', () => 'A') }), { knows: (name) => name === 'Grade' })).toEqual([]);
    const now = seenIn({
      from: 1,
      change: (rows, n) => (n % 3 === 0 ? withColumn('Remark', () => 'late')(rows, n) : rows),
    });
    expect(told(now, { knows: (name) => name === 'Remark' })).toEqual([]);
    expect(told(now)).toEqual([
      'holds: In 2025-W03, 2025-W06, 2025-W09 ... (4 reports), a column “Remark” stands between “Boxes” and “Weight kg”.',
    ]);
  });

  it('as a question, of a column that the steps leave out by name, as long as nothing is published', () => {
    const grade: Story = { change: withColumn('Grade', () => 'A') };
    const leavesOut = (name: string) => name === 'Grade';
    expect(told(seenIn(grade), { leavesOut })).toEqual([
      'look: From 2025-W09 on (4 reports), a column “Grade” stands between “Boxes” and “Weight kg”.',
    ]);
    expect(told(seenIn({ ...grade, known: (n) => n < 9 }), { leavesOut })).toEqual([
      'holds: From 2025-W09 on (4 reports), a column “Grade” stands between “Boxes” and “Weight kg”.',
    ]);
  });

  it('as a question, of columns that a step turns into rows by a rule', () => {
    const quays: Change = (rows, n) => withColumn(['Saltby', 'Tern Point', 'Old Lantern'][n % 3], () => '12')(rows, n);
    expect(
      told(seenIn({ from: 1, change: quays }), { flows: true }).filter((each) => each.startsWith('holds')),
    ).toEqual([]);
    expect(told(seenIn({ from: 1, change: quays })).filter((each) => each.startsWith('holds')).length).toBeGreaterThan(
      0,
    );
    // A heading that is spelled otherwise is asked about.
    expect(told(seenIn({ change: renamed('Boxes', 'Boxess') }), { flows: true })).toEqual([
      'holds: From 2025-W09 on (4 reports), “Boxess” stands where “Boxes” stood.',
    ]);
    // Those that the steps name are missed all the same.
    expect(told(seenIn({ change: without('Price') }), { flows: true, knows: (name) => name === 'Price' })).toHaveLength(
      1,
    );
  });

  it('of a spelling that the document names already', () => {
    const crates = seenIn({ change: renamed('Boxes', 'Crates') });
    expect(told(crates, { spelled: (name) => (name === 'Crates' ? 'Boxes' : name) })).toEqual([]);
    // A rename step names both.
    expect(told(crates, { knows: (name) => name === 'Boxes' || name === 'Crates' })).toEqual([]);
  });
});

describe('what a document expects', () => {
  const written = (seen: readonly Seen[]) => {
    const document = {
      format: 'able-sieve/pipeline',
      version: 1,
      name: 'Landings',
      take: [],
      expects: expectsOf(seen),
    };
    return asSeen(parsePipeline(JSON.parse(documentText(document))).expects!);
  };
  const before = seenIn({ weeks: 9, from: 99 });

  it('is what its last reports looked like, and one report alone is held against it', () => {
    const expected = written(before);
    expect([expected.length, expected[0].path]).toEqual([8, 'week-2.pdf']);
    const last = (change: Change) => seenIn({ weeks: 10, from: 10, change }).slice(-1);
    for (const [change, what] of [
      [renamed('Boxes', 'Crates'), 'Crates'],
      [swapped('Boxes', 'Weight kg'), 'looks like'],
      [without('Price'), 'missing'],
      [(rows: readonly Row[]) => rows, ''],
    ] as const) {
      const [own] = last(change);
      const alone = differencesOf([own], expecting());
      const held = differencesOf([...expected, own], expecting());
      expect([alone, held.map(differenceSentence).join()]).toEqual([
        [],
        what === '' ? '' : expect.stringContaining(what),
      ]);
    }
  });

  it('stands in the file in lines that can be compared', () => {
    const text = documentText({
      sample: [1, 22, 333],
      names: ['a', 'b'],
      steps: [{ settings: { columns: [] } }],
      says: 'a [1,\n2] text',
    });
    expect(text).toContain('"sample": [1, 22, 333]');
    expect(JSON.parse(text)).toEqual({
      sample: [1, 22, 333],
      names: ['a', 'b'],
      steps: [{ settings: { columns: [] } }],
      says: 'a [1,\n2] text',
    });
  });
});

describe('an answer settles a difference', () => {
  const settles = (
    story: Story,
    pick: (difference: Difference) => Difference['proposals'][number] | undefined,
    toCome?: boolean,
  ) => {
    const seen = seenIn(story);
    const [difference] = differencesOf(seen, expecting());
    const answer = answerTo(difference, pick(difference)!, among(seen, difference), toCome);
    return { difference, answer, after: (later: readonly Seen[] = seen) => told(later, { answers: [answer] }) };
  };
  const by = (decided: Answer['decided']) => (difference: Difference) =>
    difference.proposals.find((proposal) => proposal.decided === decided);

  it('the same column is proposed by likeness of values, first', () => {
    const { difference, answer, after } = settles(
      { change: renamed('Weight kg', 'Catch') },
      ({ proposals }) => proposals[0],
    );
    expect(difference.proposals.map((proposal) => decisionWords(difference, proposal))).toEqual([
      'It is “Weight kg”',
      'A new column, blank before',
      'Leave “Catch” out',
      'Keep these reports out',
    ]);
    expect(answer).toEqual({
      what: 'new column',
      rule: 'Landings',
      column: 'Catch',
      decided: 'same as',
      other: 'Weight kg',
      reports: ['week-9.pdf', 'week-10.pdf', 'week-11.pdf', 'week-12.pdf'],
      only: false,
      from: '2025-W09',
    });
    expect(after()).toEqual([]);
    // It holds for reports that come later, and for their contents as well.
    expect(after(seenIn({ weeks: 15, change: renamed('Weight kg', 'Catch') }))).toEqual([]);
    const heavier: Change = (rows, n) =>
      each('Catch', (text) => (n === 15 ? money(amount(text) * 1000) : text))(
        renamed('Weight kg', 'Catch')(rows, n),
        n,
      );
    expect(after(seenIn({ weeks: 15, change: heavier }))).toEqual([
      'holds: From 2025-W15 on (1 report), the numbers of “Catch” are about 1,000 times as large as before.',
    ]);
  });

  it('a lookalike heading over other contents is not proposed as the same', () => {
    const [difference, ...others] = differencesOf(
      seenIn({
        change: (rows, n) => each('Weights kg', () => 'see quay')(renamed('Weight kg', 'Weights kg')(rows, n), n),
      }),
      expecting(),
    );
    expect([
      difference.column,
      difference.other,
      difference.proposals[0].likeness! < 0.5,
      others.map(({ what }) => what),
    ]).toEqual(['Weights kg', undefined, true, ['missing column']]);
  });

  it('of a new column; when it is gone again that is new', () => {
    const grade = withColumn('Grade', () => 'A');
    const { after } = settles({ change: grade }, by('as it is'));
    expect(after()).toEqual([]);
    expect(after(seenIn({ weeks: 14, until: 13, change: grade }))).toEqual([
      'holds: From 2025-W14 on (1 report), the column “Grade” is missing.',
    ]);
  });

  it('only in these reports: it is asked again of others', () => {
    const { answer, after } = settles({ change: without('Price') }, by('as it is'), false);
    expect(answer).toMatchObject({ only: true });
    expect(after()).toEqual([]);
    expect(after(seenIn({ weeks: 13, change: without('Price') }))).toEqual([
      'holds: From 2025-W13 on (1 report), the column “Price” is missing.',
    ]);
  });

  it('left out, or swapped back: the columns are as before', () => {
    expect(settles({ change: withColumn('Grade', () => 'A') }, by('leave out')).after()).toEqual([]);
    expect(settles({ change: swapped('Boxes', 'Weight kg'), from: 12 }, by('swap back')).after()).toEqual([]);
  });

  it('right as it is: contents are no longer asked about', () => {
    const story: Story = { change: each('Weight kg', (text) => money(amount(text) * 1000)), from: 10 };
    expect(settles(story, by('as it is')).after(seenIn({ ...story, weeks: 14 }))).toEqual([]);
  });

  it('held back: it stays told', () => {
    expect(settles({ change: without('Price') }, by('hold back')).after()).toEqual([
      'holds: From 2025-W09 on (4 reports), the column “Price” is missing. They are held back, as you decided.',
    ]);
  });
});
