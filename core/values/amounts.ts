import { isBlank, isError, type Cell } from './cell';
import { formatOf, readerOf } from './format';
import { locales, type LocaleName } from './locale';

export type AmountReader = ReturnType<typeof readerOf>;

/** Reads amounts as they are printed in a place. */
export const amountReader = (locale: LocaleName): AmountReader =>
  readerOf(formatOf({ type: 'decimal' }), locales[locale]);

/** The amount that a cell holds or prints; undefined where it is none. */
export function amountIn(cell: Cell, read: AmountReader): number | undefined {
  if (typeof cell === 'number') return cell;
  if (isBlank(cell) || isError(cell) || typeof cell !== 'string') return undefined;
  const parsed = read(cell);
  return 'value' in parsed && typeof parsed.value === 'number' ? parsed.value : undefined;
}
