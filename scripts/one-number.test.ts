import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { tableSheet } from '../core/intake/table-sheet';
import { parsePipeline } from '../core/pipeline/document';
import { carryReport } from '../core/pipeline/carry';
import { findTables } from '../core/reading/find-tables';
import { RowBook } from '../core/sheet/row';
import { readPages } from '../server/pdf/read-pages';
import { importGraph } from './import-graph.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));

/** The files that the README tells a newcomer to read, in order. */
const wayOfANumber = [...readFileSync(join(root, 'README.md'), 'utf8').matchAll(/^\d\. \[`([^`]+)`\]/gm)].map(
  (match) => match[1],
);

describe('one printed number', () => {
  it('goes from paper to dataset through the eight files of the README, and back by its origin', async () => {
    expect(wayOfANumber).toHaveLength(8);
    // A refresh is really made of them: each is imported by what reads and carries a report, or by what publishes it.
    const made = await importGraph(['server/work/tasks/carry.ts', 'server/runs/refresh/refresh.ts']);
    expect(wayOfANumber.filter((file) => !(file in made))).toEqual([]);

    const file = join(root, 'demo/landing-sheets/week-24.pdf');
    const { pages } = await readPages(await readFile(file), 'week-24.pdf');
    const number = pages[1].words.findIndex((word) => /^\d+\.\d\d¹$/.test(word.text));
    const printed = pages[1].words[number].text;

    const tables = findTables(pages);
    const cell = tables[0].pieces[0].readings[0].cells.find((each) => each.words.includes(number))!;
    expect(cell.text).toBe(printed);

    const pipeline = parsePipeline(JSON.parse(await readFile(join(root, 'demo/landing-sheets.sieve.json'), 'utf8')));
    const { sheet, layers } = carryReport(pipeline, { key: '1', path: 'week-24.pdf', pages, tables });
    const { origins } = sheet.rows.book;
    const price = sheet.columns.find((column) => column.name === 'Price per kg')!;
    const row = sheet.rows.find((i) =>
      origins.places(price.origins[i]).some((place) => place.page === 2 && place.words.includes(number)),
    );
    expect(price.cells[row]).toBe(Number(printed.replace('¹', '')));
    expect(origins.places(price.origins[row])).toEqual([{ report: '1', page: 2, words: [number] }]);

    // The other way: every word of the taken table is in a cell of the dataset or in a row that a named step held.
    const kept = new Set(
      sheet.columns.flatMap((column) =>
        [...column.origins].flatMap((id) => origins.places(id).flatMap((p) => p.words.map((w) => `${p.page} ${w}`))),
      ),
    );
    for (const layer of layers)
      for (const column of [...layer.held.rows.columns, ...layer.leftOut.columns])
        for (const id of column.origins)
          for (const p of origins.places(id)) for (const w of p.words) kept.add(`${p.page} ${w}`);
    const lost = tables[0].pieces
      .flatMap((piece) => piece.readings[0].cells.flatMap((each) => each.words.map((w) => `${piece.page} ${w}`)))
      .filter((word) => !kept.has(word));
    expect(lost).toEqual([]);
    expect(tableSheet(tables[0], '1', new RowBook()).problems).toEqual([]);
  });
});
