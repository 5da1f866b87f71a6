import { Component, computed, input } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { askFailedAgain, type Asked } from './asked';

/** What could not be had beside what is shown, each reason once, with the way to ask again. Nothing where nothing failed. */
@Component({
  selector: 'sieve-failed-line',
  imports: [ButtonDirective],
  template: `
    @for (reason of reasons(); track reason) {
      <p class="error failure" role="alert">{{ reason }} <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="again()">Try again</button></p>
    }
  `,
  styles: `
    p {
      margin: 0;
      padding: 6px 12px;
    }
  `,
})
export class FailedLine {
  readonly of = input.required<readonly Asked<unknown>[]>();
  /** A reason that is told elsewhere already. */
  readonly except = input<string>();
  protected readonly reasons = computed(() => [...new Set(this.of().flatMap((each) => each.failure()?.message ?? []))].filter((reason) => reason !== this.except()));
  protected again = () => askFailedAgain(this.of());
}
