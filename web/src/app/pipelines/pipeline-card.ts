import { Component, computed, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { ProgressBar } from 'primeng/progressbar';
import type { PipelineSummary } from '../../../../server/contract/contract';
import { dayOf, needSentence, plural, progressSentence, shortPeriod } from '../shared/words';

/** What each period says of itself, beside its colour and its height. */
const stands: Readonly<Record<PipelineSummary['periods'][number]['stands'], string>> = {
  in: 'in the dataset',
  stale: 'in the dataset as it was before: the report as it is now does not come through',
  waits: 'waits for you',
  failed: 'could not be had',
  'not yet': 'not refreshed yet',
  'no report': 'no report',
  'none expected': 'no report, as is known',
};

/** A pipeline at a glance: its periods, its rows, how the printed totals stand, and what needs the analyst. */
@Component({
  selector: 'sieve-pipeline-card',
  imports: [RouterLink, ButtonDirective, ProgressBar],
  template: `
    <article [attr.aria-labelledby]="'pipeline-' + of().id">
      <div class="top">
        <h2 [id]="'pipeline-' + of().id"><a [routerLink]="['/pipelines', of().id]">{{ of().name }}</a></h2>
        <span class="grow"></span>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="rename.emit()">Rename</button>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="remove.emit()">Delete</button>
      </div>
      @if (of().periods.length > 0) {
        <div [style.max-width.px]="of().periods.length * widest">
          <div class="periods" role="img" [attr.aria-label]="told()">
            @for (slot of of().periods; track $index) {
              <i [attr.data-stands]="slot.stands" [title]="(slot.period ?? slot.paths[0]) + ': ' + words[slot.stands]"></i>
            }
          </div>
          <p class="ends small" aria-hidden="true"><span>{{ ends()[0] }}</span><span>{{ ends()[1] }}</span></p>
        </div>
      }
      <p>
        @if (of().rows === null) {
          Nothing is published yet; {{ of().reports === 0 ? 'no report is known' : counted(of().reports, 'report') + (of().reports === 1 ? ' counts' : ' count') }}.
        } @else {
          <b>{{ of().rows!.toLocaleString('en') }}</b> {{ of().rows === 1 ? 'row is' : 'rows are' }} published; {{ counted(of().reports, 'report') }} {{ of().reports === 1 ? 'counts' : 'count' }}. {{ of().ties }}
        }
      </p>
      @if (of().running; as run) {
        <p>Refreshing: <b>{{ run.total > 0 ? run.done + ' of ' + run.total : '' }}</b> {{ says(run.now) }}</p>
        <p-progressbar [value]="run.total > 0 ? (100 * run.done) / run.total : 0" [mode]="run.total > 0 ? 'determinate' : 'indeterminate'" [showValue]="false" aria-label="Reports done of this run" />
      } @else if (of().needs.length > 0) {
        <p class="needs"><i class="pi pi-exclamation-circle" aria-hidden="true"></i> <a [routerLink]="['/pipelines', of().id, 'needs']">{{ needs() }}</a></p>
      } @else {
        <p class="small">Nothing needed you at the last refresh.</p>
      }
      <p class="last small">
        <span class="folder" [title]="of().folder"><bdi>{{ of().managed ? 'dropped files' : of().folder }}</bdi></span>
        <span class="grow"></span>
        <span>{{ of().lastRuns[0] ? 'last run ' + day(of().lastRuns[0].startedAt) : 'never refreshed' }}</span>
        @for (run of of().lastRuns.slice().reverse(); track run.id) {
          <a class="run" [routerLink]="['/pipelines', of().id, 'runs', run.id]" [class]="tone(run.state)" [title]="day(run.startedAt) + ': ' + run.state" [attr.aria-label]="'Run of ' + day(run.startedAt) + ': ' + run.state">{{ mark(run.state) }}</a>
        }
      </p>
    </article>
  `,
  styleUrl: './pipeline-card.css',
})
export class PipelineCard {
  readonly of = input.required<PipelineSummary>();
  readonly rename = output();
  readonly remove = output();

  /** Of one period, in pixels. */
  protected readonly widest = 34;
  protected readonly words = stands;
  protected readonly counted = plural;
  protected readonly day = dayOf;
  protected readonly says = progressSentence;
  protected readonly needs = computed(() => this.of().needs.map(needSentence).join('; '));
  /** What the first and the last of its periods are called. */
  protected readonly ends = computed(() => {
    const { periods } = this.of();
    const name = ({ period, paths }: (typeof periods)[number]) => (period === null ? paths[0] : /^\d{4}-[WQ\d]\d/.test(period) ? `${shortPeriod(period)} ${period.slice(0, 4)}` : period);
    return periods.length === 0 ? ['', ''] : periods.length === 1 ? [name(periods[0]), ''] : [name(periods[0]), name(periods.at(-1)!)];
  });
  /** The strip in words: how many periods stand how. */
  protected readonly told = computed(() => {
    const { periods } = this.of();
    const kinds = [...new Set(periods.map((slot) => slot.stands))];
    return `${plural(periods.length, 'period')}, ${this.ends().filter(Boolean).join(' to ')}: ${kinds.map((kind) => `${periods.filter((slot) => slot.stands === kind).length} ${stands[kind]}`).join(', ')}`;
  });

  protected tone = (state: string) => (state === 'published' ? 'passes' : state === 'failed' || state === 'nothing published' ? 'error' : 'waits');
  protected mark = (state: string) => (state === 'published' ? '✓' : state === 'failed' || state === 'nothing published' ? '!' : state === 'running' ? '…' : '–');
}
