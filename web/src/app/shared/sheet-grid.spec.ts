import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { NEVER, of, throwError } from 'rxjs';
import { SheetGrid, type GridCellPlace, type GridSource } from './sheet-grid';

globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
} as never;

@Component({ imports: [SheetGrid], template: `<sieve-grid [source]="source()" label="Sheet" [chosen]="chosen()" (choose)="chosen.set($event)" />` })
class Host {
  readonly source = signal<GridSource>({ rows: 0, columns: [], fetch: () => NEVER });
  readonly chosen = signal<GridCellPlace | undefined>(undefined);
}

describe('the sheet by windows', () => {
  async function show(source: GridSource) {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Host);
    fixture.componentInstance.source.set(source);
    await fixture.whenStable();
    const root = fixture.nativeElement as HTMLElement;
    return { fixture, root, cells: () => [...root.querySelectorAll('tbody tr:not(.space)')].map((row) => [...row.querySelectorAll('td')].map((cell) => cell.textContent!.trim())) };
  }
  const columns = [
    { name: 'Code', type: 'text' as const },
    { name: 'Value', type: 'decimal' as const, misfits: 1 },
  ];
  const rows = [
    { label: '2 · 1', cells: ['<img src=x onerror=alert(1)>', 1234.5] },
    { label: '2 · 2', cells: [null, { text: 'n/k', expected: 'a number' }] },
  ];

  it('shows text as text, numbers grouped, blanks as ticks and misfits with their reason', async () => {
    const { root, cells } = await show({ rows: 2, columns, fetch: () => of(rows) });
    expect(cells()).toEqual([['<img src=x onerror=alert(1)>', '1,234.5'], ['', 'n/k']]);
    expect(root.querySelector('img')).toBeNull();
    expect(root.querySelector('td.blank')!.textContent).toBe('');
    expect(root.querySelector<HTMLElement>('td.misfit')!.title).toBe('expected a number');
    expect([...root.querySelectorAll('thead th')].at(-1)!.textContent).toContain('decimal, 1 misfit');
  });

  it('moves from cell to cell by keyboard, not over the edge', async () => {
    const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
    const frame = root.querySelector('.frame')!;
    const press = async (key: string, ctrlKey = false) => {
      frame.dispatchEvent(new KeyboardEvent('keydown', { key, ctrlKey, bubbles: true }));
      await fixture.whenStable();
      return fixture.componentInstance.chosen();
    };
    expect(await press('ArrowDown')).toEqual({ row: 0, column: 0 });
    expect(await press('End', true)).toEqual({ row: 1, column: 1 });
    expect(await press('ArrowRight')).toEqual({ row: 1, column: 1 });
    expect(await press('Home')).toEqual({ row: 1, column: 0 });
  });

  it('says why rows did not come', async () => {
    const { root } = await show({ rows: 2, columns, fetch: () => throwError(() => new Error('The server does not answer.')) });
    expect(root.querySelector('[role=alert]')!.textContent).toContain('The server does not answer.');
  });
});
