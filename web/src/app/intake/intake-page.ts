import { Component, effect, inject, input, signal } from '@angular/core';
import { PeriodsDialog } from '../periods/periods-dialog';
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
  imports: [IntakePaper, MatchStrip, PeriodsDialog, ReportsPane, TakePane],
  providers: [IntakeLook, IntakeEdit],
  template: `
    <sieve-periods-dialog [(open)]="periods" />
    <div class="panes" [class.wide]="at.mode().kind === 'separators'" [class.wider]="at.mode().kind === 'readings'">
      <sieve-reports-pane role="region" aria-labelledby="folder" (periods)="periods.set(true)" />
      <sieve-intake-paper role="region" aria-labelledby="page-head" />
      <sieve-take-pane role="region" aria-labelledby="take-head" />
    </div>
    <sieve-match-strip (choose)="edit.show($event.report, $event.page)" />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
    }
    .panes {
      flex: 1;
      display: grid;
      grid-template-columns: 270px minmax(0, 1fr) 320px;
      min-height: 0;
    }
    .panes.wide {
      grid-template-columns: 0 minmax(0, 1fr) 560px;
    }
    .panes.wider {
      grid-template-columns: 0 minmax(0, 1fr) 800px;
    }
    .panes.wide > :first-child,
    .panes.wider > :first-child {
      visibility: hidden;
      overflow: hidden;
      border: 0;
    }
  `,
})
export class IntakePage {
  protected readonly at = inject(IntakeLook);
  protected readonly edit = inject(IntakeEdit);
  readonly report = input(undefined, { transform: addressNumber });
  readonly page = input(undefined, { transform: addressNumber });
  protected readonly periods = signal(false);

  constructor() {
    effect(() => this.at.address.set({ report: this.report(), page: this.page() }));
  }
}
