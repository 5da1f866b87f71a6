import { Component, computed, ElementRef, inject, input, linkedSignal, output, signal } from '@angular/core';
import type { Box } from '../../../../core/page/box';
import type { ColumnSeparator } from '../../../../core/reading/readings/drawn';

/** Separators as they are put on the paper: their tabs stand on a ruler above the table (columns) and beside it (rows). */
export interface PaperRulers {
  readonly box: Box;
  readonly columns: readonly ColumnSeparator[];
  readonly cuts: readonly number[];
  /** Can rows be drawn as well? */
  readonly rows: boolean;
}

type Side = 'columns' | 'rows';
const rounded = (points: number) => Math.round(points * 10) / 10;

/** Two rulers along a table, with a tab for every separator: drag it, press the ruler to add one, arrow keys and Delete. */
@Component({
  selector: 'sieve-paper-ruler',
  template: `
    @for (column of now().columns; track $index) {
      <i class="line down" [class.held]="isHeld('columns', $index)" [style.left.px]="column.at * scale()" [style.top.px]="top()" [style.height.px]="height()"></i>
    }
    @for (cut of now().cuts; track $index) {
      <i class="line across" [class.held]="isHeld('rows', $index)" [style.top.px]="cut * scale()" [style.left.px]="left()" [style.width.px]="width()"></i>
    }
    <div class="ruler above" role="group" aria-label="Separators between columns; press the ruler to add one" [style.left.px]="left()" [style.top.px]="top() - 22" [style.width.px]="width()" (pointerdown)="add($event, 'columns')">
      @for (column of now().columns; track $index) {
        <button
          class="tab"
          [style.left.px]="column.at * scale() - left()"
          [attr.aria-label]="'Between column ' + ($index + 1) + ' and ' + ($index + 2) + ', at ' + column.at + ' points'"
          (pointerdown)="grip($event, 'columns', $index)"
          (keydown)="key($event, 'columns', $index)"
        ></button>
      }
    </div>
    @if (now().rows) {
      <div class="ruler beside" role="group" aria-label="Separators between rows; press the ruler to add one" [style.left.px]="left() - 22" [style.top.px]="top()" [style.height.px]="height()" (pointerdown)="add($event, 'rows')">
        @for (cut of now().cuts; track $index) {
          <button class="tab" [style.top.px]="cut * scale() - top()" [attr.aria-label]="'Between row ' + ($index + 1) + ' and ' + ($index + 2) + ', at ' + cut + ' points'" (pointerdown)="grip($event, 'rows', $index)" (keydown)="key($event, 'rows', $index)"></button>
        }
      </div>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      pointer-events: none;
    }
    .line {
      position: absolute;
      border: 0 dotted var(--copper);
    }
    .down {
      border-left-width: 1.5px;
    }
    .across {
      border-top-width: 1.5px;
    }
    .line.held {
      border-style: solid;
    }
    .ruler {
      position: absolute;
      background: #fffc;
      pointer-events: auto;
      cursor: copy;
    }
    .above {
      height: 18px;
      border-bottom: 1.5px solid var(--copper);
    }
    .beside {
      width: 18px;
      border-right: 1.5px solid var(--copper);
    }
    .tab {
      position: absolute;
      padding: 0;
      border: 1.5px solid var(--copper);
      background: var(--panel);
      touch-action: none;
    }
    .above .tab {
      top: 2px;
      width: 13px;
      height: 15px;
      margin-left: -6.5px;
      border-radius: 3px 3px 8px 8px;
      cursor: ew-resize;
    }
    .beside .tab {
      left: 2px;
      width: 15px;
      height: 13px;
      margin-top: -6.5px;
      border-radius: 3px 8px 8px 3px;
      cursor: ns-resize;
    }
    .tab:hover,
    .tab:focus-visible {
      background: var(--copper);
    }
  `,
})
export class PaperRuler {
  readonly rulers = input.required<PaperRulers>();
  /** Pixels a point. */
  readonly scale = input.required<number>();
  readonly rulersChange = output<PaperRulers>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** The rulers as they are after the last move, which may be ahead of what comes back. */
  protected readonly now = linkedSignal(() => this.rulers());
  private readonly held = signal<{ side: Side; index: number } | undefined>(undefined);

  protected readonly left = computed(() => this.now().box[0] * this.scale());
  protected readonly top = computed(() => this.now().box[1] * this.scale());
  protected readonly width = computed(() => (this.now().box[2] - this.now().box[0]) * this.scale());
  protected readonly height = computed(() => (this.now().box[3] - this.now().box[1]) * this.scale());

  private change(to: PaperRulers) {
    this.now.set(to);
    this.rulersChange.emit(to);
  }

  protected isHeld(side: Side, index: number) {
    return this.held()?.side === side && this.held()?.index === index;
  }

  /** Where the pointer stands, in points from the page's corner, within the box. */
  private pointOf(event: PointerEvent, side: Side): number {
    const { left, top } = this.host.nativeElement.getBoundingClientRect();
    const [low, high] = side === 'columns' ? [this.now().box[0], this.now().box[2]] : [this.now().box[1], this.now().box[3]];
    const at = (side === 'columns' ? event.clientX - left : event.clientY - top) / this.scale();
    return rounded(Math.min(high, Math.max(low, at)));
  }

  private at(side: Side, index: number): number {
    return side === 'columns' ? this.now().columns[index].at : this.now().cuts[index];
  }

  private put(side: Side, index: number, to: number) {
    const { columns, cuts } = this.now();
    this.change(
      side === 'columns' ? { ...this.now(), columns: columns.map((each, i) => (i === index ? { ...each, at: rounded(to) } : each)) } : { ...this.now(), cuts: cuts.map((each, i) => (i === index ? rounded(to) : each)) },
    );
  }

  protected grip(event: PointerEvent, side: Side, index: number) {
    event.stopPropagation();
    const tab = event.currentTarget as HTMLElement;
    tab.focus();
    tab.setPointerCapture(event.pointerId);
    this.held.set({ side, index });
    const move = (next: PointerEvent) => this.put(side, index, this.pointOf(next, side));
    const end = () => {
      tab.removeEventListener('pointermove', move);
      this.held.set(undefined);
    };
    tab.addEventListener('pointermove', move);
    tab.addEventListener('lostpointercapture', end, { once: true });
  }

  protected add(event: PointerEvent, side: Side) {
    const at = this.pointOf(event, side);
    const { columns, cuts } = this.now();
    this.change(
      side === 'columns'
        ? { ...this.now(), columns: [...columns, { at, keep: 'most' as const }].sort((a, b) => a.at - b.at) }
        : { ...this.now(), cuts: [...cuts, at].sort((a, b) => a - b) },
    );
  }

  protected key(event: KeyboardEvent, side: Side, index: number) {
    const [less, more] = side === 'columns' ? ['ArrowLeft', 'ArrowRight'] : ['ArrowUp', 'ArrowDown'];
    const by = event.key === less ? -1 : event.key === more ? 1 : 0;
    if (by !== 0) this.put(side, index, this.at(side, index) + by);
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      const { columns, cuts } = this.now();
      this.change(side === 'columns' ? { ...this.now(), columns: columns.filter((_, i) => i !== index) } : { ...this.now(), cuts: cuts.filter((_, i) => i !== index) });
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }
}
