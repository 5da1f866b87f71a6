import { Component, computed, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { TableModule } from 'primeng/table';
import type { ChangedCell } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Notice } from '../shared/notice';
import { plural } from '../shared/words';

/** So many are shown at first, and more at each press. */
const step = 100;

/** What a run published otherwise because the program itself is another: each cell with its old and new value, and its paper. */
@Component({
  selector: 'sieve-changed-cells',
  imports: [ButtonDirective, Notice, RouterLink, TableModule],
  template: `
    @if (asked.failure(); as failure) {
      <sieve-notice kind="failed" [retry]="asked.again">{{ failure.message }}</sieve-notice>
    }
    @if (asked.value(); as changed) {
      @if (changed.count > 0) {
        <h3>{{ heading() }}</h3>
        <p-table [value]="$any(changed.cells)" aria-label="Cells that changed as the program is another">
          <ng-template #header>
            <tr>
              <th scope="col">Paper</th>
              <th scope="col">Row</th>
              <th scope="col">Column</th>
              <th scope="col">Was</th>
              <th scope="col">Is</th>
            </tr>
          </ng-template>
          <ng-template #body let-cell>
            <tr>
              <th scope="row">
                <a
                  [routerLink]="['/pipelines', state.id(), 'intake']"
                  [queryParams]="{ report: cell.report, page: cell.page }"
                >{{ pathOf(cell) }}, page {{ cell.page }}</a>
              </th>
              <td class="number">{{ cell.row ?? '' }}</td>
              <td>{{ cell.kind === 'cell' ? cell.heading : cell.kind === 'row added' ? 'a row that came' : 'a row that went' }}</td>
              <td class="old">{{ cell.before ?? (cell.kind === 'row added' ? '' : 'blank') }}</td>
              <td class="new">{{ cell.after ?? (cell.kind === 'row removed' ? '' : 'blank') }}</td>
            </tr>
          </ng-template>
        </p-table>
        @if (changed.cells.length < changed.count) {
          <button pButton severity="secondary" size="small" [outlined]="true" (click)="more()">Show more</button>
        }
      }
    }
  `,
  styles: `
    :host {
      display: block;
    }
    h3 {
      margin: 8px 12px 4px;
      font-size: 14px;
    }
    .old {
      color: var(--muted);
      text-decoration: line-through;
    }
    .new {
      font-weight: 600;
    }
    button {
      margin: 6px 12px;
    }
  `,
})
export class ChangedCells {
  private readonly api = inject(Api);
  protected readonly state = inject(PipelineState);
  readonly run = input.required<number>();
  private readonly shown = signal(step);
  protected readonly asked = asked(
    () => ({ run: this.run(), count: this.shown() }),
    ({ run, count }) => this.api.changedCells(run, 0, count),
    { keeps: true },
  );
  protected readonly heading = computed(() => {
    const { count, cells } = this.asked.value()!;
    const first = cells.length < count ? `, the first ${cells.length} of them` : '';
    return `${plural(count, 'change')} in the dataset as the program is another${first}`;
  });

  protected pathOf({ report }: ChangedCell): string {
    return this.state.reports().find(({ id }) => id === report)?.path ?? 'a report that is gone';
  }

  protected more() {
    this.shown.update((count) => count + step);
  }
}
