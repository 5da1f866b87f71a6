import type { PageContent } from '../page/page';
import type { FoundTable } from './found-table';
import { TableFinder } from './table-finder';

/** Tables of a report: the pieces of every page, those that go on overleaf linked into one. */
export function findTables(pages: readonly PageContent[]): FoundTable[] {
  const finder = new TableFinder();
  for (const page of pages) finder.add(page);
  finder.end();
  return finder.tables;
}
