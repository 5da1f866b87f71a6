import { Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Listbox } from 'primeng/listbox';
import type { TotalTraced } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { cellShown } from '../shared/cell-shown';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';
import { Paper, type PaperFrame } from '../shared/paper';
import { plural } from '../shared/words';
import { EvidenceSlips, mostSlips } from './evidence-slips';
import type { ToldTie, ToldTies } from './told-ties';

type WouldTie = TotalTraced['wouldTie'][number];

/** Printed totals beside what the dataset says: those that are off first; each leads to the rows it covers and to the paper. */
@Component({
  selector: 'sieve-published-totals',
  imports: [ButtonDirective, FailedLine, FormsModule, InputText, Listbox, Notice, Paper],
  template: `
    @if (chosen(); as tie) {
      <div class="head">
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="chosenId.set(undefined)"><i class="pi pi-arrow-left" aria-hidden="true"></i> All totals</button>
        <b>{{ tie.label || 'Total' }}, {{ tie.column }}</b>
        <span class="small">{{ tie.path }}, page {{ tie.page }}</span>
      </div>
      <dl class="sum">
        <dt>printed</dt>
        <dd>{{ shown(tie.printed, tie.decimals) }}</dd>
        @if (tie.computed !== undefined) {
          <dt>{{ counted(tie.rows, 'row') }} of it</dt>
          <dd>{{ shown(tie.computed, tie.decimals) }}</dd>
        }
        <dt>stands</dt>
        <dd [class.needs]="tie.stands === 'off'">{{ tie.says }}</dd>
      </dl>
      @if (tie.outcome === 'off') {
        <div class="answer">
          @for (row of paperOf.value()?.wouldTie ?? []; track $index) {
            <p class="would">
              {{ saysOf(row) }}
              @if (row.places.length > 0) {
                <button pButton type="button" [text]="true" size="small" (click)="lookAt(row)">Show it on paper</button>
              }
            </p>
          }
          @if (tie.accepted !== undefined) {
            <span>Misprinted on paper: {{ tie.accepted || 'no reason given' }}{{ tie.pending ? ' (counts from the next refresh on)' : '' }}</span>
            <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="withdraw(tie)">Not accepted any more</button>
          } @else {
            <label for="why">If the paper is wrong, say how you know:</label>
            <input pInputText id="why" pSize="small" [ngModel]="why()" (ngModelChange)="why.set($event)" (keydown.enter)="accept(tie)" autocomplete="off" />
            <button pButton type="button" size="small" [disabled]="why().trim() === ''" (click)="accept(tie)">It is misprinted</button>
          }
        </div>
      }
      <button pButton type="button" [text]="true" size="small" severity="secondary" class="slip" [disabled]="slips.making() !== undefined" (click)="saveSlips([tie])" title="One page with the print, its rows and how it ties out, to be checked later">Evidence slip</button>
      <sieve-failed-line [of]="[paperOf]" />
      @if (paperOf.value(); as traced) {
        <ol class="rows" tabindex="0" aria-label="The rows that it covers">
          @for (row of traced.rows; track $index) {
            <li>
              <button type="button" [class.here]="row.page === page()" (click)="lookAt(row)" [title]="'Page ' + row.page">
                <span>{{ row.label }}</span><span class="number">{{ row.amount }}</span>
              </button>
            </li>
          }
          @if (traced.more > 0) {
            <li class="small">and {{ counted(traced.more, 'row') }} more</li>
          }
        </ol>
        <sieve-paper [file]="file()" [name]="tie.path" [page]="page()" [zoom]="1.6" [frames]="frames()" />
      } @else if (!paperOf.failure()) {
        <sieve-notice kind="loading">Looking for its rows</sieve-notice>
      }
    } @else if (ties().length === 0) {
      <sieve-notice kind="empty">No step of this pipeline keeps printed totals. The step “Hold totals” does, and they are compared here.</sieve-notice>
    } @else {
      <p class="head">
        {{ sentence() }}
        <button pButton type="button" [text]="true" size="small" severity="secondary" [disabled]="slips.making() !== undefined" (click)="saveSlips(ties().slice(0, mostSlips))" [title]="ties().length > mostSlips ? 'A bundle of the first ' + mostSlips + '; those that are off come first' : 'A bundle of all of them, to be checked later'">{{ slips.making() ?? 'Evidence slips' }}</button>
      </p>
      <p-listbox [options]="ties()" dataKey="id" optionLabel="title" [ngModel]="null" (onChange)="choose($event.value)" [virtualScroll]="true" [virtualScrollItemSize]="48" scrollHeight="100%" ariaLabel="Printed totals">
        <ng-template #item let-tie>
          <span class="tie">
            <span class="title">{{ tie.title }}</span>
            <span class="stands" [class.needs]="tie.stands === 'off'"><i class="pi" [class]="tie.mark" aria-hidden="true"></i> {{ tie.says }}</span>
            <span class="small where">{{ tie.path }}, page {{ tie.page }}</span>
            <span class="small number">{{ shown(tie.printed, tie.decimals) }}</span>
          </span>
        </ng-template>
      </p-listbox>
    }
  `,
  styleUrl: './published-totals.css',
})
export class PublishedTotals {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly told = input.required<ToldTies>();
  protected readonly counted = plural;
  protected readonly shown = cellShown;
  protected readonly why = signal('');

  protected readonly ties = computed(() => [...this.told().ties]);
  protected readonly sentence = computed(() => this.told().sentence);
  protected readonly chosenId = signal<string | undefined>(undefined);
  protected readonly chosen = computed(() => this.ties().find(({ id }) => id === this.chosenId()));
  protected readonly paperOf = asked(
    () => {
      const tie = this.chosen();
      return tie && { pipeline: this.state.id(), report: tie.report, made: tie.sha256, step: tie.step, table: tie.row.table, ordinal: tie.row.ordinal, column: tie.column };
    },
    ({ pipeline, report, step, table, ordinal, column }) => this.api.publishedTotal(pipeline, report, { step, table, ordinal, column }),
  );
  /** The page to look at; the one that the total is printed on, unless another of its rows was asked for. */
  protected readonly looksAt = signal<number | undefined>(undefined);
  /** What would make it tie out and was asked for on paper. */
  private readonly candidate = signal<WouldTie | undefined>(undefined);
  protected readonly page = computed(() => this.looksAt() ?? this.chosen()?.page ?? 1);
  protected readonly file = computed(() => this.api.fileAddress(this.state.id(), this.chosen()!.report));
  protected readonly frames = computed((): PaperFrame[] => {
    const { places = [], rows = [] } = this.paperOf.value() ?? {};
    const here = (all: typeof places) => all.filter(({ page }) => page === this.page());
    const asked = this.candidate()?.places ?? [];
    if (asked.length > 0) return [...here(asked).map(({ box }): PaperFrame => ({ box, kind: 'word' })), ...here(places).map(({ box }): PaperFrame => ({ box, kind: 'band' }))];
    return [...here(places).map(({ box }): PaperFrame => ({ box, kind: 'word' })), ...here(rows.flatMap((row) => row.places)).map(({ box }): PaperFrame => ({ box, kind: 'band' }))];
  });

  constructor() {
    effect(() => {
      this.chosenId();
      untracked(() => {
        this.why.set('');
        this.looksAt.set(undefined);
        this.candidate.set(undefined);
      });
    });
  }

  /** What would make the total tie out, in a sentence. */
  protected saysOf({ kind, label, amount, page, step, instead }: WouldTie): string {
    const row = `“${label}” (${amount}, page ${page})`;
    switch (kind) {
      case 'held':
        return `It would tie out with ${row}, which “${step}” held.`;
      case 'not taken':
        return `It would tie out with ${row} of a table that no rule takes.`;
      case 'doubled':
        return `It would tie out without ${row}: is that row there twice?`;
      case 'misfit':
        return `It would tie out if ${row} were ${instead}: it is no amount as it stands.`;
      case 'digit':
        return `It would tie out if ${row} were ${instead}: one digit may be read or printed wrong.`;
    }
  }

  /** A row that the total covers, or one that would make it tie out. */
  protected lookAt(row: WouldTie | TotalTraced['rows'][number]) {
    this.looksAt.set(row.page);
    this.candidate.set('kind' in row ? row : undefined);
  }

  protected choose(tie: ToldTie | null) {
    this.chosenId.set(tie?.id);
  }

  protected readonly slips = inject(EvidenceSlips);
  protected readonly mostSlips = mostSlips;

  /** Saves the evidence of a total, or of several as a bundle. */
  protected saveSlips(ties: readonly ToldTie[]) {
    const slips = ties.map(({ report, step, row, column, label, path }) => ({
      asked: this.api.totalEvidence(this.state.id(), report, { step, table: row.table, ordinal: row.ordinal, column }),
      file: this.api.fileAddress(this.state.id(), report),
      name: `${label || 'Total'} ${column}${ties.length > 1 ? ` ${path.replace(/\.pdf$/i, '')}` : ''}`,
    }));
    void this.slips.save(`Evidence ${ties.length === 1 ? slips[0].name : `of ${ties.length} totals`}`, () => slips);
  }

  protected accept(tie: ToldTie) {
    const why = this.why().trim();
    const document = this.state.document();
    if (why === '' || !document) return;
    this.state.answer({ ...document, accepted: [...document.accepted.filter((each) => !tie.isThat(each)), { ...tie.place, why }] });
  }

  protected withdraw(tie: ToldTie) {
    const document = this.state.document();
    if (document) this.state.answer({ ...document, accepted: document.accepted.filter((each) => !tie.isThat(each)) });
  }
}
