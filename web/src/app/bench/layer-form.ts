import { NgComponentOutlet } from '@angular/common';
import { Component, computed, inject, input, linkedSignal } from '@angular/core';
import * as v from 'valibot';
import { faultsOf } from '../../../../core/pipeline/document';
import type { RowId } from '../../../../core/sheet/row';
import { formOf, type Field } from '../../../../core/steps/fields';
import { kindOf, type Kind, type Step } from '../../../../core/steps/kinds';
import type { FormulaSample } from '../forms/formula-sample';
import { SettingsForm } from '../forms/settings-form';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { BeforeAfter } from './before-after';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';
import { ownForms } from './kinds-of-forms';
import type { OwnForm } from './own-form';
import { changedAndFollowed } from './steps-edit';

const isSame = (one: RowId, other: RowId | undefined) => one.table === other?.table && one.ordinal === other.ordinal;
/** Is a formula written in any of the fields? */
const asksFormulas = (fields: readonly Field[]): boolean => fields.some((field) => field.widget === 'formula' || field.widget === 'conditions' || ('fields' in field && asksFormulas(field.fields)));

/** The form of the step that is open. What the schema takes is saved at once; else it stays a draft, with the sentence why. */
@Component({
  selector: 'sieve-layer-form',
  imports: [BeforeAfter, NgComponentOutlet, SettingsForm],
  template: `
    <p class="small">{{ kind().help }}</p>
    @if (kind().group === 'shape') {
      <sieve-before-after [step]="step()" [values]="values()" />
    }
    @if (ownForm(); as form) {
      <ng-container *ngComponentOutlet="form; inputs: { of: given() }" />
    } @else {
      <sieve-settings-form [fields]="fields()" [values]="values()" [columns]="columns()" [sample]="sample()" [selected]="selection.columnNames()" [valuesOf]="at.valuesOf()" (changed)="set($event)" />
    }
    @if (fault(); as fault) {
      <p class="error small" role="alert">{{ fault }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    p {
      margin: 2px 0 6px;
    }
  `,
})
export class LayerForm {
  private readonly state = inject(PipelineState);
  protected readonly at = inject(BenchLook);
  protected readonly selection = inject(BenchSelection);
  readonly step = input.required<Step>();

  protected readonly kind = computed(() => kindOf(this.step()));
  protected readonly fields = computed(() => formOf(this.kind()));
  protected readonly ownForm = computed(() => ownForms[this.step().kind as Kind]);
  protected readonly columns = computed(() => this.at.columnsAbove(this.step().id));
  private readonly above = computed(() => this.at.rowsAbove(this.step().id));
  /** The row that is chosen in the sheet, by its name, where formulas are tried and it is not among the first rows above. */
  private readonly chosenFar = computed(() => {
    const [above, chosen] = [this.above(), this.selection.row()?.id];
    return above && chosen && chosen.ordinal >= 0 && asksFormulas(this.fields()) && !above.window.some(({ id }) => isSame(id, chosen)) ? chosen : undefined;
  });
  private readonly far = asked(
    () => this.chosenFar() && { chosen: this.chosenFar()!, step: this.step().id, above: this.above() },
    ({ chosen, step }) => this.at.rowAbove(step, chosen),
  );
  /** The first rows above, on which formulas are tried, and with them the row that is chosen in the sheet: it is looked at. */
  protected readonly sample = computed((): FormulaSample | undefined => {
    const above = this.above();
    if (!above) return undefined;
    const chosen = this.selection.row()?.id;
    const rows = [...above.window, ...(this.chosenFar() ? (this.far.value() ?? []) : [])];
    return {
      file: this.at.shown()?.path.split('/').at(-1) ?? '',
      columns: above.columns,
      rows: rows.map(({ page, line, cells }) => ({ label: line === undefined ? String(page) : `${page} · ${line}`, page, cells })),
      chosen: Math.max(0, rows.findIndex(({ id }) => isSame(id, chosen))),
    };
  });
  /** Settings being written that the schema does not take yet, of this step only. */
  private readonly draft = linkedSignal<string, { values: Record<string, unknown>; fault: string } | undefined>({ source: () => this.step().id, computation: () => undefined });
  protected readonly fault = computed(() => this.draft()?.fault);
  protected readonly values = computed(() => this.draft()?.values ?? this.step().settings);
  protected readonly given = computed((): OwnForm => ({
    step: this.step().id,
    values: this.values(),
    columns: this.columns(),
    after: this.at.sheet()?.columns ?? [],
    errors: this.at.errors(),
    set: (values) => this.set(values),
    look: (place) => this.selection.lookAtPlace(place),
  }));

  protected set(values: Record<string, unknown>) {
    const result = v.safeParse(this.kind().settings, values);
    this.draft.set(result.success ? undefined : { values, fault: faultsOf(new v.ValiError(result.issues)) });
    if (result.success) this.state.change(changedAndFollowed(this.state.document()!, this.step().id, { settings: result.output as Record<string, unknown> }, this.at.above(this.step().id)), this.step().id);
  }
}
