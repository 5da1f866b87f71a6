import { Component, computed, input, output } from '@angular/core';
import { listTests, marks, operandOf, orderTests, stateTests, textTests, type Condition } from '../../../../core/steps/conditions';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { sameSubject, type ValuesOf } from './column-values';
import { PatternField } from './pattern-field';
import { ValueList } from './value-list';

const testGroups = [
  { title: 'Text', tests: textTests },
  { title: 'A list', tests: listTests },
  { title: 'Order', tests: orderTests },
  { title: 'State', tests: stateTests },
] as const;
let made = 0;

/** Conditions on columns and row marks: each says where, which test, and what it compares with. */
@Component({
  selector: 'sieve-conditions',
  imports: [ValueList, PatternField],
  template: `
    @for (condition of conditions(); track $index) {
      <div class="condition" role="group" [attr.aria-label]="'Condition ' + ($index + 1)">
        @if ($index > 0) {
          <span class="joined">{{ joined() }}</span>
        }
        <div class="line">
          <select class="field" [attr.aria-label]="'Where, condition ' + ($index + 1)" (change)="set($index, { of: subjectFrom($any($event.target).value), values: [] })">
            <optgroup label="Columns">
              @for (column of namesFor(condition); track column) {
                <option [value]="'column ' + column" [selected]="keyOf(condition) === 'column ' + column">{{ column }}</option>
              }
            </optgroup>
            <optgroup label="Row marks">
              @for (mark of marks; track mark) {
                <option [value]="'mark ' + mark" [selected]="keyOf(condition) === 'mark ' + mark">{{ mark }}</option>
              }
            </optgroup>
          </select>
          <select class="field" [attr.aria-label]="'Test, condition ' + ($index + 1)" (change)="set($index, { test: $any($event.target).value })">
            @for (group of testGroups; track group.title) {
              <optgroup [label]="group.title">
                @for (test of group.tests; track test) {
                  <option [selected]="test === condition.test">{{ test }}</option>
                }
              </optgroup>
            }
          </select>
          <button type="button" class="btn quiet" (click)="remove($index)" [attr.aria-label]="'Remove condition ' + ($index + 1)"><i class="pi pi-times" aria-hidden="true"></i></button>
        </div>
        @switch (operandOf(condition.test)) {
          @case ('value') {
            @if (condition.test === 'has the pattern') {
              <sieve-pattern-field [fieldId]="id + $index" [text]="textOf(condition)" [subject]="subjectOf(condition)" [valuesOf]="valuesOf()" (changed)="set($index, { value: $event })" />
            } @else {
              <input class="field" [id]="id + $index" [attr.aria-label]="'Value, condition ' + ($index + 1)" [value]="textOf(condition)" (input)="set($index, { value: $any($event.target).value })" />
            }
          }
          @case ('values') {
            <sieve-value-list [label]="'Values, condition ' + ($index + 1)" [chosen]="condition.values" [subject]="subjectOf(condition)" [valuesOf]="valuesOf()" (changed)="set($index, { values: $event })" />
          }
        }
      </div>
    }
    <button type="button" class="btn quiet add" (click)="add()">+ condition</button>
  `,
  styles: `
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
    .line .btn {
      padding: 0 5px;
    }
    .field {
      width: 100%;
      min-width: 0;
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
  readonly changed = output<Condition[]>();

  protected readonly id = `condition-${++made}-`;
  protected readonly marks = marks;
  protected readonly testGroups = testGroups;
  protected readonly operandOf = operandOf;
  private readonly first = computed(() => this.columns()[0] ?? '');

  protected keyOf = ({ of }: Condition) => `${of.is} ${of.name}`;
  protected textOf = ({ value }: Condition) => String(value ?? '');
  /** A column that is gone stays in sight until another is chosen. */
  protected namesFor = ({ of }: Condition) => (of.is === 'column' && !this.columns().includes(of.name) ? [of.name, ...this.columns()] : this.columns());
  protected subjectFrom(key: string): Condition['of'] {
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
