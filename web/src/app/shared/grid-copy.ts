import { concatMap, from, lastValueFrom, map, toArray } from 'rxjs';
import { cellText, type Cell } from '../../../../core/values/cell';
import type { CellRange } from '../../../../server/contract/contract';
import type { GridSource } from './grid-source';

/** Rows put on the clipboard at most; more are for the file. */
export const mostCopied = 20_000;
const atOnce = 1000;

const plain = (cell: Cell | undefined) => cellText(cell ?? null).replace(/[\t\r\n]+/g, ' ');

/** The places that some spans take, each once, in order. */
const placesOf = (spans: readonly (readonly [number, number])[], most: number): number[] => {
  const places = new Set<number>();
  for (const [first, last] of spans) for (let at = first; at <= last && places.size < most; at++) places.add(at);
  return [...places].sort((a, b) => a - b);
};

/** Selected cells as lines of values parted by tabs, as spreadsheets take them; what lies between two ranges is blank. */
export async function rangesAsText(source: GridSource, ranges: readonly CellRange[], withHeadings: boolean): Promise<{ text: string; rows: number; more: boolean }> {
  const rows = placesOf(ranges.map((range) => range.rows), mostCopied);
  const columns = placesOf(ranges.map((range) => range.columns), Infinity);
  const windows = [...new Set(rows.map((row) => Math.floor(row / atOnce)))];
  const fetched = await lastValueFrom(
    from(windows).pipe(
      concatMap((window) => source.fetch(window * atOnce, Math.min(atOnce, source.rows - window * atOnce)).pipe(map((found) => [window, found] as const))),
      toArray(),
    ),
  );
  const byWindow = new Map(fetched);
  const taken = (row: number, column: number) => ranges.some((range) => row >= range.rows[0] && row <= range.rows[1] && column >= range.columns[0] && column <= range.columns[1]);
  const lines = rows.map((row) => columns.map((column) => (taken(row, column) ? plain(byWindow.get(Math.floor(row / atOnce))?.[row % atOnce]?.cells[column]) : '')).join('\t'));
  const wanted = ranges.reduce((most, range) => Math.max(most, range.rows[1]), 0) + 1;
  return { text: [...(withHeadings ? [columns.map((column) => plain(source.columns[column].name)).join('\t')] : []), ...lines].join('\n'), rows: rows.length, more: rows.length === mostCopied && wanted > rows.at(-1)! + 1 };
}
