import { Component, computed, inject } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { BenchJoins } from './bench-joins';
import { BenchLook } from './bench-look';
import { FormPlace } from './form-place';
import { JoinPanel } from './join-panel';
import { LayerForm } from './layer-form';

/** A form that needs room, along the foot of the sheet: of the step looked at, or the spellings of an append. */
@Component({
  selector: 'sieve-foot-form',
  imports: [ButtonDirective, JoinPanel, LayerForm],
  template: `
    @if (step(); as step) {
      <section [attr.aria-label]="'Settings of ' + at.stepTitle()">
        <div class="bar">
          <b>{{ at.stepTitle() }}</b>
          <span class="grow"></span>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="form.put(step, 'layer')">Into the layer</button>
        </div>
        <div class="scroll"><sieve-layer-form [step]="step" /></div>
      </section>
    } @else if (joins.shown(); as join) {
      <section aria-label="Spellings of columns">
        <div class="scroll"><sieve-join-panel [parts]="join.parts" [lacked]="join.lacked" [names]="join.names" /></div>
      </section>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 0 1 auto;
      min-height: 0;
    }
    section {
      display: flex;
      flex-direction: column;
      flex: 0 1 auto;
      min-height: 0;
      max-height: min(300px, 40vh);
      border-top: 2px solid var(--copper);
      background: var(--panel);
    }
    .bar {
      display: flex;
      align-items: center;
      padding: 4px 8px 0 14px;
    }
    .scroll {
      padding: 2px 14px 10px;
    }
  `,
})
export class FootForm {
  protected readonly at = inject(BenchLook);
  protected readonly joins = inject(BenchJoins);
  protected readonly form = inject(FormPlace);
  protected readonly step = computed(() => {
    const step = this.at.step();
    return step && this.form.isWide(step) ? step : undefined;
  });
}
