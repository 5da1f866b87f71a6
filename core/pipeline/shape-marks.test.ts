import { describe, expect, it } from 'vitest';
import { findTables } from '../reading/find-tables';
import { page, words } from '../testing/print';
import { carryReport } from './carry';
import { parsePipeline } from './document';
import { shapeMarks } from './shape-marks';

const document = (take: object, eachTable: object[], eachReport: object[] = []) =>
  parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'Marks', take: [take], eachTable, eachReport });
const carried = (pages: ReturnType<typeof page>[], of: ReturnType<typeof document>) =>
  carryReport(of, { key: 'r1', path: 'a.pdf', pages, tables: findTables(pages) });

describe('the marks of a split table', () => {
  const printed = page(
    words([
      'Quay        Boxes   Value',
      'Saltby         12   14.40',
      'Fairlead       48   62.40',
      'Cranes         61   18.80',
      'N5             21   95.60',
    ]),
  );
  const { layers } = carried(
    [printed],
    document({ name: 'T', heading: ['Quay'], least: 0.1 }, [
      { id: 'split', kind: 'split table', settings: { where: 'before rows that match', text: 'Cranes' } },
      { id: 'no', kind: 'number rows', settings: {} },
    ]),
  );

  it('are a line across the table above each row at which a part begins, and that row in the sheet', () => {
    const split = layers.find(({ id }) => id === 'split')!;
    expect(split.begins).toEqual([3]);
    const { splits, records } = shapeMarks(split, 'r1', printed);
    expect(records).toEqual([]);
    expect(splits).toHaveLength(1);
    const [[left, top, right, bottom]] = splits;
    const cranes = printed.words.find(({ text }) => text === 'Cranes')!;
    expect(top).toBe(bottom);
    expect(top).toBeLessThan(cranes.box[1]);
    expect(top).toBeGreaterThan(printed.words.find(({ text }) => text === 'Fairlead')!.box[3] - 3);
    expect([left < cranes.box[0], right > 160]).toEqual([true, true]);
  });

  it('are none of other steps, pages and reports', () => {
    expect(
      shapeMarks(
        layers.find(({ id }) => id === 'no')!,
        'r1',
        printed,
      ),
    ).toEqual({ splits: [], records: [] });
    const split = layers.find(({ id }) => id === 'split')!;
    expect(shapeMarks(split, 'r2', printed).splits).toEqual([]);
    expect(shapeMarks(split, 'r1', { ...printed, number: 2 }).splits).toEqual([]);
  });
});

describe('the marks of records', () => {
  it('are a box around the lines of each, one in each column of print that a record stands in', () => {
    const printed = page([
      ...words(['L-1 Orrin Vale', '14 Tarry Lane', 'L-2 Mira Quarr', '9 Net Street', 'L-3 Ada Fell']),
      ...words(['2 Quay Steps', 'L-4 Ivo Marr', '31 Beacon Road'], { left: 230, top: 105 }),
    ]);
    const records = {
      id: 'records',
      kind: 'lines to records',
      settings: {
        begins: 'where a line matches',
        text: 'L-*',
        fields: [
          { into: 'Name', line: 1 },
          { into: 'Street', line: 2 },
        ],
      },
    };
    const { layers, sheet } = carried(
      [printed],
      document({ name: 'Roll', of: 'whole page', reading: 'column after column' }, [], [records]),
    );
    expect(sheet.rows.length).toBe(4);
    const { records: boxes } = shapeMarks(
      layers.find(({ id }) => id === 'records')!,
      'r1',
      printed,
    );
    // The third begins in the first column and ends in the second.
    expect(boxes).toHaveLength(5);
    const inBox = ([left, top, right, bottom]: (typeof boxes)[number]) =>
      printed.words
        .filter(({ box }) => box[0] >= left && box[2] <= right && box[1] >= top && box[3] <= bottom)
        .map(({ text }) => text)
        .join(' ');
    expect(boxes.map(inBox)).toEqual([
      'L-1 Orrin Vale 14 Tarry Lane',
      'L-2 Mira Quarr 9 Net Street',
      '2 Quay Steps',
      'L-3 Ada Fell',
      'L-4 Ivo Marr 31 Beacon Road',
    ]);
  });
});
