import { Component, inject, input, output } from '@angular/core';
import type { Unlike } from '../../../../core/checks/reconcile';
import { plainNumber } from '../../../../core/values/plain-number';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';

/** What is unlike between the dataset and a list; a row of the dataset is gone to by a press, and from there to its paper. */
@Component({
  selector: 'sieve-reconciled-list',
  imports: [FailedLine, Notice],
  template: `
    <sieve-failed-line [of]="[compared]" />
    @if (compared.value(); as answer) {
      @if (answer.because; as because) {
        <p class="small">{{ because }}</p>
      }
      <ol tabindex="0" aria-label="What does not agree">
        @for (each of answer.unlike; track $index) {
          <li>
            @if (each.row !== undefined) {
              <button type="button" (click)="look.emit({ row: each.row, column: each.column })">{{ says(each) }}</button>
            } @else {
              {{ says(each) }}
            }
          </li>
        }
        @if (answer.more > 0) {
          <li class="small">and {{ answer.more }} more</li>
        }
      </ol>
    } @else if (compared.waiting()) {
      <sieve-notice kind="loading">Comparing</sieve-notice>
    }
  `,
  styles: `
    ol {
      max-height: 260px;
      overflow: auto;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    button {
      border: 0;
      padding: 2px 0;
      background: none;
      color: var(--copper);
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
  `,
})
export class ReconciledList {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly check = input.required<string>();
  /** A row of the dataset is to be looked at, in a column. */
  readonly look = output<{ row: number; column: string | undefined }>();
  protected readonly compared = asked(
    () => ({ pipeline: this.state.id(), check: this.check(), version: this.state.version() }),
    ({ pipeline, check }) => this.api.reconciled(pipeline, check),
    { keeps: true },
  );
  private readonly words: Readonly<Record<Unlike['kind'], string>> = { 'only here': 'only in the dataset', 'only there': 'only in the list', differs: '', 'twice here': 'more than once in the dataset', 'twice there': 'more than once in the list' };
  protected readonly says = ({ kind, key, column, here, there, by }: Unlike) =>
    kind === 'differs' ? `${key}: “${column}” is ${here || 'blank'} here, ${there || 'blank'} there${by === undefined ? '' : ` (${by > 0 ? '+' : ''}${plainNumber(by)})`}` : `${key}: ${this.words[kind]}`;
}
