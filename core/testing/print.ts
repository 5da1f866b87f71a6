import type { Box } from '../page/box';
import type { Fill, PageContent, Rule, Word } from '../page/page';

/** Type of 10 points: a letter is 5 wide, lines are 14 apart unless told otherwise. */
export const letter = 5;
export const size = 10;

export interface Printed {
  readonly pitch?: number;
  readonly left?: number;
  readonly top?: number;
  readonly bold?: (word: string, line: number) => boolean;
}

/** A page from lines of text as on a typewriter: every letter has its place, words are parted by spaces. */
export function words(
  lines: readonly string[],
  { pitch = 14, left = 50, top = 100, bold = () => false }: Printed = {},
): Word[] {
  return lines.flatMap((line, row) =>
    [...line.matchAll(/\S+/g)].map((match): Word => {
      const x0 = left + match.index * letter;
      const baseline = top + row * pitch + 8;
      return {
        text: match[0],
        box: [x0, baseline - 8, x0 + match[0].length * letter - 0.4, baseline + 2],
        baseline,
        fontSize: size,
        weight: bold(match[0], row) ? 700 : 400,
        italic: false,
        angle: 0,
      };
    }),
  );
}

export const page = (
  of: readonly Word[],
  marks: { rules?: readonly Rule[]; fills?: readonly Fill[]; number?: number } = {},
): PageContent => ({
  number: marks.number ?? 1,
  width: 595,
  height: 842,
  words: of,
  rules: marks.rules ?? [],
  fills: marks.fills ?? [],
  pictures: [],
});

export const across = (at: number, from: number, to: number): Rule => ({
  direction: 'across',
  at,
  from,
  to,
  thickness: 0.5,
});
export const down = (at: number, from: number, to: number): Rule => ({
  direction: 'down',
  at,
  from,
  to,
  thickness: 0.5,
});

/** All rules of a grid with these edges. */
export const grid = (xs: readonly number[], ys: readonly number[]): Rule[] => [
  ...ys.map((y) => across(y, xs[0], xs.at(-1)!)),
  ...xs.map((x) => down(x, ys[0], ys.at(-1)!)),
];

/** The page with everything on it moved. */
export const moved = (of: PageContent, dx: number, dy: number): PageContent => {
  const box = ([x0, y0, x1, y1]: Box): Box => [x0 + dx, y0 + dy, x1 + dx, y1 + dy];
  return {
    ...of,
    words: of.words.map((word) => ({ ...word, box: box(word.box), baseline: word.baseline + dy })),
    rules: of.rules.map((rule) =>
      rule.direction === 'across'
        ? { ...rule, at: rule.at + dy, from: rule.from + dx, to: rule.to + dx }
        : { ...rule, at: rule.at + dx, from: rule.from + dy, to: rule.to + dy },
    ),
    fills: of.fills.map((fill) => ({ ...fill, box: box(fill.box) })),
  };
};

/** The page as on paper of another size: every length by one factor. */
export const scaled = (of: PageContent, factor: number): PageContent => {
  const box = (b: Box): Box => b.map((v) => v * factor) as unknown as Box;
  return {
    ...of,
    width: of.width * factor,
    height: of.height * factor,
    words: of.words.map((word) => ({
      ...word,
      box: box(word.box),
      baseline: word.baseline * factor,
      fontSize: word.fontSize * factor,
    })),
    rules: of.rules.map((rule) => ({
      ...rule,
      at: rule.at * factor,
      from: rule.from * factor,
      to: rule.to * factor,
      thickness: rule.thickness * factor,
    })),
    fills: of.fills.map((fill) => ({ ...fill, box: box(fill.box) })),
    pictures: of.pictures.map((picture) => ({ box: box(picture.box) })),
  };
};
