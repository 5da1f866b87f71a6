import { describe, expect, it } from 'vitest';
import { paper } from '../testing/sheets';
import { printedFor } from './printed-for';
import type { Paper } from './step';

interface Said {
  readonly page: number;
  readonly box: readonly [number, number, number, number];
  readonly text: string;
}
const said = (page: number, top: number, text: string, left = 50): Said => ({
  page,
  box: [left, top, left + 80, top + 10],
  text,
});
const piece = (table: string, page: number, top: number, left = 50): Paper['pieces'][number] => ({
  table,
  page,
  box: [left, top, left + 200, top + 100],
});

function found(pieces: Paper['pieces'], printed: readonly Said[], pages = 4) {
  const of: Paper = { ...paper(), pages: Array.from({ length: pages }, (_, i) => i + 1), pieces };
  const looked: number[] = [];
  const nearest = printedFor(of, (page) => {
    looked.push(page);
    return printed.filter((each) => each.page === page);
  });
  return { for: (table: string, page: number) => nearest(table, page)?.text, looked };
}

describe('what is printed for a table', () => {
  it('is what its own page says, where every page is a form', () => {
    const forms = found(
      [piece('a', 1, 200), piece('b', 2, 200), piece('c', 3, 200)],
      [said(1, 100, 'IN-1'), said(2, 100, 'IN-2'), said(3, 100, 'IN-3')],
    );
    expect([forms.for('a', 1), forms.for('b', 2), forms.for('c', 3)]).toEqual(['IN-1', 'IN-2', 'IN-3']);
    // No page is searched twice.
    expect(new Set(forms.looked).size).toBe(forms.looked.length);
  });

  it('is the nearest above, where several forms stand on a page, or beside each other', () => {
    const forms = found(
      [piece('a', 1, 150), piece('b', 1, 450), piece('c', 1, 450, 350)],
      [said(1, 100, 'IN-1'), said(1, 400, 'IN-2'), said(1, 400, 'IN-3', 350)],
    );
    expect([forms.for('a', 1), forms.for('b', 1), forms.for('c', 1)]).toEqual(['IN-1', 'IN-2', 'IN-3']);
  });

  it('is that of the page where the table began, also where the next form begins under its end', () => {
    const forms = found(
      [piece('a', 1, 200), piece('a', 2, 50), piece('b', 2, 500)],
      [said(1, 100, 'IN-1'), said(2, 400, 'IN-2')],
    );
    expect([forms.for('a', 1), forms.for('a', 2), forms.for('b', 2)]).toEqual(['IN-1', 'IN-1', 'IN-2']);
  });

  it('is that of each page where a running head changes over one table', () => {
    const head = found([piece('a', 1, 200), piece('a', 2, 200)], [said(1, 30, 'Saltby'), said(2, 30, 'Old Lantern')]);
    expect([head.for('a', 1), head.for('a', 2)]).toEqual(['Saltby', 'Old Lantern']);
  });

  it('is the last before, where a page has none: the form goes on', () => {
    const forms = found(
      [piece('a', 1, 200), piece('b', 2, 100), piece('c', 3, 200), piece('d', 4, 100)],
      [said(1, 100, 'IN-1'), said(3, 100, 'IN-2')],
    );
    expect([forms.for('b', 2), forms.for('d', 4)]).toEqual(['IN-1', 'IN-2']);
    // The head of the next form below it is not its own.
    const next = found(
      [piece('a', 1, 200), piece('b', 2, 100), piece('c', 2, 500)],
      [said(1, 100, 'IN-1'), said(2, 400, 'IN-2')],
    );
    expect(next.for('b', 2)).toBe('IN-1');
  });

  it('is what stands under it, where the first stands under a table', () => {
    const signed = found(
      [piece('a', 1, 100), piece('b', 2, 100)],
      [said(1, 400, 'A. Quill'), said(2, 400, 'B. Marsh')],
    );
    expect([signed.for('a', 1), signed.for('b', 2)]).toEqual(['A. Quill', 'B. Marsh']);
  });

  it('is the only one there is, wherever it stands, and none where there is none', () => {
    const one = found([piece('a', 1, 100), piece('b', 4, 100)], [said(2, 300, 'Week 24')]);
    expect([one.for('a', 1), one.for('b', 4), one.for('drawn', 3)]).toEqual(['Week 24', 'Week 24', 'Week 24']);
    expect(found([piece('a', 1, 100)], []).for('a', 1)).toBeUndefined();
  });
});
