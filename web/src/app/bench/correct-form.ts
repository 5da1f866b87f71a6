import { Component, computed, inject, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Pick } from '../shared/pick';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';

/** Corrects the chosen cell by hand, for its report alone. */
@Component({
  selector: 'sieve-correct-form',
  imports: [ButtonDirective, InputText, Pick],
  template: `
    @if (selection.correctable(); as cell) {
      <form (submit)="$event.preventDefault(); correct(value.value, why.value)">
        <label for="correct-to">Correct “{{ cell.from }}” in {{ cell.column }} to</label>
        <input pInputText id="correct-to" #value autocomplete="off" />
        <sieve-pick label="Column that it moves into" [options]="columns()" [value]="into()" (picked)="into.set($event)" />
        <label for="correct-why">because</label>
        <input pInputText id="correct-why" #why autocomplete="off" />
        <button pButton severity="secondary" [outlined]="true">Correct</button>
      </form>
    }
  `,
  styles: `
    form {
      display: flex;
      align-items: center;
      gap: 6px;
      padding: 5px 12px;
      border-top: 1px solid var(--line);
      white-space: nowrap;
      background: var(--panel);
    }
    .p-inputtext {
      flex: 1;
      width: 60px;
    }
    sieve-pick {
      flex: 0 1 130px;
    }
    label {
      overflow: hidden;
      text-overflow: ellipsis;
    }
  `,
})
export class CorrectForm {
  private readonly at = inject(BenchLook);
  protected readonly selection = inject(BenchSelection);
  protected readonly into = signal('');
  protected readonly columns = computed(() => {
    const own = this.selection.correctable()?.column;
    return [{ value: '', says: 'stays here' }, ...(this.at.source()?.columns ?? []).filter(({ name }) => name !== own).map(({ name }) => ({ value: name, says: `moves to ${name}` }))];
  });

  protected correct(to: string, why: string) {
    this.selection.correct({ to, into: this.into(), why });
    this.into.set('');
  }
}
