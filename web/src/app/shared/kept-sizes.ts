import { afterEveryRender, DestroyRef, Directive, effect, ElementRef, inject, input } from '@angular/core';
import { Splitter } from 'primeng/splitter';

/**
 * Sizes of panes that are dragged, or moved by arrow keys, and kept on this computer, under a name for every layout.
 * It mends the roles of the library's handles: each is one separator with its place, its bounds and a name.
 */
@Directive({
  selector: 'p-splitter[sieveSizes]',
  host: { '(mousedown)': 'takeHandle($event)' },
})
export class KeptSizes {
  private readonly splitter = inject(Splitter);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** What the sizes are kept under. */
  readonly sieveSizes = input.required<string>();
  /** In percent, until they are dragged. */
  readonly usual = input.required<readonly number[]>();
  /** What each handle moves. */
  readonly handles = input.required<readonly string[]>();

  constructor() {
    effect(() => {
      this.splitter.panelSizes = this.kept() ?? [...this.usual()];
    });
    const dragged = this.splitter.onResizeEnd.subscribe(({ sizes }) => this.keep(sizes as number[]));
    inject(DestroyRef).onDestroy(() => dragged.unsubscribe());
    afterEveryRender(() => this.mendRoles());
  }

  /** Only the handle is dragged, not what may be dragged beside it, and no text is marked on the way. */
  protected takeHandle(event: Event) {
    const handle = event.target as HTMLElement;
    if (!handle.classList.contains('p-splitter-gutter-handle')) return;
    event.preventDefault();
    handle.focus();
  }

  private get key() {
    return `able-sieve panes ${this.sieveSizes()}`;
  }
  private kept(): number[] | undefined {
    try {
      const sizes: unknown = JSON.parse(localStorage.getItem(this.key) ?? 'null');
      return Array.isArray(sizes) && sizes.length === this.usual().length && sizes.every((size) => typeof size === 'number' && size > 0 && size < 100) ? (sizes as number[]) : undefined;
    } catch {
      return undefined;
    }
  }
  private keep(sizes: readonly number[]) {
    localStorage.setItem(this.key, JSON.stringify(sizes));
    this.mendRoles();
  }

  private mendRoles() {
    const gutters = [...this.element.children].filter((child) => child.classList.contains('p-splitter-gutter'));
    gutters.forEach((gutter, at) => {
      gutter.removeAttribute('role');
      const handle = gutter.firstElementChild!;
      const facts = {
        role: 'separator',
        'aria-orientation': 'vertical',
        'aria-label': this.handles()[at] ?? '',
        'aria-valuemin': '0',
        'aria-valuemax': '100',
        'aria-valuenow': String(Math.round(this.splitter.panelSizes[at] ?? 0)),
      };
      for (const [name, value] of Object.entries(facts)) if (handle.getAttribute(name) !== value) handle.setAttribute(name, value);
    });
  }
}
