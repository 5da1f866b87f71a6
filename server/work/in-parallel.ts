/** Runs the work over all items, a few at a time, results in the order of the items. The first failure ends it. */
export async function inParallel<Item, Result>(
  items: readonly Item[],
  atOnce: number,
  work: (item: Item, at: number) => Promise<Result>,
): Promise<Result[]> {
  const results = new Array<Result>(items.length);
  let next = 0;
  await Promise.all(
    Array.from({ length: Math.min(atOnce, items.length) }, async () => {
      while (next < items.length) {
        const at = next++;
        results[at] = await work(items[at], at);
      }
    }),
  );
  return results;
}
