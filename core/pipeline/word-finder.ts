import type { Sheet } from '../sheet/sheet';

/** A word of the paper: its report by its key, its page, its place there. */
export interface WordPlace {
  readonly report: string;
  readonly page: number;
  readonly word: number;
}

/** Tells of the origins of sheets whether they hold a word; each is looked at once, as layers share their book. */
export function wordFinder({ report, page, word }: WordPlace): (sheet: Sheet) => (origin: number) => boolean {
  // Layers over all reports have a book of their own.
  const memos = new Map<object, Map<number, boolean>>();
  return ({ rows: { book } }) => {
    let memo = memos.get(book);
    if (!memo) memos.set(book, (memo = new Map<number, boolean>()));
    const known = memo;
    return (origin) => {
      let has = known.get(origin);
      if (has === undefined)
        known.set(
          origin,
          (has = book.origins
            .places(origin)
            .some((place) => place.report === report && place.page === page && place.words.includes(word))),
        );
      return has;
    };
  };
}
