import type { FoundFacts, TableFacts } from '../../../../server/contract/contract';

/** What was found so far with what was found on the pages read since: tables that go on overleaf get their new pieces. */
export function withMore(so: FoundFacts | undefined, more: FoundFacts): FoundFacts {
  const tables = new Map<string, TableFacts>((so?.tables ?? []).map((table) => [table.id, table]));
  for (const table of more.tables) {
    const known = tables.get(table.id);
    tables.set(table.id, known ? { ...known, rows: known.rows + table.rows, columns: Math.max(known.columns, table.columns), pieces: [...known.pieces, ...table.pieces] } : table);
  }
  return { pageCount: more.pageCount, pages: [...(so?.pages ?? []), ...more.pages], tables: [...tables.values()] };
}
