import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { NEVER, of, throwError } from 'rxjs';
import type { PartOfText } from '../../../../server/contract/contract';
import { wordAround } from './grid-part';
import { SheetGrid, type GridCellPlace, type GridPreview, type GridSource } from './sheet-grid';

@Component({ imports: [SheetGrid], template: `<sieve-grid [source]="source()" label="Sheet" [chosen]="chosen()" (choose)="chosen.set($event)" (columnsSelected)="whole.set($event)" [menuOf]="menuOf" [keptAs]="keptAs()" [preview]="preview()" [asks]="true" [(edge)]="edge" (part)="parts.push($event)" />` })
class Host {
  readonly source = signal<GridSource>({ rows: 0, columns: [], fetch: () => NEVER });
  readonly chosen = signal<GridCellPlace | undefined>(undefined);
  readonly whole = signal<readonly number[]>([]);
  readonly keptAs = signal('');
  readonly preview = signal<GridPreview | undefined>(undefined);
  readonly edge = signal<number | undefined>(undefined);
  readonly parts: (PartOfText | undefined)[] = [];
  readonly asked: (readonly number[])[] = [];
  readonly menuOf = (columns: readonly number[]) => (this.asked.push(columns), [{ label: 'Add', items: [{ label: 'Turn into rows' }] }]);
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

  it('shows what a step would do: what goes, and the new beside the old where a cell would read otherwise', async () => {
    const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
    fixture.componentInstance.preview.set({ held: new Set([1]), changed: new Map([['0 0', 'Hake'], ['0 1', '1,234.5']]), leftOut: new Set() });
    await fixture.whenStable();
    const [first, second] = [...root.querySelectorAll('tbody tr:not(.space)')].map((row) => [...row.querySelectorAll('td')]);
    expect(first.map((cell) => [cell.className.includes('changing'), cell.dataset['becomes']])).toEqual([[true, 'Hake'], [true, undefined]]);
    expect(second.every((cell) => cell.className.includes('going'))).toBe(true);
  });

  it('opens the text of a cell, of which a part is selected, and gives back the keys by Escape', async () => {
    const { fixture, root } = await show({ rows: 2, columns, fetch: () => of([{ label: '1', cells: ['Hake, small', 1] }, rows[1]]) });
    const cell = root.querySelector<HTMLElement>('tbody tr:not(.space) td')!;
    cell.dispatchEvent(new MouseEvent('mousedown', { bubbles: true }));
    await fixture.whenStable();
    cell.dispatchEvent(new KeyboardEvent('keydown', { key: 'F2', bubbles: true }));
    await fixture.whenStable();
    const field = root.querySelector<HTMLInputElement>('sieve-grid-part input')!;
    expect(field.value).toBe('Hake, small');
    field.setSelectionRange(6, 11);
    field.dispatchEvent(new Event('select'));
    expect(fixture.componentInstance.parts.at(-1)).toEqual({ row: 0, column: 0, from: 6, to: 11 });
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    await fixture.whenStable();
    expect([root.querySelector('sieve-grid-part input'), fixture.componentInstance.parts.at(-1)]).toEqual([null, undefined]);
    expect([wordAround('Hake, small', 8), wordAround('Hake, small', 4), wordAround('A - B', 2), wordAround('a  b', 2)]).toEqual([[6, 11], [0, 4], [2, 3], [0, 0]]);
  });

  it('tells of an edge that is pressed, and not of one that is dragged', async () => {
    const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
    const edge = root.querySelectorAll<HTMLElement>('sieve-column-edge')[1];
    edge.click();
    expect(fixture.componentInstance.edge()).toBe(1);
  });

  it('shows the rows that came with the sheet at once, and asks only for those beyond', async () => {
    const starts: number[] = [];
    const first = Array.from({ length: 100 }, (_, n) => ({ label: String(n), cells: [`row ${n}`, n] }));
    const { fixture, cells } = await show({ rows: 300, columns, first, fetch: (start) => (starts.push(start), NEVER) });
    expect(cells()[0]).toEqual(['row 0', '0']);
    expect(starts).not.toContain(0);
    expect(starts).toContain(100);
    // The next sheet takes their place, nothing blank between.
    fixture.componentInstance.source.set({ rows: 1, columns, first: [{ label: '1', cells: ['another', 7] }], fetch: (start) => (starts.push(start), NEVER) });
    await fixture.whenStable();
    expect(cells()).toEqual([['another', '7']]);
    expect(starts).not.toContain(0);
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

  it('selects by keyboard: ranges with shift, columns at their headings, all; and tells which are whole', async () => {
    const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
    const table = root.querySelector('table')!;
    const press = async (key: string, how: { ctrlKey?: boolean; shiftKey?: boolean } = {}) => {
      table.dispatchEvent(new KeyboardEvent('keydown', { key, ...how, bubbles: true, cancelable: true }));
      await fixture.whenStable();
      return root.querySelectorAll('td.selected').length;
    };
    await press('ArrowDown');
    expect(await press('ArrowDown', { shiftKey: true })).toBe(2);
    expect(await press('ArrowRight', { shiftKey: true })).toBe(4);
    expect(await press('Escape')).toBe(0);
    await press('Home', { ctrlKey: true });
    await press('ArrowUp');
    expect(fixture.componentInstance.whole()).toEqual([0]);
    expect(root.querySelector('th.current')!.textContent).toContain('Code');
    // What the keyboard is at is told to those who do not see it.
    expect(document.getElementById(table.getAttribute('aria-activedescendant')!)!.textContent).toContain('Code');
    await press('ArrowRight', { shiftKey: true });
    expect(fixture.componentInstance.whole()).toEqual([0, 1]);
    await press('ArrowDown');
    expect(fixture.componentInstance.whole()).toEqual([]);
    expect(await press('a', { ctrlKey: true })).toBe(4);
  });

  it('goes on with the keys before what it gave out has come back to it', async () => {
    const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
    const table = root.querySelector('table')!;
    // The cell chosen by the first key comes back as the one chosen only after the second.
    for (const key of ['Home', 'ArrowDown', 'ArrowUp', 'ArrowUp']) table.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    await fixture.whenStable();
    expect(fixture.componentInstance.whole()).toEqual([0]);
    expect(root.querySelector('th.current')!.textContent).toContain('Code');
  });

  it('offers at a heading what can be done with its column, and with all that are selected with it', async () => {
    const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
    const heading = root.querySelectorAll<HTMLElement>('thead th:not(.margin)');
    heading[0].click();
    heading[1].dispatchEvent(new MouseEvent('click', { shiftKey: true, bubbles: true }));
    await fixture.whenStable();
    heading[1].dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true }));
    await fixture.whenStable();
    expect(fixture.componentInstance.asked).toEqual([[0, 1]]);
    expect([...document.querySelectorAll('.p-menu-item')].map((each) => each.textContent!.trim())).toEqual(['Turn into rows', 'Names', 'Values', 'Values with heading', 'Keep in sight up to here', 'Wider', 'Narrower']);
  });

  it('stays where it was scrolled to when the same cell is chosen anew', async () => {
    const { fixture, root } = await show({ rows: 500, columns, fetch: (start, count) => of(Array.from({ length: count }, (_, i) => ({ label: String(start + i), cells: [String(start + i), start + i] }))) });
    fixture.componentInstance.chosen.set({ row: 3, column: 0 });
    await fixture.whenStable();
    const frame = root.querySelector('.frame')!;
    frame.scrollTop = 4000;
    frame.dispatchEvent(new Event('scroll'));
    fixture.componentInstance.chosen.set({ row: 3, column: 0 });
    await fixture.whenStable();
    expect(frame.scrollTop).toBe(4000);
  });

  it('says why rows did not come', async () => {
    const { root } = await show({ rows: 2, columns, fetch: () => throwError(() => new Error('The server does not answer.')) });
    expect(root.querySelector('[role=alert]')!.textContent).toContain('The server does not answer.');
  });

  describe('whose columns', () => {
    const many = Array.from({ length: 60 }, (_, at) => ({ name: `C${at}`, type: 'text' as const }));
    const wide: GridSource = { rows: 1, columns: many, fetch: () => of([{ label: '1', cells: many.map(({ name }) => `${name}.`) }]) };
    const widths = (root: HTMLElement) => [...root.querySelectorAll<HTMLElement>('colgroup col')].slice(1).map((col) => parseFloat(col.style.width));
    const headings = (root: HTMLElement) => [...root.querySelectorAll('thead .name')].map((each) => each.textContent);
    async function press(fixture: Awaited<ReturnType<typeof show>>['fixture'], at: number, item: string) {
      const root = fixture.nativeElement as HTMLElement;
      root.querySelectorAll<HTMLElement>('thead th:not(.margin)')[at].dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true }));
      await fixture.whenStable();
      [...document.querySelectorAll<HTMLElement>('.p-menu-item-link')].find((each) => each.textContent!.trim() === item)!.click();
      await fixture.whenStable();
    }
    beforeEach(() => localStorage.clear());

    it('are as wide as they are dragged, also the next time, until they are to fit again', async () => {
      const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
      fixture.componentInstance.keptAs.set('test');
      await fixture.whenStable();
      const [fitted, other] = widths(root);
      const edge = root.querySelector<HTMLElement>('sieve-column-edge')!;
      edge.setPointerCapture = () => undefined;
      const drag = (type: string, clientX: number) => edge.dispatchEvent(Object.assign(new MouseEvent(type, { clientX, bubbles: true, cancelable: true, button: 0 }), { pointerId: 1 }));
      drag('pointermove', 500);
      drag('pointerdown', 100);
      drag('pointermove', 160);
      drag('pointerup', 160);
      drag('pointermove', 400);
      await fixture.whenStable();
      expect(widths(root)).toEqual([fitted + 60, other]);
      fixture.componentInstance.keptAs.set('another');
      await fixture.whenStable();
      expect(widths(root)).toEqual([fitted, other]);
      fixture.componentInstance.keptAs.set('test');
      await fixture.whenStable();
      expect(widths(root)[0]).toBe(fitted + 60);
      await press(fixture, 0, 'Fit');
      expect(widths(root)[0]).toBe(fitted);
      await press(fixture, 0, 'Wider');
      await press(fixture, 0, 'Narrower');
      expect(widths(root)[0]).toBe(fitted);
    });

    it('stay in sight up to one, while the others are scrolled', async () => {
      const { fixture, root } = await show(wide);
      await press(fixture, 1, 'Keep in sight up to here');
      const frame = root.querySelector<HTMLElement>('.frame')!;
      Object.defineProperty(frame, 'clientWidth', { value: 600 });
      Object.defineProperty(frame, 'clientHeight', { value: 400 });
      Object.defineProperty(frame, 'scrollLeft', { value: 1600 });
      frame.dispatchEvent(new Event('scroll'));
      await fixture.whenStable();
      expect(headings(root).slice(0, 2)).toEqual(['C0', 'C1']);
      expect(Number(headings(root)[2]!.slice(1))).toBeGreaterThan(10);
      const cells = [...root.querySelectorAll<HTMLElement>('tbody tr:not(.space) td')];
      expect(cells.filter((cell) => cell.classList.contains('frozen')).map((cell) => cell.textContent)).toEqual(['C0.', 'C1.']);
      expect(parseFloat(cells[1].style.left) - parseFloat(cells[0].style.left)).toBe(widths(root)[0]);
      // Nothing is lost between: what is not drawn has its room.
      const all = widths(root).reduce((sum, width) => sum + width, 0);
      expect(all).toBe(parseFloat(root.querySelector<HTMLElement>('table')!.style.width) - parseFloat(root.querySelector<HTMLElement>('colgroup col')!.style.width));
      await press(fixture, 1, 'Scroll all columns');
      expect(headings(root)[0]).not.toBe('C0');
    });

    it('are as usual where what was kept is no layout', async () => {
      localStorage.setItem('able-sieve columns test', '{"widths":{"Code":-4}}');
      const { fixture, root } = await show({ rows: 2, columns, fetch: () => of(rows) });
      const fitted = widths(root);
      fixture.componentInstance.keptAs.set('test');
      await fixture.whenStable();
      expect(widths(root)).toEqual(fitted);
    });
  });
});
