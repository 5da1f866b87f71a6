import { NgTemplateOutlet } from '@angular/common';
import { Component, computed, forwardRef, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { Tooltip } from 'primeng/tooltip';
import { Tick } from '../shared/tick';
import { Pick } from '../shared/pick';
import { initialSettings, type Field } from '../../../../core/steps/fields';
import { namesChosen, type ColumnChoice } from '../../../../core/steps/column-choice';
import type { Condition } from '../../../../core/steps/conditions';
import { columnNames } from '../../../../core/steps/step';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { sameSubject, type ValuesOf } from './column-values';
import { BetweenField } from './between-field';
import { ColumnsField } from './columns-field';
import { ConditionsForm } from './conditions-form';
import { CutsField } from './cuts-field';
import { FormulaField } from './formula-field';
import { withComputed, type FormulaSample } from './formula-sample';
import type { Pair } from './pairs';
import { NumberField } from './number-field';
import { PairsTable } from './pairs-table';
import { PatternField } from './pattern-field';
import { TemplateField } from './template-field';
import { ValueList } from './value-list';

type Values = Record<string, unknown>;
let made = 0;

/** The form of a step, generated from its schema: a fitting widget for every setting. */
@Component({
  selector: 'sieve-settings-form',
  imports: [NgTemplateOutlet, Tooltip, forwardRef(() => SettingsForm), BetweenField, ColumnsField, NumberField, ConditionsForm, CutsField, FormulaField, PairsTable, PatternField, TemplateField, ValueList, ButtonDirective, InputText, Textarea, Pick, Tick],
  template: `
    <div class="fields">
    @for (field of shownFields(); track field.name) {
      <div class="setting" [class.whole]="whole.has(field.widget)">
        @if (grouped.has(field.widget)) {
          <span class="title">{{ field.title }} <ng-container *ngTemplateOutlet="help; context: { $implicit: field }" /></span>
        } @else if (field.widget !== 'list') {
          <span class="title"><label [for]="id + field.name">{{ field.title }}</label> <ng-container *ngTemplateOutlet="help; context: { $implicit: field }" /></span>
        }
        @switch (field.widget) {
          @case ('number') {
            <sieve-number [fieldId]="id + field.name" [value]="value(field)" [zero]="field.zero" (changed)="set(field, $event)" />
          }
          @case ('between') {
            <sieve-between [fieldId]="id + field.name" [label]="field.title" [value]="value(field)" (changed)="set(field, $event)" />
          }
          @case ('toggle') {
            <sieve-tick [inputId]="id + field.name" [on]="value(field) === true" (ticked)="set(field, $event)" />
          }
          @case ('pick') {
            <sieve-pick [inputId]="id + field.name" [options]="field.options" [value]="value(field)" (picked)="set(field, $event)" />
          }
          @case ('texts') {
            <textarea pTextarea [id]="id + field.name"  rows="2" [value]="lines(value(field))" (change)="set(field, linesOf($event))" placeholder="one a line"></textarea>
          }
          @case ('columns') {
            <sieve-columns-field [fieldId]="id + field.name" [label]="field.title" [value]="value(field)" [columns]="columns()" [selected]="selected()" (changed)="set(field, $event)" />
          }
          @case ('column') {
            <sieve-pick [inputId]="id + field.name" placeholder="no column" [options]="columnOptions(field)" [value]="value(field) || ''" (picked)="set(field, $event)" />
          }
          @case ('conditions') {
            <sieve-conditions [conditions]="conditionsOf(field)" [columns]="columns()" [sample]="sample()" [joined]="field.joinedBy && setting(field.joinedBy) === 'any' ? 'or' : 'and'" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('values') {
            <sieve-value-list [label]="field.title" [chosen]="value(field)" [subject]="subjectOf(field.of)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('pairs') {
            <sieve-pairs-table [label]="field.title" [pairs]="pairsOf(field)" [names]="field.of === columnNames ? columns() : undefined" [subject]="subjectOf(field.of)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('pattern') {
            <sieve-pattern-field [fieldId]="id + field.name" [text]="value(field)" [find]="findWay(field.find)" [matchCase]="field.matchCase !== undefined && setting(field.matchCase) === true" [subject]="subjectOf(field.of)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('template') {
            <sieve-template-field [fieldId]="id + field.name" [text]="value(field)" [whole]="field.whole === 'always' || (field.whole !== undefined && setting(field.of) === field.whole)" [texts]="field.of === columnNames ? headings() : undefined" [subject]="subjectOf(field.of)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('formula') {
            <sieve-formula-field [label]="field.title" [text]="value(field)" [sample]="sample()" (changed)="set(field, $event)" />
          }
          @case ('cuts') {
            <sieve-cuts-field [cuts]="value(field)" [subject]="subjectOf(field.of)" [valuesOf]="valuesOf()" (changed)="set(field, $event)" />
          }
          @case ('list') {
            <fieldset>
              <legend>{{ field.title }}</legend>
              @for (item of itemsOf(field); track $index) {
                <div class="item">
                  <sieve-settings-form [fields]="field.fields" [values]="item" [outer]="values()" [columns]="columns()" [sample]="sampleFor(field, $index)" [selected]="selected()" [valuesOf]="valuesOf()" (changed)="setItem(field, $index, $event)" />
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
    </div>
    <ng-template #help let-field>
      @if (field.help) {
        <button type="button" class="help" [pTooltip]="field.help" tooltipPosition="top" [attr.aria-label]="'About ' + field.title + ': ' + field.help"><i class="pi pi-info-circle" aria-hidden="true"></i></button>
      }
    </ng-template>
  `,
  styles: `
    .help {
      padding: 0 2px;
      border: 0;
      background: none;
      color: var(--muted);
      cursor: help;
    }
    .help .pi {
      font-size: 11px;
    }
    :host {
      display: block;
      container-type: inline-size;
    }
    .fields {
      display: grid;
      gap: 6px;
    }
    /* Where there is room, fields stand beside one another. */
    @container (min-width: 560px) {
      .fields {
        grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
        gap: 6px 18px;
        align-items: start;
      }
      .whole {
        grid-column: 1 / -1;
      }
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
  /** Columns that are selected in the sheet. */
  readonly selected = input<readonly string[]>([]);
  /** Asks for the values in columns above the step. */
  readonly valuesOf = input<ValuesOf>();
  /** Rows above the step, on which formulas are tried. */
  readonly sample = input<FormulaSample | undefined>();
  /** The settings around those of a line. */
  readonly outer = input<Values>({});
  readonly changed = output<Values>();

  protected readonly id = `setting-${++made}-`;
  protected readonly columnNames = columnNames;
  /** Widgets that are groups of fields. */
  protected readonly grouped = new Set<Field['widget']>(['conditions', 'values', 'pairs', 'cuts', 'formula']);
  /** Widgets that take the whole width. */
  protected readonly whole = new Set<Field['widget']>(['conditions', 'pairs', 'list', 'cuts', 'pattern', 'template', 'formula']);
  protected readonly shownFields = computed(() => this.fields().filter(({ when }) => !when || when.is.includes(String(this.values()[when.setting] ?? this.fields().find(({ name }) => name === when.setting)?.initial))));
  /** The columns that the step chooses, as far as names tell. */
  protected readonly headings = computed(() => {
    const field = this.fields().find(({ widget }) => widget === 'columns');
    return namesChosen(this.columns(), field && (this.value(field) as ColumnChoice));
  });

  protected value = (field: Field): any => this.values()[field.name] ?? field.initial;
  protected set = (field: Field, value: unknown) => this.changed.emit({ ...this.values(), [field.name]: value });
  protected text = (event: Event) => (event.target as HTMLInputElement).value;
  protected lines = (value: unknown) => ((value as string[]) ?? []).join('\n');
  protected linesOf = (event: Event) => this.text(event).split('\n').map((line) => line.trim()).filter(Boolean);

  /** Another setting, or one of those around a line. */
  protected setting = (name: string): unknown => this.values()[name] ?? this.outer()[name];
  /** The columns there are, and those named in the settings that are not (any more). */
  private columnsFor = (named: readonly string[]) => [...this.columns(), ...named.filter((name) => name !== '' && !this.columns().includes(name))];
  /** A column, or none where that is picked already or nothing is. */
  protected columnOptions = (field: Field) => [{ value: '', says: 'no column' }, ...this.columnsFor([this.value(field)]).map((name) => ({ value: name, says: name }))];
  protected conditionsOf = (field: Field) => this.value(field) as Condition[];
  protected pairsOf = (field: Field) => this.value(field) as Pair[];
  /** How a text to look for is meant; unsaid it is a pattern. */
  protected findWay = (named: string | undefined) => (named === undefined ? 'a pattern' : (this.setting(named) as 'a pattern'));
  /** Whose values a widget is about: the columns, or the place on paper, that another setting names. */
  protected subjectOf(of: string): ValuesSubject | undefined {
    const named = this.setting(of);
    if (typeof named === 'object' && named !== null) return sameSubject(named as ColumnChoice);
    if (typeof named !== 'string' || named === '') return undefined;
    const about = this.fields().find(({ name }) => name === of)?.widget ?? 'column';
    if (about === 'column') return sameSubject({ by: 'names', names: [named] });
    return named === 'file name' || named === 'table title' || named === 'page text' ? sameSubject({ by: 'print', from: named }) : undefined;
  }

  /** A line may use what the lines above it work out. */
  protected sampleFor = (field: Field, at: number) => {
    const sample = this.sample();
    return sample && 'fields' in field && field.fields.some(({ widget }) => widget === 'formula') ? withComputed(sample, this.itemsOf(field).slice(0, at)) : sample;
  };
  protected itemsOf = (field: Field) => (this.value(field) ?? []) as Values[];
  protected setItem = (field: Field, at: number, item: Values) => this.set(field, this.itemsOf(field).map((each, i) => (i === at ? item : each)));
  protected removeItem = (field: Field, at: number) => this.set(field, this.itemsOf(field).filter((_, i) => i !== at));
  protected addItem = (field: Field) => this.set(field, [...this.itemsOf(field), initialSettings('fields' in field ? field.fields : [])]);
}
