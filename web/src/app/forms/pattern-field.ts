import { Component, computed, input, output } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { isPattern } from '../../../../core/steps/pattern';
import { searchFor } from '../../../../core/steps/find-and-replace';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { plural } from '../shared/words';
import { columnValues, type ValuesOf } from './column-values';

const shown = 6;

/** A text or pattern with what it matches among the values that are there. */
@Component({
  selector: 'sieve-pattern-field',
  imports: [InputText],
  template: `
    <input pInputText [id]="fieldId()" spellcheck="false" autocomplete="off" [value]="text()" (input)="changed.emit($any($event.target).value)" />
    @if (said(); as said) {
      <p class="small" role="status" [class.error]="said.wrong">{{ said.text }}</p>
    }
    @if (matches().length > 0) {
      <ul aria-label="Matches">
        @for (match of matches(); track match.text) {
          <li><span class="text">{{ match.before }}<mark>{{ match.found }}</mark>{{ match.after }}</span><span class="count">{{ match.count }}</span></li>
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
    }
    p {
      margin: 2px 0;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 2px 4px;
      border-left: 2px solid var(--copper);
      font-size: 12px;
    }
    li {
      display: flex;
      gap: 6px;
    }
    .text {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: pre;
    }
    .count {
      color: var(--muted);
    }
    mark {
      background: var(--copper-soft);
      color: var(--copper);
      font-weight: 600;
    }
  `,
})
export class PatternField {
  readonly text = input.required<string>();
  readonly fieldId = input.required<string>();
  /** How the text is looked for. */
  readonly find = input<Parameters<typeof searchFor>[0]>('a pattern');
  readonly matchCase = input(false);
  readonly subject = input<ValuesSubject>();
  readonly valuesOf = input<ValuesOf>();
  readonly changed = output<string>();

  protected readonly asked = columnValues(this.valuesOf, this.subject);
  private readonly values = this.asked.value;
  private readonly expression = computed(() => (this.text() === '' ? undefined : searchFor(this.find(), this.text(), this.matchCase())));
  private readonly all = computed(() => {
    const expression = this.expression();
    if (!expression || !isPattern(expression)) return [];
    return (this.values()?.values ?? []).flatMap(({ text, count }) => {
      const match = expression.find(text);
      return match ? [{ text, count, before: text.slice(0, match.start), found: text.slice(match.start, match.end), after: text.slice(match.end) }] : [];
    });
  });
  protected readonly matches = computed(() => this.all().slice(0, shown));
  protected readonly said = computed(() => {
    const expression = this.expression();
    if (expression && !isPattern(expression)) return { text: `This is not ${expression.expected}. ${expression.remedy}`, wrong: true };
    const values = this.values();
    if (!expression || !values) return undefined;
    const cells = this.all().reduce((sum, { count }) => sum + count, 0);
    return { text: `Found in ${this.all().length} of ${plural(values.values.length, 'different value')}, ${plural(cells, 'cell')}.`, wrong: this.all().length === 0 };
  });
}
