import { Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { Subscription } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { Hit } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { plural } from '../shared/words';

/** Hits of a search by report. */
export type Hits = ReadonlyMap<number, readonly Hit[]>;

/** Looks for a text on all pages of all reports. */
@Component({
  selector: 'sieve-find-box',
  imports: [ButtonDirective, InputText],
  template: `<form role="search" (submit)="start($event)">
      <label class="sr" for="find-text">Find text in all reports</label>
      <input pInputText id="find-text" type="search" placeholder="Find text in all reports" [value]="text()" (input)="text.set($any($event.target).value)" (search)="text() || clear()" />
      <button pButton severity="secondary" [outlined]="true">Find</button>
    </form>
    @if (asked(); as text) {
      <p role="status">
        <span>{{ searching() ? 'Looking …' : failure() || words() }}</span>
        @if (total() > 0) {
          <button pButton type="button" [text]="true" size="small" severity="secondary" aria-label="Hit before" (click)="step.emit(-1)"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
          <button pButton type="button" [text]="true" size="small" severity="secondary" aria-label="Next hit" (click)="step.emit(1)"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
        }
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="clear()">Clear</button>
      </p>
    }`,
  styles: `
    form {
      display: flex;
      gap: 6px;
      padding: 7px 12px;
      border-bottom: 1px solid var(--line-soft);
    }
    input {
      flex: 1;
      min-width: 0;
    }
    .p-button {
      padding: 2px 9px;
    }
    p span {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    p {
      display: flex;
      align-items: center;
      margin: 0;
      padding: 3px 0 3px 12px;
      font-size: 12px;
      white-space: nowrap;
      border-bottom: 1px solid var(--line-soft);
      color: var(--muted);
    }
  `,
})
export class FindBox {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly hits = input.required<Hits>();
  /** A text that is looked for at once, such as one that the address says. */
  readonly wanted = input<string | undefined>();
  readonly hitsChange = output<Hits>();
  /** Asks for the next hit (1) or the one before (-1). */
  readonly step = output<1 | -1>();

  protected readonly text = signal('');
  protected readonly asked = signal('');
  protected readonly searching = signal(false);
  protected readonly failure = signal('');
  protected readonly total = computed(() => [...this.hits().values()].reduce((sum, hits) => sum + hits.length, 0));
  protected readonly words = computed(() => (this.total() === 0 ? `“${this.asked()}” stands nowhere.` : `${plural(this.total(), 'place')} in ${plural(this.hits().size, 'report')}`));
  private search = new Subscription();

  constructor() {
    effect(() => {
      const wanted = this.wanted();
      if (wanted === undefined || this.state.id() === 0) return;
      // Not while the page is being drawn: what is found is told to it.
      queueMicrotask(() => {
        this.text.set(wanted);
        this.look();
      });
    });
  }

  protected start(event: Event) {
    event.preventDefault();
    this.look();
  }

  private look() {
    const text = this.text().trim();
    if (text.length < 2) return;
    this.search.unsubscribe();
    const found = new Map<number, readonly Hit[]>();
    this.hitsChange.emit(found);
    this.failure.set('');
    this.asked.set(text);
    this.searching.set(true);
    this.search = this.api.find(this.state.id(), text).subscribe({
      next: (event) => {
        if (event.kind === 'hits') this.hitsChange.emit(new Map(found.set(event.report, event.hits)));
        else this.searching.set(false);
      },
      error: (error: Error) => {
        this.searching.set(false);
        this.failure.set(error.message);
      },
    });
  }

  protected clear() {
    this.search.unsubscribe();
    this.text.set('');
    this.asked.set('');
    this.searching.set(false);
    this.hitsChange.emit(new Map());
  }
}
