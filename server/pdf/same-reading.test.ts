import fc from 'fast-check';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { PageContent } from '../../core/page/page';
import { quarterTurn } from '../../core/page/turn';
import { findTables } from '../../core/reading/find-tables';
import { plainRows } from '../../core/reading/found-table';
import { moved, scaled } from '../../core/testing/print';
import { root } from '../testing/folders';
import { readPages } from './read-pages';

/** Pages of several writers and makes: rules, grids, boxes, shading, white space, wrapped text, two columns of prose. */
const files = [
  'report-latex',
  'groups-fop',
  'zebra-weasyprint',
  'plain-groff',
  'manual-weasyprint',
  'boxed-chromium',
  'article-latex',
  'report-line-printer',
  'tight-fop',
];
const printed = new Map<string, PageContent>();

beforeAll(async () => {
  for (const name of files) {
    const { pages } = await readPages(await readFile(join(root, 'bench/pages', `${name}.pdf`)), name);
    printed.set(name, pages[0]);
  }
});

const tablesOf = (page: PageContent) =>
  findTables([page]).map((table) => table.pieces.map((piece) => plainRows(piece.readings[0])));

describe.each(files)('the tables of %s', (name) => {
  it('stay the same when the page is moved on the paper', () => {
    const page = printed.get(name)!;
    const still = tablesOf(page);
    fc.assert(
      fc.property(
        fc.integer({ min: -30, max: 30 }),
        fc.integer({ min: -30, max: 30 }),
        (dx, dy) => void expect(tablesOf(moved(page, dx, dy))).toEqual(still),
      ),
      { numRuns: 4 },
    );
  });

  it('stay the same on larger and smaller paper', () => {
    const page = printed.get(name)!;
    const still = tablesOf(page);
    fc.assert(
      fc.property(
        fc.double({ min: 0.75, max: 1.6, noNaN: true }),
        (factor) => void expect(tablesOf(scaled(page, factor))).toEqual(still),
      ),
      { numRuns: 6 },
    );
  });

  it('stay the same when the page is printed on its side or upside down', () => {
    const page = printed.get(name)!;
    const still = tablesOf(page);
    let turned = page;
    for (let turn = 1; turn <= 3; turn++) {
      turned = quarterTurn(turned);
      expect(tablesOf(turned)).toEqual(still);
    }
  });

  it('do not depend on the order of words, rules and shading in the file', () => {
    const page = printed.get(name)!;
    const still = tablesOf({ ...page, tagged: undefined });
    const shuffledPage = fc.tuple(
      fc.shuffledSubarray([...page.words], { minLength: page.words.length }),
      fc.shuffledSubarray([...page.rules], { minLength: page.rules.length }),
      fc.shuffledSubarray([...page.fills], { minLength: page.fills.length }),
    );
    fc.assert(
      fc.property(
        shuffledPage,
        ([words, rules, fills]) =>
          void expect(tablesOf({ ...page, words, rules, fills, tagged: undefined })).toEqual(still),
      ),
      { numRuns: 4 },
    );
    expect(still.length).toBeGreaterThan(0);
  });
});
