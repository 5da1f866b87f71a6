// For tests: what a formula gives, as short as it can be said.
import type { ValueType } from '../sheet/column';
import type { Cell } from '../values/cell';
import { formulaOf, type FormulaRows } from '../formula/formula';
import { isFault } from '../formula/parse';

/** Columns by their names: the type, and the cells below each other. */
export interface Given {
  readonly [name: string]: readonly [ValueType, ...Cell[]];
}

/** The results of a formula over some columns; a misfit as its text with a question mark, a fault with an exclamation mark. */
export function results(
  text: string,
  given: Given = {},
  report: FormulaRows['report'] = () => null,
  reportOf: FormulaRows['reportOf'] = () => 'a',
): Cell[] | string {
  const columns = Object.entries(given).map(([name, [type, ...cells]]) => ({ name, type, cells }));
  const formula = formulaOf(text, columns);
  if (isFault(formula)) return `! ${formula.says}`;
  const result = formula.over({ length: columns[0]?.cells.length ?? 1, columns, report, reportOf });
  return (columns[0]?.cells ?? [null]).map((_, row) => {
    const cell = result(row);
    return cell !== null && typeof cell === 'object' ? `? ${cell.text}` : cell;
  });
}
