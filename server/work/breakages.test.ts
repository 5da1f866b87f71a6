// Papers that are broken on purpose: what is wrong in them must be named.
import { beforeAll, describe, expect, it } from 'vitest';
import { differenceSentence } from '../../core/drift/words';
import { random } from '../../demo/random';
import {
  again,
  amountsOf,
  columnsOf,
  columnsOfNumbers,
  differencesNow,
  inThousands,
  misprinted,
  namedBy,
  openFamily,
  swapped,
  textAt,
  withoutWords,
  written,
  type Family,
  type Pages,
} from '../testing/broken-papers';
import {
  demoFolder,
  demoPipeline,
  notesFolder,
  notesPipeline,
  throughputFolder,
  throughputPipeline,
} from '../testing/folders';
import { often } from '../testing/tier';

const offices = [
  { name: 'first office', path: 'week-24.pdf' },
  { name: 'second office', path: 'week-28.pdf' },
];

describe.each(offices)('papers of the $name', ({ name, path }) => {
  let family: Family;
  beforeAll(async () => {
    family = await openFamily({ name, pipeline: demoPipeline, folder: demoFolder, paths: [path] });
  });
  /** By a total that no longer ties out, or a text that is no number any more. */
  const isNamed = (pages: Pages) => ['tie-out', 'problem'].includes(namedBy(family, pages));

  it('tie out as they are', () => {
    const { totals, amounts } = amountsOf(family);
    expect(totals.length).toBeGreaterThan(10);
    expect(new Set(family.sound.ties.map(({ outcome }) => outcome))).toEqual(new Set(['equal']));
    expect(amounts.length).toBeGreaterThan(30);
  });

  it.each([
    { what: 'a digit of an amount is another', seed: 18, runs: often(30, 12), of: 'amounts' as const },
    { what: 'a total is misprinted', seed: 19, runs: often(15, 8), of: 'totals' as const },
  ])('in which $what are named', ({ seed, runs, of }) => {
    const draw = random(seed);
    const { totals, amounts } = amountsOf(family);
    const among = of === 'totals' ? totals : amounts.map(({ at }) => at);
    for (let i = 0; i < runs; i++) {
      const at = draw.one(among);
      const text = textAt(family.pages, at);
      const other = misprinted(text, draw);
      expect(isNamed(written(family.pages, at, other)), `${text} became ${other}`).toBe(true);
    }
  });

  it('in which a row is missing are named', () => {
    const draw = random(20);
    const { amounts } = amountsOf(family);
    for (let i = 0; i < 15; i++) {
      const { row } = draw.one(amounts);
      expect(isNamed(withoutWords(family.pages, row)), row.map((at) => textAt(family.pages, at)).join(' ')).toBe(true);
    }
  });
});

/** Families of which a report that comes later is broken: its columns, its headings, the size of its numbers. */
const families = [
  {
    name: 'landing sheets',
    pipeline: demoPipeline,
    folder: demoFolder,
    paths: ['week-22.pdf', 'week-23.pdf', 'week-24.pdf', 'week-25.pdf', 'week-26.pdf'],
  },
  {
    name: 'berth notes',
    pipeline: notesPipeline,
    folder: notesFolder,
    paths: ['note-1041.pdf', 'note-1042.pdf', 'note-1043.pdf', 'note-1044.pdf', 'note-1045.pdf'],
  },
  {
    name: 'throughput',
    pipeline: throughputPipeline,
    folder: throughputFolder,
    paths: [
      'north/throughput-2021.pdf',
      'north/throughput-2022.pdf',
      'north/throughput-2023.pdf',
      'north/throughput-2024.pdf',
    ],
  },
];

describe.each(families)('a later report of the $name', (files) => {
  let family: Family;
  beforeAll(async () => {
    family = await openFamily(files);
  });
  const told = (pages: Pages) => differencesNow(family, again(family, pages));

  it('is not told to differ as it is', () => expect(told(family.pages).map(differenceSentence)).toEqual([]));

  it('with a heading spelled otherwise is named', () => {
    for (const { name, heading } of columnsOf(family)) {
      const at = heading.find((each) => /\p{L}{3}/u.test(textAt(family.pages, each)));
      if (!at) continue;
      const differences = told(written(family.pages, at, `${textAt(family.pages, at)}ish`));
      expect(
        differences.some(({ what }) => what === 'new column' || what === 'missing column'),
        name,
      ).toBe(true);
    }
  });

  it('with numbers in another unit is named', () => {
    for (const column of columnsOfNumbers(family))
      expect(
        told(inThousands(family.pages, column)).map(({ holds }) => holds),
        column.name,
      ).toContain(true);
  });

  it('with the contents of two columns swapped is named, where they can be told apart', () => {
    const numbers = columnsOfNumbers(family);
    const texts = columnsOf(family).filter(
      ({ name, cells }) => !numbers.some((column) => column.name === name) && cells.length >= 4,
    );
    let pairs = 0;
    for (const a of [...numbers, ...texts].slice(0, 3))
      for (const b of texts.filter((other) => other.name !== a.name).slice(0, 3)) {
        pairs++;
        expect(
          told(swapped(family.pages, a, b)).map(({ holds }) => holds),
          `${a.name} and ${b.name}`,
        ).toContain(true);
      }
    expect(pairs + numbers.length).toBeGreaterThan(0);
  });
});
