/** Characters that no print shows and no database takes: nobody would find out why a text with them matches nothing. */
const faults: readonly (readonly [what: string, pattern: RegExp])[] = [
  ['a NUL character', /\u0000/],
  ['half of a character (a lone surrogate)', /\p{Cs}/u],
  ['a byte order mark (U+FEFF), which cannot be seen', /\ufeff/],
];

export interface FaultyText {
  /** Where it stands in the value, as `take.0.name`; empty: the value itself. */
  readonly path: string;
  readonly what: string;
}

interface Part {
  readonly value: unknown;
  readonly key: string;
  readonly above?: Part;
}

/** Paths are told no deeper than this. */
const deepest = 20;

function pathOf(part: Part | undefined): string {
  const keys: string[] = [];
  for (let at = part; at?.above && keys.length < deepest; at = at.above) keys.unshift(at.key);
  return keys.join('.');
}

/** The first text in a value, or name of a part of it, that holds a character which cannot be kept or seen. */
export function faultyText(value: unknown): FaultyText | undefined {
  // No calls within calls: what comes over the network may be nested deeper than they may be.
  const waiting: Part[] = [{ value, key: '' }];
  for (let part = waiting.pop(); part; part = waiting.pop()) {
    for (const text of [part.key, part.value]) {
      const fault = typeof text === 'string' && faults.find(([, pattern]) => pattern.test(text));
      if (fault) return { path: pathOf(text === part.value ? part : part.above), what: fault[0] };
    }
    if (typeof part.value !== 'object' || part.value === null || ArrayBuffer.isView(part.value)) continue;
    for (const [key, each] of Object.entries(part.value)) waiting.push({ value: each, key, above: part });
  }
  return undefined;
}

/** What is wrong, where, and what to do. */
export const faultyTextSentence = ({ path, what }: FaultyText): string =>
  `${path === '' ? '' : `${path}: `}The text has ${what} in it. Take it out, or write the text anew.`;
