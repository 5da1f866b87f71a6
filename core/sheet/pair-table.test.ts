import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PairTable } from './pair-table';

describe('a table of pairs', () => {
  it('knows each pair by one id, in the order first seen', () => {
    const number = fc.integer({ min: -40, max: 40 });
    fc.assert(
      fc.property(fc.array(fc.tuple(number, number), { maxLength: 3000 }), (pairs) => {
        const table = new PairTable();
        const known = new Map<string, number>();
        for (const [left, right] of pairs) {
          const id = table.id(left, right);
          if (!known.has(`${left} ${right}`)) known.set(`${left} ${right}`, known.size);
          expect(id).toBe(known.get(`${left} ${right}`));
          expect([table.left(id), table.right(id)]).toEqual([left, right]);
        }
        expect(table.size).toBe(known.size);
      }),
    );
  });

  it('grows beyond its first places', () => {
    const table = new PairTable();
    for (let n = 0; n < 50_000; n++) expect(table.id(n, n * 7)).toBe(n);
    expect(table.id(31, 217)).toBe(31);
  });
});
