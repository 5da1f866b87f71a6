import { describe, expect, it } from 'vitest';
import { findTables } from '../reading/find-tables';
import { plain } from '../testing/sheets';
import { page, words } from '../testing/print';
import { carryReport } from './carry';
import { parsePipeline, resultDependsOn } from './document';

const lines = [
  'Code      Crates     Grade     Weight     Price',
  'HK1           12         A      101.5      3.20',
  'SL2            8         B       33.0      4.10',
  'CD3           31         A      240.9      2.75',
];
const documentWith = (answers: object[], more: object = {}) =>
  parsePipeline({
    format: 'able-sieve/pipeline',
    version: 1,
    name: 'Answers',
    take: [{ name: 'T', heading: ['Code', 'Weight'] }],
    eachTable: [{ id: 'head', kind: 'promote header rows', settings: { rows: 1 } }],
    allReports: [
      {
        id: 'types',
        kind: 'set types',
        settings: { types: [{ columns: { by: 'names', names: ['Boxes'] }, type: 'integer' }] },
      },
    ],
    answers,
    ...more,
  });
const carried = (
  answers: object[],
  { path = 'week-9.pdf', period = '2025-W09' }: { path?: string; period?: string | null } = {},
) => {
  const pages = [page(words(lines))];
  return carryReport(documentWith(answers), { key: 'r1', path, period, pages, tables: findTables(pages) });
};
const headings = (answers: object[], at?: { path?: string; period?: string | null }) =>
  plain(carried(answers, at).sheet)[0];
const same = { what: 'new column', rule: 'T', column: 'Crates', decided: 'same as', other: 'Boxes' };

describe('an answer about a column', () => {
  it('gives it the name that it had, above all steps that know it so', () => {
    const { sheet, problems } = carried([{ ...same, from: '2025-W08' }]);
    expect(plain(sheet)).toEqual([
      ['Code', 'Boxes', 'Grade', 'Weight', 'Price'],
      ['HK1', 12, 'A', '101.5', '3.20'],
      ['SL2', 8, 'B', '33.0', '4.10'],
      ['CD3', 31, 'A', '240.9', '2.75'],
    ]);
    expect(problems).toEqual([]);
  });

  it('leaves it out, where it can still be looked at with its words', () => {
    const { sheet, layers } = carried([
      { ...same, reports: ['week-9.pdf'], only: true },
      { what: 'new column', rule: 'T', column: 'Grade', decided: 'leave out', from: '2025-W09' },
    ]);
    expect(sheet.columns.map(({ name }) => name)).toEqual(['Code', 'Boxes', 'Weight', 'Price']);
    const { leftOut } = layers.find(({ id }) => id === 'head')!;
    expect(plain(leftOut)).toEqual([['Grade'], ['A'], ['B'], ['A']]);
    expect(leftOut.rows.book.origins.places(leftOut.columns[0].origins[0])).toHaveLength(1);
  });

  it('puts swapped contents back', () => {
    const { sheet } = carried([
      { what: 'swapped', rule: 'T', column: 'Weight', decided: 'swap back', other: 'Price', reports: [], only: false },
    ]);
    expect(plain(sheet).slice(0, 2)).toEqual([
      ['Code', 'Crates', 'Grade', 'Price', 'Weight'],
      ['HK1', '12', 'A', '101.5', '3.20'],
    ]);
  });

  it('speaks for its reports and those of its periods, and for no others', () => {
    expect(headings([{ ...same, from: '2025-W10' }])).toContain('Crates');
    expect(headings([{ ...same, from: '2025-W09' }])).toContain('Boxes');
    expect(headings([{ ...same, from: '2025-W09' }], { period: null })).toContain('Crates');
    expect(headings([{ ...same, reports: ['week-9.pdf'], only: true }])).toContain('Boxes');
    expect(headings([{ ...same, reports: ['week-8.pdf'], only: true }])).toContain('Crates');
    expect(headings([same], { period: null })).toContain('Boxes');
    expect(headings([{ ...same, rule: 'Other' }])).toContain('Crates');
  });

  it('makes only those rows anew that it speaks for', () => {
    const facts = (period: string) => ({
      sha256: 'x',
      stages: { reading: 'r', steps: 's', values: 'v', formulas: 'f', checks: 'c' },
      path: 'a.pdf',
      period,
    });
    const [before, after] = [documentWith([]), documentWith([{ ...same, from: '2025-W09' }])];
    expect(resultDependsOn(after, facts('2025-W08'))).toBe(resultDependsOn(before, facts('2025-W08')));
    expect(resultDependsOn(after, facts('2025-W09'))).not.toBe(resultDependsOn(before, facts('2025-W09')));
    // What is as it is changes no rows.
    expect(resultDependsOn(documentWith([{ ...same, decided: 'as it is', other: undefined }]), facts('2025-W09'))).toBe(
      resultDependsOn(before, facts('2025-W09')),
    );
  });

  it('needs the other column where it names one', () =>
    expect(() => documentWith([{ ...same, other: undefined }])).toThrow('Say which column it is the same as'));
});
