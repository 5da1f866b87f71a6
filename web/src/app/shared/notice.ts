import { Component, input } from '@angular/core';
import { ButtonDirective } from 'primeng/button';

/** A place that has nothing to show: while it loads, when it failed, when it is empty. */
@Component({
  selector: 'sieve-notice',
  imports: [ButtonDirective],
  template: `<div class="notice" [class]="kind()" [attr.role]="kind() === 'failed' ? 'alert' : 'status'">
    <i class="pi" [class.pi-spin]="kind() === 'loading'" [class.pi-spinner]="kind() === 'loading'" [class.pi-exclamation-triangle]="kind() === 'failed'" [class.pi-inbox]="kind() === 'empty'" aria-hidden="true"></i>
    <p><ng-content /></p>
    @if (retry(); as retry) {
      <button pButton type="button" severity="secondary" size="small" [outlined]="true" (click)="retry()">Try again</button>
    }
  </div>`,
  styles: `
    .notice {
      display: flex;
      gap: 12px;
      align-items: flex-start;
      margin: 24px;
      padding: 14px 16px;
      max-width: 640px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--panel);
      color: var(--muted);
    }
    .failed {
      border-color: var(--madder);
      color: var(--madder);
    }
    p {
      margin: 0;
    }
    i {
      margin-top: 2px;
    }
  `,
})
export class Notice {
  readonly kind = input.required<'loading' | 'failed' | 'empty'>();
  /** Does what failed once more. */
  readonly retry = input<() => void>();
}
