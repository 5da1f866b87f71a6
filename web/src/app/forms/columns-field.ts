import { Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import type { ColumnChoice } from '../../../../core/steps/column-choice';
import { valueTypes } from '../../../../core/sheet/column';
import { Pick } from '../shared/pick';
import { plural } from '../shared/words';

/** Which columns a step means: named ones, in the order chosen, or a rule that takes those yet to come. */
@Component({
  selector: 'sieve-columns-field',
  imports: [ButtonDirective, FormsModule, InputText, MultiSelect, Pick],
  template: `
    @let choice = value();
    <sieve-pick [inputId]="fieldId()" [options]="rules" [value]="choice.by" (picked)="changed.emit(choiceBy($any($event)))" />
    @if (names(); as names) {
      <span class="chips" role="group" [attr.aria-label]="label()">
        @for (column of names; track column) {
          <button type="button" class="chip" [class.gone]="!columns().includes(column)" (click)="name(names, column)" [attr.aria-label]="'Take ' + column + ' out'" [title]="columns().includes(column) ? '' : 'There is no such column at this layer'">{{ column }} <i class="pi pi-times" aria-hidden="true"></i></button>
        }
      </span>
      <p-multiselect
        [options]="$any(columns())"
        [ngModel]="names"
        (ngModelChange)="choose($event)"
        [ariaLabel]="'Columns of ' + label()"
        placeholder="which columns"
        [maxSelectedLabels]="0"
        [selectedItemsLabel]="counted(names.length, 'column')"
        [filter]="columns().length > 8"
        [showHeader]="columns().length > 3"
        appendTo="body"
        scrollHeight="264px"
        [fluid]="true"
        size="small"
      />
      @if (offered().length > 0) {
        <button pButton type="button" class="offered" severity="secondary" size="small" [text]="true" (click)="choose(offered())">Take {{ offered().length === 1 ? offered()[0] : 'the ' + offered().length }} selected in the sheet</button>
      }
    } @else if (choice.by === 'all after') {
      <sieve-pick [label]="label() + ': after which'" [options]="withOwn(choice.name)" [value]="choice.name" (picked)="changed.emit({ by: 'all after', name: $event })" />
    } @else if (choice.by === 'names matching') {
      <input pInputText [attr.aria-label]="label() + ': pattern'" [value]="choice.pattern" (input)="changed.emit({ by: 'names matching', pattern: $any($event.target).value })" placeholder="20*" />
    } @else if (choice.by === 'type') {
      <sieve-pick [label]="label() + ': type'" [options]="types" [value]="choice.type" (picked)="changed.emit({ by: 'type', type: $any($event) })" />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 4px;
      min-width: 0;
    }
    .chips {
      display: flex;
      flex-wrap: wrap;
      gap: 3px;
    }
    .chips:empty {
      display: none;
    }
    .chip {
      border: 1px solid var(--edge);
      border-radius: 10px;
      background: var(--panel);
      color: inherit;
      padding: 0 8px;
      font-size: 12px;
      cursor: pointer;
    }
    .chip .pi {
      font-size: 9px;
      color: var(--muted);
    }
    .chip.gone {
      border-color: var(--madder);
      color: var(--madder);
      text-decoration: line-through;
    }
    .p-inputtext {
      width: 100%;
    }
    .offered {
      justify-self: start;
    }
  `,
})
export class ColumnsField {
  readonly fieldId = input.required<string>();
  readonly label = input.required<string>();
  readonly value = input.required<ColumnChoice>();
  /** Names of the columns as they are at this layer. */
  readonly columns = input.required<readonly string[]>();
  /** Columns that are selected in the sheet. */
  readonly selected = input<readonly string[]>([]);
  readonly changed = output<ColumnChoice>();

  protected readonly rules: readonly ColumnChoice['by'][] = ['all', 'names', 'all but', 'all after', 'names matching', 'type'];
  protected readonly types = valueTypes;
  protected readonly counted = plural;
  protected readonly names = computed(() => {
    const choice = this.value();
    return 'names' in choice ? choice.names : undefined;
  });
  /** What is selected in the sheet and not chosen yet. */
  protected readonly offered = computed(() => {
    const there = this.selected().filter((name) => this.columns().includes(name));
    return there.length > 0 && there.join('\n') !== this.names()?.join('\n') ? there : [];
  });

  protected choose(names: readonly string[]) {
    this.changed.emit({ by: this.value().by as 'names', names: [...names] });
  }
  /** Takes a name out. */
  protected name(names: readonly string[], column: string) {
    this.choose(names.filter((each) => each !== column));
  }
  /** The columns there are, and the one named if it is not (any more). */
  protected withOwn = (named: string) => [...this.columns(), ...(named === '' || this.columns().includes(named) ? [] : [named])];
  protected choiceBy(by: ColumnChoice['by']): ColumnChoice {
    const names = [...(this.names() ?? [])];
    switch (by) {
      case 'all':
        return { by };
      case 'names':
      case 'all but':
        return { by, names };
      case 'all after':
        return { by, name: this.columns()[0] ?? '' };
      case 'names matching':
        return { by, pattern: '*' };
      case 'type':
        return { by, type: 'text' };
    }
  }
}
