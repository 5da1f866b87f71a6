import * as v from 'valibot';
import type { Cell } from '../values/cell';
import { columnNamed, freeNames, type Column } from '../sheet/column';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import type { Formula } from '../formula/formula';
import { formulaRows } from '../formula/sheet-rows';
import { formulaFor, isByRow, isFormula, needsOf } from './formula-rows';
import { rewritten } from './rewrite';
import { field, step, widget, type Overwritten, type Papers } from './step';

const computed = v.object({
  into: field(
    v.optional(v.string(), ''),
    'Into column',
    'A new one, or one that is there: its cells are written anew.',
  ),
  formula: field(
    widget(v.optional(v.string(), ''), { widget: 'formula' }),
    'Formula',
    'An expression of SQL: names of columns stand in double quotes, as "Value" / "Boxes".',
  ),
  unit: field(v.optional(v.string(), ''), 'Unit', 'Of the results, where they have one.'),
});

export const computeColumn = step({
  kind: 'compute column',
  title: 'Compute column',
  group: 'columns',
  help: 'Works a column out of others, row by row, by a formula in SQL. Numbers are exact; each result is traced to all cells that it is worked out of.',
  settings: { columns: field(v.optional(v.array(computed), []), 'Columns') },
  commutesWithAppend: ({ columns }) => isByRow(columns.map(({ formula }) => formula)),
  needs: ({ columns }) => needsOf(columns.map(({ formula }) => formula)),
  describe: ({ columns }) =>
    columns
      .map(
        ({ into, formula }) => `${into || '(no name yet)'} = ${formula.replace(/\s+/g, ' ').trim() || 'nothing yet'}`,
      )
      .join('; ') || 'no columns yet',
  run(sheet, { columns }, { papers }) {
    const problems: Problem[] = [];
    const overwritten: Overwritten[] = [];
    let now = sheet;
    for (const { into, formula: text, unit } of columns) {
      const formula = formulaFor(now, text);
      if (!isFormula(formula)) {
        problems.push(into === '' ? formula : { column: into, ...formula });
        continue;
      }
      const old = into === '' ? undefined : columnNamed(now, into);
      const made = results(now, formula, papers, old);
      const about = { type: formula.type, ...(unit === '' ? {} : { unit }) };
      if (!old)
        now = makeSheet(
          [...now.columns, { name: freeNames(now.columns)(into || 'Computed'), ...about, ...made }],
          now.rows,
        );
      else {
        overwritten.push(...(rewritten(now, [old], 'worked out', (_, row) => made.cells[row]).overwritten ?? []));
        const { unit: _, ...rest } = old;
        now = makeSheet(
          now.columns.map((column) => (column === old ? { ...rest, ...about, ...made } : column)),
          now.rows,
        );
      }
    }
    return { sheet: now, overwritten, problems };
  },
});

/** What a formula gives in each row, from the words of all columns that it uses, and of the one that it is written over: what was printed there must be found. */
function results(
  sheet: Sheet,
  formula: Formula,
  papers: Papers,
  old: Column | undefined,
): Pick<Column, 'cells' | 'origins'> {
  const result = formula.over(formulaRows(sheet, papers));
  const cells = sheet.rows.map((row): Cell => result(row));
  const used = [...new Set([...formula.uses.flatMap((name) => columnNamed(sheet, name) ?? []), ...(old ? [old] : [])])];
  const { origins } = sheet.rows.book;
  // A cell that stays what it was stays that of its own words.
  const from =
    used.length === 1
      ? used[0].origins
      : Int32Array.from(cells, (cell, row) =>
          used.length === 0
            ? nowhere
            : old && old.cells[row] === cell
              ? old.origins[row]
              : origins.union(used.map((column) => column.origins[row])),
        );
  return { cells, origins: from };
}
