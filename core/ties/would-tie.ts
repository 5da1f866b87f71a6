import type { Layer } from '../pipeline/carry';
import { plainRows, type FoundTable } from '../reading/found-table';
import type { Place } from '../sheet/origin';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import { exactSum } from '../values/exact';
import type { LocaleName } from '../values/locale';
import { amountIn, amountReader, type AmountReader } from '../values/amounts';
import { decimalsOf, plainNumber } from '../values/plain-number';

/**
 * What would make a total tie out which is off: a row that was held, one of a table that no rule takes (or all rows of that), one that
 * is there and may be doubled, one whose text is no amount but nearly the one that lacks, or one in which a single digit may have been
 * read or printed wrong.
 */
export interface WouldTie {
  readonly kind: 'held' | 'not taken' | 'doubled' | 'misfit' | 'digit';
  /** Title of the step that held it. */
  readonly step?: string;
  readonly label: string;
  readonly amount: string;
  /** What would have to stand there instead. */
  readonly instead?: string;
  readonly page: number;
  /** Where the amount stands; empty where many together are meant. */
  readonly places: readonly Place[];
}

/** So many are told: where every second row would do, none of them says much. */
const most = 5;
const fewDigits = 2;

/**
 * Rows whose amount is just what a total is off by.
 * @param layers of one report, from the top
 * @param at the layer that kept the total
 * @param row of the total among those it kept
 * @param locale how amounts were printed there
 * @param notTaken tables found in the report that no rule takes
 */
export function wouldTie(
  layers: readonly Layer[],
  at: number,
  row: number,
  column: string,
  locale: LocaleName,
  notTaken: readonly FoundTable[] = [],
): WouldTie[] {
  const { held, sheet } = layers[at];
  const read = amountReader(locale);
  const printed = amountIn(held.rows.columns.find(({ name }) => name === column)?.cells[row] ?? null, read);
  const cells = sheet.columns.find(({ name }) => name === column)?.cells;
  if (printed === undefined || !cells) return [];
  const covered = new Set(held.covers?.[row]?.rows ?? []);
  const own = sheet.rows.map((place) => place).filter((place) => covered.has(sheet.rows.numbers[place]));
  const off = exactSum([
    printed,
    ...own.flatMap((place) => amountIn(cells[place], read) ?? []).map((amount) => -amount),
  ]);
  if (off === 0) return [];
  const { origins } = sheet.columns.find(({ name }) => name === column)!;
  const about = (place: number) => ({
    label: labelOf(sheet.columns, place, column),
    amount: cellText(cells[place]),
    page: sheet.rows.page(place),
    places: sheet.rows.book.origins.places(origins[place]),
  });
  const doubled = own
    .filter((place) => amountIn(cells[place], read) === -off)
    .map((place): WouldTie => ({ kind: 'doubled', ...about(place) }));
  // A step before may have known the column by another name, or by none: any amount of a held row will do.
  const kept = layers.flatMap(
    ({
      title,
      held: {
        kept: totals,
        rows: { columns, rows },
      },
    }) =>
      totals
        ? []
        : rows
            .map((place) => place)
            .flatMap((place): WouldTie[] => {
              const found = columns.find(({ cells: all }) => amountIn(all[place], read) === off);
              return found
                ? [
                    {
                      kind: 'held',
                      step: title,
                      label: labelOf(columns, place, found.name),
                      amount: cellText(found.cells[place]),
                      page: rows.page(place),
                      places: rows.book.origins.places(found.origins[place]),
                    },
                  ]
                : [];
            }),
  );
  const near = own.flatMap((place): WouldTie[] => {
    const cell = cells[place];
    if (isBlank(cell)) return [];
    const amount = amountIn(cell, read);
    if (amount === undefined)
      return amountIn(withDigits(cellText(cell)), read) === off
        ? [{ kind: 'misfit', ...about(place), instead: plainNumber(off) }]
        : [];
    const wanted = exactSum([amount, off]);
    return isOneDigitApart(amount, wanted, decimalsOf([printed]))
      ? [{ kind: 'digit', ...about(place), instead: plainNumber(wanted) }]
      : [];
  });
  const digits = near.filter(({ kind }) => kind === 'digit');
  const { report } = held.rows.rows.id(row);
  return [
    ...kept,
    ...notTaken.flatMap((table) => inTable(table, off, read, report)),
    ...doubled,
    ...near.filter(({ kind }) => kind === 'misfit'),
    ...(digits.length <= fewDigits ? digits : []),
  ].slice(0, most);
}

/** A row of a table that holds an amount, or a column whose amounts give it together. */
function inTable({ pieces }: FoundTable, off: number, read: AmountReader, report: string): WouldTie[] {
  const rows = pieces.flatMap((piece) => plainRows(piece.readings[0]).map((texts, row) => ({ texts, row, piece })));
  const amounts = rows.map(({ texts }) => texts.map((text) => amountIn(text, read)));
  const at = rows.findIndex((_, i) => amounts[i].includes(off));
  if (at >= 0) {
    const { texts, row, piece } = rows[at];
    const column = amounts[at].indexOf(off);
    const cell = piece.readings[0].cells.find((each) => each.row === row && each.column === column);
    return [
      {
        kind: 'not taken',
        label: texts
          .filter((text, c) => c !== column && text !== '')
          .slice(0, 3)
          .join(' · '),
        amount: texts[column],
        page: piece.page,
        places: cell ? [{ report, page: piece.page, words: cell.words }] : [],
      },
    ];
  }
  for (let column = 0; column < Math.max(...rows.map(({ texts }) => texts.length)); column++) {
    const own = amounts.flatMap((all) => all[column] ?? []);
    if (own.length > 1 && exactSum(own) === off)
      return [
        {
          kind: 'not taken',
          label: `all ${own.length} rows`,
          amount: plainNumber(off),
          page: rows[0].piece.page,
          places: [],
        },
      ];
  }
  return [];
}

/** A text with the letters that are taken for digits as such. */
const withDigits = (text: string): string =>
  text.replace(/[OoQ]/g, '0').replace(/[lI|]/g, '1').replace(/S/g, '5').replace(/B/g, '8').replace(/Z/g, '2');

function isOneDigitApart(a: number, b: number, decimals: number): boolean {
  const [left, right] = [a, b].map((amount) => amount.toFixed(decimals));
  return left.length === right.length && [...left].filter((sign, i) => sign !== right[i]).length === 1;
}

/** The first texts of a row beside a column. */
export const labelOf = (
  columns: readonly { readonly name: string; readonly cells: readonly Cell[] }[],
  row: number,
  but: string,
): string =>
  columns
    .flatMap(({ name, cells }) =>
      name === but || isBlank(cells[row]) || isError(cells[row]) ? [] : [cellText(cells[row])],
    )
    .slice(0, 3)
    .join(' · ');
