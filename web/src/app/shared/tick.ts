import { Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';

/** Yes or no. */
@Component({
  selector: 'sieve-tick',
  imports: [FormsModule, Checkbox],
  template: `<p-checkbox [inputId]="inputId()" [ariaLabel]="label()" [binary]="true" [ngModel]="on()" (ngModelChange)="ticked.emit($event)" />`,
})
export class Tick {
  readonly inputId = input<string>();
  readonly label = input<string>();
  readonly on = input.required<boolean>();
  readonly ticked = output<boolean>();
}
