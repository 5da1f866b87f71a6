// Reports of the demo families that are broken on purpose, and how what is wrong in them is named.
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Check } from '../../core/checks/check';
import { factsOf, proposedChecks } from '../../core/checks/propose';
import { runChecks } from '../../core/checks/run-checks';
import type { Difference, Seen } from '../../core/drift/difference';
import { differencesOf } from '../../core/drift/differences';
import type { PageContent } from '../../core/page/page';
import { carryReport } from '../../core/pipeline/carry';
import { parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { expectingOf } from '../../core/pipeline/expecting';
import { findTables } from '../../core/reading/find-tables';
import type { Column } from '../../core/sheet/column';
import type { Sheet } from '../../core/sheet/sheet';
import { tied, type TiedReport } from '../../core/ties/tied';
import { cellText } from '../../core/values/cell';
import type { random } from '../../demo/random';
import { streamPages } from '../pdf/read-pages';

export type Draw = ReturnType<typeof random>;

/** A word on paper: the number of its page, and its place among the words there. */
export interface WordPlace {
  readonly page: number;
  readonly word: number;
}

export type Pages = readonly PageContent[];

export interface FamilyFiles {
  readonly name: string;
  readonly pipeline: string;
  readonly folder: string;
  /** The last is the one that is broken. */
  readonly paths: readonly string[];
  /** Only so many pages of each. */
  readonly pages?: number;
}

/** Some reports of a family, of which the last can be broken. */
export interface Family {
  readonly document: Pipeline;
  readonly pages: Pages;
  readonly sound: TiedReport;
  /** All of them, as they look; all but the last are in the dataset. */
  readonly seen: readonly Seen[];
  /** What is proposed to be checked, as it holds in all of them. */
  readonly checks: readonly Check[];
}

const carried = (document: Pipeline, path: string, pages: Pages): TiedReport =>
  tied(document, carryReport(document, { key: path, path, pages, tables: findTables(pages) }));

export async function openFamily({ pipeline, folder, paths, pages: most = Infinity }: FamilyFiles): Promise<Family> {
  const document = parsePipeline(JSON.parse(await readFile(pipeline, 'utf8')));
  const all: { pages: Pages; report: TiedReport; path: string }[] = [];
  for (const path of paths) {
    const pages: PageContent[] = [];
    for await (const each of streamPages(await readFile(join(folder, path)), path))
      if ('page' in each && pages.length < most) pages.push(each.page);
    all.push({ pages, path, report: carried(document, path, pages) });
  }
  const last = all.at(-1)!;
  return {
    document,
    pages: last.pages,
    sound: last.report,
    seen: all.map(({ path, report }, i) => ({
      key: path,
      path,
      period: null,
      known: i < all.length - 1,
      traits: report.traits(),
    })),
    checks: proposedChecks(
      all.map(({ report }) => factsOf(report.sheet, report.paper)),
      [],
    ).map(({ check }) => check),
  };
}

/** The last report with other pages. */
export const again = ({ document, seen }: Family, pages: Pages): TiedReport =>
  carried(document, seen.at(-1)!.path, pages);

/** What is different about the last report by what it looks like. */
export const differencesNow = ({ document, seen }: Family, broken: TiedReport): Difference[] =>
  differencesOf([...seen.slice(0, -1), { ...seen.at(-1)!, traits: broken.traits() }], expectingOf(document));

export const textAt = (pages: Pages, { page, word }: WordPlace): string =>
  pages.find(({ number }) => number === page)!.words[word].text;

/** The pages with another text at a place. */
export const written = (pages: Pages, at: WordPlace, text: string): Pages =>
  pages.map((each) =>
    each.number === at.page
      ? { ...each, words: each.words.map((own, w) => (w === at.word ? { ...own, text } : own)) }
      : each,
  );

/** The pages without some words. */
export const withoutWords = (pages: Pages, gone: readonly WordPlace[]): Pages =>
  pages.map((each) => ({
    ...each,
    words: each.words.filter((_, at) => !gone.some(({ page, word }) => page === each.number && word === at)),
  }));

/** Another digit than there is, at a place that has one. */
export function misprinted(text: string, draw: Draw): string {
  const at = draw.one(text.split('').flatMap((letter, place) => (/\d/.test(letter) ? [place] : [])));
  return text.slice(0, at) + String((Number(text[at]) + draw.whole(1, 9)) % 10) + text.slice(at + 1);
}

/** The words behind a cell or a heading. */
export const wordsOf = ({ rows }: Sheet, origin: number | undefined): WordPlace[] =>
  (origin === undefined || origin < 0 ? [] : rows.book.origins.places(origin)).flatMap(({ page, words }) =>
    words.map((word) => ({ page, word })),
  );

/** The printed amounts of totals that tie out, and those of the rows that they cover, each with the words of its whole row. */
export function amountsOf({ sound, pages }: Family): {
  totals: WordPlace[];
  amounts: { at: WordPlace; row: WordPlace[] }[];
} {
  const totals: WordPlace[] = [];
  const amounts: { at: WordPlace; row: WordPlace[] }[] = [];
  for (const { id, held, sheet } of sound.layers)
    for (const tie of sound.ties.filter((each) => each.step === id && each.outcome === 'equal')) {
      const { rows } = held.rows;
      const at = rows.find((row) => rows.id(row).table === tie.row.table && rows.id(row).ordinal === tie.row.ordinal);
      totals.push(
        ...wordsOf(held.rows, held.rows.columns.find(({ name }) => name === tie.column)!.origins[at]).slice(0, 1),
      );
      const column = sheet.columns.find((each) => each.name === tie.column)!;
      for (const number of held.covers![at].rows) {
        const row = sheet.rows.numbers.indexOf(number);
        const own = wordsOf(sheet, column.origins[row]);
        if (own.length === 1 && /[1-9]/.test(textAt(pages, own[0])))
          amounts.push({ at: own[0], row: sheet.columns.flatMap(({ origins }) => wordsOf(sheet, origins[row])) });
      }
    }
  return { totals, amounts };
}

export interface PrintedColumn {
  readonly name: string;
  readonly heading: readonly WordPlace[];
  /** First words of its cells, by the row that they stand in. */
  readonly cells: readonly (WordPlace & { readonly row: number })[];
}

/** The columns of the last report as print first names them. */
export function columnsOf({ sound }: Family): PrintedColumn[] {
  const named = sound.layers.find(({ sheet }) => sheet.columns.some(({ namedBy }) => namedBy !== undefined))?.sheet;
  return (named?.columns ?? []).flatMap(({ name, namedBy, cells, origins }) =>
    namedBy === undefined
      ? []
      : [
          {
            name,
            heading: wordsOf(named!, namedBy),
            cells: cells.flatMap((cell, row) =>
              cell === null
                ? []
                : wordsOf(named!, origins[row])
                    .slice(0, 1)
                    .map((at) => ({ ...at, row })),
            ),
          },
        ],
  );
}

/** Those that hold numbers alone. */
export const columnsOfNumbers = (family: Family): PrintedColumn[] =>
  columnsOf(family).filter(
    ({ cells }) =>
      cells.length >= 4 &&
      cells.every((at) => /^[\d.,]+$/.test(textAt(family.pages, at))) &&
      cells.some((at) => textAt(family.pages, at).length > 1),
  );

/** The contents of two columns in each other's place. */
export function swapped(pages: Pages, a: PrintedColumn, b: PrintedColumn): Pages {
  let now = pages;
  for (const left of a.cells) {
    const right = b.cells.find(({ row }) => row === left.row);
    if (right) now = written(written(now, left, textAt(pages, right)), right, textAt(pages, left));
  }
  return now;
}

/** Its numbers a thousand times as large. */
export const inThousands = (pages: Pages, { cells }: PrintedColumn): Pages =>
  cells.reduce((now, at) => written(now, at, `${textAt(pages, at).replace(/[.,]\d{1,2}$/, '')},000`), pages);

/** How what is wrong was named; "harmless" where the dataset is as before, "nothing" where it is not and nobody says so. */
export type Named = 'tie-out' | 'problem' | 'difference' | 'check' | 'harmless' | 'nothing';

/** How a broken report is named beside the sound one, by the first of the ways that do. */
export function namedBy(family: Family, pages: Pages): Named {
  const { sound, checks } = family;
  const broken = again(family, pages);
  const equal = ({ ties }: TiedReport) => ties.filter(({ outcome }) => outcome === 'equal').length;
  const isTie = ({ kind }: { kind: string }) => kind === 'tie-out';
  if (broken.problems.filter(isTie).length > sound.problems.filter(isTie).length || equal(broken) < equal(sound))
    return 'tie-out';
  if (broken.problems.length > sound.problems.length || misfits(broken.sheet) > misfits(sound.sheet)) return 'problem';
  if (differencesNow(family, broken).length > 0) return 'difference';
  if (
    runChecks(checks, broken.sheet, 'r', broken.paper).length > runChecks(checks, sound.sheet, 'r', sound.paper).length
  )
    return 'check';
  return said(broken.sheet.columns) === said(sound.sheet.columns) ? 'harmless' : 'nothing';
}

const misfits = ({ columns }: Sheet): number =>
  columns.reduce((sum, { cells }) => sum + cells.filter((cell) => typeof cell === 'object' && cell !== null).length, 0);
const said = (columns: readonly Column[]): string =>
  JSON.stringify(columns.map(({ name, cells }) => [name, cells.map(cellText)]));
