import { Component, computed, inject, input } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { kindOf, type Step } from '../../../../core/steps/kinds';
import { PipelineState } from '../pipeline/pipeline-state';
import { LayerActs } from './layer-acts';
import { FormPlace } from './form-place';
import { LayerForm } from './layer-form';
import { changed } from './steps-edit';

/** The settings of the layer that is open, its own name and note, and what can be done with it. */
@Component({
  selector: 'sieve-layer-settings',
  imports: [ButtonDirective, InputText, LayerForm],
  template: `
    @if (form.isWide(step())) {
      <p class="small">{{ kind().help }} Its settings stand under the sheet. <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="form.put(step(), 'layer')">Put them here</button></p>
    } @else {
      <sieve-layer-form [step]="step()" />
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
    <div class="own">
      <label [for]="'name-' + step().id">Name</label>
      <input pInputText [id]="'name-' + step().id" [value]="step().name ?? ''" [placeholder]="kind().title" (change)="call({ name: written($event) })" />
      <label [for]="'note-' + step().id">Note</label>
      <input pInputText [id]="'note-' + step().id" [value]="step().note ?? ''" (change)="call({ note: written($event) })" />
    </div>
    <div class="acts">
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="acts.move(step(), -1)" [attr.aria-label]="'Move ' + title() + ' up'"><i class="pi pi-arrow-up" aria-hidden="true"></i></button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="acts.move(step(), 1)" [attr.aria-label]="'Move ' + title() + ' down'"><i class="pi pi-arrow-down" aria-hidden="true"></i></button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="acts.toggle(step())">{{ step().off ? 'Switch on' : 'Switch off' }}</button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="acts.remove(step())">Remove</button>
      @if (!form.isWide(step())) {
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="form.put(step(), 'foot')">Wide</button>
      }
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="acts.copy(step())">Copy</button>
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
  protected readonly form = inject(FormPlace);
  readonly step = input.required<Step>();
  readonly title = input.required<string>();

  protected readonly kind = computed(() => kindOf(this.step()));
  protected readonly acts = inject(LayerActs);

  protected written = (event: Event) => (event.target as HTMLInputElement).value.trim() || undefined;
  /** Takes an exception out: the rows are held again. */
  protected holdAgain(at: number) {
    const pass = this.step().pass!.filter((_, i) => i !== at);
    this.call({ pass: pass.length > 0 ? pass : undefined });
  }
  protected call = (changes: { [Key in keyof Step]?: Step[Key] | undefined }) => this.state.change(changed(this.state.document()!, this.step().id, changes as Partial<Step>));
}
