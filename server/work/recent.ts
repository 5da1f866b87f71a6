/** Keeps the few values asked for last, so that looking at one report again and again reads it once. */
export class Recent<Value> {
  private readonly values = new Map<string, Value>();

  constructor(private readonly most: number) {}

  async get(key: string, make: () => Promise<Value>): Promise<Value> {
    let value = this.values.get(key);
    if (value === undefined) value = await make();
    this.values.delete(key);
    this.values.set(key, value);
    if (this.values.size > this.most) this.values.delete(this.values.keys().next().value!);
    return value;
  }
}
