import { Component, input, output } from '@angular/core';

/** Rows at the ends of a sheet. */
export interface Brackets {
  readonly top: number;
  readonly bottom: number;
}

/** Two brackets in the margin of a sheet, which show and set how many rows at either end are held. */
@Component({
  selector: 'sieve-grid-brackets',
  template: `
    @let ends = draft() ?? this.ends();
    <div class="bracket top" role="slider" tabindex="0" aria-label="Rows held from the top" aria-orientation="vertical" aria-valuemin="0" [attr.aria-valuemax]="rows()" [attr.aria-valuenow]="ends.top" [style.top.px]="top() + ends.top * rowHeight()" (pointerdown)="grasp($event, 'top')" (pointermove)="pull($event)" (pointerup)="letGo()" (keydown)="nudge($event, 'top')">
      <span>{{ ends.top }}</span>
    </div>
    <div class="bracket bottom" role="slider" tabindex="0" aria-label="Rows held from the bottom" aria-orientation="vertical" aria-valuemin="0" [attr.aria-valuemax]="rows()" [attr.aria-valuenow]="ends.bottom" [style.top.px]="top() + (rows() - ends.bottom) * rowHeight() - height" (pointerdown)="grasp($event, 'bottom')" (pointermove)="pull($event)" (pointerup)="letGo()" (keydown)="nudge($event, 'bottom')">
      <span>{{ ends.bottom }}</span>
    </div>
  `,
  styles: `
    :host {
      display: block;
      position: sticky;
      left: 0;
      width: 66px;
      height: 0;
      z-index: 2;
    }
    .bracket {
      position: absolute;
      left: 38px;
      width: 26px;
      height: 20px;
      border-left: 3px solid var(--copper);
      background: linear-gradient(90deg, rgb(152 70 26 / 12%), transparent);
      color: var(--copper);
      font-size: 11px;
      cursor: ns-resize;
      touch-action: none;
      user-select: none;
    }
    .bracket.top {
      border-top: 3px solid var(--copper);
    }
    .bracket.bottom {
      border-bottom: 3px solid var(--copper);
    }
    .bracket span {
      position: absolute;
      right: 2px;
    }
  `,
})
export class GridBrackets {
  readonly rows = input.required<number>();
  readonly ends = input.required<Brackets>();
  /** Height of the headings above the first row, and of a row, in pixels. */
  readonly top = input.required<number>();
  readonly rowHeight = input.required<number>();
  /** What the rows scroll in. */
  readonly frame = input.required<HTMLElement>();
  /** The brackets as they are dragged, before they are let go. */
  readonly draft = input.required<Brackets | undefined>();
  readonly draftChange = output<Brackets | undefined>();
  readonly set = output<Brackets>();
  protected readonly height = 22;
  private grasped: keyof Brackets | undefined;

  protected grasp(event: PointerEvent, end: keyof Brackets) {
    event.preventDefault();
    (event.target as HTMLElement).closest('.bracket')!.setPointerCapture(event.pointerId);
    this.grasped = end;
  }
  protected pull(event: PointerEvent) {
    if (!this.grasped) return;
    const frame = this.frame();
    const line = Math.round((event.clientY - frame.getBoundingClientRect().top + frame.scrollTop - this.top()) / this.rowHeight());
    this.draftChange.emit(this.withEnd(this.grasped, this.grasped === 'top' ? line : this.rows() - line));
  }
  protected letGo() {
    const ends = this.draft();
    this.grasped = undefined;
    this.draftChange.emit(undefined);
    if (ends) this.set.emit(ends);
  }
  protected nudge(event: KeyboardEvent, end: keyof Brackets) {
    const down = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!down) return;
    event.preventDefault();
    event.stopPropagation();
    this.set.emit(this.withEnd(end, this.ends()[end] + (end === 'top' ? down : -down)));
  }
  /** One end set anew, as far as the other lets it. */
  private withEnd(end: keyof Brackets, rows: number): Brackets {
    const ends = this.draft() ?? this.ends();
    const other = end === 'top' ? ends.bottom : ends.top;
    return { ...ends, [end]: Math.max(0, Math.min(this.rows() - other, rows)) };
  }
}
