import { cellText, type Cell } from '../../../../core/values/cell';

/** Makers of number texts by digits after the point: making one takes far longer than using it. */
const formats = new Map<number, Intl.NumberFormat>();
function formatWith(decimals: number): Intl.NumberFormat {
  let format = formats.get(decimals);
  if (!format) formats.set(decimals, (format = new Intl.NumberFormat('en', { minimumFractionDigits: decimals, maximumFractionDigits: 15 })));
  return format;
}

/** A cell as the sheet shows it. @param decimals digits after the point that its column has */
export function cellShown(cell: Cell, decimals = 0): string {
  if (typeof cell === 'number') return formatWith(decimals).format(cell);
  return typeof cell === 'boolean' ? (cell ? 'yes' : 'no') : cellText(cell);
}
