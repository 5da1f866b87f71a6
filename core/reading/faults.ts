import { around, type Box } from '../page/box';
import type { PageContent } from '../page/page';
import { areOnEdges } from './gutters';
import type { InColumns, Layout } from './layout';
import { areThousands, isAmount } from './phrases';

/** What speaks against a layout of columns, in words for the reason of a reading. */
const inWords = {
  amountsInOneCell: 'amounts side by side in one cell',
  gapInCell: 'wide gaps within a cell',
  tornText: 'texts parted at a word space',
  acrossGutter: 'texts across columns',
  thinColumn: 'columns with a single text',
} as const;

export type Fault = keyof typeof inWords;
export const faultNames = Object.keys(inWords) as Fault[];

/** How often each fault is found, and among how many cells. */
export interface Faults {
  readonly counts: Readonly<Record<Fault, number>>;
  readonly cells: number;
}

/** What each fault weighs, set by hand; `bench/random/fit-weights.ts` looks for better ones on random papers, and found none. */
export const faultWeights: Readonly<Record<Fault, number>> = {
  amountsInOneCell: 1,
  gapInCell: 0.5,
  tornText: 0.7,
  acrossGutter: 0.6,
  thinColumn: 1,
};

/** The weight of the faults a cell; without bound where there are no cells. */
export const weighFaults = ({ counts, cells }: Faults, weights = faultWeights): number =>
  cells === 0 ? Infinity : faultNames.reduce((sum, name) => sum + weights[name] * counts[name], 0) / cells;

/** The part of a score that is left when the faults are weighed: half of it at least. */
export const soundness = (faults: Faults | undefined): number => (faults ? 1 - Math.min(0.5, weighFaults(faults)) : 1);

/** Finds the faults of a layout. @param placed the cells of each line */
export function faultsOf(page: PageContent, layout: Layout, placed: readonly (readonly InColumns[])[]): Faults {
  const counts: Record<Fault, number> = {
    amountsInOneCell: 0,
    gapInCell: 0,
    tornText: 0,
    acrossGutter: 0,
    thinColumn: 0,
  };
  const byEdges = columnsByEdges(page, layout, placed);
  const filled = layout.columns.map(() => 0);
  placed.forEach((own, at) => {
    own.forEach(({ column, columnSpan, words }, i) => {
      filled[column]++;
      if (columnSpan > 1 && own.length > 1 && at > 0) counts.acrossGutter++;
      words.slice(1).forEach((w, n) => {
        const [before, after] = [page.words[words[n]], page.words[w]];
        const gap = after.box[0] - before.box[2];
        if (
          isAmount(before.text) &&
          isAmount(after.text) &&
          gap > 0.8 * layout.space &&
          !areThousands(before.text, after.text)
        )
          counts.amountsInOneCell++;
        else if (gap > Math.max(2.2 * layout.space, 0.7 * after.fontSize) && columnSpan === 1 && own.length > 1)
          counts.gapInCell++;
      });
      const next = own[i + 1];
      if (!next || at === 0) return;
      const [last, first] = [page.words[words.at(-1)!], page.words[next.words[0]]];
      const together = !(isAmount(last.text) && isAmount(first.text)) || areThousands(last.text, first.text);
      if (first.box[0] - last.box[2] < 1.1 * layout.space && together && !byEdges.has(next.column)) counts.tornText++;
    });
  });
  const rows = placed.filter((own) => own.length > 1).length;
  if (rows > 3) counts.thinColumn = filled.filter((count) => count <= 1).length;
  return { counts, cells: placed.reduce((sum, own) => sum + own.length, 0) };
}

/** The columns that their edges alone part from the one before, whatever room there is between: see `areOnEdges`. */
function columnsByEdges(
  page: PageContent,
  { columns }: Layout,
  placed: readonly (readonly InColumns[])[],
): Set<number> {
  const boxOf = ({ words }: InColumns) => around(words.map((w) => page.words[w].box))!;
  const pairs = columns.map((): [Box, Box][] => []);
  for (const own of placed)
    own.slice(1).forEach((cell, i) => {
      if (cell.columnSpan === 1 && own[i].columnSpan === 1 && own[i].column === cell.column - 1)
        pairs[cell.column].push([boxOf(own[i]), boxOf(cell)]);
    });
  return new Set(pairs.flatMap((own, column) => (areOnEdges(own) ? [column] : [])));
}

/** The two faults that weigh most, as a sentence to follow a reason; empty where there are none. */
export function faultsInWords(faults: Faults | undefined): string {
  const found = faultNames
    .filter((name) => faults && faults.counts[name] > 0)
    .sort((a, b) => faultWeights[b] * faults!.counts[b] - faultWeights[a] * faults!.counts[a]);
  return found.length === 0
    ? ''
    : ` Against these columns: ${found
        .slice(0, 2)
        .map((name) => `${faults!.counts[name]} × ${inWords[name]}`)
        .join(', ')}.`;
}
