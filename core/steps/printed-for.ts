import type { Box } from '../page/box';
import type { Paper } from './step';

/** Something printed on a page. */
interface OnPage {
  readonly page: number;
  readonly box: Box;
}

/**
 * What a report prints for each of its tables, where it prints the like several times, as where every page is a form of its own.
 *
 * It is what stands last above the table on its page, or above where the table began. Where the first of the kind stands under a
 * table, they all stand under theirs. Else it is the last on the pages before, and the first after them where there is none.
 * @param onPage what is printed on a page, from the top; asked of as few pages as can be
 * @returns for a table and a page on which it has rows
 */
export function printedFor<Each extends OnPage>(
  { pages, pieces }: Paper,
  onPage: (page: number) => readonly Each[],
): (table: string, page: number) => Each | undefined {
  const known = new Map<number, readonly Each[]>();
  const on = (page: number): readonly Each[] => {
    const own = known.get(page) ?? onPage(page);
    known.set(page, own);
    return own;
  };
  const firstOf = (all: readonly number[]): Each | undefined => all.flatMap((page) => on(page).slice(0, 1))[0];
  let under: boolean | undefined;
  /** Does the first of all stand under a table? */
  const standUnder = (): boolean =>
    (under ??= (() => {
      const page = pages.find((each) => on(each).length > 0);
      const [first] = page === undefined ? [] : on(page);
      return (
        first !== undefined &&
        pieces.some((piece) => piece.page < first.page || (piece.page === first.page && piece.box[1] < first.box[1]))
      );
    })());

  return (table, page) => {
    const own = pieces.filter((piece) => piece.table === table && piece.page <= page).sort((a, b) => b.page - a.page);
    const here = on(page);
    if (own[0]?.page !== page) return here[0] ?? lastBefore(page) ?? firstOf(pages);
    for (const piece of own) {
      const above = on(piece.page).filter(({ box }) => box[3] <= piece.box[1] + slack);
      if (above.length > 0) return nearest(above, piece.box);
    }
    const before = standUnder() ? undefined : lastBefore(own.at(-1)!.page);
    return before ?? here[0] ?? lastBefore(page) ?? firstOf(pages.filter((each) => each > page));
  };

  function lastBefore(page: number): Each | undefined {
    for (const each of pages.filter((other) => other < page).reverse()) if (on(each).length > 0) return on(each).at(-1);
    return undefined;
  }
}

/** Boxes of print reach a little into each other, in points. */
const slack = 2;

/** The lowest; of several on one line the one that stands over the table, for tables side by side. */
function nearest<Each extends OnPage>(above: readonly Each[], [left, , right]: Box): Each {
  const lowest = above.at(-1)!;
  const beside = above.filter(({ box }) => box[3] > lowest.box[1] && box[1] < lowest.box[3]);
  return beside.find(({ box }) => box[0] >= left - slack && box[0] <= right) ?? lowest;
}
