/** A share of the words that two texts have in common (Dice's coefficient over bags of words), 0 to 1. */
export function likeness(a: string, b: string): number {
  const words = (text: string) => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  const left = words(a);
  const right = words(b);
  if (left.length + right.length === 0) return 1;
  const bag = new Map<string, number>();
  for (const word of left) bag.set(word, (bag.get(word) ?? 0) + 1);
  let common = 0;
  for (const word of right) {
    const count = bag.get(word) ?? 0;
    if (count > 0) {
      common++;
      bag.set(word, count - 1);
    }
  }
  return (2 * common) / (left.length + right.length);
}
