import { holdsCentre } from '../page/box';
import type { PageContent, Word } from '../page/page';
import { builtIn } from '../pipeline/layers';
import { noLists } from '../sheet/list';
import { parted, type Sheet } from '../sheet/sheet';
import type { Around, PaperLine } from '../steps/step';
import type { SeenReport } from './suggestion';

/** The tables of a report as they are above the append of tables, each a sheet of its own. */
export function tablesOf({ carried }: SeenReport): Sheet[] {
  const at = carried.layers.findIndex(({ id }) => id === builtIn.joined);
  const { sheet } = carried.layers[at < 0 ? carried.layers.length - 1 : at - 1];
  const tables = [...new Set(sheet.rows.map(sheet.rows.table))];
  return tables.length < 2
    ? [sheet]
    : tables.map((table) => parted(sheet, (row) => sheet.rows.table(row) === table).passed);
}

/** The sheet of a report above the append of reports. */
export function reportSheet({ carried }: SeenReport): Sheet {
  const at = carried.layers.findIndex(({ id }) => id === builtIn.appended);
  return carried.layers[at < 0 ? carried.layers.length - 1 : at - 1].sheet;
}

/** What a step that is tried may ask: the report's paper, no list, and no row is let pass. */
export const aroundOf = ({ carried }: SeenReport): Around => ({
  papers: () => carried.paper,
  lists: noLists,
  letPass: () => false,
});

/** What stands beside the tables is looked for on so many pages from the first. */
export const pagesLookedAt = 2;

/** Lines of the first pages that are in no taken table, or in no found one, each with its page. */
export function printedOutside(
  { read, carried }: SeenReport,
  of: 'taken tables' | 'all tables',
): { page: PageContent; line: PaperLine }[] {
  const pieces = [
    ...carried.matches.flatMap((match) => match.pieces),
    ...(of === 'all tables' ? read.tables.flatMap((table) => table.pieces) : []),
  ];
  return read.pages.slice(0, pagesLookedAt).flatMap((page) => {
    const boxes = pieces.filter((piece) => piece.page === page.number).map(({ box }) => box);
    return carried.paper
      .lines(page.number)
      .flatMap((line) =>
        line.words.every((word) => !boxes.some((box) => holdsCentre(box, page.words[word].box)))
          ? [{ page, line }]
          : [],
      );
  });
}

/** The words that a cell of a report comes from, by its origin. */
export function printedWords({ read }: SeenReport): (sheet: Sheet, origin: number) => Word[] {
  const pages = new Map(read.pages.map(({ number, words }) => [number, words]));
  return ({ rows }, origin) =>
    rows.book.origins
      .places(origin)
      .flatMap(({ page, words }) => words.flatMap((word) => pages.get(page)?.[word] ?? []));
}

/** Rows at the top of a table that are marked as heading. */
export function headingDepth(table: Sheet): number {
  const body = table.rows.find((row) => table.rows.role(row) !== 'heading');
  return body < 0 ? table.rows.length : body;
}

/** Are the columns named by what is printed above them? */
export const isNamed = (sheet: Sheet): boolean => sheet.columns.some(({ namedBy }) => namedBy !== undefined);

/** What comes most often; undefined of nothing. */
export function mostCommon<Each>(all: readonly Each[]): Each | undefined {
  const counts = new Map<Each, number>();
  for (const each of all) counts.set(each, (counts.get(each) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

export const plural = (count: number, one: string, many = `${one}s`): string =>
  `${count.toLocaleString('en')} ${count === 1 ? one : many}`;

/** How many, in words, where it is few of many. */
export const share = (some: number, all: number, one: string): string =>
  some === all ? (all === 1 ? `the ${one}` : `all ${plural(all, one)}`) : `${some} of ${plural(all, one)}`;
