import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { grouped, groupsOf } from './joined-rows';
import { NumberLists } from './number-lists';
import { Origins } from './origin';
import { RowBook } from './row';

const mark = { report: 'r1', table: 'p1t1', page: 1, role: 'body', indent: 0, bold: false, shaded: false } as const;

describe('lists of numbers', () => {
  it('are each what was written down, however many there are', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }), { maxLength: 400 }), { maxLength: 300 }),
        (all) => {
          const lists = new NumberLists();
          const places = all.map((list) => lists.add(list));
          expect(places.map((place) => [...lists.at(place)])).toEqual(all);
        },
      ),
      { numRuns: 30 },
    );
  });
});

describe('many rows that became one', () => {
  it('are known by it, once each, also where some were one before, and in a book joined of several', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.nat(30), { minLength: 1, maxLength: 12 }), { minLength: 1, maxLength: 6 }),
        (merges) => {
          const book = new RowBook();
          for (let n = 0; n <= 30; n++) book.add(mark, n);
          const known = new Map<number, Set<number>>(Array.from({ length: 31 }, (_, n) => [n, new Set([n])]));
          let before: number | undefined;
          for (const rows of merges) {
            // The one before goes in as well.
            const all = before === undefined ? rows : [...rows, before];
            const made = book.mergeMany(all);
            known.set(made, new Set(all.flatMap((row) => [...known.get(row)!])));
            before = made;
          }
          const { book: joined, renumbered } = RowBook.joined([new RowBook(), book]);
          for (const [number, rows] of known) {
            expect(new Set(book.sources(number))).toEqual(rows);
            expect(book.sources(number)).toHaveLength(rows.size);
            expect(joined.sources(renumbered[1].row(number)).map(joined.ordinal).sort()).toEqual(
              [...rows].map(String).map(Number).sort(),
            );
          }
        },
      ),
    );
  });

  it('bear the name of the first', () => {
    const book = new RowBook();
    const rows = [0, 1, 2, 3].map((n) => book.add({ ...mark, page: n }, n));
    expect(book.page(book.mergeMany([rows[2], rows[0], rows[1]]))).toBe(2);
  });
});

describe('the words behind many cells', () => {
  it('are those of each, once, also by ids that are unions themselves and in origins joined of several', () => {
    const origins = Origins.empty();
    const ids = Array.from({ length: 9 }, (_, n) => origins.intern('r1', 1 + (n % 3), [n]));
    const pair = origins.union([ids[0], ids[1]]);
    const many = origins.unionOfMany([pair, ids[2], -1, ids[2], ids[3], ids[4]]);
    const words = (of: Origins, id: number) =>
      of
        .places(id)
        .flatMap(({ page, words: own }) => own.map((word) => `${page}:${word}`))
        .sort();
    expect(words(origins, many)).toEqual(['1:0', '1:3', '2:1', '2:4', '3:2']);
    expect([origins.unionOfMany([]), origins.unionOfMany([-1, ids[5], ids[5]])]).toEqual([-1, ids[5]]);
    const { origins: joined, starts } = Origins.joined([Origins.empty(), origins]);
    expect(words(joined, many + starts[1])).toEqual(words(origins, many));
  });
});

describe('rows in groups', () => {
  it('are those with the same texts in all columns, in the order in which they come first', () => {
    const cell = fc.constantFrom('a', 'b', null, 1, '1', true);
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { maxLength: 60 }), (rows) => {
        const columns = [0, 1].map((c) => ({ cells: rows.map((row) => row[c]) }));
        const keys = rows.map((row) => JSON.stringify(row.map((each) => (each === null ? '' : String(each)))));
        const wanted = [...new Set(keys)].map((key) => keys.flatMap((own, row) => (own === key ? [row] : [])));
        expect(grouped(columns, rows.length).places.map((places) => [...places])).toEqual(wanted);
        expect(groupsOf(columns, rows.length)).toHaveLength(rows.length);
      }),
    );
  });
});
