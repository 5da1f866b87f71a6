import { Component, computed, input, linkedSignal, output } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { Pick } from '../shared/pick';

const usual = [
  { value: ' ', says: 'a space' },
  { value: '', says: 'nothing' },
  { value: ', ', says: 'a comma and a space' },
  { value: ' - ', says: 'a dash between spaces' },
  { value: '; ', says: 'a semicolon and a space' },
  { value: '/', says: 'a slash' },
];
const other = 'another text';

/** A text that stands between others: the usual ones in words, as a space cannot be seen. */
@Component({
  selector: 'sieve-between',
  imports: [InputText, Pick],
  template: `
    <sieve-pick [inputId]="fieldId()" [options]="options" [value]="picked()" (picked)="pick($event)" />
    @if (picked() === other) {
      <input pInputText [attr.aria-label]="label() + ': the text'" [value]="value()" (input)="changed.emit($any($event.target).value)" />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    .p-inputtext {
      width: 100%;
    }
  `,
})
export class BetweenField {
  readonly fieldId = input.required<string>();
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly changed = output<string>();
  protected readonly other = other;
  protected readonly options = [...usual, { value: other, says: other }];
  /** Being written: it stays a text of one's own, also while it reads as a usual one. */
  private readonly own = linkedSignal({ source: this.fieldId, computation: () => false });
  protected readonly picked = computed(() => (!this.own() && usual.some(({ value }) => value === this.value()) ? this.value() : other));

  protected pick(value: string) {
    this.own.set(value === other);
    if (value !== other) this.changed.emit(value);
  }
}
