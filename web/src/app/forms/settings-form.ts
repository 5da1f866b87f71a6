import { Component, computed, forwardRef, input, output } from '@angular/core';
import { initialSettings, type Field } from '../../../../core/steps/fields';
import type { ColumnChoice } from '../../../../core/steps/column-choice';
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
  imports: [forwardRef(() => SettingsForm), ConditionsForm, CutsField, PairsTable, PatternField, TemplateField, ValueList],
  template: `
    @for (field of shownFields(); track field.name) {
      <div class="setting" [class.tall]="tall.has(field.widget)" [title]="field.help">
        @if (grouped.has(field.widget)) {
          <span class="title">{{ field.title }}</span>
        } @else if (field.widget !== 'list') {
          <label [for]="id + field.name">{{ field.title }}</label>
        }
        @switch (field.widget) {
          @case ('number') {
            <input [id]="id + field.name" class="field" type="number" min="0" [value]="value(field)" (input)="set(field, number($event))" />
          }
          @case ('toggle') {
            <input [id]="id + field.name" type="checkbox" [checked]="value(field)" (change)="set(field, checked($event))" />
          }
          @case ('pick') {
            <select [id]="id + field.name" class="field" (change)="set(field, text($event))">
              @for (option of field.options; track option) {
                <option [selected]="option === value(field)">{{ option }}</option>
              }
            </select>
          }
          @case ('texts') {
            <textarea [id]="id + field.name" class="field" rows="2" [value]="lines(value(field))" (change)="set(field, linesOf($event))" placeholder="one a line"></textarea>
          }
          @case ('columns') {
            @let choice = choiceOf(field);
            <span class="pair">
              <select [id]="id + field.name" class="field" (change)="set(field, choiceBy(text($event), choice))">
                @for (rule of columnRules; track rule) {
                  <option [selected]="rule === choice.by">{{ rule }}</option>
                }
              </select>
              @if (choice.by === 'names' || choice.by === 'all but') {
                <span class="chips" role="group" [attr.aria-label]="field.title">
                  @for (column of choice.names; track column) {
                    <button type="button" class="chip" [class.gone]="!columns().includes(column)" (click)="set(field, toggled(choice, column))" [attr.aria-label]="'Take ' + column + ' out'" [title]="columns().includes(column) ? '' : 'There is no such column at this layer'">{{ column }} <i class="pi pi-times" aria-hidden="true"></i></button>
                  }
                  @if (others(choice.names).length > 0) {
                    <select class="field more" [attr.aria-label]="'Add a column to ' + field.title" (change)="set(field, toggled(choice, text($event)))">
                      <option value="" selected>+ column</option>
                      @for (column of others(choice.names); track column) {
                        <option [value]="column">{{ column }}</option>
                      }
                    </select>
                  }
                </span>
              } @else if (choice.by === 'all after') {
                <select class="field" [attr.aria-label]="field.title + ': after which'" (change)="set(field, { by: 'all after', name: text($event) })">
                  @for (column of columnsFor([choice.name]); track column) {
                    <option [selected]="column === choice.name">{{ column }}</option>
                  }
                </select>
              } @else if (choice.by === 'names matching') {
                <input class="field" [attr.aria-label]="field.title + ': pattern'" [value]="choice.pattern" (input)="set(field, { by: 'names matching', pattern: text($event) })" placeholder="20*" />
              } @else if (choice.by === 'type') {
                <select class="field" [attr.aria-label]="field.title + ': type'" (change)="set(field, { by: 'type', type: text($event) })">
                  @for (type of types; track type) {
                    <option [selected]="type === choice.type">{{ type }}</option>
                  }
                </select>
              }
            </span>
          }
          @case ('column') {
            <select [id]="id + field.name" class="field" (change)="set(field, text($event))">
              <option value="" [selected]="!value(field)">no column</option>
              @for (column of columnsFor([value(field)]); track column) {
                <option [value]="column" [selected]="column === value(field)">{{ column }}</option>
              }
            </select>
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
            <sieve-template-field [fieldId]="id + field.name" [text]="value(field)" [whole]="values()['from'] === 'file name'" [subject]="subjectOf(field)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
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
                  <button type="button" class="btn quiet" (click)="removeItem(field, $index)" [attr.aria-label]="'Remove line ' + ($index + 1) + ' of ' + field.title"><i class="pi pi-times" aria-hidden="true"></i></button>
                </div>
              }
              <button type="button" class="btn quiet" (click)="addItem(field)">+ line</button>
            </fieldset>
          }
          @default {
            <input [id]="id + field.name" class="field" [value]="value(field) ?? ''" (input)="set(field, text($event))" />
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
      grid-template-columns: 88px minmax(0, 1fr);
      gap: 4px 8px;
      align-items: center;
    }
    .setting:has(fieldset) {
      grid-template-columns: minmax(0, 1fr);
    }
    label,
    .title {
      color: var(--muted);
    }
    .setting.tall {
      grid-template-columns: minmax(0, 1fr);
    }
    .field {
      width: 100%;
    }
    input[type='checkbox'] {
      justify-self: start;
      width: 16px;
      height: 16px;
      accent-color: var(--copper);
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
      border: 1px solid #8a938f;
      border-radius: 10px;
      background: var(--panel);
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
    .chips .more {
      width: auto;
      max-width: 100px;
      padding: 0 4px;
      font-size: 12px;
    }
    .item .setting {
      grid-template-columns: 62px minmax(0, 1fr);
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
  /** Widgets that need the whole width, and those that are groups of fields. */
  protected readonly tall = new Set<Field['widget']>(['conditions', 'values', 'pairs', 'cuts', 'pattern', 'template']);
  protected readonly grouped = new Set<Field['widget']>(['conditions', 'values', 'pairs', 'cuts']);
  protected readonly shownFields = computed(() => this.fields().filter(({ when }) => !when || when.is.includes(String(this.values()[when.setting] ?? this.fields().find(({ name }) => name === when.setting)?.initial))));
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
