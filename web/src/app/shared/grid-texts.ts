import { computed, type Signal } from '@angular/core';
import { cellShown } from './cell-shown';
import type { GridRow } from './grid-source';

/** The texts of the cells of a grid, each made once: a grid that is scrolled asks for all in sight at every frame. */
export class GridTexts {
  /** @param decimals digits after the point, by column */
  constructor(private readonly decimals: Signal<readonly number[]>) {}
  private readonly made = computed(() => ({ decimals: this.decimals(), texts: new WeakMap<GridRow, string[]>() }));

  /** As the sheet shows it; "" where the row is not there, or has no such cell. */
  of(row: GridRow | undefined, column: number): string {
    const cell = row?.cells[column];
    if (row === undefined || cell === undefined) return '';
    const { decimals, texts } = this.made();
    let ofRow = texts.get(row);
    if (!ofRow) texts.set(row, (ofRow = []));
    return (ofRow[column] ??= cellShown(cell, decimals[column]));
  }
}
