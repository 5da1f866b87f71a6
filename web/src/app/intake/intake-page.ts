import { Component, computed, effect, inject, input, signal } from '@angular/core';
import { PeriodsDialog } from '../periods/periods-dialog';
import { Splitter } from 'primeng/splitter';
import { KeptSizes } from '../shared/kept-sizes';
import { addressNumber } from '../shared/look';
import { IntakeEdit } from './intake-edit';
import { IntakeLook } from './intake-look';
import { IntakePaper } from './intake-paper';
import { MatchStrip } from './match-strip';
import { ReportsPane } from './reports-pane';
import { TakePane } from './take-pane';

/** What is in the folder, and what to take. */
@Component({
  selector: 'sieve-intake-page',
  imports: [KeptSizes, Splitter, IntakePaper, MatchStrip, PeriodsDialog, ReportsPane, TakePane],
  providers: [IntakeLook, IntakeEdit],
  template: `
    <sieve-periods-dialog [(open)]="periods" />
    <p-splitter [sieveSizes]="'intake ' + at.mode().kind" [usual]="usual()" [handles]="['Width of the list of reports', 'Width of what is taken']" [gutterSize]="1" [step]="16" [class.by-hand-wide]="wide()">
      <ng-template #panel><sieve-reports-pane role="region" aria-labelledby="folder" (periods)="periods.set(true)" /></ng-template>
      <ng-template #panel><sieve-intake-paper role="region" aria-labelledby="page-head" /></ng-template>
      <ng-template #panel><sieve-take-pane role="region" aria-labelledby="take-head" /></ng-template>
    </p-splitter>
    <sieve-match-strip (choose)="edit.show($event.report, $event.page)" />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
    }
    .by-hand-wide ::ng-deep > .p-splitterpanel:first-child,
    .by-hand-wide ::ng-deep > .p-splitterpanel:first-child + .p-splitter-gutter {
      display: none;
    }
  `,
})
export class IntakePage {
  protected readonly at = inject(IntakeLook);
  protected readonly edit = inject(IntakeEdit);
  readonly report = input(undefined, { transform: addressNumber });
  readonly page = input(undefined, { transform: addressNumber });
  /** A text to be found in all reports. */
  readonly find = input<string | undefined>();
  protected readonly periods = signal(false);
  /** What is done by hand with much to see takes the place of the list of reports. */
  protected readonly wide = computed(() => this.at.mode().kind === 'separators' || this.at.mode().kind === 'readings');
  protected readonly usual = computed(() => (this.at.mode().kind === 'readings' ? [1, 37, 62] : this.at.mode().kind === 'separators' ? [1, 55, 44] : [22, 53, 25]));

  constructor() {
    effect(() => this.at.address.set({ report: this.report(), page: this.page(), find: this.find() }));
  }
}
