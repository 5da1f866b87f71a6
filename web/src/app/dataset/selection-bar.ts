import { Component, computed, inject, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { everything, isEverything, misfitOf, tests, valuesFrom, valueText, type Condition, type Selection, type Test } from '../../../../core/dataset/selection';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Pick } from '../shared/pick';
import { plural } from '../shared/words';

const withoutValue = (test: Test) => test === 'is blank' || test === 'is not blank' || test === 'is an error';

/** Which rows of the dataset are shown, and in which order: a line of conditions, each of which is taken away by a press. */
@Component({
  selector: 'sieve-selection-bar',
  imports: [ButtonDirective, FormsModule, InputText, Pick],
  template: `
    @if (!everything() || column() !== undefined) {
      <div class="bar" role="group" aria-label="Rows shown">
        @for (condition of selection().where; track $index) {
          <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="without(condition)" [attr.aria-label]="'Take away: ' + words(condition)">{{ words(condition) }} <i class="pi pi-times" aria-hidden="true"></i></button>
        }
        @for (by of selection().order; track by.column) {
          <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="unordered(by.column)" [attr.aria-label]="'Not in order of ' + by.column + ' any more'"><i class="pi" [class.pi-sort-amount-down]="by.down" [class.pi-sort-amount-up-alt]="!by.down" aria-hidden="true"></i> {{ by.column }} <i class="pi pi-times" aria-hidden="true"></i></button>
        }
        @if (column(); as heading) {
          <form (submit)="add($event)">
            <b>{{ heading }}</b>
            <sieve-pick label="Test" [options]="choices" [value]="test()" (picked)="test.set($any($event))" />
            @if (!needsNone(test())) {
              <input pInputText pSize="small" class="value" [attr.list]="'values-of-column'" [ngModel]="value()" (ngModelChange)="value.set($event)" name="value" autocomplete="off" aria-label="Value" placeholder="value, or this|that" />
              <datalist id="values-of-column">
                @for (each of known(); track each.value) {
                  <option [value]="textOf(each.value)"></option>
                }
              </datalist>
            }
            <button pButton size="small" [disabled]="refusal() !== undefined">Show these</button>
            <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="column.set(undefined)">Leave it</button>
            @if (value() !== '' && refusal(); as refusal) {
              <span class="small needs" role="alert">{{ refusal }}</span>
            }
          </form>
        }
        <span class="grow"></span>
        @if (!everything()) {
          <span class="small">{{ rows() === undefined ? 'Looking' : counted(rows()!, 'row') + ' of ' + all().toLocaleString('en') }}</span>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="selection.set(none)">Show all</button>
        }
      </div>
    }
  `,
  styles: `
    .bar,
    form {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
    }
    .bar {
      padding: 5px 12px;
      border-bottom: 1px solid var(--line-soft);
    }
    sieve-pick {
      width: 128px;
    }
    .value {
      width: 200px;
    }
    .needs {
      white-space: normal;
    }
  `,
})
export class SelectionBar {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  protected readonly counted = plural;
  protected readonly none = everything;
  protected readonly choices = [...tests];
  protected readonly needsNone = withoutValue;
  readonly selection = model.required<Selection>();
  /** The column of which a condition is being written. */
  readonly column = model<string | undefined>(undefined);
  readonly columns = input.required<readonly { readonly heading: string; readonly type: Parameters<typeof misfitOf>[1] }[]>();
  /** Rows shown; undefined: not known yet. */
  readonly rows = input<number | undefined>(undefined);
  readonly all = input.required<number>();

  protected readonly test = signal<Test>('is');
  protected readonly value = signal('');
  protected readonly everything = computed(() => isEverything(this.selection()));
  /** Values of the column that come most often, to pick from while writing. */
  private readonly card = asked(
    () => (this.column() === undefined ? undefined : { pipeline: this.state.id(), column: this.column()! }),
    ({ pipeline, column }) => this.api.columnCard(pipeline, column),
  );
  protected readonly known = computed(() => this.card.value()?.values ?? []);
  protected readonly textOf = valueText;
  private readonly written = computed((): Condition => ({ column: this.column() ?? '', test: this.test(), values: withoutValue(this.test()) ? [] : valuesFrom(this.value()) }));
  protected readonly refusal = computed(() => {
    const type = this.columns().find(({ heading }) => heading === this.column())?.type;
    if (withoutValue(this.test())) return undefined;
    return this.value().trim() === '' ? 'Write a value.' : type && misfitOf(this.written(), type);
  });

  protected words({ column, test, values }: Condition): string {
    return `${column} ${test}${values.length > 0 ? ` ${values.join(' or ')}` : ''}`;
  }

  protected add(event: Event) {
    event.preventDefault();
    if (this.refusal() !== undefined) return;
    this.selection.update(({ where, order }) => ({ where: [...where, this.written()], order }));
    this.column.set(undefined);
    this.value.set('');
    this.test.set('is');
  }

  protected without(condition: Condition) {
    this.selection.update(({ where, order }) => ({ where: where.filter((each) => each !== condition), order }));
  }

  protected unordered(column: string) {
    this.selection.update(({ where, order }) => ({ where, order: order.filter((each) => each.column !== column) }));
  }
}
