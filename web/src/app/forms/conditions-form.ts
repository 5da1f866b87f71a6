import { Component, computed, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Pick, type ChoiceGroup } from '../shared/pick';
import { listTests, marks, operandOf, orderTests, stateTests, textTests, type Condition } from '../../../../core/steps/conditions';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { conditionAsFormula, conditionFromFormula } from '../../../../core/steps/condition-formula';
import { sameSubject, type ValuesOf } from './column-values';
import { FormulaField } from './formula-field';
import type { FormulaSample } from './formula-sample';
import { PatternField } from './pattern-field';
import { ValueField } from './value-field';
import { ValueList } from './value-list';

const testGroups = [
  { title: 'Text', options: textTests },
  { title: 'A list', options: listTests },
  { title: 'Order', options: orderTests },
  { title: 'State', options: stateTests },
];
const byFormula = (formula: string): Condition => ({ of: { is: 'formula', formula }, test: 'is', value: '', values: [] });
let made = 0;

/** Conditions on columns and row marks: each says where, which test, and what it compares with. */
@Component({
  selector: 'sieve-conditions',
  imports: [FormulaField, ValueField, ValueList, PatternField, ButtonDirective, Pick],
  template: `
    @for (condition of conditions(); track $index) {
      <div class="condition" role="group" [attr.aria-label]="'Condition ' + ($index + 1)">
        @if ($index > 0) {
          <span class="joined">{{ joined() }}</span>
        }
        <div class="line">
          <sieve-pick [label]="'Where, condition ' + ($index + 1)" [groups]="placesFor(condition)" [value]="keyOf(condition)" (picked)="set($index, { of: subjectFrom($event), values: [] })" />
          @if (condition.of.is !== 'formula') {
            <sieve-pick [label]="'Test, condition ' + ($index + 1)" [groups]="testChoices" [value]="condition.test" (picked)="set($index, { test: $any($event) })" />
          } @else {
            <span class="small">is true</span>
          }
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="remove($index)" [attr.aria-label]="'Remove condition ' + ($index + 1)"><i class="pi pi-times" aria-hidden="true"></i></button>
        </div>
        @if (condition.of.is === 'formula') {
          <sieve-formula-field [label]="'Formula, condition ' + ($index + 1)" [text]="condition.of.formula" [sample]="sample()" (changed)="set($index, { of: { is: 'formula', formula: $event } })" />
        } @else {
        @switch (operandOf(condition.test)) {
          @case ('value') {
            @if (condition.test === 'has the pattern') {
              <sieve-pattern-field [fieldId]="id + $index" [text]="textOf(condition)" [subject]="subjectOf(condition)" [valuesOf]="valuesOf()" (changed)="set($index, { value: $event })" />
            } @else {
              <sieve-value-field [fieldId]="id + $index" [label]="'Value, condition ' + ($index + 1)" [value]="textOf(condition)" [subject]="subjectOf(condition)" [valuesOf]="valuesOf()" (changed)="set($index, { value: $event })" />
            }
          }
          @case ('values') {
            <sieve-value-list [label]="'Values, condition ' + ($index + 1)" [chosen]="condition.values" [subject]="subjectOf(condition)" [valuesOf]="valuesOf()" (changed)="set($index, { values: $event })" />
          }
        }
        }
        @if (otherForm(condition); as other) {
          <button pButton type="button" [text]="true" size="small" severity="secondary" class="add" (click)="set($index, other)">{{ condition.of.is === 'formula' ? 'Back into the form' : 'As a formula' }}</button>
        }
      </div>
    }
    <button pButton type="button" [text]="true" size="small" severity="secondary" class="add" (click)="add()">+ condition</button>
  `,
  styles: `
    :host {
      display: block;
      container-type: inline-size;
    }
    @container (min-width: 560px) {
      .condition.condition {
        grid-template-columns: 380px minmax(0, 1fr);
        gap: 3px 14px;
        align-items: start;
      }
      sieve-formula-field {
      grid-column: 1 / -1;
    }
    .add {
      justify-self: start;
    }
    .joined {
        grid-column: 1 / -1;
      }
    }
    .condition {
      display: grid;
      gap: 3px;
      padding: 3px 0 5px;
    }
    .line {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 96px auto;
      gap: 3px;
    }
    .line .p-button {
      padding: 0 5px;
    }
    .joined {
      color: var(--copper);
      font-size: 12px;
      border-top: 1px dashed var(--line);
    }
  `,
})
export class ConditionsForm {
  readonly conditions = input.required<readonly Condition[]>();
  readonly columns = input.required<readonly string[]>();
  /** What stands between two conditions. */
  readonly joined = input<'and' | 'or'>('and');
  readonly valuesOf = input<ValuesOf>();
  /** Rows above the step, on which formulas are tried. */
  readonly sample = input<FormulaSample | undefined>();
  readonly changed = output<Condition[]>();

  protected readonly id = `condition-${++made}-`;
  protected readonly testChoices = testGroups;
  protected readonly operandOf = operandOf;
  private readonly first = computed(() => this.columns()[0] ?? '');

  protected keyOf = ({ of }: Condition) => (of.is === 'formula' ? 'formula ' : `${of.is} ${of.name}`);
  /** The same condition written by a formula, or put back into the form, where it can be. */
  protected otherForm(condition: Condition): Condition | undefined {
    if (condition.of.is === 'formula') return conditionFromFormula(condition.of.formula);
    const formula = conditionAsFormula(condition, this.sample()?.columns ?? []);
    return formula === undefined ? undefined : byFormula(formula);
  }
  protected textOf = ({ value }: Condition) => String(value ?? '');
  /** A column that is gone stays in sight until another is chosen. */
  protected placesFor = (condition: Condition): ChoiceGroup[] => [
    { title: 'Columns', options: this.namesFor(condition).map((name) => ({ value: `column ${name}`, says: name })) },
    { title: 'Row marks', options: marks.map((name) => ({ value: `mark ${name}`, says: name })) },
    { title: 'Anything else', options: [{ value: 'formula ', says: 'by a formula' }] },
  ];
  private namesFor = ({ of }: Condition) => (of.is === 'column' && !this.columns().includes(of.name) ? [of.name, ...this.columns()] : this.columns());
  protected subjectFrom(key: string): Condition['of'] {
    if (key === 'formula ') return byFormula('').of;
    const at = key.indexOf(' ');
    return { is: key.slice(0, at), name: key.slice(at + 1) } as Condition['of'];
  }
  protected subjectOf = ({ of }: Condition): ValuesSubject | undefined => (of.is === 'column' ? sameSubject({ by: 'names', names: [of.name] }) : undefined);

  protected set(at: number, changes: Partial<Condition>) {
    this.changed.emit(this.conditions().map((condition, i) => (i === at ? { ...condition, ...changes } : condition)));
  }
  protected remove(at: number) {
    this.changed.emit(this.conditions().filter((_, i) => i !== at));
  }
  protected add() {
    this.changed.emit([...this.conditions(), { of: { is: 'column', name: this.first() }, test: 'is', value: '', values: [] }]);
  }
}
