import { columnsUsedIn, everyPart, type ReportField } from '../formula/ast';
import { formulaOf, type Formula, type FormulaRows } from '../formula/formula';
import { isFault, parseFormula } from '../formula/parse';
import { columnNamed, missingColumn } from '../sheet/column';
import type { Problem } from '../sheet/problem';
import type { Sheet } from '../sheet/sheet';
import { baseName } from '../values/file-name';
import type { Papers } from './step';

/** The rows of a sheet as formulas ask for them. @param papers left out: what only the paper tells is blank */
export function formulaRows({ columns, rows }: Sheet, papers?: Papers): FormulaRows {
  let numbers: number[] | undefined;
  /** The number of each row in its report, from 1. */
  const numbered = (): number[] => {
    const counts = new Map<string, number>();
    return rows.map((row) => {
      const report = rows.report(row);
      const count = (counts.get(report) ?? 0) + 1;
      counts.set(report, count);
      return count;
    });
  };
  return {
    length: rows.length,
    columns,
    reportOf: rows.report,
    report(field, row) {
      switch (field) {
        case 'page':
          return rows.page(row);
        case 'row':
          return (numbers ??= numbered())[row];
        case 'file name':
          return papers ? baseName(papers(rows.report(row)).path) : null;
        case 'table title':
          return papers?.(rows.report(row)).title(rows.table(row))?.text ?? null;
      }
    },
  };
}

/** A formula over the columns of a sheet, or the problem that keeps it from being worked out. */
export function formulaFor(sheet: Sheet, text: string): Formula | Problem {
  const expression = parseFormula(text);
  const gone = isFault(expression) ? undefined : columnsUsedIn(expression).find((name) => !columnNamed(sheet, name));
  if (gone !== undefined) return missingColumn(sheet, gone);
  const formula = formulaOf(text, sheet.columns);
  return isFault(formula) ? { kind: 'step', expected: 'a formula that can be worked out', came: text.trim() === '' ? 'none' : `“${text}”`, remedy: formula.says } : formula;
}

export const isFormula = (of: Formula | Problem): of is Formula => 'over' in of;

/** What formulas ask of the report, and whether they look at other rows, as far as they can be read. */
export function askedBy(texts: readonly string[]): { readonly fields: ReadonlySet<ReportField>; readonly looksAround: boolean } {
  const parts = texts.flatMap((text) => {
    const expression = parseFormula(text);
    return isFault(expression) ? [] : [...everyPart(expression)];
  });
  return { fields: new Set(parts.flatMap((part) => (part.kind === 'report' ? [part.field] : []))), looksAround: parts.some((part) => part.kind === 'call' && part.over !== undefined) };
}
