import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { GridLayout } from './grid-layout';

const name = signal('dataset 1');
const made = () => {
  const layout = TestBed.runInInjectionContext(() => new GridLayout(name));
  TestBed.tick();
  return layout;
};
const menu = (layout: GridLayout, ...columns: [string, number][]) => layout.menuFor(columns.map(([column, width]) => ({ name: column, width })));
const press = (layout: GridLayout, label: string, ...columns: [string, number][]) => (menu(layout, ...columns).find((item) => item.label === label)!.command as () => void)();

beforeEach(() => {
  localStorage.clear();
  name.set('dataset 1');
});

describe('how the columns of a grid stand', () => {
  it('is kept on this computer, for each grid of its own', () => {
    const layout = made();
    layout.setWidth('Quay', 210.4);
    layout.setUpTo('Quay');
    expect(made().layout()).toEqual({ widths: { Quay: 210 }, upTo: 'Quay' });
    name.set('dataset 2');
    TestBed.tick();
    expect(layout.layout()).toEqual({ widths: {} });
    name.set('dataset 1');
    TestBed.tick();
    expect(layout.layout()).toEqual({ widths: { Quay: 210 }, upTo: 'Quay' });
  });

  it('without a name is kept as long as it stands', () => {
    name.set('');
    const layout = made();
    layout.setWidth('Quay', 100);
    expect([layout.layout().widths, made().layout().widths, localStorage.length]).toEqual([{ Quay: 100 }, {}, 0]);
  });

  it('stays within what can be seen and taken hold of', () => {
    const layout = made();
    layout.setWidth('A', 3);
    layout.setWidth('B', 5000);
    expect(layout.layout().widths).toEqual({ A: 36, B: 900 });
    layout.setWidth('A', undefined);
    expect(layout.layout().widths).toEqual({ B: 900 });
  });

  it('that was kept by something else is not taken', () => {
    for (const found of ['nonsense', '[]', '{"widths":{"A":"wide"}}', '{"widths":{"A":1e9}}', '{"widths":{},"upTo":3}', '7']) {
      localStorage.setItem('able-sieve columns dataset 1', found);
      expect(made().layout().upTo, found).toBeUndefined();
      expect(Object.keys(made().layout().widths ?? {}), found).toEqual([]);
    }
  });

  it('is changed by a menu as well', () => {
    const layout = made();
    press(layout, 'Wider', ['A', 100], ['B', 120]);
    press(layout, 'Narrower', ['B', 160]);
    expect(layout.layout().widths).toEqual({ A: 140, B: 120 });
    press(layout, 'Keep in sight up to here', ['A', 140], ['B', 120]);
    expect([layout.layout().upTo, menu(layout, ['B', 120]).map(({ label }) => label)]).toEqual(['B', ['Scroll all columns', 'Wider', 'Narrower', 'Fit']]);
    press(layout, 'Fit', ['A', 140], ['B', 120]);
    press(layout, 'Scroll all columns', ['B', 120]);
    expect(layout.layout()).toEqual({ widths: {} });
    expect(menu(layout, ['C', 80]).map(({ label }) => label)).not.toContain('Fit');
  });
});
