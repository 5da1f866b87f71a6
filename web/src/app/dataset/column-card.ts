import { Component, computed, inject, input, output } from '@angular/core';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Chart, type ChartOption } from '../shared/chart';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';
import { plural } from '../shared/words';

/** What a column of the dataset holds, at a glance: how much is blank or wrong, how its values spread, and which come most often. */
@Component({
  selector: 'sieve-column-card',
  imports: [Chart, FailedLine, Notice],
  template: `
    <sieve-failed-line [of]="[card]" />
    @if (card.value(); as card) {
      <div class="scroll" tabindex="0" role="region" aria-label="What the column holds">
        <dl>
          @for (fact of facts(); track fact.name) {
            <dt>{{ fact.name }}</dt>
            <dd>{{ fact.says }}</dd>
          }
        </dl>
        @if (spread(); as option) {
          <sieve-chart [option]="option" [label]="'How the numbers of ' + column() + ' spread'" />
        }
        @if (card.values.length > 0) {
          <table>
            <thead>
              <tr>
                <th scope="col">Value</th>
                <th scope="col" class="number">Rows</th>
                <th scope="col" class="number">Reports</th>
              </tr>
            </thead>
            <tbody>
              @for (each of card.values; track each.value) {
                <tr>
                  <td><button type="button" class="link" (click)="only.emit(each.value)" [title]="'Show the rows with ' + each.value">{{ each.value }}</button></td>
                  <td class="number">{{ each.count.toLocaleString('en') }}</td>
                  <td class="number">{{ each.reports.toLocaleString('en') }}</td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
    } @else if (!card.failure()) {
      <sieve-notice kind="loading">Looking at the column</sieve-notice>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-height: 0;
      flex: 1;
    }
    .scroll {
      overflow: auto;
      padding: 8px 12px;
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 2px 14px;
      margin: 0 0 10px;
    }
    dd {
      margin: 0;
      font-variant-numeric: tabular-nums;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      text-align: left;
    }
    td,
    th {
      padding: 2px 4px;
      border-bottom: 1px solid var(--line-soft);
    }
    .link {
      border: 0;
      background: none;
      padding: 2px 0;
      font: inherit;
      color: var(--copper);
      text-align: left;
      text-decoration: underline;
      cursor: pointer;
    }
    .number {
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
  `,
})
export class ColumnCardPane {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly column = input.required<string>();
  readonly publication = input.required<number>();
  /** Rows with this value are wanted. */
  readonly only = output<string>();

  protected readonly card = asked(
    () => ({ pipeline: this.state.id(), column: this.column(), publication: this.publication() }),
    ({ pipeline, column }) => this.api.columnCard(pipeline, column),
  );

  protected readonly facts = computed(() => {
    const card = this.card.value();
    if (!card) return [];
    const { cells, blank, errors, distinct, least, most, sum, mean } = card;
    const grouped = (text: string) => (sum === undefined ? text : text.replace(/^-?\d+/, (whole) => whole.replace(/\B(?=(\d{3})+$)/g, ',')));
    const share = (n: number) => (n === 0 ? 'none' : `${n.toLocaleString('en')} of ${plural(cells, 'row')}`);
    return [
      { name: 'blank', says: share(blank) },
      { name: 'error cells', says: share(errors) },
      { name: 'different', says: distinct === undefined ? 'too many to count one by one' : distinct.toLocaleString('en') },
      ...(least === undefined ? [] : [{ name: 'least', says: grouped(least) }, { name: 'most', says: grouped(most!) }]),
      ...(sum === undefined ? [] : [{ name: 'sum', says: grouped(sum) }, { name: 'mean', says: grouped(mean!) }]),
    ];
  });

  protected readonly spread = computed((): ChartOption | undefined => {
    const spread = this.card.value()?.spread ?? [];
    if (spread.length === 0) return undefined;
    const shown = (n: number) => Number(n.toPrecision(3)).toLocaleString('en');
    return {
      grid: { left: 44, right: 8, top: 8, bottom: 24 },
      tooltip: { trigger: 'axis' },
      xAxis: { type: 'category', data: spread.map(({ from, to }) => `${shown(from)} to ${shown(to)}`), axisLabel: { formatter: (text: string) => text.split(' ')[0] } },
      yAxis: { type: 'value', minInterval: 1 },
      series: [{ type: 'bar', name: 'rows', data: spread.map(({ count }) => count), barCategoryGap: '10%' }],
    };
  });
}
