import { Subject, of, throwError, type Observable } from 'rxjs';
import { describe, expect, it } from 'vitest';
import { mostCopied, rangesAsText } from './grid-copy';
import type { GridRow, GridSource } from './grid-source';
import { GridWindows } from './grid-windows';

const rowAt = (at: number): GridRow => ({ label: String(at), cells: [at, `text ${at}`, null] });
const rows = (start: number, count: number, of_: number) => Array.from({ length: Math.max(0, Math.min(count, of_ - start)) }, (_, i) => rowAt(start + i));
function source(count: number, fetch: (start: number, count: number) => Observable<readonly GridRow[]> = (start, many) => of(rows(start, many, count))): GridSource {
  return { rows: count, columns: [{ name: 'N', type: 'integer' }, { name: 'Text\there', type: 'text' }, { name: 'Blank', type: 'text' }], fetch };
}

describe('rows fetched by windows', () => {
  it('are asked for once, and found by their place', () => {
    const asked: number[] = [];
    const windows = new GridWindows();
    const own = source(1000, (start, count) => {
      asked.push(start);
      return of(rows(start, count, 1000));
    });
    windows.fetch(own, 90, 130);
    windows.fetch(own, 95, 140);
    expect(asked).toEqual([0, 100]);
    expect([windows.row(99)?.label, windows.row(100)?.label, windows.row(200)]).toEqual(['99', '100', undefined]);
    expect(windows.first()[0].label).toBe('0');
  });

  it('are not waited for once they are out of sight', () => {
    const asked = new Map<number, Subject<readonly GridRow[]>>();
    const windows = new GridWindows();
    const own = source(10_000, (start) => {
      asked.set(start, new Subject());
      return asked.get(start)!;
    });
    windows.fetch(own, 0, 40);
    windows.fetch(own, 5000, 5040);
    expect(asked.get(0)!.observed).toBe(false);
    expect(asked.get(5000)!.observed).toBe(true);
    asked.get(0)!.next(rows(0, 100, 10_000));
    asked.get(5000)!.next(rows(5000, 100, 10_000));
    expect([windows.row(0), windows.row(5001)?.label]).toEqual([undefined, '5001']);
    windows.startAnew();
    expect([windows.row(5001), windows.first()]).toEqual([undefined, []]);
  });

  it('that could not be had say why', () => {
    const windows = new GridWindows();
    windows.fetch(source(10, () => throwError(() => new Error('The server does not answer.'))), 0, 10);
    expect(windows.failure()).toBe('The server does not answer.');
    windows.startAnew();
    expect(windows.failure()).toBeUndefined();
  });

  it('are let go of, those that came first, so that memory does not grow', () => {
    const windows = new GridWindows();
    const own = source(100_000);
    for (let first = 0; first < 100_000; first += 100) windows.fetch(own, first, first + 40);
    expect(windows.pages().size).toBeLessThan(50);
    expect([windows.row(99_950)?.label, windows.row(0)]).toEqual(['99950', undefined]);
    // What tells the widths of the columns is kept.
    expect(windows.first()[0].label).toBe('0');
  });
});

describe('cells put on the clipboard', () => {
  it('are lines of values parted by tabs, with headings where they are wanted', async () => {
    const copied = await rangesAsText(source(10), [{ rows: [1, 2], columns: [0, 1] }], true);
    expect(copied).toEqual({ text: 'N\tText here\n1\ttext 1\n2\ttext 2', rows: 2, more: false });
    expect((await rangesAsText(source(10), [{ rows: [9, 9], columns: [2, 2] }], false)).text).toBe('');
  });

  it('of several ranges stand at their places, with blanks between', async () => {
    const { text } = await rangesAsText(source(3000), [{ rows: [0, 0], columns: [0, 0] }, { rows: [2500, 2501], columns: [1, 1] }], false);
    expect(text.split('\n')).toEqual(['0\t', '\ttext 2500', '\ttext 2501']);
  });

  it('that are too many are cut, and that is said', async () => {
    const { text, rows: count, more } = await rangesAsText(source(mostCopied + 500), [{ rows: [0, mostCopied + 499], columns: [0, 0] }], false);
    expect([count, more, text.split('\n').length, text.split('\n').at(-1)]).toEqual([mostCopied, true, mostCopied, String(mostCopied - 1)]);
    expect((await rangesAsText(source(mostCopied), [{ rows: [0, mostCopied - 1], columns: [0, 0] }], false)).more).toBe(false);
  });
});
