import { filledColumns } from '../sheet/sheet';
import { plural, tablesOf } from './sheets-seen';
import type { Detector } from './suggestion';

/** Rows in which nothing is printed. */
export const blankRows: Detector = ({ reports }) => {
  const blank = reports.reduce((sum, report) => sum + tablesOf(report).reduce((count, table) => count + table.rows.map((row) => filledColumns(table, row).length).filter((filled) => filled === 0).length, 0), 0);
  return blank === 0 ? [] : [{ zone: 'eachTable', kind: 'drop blank rows', settings: { columns: { by: 'all' } }, reason: `${plural(blank, 'row is', 'rows are')} blank throughout` }];
};
