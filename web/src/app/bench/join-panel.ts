import { Component, computed, inject, input } from '@angular/core';
import { PairsTable } from '../forms/pairs-table';
import { PipelineState } from '../pipeline/pipeline-state';
import { plural } from '../shared/words';

/** A column that some of the appended parts lack, by the names of these parts. */
export interface LackedColumn {
  readonly name: string;
  readonly lackedBy: readonly string[];
}

const named = 3;

/** What differs between the parts that are appended, and the table of spellings that makes their columns one. */
@Component({
  selector: 'sieve-join-panel',
  imports: [PairsTable],
  template: `
    @if (lacked().length === 0) {
      <p class="small">All {{ parts() }} have the same columns.</p>
    } @else {
      <ul>
        @for (column of lacked(); track column.name) {
          <li><b>{{ column.name }}</b>, <span class="needs small">not in {{ told(column.lackedBy) }}</span></li>
        }
      </ul>
      <p class="small">A column that a part lacks is blank in its rows. If it is printed there by another name, write the one name for both:</p>
    }
    <sieve-pairs-table label="Spellings" [pairs]="spellings()" [names]="names()" (changed)="change($event)" />
  `,
  styles: `
    :host {
      display: block;
      padding: 4px 0 6px;
    }
    ul {
      list-style: none;
      margin: 0 0 4px;
      padding: 0;
      max-height: 130px;
      overflow: auto;
    }
    p {
      margin: 2px 0 4px;
    }
  `,
})
export class JoinPanel {
  private readonly state = inject(PipelineState);
  /** What is appended: tables or reports. */
  readonly parts = input.required<string>();
  readonly lacked = input.required<readonly LackedColumn[]>();
  /** Every column name that the parts have. */
  readonly names = input.required<readonly string[]>();

  protected readonly spellings = computed(() => this.state.document()?.spellings ?? []);
  protected told = (parts: readonly string[]) => `${parts.slice(0, named).join(', ')}${parts.length > named ? ` and ${plural(parts.length - named, 'other')}` : ''}`;
  protected change(spellings: { readonly from: readonly string[]; readonly to: string }[]) {
    this.state.change({ ...this.state.document()!, spellings: spellings.map(({ from, to }) => ({ from: [...from], to })) });
  }
}
