import type { Layer } from '../pipeline/carry';
import type { RowId } from '../sheet/row';
import type { Sheet } from '../sheet/sheet';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import { exactSum, fractionDigits } from '../values/exact';
import type { LocaleName } from '../values/locale';
import { plainNumber } from '../values/plain-number';
import { amountIn, amountReader, type AmountReader } from '../values/amounts';

/** How a printed total compares with what the rows say in the end, in one column. */
export type Outcome = 'equal' | 'off' | 'within rounding' | 'not comparable';

/** One printed amount of a total beside what the dataset says. */
export interface TieOut {
  /** Id of the step that kept the total. */
  readonly step: string;
  readonly row: RowId;
  readonly page: number;
  /** What the total is called: the texts of its row that are no amounts. */
  readonly label: string;
  /** The column as it was called where the total was kept. */
  readonly column: string;
  readonly outcome: Outcome;
  /** As the dataset has it: in its scale. */
  readonly printed: number;
  readonly computed?: number;
  /** How many of the rows that it covers have an amount there. */
  readonly rows: number;
  /** Why it cannot be compared. */
  readonly because?: string;
}

const asMean = 'it stands between the least and the most of its rows, as a mean does';

/** A rounded column may be off by half a unit of its last digit for each row, but never by more than so many units. */
const mostRounding = 3;

/** A printed amount as a step kept it, with the cells that make it up: by their word sets and the rows that they stood in. */
export interface KeptAmount {
  readonly about: Pick<TieOut, 'step' | 'row' | 'page' | 'label' | 'column'>;
  readonly printed: number;
  readonly filled: readonly Filled[];
}

interface Filled {
  readonly origin: number;
  /** Number of the row in its book. */
  readonly row: number;
  readonly amount: number;
}

/** Every printed amount of the totals that steps kept, from the top. @param localeOf how the amounts were printed where a step kept totals */
export const keptAmounts = (layers: readonly Layer[], localeOf: (step: string) => LocaleName): KeptAmount[] =>
  layers.flatMap((layer) =>
    layer.held.kept === 'totals' && layer.held.rows.rows.length > 0
      ? ofLayer(layer, amountReader(localeOf(layer.id)))
      : [],
  );

/**
 * Compares every printed total that was kept with the rows that it covers, as they are in the end: cells are followed by their
 * words through every step between, whatever it did to their names, types, scale or place.
 * @param layers that may have held rows of the totals
 */
export function tieOuts(kept: readonly KeptAmount[], layers: readonly Layer[], final: Sheet): TieOut[] {
  if (kept.length === 0) return [];
  const cells = new FinalCells(final);
  const heldBy = holders(layers);
  return meansOrSums(
    kept.map((each) => ({ ...each.about, rows: each.filled.length, ...compared(each, cells, heldBy) })),
  );
}

/**
 * Compares totals again after the steps over all reports. Where these made of their rows something that no total can be compared
 * with, such as sums over several reports, a total stands as it did before them.
 * @param own how each stood in its report, in their order
 * @returns the totals, and whether any stands as before
 */
export function tieOutsInTheEnd(
  kept: readonly KeptAmount[],
  own: readonly TieOut[],
  layers: readonly Layer[],
  final: Sheet,
): { ties: TieOut[]; someBefore: boolean } {
  const heldBy = holders(layers);
  let someBefore = false;
  const ties = tieOuts(kept, layers, final).map((tie, i) => {
    if (tie.outcome !== 'not comparable' || kept[i].filled.some(({ row }) => heldBy(row))) return tie;
    someBefore ||= own[i].outcome !== 'not comparable';
    return own[i];
  });
  return { ties, someBefore };
}

/** A column of which another total is the sum of its rows has no means: what stood between its rows is off. */
function meansOrSums(ties: readonly TieOut[]): TieOut[] {
  const keyOf = ({ step, column }: TieOut) => JSON.stringify([step, column]);
  const summed = new Set(
    ties.flatMap((tie) => (tie.outcome === 'equal' && tie.rows > 1 && tie.printed !== 0 ? [keyOf(tie)] : [])),
  );
  return ties.map(({ because, ...tie }) =>
    because === undefined
      ? tie
      : because === asMean && summed.has(keyOf(tie))
        ? { ...tie, outcome: 'off' }
        : { ...tie, because },
  );
}

function ofLayer({ id, held, sheet }: Layer, read: AmountReader): KeptAmount[] {
  const { rows: totals, covers = [] } = held;
  const placeOf = new Map<number, number>();
  sheet.rows.numbers.forEach((number, place) => placeOf.set(number, place));
  const columnsAbove = new Map(sheet.columns.map((column) => [column.name, column]));
  return totals.rows
    .map((row) => row)
    .flatMap((row) => {
      const places = (covers[row]?.rows ?? []).flatMap((number) => placeOf.get(number) ?? []);
      const amounts = totals.columns.map((column) => amountIn(column.cells[row], read));
      const texts = totals.columns.flatMap((column, c) =>
        amounts[c] === undefined && !isBlank(column.cells[row]) ? [cellText(column.cells[row])] : [],
      );
      // “Saltby” says nothing beside “Total Saltby”.
      const label = texts
        .filter((text, i) => !texts.some((other, j) => i !== j && other.includes(text) && (other !== text || j < i)))
        .join(' ');
      const about = { step: id, row: totals.rows.id(row), page: totals.rows.page(row), label };
      return totals.columns.flatMap((column, c): KeptAmount[] => {
        const printed = amounts[c];
        const above = columnsAbove.get(column.name);
        if (printed === undefined || !above || places.length === 0) return [];
        const filled = places.flatMap((place) => {
          const amount = amountIn(above.cells[place], read);
          return amount === undefined ? [] : [{ origin: above.origins[place], row: sheet.rows.numbers[place], amount }];
        });
        // A number that counts the rows, or stands in a column of texts, is no total of anything.
        if (filled.length === 0) return [];
        return [{ about: { ...about, column: column.name }, printed, filled }];
      });
    });
}

type HeldBy = (number: number) => Layer | undefined;

/** Which layer held a row, by the number of the row as it was taken; looked through once it is asked. */
function holders(layers: readonly Layer[]): HeldBy {
  let known: Map<number, Layer> | undefined;
  const all = () => {
    const found = new Map<number, Layer>();
    for (const layer of layers)
      for (const number of layer.held.rows.rows.numbers)
        for (const own of [number, ...layer.held.rows.rows.book.sources(number)])
          if (!found.has(own)) found.set(own, layer);
    return found;
  };
  return (number) => (known ??= all()).get(number);
}

function compared(
  { printed, filled }: KeptAmount,
  cells: FinalCells,
  heldBy: HeldBy,
): Pick<TieOut, 'outcome' | 'printed' | 'computed' | 'because'> {
  const not = (because: string) => ({ outcome: 'not comparable' as const, printed, because });
  const found = new Map<number, { value: number; members: number }>();
  const powers = new Map<number, number>();
  let missing: Filled | undefined;
  let lost = 0;
  for (const each of filled) {
    const at = cells.cellOf(each.origin);
    if (at === undefined) {
      missing ??= each;
      lost++;
      continue;
    }
    const cell = cells.valueAt(at);
    if (isError(cell)) return not(`“${cell.text}” is a misfit`);
    if (typeof cell !== 'number') return not(`“${cells.nameAt(at)}” holds texts in the end`);
    const before = found.get(at);
    found.set(at, { value: cell, members: (before?.members ?? 0) + 1 });
    if (!before && cell !== 0 && each.amount !== 0) {
      const power = powerOfTen(cell / each.amount);
      if (power !== undefined) powers.set(power, (powers.get(power) ?? 0) + 1);
    }
  }
  if (missing) {
    const holder = heldBy(missing.row);
    return not(
      holder
        ? `${lost} of its ${filled.length} rows ${lost === 1 ? 'was' : 'were'} held by “${holder.title}”`
        : `${lost} of its ${filled.length} amounts ${lost === 1 ? 'is' : 'are'} not in the dataset`,
    );
  }
  for (const [at, { members }] of found)
    if (members < cells.membersAt(at)) return not(`“${cells.nameAt(at)}” holds amounts of other rows as well`);
  const [power = 0] = [...powers].sort((a, b) => b[1] - a[1])[0] ?? [];
  const values = [...found.values()].map(({ value }) => value);
  const wanted = power === 0 ? printed : Number(`${plainNumber(printed)}e${power}`);
  const computed = exactSum(values);
  if (computed === wanted) return { outcome: 'equal', printed: wanted, computed };
  // A mean price or a share stands between those that it is of; a sum of several never does, but for amounts below zero.
  if (
    values.length > 1 &&
    wanted >= Math.min(...values) &&
    wanted <= Math.max(...values) &&
    values.every((value) => value >= 0)
  )
    return { ...not(asMean), computed };
  const digits = Math.max(0, ...values.map(fractionDigits));
  const unit = 10 ** -digits;
  const rounding =
    digits > 0 || power > 0
      ? Math.min(0.5 * filled.length, mostRounding) *
        (power > 0 && digits === 0
          ? 10 ** power * 10 ** -Math.max(0, ...filled.map(({ amount }) => fractionDigits(amount)))
          : unit)
      : 0;
  return {
    outcome: Math.abs(exactSum([computed, -wanted])) <= rounding * (1 + 1e-9) ? 'within rounding' : 'off',
    printed: wanted,
    computed,
  };
}

/** The power of ten that a number is; undefined where it is none. */
function powerOfTen(ratio: number): number | undefined {
  if (!(ratio > 0)) return undefined;
  const power = Math.round(Math.log10(ratio));
  return Math.abs(ratio / 10 ** power - 1) < 1e-9 ? power : undefined;
}

/** The cells of the last sheet by the words that they come from. */
class FinalCells {
  /** By id of a set of words: the cell that holds it, from 1; 0: none; below 0: several. */
  private readonly at: Int32Array;
  /** Cells that hold several sets of words: how many. */
  private readonly members = new Map<number, number>();

  constructor(private readonly sheet: Sheet) {
    const { origins } = sheet.rows.book;
    this.at = new Int32Array(origins.size);
    const count = sheet.rows.length;
    sheet.columns.forEach((column, c) => {
      for (let row = 0; row < count; row++) {
        const id = column.origins[row];
        if (id < 0 || isBlank(column.cells[row])) continue;
        const cell = c * count + row;
        this.put(id, cell);
        const own = origins.members(id);
        if (own.length < 2) continue;
        this.members.set(cell, own.length);
        for (const member of own) this.put(member, cell);
      }
    });
  }

  private put(id: number, cell: number) {
    const known = this.at[id];
    // A number is what a total is compared with: it stands before texts of the same words.
    if (known === 0 || typeof this.valueAt(known - 1) !== 'number') this.at[id] = cell + 1;
  }

  /** The cell that holds these words. */
  cellOf = (id: number): number | undefined => (id < 0 || this.at[id] === 0 ? undefined : this.at[id] - 1);
  valueAt = (cell: number): Cell => this.sheet.columns[this.columnAt(cell)].cells[cell % this.sheet.rows.length];
  nameAt = (cell: number): string => this.sheet.columns[this.columnAt(cell)].name;
  /** How many sets of words a cell holds. */
  membersAt = (cell: number): number => this.members.get(cell) ?? 1;
  private columnAt = (cell: number): number => Math.floor(cell / this.sheet.rows.length);
}
