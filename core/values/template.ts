import * as v from 'valibot';

/**
 * Templates with holes: `week-{week}[-r{revision}].pdf`, `Week ending {date}`; `{year:4}` is a hole for four letters. Text outside the holes must be there as
 * written (white space and case aside); what stands in square brackets may be missing. A backslash before a bracket takes
 * the bracket for itself.
 */
export interface Template {
  readonly holes: readonly string[];
  /** Values of the holes when the whole text fits, else undefined. */
  whole(text: string): Record<string, string> | undefined;
  /** The first place in the text that fits, with where each hole's value stands. */
  within(
    text: string,
  ): { values: Record<string, string>; spans: Record<string, readonly [number, number]> } | undefined;
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&').replace(/\s+/g, '\\s+');

/**
 * @param long whether a hole of any length takes as much as it can, by its place; unsaid as little
 * @throws Error with a sentence when a hole is unnamed, named twice, or a bracket is not closed
 */
export function template(source: string, long: (hole: number) => boolean = () => false): Template {
  const holes: string[] = [];
  let pattern = '';
  let depth = 0;
  let literal = '';
  /** Does a hole of any length stand just before? */
  let open = false;
  const flush = () => {
    pattern += escaped(literal);
    literal = '';
  };
  for (let i = 0; i < source.length; i++) {
    const c = source[i];
    // A backslash takes a bracket for itself.
    if (c !== '{' && c !== '[' && c !== ']') open = false;
    if (c === '\\' && '{}[]\\'.includes(source[i + 1] ?? ' ')) literal += source[++i];
    else if (c === '{') {
      const end = source.indexOf('}', i);
      const [, name, width] = /^\s*(.*?)\s*(?::(\d{1,2}))?$/s.exec(end < 0 ? '' : source.slice(i + 1, end))!;
      if (name === '') throw new Error(`The template “${source}” has a hole without a name. Write it like {week}.`);
      if (holes.includes(name))
        throw new Error(`The template “${source}” has two holes named {${name}}. Give each its own name.`);
      flush();
      if (open && width === undefined)
        throw new Error(
          `The template “${source}” has two holes beside each other. Put the text between them there, or say how long the first is: {year:4}.`,
        );
      open = width === undefined;
      pattern += width === undefined ? (long(holes.length) ? '(.+)' : '(.+?)') : `(.{${width}})`;
      holes.push(name);
      i = end;
    } else if (c === '[') {
      flush();
      pattern += '(?:';
      depth++;
    } else if (c === ']' && depth > 0) {
      flush();
      pattern += ')?';
      depth--;
    } else literal += c;
  }
  flush();
  if (depth > 0) throw new Error(`The template “${source}” has a square bracket that is not closed.`);
  const trailingHole = /\{[^{}]*\}$/.test(source);
  const fit = new RegExp(`^${pattern}$`, 'i');
  // At the end of a template a hole takes the rest of the line.
  const search = new RegExp(trailingHole ? `${pattern}$` : pattern, 'id');
  const values = (match: RegExpExecArray) =>
    byHole(holes.flatMap((hole, i) => (match[i + 1] === undefined ? [] : [[hole, match[i + 1].trim()]])));
  return {
    holes,
    whole: (text) => {
      const match = fit.exec(text);
      return match ? values(match) : undefined;
    },
    within: (text) => {
      const match = search.exec(text);
      if (!match) return undefined;
      const spans = byHole<readonly [number, number]>(
        holes.flatMap((hole, i) => (match.indices![i + 1] ? [[hole, match.indices![i + 1]]] : [])),
      );
      return { values: values(match), spans };
    },
  };
}

/** A record that knows its own names only: a hole may be named like what every object has. */
const byHole = <T>(entries: readonly (readonly [hole: string, value: T])[]): Record<string, T> =>
  Object.assign(Object.create(null) as Record<string, T>, Object.fromEntries(entries));

/** A text as a template without holes, in which brackets stand for themselves. */
export const asTemplate = (text: string): string => text.replace(/[{}[\]\\]/g, '\\$&');

/** The schema of a template's text: one that cannot be read is refused with the reason. */
export const templateText = v.pipe(
  v.string(),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    try {
      template(dataset.value);
    } catch (error) {
      addIssue({ message: (error as Error).message });
    }
  }),
);
