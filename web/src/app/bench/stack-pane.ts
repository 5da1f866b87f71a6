import { Component, effect, inject, untracked } from '@angular/core';
import { ActivatedRoute } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Popover } from 'primeng/popover';
import { placeBelow, type StepPlace } from '../../../../core/pipeline/layers';
import { Offers } from '../offers/offers';
import { ProposalsPanel } from '../offers/proposals-panel';
import { PipelineState } from '../pipeline/pipeline-state';
import { Look } from '../shared/look';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';
import { BenchSteps } from './bench-steps';
import { Stack } from './stack';

/** The stack of steps, which of the report's pages they are designed on, and adding to it. */
@Component({
  selector: 'sieve-stack-pane',
  host: { class: 'pane' },
  imports: [ButtonDirective, InputText, Popover, ProposalsPanel, Stack],
  template: `
    <div class="pane-head">
      <h2>Stack</h2>
      <button pButton type="button" [text]="true" size="small" severity="secondary" aria-haspopup="dialog" (click)="choosing.toggle($event)" title="Pages of this report on which the steps are designed">{{ at.pagesShown() ? 'pages ' + at.pagesShown()!.replace('-', ' to ') : 'all pages' }}</button>
      <span class="grow"></span>
      @if (state.worst(); as worst) {
        @if (worst.report.id !== at.shown()?.id) {
          <button pButton type="button" class="worst" [text]="true" size="small" severity="secondary" (click)="lookAtReport(worst.report.id)" [title]="worst.report.path + ' differs most: ' + worst.because">differs most</button>
        }
      }
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="addAfterChosen()">+ step</button>
    </div>
    <p-popover #choosing ariaLabel="Pages on which the steps are designed">
      <form class="pages" (submit)="$event.preventDefault(); designOn(first.value, last.value); choosing.hide()">
        <label for="first-page">Design on pages</label>
        <input pInputText id="first-page" type="number" min="1" [max]="at.summary()?.pageCount ?? 1" #first [value]="at.pagesShown()?.split('-')?.[0] ?? at.pageShown()" />
        <label for="last-page">to</label>
        <input pInputText id="last-page" type="number" min="1" [max]="at.summary()?.pageCount ?? 1" #last [value]="at.pagesShown()?.split('-')?.[1] ?? at.pageShown()" />
        <button pButton severity="secondary" [outlined]="true">Use</button>
        @if (at.pagesShown()) {
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="designOn('', ''); choosing.hide()">All</button>
        }
        <p class="small">Counts and sheets are of these pages; a refresh runs all.</p>
      </form>
    </p-popover>
    <div class="scroll">
      <sieve-proposals-panel />
      <sieve-stack
        [layers]="at.layers()"
        [chosen]="at.stepShown()"
        [ghost]="offers.ghost()"
        [adding]="steps.adding()"
        [offered]="at.address().add ?? ''"
        (choose)="selection.choose($event)"
        (add)="addAt($event)"
        (pick)="steps.add($event)"
        (paste)="steps.put($event)"
      />
    </div>
  `,
  styles: `
    /* Where there is no room it is found by its name. */
    @media (max-width: 1000px) {
      .worst {
        display: none;
      }
    }
    .pages {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px;
      max-width: 330px;
    }
    .pages .p-inputtext {
      width: 54px;
    }
    .pages p {
      margin: 0;
      width: 100%;
    }
  `,
})
export class StackPane {
  protected readonly state = inject(PipelineState);
  private readonly look = inject(Look);
  private readonly route = inject(ActivatedRoute);
  protected readonly at = inject(BenchLook);
  protected readonly selection = inject(BenchSelection);
  protected readonly steps = inject(BenchSteps);
  protected readonly offers = inject(Offers);

  constructor() {
    effect(() => {
      const offered = this.at.address().add;
      const document = this.state.document();
      if (offered !== undefined && document && this.at.summary()) untracked(() => this.steps.adding.set({ zone: 'eachReport', at: document.eachReport.length }));
    });
  }

  /** Steps are designed on a few pages of a long report; blank: on all. */
  protected designOn(first: string, last: string) {
    const [from, to] = [Number(first), Number(last)];
    this.look.at(this.route, from >= 1 && to >= from ? { pages: `${from}-${to}`, page: from } : { pages: null });
  }
  /** Another report at the same layer; the guide stays. */
  protected lookAtReport(report: number) {
    this.look.at(this.route, { report, page: null }, false);
  }
  protected addAfterChosen() {
    this.steps.adding.set(placeBelow(this.state.document()!, this.at.stepShown()));
  }
  /** Where a step is being added from now on; what another screen offered is answered then. */
  protected addAt(place: StepPlace | undefined) {
    this.steps.adding.set(place);
    if (this.at.address().add !== undefined) this.look.at(this.route, { add: null });
  }
}
