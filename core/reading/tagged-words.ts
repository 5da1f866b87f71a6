import type { PageContent, TaggedTable } from '../page/page';

export interface CellWords {
  readonly heading: boolean;
  readonly words: readonly number[];
}

const wordsByTag = (page: PageContent): Map<number, number[]> => {
  const byTag = new Map<number, number[]>();
  page.words.forEach(({ tag }, i) => {
    if (tag !== undefined) byTag.set(tag, [...(byTag.get(tag) ?? []), i]);
  });
  return byTag;
};

/** The words that the tags call the caption of the table which has these words; none where they name none. */
export function captionOf(page: PageContent, words: readonly number[]): number[] {
  const own = new Set(words);
  const table = page.tagged?.find((each) =>
    wordsOfTagged(page, each).some((row) => row.some((cell) => cell.words.some((w) => own.has(w)))),
  );
  const byTag = wordsByTag(page);
  return (table?.caption ?? []).flatMap((tag) => byTag.get(tag) ?? []);
}

/** The words of each cell of a tagged table, row by row; rows without any word are left out. */
export function wordsOfTagged(page: PageContent, table: TaggedTable): CellWords[][] {
  const byTag = wordsByTag(page);
  return table.rows
    .map((row) =>
      row.cells.map(({ heading, content }) => ({ heading, words: content.flatMap((tag) => byTag.get(tag) ?? []) })),
    )
    .filter((row) => row.some((cell) => cell.words.length > 0));
}
