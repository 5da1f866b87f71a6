/**
 * Pairs of whole numbers of 32 bits, each known by one dense id: 0, 1, 2 ... in the order first seen. Held in typed arrays
 * with open addressing, as millions of pairs in a map of objects keep the garbage collector busy.
 */
export class PairTable {
  private lefts = new Int32Array(1024);
  private rights = new Int32Array(1024);
  /** Id + 1 by hash; 0: free. Twice as many places as ids at least. */
  private table = new Int32Array(2048);
  private count = 0;

  get size(): number {
    return this.count;
  }
  left = (id: number): number => this.lefts[id];
  right = (id: number): number => this.rights[id];

  /** The id of a pair, a new one for a pair not seen before. */
  id(left: number, right: number): number {
    let place = this.placeOf(left, right);
    if (this.table[place] !== 0) return this.table[place] - 1;
    if (this.count === this.lefts.length) {
      this.grow();
      place = this.placeOf(left, right);
    }
    this.lefts[this.count] = left;
    this.rights[this.count] = right;
    this.table[place] = ++this.count;
    return this.count - 1;
  }

  /** Where the pair stands in the table, or the free place where it would. */
  private placeOf(left: number, right: number): number {
    const mask = this.table.length - 1;
    // Multiplication by odd constants near the golden ratio of 2^32 spreads neighbouring numbers (Knuth, TAOCP 3, 6.4).
    let place = (Math.imul(left, 0x9e3779b1) ^ Math.imul(right, 0x85ebca77)) >>> 0;
    place = (place ^ (place >>> 15)) & mask;
    for (;;) {
      const id = this.table[place] - 1;
      if (id < 0 || (this.lefts[id] === left && this.rights[id] === right)) return place;
      place = (place + 1) & mask;
    }
  }

  private grow(): void {
    const { lefts, rights } = this;
    this.lefts = new Int32Array(lefts.length * 2);
    this.lefts.set(lefts);
    this.rights = new Int32Array(rights.length * 2);
    this.rights.set(rights);
    this.table = new Int32Array(this.table.length * 2);
    for (let id = 0; id < this.count; id++) this.table[this.placeOf(lefts[id], rights[id])] = id + 1;
  }
}
