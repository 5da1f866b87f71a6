import { Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { MultiSelect } from 'primeng/multiselect';
import type { ListAnswer } from '../../../../server/contract/contract';
import type { Check } from '../../../../core/checks/check';
import { sameName } from '../../../../core/sheet/column';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Clipboard } from '../shared/clipboard';
import { FailedLine } from '../shared/failed-line';
import { Pick } from '../shared/pick';

/** A check that the dataset agrees with a list: which, by which columns, and in which. */
@Component({
  selector: 'sieve-compare-check',
  imports: [ButtonDirective, FailedLine, FormsModule, MultiSelect, Pick],
  template: `
    <sieve-failed-line [of]="[lists]" />
    <span class="list">
      <sieve-pick label="The list to compare with" [options]="names()" [value]="name()" placeholder="which list" (picked)="pick($event)" />
      <label class="p-button p-component p-button-secondary p-button-outlined p-button-sm">Upload a file<input type="file" class="sr" accept=".csv,.xlsx,.tsv,.txt,text/csv" (change)="upload($any($event.target))" /></label>
    </span>
    @if (list(); as list) {
      <p-multiselect [options]="$any(columns())" [ngModel]="keys()" (ngModelChange)="keys.set($event)" ariaLabel="Columns that tell which row is meant" placeholder="by which columns" [maxSelectedLabels]="3" appendTo="body" [fluid]="true" size="small" />
      <p-multiselect [options]="$any(others())" [ngModel]="values()" (ngModelChange)="values.set($event)" ariaLabel="Columns that are compared" placeholder="in which columns" [maxSelectedLabels]="3" appendTo="body" [fluid]="true" size="small" />
      @for (column of unlike(list); track column) {
        <span class="pair"><span>“{{ column }}” is in the list</span><sieve-pick [label]="'What “' + column + '” is called in the list'" [options]="$any(list.columns)" [value]="calledThere()[column]" placeholder="which column" (picked)="call(column, $event)" /></span>
      }
      <button pButton type="button" size="small" [disabled]="!ready()" (click)="add()">Compare at every refresh</button>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 6px;
      align-items: center;
    }
    .list {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 6px;
    }
    label:focus-within {
      outline: 2px solid var(--copper);
      outline-offset: 2px;
    }
    button {
      justify-self: start;
    }
    p {
      margin: 0;
    }
  `,
})
export class CompareCheck {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  private readonly clipboard = inject(Clipboard);
  readonly columns = input.required<readonly string[]>();
  readonly added = output<Check>();

  private readonly uploads = signal(0);
  protected readonly lists = asked(
    () => ({ uploads: this.uploads() }),
    () => this.api.lists(),
    { keeps: true },
  );
  private readonly all = computed(() => (this.lists.value() ?? []).filter(({ is, name }) => !(is === 'dataset' && name === this.state.document()?.name)));
  protected readonly names = computed(() => this.all().map(({ name }) => name));
  protected readonly name = signal('');
  protected readonly list = computed(() => this.all().find((each) => each.name === this.name()));
  protected readonly keys = signal<string[]>([]);
  protected readonly values = signal<string[]>([]);
  protected readonly others = computed(() => this.columns().filter((name) => !this.keys().includes(name)));
  /** What columns of the dataset are called in the list, where that was said. */
  protected readonly calledThere = signal<Readonly<Record<string, string>>>({});
  private readonly chosen = computed(() => [...this.keys(), ...this.values().filter((each) => !this.keys().includes(each))]);
  protected readonly ready = computed(() => this.keys().length > 0 && this.chosen().every((column) => this.nameThere(column) !== undefined));

  /** Columns chosen that are not called so in the list. */
  protected unlike = (list: ListAnswer): string[] => this.chosen().filter((column) => !list.columns.some((other) => sameName(other, column)));

  private nameThere(column: string): string | undefined {
    const columns = this.list()?.columns ?? [];
    return columns.find((other) => sameName(other, column)) ?? columns.find((other) => other === this.calledThere()[column]);
  }

  protected call(column: string, there: string) {
    this.calledThere.update((all) => ({ ...all, [column]: there }));
  }

  protected pick(name: string) {
    this.name.set(name);
    this.keys.set([]);
    this.values.set([]);
    this.calledThere.set({});
  }

  protected upload(input: HTMLInputElement) {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    this.api.uploadList(file).subscribe({
      next: ({ name }) => {
        this.uploads.update((n) => n + 1);
        this.pick(name);
      },
      error: (error: Error) => this.clipboard.tell('error', error.message),
    });
  }

  protected add() {
    const { is, name } = this.list()!;
    const pair = (column: string) => ({ column, of: this.nameThere(column)! });
    this.added.emit({ id: crypto.randomUUID(), severity: 'tell', kind: 'agrees with', from: { is, name }, keys: this.keys().map(pair), columns: this.values().filter((each) => !this.keys().includes(each)).map(pair) });
    this.pick('');
  }
}
