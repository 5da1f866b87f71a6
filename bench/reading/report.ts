import type { ScoredFile, ScoredTable } from './scoring';

/** Prints the rows in which a table was read otherwise than it is. */
export function reportTable(file: ScoredFile, table: ScoredTable, most: number): void {
  console.log(`  ${file.name} p${table.page} ${table.id} F1 ${table.f.toFixed(3)} offered ${table.bexact ? 'exact' : table.bf.toFixed(3)}${table.reading ? `, ${table.reading}` : ''}`);
  const height = Math.max(...table._t.cells.map((cell) => cell.row)) + 1;
  const width = Math.max(...table._t.cells.map((cell) => cell.col + (cell.colSpan ?? 1)));
  const truth = Array.from({ length: height }, () => new Array<string>(width).fill(''));
  for (const cell of table._t.cells) truth[cell.row][cell.col] = cell.text;
  const lines = (rows: readonly string[][]) => rows.filter((row) => row.some((text) => text !== '')).map((row) => row.map((text) => text || '·').join('|'));
  const [want, got] = [lines(truth), lines(table._p?.rows ?? [])];
  console.log(`    truth ${want.length}x${width}, read ${got.length}x${table._p?.rows[0]?.length ?? 0}`);
  const [wantSet, gotSet] = [new Set(want.map((l) => l.replace(/\s/g, ''))), new Set(got.map((l) => l.replace(/\s/g, '')))];
  for (const line of want.filter((l) => !gotSet.has(l.replace(/\s/g, ''))).slice(0, most)) console.log(`    - ${line.slice(0, 190)}`);
  for (const line of got.filter((l) => !wantSet.has(l.replace(/\s/g, ''))).slice(0, most)) console.log(`    + ${line.slice(0, 190)}`);
}
