import { stringify } from 'csv-stringify/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ValueType } from '../../core/sheet/column';
import { problemKey, rowsFrom } from './row-text';

const columns: { identifier: string; type: ValueType }[] = [
  { identifier: 'code', type: 'text' },
  { identifier: 'value', type: 'decimal' },
  { identifier: 'open', type: 'boolean' },
  { identifier: 'landed', type: 'date' },
];

/** As the database copies rows out: nothing for what is none, quotes where a text needs them or is empty. */
const copied = (rows: readonly (readonly (string | number | boolean | null)[])[]) =>
  new TextEncoder().encode(
    stringify(
      rows.map((row, at) => [1, at, 'week, "24".pdf', 2, ...row]),
      {
        quoted_match: /^$/,
        quoted_string: false,
        cast: {
          boolean: String,
          string: (text) => (text === '' ? { value: '""', quote: false, escape: '', quoted: false } : text),
        },
      },
    ),
  );

describe('rows as the database copies them out', () => {
  it('are the cells that went in, whatever their texts hold', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'é', '7', ',', '"', '\n', '\r', ' ', "'", '\\', '№') });
    const row = fc.tuple(
      fc.option(text),
      fc.option(fc.integer({ min: -1e9, max: 1e9 }).map((n) => n / 100)),
      fc.option(fc.boolean()),
      fc.option(fc.constantFrom('2025-06-09', '1899-12-31')),
    );
    fc.assert(
      fc.property(fc.array(row, { maxLength: 12 }), (rows) => {
        const read = rowsFrom({ csv: copied(rows), problems: [] }, columns);
        expect(read).toEqual(rows.map((cells) => ({ report: 'week, "24".pdf', page: 2, cells })));
      }),
    );
  });

  it('have their error cells where nothing stands, and nowhere else', () => {
    const rows = [
      ['HK1', null, true, null],
      ['SL2', 2.5, null, null],
    ] as const;
    const problem = { text: 'n/a', expected: 'a decimal number' };
    const read = rowsFrom(
      {
        csv: copied(rows),
        problems: [
          [problemKey(1, 0, 'value'), problem],
          [problemKey(1, 1, 'landed'), problem],
        ],
      },
      columns,
    );
    expect(read.map(({ cells }) => cells)).toEqual([
      ['HK1', problem, true, null],
      ['SL2', 2.5, null, problem],
    ]);
  });

  it('tell an empty text from none', () => {
    const csv = new TextEncoder().encode('1,0,a.pdf,2,"",,,\n1,1,a.pdf,2,,1,true,2025-06-09\n');
    expect(rowsFrom({ csv, problems: [] }, columns).map(({ cells }) => cells)).toEqual([
      ['', null, null, null],
      [null, 1, true, '2025-06-09'],
    ]);
  });
});
