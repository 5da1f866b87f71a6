import type { ScoredFile, ScoredTable } from './score-files';

/** Prints the rows in which a table was read otherwise than it is. */
export function reportTable(file: ScoredFile, table: ScoredTable, most: number): void {
  console.log(
    `  ${file.name} p${table.page} ${table.id} [${failureOf(table)}] F1 ${table.f.toFixed(3)} offered ${table.bexact ? 'exact' : table.bf.toFixed(3)}${table.reading ? `, ${table.reading}` : ''}`,
  );
  const height = Math.max(...table._t.cells.map((cell) => cell.row)) + 1;
  const width = Math.max(...table._t.cells.map((cell) => cell.col + (cell.colSpan ?? 1)));
  const truth = Array.from({ length: height }, () => new Array<string>(width).fill(''));
  for (const cell of table._t.cells) truth[cell.row][cell.col] = cell.text;
  const lines = (rows: readonly string[][]) =>
    rows.filter((row) => row.some((text) => text !== '')).map((row) => row.map((text) => text || '·').join('|'));
  const [want, got] = [lines(truth), lines(table._p?.rows ?? [])];
  console.log(`    truth ${want.length}x${width}, read ${got.length}x${table._p?.rows[0]?.length ?? 0}`);
  const [wantSet, gotSet] = [
    new Set(want.map((l) => l.replace(/\s/g, ''))),
    new Set(got.map((l) => l.replace(/\s/g, ''))),
  ];
  for (const line of want.filter((l) => !gotSet.has(l.replace(/\s/g, ''))).slice(0, most))
    console.log(`    - ${line.slice(0, 190)}`);
  for (const line of got.filter((l) => !wantSet.has(l.replace(/\s/g, ''))).slice(0, most))
    console.log(`    + ${line.slice(0, 190)}`);
}

const squeezed = (text: string) => text.normalize('NFKC').replace(/\s+/g, '');

/** In what a table was read otherwise than it is, by the first that differs. */
export function failureOf({
  exact,
  _t,
  _p,
}: ScoredTable): 'exact' | 'missed' | 'words lost' | 'words too many' | 'columns' | 'rows' | 'heading' | 'cells' {
  if (exact) return 'exact';
  if (!_p) return 'missed';
  const want = squeezed(_t.cells.map((cell) => cell.text).join('')).length;
  const got = squeezed(_p.rows.flat().join('')).length;
  if (got < 0.985 * want) return 'words lost';
  if (got > 1.015 * want) return 'words too many';
  const columns = new Set(_t.cells.filter((cell) => cell.text !== '').map((cell) => cell.col)).size;
  const filled = _p.rows.filter((row) => row.some((text) => text !== ''));
  const spanning = new Set(
    _t.cells.flatMap((cell) => Array.from({ length: cell.colSpan ?? 1 }, (_, i) => cell.col + i)),
  ).size;
  const own = new Set(filled.flatMap((row) => row.flatMap((text, i) => (text === '' ? [] : [i])))).size;
  if (own !== columns && own !== spanning) return 'columns';
  const rows = new Set(_t.cells.filter((cell) => cell.text !== '').map((cell) => cell.row)).size;
  if (filled.length !== rows) return 'rows';
  const rowsOf = (from: number, among: readonly (readonly string[])[]) =>
    squeezed(
      among
        .slice(from)
        .map((row) => row.join('|'))
        .join('/'),
    );
  const truth = Array.from({ length: Math.max(..._t.cells.map((cell) => cell.row)) + 1 }, () =>
    new Array<string>(_p.rows[0].length).fill(''),
  );
  for (const cell of _t.cells) truth[cell.row][cell.col] = cell.text;
  return rowsOf(
    _t.headerRows,
    truth.filter((row) => row.some((text) => text)),
  ) === rowsOf(_t.headerRows, filled)
    ? 'heading'
    : 'cells';
}

/** How many tables failed in what. */
export function failuresLine(files: readonly ScoredFile[]): string {
  const counts = new Map<string, number>();
  for (const file of files)
    for (const table of file.tables) counts.set(failureOf(table), (counts.get(failureOf(table)) ?? 0) + 1);
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .map(([kind, count]) => `${kind} ${count}`)
    .join(', ');
}
