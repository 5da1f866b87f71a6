import { Component, computed, inject, input } from '@angular/core';
import * as v from 'valibot';
import { sheet as makeSheet, type Sheet } from '../../../../core/sheet/sheet';
import { noLists } from '../../../../core/sheet/list';
import { RowBook, Rows } from '../../../../core/sheet/row';
import { isBlank } from '../../../../core/values/cell';
import { kindOf, type Step } from '../../../../core/steps/kinds';
import type { SheetWindow } from '../../../../server/contract/contract';
import { cellShown } from '../shared/cell-shown';
import { MiniSheet } from '../shared/mini-sheet';
import { BenchLook } from './bench-look';

/** Rows that are looked at: of a kind that makes one of several lines, more. */
const rowsShown = 3;
const linesShown = 12;

/** The first rows of a window as a sheet of their own: what a step makes of three rows needs no paper. */
function smallSheet({ columns, window }: Pick<SheetWindow, 'columns' | 'window'>, most: number): Sheet {
  const book = new RowBook();
  const rows = window.slice(0, most);
  return makeSheet(
    columns
      .map(({ name, type, unit }, at) => ({ name, type, ...(unit === undefined ? {} : { unit }), cells: rows.map(({ cells }) => cells[at]), origins: new Int32Array(rows.length).fill(-1) }))
      // Columns of other tables than that of these rows.
      .filter(({ cells }) => cells.some((cell) => !isBlank(cell))),
    new Rows(book, Int32Array.from(rows, ({ id, page, table }) => book.add({ report: id.report, table, page, role: 'body', indent: 0, bold: false, shaded: false }, id.ordinal))),
  );
}

const asTexts = ({ columns, rows }: Sheet): string[][] => [columns.map(({ name }) => name), ...rows.map((row) => columns.map((column) => cellShown(column.cells[row])))];

/** What a step that gives the sheet another shape makes of the first rows above it, as its settings stand. */
@Component({
  selector: 'sieve-before-after',
  imports: [MiniSheet],
  template: `
    @if (both(); as both) {
      <div class="both">
        <sieve-mini-sheet [rows]="both.before" [headingRows]="1" label="The first rows before the step" />
        <i class="pi pi-arrow-right" aria-hidden="true"></i>
        <sieve-mini-sheet [rows]="both.after" [headingRows]="1" [most]="8" label="What becomes of them" />
      </div>
    }
  `,
  styles: `
    .both {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr);
      gap: 8px;
      align-items: center;
      margin: 4px 0 8px;
    }
    .pi {
      color: var(--muted);
    }
  `,
})
export class BeforeAfter {
  private readonly at = inject(BenchLook);
  readonly step = input.required<Step>();
  /** As they are being written. */
  readonly values = input.required<Record<string, unknown>>();

  protected readonly both = computed(() => {
    const ofLines = this.step().kind === 'lines to records';
    const above = this.at.rowsAbove(this.step().id, ofLines);
    const kind = kindOf(this.step());
    const settings = v.safeParse(kind.settings, this.values());
    if (!above || above.window.length === 0 || !settings.success) return undefined;
    const before = smallSheet(above, ofLines ? linesShown : rowsShown);
    const none = () => {
      throw new Error('There is no paper here.');
    };
    return { before: asTexts(before), after: asTexts(kind.run(before, settings.output, { papers: none, letPass: () => false, lists: noLists }).sheet) };
  });
}
