import { Component, computed, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { AutoComplete } from 'primeng/autocomplete';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { columnValues, type ValuesOf } from './column-values';

/** Values offered at a time. */
const mostOffered = 12;

/** A text that may be any; while it is written, the values that are there and hold it are offered, with how often each stands. */
@Component({
  selector: 'sieve-value-field',
  imports: [AutoComplete, FormsModule],
  template: `
    <p-autocomplete
      [inputId]="fieldId()"
      [ariaLabel]="label()"
      [suggestions]="offered()"
      (completeMethod)="sought.set($event.query)"
      optionLabel="text"
      [ngModel]="value()"
      (ngModelChange)="write($event)"
      [showEmptyMessage]="false"
      [delay]="100"
      appendTo="body"
      [fluid]="true"
    >
      <ng-template #item let-each>
        <span class="text">{{ each.text }}</span>
        <span class="count">{{ each.count }}</span>
      </ng-template>
    </p-autocomplete>
  `,
  styles: `
    .text {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .count {
      margin-left: auto;
      padding-left: 10px;
      color: var(--muted);
      font-size: 12px;
    }
  `,
})
export class ValueField {
  readonly fieldId = input.required<string>();
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly subject = input<ValuesSubject>();
  readonly valuesOf = input<ValuesOf>();
  readonly changed = output<string>();

  protected readonly sought = signal('');
  private readonly asked = columnValues(this.valuesOf, this.subject);
  protected readonly offered = computed(() => {
    const sought = this.sought().toLowerCase();
    return (this.asked.value()?.values ?? []).filter(({ text }) => text.toLowerCase().includes(sought)).slice(0, mostOffered);
  });

  /** @param what what was written, or the value that was taken from those offered */
  protected write(what: string | { readonly text: string } | null) {
    this.changed.emit(what === null ? '' : typeof what === 'string' ? what : what.text);
  }
}
