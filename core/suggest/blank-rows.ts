import { isBlankRow } from '../sheet/sheet';
import { plural, tablesOf } from './sheets-seen';
import type { Detector } from './suggestion';

/** Rows in which nothing is printed. */
export const blankRows: Detector = ({ reports }) => {
  const blank = reports.reduce(
    (sum, report) =>
      sum + tablesOf(report).reduce((count, table) => count + table.rows.count((row) => isBlankRow(table, row)), 0),
    0,
  );
  return blank === 0
    ? []
    : [
        {
          zone: 'eachTable',
          kind: 'drop blank rows',
          settings: { columns: { by: 'all' } },
          reason: `${plural(blank, 'row is', 'rows are')} blank throughout`,
        },
      ];
};
