import { formulaOf, type Formula } from '../../../../core/formula/formula';
import { isFault } from '../../../../core/formula/parse';
import { partsIn, tried, withComputed, type FormulaSample } from './formula-sample';

const sample: FormulaSample = {
  file: 'week-24.pdf',
  columns: [{ name: 'Whole', type: 'decimal' }, { name: 'Price', type: 'decimal' }, { name: 'Code', type: 'text' }],
  rows: [
    { label: '2 · 6', page: 2, cells: [12, 2.5, 'BR1'] },
    { label: '2 · 7', page: 2, cells: [4, 0, 'CD1'] },
    { label: '3 · 1', page: 3, cells: [null, 3, null] },
  ],
  chosen: 0,
};
const formula = (text: string, of = sample): Formula => {
  const own = formulaOf(text, of.columns);
  if (isFault(own)) throw new Error(own.says);
  return own;
};

describe('a formula tried on the first rows', () => {
  it('gives what it gives in the sheet, a misfit with its reason among them', () => {
    expect(tried(formula('"Whole" / "Price"'), sample)).toEqual([4.8, { text: 'division by zero', expected: 'a result of "Whole" / "Price"' }, null]);
    expect(tried(formula('report."file name" || \' \' || report.page || \' \' || report.row'), sample)).toEqual(['week-24.pdf 2 1', 'week-24.pdf 2 2', 'week-24.pdf 3 3']);
  });

  it('tells what its parts give in the row that is looked at, each once, from the inside out', () => {
    const text = 'round("Whole" * "Price", 1) + "Whole"  *\n "Price" - 1';
    expect(partsIn(text, formula(text), sample)).toEqual([
      { says: '"Price"', cell: 2.5 },
      { says: '"Whole"', cell: 12 },
      { says: '"Whole" * "Price"', cell: 30 },
      { says: 'round("Whole" * "Price", 1)', cell: 30 },
      { says: 'round("Whole" * "Price", 1) + "Whole" * "Price"', cell: 60 },
    ]);
    expect(partsIn('"Whole" / "Price"', formula('"Whole" / "Price"'), { ...sample, chosen: 1 })).toEqual([{ says: '"Price"', cell: 0 }, { says: '"Whole"', cell: 4 }]);
  });

  it('may use what lines above it work out, a column written anew as it is then', () => {
    const next = withComputed(sample, [{ into: 'Value', formula: '"Whole" * "Price"' }, { into: 'Code', formula: 'lower("Code")' }, { into: '', formula: '1' }, { into: 'Broken', formula: '1 +' }]);
    expect(next.columns.map(({ name, type }) => [name, type])).toEqual([['Whole', 'decimal'], ['Price', 'decimal'], ['Code', 'text'], ['Value', 'decimal']]);
    expect(next.rows.map(({ cells }) => cells.slice(2))).toEqual([['br1', 30], ['cd1', 0], [null, null]]);
    expect(tried(formula('"Code" || "Value"', next), next)).toEqual(['br130', 'cd10', null]);
    // The sample that it was made of is what it was.
    expect(sample.columns).toHaveLength(3);
  });
});
