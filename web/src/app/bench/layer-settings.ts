import { Component, computed, inject, input, output, signal } from '@angular/core';
import * as v from 'valibot';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { faultsOf } from '../../../../core/pipeline/document';
import { formOf } from '../../../../core/steps/fields';
import { kindOf, type Step } from '../../../../core/steps/kinds';
import type { ErrorPlace, SheetWindow } from '../../../../server/contract/contract';
import type { ValuesOf } from '../forms/column-values';
import { SettingsForm } from '../forms/settings-form';
import { PipelineState } from '../pipeline/pipeline-state';
import { changed, changedAndFollowed, moved, removed, stepText } from './steps-edit';
import { TypesForm, type LookPlace } from './types-form';

/** The settings of the layer that is open, its own name and note, and what can be done with it. */
@Component({
  selector: 'sieve-layer-settings',
  imports: [ButtonDirective, InputText, SettingsForm, TypesForm],
  template: `
    <p class="small">{{ kind().help }}</p>
    @if (step().kind === 'set types') {
      <sieve-types-form [step]="step().id" [values]="values()" [columns]="columns()" [after]="after()" [errors]="errors()" (changed)="set($event)" (look)="look.emit($event)" />
    } @else {
      <sieve-settings-form [fields]="fields()" [values]="values()" [columns]="columns()" [valuesOf]="valuesOf()" (changed)="set($event)" />
    }
    @if (step().pass?.length) {
      <ul class="passes" aria-label="Rows let pass">
        @for (exception of step().pass; track $index) {
          <li>
            <span><i class="pi pi-check" aria-hidden="true"></i> “{{ exception.text }}” passes{{ exception.report ? ' in ' + exception.report : '' }}</span>
            <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-label]="'Hold “' + exception.text + '” again'" (click)="holdAgain($index)"><i class="pi pi-times" aria-hidden="true"></i></button>
          </li>
        }
      </ul>
    }
    @if (fault(); as fault) {
      <p class="error small" role="alert">{{ fault }}</p>
    }
    <div class="own">
      <label [for]="'name-' + step().id">Name</label>
      <input pInputText [id]="'name-' + step().id" [value]="step().name ?? ''" [placeholder]="kind().title" (change)="call({ name: written($event) })" />
      <label [for]="'note-' + step().id">Note</label>
      <input pInputText [id]="'note-' + step().id" [value]="step().note ?? ''" (change)="call({ note: written($event) })" />
    </div>
    <div class="acts">
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="move(-1)" [attr.aria-label]="'Move ' + title() + ' up'"><i class="pi pi-arrow-up" aria-hidden="true"></i></button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="move(1)" [attr.aria-label]="'Move ' + title() + ' down'"><i class="pi pi-arrow-down" aria-hidden="true"></i></button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="toggle()">{{ step().off ? 'Switch on' : 'Switch off' }}</button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="remove()">Remove</button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="copy()">{{ copied() ? 'Copied' : 'Copy' }}</button>
    </div>
  `,
  styles: `
    :host {
      display: block;
      padding: 2px 8px 8px;
      cursor: default;
    }
    p {
      margin: 2px 0 6px;
    }
    .own {
      margin-top: 8px;
      padding-top: 6px;
      border-top: 1px dashed var(--line);
      display: grid;
      grid-template-columns: 44px minmax(0, 1fr);
      gap: 4px 8px;
      align-items: center;
      color: var(--muted);
    }
    .own .p-inputtext {
      width: 100%;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 2px;
      margin-top: 6px;
    }
    .passes {
      list-style: none;
      margin: 6px 0 0;
      padding: 0;
      font-size: 12px;
      color: var(--verdigris);
    }
    .passes li {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
  `,
})
export class LayerSettings {
  private readonly state = inject(PipelineState);
  readonly step = input.required<Step>();
  readonly title = input.required<string>();
  /** Names of the columns above the step. */
  readonly columns = input.required<readonly string[]>();
  /** The columns as they leave it, and the error cells in it. */
  readonly after = input.required<SheetWindow['columns']>();
  readonly errors = input.required<readonly ErrorPlace[]>();
  /** Asks for the values above the step. */
  readonly valuesOf = input<ValuesOf>();
  readonly look = output<LookPlace>();
  readonly gone = output<void>();

  protected readonly kind = computed(() => kindOf(this.step()));
  protected readonly fields = computed(() => formOf(this.kind()));
  protected readonly fault = signal<string | undefined>(undefined);
  protected readonly copied = signal(false);
  /** Settings being written that the schema does not take yet. */
  private readonly draft = signal<Record<string, unknown> | undefined>(undefined);
  protected readonly values = computed(() => this.draft() ?? this.step().settings);

  /** Settings that the schema takes are saved at once; others stay a draft with the sentence why. */
  protected set(values: Record<string, unknown>) {
    const result = v.safeParse(this.kind().settings, values);
    this.draft.set(result.success ? undefined : values);
    this.fault.set(result.success ? undefined : faultsOf(new v.ValiError(result.issues)));
    if (result.success) this.state.change(changedAndFollowed(this.state.document()!, this.step().id, { settings: result.output as Record<string, unknown> }, this.columns()), this.step().id);
  }

  protected written = (event: Event) => (event.target as HTMLInputElement).value.trim() || undefined;
  /** Takes an exception out: the rows are held again. */
  protected holdAgain(at: number) {
    const pass = this.step().pass!.filter((_, i) => i !== at);
    this.call({ pass: pass.length > 0 ? pass : undefined });
  }
  protected call = (changes: { [Key in keyof Step]?: Step[Key] | undefined }) => this.state.change(changed(this.state.document()!, this.step().id, changes as Partial<Step>));
  /** The step as text, to be put in here or in another pipeline. */
  protected copy() {
    void navigator.clipboard.writeText(stepText(this.step())).then(
      () => this.copied.set(true),
      () => this.fault.set('The browser did not let the clipboard be used.'),
    );
  }
  protected move = (by: -1 | 1) => this.state.change(moved(this.state.document()!, this.step().id, by));
  protected toggle = () => this.state.change(changedAndFollowed(this.state.document()!, this.step().id, { off: !this.step().off }, this.columns()));
  protected remove() {
    this.state.change(removed(this.state.document()!, this.step().id));
    this.gone.emit();
  }
}
