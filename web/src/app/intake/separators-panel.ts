import { Component, computed, inject, input, output } from '@angular/core';
import { forkJoin } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import { FailedLine } from '../shared/failed-line';
import { Pick } from '../shared/pick';
import type { Drawing, TakeRule } from '../../../../core/intake/take-rule';
import { plainRows, type Piece } from '../../../../core/reading/found-table';
import { keeps, wordsAcross, type ColumnSeparator } from '../../../../core/reading/readings/drawn';
import type { PageAnswer, StoredReport } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { plural } from '../shared/words';
import { MiniSheet } from '../shared/mini-sheet';
import { pieceTaken } from './on-paper';

/** How many other reports are shown following the hand. */
const followers = 2;

/** The sheet that the separators on the paper give, here and in other reports, while they are moved. */
@Component({
  selector: 'sieve-separators-panel',
  host: { class: 'by-hand' },
  imports: [FailedLine, MiniSheet, ButtonDirective, Pick],
  template: `
    <div class="body">
      <p class="small">Drag the tabs above the table; press the ruler to add one; arrow keys move a tab by a point, Delete takes it off.</p>
      <p>
        <label for="rows-by">Rows</label>&nbsp;
        <sieve-pick inputId="rows-by" [options]="rowWays" [value]="drawing().rows" (picked)="rowsBy($any($event))" />
      </p>
      @for (each of across(); track each.index) {
        <p class="across">
          {{ plural(each.words.length, 'word') }} across the separator at {{ each.at }}: {{ each.words.slice(0, 4).join(', ') }}
          <label class="sr" [for]="'keep-' + each.index">Kept whole</label>
          <sieve-pick [inputId]="'keep-' + each.index" [options]="keepWays" [value]="each.keep" (picked)="keep(each.index, $any($event))" />
        </p>
      }
      <h3>{{ fileName() }} <span class="small">page {{ answer().page?.number }}, {{ columns() }} columns</span></h3>
      @if (piece(); as own) {
        <sieve-mini-sheet [style.max-height.px]="230" [rows]="rowsOf(own)" [headingRows]="own.readings[0].headingRows" label="Sheet of this page" />
      } @else {
        <p class="error">Nothing is taken here.</p>
      }
      <sieve-failed-line [of]="[followed]" />
      @for (other of others(); track other.report.id) {
        <h3>
          {{ other.report.path }}
          @if (other.lacks.length > 0) {
            <span class="needs small"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> without “{{ other.lacks.join('”, “') }}”</span>
          }
        </h3>
        @if (other.rows.length > 0) {
          <sieve-mini-sheet [style.max-height.px]="110" [rows]="other.rows" [headingRows]="1" [most]="12" [label]="'Sheet of ' + other.report.path" />
        } @else {
          <p class="small">Nothing is taken from this report.</p>
        }
      }
    </div>
    <div class="foot">
      <button pButton (click)="keepFor.emit('all')">Use for all reports</button>
      <button pButton severity="secondary" [outlined]="true" (click)="keepFor.emit('this')">Only here</button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="keepFor.emit('none')">Put back</button>
    </div>
  `,
  styles: `
    p {
      margin: 3px 0 7px;
    }
    h3 {
      margin: 10px 0 4px;
      font-size: 14px;
    }
    .across {
      padding: 4px 8px;
      border-radius: 6px;
      background: var(--copper-soft);
    }
  `,
})
export class SeparatorsPanel {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  /** The rule with the drawing as it is being changed. */
  readonly rule = input.required<TakeRule>();
  readonly answer = input.required<PageAnswer>();
  readonly report = input.required<StoredReport>();
  readonly piece = input.required<Piece | undefined>();
  readonly words = input.required<readonly number[]>();
  readonly drawingChange = output<Drawing>();
  readonly keepFor = output<'all' | 'this' | 'none'>();

  protected readonly plural = plural;
  protected readonly fileName = computed(() => this.report().path);
  protected readonly drawing = computed(() => this.rule().drawing!);
  protected readonly columns = computed(() => this.drawing().columns.length + 1);
  protected readonly rowWays: readonly { value: Drawing['rows']; says: string }[] = [
    { value: 'as read', says: 'as the best reading tells them' },
    { value: 'every line', says: 'every line of print' },
    { value: 'first column', says: 'a new one where the first column is filled' },
    { value: 'drawn', says: 'by the tabs beside the table' },
  ];
  protected readonly keepWays: readonly { value: ColumnSeparator['keep']; says: string }[] = keeps.map((value) => ({ value, says: { most: 'kept where most of it is', left: 'kept whole at the left', right: 'kept whole at the right' }[value] }));

  protected readonly across = computed(() => {
    const page = this.answer().page;
    if (!page) return [];
    return this.drawing().columns.flatMap((column, index) => {
      const words = wordsAcross(page, this.words(), { columns: [column], rows: 'as read', cuts: [] }).map((w) => page.words[w].text);
      return words.length > 0 ? [{ index, at: column.at, keep: column.keep, words }] : [];
    });
  });

  /** Where the rule takes a table in the reports nearest to this one in the folder, which say most. */
  private readonly places = computed(() => {
    const here = this.report();
    const all = this.state
      .counting()
      .filter((report) => report.id !== here.id)
      .flatMap((report) => {
        const match = this.state.summaryOf(report.id)?.matches.find((each) => each.rule === this.rule().name);
        return match ? [{ report, page: match.pages[0], found: match.found }] : [];
      });
    const at = all.findIndex(({ report }) => report.path > here.path);
    return at < 0 ? all.slice(-followers) : all.slice(Math.max(0, Math.min(at, all.length - followers))).slice(0, followers);
  });
  protected readonly followed = asked(
    () => (this.places().length > 0 ? this.places().map(({ report, page }) => ({ report: report.id, page })) : undefined),
    (places) => forkJoin(places.map(({ report, page }) => this.api.page(this.state.id(), report, page))),
  );
  protected readonly others = computed(() =>
    this.places().flatMap(({ report, found }, i) => {
      const answer = this.followed.value()?.[i];
      if (!answer) return [];
      const piece = pieceTaken(this.rule(), report.path, answer, this.rule().of === 'area' ? [] : found);
      const lacks = this.rule().drawing!.anchors.map(({ text }) => text).filter((text) => !answer.page?.words.some((word) => word.text === text));
      return { report, rows: piece ? plainRows(piece.readings[0]) : [], lacks };
    }),
  );

  protected rowsOf = (piece: Piece) => plainRows(piece.readings[0]);
  protected rowsBy(rows: Drawing['rows']) {
    this.drawingChange.emit({ ...this.drawing(), rows });
  }
  protected keep(at: number, keep: ColumnSeparator['keep']) {
    this.drawingChange.emit({ ...this.drawing(), columns: this.drawing().columns.map((column, i) => (i === at ? { ...column, keep } : column)) });
  }
}
