/** Lists of whole numbers of 32 bits behind one another in one typed array, each known by its place among them. */
export class NumberLists {
  private numbers = new Int32Array(1024);
  private starts = new Int32Array(256);
  private count = 0;
  private end = 0;

  /** Writes a list down. @returns its place, from 0 */
  add(list: ArrayLike<number>): number {
    while (this.end + list.length > this.numbers.length) this.numbers = doubled(this.numbers);
    if (this.count + 2 > this.starts.length) this.starts = doubled(this.starts);
    this.numbers.set(list, this.end);
    this.end += list.length;
    this.starts[++this.count] = this.end;
    return this.count - 1;
  }

  at = (place: number): Int32Array => this.numbers.subarray(this.starts[place], this.starts[place + 1]);
}

function doubled(numbers: Int32Array<ArrayBuffer>): Int32Array<ArrayBuffer> {
  const larger = new Int32Array(numbers.length * 2);
  larger.set(numbers);
  return larger;
}
