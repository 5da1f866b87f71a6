import { height, overlap, width, type Box } from '../page/box';
import type { Rule } from '../page/page';

/** White space above a row that is so much of a line's height more than is usual sets it apart. */
const clearlyMore = 0.35;

/** Which rows white space sets apart from the row above: more of it than is usual between the rows. @param rows from top to bottom */
export function spacedRows(rows: readonly Box[]): boolean[] {
  const gaps = rows.map((box, i) => (i === 0 ? NaN : box[1] - rows[i - 1][3]));
  // Where a column ends and the next begins at the top, nothing is between them.
  const order = gaps.filter((gap, i) => gap > -0.5 * height(rows[i])).sort((a, b) => a - b);
  const usual = order[(order.length - 1) >> 1] ?? 0;
  return gaps.map((gap, i) => gap > usual + clearlyMore * height(rows[i]));
}

/** Which rows have a rule between them and the row above, over most of their width. @param rows from top to bottom */
export function ruledRows(rows: readonly Box[], rules: readonly Rule[]): boolean[] {
  const across = rules.filter(({ direction }) => direction === 'across');
  return rows.map((box, i) => {
    if (across.length === 0 || i === 0) return false;
    const above = rows[i - 1];
    const middle = (of: Box) => (of[1] + of[3]) / 2;
    return across.some(
      ({ at, from, to }) =>
        at > middle(above) && at < middle(box) && overlap(from, to, box[0], box[2]) > 0.5 * width(box),
    );
  });
}
