/** Texts after which it is clear whether they come again, and the most that are kept. */
const trial = 2000;
const most = 50_000;

/**
 * Remembers what each text became, as long as texts come again: species and quays are worked out once, and amounts, which
 * hardly do, are not slowed down.
 * @param work gives the same for the same text, and never undefined
 */
export function remembered<Result>(work: (text: string) => Result): (text: string) => Result {
  let known: Map<string, Result> | undefined = new Map();
  let asked = 0;
  return (text) => {
    if (!known) return work(text);
    asked++;
    const before = known.get(text);
    if (before !== undefined) return before;
    const result = work(text);
    known.set(text, result);
    if ((known.size > trial && known.size * 2 > asked) || known.size > most) known = undefined;
    return result;
  };
}
