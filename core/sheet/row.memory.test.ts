// In a process of its own: what other tests leave behind would be collected while memory is counted.
import { describe, expect, it } from 'vitest';
import { RowBook, Rows, type RowMark } from './row';

const mark: RowMark = { report: 'r1', table: 'p1t1', page: 1, role: 'body', indent: 0, bold: false, shaded: false };

describe('rows by name', () => {
  it('cost at most 40 bytes each beside the cells', () => {
    const count = 1_000_000;
    const before = process.memoryUsage().arrayBuffers;
    const book = new RowBook();
    const rows = new Rows(
      book,
      Int32Array.from({ length: count }, (_, n) => book.add({ ...mark, page: 1 + (n >> 6) }, n)),
    );
    const bytes = process.memoryUsage().arrayBuffers - before;
    expect(rows.length).toBe(count);
    expect(bytes).toBeGreaterThan(count * 17);
    expect(bytes / count).toBeLessThanOrEqual(40);
  });
});
