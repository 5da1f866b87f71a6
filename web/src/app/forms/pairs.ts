/** Values (or column names), and the one that they become. */
export interface Pair {
  readonly from: readonly string[];
  readonly to: string;
}

/** The pairs with one value becoming another; undefined: it stays as it is. Values that become the same stand in one pair. */
export function withPair(pairs: readonly Pair[], from: string, to: string | undefined): Pair[] {
  const others = pairs.map((pair) => ({ ...pair, from: pair.from.filter((each) => each !== from) }));
  const at = to === undefined ? -1 : others.findIndex((pair) => pair.to === to);
  const next = to === undefined ? others : at < 0 ? [...others, { from: [from], to }] : others.map((pair, i) => (i === at ? { ...pair, from: [...pair.from, from] } : pair));
  return next.filter((pair) => pair.from.length > 0);
}

/** Pairs from a pasted list: two columns are old and new; one column is the new ones in the order of those that are there. */
export function withPasted(pairs: readonly Pair[], text: string, here: readonly string[]): Pair[] {
  const lines = text.split(/\r?\n/).map((line) => line.split('\t').map((part) => part.trim()));
  if (lines.some((parts) => parts.length > 1)) return lines.reduce<Pair[]>((all, [from, to]) => (from ? withPair(all, from, to ?? '') : all), [...pairs]);
  return lines.reduce<Pair[]>((all, [to], i) => (to && here[i] !== undefined && to !== here[i] ? withPair(all, here[i], to) : all), [...pairs]);
}
