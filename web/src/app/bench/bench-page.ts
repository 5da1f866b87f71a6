import { Component, effect, inject, input, signal } from '@angular/core';
import { addressNumber } from '../shared/look';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';
import { PaperPane, paperWidths, type PaperWidth } from './paper-pane';
import { SheetPane } from './sheet-pane';
import { StackPane } from './stack-pane';

/** Where the width of the paper is remembered. */
const remembered = 'able-sieve paper width';

/** Where steps are built: left the paper, right the sheet, between them the stack. */
@Component({
  selector: 'sieve-bench-page',
  imports: [PaperPane, SheetPane, StackPane],
  providers: [BenchLook, BenchSelection],
  host: { '(document:keydown.p)': 'nextWidth($event)', '[class]': 'paper()' },
  template: `
    <sieve-paper-pane role="region" aria-label="Paper" [width]="paper()" (widthChange)="widen($event)" />
    <sieve-stack-pane role="region" aria-label="Stack of steps" />
    <sieve-sheet-pane role="region" aria-label="Sheet" />
  `,
  styles: `
    :host {
      flex: 1;
      display: grid;
      grid-template-columns: 84px 324px minmax(0, 1fr);
      grid-template-rows: minmax(0, 1fr);
      min-height: 0;
    }
    :host(.reading) {
      grid-template-columns: minmax(380px, 30%) 324px minmax(0, 1fr);
    }
    :host(.half) {
      grid-template-columns: 50% 324px minmax(0, 1fr);
    }
  `,
})
export class BenchPage {
  private readonly at = inject(BenchLook);
  readonly report = input(undefined, { transform: addressNumber });
  readonly page = input(undefined, { transform: addressNumber });
  readonly step = input<string>();
  /** Pages on which the steps are designed, as `3-8`. */
  readonly pages = input<string>();
  /** A kind of step that another screen offers to add here. */
  readonly add = input<string>();
  protected readonly paper = signal<PaperWidth>(paperWidths.find((each) => each === localStorage.getItem(remembered)) ?? 'edge');

  constructor() {
    effect(() => this.at.address.set({ report: this.report(), page: this.page(), step: this.step(), pages: this.pages(), add: this.add() }));
  }

  protected widen(width: PaperWidth) {
    this.paper.set(width);
    localStorage.setItem(remembered, width);
  }
  /** One key goes from width to width, unless it is being written somewhere. */
  protected nextWidth(event: Event) {
    const { ctrlKey, metaKey, altKey } = event as KeyboardEvent;
    const written = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable], [role="dialog"], [role="listbox"], [role="combobox"]');
    if (!written && !ctrlKey && !metaKey && !altKey) this.widen(paperWidths[(paperWidths.indexOf(this.paper()) + 1) % paperWidths.length]);
  }
}
