import { Component, computed, forwardRef, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { Tick } from '../shared/tick';
import { Pick } from '../shared/pick';
import { initialSettings, type Field } from '../../../../core/steps/fields';
import { namesChosen, type ColumnChoice } from '../../../../core/steps/column-choice';
import type { Condition } from '../../../../core/steps/conditions';
import { valueTypes } from '../../../../core/sheet/column';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { sameSubject, type ValuesOf } from './column-values';
import { ConditionsForm } from './conditions-form';
import { CutsField } from './cuts-field';
import type { Pair } from './pairs';
import { PairsTable } from './pairs-table';
import { PatternField } from './pattern-field';
import { TemplateField } from './template-field';
import { ValueList } from './value-list';

type Values = Record<string, unknown>;
let made = 0;

/** The form of a step, generated from its schema: a fitting widget for every setting. */
@Component({
  selector: 'sieve-settings-form',
  imports: [forwardRef(() => SettingsForm), ConditionsForm, CutsField, PairsTable, PatternField, TemplateField, ValueList, ButtonDirective, InputText, Textarea, Pick, Tick],
  template: `
    @for (field of shownFields(); track field.name) {
      <div class="setting" [title]="field.help">
        @if (grouped.has(field.widget)) {
          <span class="title">{{ field.title }}</span>
        } @else if (field.widget !== 'list') {
          <label [for]="id + field.name">{{ field.title }}</label>
        }
        @switch (field.widget) {
          @case ('number') {
            <input pInputText [id]="id + field.name"  type="number" min="0" [value]="value(field)" (input)="set(field, number($event))" />
          }
          @case ('toggle') {
            <sieve-tick [inputId]="id + field.name" [on]="value(field) === true" (ticked)="set(field, $event)" />
          }
          @case ('pick') {
            <sieve-pick [inputId]="id + field.name" [options]="$any(field.options)" [value]="value(field)" (picked)="set(field, $event)" />
          }
          @case ('texts') {
            <textarea pTextarea [id]="id + field.name"  rows="2" [value]="lines(value(field))" (change)="set(field, linesOf($event))" placeholder="one a line"></textarea>
          }
          @case ('columns') {
            @let choice = choiceOf(field);
            <span class="pair">
              <sieve-pick [inputId]="id + field.name" [options]="columnRules" [value]="choice.by" (picked)="set(field, choiceBy($any($event), choice))" />
              @if (choice.by === 'names' || choice.by === 'all but') {
                <span class="chips" role="group" [attr.aria-label]="field.title">
                  @for (column of choice.names; track column) {
                    <button type="button" class="chip" [class.gone]="!columns().includes(column)" (click)="set(field, toggled(choice, column))" [attr.aria-label]="'Take ' + column + ' out'" [title]="columns().includes(column) ? '' : 'There is no such column at this layer'">{{ column }} <i class="pi pi-times" aria-hidden="true"></i></button>
                  }
                  @if (others(choice.names).length > 0) {
                    <sieve-pick class="more" [label]="'Add a column to ' + field.title" placeholder="+ column" [forgets]="true" [options]="others(choice.names)" (picked)="set(field, toggled(choice, $event))" />
                  }
                </span>
              } @else if (choice.by === 'all after') {
                <sieve-pick [label]="field.title + ': after which'" [options]="columnsFor([choice.name])" [value]="choice.name" (picked)="set(field, { by: 'all after', name: $event })" />
              } @else if (choice.by === 'names matching') {
                <input pInputText [attr.aria-label]="field.title + ': pattern'" [value]="choice.pattern" (input)="set(field, { by: 'names matching', pattern: text($event) })" placeholder="20*" />
              } @else if (choice.by === 'type') {
                <sieve-pick [label]="field.title + ': type'" [options]="types" [value]="choice.type" (picked)="set(field, { by: 'type', type: $event })" />
              }
            </span>
          }
          @case ('column') {
            <sieve-pick [inputId]="id + field.name" placeholder="no column" [options]="columnOptions(field)" [value]="value(field) || ''" (picked)="set(field, $event)" />
          }
          @case ('conditions') {
            <sieve-conditions [conditions]="conditionsOf(field)" [columns]="columns()" [joined]="values()['when'] === 'any' ? 'or' : 'and'" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('values') {
            <sieve-value-list [label]="field.title" [chosen]="value(field)" [subject]="subjectOf(field)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('pairs') {
            <sieve-pairs-table [label]="field.title" [pairs]="pairsOf(field)" [names]="field.of === 'column names' ? columns() : undefined" [subject]="subjectOf(field)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('pattern') {
            <sieve-pattern-field [fieldId]="id + field.name" [text]="value(field)" [find]="findWay()" [matchCase]="values()['matchCase'] === true" [subject]="subjectOf(field)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('template') {
            <sieve-template-field [fieldId]="id + field.name" [text]="value(field)" [whole]="field.of === 'column names' || values()['from'] === 'file name'" [texts]="field.of === 'column names' ? headings() : undefined" [subject]="subjectOf(field)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('cuts') {
            <sieve-cuts-field [cuts]="value(field)" [subject]="subjectOf(field)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('list') {
            <fieldset>
              <legend>{{ field.title }}</legend>
              @for (item of itemsOf(field); track $index) {
                <div class="item">
                  <sieve-settings-form [fields]="field.fields" [values]="item" [outer]="values()" [columns]="columns()" [valuesOf]="valuesOf()" (changed)="setItem(field, $index, $event)" />
                  <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="removeItem(field, $index)" [attr.aria-label]="'Remove line ' + ($index + 1) + ' of ' + field.title"><i class="pi pi-times" aria-hidden="true"></i></button>
                </div>
              }
              <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="addItem(field)">+ line</button>
            </fieldset>
          }
          @default {
            <input pInputText [id]="id + field.name"  [value]="value(field) ?? ''" (input)="set(field, text($event))" />
          }
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .setting {
      display: grid;
      gap: 2px;
    }
    /* A tick stands beside its label. */
    .setting:has(> sieve-tick) {
      grid-template-columns: auto minmax(0, 1fr);
      gap: 8px;
      align-items: center;
    }
    .setting > sieve-tick {
      order: -1;
    }
    label,
    .title {
      color: var(--muted);
    }
    .p-inputtext {
      width: 100%;
    }
    .pair {
      display: grid;
      gap: 4px;
      min-width: 0;
    }
    .chips {
      display: flex;
      flex-wrap: wrap;
      gap: 3px;
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
    .more {
      width: 110px;
    }
    fieldset {
      margin: 0;
      padding: 4px 6px 6px;
      border: 1px solid var(--line);
      border-radius: 6px;
      min-width: 0;
    }
    legend {
      color: var(--muted);
      padding: 0 4px;
    }
    .item {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      align-items: start;
      padding: 4px 0;
      border-bottom: 1px dashed var(--line);
    }
  `,
})
export class SettingsForm {
  readonly fields = input.required<readonly Field[]>();
  readonly values = input.required<Values>();
  /** Names of the columns as they are at this layer. */
  readonly columns = input<readonly string[]>([]);
  /** Asks for the values in columns above the step. */
  readonly valuesOf = input<ValuesOf>();
  /** The settings around those of a line. */
  readonly outer = input<Values>({});
  readonly changed = output<Values>();

  protected readonly id = `setting-${++made}-`;
  protected readonly columnRules: readonly ColumnChoice['by'][] = ['all', 'names', 'all but', 'all after', 'names matching', 'type'];
  protected readonly types = valueTypes;
  /** Widgets that are groups of fields. */
  protected readonly grouped = new Set<Field['widget']>(['conditions', 'values', 'pairs', 'cuts']);
  protected readonly shownFields = computed(() => this.fields().filter(({ when }) => !when || when.is.includes(String(this.values()[when.setting] ?? this.fields().find(({ name }) => name === when.setting)?.initial))));
  /** The columns that the step's own choice of columns takes, as far as names tell. */
  protected readonly headings = computed(() => namesChosen(this.columns(), this.values()['columns'] as ColumnChoice | undefined));
  private readonly all = computed(() => this.columns());

  protected value = (field: Field): any => this.values()[field.name] ?? field.initial;
  protected set = (field: Field, value: unknown) => this.changed.emit({ ...this.values(), [field.name]: value });
  protected text = (event: Event) => (event.target as HTMLInputElement).value;
  protected number = (event: Event) => Number((event.target as HTMLInputElement).value);
  protected checked = (event: Event) => (event.target as HTMLInputElement).checked;
  protected lines = (value: unknown) => ((value as string[]) ?? []).join('\n');
  protected linesOf = (event: Event) => this.text(event).split('\n').map((line) => line.trim()).filter(Boolean);

  protected choiceOf = (field: Field) => this.value(field) as ColumnChoice;
  protected others = (named: readonly string[]) => this.all().filter((column) => !named.includes(column));
  /** The columns there are, and those named in the settings that are not (any more). */
  protected columnsFor = (named: readonly string[]) => [...this.all(), ...named.filter((name) => name !== '' && !this.all().includes(name))];
  protected toggled(choice: ColumnChoice & { names: readonly string[] }, column: string): unknown {
    return { ...choice, names: choice.names.includes(column) ? choice.names.filter((name) => name !== column) : [...choice.names, column] };
  }
  /** A column, or none where that is picked already or nothing is. */
  protected columnOptions = (field: Field) => [{ value: '', says: 'no column' }, ...this.columnsFor([this.value(field)]).map((name) => ({ value: name, says: name }))];
  protected choiceBy(by: string, before: ColumnChoice): ColumnChoice {
    const names = 'names' in before ? before.names : [];
    switch (by as ColumnChoice['by']) {
      case 'all':
        return { by: 'all' };
      case 'names':
        return { by: 'names', names };
      case 'all but':
        return { by: 'all but', names };
      case 'all after':
        return { by: 'all after', name: this.all()[0] ?? '' };
      case 'names matching':
        return { by: 'names matching', pattern: '*' };
      case 'type':
        return { by: 'type', type: 'text' };
    }
  }

  protected conditionsOf = (field: Field) => this.value(field) as Condition[];
  protected pairsOf = (field: Field) => this.value(field) as Pair[];
  protected findWay = () => (this.values()['find'] as 'a pattern' | undefined) ?? 'a pattern';
  /** Whose values a widget is about: the columns, or the place on paper, that another setting names. */
  protected subjectOf(field: Field): ValuesSubject | undefined {
    const named = this.values()[field.of] ?? this.outer()[field.of];
    if (typeof named === 'object' && named !== null) return sameSubject(named as ColumnChoice);
    if (typeof named !== 'string' || named === '') return undefined;
    if (field.of !== 'from') return sameSubject({ by: 'names', names: [named] });
    return named === 'file name' || named === 'table title' || named === 'page text' ? sameSubject({ by: 'print', from: named }) : undefined;
  }

  protected itemsOf = (field: Field) => (this.value(field) ?? []) as Values[];
  protected setItem = (field: Field, at: number, item: Values) => this.set(field, this.itemsOf(field).map((each, i) => (i === at ? item : each)));
  protected removeItem = (field: Field, at: number) => this.set(field, this.itemsOf(field).filter((_, i) => i !== at));
  protected addItem = (field: Field) => this.set(field, [...this.itemsOf(field), initialSettings(field.fields)]);
}
