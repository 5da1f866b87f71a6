import { overlap } from '../../page/box';
import type { Line } from '../../page/lines';
import type { PageContent } from '../../page/page';
import { guttersOf } from '../gutters';
import { phrasesOf } from '../phrases';
import { crosses, isParted, phraseGap, standsBeside } from './print';

/** Left edges within this many points are one edge. */
const edge = 2;
/** Lines further apart than this, in font sizes, are not of one block, unless a rule sets a total off. */
const widestGap = 1.6;
const widestRuled = 2.6;
/** How many lines above a line are looked at for a column that it goes on in. */
const looked = 8;

/** Blocks of lines that follow closely and have at least two tabular lines; they begin and end with one. */
export function blocksOf(page: PageContent, lines: readonly Line[]): Line[][] {
  const phrases = lines.map((line) => phrasesOf(page, line, phraseGap));
  // Texts beside each other at different heights are one row's.
  const tabular = phrases.map(
    (own, i) => own.length > 1 || standsBeside(lines[i], lines[i - 1]) || standsBeside(lines[i], lines[i + 1]),
  );
  /** Text that goes on under one of the later columns of a row not far above. */
  const goesOn = (i: number, open: readonly number[]) =>
    !tabular[i] &&
    open.some(
      (row) => tabular[row] && phrases[row].slice(1).some(({ box }) => Math.abs(box[0] - lines[i].box[0]) < edge),
    );
  const blocks: Line[][] = [];
  let open: number[] = [];
  const accepted = new Set<number>();
  /** Rows whose texts nearly touch are told by the gutters of the others. */
  const parted = (i: number, among: readonly number[]) => {
    if (tabular[i]) return true;
    const without = among.filter((at) => at !== i).map((at) => lines[at]);
    const gutters = guttersOf(page, [...without, lines[i]]);
    return (
      gutters.length >= guttersOf(page, without).length &&
      isParted(page, lines[i], gutters) &&
      gutters.every((gutter) => !crosses(page, lines[i], gutter))
    );
  };
  /** The last line of a wrapped text, close below the row that it belongs to. */
  const endsText = (at: number) => {
    const [above, line] = [lines[open[at - 1]], lines[open[at]]];
    return (
      above !== undefined &&
      line.box[1] - above.box[3] < 0.5 * line.fontSize &&
      goesOn(open[at], open.slice(Math.max(0, at - looked), at))
    );
  };
  const close = () => {
    while (open.length > 0 && !parted(open.at(-1)!, open) && !endsText(open.length - 1)) open.pop();
    if (open.filter((i) => parted(i, open)).length >= 2) blocks.push(open.map((i) => lines[i]));
    open = [];
  };
  lines.forEach((line, i) => {
    if (open.length > 0) {
      const above = lines[open.at(-1)!];
      const gap = line.box[1] - above.box[3];
      const last = open.findLastIndex(
        (at, n) => tabular[at] || accepted.has(at) || goesOn(at, open.slice(Math.max(0, n - looked), n)),
      );
      const plain = open.length - 1 - last;
      const joins = parted(i, open) || goesOn(i, open.slice(-looked));
      if (joins) accepted.add(i);
      const widest = isRuledOff(
        page,
        open.map((at) => lines[at]),
        line,
      )
        ? widestRuled
        : widestGap;
      if (gap > widest * line.fontSize || plain >= 2 || (plain >= 1 && !joins)) close();
    }
    if (open.length > 0 || tabular[i]) open.push(i);
  });
  close();
  return blocks.flatMap((block) => splitByShape(page, block));
}

/** A row that a rule parts from the rows above, and that keeps to their columns: a total set off. */
function isRuledOff(page: PageContent, above: readonly Line[], line: Line): boolean {
  const last = above.at(-1)!;
  const ruled = page.rules.some(
    (rule) =>
      rule.direction === 'across' &&
      rule.at > last.box[3] - 1 &&
      rule.at < line.box[1] + 1 &&
      overlap(rule.from, rule.to, line.box[0], line.box[2]) > 0.5 * (line.box[2] - line.box[0]),
  );
  if (!ruled || above.length < 2) return false;
  const gutters = guttersOf(page, above);
  return (
    isParted(page, line, gutters) &&
    gutters.filter((gutter) => crosses(page, line, gutter)).length <= 0.25 * gutters.length
  );
}

/** Two tables set closely one below the other show as a change of gutters across a wider gap. */
function splitByShape(page: PageContent, lines: Line[]): Line[][] {
  for (let i = 2; i < lines.length - 1; i++) {
    const gap = lines[i].box[1] - lines[i - 1].box[3];
    if (gap < 0.9 * lines[i].fontSize) continue;
    const above = guttersOf(page, lines.slice(0, i)).length;
    const below = guttersOf(page, lines.slice(i)).length;
    const all = guttersOf(page, lines).length;
    if (above > 0 && below > 0 && above !== below && all < Math.max(above, below))
      return [lines.slice(0, i), ...splitByShape(page, lines.slice(i))];
  }
  return [lines];
}
