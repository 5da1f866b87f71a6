import { describe, expect, it } from 'vitest';
import type { PageContent } from '../page/page';
import { page, words } from '../testing/print';
import { findTables } from './find-tables';
import { neighbourhood } from './furniture';
import { TableFinder } from './table-finder';

const rows = (from: number) => [
  'Entry   Vessel          Tonnes',
  ...Array.from({ length: 30 }, (_, i) => `E${1000 + from + i}   Grey Gannet ${String((from + i) * 37).padStart(10)}`),
];

/** A listing over so many pages, its heading on each, with a running head that differs on left and right pages. */
const listing = (pages: number): PageContent[] =>
  Array.from({ length: pages }, (_, i) =>
    page(
      [
        ...words(
          [i % 2 ? 'Board of quays                       Sheet' : 'Register                             Sheet'],
          { top: 20 },
        ),
        ...words(rows(i * 30), { top: 70 }),
        ...words([`Page ${i + 1}`], { top: 800 }),
      ],
      { number: i + 1 },
    ),
  );

describe('finding tables while pages come in', () => {
  it('hands over the first page as soon as the few after it are there, and the one after it is read', () => {
    const finder = new TableFinder();
    const came = listing(9).map((each) => finder.add(each).map(({ page: { number } }) => number));
    expect(came.slice(0, neighbourhood + 1).flat()).toEqual([]);
    expect(came[neighbourhood + 1]).toEqual([1]);
    expect([...came.flat(), ...finder.end().map(({ page: { number } }) => number)]).toEqual([
      1, 2, 3, 4, 5, 6, 7, 8, 9,
    ]);
  });

  it('names for each piece the table that it belongs to, and finds what is found all at once', () => {
    const pages = listing(12);
    const finder = new TableFinder();
    const read = [...pages.flatMap((each) => finder.add(each)), ...finder.end()];
    expect(new Set(read.flatMap(({ tables }) => tables))).toEqual(new Set(['p1t1']));
    expect(finder.tables).toEqual(findTables(pages));
    expect(finder.tables[0].pieces).toHaveLength(12);
  });

  it('knows running heads that differ on left and right pages, and page numbers', () => {
    const [table] = findTables(listing(8));
    for (const piece of table.pieces)
      expect(piece.readings[0].cells.some((cell) => /Board|Register|Page/.test(cell.text))).toBe(false);
  });

  it('leaves a watermark out of the cells that it is printed across', () => {
    const marked = listing(5).map((each) => ({
      ...each,
      words: [
        ...each.words,
        { ...each.words[3], text: 'DRAFT', fontSize: 60, box: [120, 300, 320, 360] as const, baseline: 350 },
      ],
    }));
    for (const table of findTables(marked))
      for (const piece of table.pieces)
        expect(piece.readings[0].cells.some((cell) => cell.text.includes('DRAFT'))).toBe(false);
  });
});
