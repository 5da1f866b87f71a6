import { Component, computed, inject, input, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { FileUpload, type FileUploadHandlerEvent } from 'primeng/fileupload';
import { InputText } from 'primeng/inputtext';
import type { ListAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { FailedLine } from '../shared/failed-line';
import { Pick } from '../shared/pick';
import { Tick } from '../shared/tick';
import { dayOf, plural } from '../shared/words';
import { withColumn, withList, type LookUpSettings } from './look-up-settings';
import type { OwnForm } from './own-form';

/** The settings of a look-up: which list, by which columns rows are found in it, and what it brings. */
@Component({
  selector: 'sieve-look-up-form',
  imports: [ButtonDirective, FailedLine, FileUpload, InputText, Pick, Tick],
  template: `
    <sieve-failed-line [of]="[asked]" />
    <div class="parts">
      <section>
        <label for="list">In</label>
        <sieve-pick inputId="list" [groups]="groups()" [value]="key()" placeholder="an uploaded file or a dataset" (picked)="choose($event)" />
        @if (list(); as list) {
          <p class="small">{{ counted(list.rows, 'row') }}, {{ list.is === 'file' ? 'uploaded' : 'published' }} {{ day(list.since) }}</p>
        } @else if (settings().from.name && asked.value()) {
          <p class="error small">“{{ settings().from.name }}” is not there.</p>
        }
        <p-fileupload mode="basic" chooseLabel="Upload a file" chooseIcon="pi pi-plus" [chooseButtonProps]="{ severity: 'secondary', outlined: true }" accept=".csv,.tsv,.txt,.xlsx,text/csv" [customUpload]="true" [auto]="true" (uploadHandler)="upload($event)" />
        <p class="small">One of the same name is replaced, for every step that looks into it.</p>
        @if (refused(); as refused) {
          <p class="error small" role="alert">{{ refused }}</p>
        }
      </section>
      <section>
        <span>Found by</span>
        @for (each of settings().keys; track $index) {
          <div class="key" role="group" [attr.aria-label]="'Key ' + ($index + 1)">
            <sieve-pick [label]="'Column here, key ' + ($index + 1)" [options]="of().columns" [value]="each.column" placeholder="column here" (picked)="setKey($index, { column: $event })" />
            <span aria-hidden="true">=</span>
            <sieve-pick [label]="'Column of the list, key ' + ($index + 1)" [options]="list()?.columns ?? [each.of]" [value]="each.of" placeholder="column of the list" (picked)="setKey($index, { of: $event })" />
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="removeKey($index)" [attr.aria-label]="'Remove key ' + ($index + 1)"><i class="pi pi-times" aria-hidden="true"></i></button>
          </div>
        }
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="addKey()">+ key</button>
        <label for="missing">Rows that are not found</label>
        <sieve-pick inputId="missing" [options]="['pass and are told', 'are held']" [value]="settings().missing" (picked)="set({ missing: $event })" />
        <label for="twice">What is found more than once</label>
        <sieve-pick inputId="twice" [options]="['is a misfit', 'is taken where all say the same']" [value]="settings().twice" (picked)="set({ twice: $event })" />
      </section>
      <section>
        <span>Brings</span>
        <ul aria-label="Columns that it brings">
          @for (column of offered(); track column.name) {
            <li>
              <label><sieve-tick [label]="column.name" [on]="column.into !== undefined" (ticked)="tick(column.name, $event)" /> {{ column.name }}</label>
              @if (column.into !== undefined) {
                <input pInputText [attr.aria-label]="column.name + ' becomes'" placeholder="its own name" [value]="column.into" (change)="name(column.name, $any($event.target).value)" />
              }
            </li>
          } @empty {
            <li class="small">Choose a list; its columns stand here.</li>
          }
        </ul>
      </section>
    </div>
  `,
  styles: `
    :host {
      display: block;
      container-type: inline-size;
    }
    .parts {
      display: grid;
      gap: 4px 22px;
    }
    @container (min-width: 640px) {
      .parts {
        grid-template-columns: repeat(3, minmax(0, 1fr));
      }
    }
    section {
      display: grid;
      gap: 4px;
      align-content: start;
    }
    p {
      margin: 0;
    }
    .key {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr) auto;
      gap: 5px;
      align-items: center;
    }
    section > .p-button {
      justify-self: start;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 2px;
      max-height: 190px;
      overflow: auto;
      border: 1px solid var(--line);
      border-radius: 5px;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      gap: 6px;
      align-items: center;
      min-height: 28px;
      padding: 0 3px;
    }
    li.small {
      display: block;
    }
    li label {
      display: flex;
      gap: 6px;
      align-items: center;
      color: var(--ink);
    }
  `,
})
export class LookUpForm {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly of = input.required<OwnForm>();

  private readonly times = signal(0);
  protected readonly asked = asked(
    () => this.times(),
    () => this.api.lists(),
    { keeps: true },
  );
  protected readonly refused = signal<string | undefined>(undefined);
  protected readonly counted = plural;
  protected readonly day = dayOf;
  protected readonly settings = computed(() => this.of().values as unknown as LookUpSettings);
  protected readonly key = computed(() => (this.settings().from.name ? keyOf(this.settings().from) : null));
  protected readonly list = computed(() => this.asked.value()?.find((list) => keyOf(list) === this.key()));
  protected readonly groups = computed(() => {
    // A pipeline does not look into itself.
    const all = (this.asked.value() ?? []).filter(({ is, name }) => is === 'file' || name !== this.state.document()?.name);
    const options = (is: ListAnswer['is']) => all.filter((list) => list.is === is).map((list) => ({ value: keyOf(list), says: list.name }));
    return [{ title: 'Uploaded files', options: options('file') }, { title: 'Datasets', options: options('dataset') }].filter((group) => group.options.length > 0);
  });
  protected readonly offered = computed(() => {
    const { columns, keys } = this.settings();
    const listed = (this.list()?.columns ?? columns.map(({ name }) => name)).filter((name) => !keys.some(({ of }) => of === name) || columns.some((each) => each.name === name));
    return listed.map((name) => ({ name, into: columns.find((each) => each.name === name)?.into }));
  });

  protected set(changes: Partial<LookUpSettings>) {
    this.of().set({ ...this.settings(), ...changes });
  }
  protected choose(key: string) {
    const list = this.asked.value()?.find((each) => keyOf(each) === key);
    if (list) this.set(withList(this.settings(), list, this.of().columns));
  }
  protected setKey(at: number, changes: Partial<LookUpSettings['keys'][number]>) {
    this.set({ keys: this.settings().keys.map((each, i) => (i === at ? { ...each, ...changes } : each)) });
  }
  protected addKey() {
    this.set({ keys: [...this.settings().keys, { column: '', of: '' }] });
  }
  protected removeKey(at: number) {
    this.set({ keys: this.settings().keys.filter((_, i) => i !== at) });
  }
  protected tick(name: string, on: boolean) {
    this.set(withColumn(this.settings(), name, on, this.list()?.columns ?? []));
  }
  protected name(name: string, into: string) {
    this.set({ columns: this.settings().columns.map((each) => (each.name === name ? { ...each, into: into.trim() } : each)) });
  }

  protected upload({ files: [file] }: FileUploadHandlerEvent) {
    this.refused.set(undefined);
    this.api.uploadList(file).subscribe({
      next: (list) => {
        this.times.update((n) => n + 1);
        this.set(withList(this.settings(), list, this.of().columns));
        this.state.listsChanged();
      },
      error: (error: Error) => this.refused.set(error.message),
    });
  }
}

const keyOf = ({ is, name }: LookUpSettings['from']): string => `${is} ${name}`;
