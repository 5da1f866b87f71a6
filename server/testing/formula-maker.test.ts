// Of random formulas: what is said of one before it runs is true of all its results.
import { describe, expect, it } from 'vitest';
import { columnsUsedIn } from '../../core/formula/ast';
import { formulaOf } from '../../core/formula/formula';
import { isFault, parseFormula } from '../../core/formula/parse';
import { printFormula } from '../../core/formula/print';
import { withColumns } from '../../core/formula/rename';
import type { ValueType } from '../../core/sheet/column';
import { isError, type Cell } from '../../core/values/cell';
import { random } from '../../demo/random';
import { cellOf, columns, FormulaMaker } from './formula-maker';

const draw = random(77);
const maker = new FormulaMaker(draw);
const rows = Array.from({ length: 8 }, () => columns.map(({ type }) => cellOf(draw, type)));
const sheet = {
  length: rows.length,
  columns: columns.map((column, c) => ({ ...column, cells: rows.map((row) => row[c]) })),
  report: () => null,
  reportOf: () => '',
};
const texts = Array.from({ length: 900 }, (_, n) => printFormula(maker.nth(n, 3)));

const holds: Readonly<Partial<Record<ValueType, (cell: Exclude<Cell, null>) => boolean>>> = {
  integer: (cell) => Number.isInteger(cell),
  decimal: (cell) =>
    typeof cell === 'number' && Number.isFinite(cell) && Number(cell.toPrecision(15)) === cell && !Object.is(cell, -0),
  date: (cell) => typeof cell === 'string' && /^\d{4}-\d\d-\d\d$/.test(cell),
  time: (cell) => typeof cell === 'string' && /^\d\d:\d\d:\d\d(?:\.\d+)?$/.test(cell),
  datetime: (cell) => typeof cell === 'string' && /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d(?:\.\d+)?$/.test(cell),
  boolean: (cell) => typeof cell === 'boolean',
  text: (cell) => typeof cell === 'string' && cell !== '',
};

describe('random formulas', () => {
  it('have results of the type that is said of them', () => {
    const wrong: string[] = [];
    const seen = new Set<ValueType>();
    for (const text of texts) {
      const formula = formulaOf(text, columns);
      if (isFault(formula)) throw new Error(`${text}: ${formula.says}`);
      seen.add(formula.type);
      const result = formula.over(sheet);
      for (let row = 0; row < sheet.length; row++) {
        const cell = result(row);
        if (cell !== null && !isError(cell) && !holds[formula.type]!(cell))
          wrong.push(`${text} is said to be ${formula.type}, and is ${JSON.stringify(cell)}`);
      }
    }
    expect(wrong).toEqual([]);
    expect([...seen].sort()).toEqual(['boolean', 'date', 'datetime', 'decimal', 'integer', 'text', 'time']);
  });

  it('hang on the columns that they are said to use, and on no others', () => {
    for (const text of texts.slice(0, 400)) {
      const formula = formulaOf(text, columns);
      if (isFault(formula)) throw new Error(formula.says);
      const others = {
        ...sheet,
        columns: sheet.columns.map((column) =>
          formula.uses.includes(column.name) ? column : { ...column, cells: column.cells.map(() => null) },
        ),
      };
      const [own, without] = [formula.over(sheet), formula.over(others)];
      for (let row = 0; row < sheet.length; row++) expect(without(row), text).toEqual(own(row));
    }
  });

  it('call columns otherwise and back again, and nothing else of them changes', () => {
    const names = new Map(columns.map(({ name }, i) => [name, `Ω "${i}"`]));
    const back = new Map([...names].map(([from, to]) => [to, from]));
    for (const text of texts) {
      const renamed = withColumns(text, (name) => names.get(name));
      const parsed = parseFormula(renamed);
      if (isFault(parsed)) throw new Error(`${renamed}: ${parsed.says}`);
      const original = parseFormula(text);
      if (isFault(original)) throw new Error(original.says);
      expect(columnsUsedIn(parsed)).toEqual(columnsUsedIn(original).map((name) => names.get(name)));
      expect(withColumns(renamed, (name) => back.get(name))).toBe(text);
    }
  });

  it('are printed with no more brackets than they need, and read again as they were', () => {
    for (const text of texts) {
      const parsed = parseFormula(text);
      if (isFault(parsed)) throw new Error(`${text}: ${parsed.says}`);
      expect(printFormula(parsed)).toBe(text);
      const inBrackets = parseFormula(`((${text}))`);
      expect(isFault(inBrackets) ? inBrackets.says : printFormula(inBrackets)).toBe(text);
    }
  });

  it('that are cut anywhere are refused at a place of theirs, and never fail otherwise', () => {
    for (const text of texts.slice(0, 150))
      for (let at = 0; at < text.length; at += 3) {
        const cut = text.slice(0, at);
        const parsed = parseFormula(cut);
        if (!isFault(parsed)) continue;
        expect(parsed.says.length, cut).toBeGreaterThan(10);
        expect(parsed.from >= 0 && parsed.from <= parsed.to && parsed.to <= cut.length + 1, cut).toBe(true);
      }
  });
});
