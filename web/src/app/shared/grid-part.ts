import { Component, computed, effect, ElementRef, input, output, signal, untracked, viewChild } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import type { PartOfText } from '../../../../server/contract/contract';
import { headHeight, rowHeight, type GridGeometry } from './grid-geometry';
import type { GridCellPlace } from './grid-source';

/** A word of a text around a place in it. */
const word = /[\p{L}\p{N}]+|[^\p{L}\p{N}\s]+/gu;

/** The text of one cell opened over it, so that a part can be selected: pressed twice at a word, or by F2 and then Shift with the arrows. */
@Component({
  selector: 'sieve-grid-part',
  imports: [InputText],
  template: `
    @if (place(); as place) {
      <input
        pInputText
        #field
        aria-readonly="true"
        aria-label="Text of the cell: select a part of it"
        title="Select a part, and the steps that fit it stand above the sheet"
        [value]="place.text"
        [style.left.px]="place.left"
        [style.top.px]="place.top"
        [style.width.px]="place.width"
        (select)="tell()"
        (keyup)="tell()"
        (mouseup)="tell()"
        (keydown)="key($event)"
        (beforeinput)="$event.preventDefault()"
      />
    }
  `,
  styles: `
    input {
      position: absolute;
      z-index: 4;
      height: 28px;
      padding: 0 7px;
      border-radius: 0;
      border-color: var(--copper);
      background: var(--panel);
      user-select: text;
    }
  `,
})
export class GridPart {
  /** What scrolls: keys and presses in it open the text. */
  readonly frame = input.required<HTMLElement>();
  readonly geometry = input.required<GridGeometry>();
  /** The cell where the keys are. */
  readonly at = input.required<GridCellPlace | undefined>();
  /** The text of a cell as it is, or none where it is not fetched yet. */
  readonly textOf = input.required<(place: GridCellPlace) => string | undefined>();
  readonly part = output<PartOfText | undefined>();
  readonly left = output();

  private readonly field = viewChild<ElementRef<HTMLInputElement>>('field');
  private readonly open = signal<(GridCellPlace & { readonly text: string }) | undefined>(undefined);
  protected readonly place = computed(() => {
    const open = this.open();
    const geometry = this.geometry();
    if (!open) return undefined;
    const { row, column, text } = open;
    const [from, to] = [geometry.lefts()[column], geometry.lefts()[column + 1]];
    return { text, left: geometry.marginWidth() + from, top: headHeight + geometry.offset() + (row - geometry.range().first) * rowHeight, width: Math.max(to - from, text.length * 7.6 + 20) };
  });

  constructor() {
    effect((onCleanup) => {
      const frame = this.frame();
      const listening = new AbortController();
      frame.addEventListener('dblclick', (event) => (event.target as Element).closest('td[aria-colindex]') && this.begin(letterAt(event)), { signal: listening.signal });
      frame.addEventListener('keydown', (event) => event.key === 'F2' && !this.open() && this.begin(undefined), { signal: listening.signal });
      onCleanup(() => listening.abort());
    });
    // The keys are at another cell, or the sheet is another one.
    effect(() => {
      const at = this.at();
      untracked(() => {
        const open = this.open();
        if (open && (open.row !== at?.row || open.column !== at.column)) queueMicrotask(() => this.close());
      });
    });
    effect(() => this.field()?.nativeElement.focus({ preventScroll: true }));
  }

  /** @param letter place in the text at which it was pressed; its word is selected */
  private begin(letter: number | undefined) {
    const at = this.at();
    const text = at && at.row >= 0 ? this.textOf()(at) : undefined;
    if (!at || text === undefined || text === '') return;
    this.open.set({ ...at, text });
    const [from, to] = letter === undefined ? [0, 0] : wordAround(text, letter);
    // Once it is drawn.
    setTimeout(() => {
      this.field()?.nativeElement.setSelectionRange(from, to);
      this.tell();
    });
  }
  private close() {
    this.open.set(undefined);
    this.part.emit(undefined);
  }
  protected tell() {
    const open = this.open();
    const field = this.field()?.nativeElement;
    if (!open || !field) return;
    const [from, to] = [field.selectionStart ?? 0, field.selectionEnd ?? 0];
    this.part.emit(from < to ? { row: open.row, column: open.column, from, to } : undefined);
  }
  /** Arrows move in the text, not in the sheet (it is no read-only field: in those they do not); Escape goes back to it. */
  protected key(event: KeyboardEvent) {
    if (/^Arrow|^Home$|^End$|^Escape$|^Enter$|^ $/.test(event.key) || event.ctrlKey) event.stopPropagation();
    if (event.key !== 'Escape') return;
    this.close();
    this.left.emit();
  }
}

/** Between which letters of a cell's text it was pressed. */
function letterAt(event: MouseEvent): number | undefined {
  const range = document.caretRangeFromPoint?.(event.clientX, event.clientY);
  return range?.startContainer.nodeType === Node.TEXT_NODE ? range.startOffset : undefined;
}

export function wordAround(text: string, letter: number): [from: number, to: number] {
  for (const found of text.matchAll(word)) if (found.index <= letter && letter <= found.index + found[0].length) return [found.index, found.index + found[0].length];
  return [0, 0];
}
