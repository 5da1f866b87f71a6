/** A text in which a `*` stands for any text; case does not matter, and white space is one space. */
export interface Wildcard {
  test(text: string): boolean;
}

const folded = (text: string) => text.toLowerCase().replace(/\s+/g, ' ');

/** Matched part by part from the left, in time that grows with the text alone. */
export function wildcard(pattern: string): Wildcard {
  const parts = pattern.trim().split('*').map(folded);
  if (parts.length === 1) return { test: (text) => folded(text) === parts[0] };
  const [first, last] = [parts[0], parts.at(-1)!];
  const between = parts.slice(1, -1);
  return {
    test(text) {
      const own = folded(text);
      const end = own.length - last.length;
      if (!own.startsWith(first) || !own.endsWith(last) || end < first.length) return false;
      let at = first.length;
      for (const part of between) {
        const found = own.indexOf(part, at);
        if (found < 0 || found + part.length > end) return false;
        at = found + part.length;
      }
      return true;
    },
  };
}
