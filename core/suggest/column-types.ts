import { columnsWorkedOut } from '../pipeline/columns-worked-out';
import { locales } from '../values/locale';
import { withWorkedOut } from './type-rules';
import { plural } from './sheets-seen';
import type { Detector } from './suggestion';

/** What the columns that are still text are read as, over all reports. */
export const columnTypes: Detector = (seen) => {
  const locale = seen.locale();
  const sheets = seen.reports
    .filter(({ carried }) => carried.sheet.rows.length > 0)
    .map(({ read, carried }) => ({ key: read.key, sheet: carried.sheet, paper: carried.paper }));
  if (sheets.length === 0) return [];
  const worked = columnsWorkedOut(sheets, locales[locale]);
  const types = withWorkedOut([], worked).filter(({ type }) => type !== 'text');
  if (types.length === 0) return [];
  const misfits = worked
    .filter(({ format }) => format.type !== 'text')
    .reduce((sum, column) => sum + column.misfits, 0);
  const doubted = worked.filter(({ doubt }) => doubt);
  const look =
    doubted.length === 0 ? '' : `. Look at “${doubted.map(({ name }) => name).join('”, “')}”: ${doubted[0].doubt}`;
  const some = worked
    .filter(({ everywhere }) => !everywhere)
    .map(
      ({ name }) =>
        `“${name}” stands in ${sheets.filter(({ sheet }) => sheet.columns.some((column) => column.name === name)).length} of ${plural(sheets.length, 'report')} only`,
    );
  return [
    {
      zone: 'allReports',
      kind: 'set types',
      settings: { locale, types },
      reason: `${plural(types.length, 'column is', 'columns are')} more than text${misfits > 0 ? `, but for ${plural(misfits, 'cell')} that ${misfits === 1 ? 'does' : 'do'} not fit` : ''}${some.length > 0 ? `; ${some.slice(0, 3).join(', ')}` : ''}${look}`,
    },
  ];
};
