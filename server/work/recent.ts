/** Keeps the values asked for last, as many as weigh no more than `most` together, so that looking at one thing again and again makes it once. */
export class Recent<Value> {
  private readonly values = new Map<string, { value: Value; weight: number }>();

  /** @param weigh how much a value counts; 1 each if left out. The value asked for last is always kept. */
  constructor(
    private readonly most: number,
    private readonly weigh: (value: Value) => number = () => 1,
  ) {}

  async get(key: string, make: () => Promise<Value>): Promise<Value> {
    const known = this.values.get(key);
    const value = known ? known.value : await make();
    this.values.delete(key);
    this.values.set(key, { value, weight: this.weigh(value) });
    const total = () => [...this.values.values()].reduce((sum, each) => sum + each.weight, 0);
    while (this.values.size > 1 && total() > this.most) this.values.delete(this.values.keys().next().value!);
    return value;
  }
}
