import { periodOf } from '../steps/stack-blocks';
import { isNamed, mostCommon, share, tablesOf } from './sheets-seen';
import type { Detector } from './suggestion';

/** One column that comes again is no block; and a block of one column would be amounts across. */
const fewestColumns = 2;

/** Halves of one table that are printed side by side: the same headings come again. */
export const blocksAside: Detector = ({ reports }) => {
  const tables = reports.flatMap(tablesOf).filter((table) => table.rows.length > 0 && isNamed(table));
  const periods = tables.map(({ columns }) => periodOf(columns));
  const period = mostCommon(periods) ?? 0;
  const alike = periods.filter((each) => each === period).length;
  if (period < fewestColumns || alike * 2 <= tables.length) return [];
  const { columns } = tables[periods.indexOf(period)];
  return [
    {
      zone: 'eachTable',
      kind: 'stack blocks',
      settings: { sides: { by: 'names', names: [] }, by: 'headings that come again', order: 'block by block' },
      name: 'Put halves under one another',
      reason: `in ${share(alike, tables.length, 'table')} the headings “${columns
        .slice(0, period)
        .map(({ name }) => name)
        .join('”, “')}” come again beside themselves`,
    },
  ];
};
