import type { ColumnTraits } from './traits';

/** What a column usually looks like: the middle of what it is in several reports, so that a few odd ones do not move it. */
export interface Reference {
  /** Part of its texts that print numbers, 0 to 1; undefined where it is blank everywhere. */
  readonly share?: number;
  readonly sizes?: readonly [number, number, number];
  readonly decimals?: number;
  readonly unit?: string;
  readonly shape?: string;
  readonly sample: ReadonlySet<number>;
  /** Part of a report's texts that others have too: of names that come again nearly all, of amounts nearly none. */
  readonly repeats: number;
}

export const shareOf = ({ filled, numbers }: ColumnTraits): number | undefined =>
  filled > 0 ? numbers / filled : undefined;

/** The middle of some numbers, the lower of two. */
export const median = (numbers: readonly number[]): number =>
  [...numbers].sort((a, b) => a - b)[Math.floor((numbers.length - 1) / 2)];

const told = <Of>(all: readonly (Of | undefined)[]): Of[] => all.filter((one) => one !== undefined);

/** How often some have each thing. */
export interface Tally<Of> {
  readonly counts: ReadonlyMap<Of, number>;
  /** Of all together. */
  readonly size: number;
}

export function tally<Of>(all: readonly Of[]): Tally<Of> {
  const counts = new Map<Of, number>();
  for (const one of all) counts.set(one, (counts.get(one) ?? 0) + 1);
  return { counts, size: all.length };
}

/** What more than such a part of some have; undefined where nothing is. @param but one of them that does not count */
export function usualIn<Of>({ counts, size }: Tally<Of>, part = 0.5, but?: Of): Of | undefined {
  const others = size - (but === undefined ? 0 : 1);
  for (const [one, count] of counts) if (count - (one === but ? 1 : 0) > part * others) return one;
  return undefined;
}

/** What more than half of some have; undefined where nothing is. */
export const usual = <Of>(all: readonly Of[], part = 0.5): Of | undefined => usualIn(tally(all), part);

export function referenceOf(columns: readonly ColumnTraits[]): Reference {
  const shares = told(columns.map(shareOf));
  const sizes = told(columns.map((each) => each.sizes));
  const filled = columns.filter((each) => each.filled > 0);
  const decimals = usual(told(columns.map((each) => each.decimals)));
  const unit = usual(filled.map((each) => each.unit));
  const shape = usual(filled.map(oneShape));
  const counts = new Map<number, number>();
  for (const { sample } of columns) for (const hash of sample) counts.set(hash, (counts.get(hash) ?? 0) + 1);
  const comeAgain = new Set([...counts].flatMap(([hash, count]) => (count > 1 ? [hash] : [])));
  return {
    ...(shares.length > 0 ? { share: median(shares) } : {}),
    ...(sizes.length > 0
      ? { sizes: [0, 1, 2].map((at) => median(sizes.map((each) => each[at]))) as [number, number, number] }
      : {}),
    ...(decimals === undefined ? {} : { decimals }),
    ...(unit === undefined ? {} : { unit }),
    ...(shape === undefined ? {} : { shape }),
    sample: new Set(counts.keys()),
    repeats: filled.length < 2 ? 0 : median(filled.map((each) => overlap(each, comeAgain))),
  };
}

/** Part of the sampled texts of a column that stand among others, 0 to 1. */
export const overlap = ({ sample }: ColumnTraits, among: ReadonlySet<number>): number =>
  sample.length === 0 ? 1 : sample.filter((hash) => among.has(hash)).length / sample.length;

/** The shape that nearly all of its texts have. */
export const oneShape = ({ shape, shaped = 0 }: ColumnTraits): string | undefined =>
  shaped >= 0.8 ? shape : undefined;

const mostApart = 2;

/** How unlike a column of a report is to what another usually looks like: 0 for alike, some 4 for number and text. */
export function distance(traits: ColumnTraits, reference: Reference): number {
  const share = shareOf(traits);
  if (share === undefined || reference.share === undefined) return 0;
  let apart = 2 * Math.abs(share - reference.share);
  if (share > 0.5 && reference.share > 0.5) {
    if (traits.sizes && reference.sizes)
      apart += Math.min(
        mostApart,
        [0, 1, 2].reduce((sum, at) => sum + Math.abs(traits.sizes![at] - reference.sizes![at]), 0) / 3,
      );
    if ((traits.decimals ?? -1) >= 0 && (reference.decimals ?? -1) >= 0 && traits.decimals !== reference.decimals)
      apart += 0.5;
    if (traits.unit !== undefined && reference.unit !== undefined && traits.unit !== reference.unit) apart += 1;
  } else if (share <= 0.5 && reference.share <= 0.5) {
    const shape = oneShape(traits);
    if (shape !== reference.shape) apart += shape === undefined || reference.shape === undefined ? 0.5 : 1;
    apart += reference.repeats * (1 - overlap(traits, reference.sample));
  } else apart += 1;
  return apart;
}

/** How like they are, 0 to 1. */
export const likenessOf = (traits: ColumnTraits, reference: Reference): number =>
  Math.max(0, 1 - distance(traits, reference) / mostApart);
