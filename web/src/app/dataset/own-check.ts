import { Component, computed, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import type { Check } from '../../../../core/checks/check';
import { countHole } from '../../../../core/checks/printed-count';
import { formulaOf } from '../../../../core/formula/formula';
import { isFault } from '../../../../core/formula/parse';
import { FormulaField } from '../forms/formula-field';
import type { FormulaSample } from '../forms/formula-sample';
import { Pick, type Choice } from '../shared/pick';

const kinds: readonly Choice[] = [
  { value: 'rows', says: 'a report has so many rows' },
  { value: 'unique', says: 'columns are unique in each report' },
  { value: 'unique in all', says: 'columns are unique in the dataset' },
  { value: 'filled', says: 'columns are never blank' },
  { value: 'range', says: 'a column lies between two values' },
  { value: 'allowed', says: 'a column has one of some values' },
  { value: 'sum', says: 'columns add up to another' },
  { value: 'product', says: 'two columns make a product' },
  { value: 'balance', says: 'a running balance follows from the line before' },
  { value: 'adds up to', says: 'a column adds up to a number' },
  { value: 'stated sum', says: 'a column adds up to what another states' },
  { value: 'formula', says: 'a formula is true in every row' },
  { value: 'stated rows', says: 'as many rows as a column states' },
  { value: 'printed count', says: 'as many rows as a line of the paper states' },
];

/** A check that is written by hand. */
@Component({
  selector: 'sieve-own-check',
  imports: [ButtonDirective, FormulaField, FormsModule, InputText, MultiSelect, Pick],
  template: `
    <sieve-pick label="What is checked" [options]="kinds" [value]="kind()" (picked)="kind.set($event)" />
    @if (kind() === 'formula') {
      <sieve-formula-field label="Formula of the check" [text]="formula()" [sample]="sample()" (changed)="formula.set($event)" />
    } @else if (kind() === 'printed count') {
      <input pInputText pSize="small" aria-label="The line, with {{ hole }} for the number" placeholder="{{ hole }} entries" [ngModel]="values()" (ngModelChange)="values.set($event)" />
    } @else if (kind() !== 'rows') {
      <p-multiselect [options]="$any(columns())" [ngModel]="chosen()" (ngModelChange)="chosen.set($event)" ariaLabel="Columns of the check" [placeholder]="kind() === 'balance' ? 'plus which columns' : limit() === 1 ? 'which column' : 'which columns'" [maxSelectedLabels]="3" [filter]="columns().length > 8" [selectionLimit]="limit()" appendTo="body" [fluid]="true" size="small" />
    }
    @if (kind() === 'balance') {
      <p-multiselect [options]="$any(columns())" [ngModel]="minus()" (ngModelChange)="minus.set($event)" ariaLabel="Columns that are taken off" placeholder="less which columns" [maxSelectedLabels]="3" appendTo="body" [fluid]="true" size="small" />
    }
    @if (kind() === 'sum' || kind() === 'product' || kind() === 'balance' || kind() === 'stated sum') {
      <sieve-pick [label]="kind() === 'balance' ? 'The balance' : kind() === 'stated sum' ? 'The column that states it' : 'The column that it is'" [placeholder]="kind() === 'balance' ? 'which is the balance' : kind() === 'stated sum' ? 'which column states it' : 'which column it is'" [options]="columns()" [value]="is()" (picked)="is.set($event)" />
    }
    @if (kind() === 'rows' || kind() === 'range') {
      <span class="two">
        <input pInputText pSize="small" aria-label="At least" placeholder="at least" [ngModel]="least()" (ngModelChange)="least.set($event)" />
        <input pInputText pSize="small" aria-label="At most" placeholder="at most" [ngModel]="most()" (ngModelChange)="most.set($event)" />
      </span>
    }
    @if (kind() === 'adds up to') {
      <input pInputText pSize="small" aria-label="Adds up to" placeholder="100" [ngModel]="least()" (ngModelChange)="least.set($event)" />
    }
    @if (kind() === 'allowed') {
      <input pInputText pSize="small" aria-label="Values, parted by semicolons" placeholder="North; West" [ngModel]="values()" (ngModelChange)="values.set($event)" />
    }
    <button pButton type="button" size="small" [disabled]="!made()" (click)="add()">Add the check</button>
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 6px;
    }
    button {
      justify-self: start;
    }
  `,
})
export class OwnCheck {
  readonly columns = input.required<readonly string[]>();
  /** The columns with their types, for formulas. */
  readonly sample = input.required<FormulaSample>();
  readonly added = output<Check>();
  protected readonly kinds = kinds;
  protected readonly hole = countHole;
  protected readonly kind = signal('rows');
  protected readonly chosen = signal<string[]>([]);
  protected readonly is = signal('');
  protected readonly minus = signal<string[]>([]);
  protected readonly least = signal('');
  protected readonly most = signal('');
  protected readonly values = signal('');
  protected readonly formula = signal('');
  protected readonly limit = computed(() => (['range', 'allowed', 'adds up to', 'stated rows', 'stated sum'].includes(this.kind()) ? 1 : this.kind() === 'product' ? 2 : 99));

  /** The check as it is written so far; undefined while something is missing. */
  protected readonly made = computed((): Check | undefined => {
    const common = { id: crypto.randomUUID(), severity: 'tell' as const };
    const [columns, column] = [this.chosen(), this.chosen()[0]];
    const [least, most] = [boundOf(this.least()), boundOf(this.most())];
    const bounds = { ...(least === undefined ? {} : { least }), ...(most === undefined ? {} : { most }) };
    const values = this.values().split(';').map((value) => value.trim()).filter(Boolean);
    switch (this.kind()) {
      case 'rows':
        return [least, most].some((each) => typeof each === 'string') || (least ?? most) === undefined ? undefined : ({ ...common, kind: 'rows', ...bounds } as Check);
      case 'unique':
      case 'unique in all':
        return columns.length > 0 ? { ...common, kind: 'unique', columns, over: this.kind() === 'unique' ? 'report' : 'dataset' } : undefined;
      case 'filled':
        return columns.length > 0 ? { ...common, kind: 'filled', columns } : undefined;
      case 'range':
        return column && (least ?? most) !== undefined ? { ...common, kind: 'range', column, ...bounds } : undefined;
      case 'allowed':
        return column && values.length > 0 ? { ...common, kind: 'allowed', column, values } : undefined;
      case 'sum':
        return columns.length > 0 && this.is() ? { ...common, kind: 'sum', columns, is: this.is() } : undefined;
      case 'balance':
        return this.is() && columns.length + this.minus().length > 0 ? { ...common, kind: 'balance', balance: this.is(), plus: columns, minus: this.minus() } : undefined;
      case 'adds up to':
        return column && typeof least === 'number' ? { ...common, kind: 'adds up to', column, is: least, by: [] } : undefined;
      case 'formula': {
        const formula = formulaOf(this.formula(), this.sample().columns);
        return isFault(formula) || formula.type !== 'boolean' ? undefined : { ...common, kind: 'formula', formula: this.formula() };
      }
      case 'stated sum':
        return column && this.is() ? { ...common, kind: 'stated sum', column, is: this.is() } : undefined;
      case 'stated rows':
        return column ? { ...common, kind: 'stated rows', column } : undefined;
      case 'printed count':
        return this.values().includes(countHole) ? { ...common, kind: 'printed count', line: this.values().trim() } : undefined;
      default:
        return columns.length === 2 && this.is() ? { ...common, kind: 'product', columns, is: this.is() } : undefined;
    }
  });

  protected add() {
    this.added.emit(this.made()!);
    for (const each of [this.least, this.most, this.values, this.is, this.formula]) each.set('');
    this.chosen.set([]);
    this.minus.set([]);
  }
}

/** A number, or the text of a date; undefined for nothing written. */
const boundOf = (text: string): number | string | undefined => (text.trim() === '' ? undefined : Number.isNaN(Number(text)) ? text.trim() : Number(text));
