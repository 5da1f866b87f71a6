import { describe, expect, it } from 'vitest';
import { page, words } from '../testing/print';
import { findTables } from '../reading/find-tables';
import { parsePipeline } from './document';
import { carryReport } from './carry';
import { printedLine } from './printed-line';

describe('the printed line of a row', () => {
  const printed = page(
    words(
      [
        'Landings of 3 May',
        'Quay          Boxes     Weight',
        'Saltby           12      340.5',
        'Tern Point        7      118.0',
        'Marrow           31      902.5',
      ],
      { top: 80 },
    ),
  );
  const pages = new Map([[printed.number, printed]]);
  const carried = (eachReport: object[]) =>
    carryReport(
      parsePipeline({
        format: 'able-sieve/pipeline',
        version: 1,
        name: 'Lines',
        take: [{ name: 'All', heading: ['Quay', 'Boxes', 'Weight'] }],
        eachTable: [{ id: 'head', kind: 'promote header rows', settings: { rows: 1 } }],
        eachReport,
      }),
      { key: '1', path: 'a.pdf', pages: [printed], tables: findTables([printed]) },
    ).sheet;

  it('is that of most of its cells, counted from the top of the page', () => {
    const sheet = carried([]);
    expect(sheet.rows.map((row) => printedLine(sheet, row, pages))).toEqual([3, 4, 5]);
  });

  it('is not that of what is stamped from another line', () => {
    const sheet = carried([
      { id: 'stamp', kind: 'stamp', settings: { from: 'page text', template: 'Landings of {day}' } },
      { id: 'pick', kind: 'pick columns', settings: { columns: { by: 'names', names: ['day', 'Boxes'] } } },
    ]);
    expect(sheet.columns.map(({ name }) => name)).toEqual(['day', 'Boxes']);
    expect(sheet.rows.map((row) => printedLine(sheet, row, pages))).toEqual([3, 4, 5]);
  });

  it('is none where nothing of the row is printed on a page that is known', () => {
    const sheet = carried([]);
    expect(printedLine(sheet, 0, new Map())).toBeUndefined();
  });
});
