import { columnsUsedIn } from '../formula/ast';
import { formulaOf, type Formula } from '../formula/formula';
import { isFault, parseFormula } from '../formula/parse';
import { askedBy } from '../formula/sheet-rows';
import { columnNamed, missingColumn } from '../sheet/column';
import type { Problem } from '../sheet/problem';
import type { Sheet } from '../sheet/sheet';
import type { Need } from './step';

/** A formula over the columns of a sheet, or the problem that keeps it from being worked out. */
export function formulaFor(sheet: Sheet, text: string): Formula | Problem {
  const expression = parseFormula(text);
  const gone = isFault(expression) ? undefined : columnsUsedIn(expression).find((name) => !columnNamed(sheet, name));
  if (gone !== undefined) return missingColumn(sheet, gone);
  const formula = formulaOf(text, sheet.columns);
  return isFault(formula)
    ? {
        kind: 'step',
        expected: 'a formula that can be worked out',
        came: text.trim() === '' ? 'none' : `“${text}”`,
        remedy: formula.says,
      }
    : formula;
}

export const isFormula = (of: Formula | Problem): of is Formula => 'over' in of;

/** What a step with formulas needs beside the sheet. */
export function needsOf(texts: readonly string[]): Need[] {
  const { fields } = askedBy(texts);
  return [
    ...(fields.has('file name') ? (['file name'] as const) : []),
    ...(fields.has('table title') ? (['page text'] as const) : []),
  ];
}

/** Are formulas worked out row by row? Rows of a report are those of all its tables, so one that counts them, or looks at others, is not. */
export function isByRow(texts: readonly string[]): boolean {
  const { fields, looksAround } = askedBy(texts);
  return !looksAround && !fields.has('row');
}
