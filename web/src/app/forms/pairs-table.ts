import { Component, computed, input, output, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import type { ValuesSubject } from '../../../../server/contract/contract';
import { columnValues, type ValuesOf } from './column-values';
import { withPair, withPasted, type Pair } from './pairs';

/** A line for every value (or column name) that is there: what is printed, how often, and what it becomes. */
@Component({
  selector: 'sieve-pairs-table',
  imports: [ButtonDirective, InputText, Textarea],
  template: `
    <div class="frame">
      <table [attr.aria-label]="label()">
        <thead>
          <tr><th scope="col">{{ ofNames() ? 'Column' : 'Printed' }}</th><th scope="col">Becomes</th></tr>
        </thead>
        <tbody>
          @for (line of lines(); track line.text) {
            <tr>
              <th scope="row" [title]="line.text"><span class="line"><span class="text">{{ line.text }}</span><small>{{ line.note }}</small></span></th>
              <td><span class="line">
                <input pInputText [attr.aria-label]="line.text + ' becomes'" [value]="line.to ?? ''" [placeholder]="line.to === '' ? 'blank' : 'stays'" (change)="write(line.text, $any($event.target).value)" />
                @if (!ofNames()) {
                  <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-pressed]="line.to === ''" [attr.aria-label]="line.text + ' becomes blank'" (click)="put(line.text, line.to === '' ? undefined : '')">blank</button>
                }
              </span></td>
            </tr>
          } @empty {
            <tr><td colspan="2" class="small">{{ found() || ofNames() ? 'Nothing here.' : 'Looking …' }}</td></tr>
          }
        </tbody>
      </table>
    </div>
    @if (unlisted() > 0) {
      <p class="small">{{ unlisted() }} more values are not listed; write those wanted below.</p>
    }
    <p class="more">
      <input pInputText #other [attr.aria-label]="ofNames() ? 'Another spelling' : 'Another value'" [placeholder]="ofNames() ? 'another spelling' : 'another value'" (keydown.enter)="$event.preventDefault(); add(other)" />
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="add(other)">Add</button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-expanded]="pasting()" (click)="pasting.set(!pasting())">Paste a list</button>
    </p>
    @if (pasting()) {
      <textarea pTextarea rows="4" #list aria-label="The list" [placeholder]="'new ones, one a line in the order above; or old, tab, new'"></textarea>
      <button pButton type="button" severity="secondary" [outlined]="true" (click)="paste(list.value)">Use the list</button>
    }
    @if (asked.failure(); as failure) {
      <p class="error" role="alert">{{ failure.message }}</p>
    }
  `,
  styles: `
    .frame {
      max-height: 232px;
      overflow: auto;
      border: 1px solid var(--line);
      border-radius: 5px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      table-layout: fixed;
    }
    thead th {
      position: sticky;
      top: 0;
      background: var(--head);
      color: var(--muted);
      font-weight: 400;
      font-size: 12px;
    }
    th {
      text-align: left;
      font-weight: 400;
      padding: 2px 6px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    th:first-child {
      width: 46%;
    }
    .line {
      display: flex;
      gap: 5px;
      align-items: center;
    }
    .text {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    small {
      color: var(--muted);
    }
    td {
      padding: 1px 3px;
    }
    .p-inputtext {
      width: 100%;
      min-width: 0;
    }
    td .p-button,
    .more .p-button {
      padding: 0 5px;
      font-size: 12px;
    }
    td .p-button[aria-pressed='true'] {
      color: var(--copper);
      border-color: var(--copper);
    }
    .more {
      display: flex;
      gap: 2px;
      margin: 3px 0 0;
    }
    .more .p-button {
      flex: none;
    }
  `,
})
export class PairsTable {
  readonly pairs = input.required<readonly Pair[]>();
  readonly label = input.required<string>();
  /** The column names above, when it is about names. */
  readonly names = input<readonly string[]>();
  readonly subject = input<ValuesSubject>();
  readonly valuesOf = input<ValuesOf>();
  readonly changed = output<Pair[]>();

  protected readonly pasting = signal(false);
  /** Values that are to be given a pair, but have none yet. */
  private readonly added = signal<readonly string[]>([]);
  protected readonly asked = columnValues(this.valuesOf, this.subject);
  protected readonly found = this.asked.value;
  protected readonly ofNames = computed(() => this.names() !== undefined);
  protected readonly unlisted = computed(() => (this.found() ? this.found()!.different - this.found()!.values.length : 0));
  private readonly here = computed(() => this.names()?.map((text) => ({ text, count: undefined })) ?? this.found()?.values ?? []);
  protected readonly lines = computed(() => {
    const to = new Map(this.pairs().flatMap((pair) => pair.from.map((from) => [from, pair.to] as const)));
    const here = this.here();
    const known = new Set(here.map(({ text }) => text));
    const others = [...new Set([...to.keys(), ...this.added()])].filter((text) => !known.has(text));
    // What is not here would be overlooked at the end of a long table.
    return [...others.map((text) => ({ text, to: to.get(text), note: 'not here' })), ...here.map(({ text, count }) => ({ text, to: to.get(text), note: count === undefined ? '' : `${count}` }))];
  });

  protected write(from: string, text: string) {
    this.put(from, text.trim() === '' ? undefined : text.trim());
  }
  protected put(from: string, to: string | undefined) {
    this.changed.emit(withPair(this.pairs(), from, to));
  }
  protected add(field: HTMLInputElement) {
    const text = field.value.trim();
    if (text) this.added.update((all) => [...all, text]);
    field.value = '';
  }
  protected paste(text: string) {
    this.pasting.set(false);
    this.changed.emit(withPasted(this.pairs(), text, this.here().map((line) => line.text)));
  }
}
