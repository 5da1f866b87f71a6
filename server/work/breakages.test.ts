// Papers that are broken on purpose: what is wrong in them must be named.
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { tied, type TiedReport } from '../../core/ties/tied';
import type { PageContent } from '../../core/page/page';
import { carryReport } from '../../core/pipeline/carry';
import type { Difference, Seen } from '../../core/drift/difference';
import { differencesOf } from '../../core/drift/differences';
import { differenceSentence } from '../../core/drift/words';
import { parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { expectingOf } from '../../core/pipeline/expecting';
import { findTables } from '../../core/reading/find-tables';
import { random } from '../../demo/random';
import { streamPages } from '../pdf/read-pages';
import { demoFolder, demoPipeline, notesFolder, notesPipeline, throughputFolder, throughputPipeline } from '../testing/folders';

const papers = [
  { name: 'first office', path: 'week-24.pdf' },
  { name: 'second office', path: 'week-28.pdf' },
];

/** A word on paper: its page and its place among the words there. */
interface WordPlace {
  readonly page: number;
  readonly word: number;
}

interface Sound {
  readonly document: Pipeline;
  readonly path: string;
  readonly pages: readonly PageContent[];
  readonly whole: TiedReport;
  /** The printed amounts of totals that tie out, and those of the rows that they cover, each with the words of its whole row. */
  readonly totals: readonly WordPlace[];
  readonly amounts: readonly { readonly at: WordPlace; readonly row: readonly WordPlace[] }[];
}
const sound = new Map<string, Sound>();

const carried = (document: Pipeline, path: string, pages: readonly PageContent[]) => tied(document, carryReport(document, { key: 'r', path, pages, tables: findTables(pages) }));

beforeAll(async () => {
  const document = parsePipeline(JSON.parse(await readFile(demoPipeline, 'utf8')));
  for (const { name, path } of papers) {
    const pages: PageContent[] = [];
    for await (const each of streamPages(await readFile(join(demoFolder, path)), path)) if ('page' in each) pages.push(each.page);
    const whole = carried(document, path, pages);
    const totals: WordPlace[] = [];
    const amounts: Sound['amounts'][number][] = [];
    for (const { id, held, sheet } of whole.layers) {
      const { rows, columns } = sheet;
      const wordsOf = (origin: number) => (origin < 0 ? [] : rows.book.origins.places(origin)).flatMap(({ page, words }) => words.map((word) => ({ page, word })));
      for (const tie of whole.ties.filter((each) => each.step === id && each.outcome === 'equal')) {
        const at = held.rows.rows.map((row) => row).find((row) => held.rows.rows.id(row).table === tie.row.table && held.rows.rows.id(row).ordinal === tie.row.ordinal)!;
        totals.push(...wordsOf(held.rows.columns.find(({ name: column }) => column === tie.column)!.origins[at]).slice(0, 1));
        const column = columns.find((each) => each.name === tie.column)!;
        for (const number of held.covers![at].rows) {
          const row = rows.numbers.indexOf(number);
          const own = wordsOf(column.origins[row]);
          if (own.length === 1 && /[1-9]/.test(pages[own[0].page - 1].words[own[0].word].text)) amounts.push({ at: own[0], row: columns.flatMap(({ origins }) => wordsOf(origins[row])) });
        }
      }
    }
    sound.set(name, { document, path, pages, whole, totals, amounts });
  }
});

/** The pages with another text at a place. */
const withText = (pages: readonly PageContent[], { page, word }: WordPlace, text: string) => pages.map((each, i) => (i === page - 1 ? { ...each, words: each.words.map((own, at) => (at === word ? { ...own, text } : own)) } : each));
const withoutWords = (pages: readonly PageContent[], gone: readonly WordPlace[]) => pages.map((each, i) => ({ ...each, words: each.words.filter((_, at) => !gone.some(({ page, word }) => page - 1 === i && word === at)) }));

/** Another digit than there is, at a place that has one. */
function misprinted(text: string, draw: ReturnType<typeof random>): string {
  const places = text.split('').flatMap((letter, at) => (/\d/.test(letter) ? [at] : []));
  const at = draw.one(places);
  return text.slice(0, at) + String((Number(text[at]) + draw.whole(1, 9)) % 10) + text.slice(at + 1);
}

/** What is said of a broken report that was not said of the sound one: problems, and totals that are no longer equal. */
function named({ whole }: Sound, broken: TiedReport): number {
  const equal = (report: TiedReport) => report.ties.filter(({ outcome }) => outcome === 'equal').length;
  return broken.problems.length - whole.problems.length + Math.max(0, equal(whole) - equal(broken));
}

describe.each(papers.map(({ name }) => name))('papers of the %s', (name) => {
  const family = () => sound.get(name)!;

  it('tie out as they are', () => {
    expect(family().whole.ties.length).toBeGreaterThan(10);
    expect(new Set(family().whole.ties.map(({ outcome }) => outcome))).toEqual(new Set(['equal']));
    expect(family().amounts.length).toBeGreaterThan(30);
  });

  it.each([
    { what: 'a digit of an amount is another', seed: 18, runs: 30, among: (own: Sound) => own.amounts.map(({ at }) => at) },
    { what: 'a total is misprinted', seed: 19, runs: 15, among: (own: Sound) => own.totals },
  ])('in which $what are named', ({ seed, runs, among }) => {
    const draw = random(seed);
    const { document, path, pages } = family();
    for (let i = 0; i < runs; i++) {
      const at = draw.one(among(family()));
      const { text } = pages[at.page - 1].words[at.word];
      const other = misprinted(text, draw);
      expect(named(family(), carried(document, path, withText(pages, at, other))), `${text} became ${other}`).toBeGreaterThan(0);
    }
  });

  it('in which a row is missing are named', () => {
    const draw = random(20);
    const { document, path, pages, amounts } = family();
    for (let i = 0; i < 15; i++) {
      const { row } = draw.one(amounts);
      expect(named(family(), carried(document, path, withoutWords(pages, row))), row.map(({ page, word }) => pages[page - 1].words[word].text).join(' ')).toBeGreaterThan(0);
    }
  });
});

/** Families of which a report that comes later is broken: its columns, its headings, the size of its numbers. */
const families = [
  { name: 'landing sheets', pipeline: demoPipeline, folder: demoFolder, paths: ['week-22.pdf', 'week-23.pdf', 'week-24.pdf', 'week-25.pdf', 'week-26.pdf'] },
  { name: 'berth notes', pipeline: notesPipeline, folder: notesFolder, paths: ['note-1041.pdf', 'note-1042.pdf', 'note-1043.pdf', 'note-1044.pdf', 'note-1045.pdf'] },
  { name: 'throughput', pipeline: throughputPipeline, folder: throughputFolder, paths: ['north/throughput-2021.pdf', 'north/throughput-2022.pdf', 'north/throughput-2023.pdf', 'north/throughput-2024.pdf'] },
];

describe.each(families)('a later report of the $name', ({ pipeline, folder, paths }) => {
  let document: Pipeline;
  const papers: (readonly PageContent[])[] = [];
  const seen: Seen[] = [];
  /** The columns of the last report: the words of its heading, and of its cells by the row that they stand in. */
  let columns: { name: string; heading: WordPlace[]; cells: (WordPlace & { row: number })[] }[];

  beforeAll(async () => {
    document = parsePipeline(JSON.parse(await readFile(pipeline, 'utf8')));
    for (const [i, path] of paths.entries()) {
      const pages: PageContent[] = [];
      for await (const each of streamPages(await readFile(join(folder, path)), path)) if ('page' in each) pages.push(each.page);
      papers.push(pages);
      seen.push({ key: path, path, period: null, known: i < paths.length - 1, traits: carryReport(document, { key: path, path, pages, tables: findTables(pages) }).traits() });
    }
    const named = carryReport(document, { key: 'last', path: paths.at(-1)!, pages: papers.at(-1)!, tables: findTables(papers.at(-1)!) }).layers.find(({ sheet }) => sheet.columns.some(({ namedBy }) => namedBy !== undefined))!.sheet;
    const wordsOf = (origin: number) => (origin < 0 ? [] : named.rows.book.origins.places(origin)).flatMap(({ page, words }) => words.map((word) => ({ page, word })));
    columns = named.columns.filter(({ namedBy }) => namedBy !== undefined).map(({ name, namedBy, cells, origins }) => ({ name, heading: wordsOf(namedBy!), cells: cells.flatMap((cell, row) => (cell === null ? [] : wordsOf(origins[row]).slice(0, 1).map((at) => ({ ...at, row })))) }));
  }, 120_000);

  const told = (pages: readonly PageContent[]): Difference[] => {
    const path = paths.at(-1)!;
    const broken = { ...seen.at(-1)!, traits: carryReport(document, { key: path, path, pages, tables: findTables(pages) }).traits() };
    return differencesOf([...seen.slice(0, -1), broken], expectingOf(document));
  };
  const textAt = (pages: readonly PageContent[], { page, word }: WordPlace) => pages.find(({ number }) => number === page)!.words[word].text;
  const written = (pages: readonly PageContent[], at: WordPlace, text: string) => pages.map((each) => (each.number === at.page ? { ...each, words: each.words.map((own, w) => (w === at.word ? { ...own, text } : own)) } : each));
  const ofNumbers = () => columns.filter(({ cells }) => cells.length >= 4 && cells.every((at) => /^[\d.,]+$/.test(textAt(papers.at(-1)!, at)) ) && cells.some((at) => textAt(papers.at(-1)!, at).length > 1));

  it('is not told to differ as it is', () => expect(told(papers.at(-1)!).map(differenceSentence)).toEqual([]));

  it('with a heading spelled otherwise is named', () => {
    for (const { name, heading } of columns) {
      const at = heading.find((each) => /\p{L}{3}/u.test(textAt(papers.at(-1)!, each)));
      if (!at) continue;
      const differences = told(written(papers.at(-1)!, at, `${textAt(papers.at(-1)!, at)}ish`));
      expect(differences.some(({ what }) => what === 'new column' || what === 'missing column'), name).toBe(true);
    }
  });

  it('with numbers in another unit is named', () => {
    for (const { name, cells } of ofNumbers()) {
      const larger = cells.reduce<readonly PageContent[]>((pages, at) => written(pages, at, `${textAt(papers.at(-1)!, at).replace(/[.,]\d{1,2}$/, '')},000`), papers.at(-1)!);
      expect(told(larger).map(({ holds }) => holds), name).toContain(true);
    }
  });

  it('with the contents of two columns swapped is named, where they can be told apart', () => {
    const numbers = ofNumbers();
    const texts = columns.filter((column) => !numbers.includes(column) && column.cells.length >= 4);
    let pairs = 0;
    for (const a of [...numbers, ...texts].slice(0, 3))
      for (const b of texts.filter((other) => other !== a).slice(0, 3)) {
        let pages = papers.at(-1)!;
        for (const left of a.cells) {
          const right = b.cells.find(({ row }) => row === left.row);
          if (right) pages = written(written(pages, left, textAt(papers.at(-1)!, right)), right, textAt(papers.at(-1)!, left));
        }
        pairs++;
        expect(told(pages).map(({ holds }) => holds), `${a.name} and ${b.name}`).toContain(true);
      }
    return expect(pairs + numbers.length).toBeGreaterThan(0);
  });
});
