import { afterNextRender, Component, computed, DestroyRef, effect, ElementRef, inject, input, linkedSignal, output, untracked, viewChild } from '@angular/core';
import type { EditorView } from '@codemirror/view';
import { formulaOf } from '../../../../core/formula/formula';
import { isFault } from '../../../../core/formula/parse';
import { isError, type Cell } from '../../../../core/values/cell';
import { cellShown } from '../shared/cell-shown';
import { partsIn, tried, type FormulaSample } from './formula-sample';

/** A formula, tried on the first rows while it is written: what it gives in each, and what its parts give in the row looked at. */
@Component({
  selector: 'sieve-formula-field',
  template: `
    <div #editor></div>
    @if (fault(); as fault) {
      @if (written().trim() !== '') {
        <p class="error small" role="alert">{{ fault.says }}</p>
      }
    } @else if (results(); as results) {
      <div class="tried" tabindex="0" role="region" aria-label="What it gives">
        <table aria-label="What it gives in the first rows">
          <tbody>
            @for (cell of results; track $index) {
              <tr [class.here]="$index === sample()?.chosen">
                <th scope="row">{{ sample()?.rows?.[$index]?.label }}</th>
                <td [class.misfit]="isError(cell)" [title]="isError(cell) ? 'expected ' + cell.expected : ''">{{ shown(cell) }}</td>
              </tr>
            }
          </tbody>
        </table>
        @if (parts().length > 0) {
          <table aria-label="What its parts give in the row looked at">
            <tbody>
              @for (part of parts(); track part.says) {
                <tr>
                  <th scope="row"><code>{{ part.says }}</code></th>
                  <td [class.misfit]="isError(part.cell)">{{ shown(part.cell) }}</td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
      @if (looksAround()) {
        <p class="small">It looks at other rows: here at the first ones alone, in the sheet at all of the report.</p>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    p {
      margin: 3px 0;
      white-space: normal;
    }
    .tried {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr);
      gap: 14px;
      align-items: start;
      margin-top: 4px;
      max-height: 132px;
      overflow: auto;
    }
    table {
      border-collapse: collapse;
      font-size: 12px;
      line-height: 16px;
    }
    th {
      font-weight: 400;
      text-align: left;
      color: var(--muted);
      padding: 1px 8px 1px 0;
    }
    td {
      padding: 1px 4px;
      font-variant-numeric: tabular-nums;
      white-space: nowrap;
    }
    .here > * {
      background: var(--copper-soft);
    }
    .misfit {
      color: var(--madder);
    }
  `,
})
export class FormulaField {
  readonly label = input('Formula');
  readonly text = input.required<string>();
  readonly sample = input<FormulaSample | undefined>();
  /** A formula that can be worked out, or whatever is written when the editor is left. */
  readonly changed = output<string>();

  protected readonly isError = isError;
  protected readonly shown = (cell: Cell) => (cell === null ? '(blank)' : cellShown(cell));
  private readonly host = viewChild.required<ElementRef<HTMLElement>>('editor');
  private view: EditorView | undefined;
  private lookAgain: ((view: EditorView) => void) | undefined;
  private gone = false;

  protected readonly written = linkedSignal(() => this.text());
  private readonly columns = computed(() => this.sample()?.columns ?? []);
  /** Columns come a moment after the form: nothing is said of a formula before. */
  private readonly formula = computed(() => (this.sample() ? formulaOf(this.written(), this.columns()) : undefined));
  protected readonly fault = computed(() => {
    const formula = this.formula();
    return formula && isFault(formula) ? formula : undefined;
  });
  protected readonly looksAround = computed(() => {
    const formula = this.formula();
    return formula !== undefined && !isFault(formula) && formula.looksAround;
  });
  protected readonly results = computed(() => {
    const [formula, sample] = [this.formula(), this.sample()];
    return !formula || isFault(formula) || !sample || sample.rows.length === 0 ? undefined : tried(formula, sample);
  });
  protected readonly parts = computed(() => {
    const [formula, sample] = [this.formula(), this.sample()];
    return !formula || isFault(formula) || !sample?.rows[sample.chosen] ? [] : partsIn(this.written(), formula, sample);
  });

  constructor() {
    afterNextRender(() => void this.open());
    // What comes from elsewhere, as an undo, is shown too; what is being written stays.
    effect(() => {
      const text = this.text();
      untracked(() => {
        if (this.view && !this.view.hasFocus && this.view.state.doc.toString() !== text) this.view.dispatch({ changes: { from: 0, to: this.view.state.doc.length, insert: text } });
      });
    });
    effect(() => {
      this.columns();
      if (this.view) this.lookAgain?.(this.view);
    });
    inject(DestroyRef).onDestroy(() => {
      this.gone = true;
      this.view?.destroy();
    });
  }

  private async open() {
    const { formulaEditor, lookAgain } = await import('./formula-editor');
    if (this.gone) return;
    this.lookAgain = lookAgain;
    this.view = formulaEditor({
      parent: this.host().nativeElement,
      text: this.text(),
      label: this.label(),
      columns: () => this.columns(),
      fault: () => this.fault(),
      changed: (text) => this.write(text),
      left: () => this.leave(),
    });
  }

  private write(text: string) {
    this.written.set(text);
    // What is half written would fail in every row.
    if (this.formula() && !this.fault() && text !== this.text()) this.changed.emit(text);
  }
  private leave() {
    if (!this.gone && this.written() !== this.text()) this.changed.emit(this.written());
  }
}
