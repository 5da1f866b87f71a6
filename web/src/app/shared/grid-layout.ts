import { effect, signal, untracked, type Signal } from '@angular/core';
import type { MenuItem } from 'primeng/api';

/** How columns stand: those up to one stay in sight, and some have a width that was given them. */
interface Layout {
  /** In CSS pixels, by the name of the column. */
  readonly widths: Readonly<Record<string, number>>;
  /** The last of the columns that stay in sight at the left. */
  readonly upTo?: string;
}

const fitted: Layout = { widths: {} };
const narrowest = 36;
const widest = 900;
/** A press of a key or a line of the menu makes a column so much wider. */
const byPress = 40;

function isLayout(found: unknown): found is Layout {
  const { widths, upTo } = (found ?? {}) as Partial<Layout>;
  return typeof widths === 'object' && widths !== null && Object.values(widths).every((width) => typeof width === 'number' && width >= narrowest && width <= widest) && (upTo === undefined || typeof upTo === 'string');
}

/** Widths and columns kept in sight, remembered on this computer under a name; without a name, as long as the grid stands. */
export class GridLayout {
  readonly layout = signal(fitted);

  constructor(private readonly name: Signal<string>) {
    effect(() => {
      const name = this.name();
      untracked(() => this.layout.set((name && this.kept(name)) || fitted));
    });
  }

  /** @param width undefined: as wide as what stands in it */
  setWidth(column: string, width: number | undefined) {
    const { [column]: _, ...others } = this.layout().widths;
    this.keep({ ...this.layout(), widths: width === undefined ? others : { ...others, [column]: Math.round(Math.min(widest, Math.max(narrowest, width))) } });
  }

  /** @param upTo the last column that stays in sight; undefined: none does */
  setUpTo(upTo: string | undefined) {
    const { widths } = this.layout();
    this.keep(upTo === undefined ? { widths } : { widths, upTo });
  }

  /** What can be done with the layout of some columns. @param columns each as wide as it is now */
  menuFor(columns: readonly { readonly name: string; readonly width: number }[]): MenuItem[] {
    const { widths, upTo } = this.layout();
    const wider = (by: number) => () => columns.forEach(({ name, width }) => this.setWidth(name, width + by));
    return [
      upTo === columns.at(-1)?.name ? { label: 'Scroll all columns', command: () => this.setUpTo(undefined) } : { label: 'Keep in sight up to here', command: () => this.setUpTo(columns.at(-1)?.name) },
      { label: 'Wider', command: wider(byPress) },
      { label: 'Narrower', command: wider(-byPress) },
      ...(columns.some(({ name }) => Object.hasOwn(widths, name)) ? [{ label: 'Fit', command: () => columns.forEach(({ name }) => this.setWidth(name, undefined)) }] : []),
    ];
  }

  private key = (name: string) => `able-sieve columns ${name}`;
  private kept(name: string): Layout | undefined {
    try {
      const found: unknown = JSON.parse(localStorage.getItem(this.key(name)) ?? 'null');
      return isLayout(found) ? found : undefined;
    } catch {
      return undefined;
    }
  }
  private keep(layout: Layout) {
    this.layout.set(layout);
    if (this.name()) localStorage.setItem(this.key(this.name()), JSON.stringify(layout));
  }
}
