import { PairTable } from './pair-table';

/** Words on one page, as indices into the words of that page. */
export interface Place {
  readonly page: number;
  readonly words: readonly number[];
}

export const nowhere = -1;

/**
 * The word sets that cells of one report come from, each kept once; cells hold its id. Most are words that follow one another
 * on a page, or the union of two sets: these are pairs of numbers, and their words are gathered when they are asked for.
 */
export class Origins {
  /** Each set is a pair: (page, run of words), (minus one less a set, another set), or (0, place among `others`). */
  private readonly sets = new PairTable();
  /** Runs of words that follow one another: the first, and how many. */
  private readonly runs = new PairTable();
  private readonly others: (readonly Place[])[] = [];
  private readonly otherIds = new Map<string, number>();

  /** Id of a set of words of one page; `nowhere` for none. */
  intern(page: number, words: readonly number[]): number {
    if (words.length === 0) return nowhere;
    const follow = words.every((word, i) => word === words[0] + i);
    return follow ? this.sets.id(page, this.runs.id(words[0], words.length)) : this.put([{ page, words }]);
  }

  /** Id of all the words behind several cells. */
  union(ids: readonly number[]): number {
    let first = nowhere;
    let second = nowhere;
    for (const id of ids) {
      if (id === nowhere || id === first || id === second) continue;
      if (first === nowhere) first = id;
      else if (second === nowhere) second = id;
      else return this.put([...new Set(ids)].flatMap((each) => this.places(each)));
    }
    return second === nowhere ? first : this.sets.id(-1 - first, second);
  }

  /** The words behind a cell; empty for `nowhere`. */
  places(id: number): readonly Place[] {
    if (id < 0 || id >= this.sets.size) return [];
    const left = this.sets.left(id);
    const right = this.sets.right(id);
    if (left === 0) return this.others[right];
    if (left < 0) return [...this.places(-1 - left), ...this.places(right)];
    const start = this.runs.left(right);
    return [{ page: left, words: Array.from({ length: this.runs.right(right) }, (_, i) => start + i) }];
  }

  private put(places: readonly Place[]): number {
    const key = places.map(({ page, words }) => `${page}:${words.join(',')}`).join(';');
    let at = this.otherIds.get(key);
    if (at === undefined) {
      at = this.others.push(places) - 1;
      this.otherIds.set(key, at);
    }
    return this.sets.id(0, at);
  }
}
