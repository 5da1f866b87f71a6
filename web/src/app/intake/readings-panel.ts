import { Component, computed, input, linkedSignal, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Pick } from '../shared/pick';
import type { ReadingChoice } from '../../../../core/intake/take-rule';
import { compareReadings, differences } from '../../../../core/reading/compare';
import type { Piece } from '../../../../core/reading/found-table';
import { plural } from '../shared/words';

/** Two readings of a found table side by side, with the cells marked in which they differ. */
@Component({
  selector: 'sieve-readings-panel',
  imports: [ButtonDirective, Pick],
  host: { class: 'by-hand' },
  template: `
    <div class="body">
      @if (piece().readings.length < 2) {
        <p>There is one reading of this table only. {{ piece().readings[0].reason }}</p>
      } @else {
        <p class="counts">
          <b>{{ says(count(), 'cell') }} {{ count() === 1 ? 'differs' : 'differ' }}</b>
          <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-pressed]="onlyDiffering()" (click)="onlyDiffering.set(!onlyDiffering())">{{ onlyDiffering() ? 'Show all rows' : 'Show differing rows only' }}</button>
        </p>
        <div class="sides">
          @for (side of sides(); track $index) {
            <section [attr.aria-label]="'Reading ' + side.reading.name">
              <sieve-pick [label]="$index === 0 ? 'Reading at the left' : 'Reading at the right'" [options]="choicesFor($index)" [value]="side.reading.name" (picked)="choose($index, $event)" />
              <p class="small">{{ side.reading.reason }}</p>
              <div class="sheet" tabindex="0" role="region" [attr.aria-label]="'Rows of the reading ' + side.reading.name">
                <table>
                  <tbody>
                    @for (row of side.rows; track $index) {
                      <tr [class.none]="!row.cells">
                        @for (cell of row.cells ?? []; track $index) {
                          <td [class.differs]="row.differs.includes($index)">{{ cell }}</td>
                        } @empty {
                          <td class="small">no such row</td>
                        }
                      </tr>
                    }
                  </tbody>
                </table>
              </div>
              <p class="acts">
                <button pButton [disabled]="chosen() === side.reading.name" (click)="use.emit({ reading: side.reading.name, of: 'all' })">Use {{ side.reading.name }} for all reports</button>
                <button pButton severity="secondary" [outlined]="true" (click)="use.emit({ reading: side.reading.name, of: 'this' })">Only here</button>
              </p>
            </section>
          }
        </div>
      }
    </div>
    <div class="foot"><button pButton type="button" [text]="true" size="small" severity="secondary" (click)="close.emit()">Back to what is taken</button></div>
  `,
  styles: `
    .body {
      display: flex;
      flex-direction: column;
    }
    .counts {
      display: flex;
      align-items: center;
      justify-content: space-between;
      margin: 0 0 6px;
    }
    .sides {
      flex: 1;
      min-height: 0;
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      gap: 10px;
    }
    section {
      display: flex;
      flex-direction: column;
      min-height: 0;
    }
    section > .small {
      min-height: 50px;
      margin: 4px 0;
    }
    .sheet {
      flex: 1;
      min-height: 0;
      overflow: auto;
      border: 1px solid var(--line);
      border-radius: 6px;
      background: var(--panel);
    }
    table {
      border-collapse: collapse;
      font-size: 12px;
    }
    td {
      height: 19px;
      padding: 1px 6px;
      border-right: 1px solid var(--line-soft);
      border-bottom: 1px solid var(--line-soft);
      white-space: nowrap;
      max-width: 104px;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .differs {
      background: var(--ochre-soft);
      box-shadow: inset 2px 0 var(--ochre);
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin: 8px 0 0;
    }
  `,
})
export class ReadingsPanel {
  readonly piece = input.required<Piece>();
  /** The reading by which the table is read now. */
  readonly chosen = input.required<string>();
  readonly use = output<{ reading: ReadingChoice; of: 'all' | 'this' }>();
  readonly close = output<void>();

  protected readonly says = plural;
  protected readonly onlyDiffering = linkedSignal({ source: () => this.piece().id, computation: () => false });
  private readonly names = linkedSignal({ source: () => this.piece(), computation: (piece) => piece.readings.slice(0, 2).map((reading) => reading.name) });
  private readonly pairs = computed(() => {
    const [left, right] = this.names().map((name) => this.piece().readings.find((reading) => reading.name === name)!);
    return left && right ? compareReadings(left, right) : [];
  });
  protected readonly count = computed(() => differences(this.pairs()));
  protected readonly sides = computed(() => {
    const shown = this.pairs().filter((pair) => !this.onlyDiffering() || pair.differs.length > 0);
    return this.names().map((name, side) => ({
      reading: this.piece().readings.find((reading) => reading.name === name)!,
      rows: shown.map((pair) => ({ cells: side === 0 ? pair.left : pair.right, differs: pair.differs })),
    }));
  });
  protected other = (side: number) => this.names()[1 - side];
  protected choicesFor = (side: number) => this.piece().readings.map(({ name }) => ({ value: name, says: name, off: name === this.other(side) }));
  protected choose(side: number, name: string) {
    this.names.update((names) => names.map((each, i) => (i === side ? name : each)) as typeof names);
  }
}
