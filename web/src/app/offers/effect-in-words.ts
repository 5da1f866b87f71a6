import type { Proposal } from '../../../../server/contract/contract';
import { plural } from '../shared/words';

/** What a proposed step does to the reports looked at, in a sentence or two. */
export function effectInWords({ rowsIn, rowsOut, held, overwritten, columnsAdded, columnsLeft, misfits, reports }: Proposal['effect']): string {
  const made = columnsAdded.length <= 3 ? columnsAdded.map((name) => `“${name}”`).join(', ') : plural(columnsAdded.length, 'column');
  const says = [
    rowsOut > rowsIn && `makes ${rowsOut.toLocaleString('en')} rows of ${rowsIn.toLocaleString('en')}`,
    held > 0 && rowsOut <= rowsIn && `holds ${plural(held, 'row')}`,
    overwritten > 0 && `changes ${plural(overwritten, 'cell')}`,
    columnsAdded.length > 0 && `makes ${made}`,
    columnsLeft > 0 && `leaves ${columnsLeft === reports ? 'a column' : 'columns'} out`,
    misfits > 0 && `${plural(misfits, 'cell')} would be ${misfits === 1 ? 'a misfit' : 'misfits'}`,
  ].filter((each) => each !== false);
  const text = says.length === 0 ? 'sets types' : says.join(', ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}, in ${plural(reports, 'report')}.`;
}
