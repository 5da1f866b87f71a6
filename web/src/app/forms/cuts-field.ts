import { Component, computed, input, output, signal } from '@angular/core';
import { Pick } from '../shared/pick';
import { cutAfter } from '../../../../core/steps/split-column';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { columnValues, type ValuesOf } from './column-values';

const shown = 5;

/** Cuts drawn between the letters of a sample; other values below it are cut at the same places. */
@Component({
  selector: 'sieve-cuts-field',
  imports: [Pick],
  template: `
    @if (sample(); as sample) {
      <sieve-pick label="Sample" [options]="samples()" [value]="sample" (picked)="picked.set($event)" />
      <div class="letters" role="group" [attr.aria-label]="'Cuts in ' + sample">
        @for (letter of letters(); track $index) {
          @if ($index > 0) {
            <button type="button" class="gap" [class.cut]="isCut($index)" [attr.aria-pressed]="isCut($index)" [attr.aria-label]="'Cut after ' + $index + ($index === 1 ? ' letter' : ' letters')" (click)="toggle($index)"></button>
          }
          <span>{{ letter }}</span>
        }
      </div>
      <table aria-label="Parts">
        @for (parts of others(); track $index) {
          <tr>@for (part of parts; track $index) {<td>{{ part }}</td>}</tr>
        }
      </table>
    } @else {
      <p class="small">{{ asked.failure() ? asked.failure()!.message : values() ? 'No text to cut here.' : 'Looking …' }}</p>
    }
  `,
  styles: `
    .p-inputtext {
      width: 100%;
    }
    .letters {
      display: flex;
      flex-wrap: wrap;
      margin: 4px 0;
      padding: 3px 4px;
      border: 1px solid var(--line);
      border-radius: 5px;
      white-space: pre;
    }
    .gap {
      position: relative;
      width: 9px;
      margin: 0 -2px;
      padding: 0;
      border: 0;
      background: none;
      cursor: col-resize;
    }
    .gap::after {
      content: '';
      position: absolute;
      inset: -2px 4px;
      border-left: 1px dotted var(--edge);
    }
    .gap:hover::after,
    .gap.cut::after {
      border-left: 2px solid var(--copper);
    }
    table {
      border-collapse: collapse;
      font-size: 12px;
    }
    td {
      padding: 0 7px;
      border-left: 2px solid var(--copper);
      white-space: pre;
    }
    td:first-child {
      border-left: 0;
      padding-left: 0;
    }
    p {
      margin: 0;
    }
  `,
})
export class CutsField {
  readonly cuts = input.required<readonly number[]>();
  readonly subject = input<ValuesSubject>();
  readonly valuesOf = input<ValuesOf>();
  readonly changed = output<number[]>();

  protected readonly picked = signal('');
  protected readonly asked = columnValues(this.valuesOf, this.subject);
  protected readonly values = this.asked.value;
  protected readonly samples = computed(() => (this.values()?.values ?? []).slice(0, 40).map(({ text }) => text));
  protected readonly sample = computed(() => (this.samples().includes(this.picked()) ? this.picked() : this.samples().reduce((longest, text) => (text.length > longest.length ? text : longest), '')));
  protected readonly letters = computed(() => [...this.sample()]);
  protected readonly others = computed(() => this.samples().slice(0, shown).map((text) => cutAfter(text, this.cuts())));

  protected isCut = (at: number) => this.cuts().includes(at) || this.cuts().includes(at - this.letters().length);
  protected toggle(at: number) {
    const others = this.cuts().filter((cut) => cut !== at && cut !== at - this.letters().length);
    this.changed.emit(others.length < this.cuts().length ? others : [...others, at].sort((a, b) => a - b));
  }
}
