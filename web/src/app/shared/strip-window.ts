import { computed, DestroyRef, inject, signal } from '@angular/core';

/** Slots drawn beyond those in sight, on either side. */
const spare = 6;

/** A long strip of slots of one width, of which only those in sight are drawn. In CSS pixels. */
export class StripWindow {
  private readonly left = signal(0);
  private readonly width = signal(1280);
  private readonly observer = new ResizeObserver(([entry]) => this.width.set(entry.contentRect.width));
  private frame: HTMLElement | undefined;

  /** @param count of the slots @param slot how wide one is @param start what stands before the first */
  constructor(
    private readonly count: () => number,
    private readonly slot: number,
    private readonly start = 0,
  ) {
    inject(DestroyRef).onDestroy(() => this.observer.disconnect());
  }

  /** Do all slots fit? Then they are all drawn, and may be wider. */
  readonly fits = computed(() => this.start + this.count() * this.slot <= this.width());
  readonly range = computed(() => {
    if (this.fits()) return { first: 0, last: this.count() };
    const first = Math.max(0, Math.floor((this.left() - this.start) / this.slot) - spare);
    return { first, last: Math.min(this.count(), Math.ceil((this.left() + this.width()) / this.slot) + spare) };
  });
  readonly before = computed(() => this.range().first * this.slot);
  readonly after = computed(() => (this.count() - this.range().last) * this.slot);

  watch(frame: HTMLElement) {
    if (this.frame === frame) return;
    this.frame = frame;
    this.observer.disconnect();
    this.observer.observe(frame);
  }
  scrolled() {
    if (this.frame) this.left.set(this.frame.scrollLeft);
  }
  /** Scrolls so that a slot stands in sight, if it does not. */
  show(at: number) {
    if (!this.frame || at < 0 || this.fits()) return;
    const from = this.start + at * this.slot;
    const [left, width] = [this.frame.scrollLeft, this.frame.clientWidth];
    if (from < left + this.start || from + this.slot > left + width) this.frame.scrollLeft = from - width / 2;
    this.scrolled();
  }
}
