import { Component, computed, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { Splitter } from 'primeng/splitter';
import { KeptSizes } from '../shared/kept-sizes';
import { isWritten } from '../shared/written';
import { addressNumber } from '../shared/look';
import { BenchJoins } from './bench-joins';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';
import { BenchSteps } from './bench-steps';
import { LayerActs } from './layer-acts';
import { FormPlace } from './form-place';
import { kinds } from '../../../../core/steps/kinds';
import { Commands } from '../finder/commands';
import { Offers } from '../offers/offers';
import { PaperPane, paperWidths, type PaperWidth } from './paper-pane';
import { SheetPane } from './sheet-pane';
import { StackPane } from './stack-pane';

/** Where the width of the paper is remembered. */
const remembered = 'able-sieve paper width';

/** Widths of paper, stack and sheet in percent, until they are dragged. */
const usualSizes: Readonly<Record<PaperWidth, readonly number[]>> = { edge: [6.6, 24.8, 68.6], reading: [38, 25.4, 36.6], half: [50, 25.4, 24.6] };

/** Where steps are built: left the paper, right the sheet, between them the stack. */
@Component({
  selector: 'sieve-bench-page',
  imports: [KeptSizes, Splitter, PaperPane, SheetPane, StackPane],
  providers: [BenchLook, BenchSelection, BenchJoins, BenchSteps, LayerActs, FormPlace, Offers],
  host: { '(document:keydown.p)': 'nextWidth($event)', '[class]': 'paper()' },
  template: `
    <p-splitter [sieveSizes]="'bench ' + paper()" [usual]="usual()" [handles]="['Width of the paper', 'Width of the stack']" [gutterSize]="1" [step]="16">
      <ng-template #panel><sieve-paper-pane role="region" aria-label="Paper" [width]="paper()" (widthChange)="widen($event)" /></ng-template>
      <ng-template #panel><sieve-stack-pane role="region" aria-label="Stack of steps" /></ng-template>
      <ng-template #panel><sieve-sheet-pane role="region" aria-label="Sheet" /></ng-template>
    </p-splitter>
  `,
  styles: `
    :host {
      flex: 1;
      display: flex;
      min-height: 0;
    }
    /* The sheet takes what is left. */
    :host ::ng-deep .p-splitterpanel:not(:last-child) {
      flex-grow: 0;
    }
    :host ::ng-deep .p-splitterpanel:nth-of-type(3) {
      min-width: 320px;
    }
    /* The strip of pages keeps its width. */
    :host(.edge) ::ng-deep .p-splitterpanel:first-child {
      flex: 0 0 84px !important;
    }
    :host(.edge) ::ng-deep .p-splitterpanel:first-child + .p-splitter-gutter {
      visibility: hidden;
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

  protected readonly usual = computed(() => usualSizes[this.paper()]);

  constructor() {
    const steps = inject(BenchSteps);
    inject(DestroyRef).onDestroy(inject(Commands).give('bench', () => [...kinds.values()].map(({ kind, title }) => ({ says: `Add: ${title}`, beside: 'step below this layer', run: () => steps.add(kind) }))));
    effect(() => this.at.address.set({ report: this.report(), page: this.page(), step: this.step(), pages: this.pages(), add: this.add() }));
  }

  protected widen(width: PaperWidth) {
    this.paper.set(width);
    localStorage.setItem(remembered, width);
  }
  /** One key goes from width to width, unless it is being written somewhere. */
  protected nextWidth(event: Event) {
    if (!isWritten(event)) this.widen(paperWidths[(paperWidths.indexOf(this.paper()) + 1) % paperWidths.length]);
  }
}
