import { cellText, isBlank } from '../values/cell';
import { looksNumeric } from '../reading/numeric';
import type { Column } from '../sheet/column';
import type { Sheet } from '../sheet/sheet';
import { plural, reportSheet } from './sheets-seen';
import type { Detector, SeenReport } from './suggestion';

/**
 * Rows that stand among the totals at the end and are no rows of data: tax and what else is put on a sum, which lack what every other
 * row has, and shares of a total, which are percentages under amounts.
 */
export const restRows: Detector = ({ reports }) => {
  const seen = reports.map((report) => ({ sheet: reportSheet(report), rest: restOf(report) })).filter(({ sheet }) => sheet.rows.length > 0);
  const having = seen.filter(({ rest }) => rest.length > 0);
  if (having.length === 0 || having.length * 2 < seen.length) return [];
  const count = having.reduce((sum, { rest }) => sum + rest.length, 0);
  const { columns } = having[0].sheet;
  const named = (sheet: Sheet, name: string) => sheet.columns.find((column) => column.name === name);
  // In all reports blank in these rows and nowhere else.
  const lacking = columns.map(({ name }) => name).find((name) => seen.every(({ sheet, rest }) => isThere(named(sheet, name), (column) => column.cells.every((cell, row) => isBlank(cell) === rest.includes(row)))));
  const example = columns.map(({ cells }) => cellText(cells[having[0].rest[0]])).find((text) => /\p{L}/u.test(text)) ?? '';
  const rows = plural(count, 'row stands', 'rows stand');
  if (lacking !== undefined) return [{ zone: 'eachReport', kind: 'sift rows', settings: { conditions: [{ of: { is: 'column', name: lacking }, test: 'is blank' }] }, name: 'Hold what stands among the totals', reason: `${rows} among the totals and ${count === 1 ? 'has' : 'have'} no “${lacking}”, such as “${example}”` }];
  const shares = columns.map(({ name }) => name).find((name) => having.every(({ sheet, rest }) => isThere(named(sheet, name), ({ cells }) => rest.every((row) => /\p{L}/u.test(cellText(cells[row]))))));
  if (shares === undefined || !having.every(({ sheet, rest }) => rest.every((row) => isShare(sheet, row, rest)))) return [];
  const values = [...new Set(having.flatMap(({ sheet, rest }) => rest.map((row) => cellText(named(sheet, shares)!.cells[row]))))];
  const others = new Set(seen.flatMap(({ sheet, rest }) => sheet.rows.map((row) => row).filter((row) => !rest.includes(row)).map((row) => cellText(named(sheet, shares)?.cells[row] ?? null))));
  if (values.some((value) => others.has(value))) return [];
  return [{ zone: 'eachReport', kind: 'sift rows', settings: { conditions: [{ of: { is: 'column', name: shares }, test: 'is one of', values }] }, name: 'Hold shares of the totals', reason: `${rows} among the totals with percentages under amounts, such as “${example}”` }];
};

const isThere = (column: Column | undefined, test: (column: Column) => boolean): boolean => column !== undefined && test(column);

/** The rows at the end of a report below a total that was held: places in its sheet. */
function restOf(report: SeenReport): number[] {
  const { rows } = reportSheet(report);
  const totals = report.carried.layers.flatMap(({ held }) => (held.kept === 'totals' ? held.rows.rows.map((row) => held.rows.rows.id(row)) : []));
  const first = new Map<string, number>();
  for (const { table, ordinal } of totals) first.set(table, Math.min(first.get(table) ?? Infinity, ordinal));
  const below = rows.map((row) => row).filter((row) => rows.id(row).ordinal > (first.get(rows.table(row)) ?? Infinity));
  // Sections below a total have rows of data under it, too: only the very end is meant.
  const table = rows.length === 0 ? '' : rows.table(rows.length - 1);
  const last = Math.max(...totals.filter((each) => each.table === table).map(({ ordinal }) => ordinal), -1);
  const end = below.filter((row) => rows.table(row) === table);
  const before = rows.map((row) => row).filter((row) => rows.table(row) === table && rows.id(row).ordinal < (first.get(table) ?? Infinity)).length;
  return end.length > 0 && before > end.length && end.length <= mostRest && last >= 0 ? end : [];
}

/** So many rows stand among the totals at most: more are data. */
const mostRest = 3;

/** Are its amounts percentages, where those of the other rows are none? */
function isShare({ columns }: Sheet, row: number, rest: readonly number[]): boolean {
  const amounts = columns.filter(({ cells }) => cells.some((cell, at) => !rest.includes(at) && !isBlank(cell) && looksNumeric(cellText(cell))));
  const isPercent = (text: string) => /[%‰]\s*$/.test(text);
  const own = amounts.filter(({ cells }) => isPercent(cellText(cells[row])));
  return own.length > 0 && own.length * 2 >= amounts.length && own.every(({ cells }) => cells.every((cell, at) => rest.includes(at) || !isPercent(cellText(cell))));
}
