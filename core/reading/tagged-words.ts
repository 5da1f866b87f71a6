import type { PageContent, TaggedTable } from '../page/page';

export interface CellWords {
  readonly heading: boolean;
  readonly words: readonly number[];
}

/** The words of each cell of a tagged table, row by row; rows without any word are left out. */
export function wordsOfTagged(page: PageContent, table: TaggedTable): CellWords[][] {
  const byTag = new Map<number, number[]>();
  page.words.forEach(({ tag }, i) => {
    if (tag !== undefined) byTag.set(tag, [...(byTag.get(tag) ?? []), i]);
  });
  return table.rows
    .map((row) => row.cells.map(({ heading, content }) => ({ heading, words: content.flatMap((tag) => byTag.get(tag) ?? []) })))
    .filter((row) => row.some((cell) => cell.words.length > 0));
}
