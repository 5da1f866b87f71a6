import { Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { InputNumber } from 'primeng/inputnumber';

/** A whole number; what zero means stands beside it in words. */
@Component({
  selector: 'sieve-number',
  imports: [FormsModule, InputNumber],
  template: `
    <p-inputnumber [inputId]="fieldId()" [ngModel]="value()" (onInput)="write($event.value)" [min]="least()" [max]="most()" [useGrouping]="false" [showButtons]="true" [allowEmpty]="false" [ariaDescribedBy]="zero() ? fieldId() + '-zero' : undefined" [fluid]="true" size="small" />
    @if (zero(); as zero) {
      <span class="small" [id]="fieldId() + '-zero'">{{ value() === 0 ? zero : 'zero: ' + zero }}</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 96px minmax(0, 1fr);
      gap: 8px;
      align-items: center;
    }
  `,
})
export class NumberField {
  readonly fieldId = input.required<string>();
  readonly value = input.required<number>();
  readonly least = input<number | undefined>(0);
  readonly most = input<number>();
  readonly zero = input<string>();
  readonly changed = output<number>();

  protected write(value: number | string | null) {
    const number = Number(value);
    if (value !== null && Number.isFinite(number) && number !== this.value()) this.changed.emit(number);
  }
}
