import { Component, input, output } from '@angular/core';

/** The right edge of a heading: dragged, it says how wide the column is to be; pressed twice, that it is to fit; pressed once, that it is meant itself. */
@Component({
  selector: 'sieve-column-edge',
  host: { 'aria-hidden': 'true', title: 'Drag for another width; press twice to fit', '(click)': '$event.stopPropagation(); press()', '(dblclick)': 'wide.emit(undefined)', '(pointerdown)': 'take($event)', '(pointermove)': 'drag($event)', '(pointerup)': 'drop()', '(pointercancel)': 'drop()' },
  template: '',
  styles: `
    :host {
      position: absolute;
      inset: 0 0 0 auto;
      width: 7px;
      cursor: col-resize;
      touch-action: none;
    }
    :host(:hover),
    :host(.on),
    :host(:active) {
      background: var(--copper);
      opacity: 0.5;
    }
  `,
})
export class ColumnEdge {
  /** As wide as the column is now, in CSS pixels. */
  readonly width = input.required<number>();
  /** The width that is wanted; undefined: as wide as what stands in it. */
  readonly wide = output<number | undefined>();
  readonly pressed = output();
  private dragged = false;
  private from: { readonly x: number; readonly width: number } | undefined;

  protected take(event: PointerEvent) {
    if (event.button !== 0) return;
    event.preventDefault();
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    this.from = { x: event.clientX, width: this.width() };
    this.dragged = false;
  }
  protected drag({ clientX }: PointerEvent) {
    if (!this.from || clientX === this.from.x) return;
    this.dragged = true;
    this.wide.emit(this.from.width + clientX - this.from.x);
  }
  protected press() {
    if (!this.dragged) this.pressed.emit();
  }
  protected drop() {
    this.from = undefined;
  }
}
