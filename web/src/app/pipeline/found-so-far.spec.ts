import { describe, expect, it } from 'vitest';
import type { FoundFacts, TableFacts } from '../../../../server/contract/contract';
import { withMore } from './found-so-far';

const table = (id: string, page: number, rows: number): TableFacts => ({ id, title: null, heading: 'Code Value', headingCells: ['Code', 'Value'], rows, columns: 2, pieces: [{ id: `p${page}t1`, page, box: [0, 0, 9, 9], readings: [] }] });
const found = (page: number, tables: TableFacts[]): FoundFacts => ({ pageCount: 9, pages: [{ number: page, label: null, width: 595, height: 842, ink: [], pictures: [], unread: [] }], tables });

describe('what was found so far', () => {
  it('grows by pages, and by the pieces of tables that go on overleaf', () => {
    const so = [found(1, [table('p1t1', 1, 40)]), found(2, [table('p1t1', 2, 12), table('p2t2', 2, 5)]), found(3, [])].reduce<FoundFacts | undefined>(withMore, undefined)!;
    expect(so.pages.map((page) => page.number)).toEqual([1, 2, 3]);
    expect(so.tables.map(({ id, rows, pieces }) => [id, rows, pieces.length])).toEqual([
      ['p1t1', 52, 2],
      ['p2t2', 5, 1],
    ]);
  });
});
