import { Component, computed, input, model } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { everything, isEverything, type Condition, type Selection } from '../../../../core/dataset/selection';
import type { ValueType } from '../../../../core/sheet/column';
import { plural } from '../shared/words';
import { ConditionForm } from './condition-form';

/** Of a condition with more values than this not all are told. */
const mostTold = 5;

/** Which rows of the dataset are shown, and in which order: a line of conditions, each of which is taken away by a press. */
@Component({
  selector: 'sieve-selection-bar',
  imports: [ButtonDirective, ConditionForm],
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
          <sieve-condition-form [column]="heading" [type]="typeOf(heading)" (wanted)="add($event)" (left)="column.set(undefined)" />
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
    .bar {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
      padding: 5px 12px;
      border-bottom: 1px solid var(--line-soft);
    }
  `,
})
export class SelectionBar {
  protected readonly counted = plural;
  protected readonly none = everything;
  readonly selection = model.required<Selection>();
  /** The column of which a condition is being written. */
  readonly column = model<string | undefined>(undefined);
  readonly columns = input.required<readonly { readonly heading: string; readonly type: ValueType }[]>();
  /** Rows shown; undefined: not known yet. */
  readonly rows = input<number | undefined>(undefined);
  readonly all = input.required<number>();

  protected readonly everything = computed(() => isEverything(this.selection()));
  protected typeOf = (heading: string): ValueType => this.columns().find((each) => each.heading === heading)?.type ?? 'text';

  protected words({ column, test, values }: Condition): string {
    const told = values.length > mostTold ? [...values.slice(0, mostTold - 1), `${values.length - mostTold + 1} more`] : values;
    return `${column} ${test}${told.length > 0 ? ` ${told.join(' or ')}` : ''}`;
  }

  protected add(conditions: readonly Condition[]) {
    this.selection.update(({ where, order }) => ({ where: [...where, ...conditions], order }));
    this.column.set(undefined);
  }

  protected without(condition: Condition) {
    this.selection.update(({ where, order }) => ({ where: where.filter((each) => each !== condition), order }));
  }

  protected unordered(column: string) {
    this.selection.update(({ where, order }) => ({ where, order: order.filter((each) => each.column !== column) }));
  }
}
