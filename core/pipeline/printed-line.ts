import { linesOf } from '../page/lines';
import type { PageContent } from '../page/page';
import type { Rows } from '../sheet/row';
import type { Sheet } from '../sheet/sheet';

/** The line of each word of a page, from 1: a row is spoken of by the page and line at which it is printed. */
const linesKnown = new WeakMap<PageContent, ReadonlyMap<number, number>>();

function lineOf(page: PageContent, word: number): number | undefined {
  let lines = linesKnown.get(page);
  if (!lines)
    linesKnown.set(
      page,
      (lines = new Map(linesOf(page.words).flatMap(({ words }, i) => words.map((each) => [each, i + 1] as const)))),
    );
  return lines.get(word);
}

/**
 * The line at which a row of a sheet is printed on its page: that of most of its cells, of two the lower one, as what is
 * lifted or stamped stands above. Undefined where none is printed there.
 */
export function printedLine(
  { rows, columns }: Sheet,
  row: number,
  pages: ReadonlyMap<number, PageContent>,
): number | undefined {
  const number = rows.page(row);
  const page = pages.get(number);
  if (!page) return undefined;
  const cells = new Map<number, number>();
  for (const { origins } of columns) {
    const lines = placesOf(rows, origins[row]).flatMap((place) =>
      place.page === number ? place.words.flatMap((word) => lineOf(page, word) ?? []) : [],
    );
    // Of a cell of several lines the first.
    if (lines.length > 0) cells.set(Math.min(...lines), (cells.get(Math.min(...lines)) ?? 0) + 1);
  }
  let best: number | undefined;
  for (const [line, count] of cells)
    if (best === undefined || count > cells.get(best)! || (count === cells.get(best)! && line > best)) best = line;
  return best;
}

const placesOf = ({ book }: Rows, origin: number | undefined) =>
  origin === undefined ? [] : book.origins.places(origin);
