import { Component, computed, input, linkedSignal, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { labelsFor } from '../../../../core/intake/labels';
import { nameOfLabel } from './take-rules';
import type { LabelSetting } from '../../../../core/intake/take-rule';
import type { PageContent } from '../../../../core/page/page';

/** What stands beside or above a value that was pointed at, and what to make of it. */
@Component({
  selector: 'sieve-labels-panel',
  imports: [ButtonDirective, InputText],
  host: { class: 'by-hand' },
  template: `
    <div class="body">
      @if (proposals().length === 0) {
        <p>{{ word() === undefined ? 'Point at a value on the paper, like the number of a note.' : 'No label stands beside or above that text. Point at another.' }}</p>
      }
      @for (proposal of proposals(); track proposal.side) {
        <div class="card">
          <p>
            <b>{{ proposal.value }}</b> stands {{ proposal.side === 'right' ? 'beside' : 'under' }} <b>{{ proposal.label }}</b>
          </p>
          <p>
            <label [for]="'label-name-' + proposal.side">Column</label>&nbsp;
            <input pInputText [id]="'label-name-' + proposal.side" [value]="nameOf(proposal)" (input)="name.set($any($event.target).value)" />
          </p>
          <p class="acts">
            <button pButton severity="secondary" [outlined]="true" [class.go]="$first" (click)="take.emit(setting(proposal))">Take as a value of the report</button>
            <button pButton severity="secondary" [outlined]="true" (click)="stamp.emit(setting(proposal))">Stamp it on every row</button>
          </p>
        </div>
      }
      @if (labels().length > 0) {
        <h3>Values taken <span class="small">one row a report</span></h3>
        <ul>
          @for (label of labels(); track label.name) {
            <li>
              <span>{{ label.name }} <span class="small">{{ label.side === 'right' ? 'beside' : 'under' }} “{{ label.label }}”</span></span>
              <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-label]="'Leave out ' + label.name" (click)="leave.emit(label)"><i class="pi pi-times" aria-hidden="true"></i></button>
            </li>
          }
        </ul>
      }
    </div>
    <div class="foot"><button pButton type="button" [text]="true" size="small" severity="secondary" (click)="close.emit()">Back to what is taken</button></div>
  `,
  styles: `
    .card {
      margin: 6px 0;
      padding: 8px 11px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--panel);
    }
    p {
      margin: 4px 0;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    ul {
      list-style: none;
      margin: 4px 0;
      padding: 0;
    }
    li {
      display: flex;
      justify-content: space-between;
      border-bottom: 1px solid var(--line-soft);
    }
  `,
})
export class LabelsPanel {
  readonly page = input.required<PageContent>();
  /** The word pointed at. */
  readonly word = input.required<number | undefined>();
  /** Labels taken so far. */
  readonly labels = input.required<readonly LabelSetting[]>();
  readonly take = output<LabelSetting>();
  readonly stamp = output<LabelSetting>();
  readonly leave = output<LabelSetting>();
  readonly close = output<void>();

  protected readonly proposals = computed(() => (this.word() === undefined ? [] : labelsFor(this.page(), this.word()!)));
  /** A name typed for the column; until then the label itself. */
  protected readonly name = linkedSignal({ source: () => this.word(), computation: () => '' });
  protected nameOf = ({ label }: { label: string }) => this.name() || nameOfLabel(label);
  protected setting = (proposal: { label: string; side: LabelSetting['side'] }): LabelSetting => ({ name: this.nameOf(proposal), label: proposal.label, side: proposal.side });
}
