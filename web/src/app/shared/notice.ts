import { Component, computed, input } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Message } from 'primeng/message';

/** A place that has nothing to show: while it loads, when it failed, when it is empty. */
@Component({
  selector: 'sieve-notice',
  imports: [ButtonDirective, Message],
  template: `<div class="notice" [attr.role]="kind() === 'failed' ? 'alert' : 'status'">
    <p-message [severity]="kind() === 'failed' ? 'error' : 'secondary'" [icon]="icon()" [pt]="{ root: { role: null, 'aria-live': null } }">
      <p><ng-content /></p>
      @if (retry(); as retry) {
        <button pButton type="button" severity="secondary" size="small" [outlined]="true" (click)="retry()">Try again</button>
      }
    </p-message>
  </div>`,
  styles: `
    .notice {
      margin: 24px;
      max-width: 640px;
    }
    p {
      margin: 0;
    }
    .p-button {
      margin-top: 8px;
    }
  `,
})
export class Notice {
  readonly kind = input.required<'loading' | 'failed' | 'empty'>();
  /** Does what failed once more. */
  readonly retry = input<() => void>();
  protected readonly icon = computed(() => ({ loading: 'pi pi-spinner pi-spin', failed: 'pi pi-exclamation-triangle', empty: 'pi pi-inbox' })[this.kind()]);
}
