import { describe, expect, it } from 'vitest';
import { findTables } from '../reading/find-tables';
import { page, words } from '../testing/print';
import { takeRule } from './take-rule';
import { takeTables, type ReportRead } from './take';
import * as v from 'valibot';

const upper = [
  'Harbour      Calls  Tonnes',
  'Saltby          12     340',
  'Fairlead       140   9,120',
  'Whin Cove        7     118',
];
const prose = [
  'The rows below were sent in after the closing date and are',
  'given here as the harbour masters wrote them, without any',
  'correction by the office, which has asked for all of the books.',
];
const lower = ['Tern Ness       33     870', 'Old Staithe     21     604', 'Long Strand      9     255'];
const headed = ['Vessel       Berth   Hours', ...lower];

const rule = (more: object = {}) =>
  v.parse(takeRule, { name: 'Landings', heading: ['Harbour', 'Calls', 'Tonnes'], ...more });

function report(below: readonly string[]): ReportRead {
  const pages = [page([...words(upper), ...words(prose, { top: 170 }), ...words(below, { top: 230 })])];
  return { key: 'r', path: 'r.pdf', pages, tables: findTables(pages) };
}

describe('a table that goes on in another found table', () => {
  it('is taken with a problem that names the other one, and is less sure', () => {
    const { taken, problems } = takeTables([rule()], report(lower));
    expect(taken[0].match.rest).toMatchObject({ place: 'below', page: 1 });
    expect(taken[0].match.sure).toBeLessThan(0.8);
    expect(problems.map(({ came }) => came)).toEqual([
      expect.stringContaining('another found table of the same columns below it, on page 1'),
    ]);
  });

  it('is whole again once it is joined, and says no more', () => {
    const { taken, problems } = takeTables([rule({ join: { place: 'below', tables: 1 } })], report(lower));
    expect(taken[0].match.rest).toBeUndefined();
    expect('table' in taken[0] && taken[0].table.pieces.flatMap(({ readings }) => readings[0].rows)).toHaveLength(7);
    expect(problems).toEqual([]);
  });

  it('is not told where the other one has headings of its own, or where another rule takes it', () => {
    expect(takeTables([rule()], report(headed)).taken[0].match.rest).toBeUndefined();
    const elsewhere = report(lower);
    const late = elsewhere.tables[1].pieces[0].readings[0].cells.slice(0, 3).map(({ text }) => text);
    const both = takeTables([rule(), rule({ name: 'Late', heading: late, least: 0.9 })], elsewhere);
    expect(both.taken.map(({ match }) => [match.rule, match.rest])).toEqual([
      ['Landings', undefined],
      ['Late', undefined],
    ]);
  });
});
