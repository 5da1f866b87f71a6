/** Texts that look alike: the same marks in the same places, digits wherever there are digits. */
export interface Shape {
  /** The first text of this shape. */
  readonly example: string;
  count: number;
}

export interface Shapes {
  readonly shapes: readonly Shape[];
  /** Texts that are not blank. */
  readonly filled: number;
  /** Texts of shapes beyond those that are kept: names and remarks, each of its own shape. */
  readonly others: number;
}

/** More shapes than this are not looked at one by one: columns of numbers and dates have a few dozen. */
const mostShapes = 2048;

/**
 * Counts the shapes of all texts in one pass. Digits count as alike; a leading zero, every letter and every mark counts
 * as itself. Shapes are told by a running hash (FNV-1a), so that no text is built for them.
 */
export function shapesOf(texts: readonly (string | null)[]): Shapes {
  const shapes = new Map<number, Shape>();
  let filled = 0;
  let others = 0;
  for (let i = 0; i < texts.length; i++) {
    const text = texts[i];
    if (text === null || text === '') continue;
    filled++;
    let hash = 0x811c9dc5;
    let before = 0;
    for (let at = 0; at < text.length; at++) {
      let code = text.charCodeAt(at);
      // A zero before another digit at the beginning of a run of digits tells a code from a number.
      if (code >= 49 && code <= 57) code = 57;
      else if (code === 48 && (before === 57 || before === 48)) code = 57;
      else if (code === 48) {
        const next = text.charCodeAt(at + 1);
        // So does one before a mark tell a fraction from thousands.
        if (!(next >= 48 && next <= 57) && next !== 44 && next !== 46) code = 57;
      }
      hash = Math.imul(hash ^ code, 0x01000193);
      before = code;
    }
    const known = shapes.get(hash);
    if (known) known.count++;
    else if (shapes.size < mostShapes) shapes.set(hash, { example: text, count: 1 });
    else others++;
  }
  return { shapes: [...shapes.values()].sort((a, b) => b.count - a.count), filled, others };
}
