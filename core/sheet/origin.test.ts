// Against sets of words that are written out.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nowhere, Origins, placesKey } from './origin';

/** The words behind a cell, each once, whatever the order of the places. */
const wordsAt = (origins: Origins, id: number) =>
  [
    ...new Set(
      origins.places(id).flatMap(({ report, page, words }) => words.map((word) => `${report} ${page} ${word}`)),
    ),
  ].sort();

interface Script {
  /** Cells of words on a page. */
  readonly cells: readonly { readonly report: string; readonly page: number; readonly words: readonly number[] }[];
  /** Each puts cells together, by places among all that were made so far. */
  readonly unions: readonly (readonly number[])[];
}
const words = fc.oneof(
  fc
    .tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 5 }))
    .map(([first, count]) => Array.from({ length: count }, (_, i) => first + i)),
  fc.uniqueArray(fc.integer({ min: 0, max: 40 }), { maxLength: 5 }),
);
const script: fc.Arbitrary<Script> = fc.record({
  cells: fc.array(fc.record({ report: fc.constantFrom('a', 'b'), page: fc.integer({ min: 1, max: 3 }), words }), {
    minLength: 1,
    maxLength: 8,
  }),
  unions: fc.array(fc.array(fc.nat(40), { maxLength: 6 }), { maxLength: 8 }),
});

/** Carries a script out, and says for each id the words that it must have. */
function carried({ cells, unions }: Script, many = false) {
  const origins = Origins.empty();
  const ids: number[] = [];
  const expected: string[][] = [];
  for (const { report, page, words: own } of cells) {
    ids.push(origins.intern(report, page, own));
    expected.push([...new Set(own.map((word) => `${report} ${page} ${word}`))].sort());
  }
  for (const union of unions) {
    const parts = union.map((at) => at % ids.length);
    ids.push(many ? origins.unionOfMany(parts.map((at) => ids[at])) : origins.union(parts.map((at) => ids[at])));
    expected.push([...new Set(parts.flatMap((at) => expected[at]))].sort());
  }
  return { origins, ids, expected };
}

describe('the words behind cells', () => {
  it('are those that were put in, also where cells became one, of one cell or of many', () => {
    fc.assert(
      fc.property(script, fc.boolean(), (asked, many) => {
        const { origins, ids, expected } = carried(asked, many);
        ids.forEach((id, i) => expect(wordsAt(origins, id)).toEqual(expected[i]));
      }),
      { numRuns: 300 },
    );
  });

  it('are one set for one set of words: what is put in again has the id that it had', () => {
    fc.assert(
      fc.property(script, (asked) => {
        const { origins, ids } = carried(asked);
        const before = origins.size;
        asked.cells.forEach(({ report, page, words: own }, i) =>
          expect(origins.intern(report, page, own)).toBe(ids[i]),
        );
        expect(origins.size).toBe(before);
      }),
    );
  });

  it('are nowhere where no word is, and a union with nowhere adds nothing', () => {
    const origins = Origins.empty();
    const id = origins.intern('a', 1, [3, 4]);
    expect([
      origins.intern('a', 1, []),
      origins.union([]),
      origins.union([nowhere, nowhere]),
      origins.unionOfMany([nowhere]),
    ]).toEqual([nowhere, nowhere, nowhere, nowhere]);
    expect([origins.union([nowhere, id, nowhere, id]), origins.unionOfMany([id, id, nowhere])]).toEqual([id, id]);
    expect([origins.places(nowhere), origins.places(999), origins.members(nowhere), origins.members(999)]).toEqual([
      [],
      [],
      [],
      [],
    ]);
  });

  it('hold in a book joined of several, with new ones beside them', () => {
    fc.assert(
      fc.property(
        fc.array(script, { minLength: 1, maxLength: 3 }),
        fc.array(fc.nat(60), { minLength: 1, maxLength: 5 }),
        (scripts, union) => {
          const books = scripts.map((each) => carried(each));
          const { origins, starts } = Origins.joined(books.map((book) => book.origins));
          const all = books.flatMap(({ ids, expected }, i) =>
            ids.map((id, n) => ({ id: id === nowhere ? nowhere : starts[i] + id, expected: expected[n] })),
          );
          for (const { id, expected } of all) expect(wordsAt(origins, id)).toEqual(expected);
          const parts = union.map((at) => all[at % all.length]);
          const made = origins.union(parts.map(({ id }) => id));
          expect(wordsAt(origins, made)).toEqual([...new Set(parts.flatMap(({ expected }) => expected))].sort());
          // Joined once more, nothing is lost.
          const again = Origins.joined([Origins.empty(), origins]);
          expect(wordsAt(again.origins, made === nowhere ? nowhere : again.starts[1] + made)).toEqual(
            wordsAt(origins, made),
          );
        },
      ),
    );
  });

  it('are made up of members that stand on one page each, and together are the whole', () => {
    fc.assert(
      fc.property(script, fc.boolean(), (asked, many) => {
        const { origins, ids, expected } = carried(asked, many);
        ids.forEach((id, i) => {
          const members = origins.members(id);
          expect(new Set(members).size).toBe(members.length);
          expect([...new Set(members.flatMap((each) => wordsAt(origins, each)))].sort()).toEqual(expected[i]);
        });
      }),
    );
  });

  it('have one text for the same words in any book', () => {
    const [one, other] = [Origins.empty(), Origins.empty()];
    other.intern('z', 9, [1]);
    const [a, b] = [one.intern('a', 2, [5, 6, 7]), other.intern('a', 2, [5, 6, 7])];
    expect(placesKey(one.places(a))).toBe(placesKey(other.places(b)));
    expect(placesKey(one.places(a))).not.toBe(placesKey(one.places(one.intern('a', 3, [5, 6, 7]))));
  });
});
