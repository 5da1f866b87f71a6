import { describe, expect, it } from 'vitest';
import { likeliestTable, type FoundBrief } from './likeliest-table';

const table = (id: string, heading: string[], rows: number, columns = heading.length): FoundBrief => ({
  id,
  title: null,
  headingCells: heading,
  rows,
  columns,
});
const main = (id: string, rows = 40) => table(id, ['Code', 'Species', 'Value'], rows);
const notes = (id: string, rows = 4) => table(id, ['Note', 'Text'], rows);

describe('the likeliest table', () => {
  it('is the largest that most reports have, shown on the report that is asked for', () => {
    const reports = [[notes('a1'), main('a2')], [main('b1'), notes('b2')], [main('c1')], []];
    expect(likeliestTable(reports, 1)).toEqual({
      report: 1,
      table: main('b1'),
      columns: 3,
      reports: 3,
      of: 4,
      several: false,
    });
    // That report has none: another shows it.
    expect(likeliestTable(reports, 3)).toMatchObject({ report: 0, table: { id: 'a2' } });
  });

  it('is not one that only a single report has, however large it is', () => {
    expect(likeliestTable([[main('a'), table('once', ['X', 'Y'], 900)], [main('b')], [main('c')]])).toMatchObject({
      table: { id: 'a' },
      reports: 3,
    });
  });

  it('is known by its heading, figures in it aside', () => {
    const year = (n: number) => table(`y${n}`, ['Cargo', `Plan ${n}`, `Actual ${n}`], 10);
    expect(likeliestTable([[year(2021)], [year(2022)]])).toMatchObject({ reports: 2 });
  });

  it('is one also where reports call a column otherwise, have one more, or print no title', () => {
    const reports = [
      [table('a', ['Code', 'Species', 'Boxes', 'Value'], 20)],
      [table('b', ['Code', 'Species', 'No. of boxes', 'Value'], 20)],
      [table('c', ['Code', 'Species', 'Boxes', 'Value', 'Quota'], 20)],
      [notes('d')],
      [notes('e')],
    ];
    expect(likeliestTable(reports)).toMatchObject({ table: { id: 'a' }, reports: 3, of: 5 });
    expect(
      likeliestTable([[{ ...main('a'), title: 'Landings' }], [{ ...notes('b', 30), title: 'Landings' }], [notes('c')]]),
    ).toMatchObject({ reports: 2 });
  });

  it('is all of its kind where most reports have several, each under the same heading', () => {
    expect(
      likeliestTable([[main('a1', 20), main('a2'), notes('a3')], [main('b1'), main('b2')], [main('c1')]]),
    ).toMatchObject({ several: true, reports: 3, table: { id: 'a1' } });
    expect(likeliestTable([[main('a1'), main('a2')], [main('b1')], [main('c1')]])).toMatchObject({ several: false });
    expect(
      likeliestTable([
        [main('a1'), table('a2', ['Code', 'Species', 'Worth'], 9)],
        [main('b1'), table('b2', ['Code', 'Species', 'Worth'], 9)],
      ]),
    ).toMatchObject({ several: false });
  });

  it('is none where nothing with rows and columns was found', () => {
    expect(likeliestTable([])).toBeUndefined();
    expect(likeliestTable([[table('a', ['One'], 5)], [table('b', ['Code', 'Value'], 1)]])).toBeUndefined();
  });
});
