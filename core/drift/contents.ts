import { plainNumber } from '../values/plain-number';
import type { Found } from './difference';
import { moment } from './name-key';
import type { ColumnTraits } from './traits';
import { distance, median, oneShape, overlap, referenceOf, shareOf, usual, type Reference } from './reference';
import { columnOf, expectedOf, type ResolvedTable } from './resolved';

type Tables = readonly (ResolvedTable | undefined)[];

/** A column of a report, beside what it is in the reports that say what is expected. */
interface Compared {
  readonly key: string;
  readonly name: string;
  readonly own: ColumnTraits;
  readonly others: readonly ColumnTraits[];
  readonly reference: Reference;
}

/**
 * What stands under the headings, told apart by values: two columns swapped, texts where there were numbers, numbers of another
 * size or in another unit. Reports in the dataset are never questioned again.
 * @param unsettled keys of columns in question, by the places of reports
 */
export function contentDifferences(
  rule: string,
  tables: Tables,
  unsettled: ReadonlyMap<number, ReadonlySet<string>>,
): Found[] {
  const found = new Map<string, Omit<Found, 'at'> & { at: number[] }>();
  const all = expectedOf(tables);
  const expected = all.filter((_, n) => n % Math.ceil(all.length / enoughReports) === 0);
  const ofAll = new Map<string, Pick<Compared, 'others' | 'reference'>>();
  tables.forEach((table, i) => {
    if (!table || table.seen.known) return;
    // Of many reports one does not tell what is usual.
    const others = expected.length > fewReports ? expected : expected.filter((each) => each !== i);
    const columns = table.columns.flatMap(({ key, name, printed }): Compared[] => {
      if (unsettled.get(i)?.has(key)) return [];
      const known = others === expected ? ofAll.get(key) : undefined;
      const theirs = known?.others ?? others.flatMap((each) => columnOf(tables[each], key)?.printed ?? []);
      if (theirs.length < 2) return [];
      const usual = known ?? { others: theirs, reference: referenceOf(theirs) };
      if (others === expected) ofAll.set(key, usual);
      return [{ key, name, own: printed, ...usual }];
    });
    const tell = (each: Omit<Found, 'at' | 'rule' | 'holds'> & { holds?: boolean }) => {
      const id = JSON.stringify([each.what, each.column, each.other, each.before, each.now]);
      const known = found.get(id);
      if (known) known.at.push(i);
      else found.set(id, { holds: true, ...each, rule, at: [i] });
    };
    const swapped = swappedPairs(columns);
    swapped.push(
      ...turnedPairs(
        table,
        others.map((each) => tables[each]!),
        columns.filter((column) => !swapped.flat().includes(column) && !otherUnit(column) && !otherSize(column)),
      ),
    );
    for (const [a, b] of swapped)
      tell({
        what: 'swapped',
        column: a.own.name,
        other: b.own.name,
        proposals: [{ decided: 'swap back', other: b.own.name }, { decided: 'as it is' }, { decided: 'hold back' }],
      });
    const settled = new Set(swapped.flat());
    for (const column of columns) {
      if (settled.has(column)) continue;
      const kind = otherKind(column);
      for (const other of kind
        ? [kind]
        : [otherUnit(column) ?? [], otherSize(column) ?? otherSum(column) ?? [], moreBlanks(column) ?? []].flat())
        tell({ ...other, column: column.own.name, proposals: [{ decided: 'as it is' }, { decided: 'hold back' }] });
    }
  });
  return [...found.values()];
}

const fewReports = 12;
/** What is usual is known from so many. */
const enoughReports = 120;

/** Least distance by which a swap must be likelier than none, and by which each column must be unlike itself. */
const leastGain = 0.3;
const leastUnlike = 0.2;

/** Pairs of columns each of which looks like the other, where in the reports before they can be told apart. */
function swappedPairs(columns: readonly Compared[]): [Compared, Compared][] {
  const odd = columns.filter(({ own, reference }) => own.filled >= 2 && distance(own, reference) > leastUnlike);
  const pairs: { pair: [Compared, Compared]; gain: number }[] = [];
  odd.forEach((a, n) => {
    for (const b of odd.slice(n + 1)) {
      // Columns of moments take turns by themselves.
      if (a.key.includes(moment) && b.key.includes(moment)) continue;
      const gain = crossing(a.own, b.own, a.reference, b.reference);
      if (gain <= leastGain) continue;
      const margins = a.others
        .slice(0, b.others.length)
        .map((own, i) => -crossing(own, b.others[i], a.reference, b.reference));
      const apart = margins.filter((margin) => margin > 0);
      if (apart.length < 0.8 * margins.length || apart.length === 0) continue;
      const margin = median(apart);
      if (gain > 0.5 * margin && (margins.length >= 3 || margin >= 1)) pairs.push({ pair: [a, b], gain });
    }
  });
  const used = new Set<Compared>();
  return pairs
    .sort((x, y) => y.gain - x.gain)
    .filter(
      ({ pair }) =>
        !pair.some((column) => used.has(column)) && pair.forEach((column) => used.add(column)) === undefined,
    )
    .map(({ pair }) => pair);
}

/** Reports in which one column is always the smaller, at least, to tell that they are swapped where it is the larger. */
const leastReports = 3;

/** How much the ratio of two columns may move, as a part of it and as a power of ten, to be taken for the same turned round. */
const sameRatio = 0.35;
const nearRatio = 0.01;

/**
 * Pairs of which the one that has the smaller numbers in all reports before has the larger now, row by row, and by as much: that
 * one outgrows the other happens, but not that it does so by just what it lacked.
 */
function turnedPairs(
  table: ResolvedTable,
  others: readonly ResolvedTable[],
  columns: readonly Compared[],
): [Compared, Compared][] {
  const ratiosOf = ({ columns: own, table: { columns: printed, smaller } }: ResolvedTable) => {
    const keyAt = (place: number) => own.find((column) => column.printed === printed[place])?.key;
    return new Map(smaller.map(([a, b, ratio]) => [JSON.stringify([keyAt(a), keyAt(b)]), ratio]));
  };
  const now = ratiosOf(table);
  const before = others.map(ratiosOf);
  const pairs: [Compared, Compared][] = [];
  columns.forEach((a) => {
    for (const b of columns) {
      const turned = now.get(JSON.stringify([b.key, a.key]));
      if (a === b || turned === undefined || pairs.flat().some((used) => used === a || used === b)) continue;
      const straight = before.flatMap((each) => each.get(JSON.stringify([a.key, b.key])) ?? []);
      const against = before.filter((each) => each.has(JSON.stringify([b.key, a.key]))).length;
      if (
        straight.length < leastReports ||
        against >= straight.length / 4 ||
        straight.length + against < 0.8 * before.length
      )
        continue;
      const usualRatio = median(straight);
      if (Math.abs(turned - usualRatio) <= sameRatio * usualRatio + nearRatio)
        pairs.push(columns.indexOf(a) < columns.indexOf(b) ? [a, b] : [b, a]);
    }
  });
  return pairs;
}

/** By how much two columns are likelier each other than themselves. */
const crossing = (a: ColumnTraits, b: ColumnTraits, ofA: Reference, ofB: Reference): number =>
  distance(a, ofA) + distance(b, ofB) - distance(a, ofB) - distance(b, ofA);

const isAll = (all: readonly ColumnTraits[], test: (each: ColumnTraits) => boolean) => {
  const told = all.filter(({ filled }) => filled > 0);
  return told.length >= 2 && told.filter(test).length > 0.8 * told.length;
};

type Odd = Pick<Found, 'what' | 'before' | 'now'> & { holds?: boolean };

/** So large a part of the texts of a code that is printed otherwise is known at most. */
const mostAlike = 0.4;

/** Texts where there were numbers, or the other way round; texts that look otherwise and were never seen before. */
function otherKind({ own, others, reference }: Compared): Odd | undefined {
  const share = shareOf(own);
  if (share === undefined || own.filled < 3) return undefined;
  if (share <= 0.5 && isAll(others, (each) => shareOf(each)! >= 0.9))
    return { what: 'other contents', before: 'numbers', now: 'texts' };
  if (share >= 0.5 && isAll(others, (each) => shareOf(each)! <= 0.1))
    return { what: 'other contents', before: 'texts', now: 'numbers' };
  if (
    others.length >= 3 &&
    share <= 0.1 &&
    reference.shape !== undefined &&
    own.shape !== reference.shape &&
    isAll(others, (each) => oneShape(each) === reference.shape) &&
    overlap(own, reference.sample) < mostAlike
  )
    return { what: 'other contents', before: `texts like “${reference.shape}”`, now: `texts like “${own.shape}”` };
  return undefined;
}

function otherUnit({ own, others }: Compared): Odd | undefined {
  if ((shareOf(own) ?? 0) <= 0.5 || own.numbers < 2) return undefined;
  const numbers = others.filter((each) => (shareOf(each) ?? 0) > 0.5);
  const before = usual(
    numbers.map(({ unit }) => unit ?? ''),
    0.8,
  );
  const now = own.unit ?? '';
  if (before === undefined || before === now) return undefined;
  return { what: 'other unit', before, now, holds: before !== '' && now !== '' };
}

/** A column is filled in nearly every row of the others, or in so large a part less here. */
const usuallyFilled = 0.95;
const fewerFilled = 0.75;
const leastCells = 8;

/** Blank where the others are hardly ever: told, and not held back, as the print may be right. */
function moreBlanks({ own, others }: Compared): Odd | undefined {
  if (
    others.length < 3 ||
    own.cells < leastCells ||
    own.filled > fewerFilled * own.cells ||
    !others.every(({ filled, cells }) => filled >= usuallyFilled * cells)
  )
    return undefined;
  return { what: 'blanks', now: `${own.cells - own.filled} of ${own.cells}`, holds: false };
}

/** Powers of ten that part one size from another: more, the fewer reports there are to know it by. */
const gapBy = (reports: number) => (reports >= 4 ? 1.2 : reports >= 3 ? 1.5 : 1.8);
const leastNumbers = 4;

/** Numbers of another size than in most reports: in thousands where they were in ones, in kg where they were in tonnes. */
function otherSize({ own, others }: Compared): Odd | undefined {
  const sizes = others
    .flatMap((each) => (each.numbers >= leastNumbers && each.sizes ? [each.sizes[1]] : []))
    .sort((a, b) => a - b);
  if (!own.sizes || own.numbers < leastNumbers || sizes.length < 2) return undefined;
  const gap = gapBy(sizes.length);
  const groups: number[][] = [[]];
  for (const size of sizes) {
    const last = groups.at(-1)!;
    if (last.length > 0 && size - last.at(-1)! > gap) groups.push([size]);
    else last.push(size);
  }
  const most = groups.reduce((largest, next) => (next.length > largest.length ? next : largest));
  const [low, high] = [most[0], most.at(-1)!];
  const margin = gap + (high - low) / 2;
  const size = own.sizes[1];
  if (size >= low - margin && size <= high + margin) return undefined;
  const times = size - median(most);
  return { what: 'other size', now: `about ${tens(Math.abs(times))} times as ${times > 0 ? 'large' : 'small'}` };
}

/** So many reports show what a sum usually is; it may leave their band by as much as the band is wide, as a factor, and by this one at least. */
const leastSums = 5;
const usualFactor = 2;

/** Sums up to far more or far less than in all other reports, though as many rows have a number: told, and not held back. */
function otherSum({ own, others }: Compared): Odd | undefined {
  const told = others.filter(
    ({ sum, numbers, filled }) => sum !== undefined && sum > 0 && numbers >= leastNumbers && numbers > 0.9 * filled,
  );
  if (!own.sum || own.numbers < leastNumbers || told.length < leastSums || told.length < 0.8 * others.length)
    return undefined;
  const beyond = (value: number, usual: readonly number[], least: number) => {
    const [low, high] = [Math.min(...usual), Math.max(...usual)];
    const factor = Math.max(least, high / low);
    return value < low / factor || value > high * factor;
  };
  // Of more or fewer rows the number of rows is told.
  if (
    !beyond(
      own.sum,
      told.map(({ sum }) => sum!),
      usualFactor,
    ) ||
    beyond(
      own.numbers,
      told.map(({ numbers }) => numbers),
      1,
    )
  )
    return undefined;
  const [low, high] = [Math.min(...told.map(({ sum }) => sum!)), Math.max(...told.map(({ sum }) => sum!))].map(inShort);
  return { what: 'sum', before: low === high ? low : `${low} to ${high}`, now: inShort(own.sum), holds: false };
}

/** A number to three digits, with marks between thousands. */
const inShort = (n: number): string =>
  plainNumber(Number(n.toPrecision(3))).replace(/\B(?=(\d{3})+(?!\d))(?<!\.\d*)/g, ',');

/** The power of ten next to a size. */
const tens = (power: number): string => String(10 ** Math.round(power)).replace(/\B(?=(\d{3})+$)/g, ',');
