import { NumberLists } from './number-lists';
import { PairTable } from './pair-table';

/** Words on one page of one report (its key), as indices into the words of that page. */
export interface Place {
  readonly report: string;
  readonly page: number;
  readonly words: readonly number[];
}

export const nowhere = -1;
/** Where a set has its page: it is made up of a list of others. */
const ofMany = -(2 ** 31);

/**
 * The word sets that cells come from, each kept once; cells hold its id. Most are words that follow one another
 * on a page, or the union of two sets: these are pairs of numbers, and their words are gathered when they are asked for.
 */
export class Origins {
  /** Each set is a pair: (number of the page, run of words), (minus one less a set, another set), (0, place among `others`), or (`ofMany`, place among `lists`). */
  private readonly sets = new PairTable();
  /** Runs of words that follow one another: the first, and how many. */
  private readonly runs = new PairTable();
  /** Pages by number, from 1. */
  private readonly pages: { readonly report: string; readonly page: number }[] = [];
  private readonly pageNumbers = new Map<string, Map<number, number>>();
  private readonly others: (readonly Place[])[] = [];
  private readonly otherIds = new Map<string, number>();
  /** Sets that many others make up together, each by the ids of these. */
  private readonly lists = new NumberLists();

  /** @param parts sets of others that come before its own: see `joined` */
  private constructor(
    private readonly parts: readonly { readonly from: number; readonly origins: Origins }[],
    private readonly start: number,
  ) {}

  static empty = (): Origins => new Origins([], 0);

  /** The sets of several as one, without a copy: what was id n of part i is `starts[i] + n`. */
  static joined(parts: readonly Origins[]): { origins: Origins; starts: number[] } {
    let start = 0;
    const placed = parts.map((origins) => ({ from: (start += origins.size) - origins.size, origins }));
    return { origins: new Origins(placed, start), starts: placed.map(({ from }) => from) };
  }

  get size(): number {
    return this.start + this.sets.size;
  }

  /** Id of a set of words of one page; `nowhere` for none. */
  intern(report: string, page: number, words: readonly number[]): number {
    if (words.length === 0) return nowhere;
    let follow = true;
    for (let i = 1; i < words.length && follow; i++) follow = words[i] === words[0] + i;
    return follow
      ? this.set(this.pageNumber(report, page), this.runs.id(words[0], words.length))
      : this.put([{ report, page, words }]);
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
    return second === nowhere ? first : this.set(-1 - first, second);
  }

  /** Id of all the words behind many cells: what rows that became one had. */
  unionOfMany(ids: ArrayLike<number>): number {
    const own: number[] = [];
    for (let i = 0; i < ids.length && own.length < 3; i++)
      if (ids[i] !== nowhere && ids[i] !== own.at(-1)) own.push(ids[i]);
    return own.length <= 2 ? this.union(own) : this.set(ofMany, this.lists.add(ids));
  }

  /** The words behind a cell; empty for `nowhere`. */
  places(id: number): readonly Place[] {
    if (id < 0 || id >= this.size) return [];
    if (id < this.start) {
      const { from, origins } = this.parts[this.parts.findLastIndex((part) => part.from <= id)];
      return origins.places(id - from);
    }
    const left = this.sets.left(id - this.start);
    const right = this.sets.right(id - this.start);
    if (left === 0) return this.others[right];
    if (left === ofMany) return [...new Set(this.lists.at(right))].flatMap((each) => this.places(each));
    if (left < 0) return [...this.places(-1 - left), ...this.places(right)];
    const first = this.runs.left(right);
    return [{ ...this.pages[left - 1], words: Array.from({ length: this.runs.right(right) }, (_, i) => first + i) }];
  }

  /** The sets that a set is made up of, down to words on one page; itself, where it is none. */
  members(id: number): number[] {
    if (id < 0 || id >= this.size) return [];
    if (id < this.start) {
      const { from, origins } = this.parts[this.parts.findLastIndex((part) => part.from <= id)];
      return origins.members(id - from).map((each) => each + from);
    }
    const left = this.sets.left(id - this.start);
    const right = this.sets.right(id - this.start);
    if (left === ofMany)
      return [...new Set([...this.lists.at(right)].filter((each) => each >= 0).flatMap((each) => this.members(each)))];
    return left < 0 ? [...new Set([...this.members(-1 - left), ...this.members(right)])] : [id];
  }

  private set = (left: number, right: number): number => this.start + this.sets.id(left, right);

  private put(places: readonly Place[]): number {
    const key = placesKey(places);
    let at = this.otherIds.get(key);
    if (at === undefined) {
      at = this.others.push(places) - 1;
      this.otherIds.set(key, at);
    }
    return this.set(0, at);
  }

  private pageNumber(report: string, page: number): number {
    let own = this.pageNumbers.get(report);
    if (!own) this.pageNumbers.set(report, (own = new Map<number, number>()));
    let number = own.get(page);
    if (number === undefined) own.set(page, (number = this.pages.push({ report, page })));
    return number;
  }
}

/** A set of words as one text: the same for the same words, whatever book they stand in. */
export const placesKey = (places: readonly Place[]): string =>
  places.map(({ report, page, words }) => `${report} ${page}:${words.join(',')}`).join(';');
