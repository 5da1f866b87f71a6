/** Words on one page, as indices into the words of that page. */
export interface Place {
  readonly page: number;
  readonly words: readonly number[];
}

export const nowhere = -1;

/** More ids than one report can have; two of them make one exact number. */
const mostIds = 2 ** 26;

/** The word sets that cells of one report come from, each kept once; cells hold its id. */
export class Origins {
  private readonly sets: (readonly Place[])[] = [];
  private readonly ids = new Map<string, number>();
  private readonly pairs = new Map<number, number>();

  /** Id of a set of words of one page; `nowhere` for none. */
  intern(page: number, words: readonly number[]): number {
    return words.length === 0 ? nowhere : this.put([{ page, words }]);
  }

  /** Id of all the words behind several cells. */
  union(ids: readonly number[]): number {
    const distinct = [...new Set(ids.filter((id) => id !== nowhere))];
    if (distinct.length === 0) return nowhere;
    if (distinct.length === 1) return distinct[0];
    // Most unions are of two cells of one row, and asked for once: they are known by their two ids.
    const pair = distinct.length === 2 ? distinct[0] * mostIds + distinct[1] : undefined;
    const known = pair === undefined ? undefined : this.pairs.get(pair);
    if (known !== undefined) return known;
    const places = distinct.flatMap((id) => this.sets[id]);
    if (pair === undefined) return this.put(places);
    const id = this.sets.push(places) - 1;
    this.pairs.set(pair, id);
    return id;
  }

  /** The words behind a cell; empty for `nowhere`. */
  places(id: number): readonly Place[] {
    return this.sets[id] ?? [];
  }

  private put(places: readonly Place[]): number {
    const key = places.map(({ page, words }) => `${page}:${words.join(',')}`).join(';');
    let id = this.ids.get(key);
    if (id === undefined) {
      id = this.sets.push(places) - 1;
      this.ids.set(key, id);
    }
    return id;
  }
}
