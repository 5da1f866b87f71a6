import { Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { DatePicker } from 'primeng/datepicker';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import { conditionText, misfitOf, tests, valuesFrom, type Condition, type Test } from '../../../../core/dataset/selection';
import type { ValueType } from '../../../../core/sheet/column';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Pick } from '../shared/pick';
import { dayFrom, dayText } from './days';

/** Both ends count. It is asked as two conditions. */
const between = 'from ... to';
type Asked = Test | typeof between;

/** So many different values are told one by one; of more, the value is written. */
const mostListed = 1000;
/** As long as a condition may be in an address. */
const longest = 2000;

const withoutValue: readonly Asked[] = ['is blank', 'is not blank', 'is an error'];

/** Which rows are wanted by one column: some of its values, a stretch of them, a text. */
@Component({
  selector: 'sieve-condition-form',
  imports: [ButtonDirective, DatePicker, FormsModule, InputText, MultiSelect, Pick],
  template: `
    <form (submit)="show($event)">
      <b>{{ column() }}</b>
      <sieve-pick label="Test" [options]="choices()" [value]="test()" (picked)="test.set($any($event))" />
      @switch (asks()) {
        @case ('list') {
          <p-multiselect class="list" [options]="listed()" optionLabel="says" optionValue="value" [ngModel]="ticked()" (ngModelChange)="ticked.set($event)" name="values" ariaLabel="Values" placeholder="which values" [filter]="listed().length > 8" filterBy="value" [virtualScroll]="listed().length > 100" [virtualScrollItemSize]="34" [maxSelectedLabels]="3" appendTo="body" size="small" [fluid]="true" />
        }
        @case ('day') {
          <p-datepicker [ngModel]="days().value" (ngModelChange)="value.set(textOf($event))" name="value" ariaLabel="Value" dateFormat="yy-mm-dd" placeholder="a day" [defaultDate]="ends().least" [firstDayOfWeek]="1" [showOtherMonths]="false" [showIcon]="true" appendTo="body" size="small" />
        }
        @case ('days') {
          <p-datepicker [ngModel]="days().from" (ngModelChange)="from.set(textOf($event))" name="from" ariaLabel="From" dateFormat="yy-mm-dd" placeholder="from" [defaultDate]="ends().least" [firstDayOfWeek]="1" [showOtherMonths]="false" [showIcon]="true" appendTo="body" size="small" />
          <p-datepicker [ngModel]="days().to" (ngModelChange)="to.set(textOf($event))" name="to" ariaLabel="To" dateFormat="yy-mm-dd" placeholder="to" [defaultDate]="ends().most" [firstDayOfWeek]="1" [showOtherMonths]="false" [showIcon]="true" appendTo="body" size="small" />
        }
        @case ('ends') {
          <input pInputText pSize="small" class="end" [ngModel]="from()" (ngModelChange)="from.set($event)" name="from" autocomplete="off" aria-label="From" placeholder="from" />
          <input pInputText pSize="small" class="end" [ngModel]="to()" (ngModelChange)="to.set($event)" name="to" autocomplete="off" aria-label="To" placeholder="to" />
        }
        @case ('text') {
          <input pInputText pSize="small" class="value" [ngModel]="value()" (ngModelChange)="value.set($event)" name="value" autocomplete="off" aria-label="Value" placeholder="value, or this|that" />
        }
      }
      <button pButton size="small" [disabled]="refusal() !== undefined">Show these</button>
      <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="left.emit()">Leave it</button>
      @if (isWritten() && refusal(); as refusal) {
        <span class="small needs" role="alert">{{ refusal }}</span>
      }
    </form>
  `,
  styles: `
    form {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
    }
    sieve-pick {
      width: 128px;
    }
    .list {
      width: 260px;
    }
    .value {
      width: 200px;
    }
    .end {
      width: 110px;
    }
    .needs {
      white-space: normal;
    }
  `,
})
export class ConditionForm {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly column = input.required<string>();
  readonly type = input.required<ValueType>();
  /** The conditions that rows must meet. */
  readonly wanted = output<Condition[]>();
  readonly left = output();

  protected readonly textOf = dayText;
  protected readonly choices = computed((): Asked[] => (this.type() === 'text' || this.type() === 'boolean' ? [...tests] : ['is', 'is not', between, ...tests.slice(2)]));
  // Another column begins anew.
  protected readonly test = linkedSignal<string, Asked>({ source: this.column, computation: () => 'is' });
  protected readonly value = linkedSignal({ source: this.column, computation: () => '' });
  protected readonly from = linkedSignal({ source: this.column, computation: () => '' });
  protected readonly to = linkedSignal({ source: this.column, computation: () => '' });
  protected readonly ticked = linkedSignal<string, readonly string[]>({ source: this.column, computation: () => [] });

  /** The days written: one object each as long as they are the same, or the calendars would take them for others. */
  protected readonly days = computed(() => ({ value: dayFrom(this.value()), from: dayFrom(this.from()), to: dayFrom(this.to()) }));

  private readonly card = asked(
    () => ({ pipeline: this.state.id(), column: this.column() }),
    ({ pipeline, column }) => this.api.columnCard(pipeline, column, mostListed),
  );
  /** Where a calendar opens. */
  protected readonly ends = computed(() => ({ least: dayFrom(this.card.value()?.least ?? ''), most: dayFrom(this.card.value()?.most ?? '') }));
  protected readonly listed = computed(() => (this.card.value()?.values ?? []).map(({ value, count }) => ({ value, says: `${value} · ${count.toLocaleString('en')}` })));
  /** Are all values of the column known one by one? */
  private readonly isListed = computed(() => {
    const card = this.card.value();
    return card !== undefined && card.values.length > 0 && card.distinct === card.values.length;
  });

  protected readonly asks = computed(() => {
    const [test, type] = [this.test(), this.type()];
    if (withoutValue.includes(test)) return 'nothing';
    if (test === between) return type === 'date' ? 'days' : 'ends';
    if (test === 'is' || test === 'is not') return this.isListed() ? 'list' : 'text';
    return type === 'date' && test !== 'contains' ? 'day' : 'text';
  });

  private readonly written = computed((): Condition[] => {
    const [column, test] = [this.column(), this.test()];
    if (test === between) {
      const ends: [Test, string][] = [['at least', this.from().trim()], ['at most', this.to().trim()]];
      return ends.flatMap(([end, value]) => (value === '' ? [] : [{ column, test: end, values: [value] }]));
    }
    const values = this.asks() === 'nothing' ? [] : this.asks() === 'list' ? this.ticked() : this.value().trim() === '' ? [] : valuesFrom(this.value());
    return this.asks() === 'nothing' || values.length > 0 ? [{ column, test, values }] : [];
  });
  protected readonly isWritten = computed(() => this.written().length > 0);
  protected readonly refusal = computed(() => {
    const written = this.written();
    if (written.length === 0) return this.asks() === 'list' ? 'Tick a value.' : 'Write a value.';
    if (written.some((each) => conditionText(each).length > longest)) return 'So many values do not go into one address: tick fewer of them, or say which are not wanted.';
    return written.map((each) => misfitOf(each, this.type())).find((misfit) => misfit !== undefined);
  });

  protected show(event: Event) {
    event.preventDefault();
    if (this.refusal() === undefined) this.wanted.emit(this.written());
  }
}
