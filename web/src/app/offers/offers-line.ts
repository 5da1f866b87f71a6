import { Component, ElementRef, inject } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { kinds } from '../../../../core/steps/kinds';
import type { Offer } from '../../../../server/contract/contract';
import { BenchSteps } from '../bench/bench-steps';
import { newStep } from '../bench/steps-edit';
import { isWritten } from '../shared/written';
import { Offers } from './offers';

/** The steps that fit what is selected, in one line at the sheet: pointing at one shows what it would do, a press takes it. */
@Component({
  selector: 'sieve-offers-line',
  imports: [ButtonDirective],
  template: `
    <div class="line" role="toolbar" aria-label="Steps for what is selected (key o)" (keydown)="key($event)" (mouseleave)="offers.point(undefined)">
      @for (offer of offers.forSelection(); track $index) {
        <button pButton type="button" size="small" severity="secondary" [outlined]="true" [title]="titleOf(offer)" (mouseenter)="offers.point(offer)" (focus)="offers.point(offer)" (blur)="offers.point(undefined)" (click)="take(offer)">{{ offer.says }}</button>
      } @empty {
        <span class="small">{{ offers.failure()?.message ?? (offers.waiting() ? 'Looking for steps that fit' : offers.selected() ? 'No step fits this selection; “+ step” has them all.' : 'Select cells, rows or columns, and the steps that fit stand here.') }}</span>
      }
    </div>
  `,
  host: { '(document:keydown.o)': 'enter($event)' },
  styles: `
    /* Always as high: the sheet below must not move while something is selected in it. */
    .line {
      display: flex;
      align-items: center;
      gap: 6px;
      height: 38px;
      padding: 0 12px;
      overflow: auto hidden;
      scrollbar-width: none;
      border-bottom: 1px solid var(--line-soft);
      background: var(--panel);
    }
    button {
      flex: none;
      white-space: nowrap;
    }
  `,
})
export class OffersLine {
  protected readonly offers = inject(Offers);
  private readonly steps = inject(BenchSteps);
  private readonly line = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  protected titleOf = ({ kind }: Offer) => `${kinds.get(kind)!.title}: ${kinds.get(kind)!.help}`;

  protected take({ kind, settings }: Offer) {
    this.offers.point(undefined);
    this.steps.put(newStep(kind, settings));
  }

  /** One key goes from the sheet to the offers, unless it is being written somewhere. */
  protected enter(event: Event) {
    if (isWritten(event)) return;
    const first = this.line.querySelector('button');
    if (!first) return;
    event.preventDefault();
    first.focus();
  }

  /** Arrows go from offer to offer, Escape back to the sheet. */
  protected key(event: KeyboardEvent) {
    const buttons = [...this.line.querySelectorAll('button')];
    const at = buttons.indexOf(event.target as HTMLButtonElement);
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (by !== undefined) {
      event.preventDefault();
      buttons[(at + by + buttons.length) % buttons.length]?.focus();
    } else if (event.key === 'Escape') this.line.parentElement?.querySelector<HTMLElement>('[role="grid"]')?.focus();
  }
}
