import type { Sheet } from '../sheet/sheet';
import { baseName } from '../values/file-name';
import { everyPart, type ReportField } from './ast';
import type { FormulaRows } from './formula';
import { isFault, parseFormula } from './parse';

/** What formulas ask of the paper of a report. */
export interface FormulaPaper {
  /** Path of the report below the folder. */
  readonly path: string;
  title(table: string): { readonly text: string } | undefined;
}

/** The rows of a sheet as formulas ask for them. @param papers the paper of a report by its key */
export function formulaRows({ columns, rows }: Sheet, papers: (report: string) => FormulaPaper): FormulaRows {
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
          return baseName(papers(rows.report(row)).path);
        case 'table title':
          return papers(rows.report(row)).title(rows.table(row))?.text ?? null;
      }
    },
  };
}

/** What formulas ask of the report, and whether they look at other rows, as far as they can be read. */
export function askedBy(texts: readonly string[]): {
  readonly fields: ReadonlySet<ReportField>;
  readonly looksAround: boolean;
} {
  const parts = texts.flatMap((text) => {
    const expression = parseFormula(text);
    return isFault(expression) ? [] : [...everyPart(expression)];
  });
  return {
    fields: new Set(parts.flatMap((part) => (part.kind === 'report' ? [part.field] : []))),
    looksAround: parts.some((part) => part.kind === 'call' && part.over !== undefined),
  };
}
