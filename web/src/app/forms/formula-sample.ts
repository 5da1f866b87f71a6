import { everyPart, type Expression } from '../../../../core/formula/ast';
import { formulaOf, type Formula, type FormulaRows } from '../../../../core/formula/formula';
import { isFault } from '../../../../core/formula/parse';
import type { ValueType } from '../../../../core/sheet/column';
import type { Cell } from '../../../../core/values/cell';

/** Some rows above a step, on which a formula is tried while it is written. */
export interface FormulaSample {
  readonly file: string;
  readonly columns: readonly { readonly name: string; readonly type: ValueType }[];
  readonly rows: readonly { readonly label: string; readonly page: number; readonly cells: readonly Cell[] }[];
  /** The row that is looked at. */
  readonly chosen: number;
}

const mostParts = 10;

export function rowsOf({ columns, rows, file }: FormulaSample): FormulaRows {
  return {
    length: rows.length,
    columns: columns.map((column, at) => ({ ...column, cells: rows.map(({ cells }) => cells[at] ?? null) })),
    reportOf: () => '',
    report: (field, row) => (field === 'page' ? rows[row].page : field === 'row' ? row + 1 : field === 'file name' ? file : null),
  };
}

/** What a formula gives in each row of a sample. */
export const tried = (formula: Formula, sample: FormulaSample): readonly Cell[] => {
  const result = formula.over(rowsOf(sample));
  return sample.rows.map((_, row) => result(row));
};

const isPlain = ({ kind }: Expression): boolean => kind === 'number' || kind === 'text' || kind === 'null' || kind === 'boolean';

/** What the parts of a formula give in the row that is looked at, each as it is written, from the inside out. */
export function partsIn(text: string, formula: Formula, sample: FormulaSample): { readonly says: string; readonly cell: Cell }[] {
  const written = new Map<string, Expression>();
  for (const part of [...everyPart(formula.expression)].reverse()) if (part !== formula.expression && !isPlain(part)) written.set(text.slice(part.from, part.to).replace(/\s+/g, ' '), part);
  return [...written.keys()].slice(0, mostParts).flatMap((says) => {
    const own = formulaOf(says, sample.columns);
    return isFault(own) ? [] : [{ says, cell: own.over(rowsOf(sample))(sample.chosen) }];
  });
}

/** The sample with columns that formulas above work out. */
export function withComputed(sample: FormulaSample, computed: readonly Readonly<Record<string, unknown>>[]): FormulaSample {
  return computed.reduce<FormulaSample>((now, { into, formula: text }) => {
    const formula = typeof text === 'string' ? formulaOf(text, now.columns) : undefined;
    if (typeof into !== 'string' || into === '' || !formula || isFault(formula)) return now;
    const cells = tried(formula, now);
    const column = { name: into, type: formula.type };
    const at = now.columns.findIndex(({ name }) => name === into);
    const put = <Of>(all: readonly Of[], own: Of) => (at < 0 ? [...all, own] : all.map((each, i) => (i === at ? own : each)));
    return { ...now, columns: put(now.columns, column), rows: now.rows.map((row, i) => ({ ...row, cells: put(row.cells, cells[i]) })) };
  }, sample);
}
