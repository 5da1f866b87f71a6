import { Component, computed, input, output, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Tick } from '../shared/tick';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { plural } from '../shared/words';
import { columnValues, type ValuesOf } from './column-values';

/** The values that are there with how often each stands, to be picked; values picked once that are not there stay listed. */
@Component({
  selector: 'sieve-value-list',
  imports: [ButtonDirective, InputText, Tick],
  template: `
    <input pInputText type="search" [attr.aria-label]="'Look for values of ' + label()" placeholder="look for" [value]="sought()" (input)="sought.set($any($event.target).value)" />
    <ul [attr.aria-label]="label()">
      @for (line of lines(); track line.text) {
        <li>
          <label>
            <sieve-tick [label]="line.text" [on]="line.picked" (ticked)="toggle(line.text)" />
            <span class="text">{{ line.text }}</span>
            <span class="count">{{ line.count ?? 'not here' }}</span>
          </label>
        </li>
      } @empty {
        <li class="small">{{ asked.failure() ? asked.failure()!.message : found() ? 'No value here.' : subject() ? 'Looking …' : 'Write a value above and add it.' }}</li>
      }
    </ul>
    <p class="small">
      {{ chosen().length }} picked of {{ counted(found()?.different ?? 0, 'value') }}@if (unlisted() > 0) {, {{ unlisted().toLocaleString('en') }} of them not listed: look for them or write them}
      @if (sought() && !exact()) {
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="toggle(sought().trim())">Add “{{ sought().trim() }}”</button>
      }
    </p>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 3px 0 0;
      padding: 2px;
      max-height: 148px;
      overflow: auto;
      border: 1px solid var(--line);
      border-radius: 5px;
    }
    label {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr) auto;
      gap: 6px;
      align-items: center;
      padding: 1px 3px;
      color: var(--ink);
      cursor: pointer;
    }
    label:hover {
      background: var(--copper-soft);
    }
    input[type='checkbox'] {
      accent-color: var(--copper);
    }
    .p-inputtext {
      width: 100%;
    }
    .text {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .count {
      color: var(--muted);
      font-size: 12px;
    }
    p {
      margin: 2px 0 0;
    }
  `,
})
export class ValueList {
  readonly chosen = input.required<readonly string[]>();
  readonly label = input.required<string>();
  readonly subject = input<ValuesSubject>();
  readonly valuesOf = input<ValuesOf>();
  readonly changed = output<string[]>();

  protected readonly counted = plural;
  protected readonly sought = signal('');
  protected readonly asked = columnValues(this.valuesOf, this.subject);
  protected readonly found = this.asked.value;
  protected readonly unlisted = computed(() => (this.found() ? this.found()!.different - this.found()!.values.length : 0));
  private readonly all = computed(() => {
    const here = this.found()?.values ?? [];
    const gone = this.chosen().filter((text) => !here.some((value) => value.text === text));
    return [...gone.map((text) => ({ text, count: undefined })), ...here].map((line) => ({ ...line, picked: this.chosen().includes(line.text) }));
  });
  protected readonly lines = computed(() => this.all().filter(({ text }) => text.toLowerCase().includes(this.sought().trim().toLowerCase())));
  protected readonly exact = computed(() => this.all().some(({ text }) => text === this.sought().trim()));

  protected toggle(text: string) {
    this.changed.emit(this.chosen().includes(text) ? this.chosen().filter((each) => each !== text) : [...this.chosen(), text]);
  }
}
