import { Component, computed, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Pick } from '../shared/pick';
import { asTemplate, template } from '../../../../core/values/template';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { columnValues, type ValuesOf } from './column-values';

const shown = 4;

/** A template whose holes are made in a sample: it is filled with a text that is there, a part is selected and named. */
@Component({
  selector: 'sieve-template-field',
  imports: [ButtonDirective, InputText, Pick],
  template: `
    <input pInputText #field [id]="fieldId()" spellcheck="false" autocomplete="off" [value]="text()" (input)="changed.emit($any($event.target).value)" />
    @if (samples().length > 0) {
      <div class="tools">
        <sieve-pick label="Sample" placeholder="Start from a sample …" [forgets]="true" [options]="samples()" (picked)="start($event)" />
      </div>
    }
    <div class="tools">
      <input pInputText #name placeholder="name of the part" aria-label="Name of the selected part" (keydown.enter)="$event.preventDefault(); hole(field, name)" />
      <button pButton type="button" [text]="true" size="small" severity="secondary" (mousedown)="$event.preventDefault()" (click)="hole(field, name)" title="Select a part of the template above, name it, and it becomes a hole">Make a hole</button>
    </div>
    @if (filled().length > 0) {
      <ul aria-label="What the holes hold">
        @for (line of filled(); track line.text) {
          <li [class.error]="!line.holes">
            @for (hole of line.holes; track hole.name) {
              <span><b>{{ hole.name }}</b> {{ hole.value }}</span>
            } @empty {
              <span>does not fit “{{ line.text }}”</span>
            }
          </li>
        }
      </ul>
    }
    @if (asked.failure(); as failure) {
      <p class="error" role="alert">{{ failure.message }}</p>
    }
  `,
  styles: `
    .p-inputtext {
      width: 100%;
      min-width: 0;
    }
    .tools {
      display: flex;
      gap: 4px;
      margin-top: 3px;
    }
    .tools .p-button {
      flex: none;
    }
    ul {
      list-style: none;
      margin: 3px 0 0;
      padding: 2px 4px;
      border-left: 2px solid var(--copper);
      font-size: 12px;
    }
    li {
      display: flex;
      gap: 10px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    b {
      font-weight: 600;
      color: var(--copper);
    }
  `,
})
export class TemplateField {
  readonly text = input.required<string>();
  readonly fieldId = input.required<string>();
  /** Whether the template must fit the whole text, or a part of it. */
  readonly whole = input(false);
  readonly subject = input<ValuesSubject>();
  readonly valuesOf = input<ValuesOf>();
  /** The texts themselves, where they are no values: names of columns. */
  readonly texts = input<readonly string[]>();
  readonly changed = output<string>();

  protected readonly asked = columnValues(this.valuesOf, this.subject);
  private readonly values = this.asked.value;
  private readonly all = computed(() => this.texts() ?? (this.values()?.values ?? []).map(({ text }) => text));
  protected readonly samples = computed(() => this.all().slice(0, 40));
  protected readonly filled = computed(() => {
    const read = templateOf(this.text());
    if (!read || read.holes.length === 0) return [];
    const lines = this.all().map((text) => {
      const values = this.whole() ? read.whole(text) : read.within(text)?.values;
      return { text, holes: values && Object.entries(values).map(([name, value]) => ({ name, value })) };
    });
    // What does not fit is of more use than what fits, where all should fit.
    const misses = lines.filter(({ holes }) => !holes);
    const fits = lines.filter(({ holes }) => holes);
    return [...fits.slice(0, misses.length > 0 && fits.length > 0 ? shown - 1 : shown), ...misses.slice(0, fits.length > 0 ? 1 : shown)];
  });

  protected start(sample: string) {
    this.changed.emit(asTemplate(sample));
  }

  /** The part of the template that is selected becomes a hole of the name given. */
  protected hole(field: HTMLInputElement, name: HTMLInputElement) {
    const { selectionStart: start, selectionEnd: end } = field;
    const called = name.value.trim().replace(/[{}[\]\\]/g, '');
    if (start === null || end === null || start === end) return field.focus();
    if (called === '') return name.focus();
    name.value = '';
    this.changed.emit(`${field.value.slice(0, start)}{${called}}${field.value.slice(end)}`);
  }
}

function templateOf(text: string) {
  try {
    return template(text);
  } catch {
    return undefined;
  }
}
