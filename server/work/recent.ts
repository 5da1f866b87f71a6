/** Keeps the values asked for last, as many as weigh no more than `most` together, so that looking at one thing again and again makes it once. */
export class Recent<Value> {
  private readonly values = new Map<string, { value: Value; weight: number }>();
  private total = 0;

  /** @param weigh how much a value counts; 1 each if left out. The value asked for last is always kept. */
  constructor(
    private readonly most: number,
    private readonly weigh: (value: Value) => number = () => 1,
  ) {}

  /** The value, if it is kept; it counts as asked for. */
  known(key: string): Value | undefined {
    const entry = this.values.get(key);
    if (!entry) return undefined;
    this.values.delete(key);
    this.values.set(key, entry);
    return entry.value;
  }

  async get(key: string, make: () => Promise<Value>): Promise<Value> {
    const value = this.known(key) ?? (await make());
    this.keep(key, value);
    return value;
  }

  private keep(key: string, value: Value): void {
    this.total -= this.values.get(key)?.weight ?? 0;
    this.values.delete(key);
    // Weighed again, as a value may have grown since.
    const weight = this.weigh(value);
    this.values.set(key, { value, weight });
    this.total += weight;
    for (const [oldest, entry] of this.values) {
      if (this.values.size === 1 || this.total <= this.most) return;
      this.values.delete(oldest);
      this.total -= entry.weight;
    }
  }
}
