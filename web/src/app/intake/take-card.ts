import { Component, computed, input, output, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { Pick } from '../shared/pick';
import type { ReadingChoice, TakeRule } from '../../../../core/intake/take-rule';
import type { Piece } from '../../../../core/reading/found-table';
import { readingNames } from '../../../../core/reading/found-table';
import type { StoredReport, TakeMatch } from '../../../../server/contract/contract';
import { plural } from '../shared/words';

/** Where a table can be cut: above a row, or left of a column, known by its text. */
export interface CutPlace {
  readonly by: 'row' | 'column';
  readonly text: string;
}

/** One take rule: what it takes here, how it is known, how it is read, and its outline. */
@Component({
  selector: 'sieve-take-card',
  imports: [ButtonDirective, InputText, Pick, Textarea],
  template: `<div class="card">
    <h3><input class="name" aria-label="Name of what is taken" [value]="rule().name" (change)="change.emit({ name: $any($event.target).value.trim() || rule().name })" /></h3>
    <p class="small">{{ here() }}</p>
    @for (lacking of match()?.lacks ?? []; track lacking) {
      <p class="needs small"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> “{{ lacking }}” is not found here</p>
    }
    <dl>
      @if (rule().of === 'found table') {
        <dt><label [for]="'title-' + rule().name">Title like</label></dt>
        <dd><input pInputText [id]="'title-' + rule().name" [value]="rule().title ?? ''" placeholder="any title" (change)="change.emit({ title: $any($event.target).value.trim() || undefined })" /></dd>
        <dt><label [for]="'heading-' + rule().name">Heading words</label></dt>
        <dd><textarea pTextarea rows="2" [id]="'heading-' + rule().name" [value]="rule().heading.join(', ')" placeholder="any heading" title="Words or columns of the heading, parted by commas" (change)="change.emit({ heading: wordsOf($any($event.target).value) })"></textarea></dd>
      }
      @if (rule().columns; as count) {
        <dt>Shape</dt>
        <dd>{{ says(count, 'column') }}</dd>
      }
      <dt><label [for]="'pages-' + rule().name">On pages</label></dt>
      <dd><input pInputText [id]="'pages-' + rule().name" [value]="pagesOf()" placeholder="all pages" title="A page, or pages such as 2-5" (change)="setPages($any($event.target))" /></dd>
      @if (rule().join; as join) {
        <dt>Joined</dt>
        <dd>with the next {{ join.tables === 1 ? '' : join.tables }} {{ join.place }} <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="change.emit({ join: undefined })">undo</button></dd>
      }
      @if (rule().cut; as cut) {
        <dt>Cut</dt>
        <dd>{{ cut.part === 'before' ? 'ends before' : 'begins with' }} the {{ cut.by }} “{{ cut.text }}”</dd>
      }
      @if (rule().of === 'labels') {
        <dt>Values</dt>
        <dd>{{ labelNames() }}</dd>
      } @else {
        <dt><label [for]="'reading-' + rule().name">How it is read</label></dt>
        <dd>
          <sieve-pick [inputId]="'reading-' + rule().name" [options]="names()" [value]="rule().reading" (picked)="change.emit({ reading: $any($event) })" />
        </dd>
        @if (onlyHere(); as reading) {
          <dt>Only here</dt>
          <dd>{{ reading }} <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="change.emit({ readingIn: others() })">as all others</button></dd>
        }
        @if (rule().of === 'found table') {
          <dt><label [for]="'which-' + rule().name">Takes</label></dt>
          <dd>
            <sieve-pick [inputId]="'which-' + rule().name" [options]="whichWays" [value]="rule().which" (picked)="change.emit({ which: $any($event) })" />
          </dd>
        }
        @if (rule().of !== 'whole page') {
          <dt><label [for]="'least-' + rule().name">At least this sure</label></dt>
          <dd><input pInputText [id]="'least-' + rule().name" type="number" min="0" max="1" step="0.05" [value]="rule().least" (change)="least(+$any($event.target).value)" /></dd>
        }
      }
    </dl>
    @if (piece(); as shown) {
      <p class="small"><b>{{ shown.readings[0].name }}</b>: {{ shown.readings[0].reason }}</p>
    }
    @if (match()?.rest; as rest) {
      <p class="needs rest" role="status">
        <span><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> Goes on in another found table {{ rest.place }}, on page {{ rest.page }}: join?</span>
        <button pButton severity="secondary" [outlined]="true" (click)="joinNext(rest.place)">Join in all reports</button>
      </p>
    }
    <p class="acts">
      @if (rule().of === 'labels') {
        <button pButton severity="secondary" [outlined]="true" (click)="point.emit()">Point at more</button>
      } @else if (piece()) {
        <button pButton severity="secondary" [outlined]="true" (click)="draw.emit()">Separators</button>
        @if (rule().of === 'found table') {
          <button pButton severity="secondary" [outlined]="true" (click)="compare.emit()">Compare readings</button>
          <button pButton severity="secondary" [outlined]="true" [attr.aria-expanded]="outlining()" (click)="outlining.set(!outlining())">Outline</button>
        }
      }
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="leave.emit()">Leave it out</button>
    </p>
    @if (outlining() && piece(); as shown) {
      <div class="outline">
        <p>
          <button pButton severity="secondary" [outlined]="true" [disabled]="rule().join?.place === 'beside'" (click)="joinNext('below')">Join the next below</button>
          <button pButton severity="secondary" [outlined]="true" [disabled]="rule().join?.place === 'below'" (click)="joinNext('beside')">Join the next beside</button>
        </p>
        <p>
          <label [for]="'cut-' + rule().name">Cut in two</label>
          <sieve-pick [inputId]="'cut-' + rule().name" placeholder="choose where" [options]="cutChoices()" [value]="chosen()" (picked)="chosen.set($event)" />
          <button pButton severity="secondary" [outlined]="true" [disabled]="chosen() === ''" (click)="cutHere()">Cut</button>
        </p>
      </div>
    }
  </div>`,
  styles: `
    .card {
      margin: 10px 12px;
      padding: 9px 11px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--panel);
    }
    .name {
      width: 100%;
      margin: -2px -6px;
      padding: 1px 5px;
      border: 1px solid transparent;
      border-radius: 5px;
      background: none;
      font-weight: 700;
    }
    .name:hover,
    .name:focus {
      border-color: var(--edge);
    }
    p {
      margin: 3px 0;
    }
    .rest {
      display: flex;
      flex-wrap: wrap;
      gap: 5px 8px;
      align-items: center;
      margin: 7px 0;
      padding: 7px 9px;
      border-radius: 6px;
      background: var(--ochre-soft);
    }
    .rest .p-button {
      color: var(--ink);
    }
    dl {
      display: grid;
      grid-template-columns: 108px minmax(0, 1fr);
      gap: 5px 8px;
      margin: 6px 0;
      align-items: center;
    }
    dt {
      color: var(--muted);
    }
    dd {
      margin: 0;
      min-width: 0;
    }
    dd .p-inputtext,
    dd .p-textarea,
    dd sieve-pick {
      width: 100%;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin-top: 6px;
    }
    .acts .p-button,
    .outline .p-button {
      padding: 3px 9px;
    }
    .outline {
      margin-top: 6px;
      border-top: 1px solid var(--line-soft);
    }
    .outline p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
    }
    .outline select {
      flex: 1;
      width: 120px;
    }
  `,
})
export class TakeCard {
  readonly rule = input.required<TakeRule>();
  readonly report = input.required<StoredReport | undefined>();
  /** What the rule takes from the report shown, in words. */
  readonly here = input.required<string>();
  readonly match = input.required<TakeMatch | undefined>();
  /** The piece that it takes on the page shown. */
  readonly piece = input.required<Piece | undefined>();
  readonly change = output<Partial<TakeRule>>();
  readonly leave = output<void>();
  readonly draw = output<void>();
  readonly compare = output<void>();
  readonly point = output<void>();
  readonly cut = output<CutPlace>();

  protected readonly says = plural;
  protected readonly outlining = signal(false);
  protected readonly chosen = signal('');
  protected readonly names = computed((): readonly ReadingChoice[] =>
    this.rule().of === 'whole page' ? ['best', 'aligned', 'column after column', 'line by line', ...(this.rule().drawing ? ['drawn' as const] : [])] : ['best', ...readingNames.filter((name) => name !== 'column after column' && (name !== 'drawn' || this.rule().drawing !== undefined))],
  );
  /** Joins one more of the tables that follow, in all reports. */
  protected joinNext(place: 'below' | 'beside') {
    const { join } = this.rule();
    this.change.emit({ join: { place, tables: (join?.place === place ? join.tables : 0) + 1 } });
  }

  protected readonly labelNames = computed(() => this.rule().labels.map(({ name }) => name).join(', '));
  protected readonly onlyHere = computed(() => this.rule().readingIn.find((each) => this.report()?.path === each.report)?.reading);
  protected readonly others = computed(() => this.rule().readingIn.filter((each) => this.report()?.path !== each.report));
  protected least(value: number) {
    this.change.emit({ least: Math.min(1, Math.max(0, value)) });
  }

  /** Rows and columns by a text that they can be known by. */
  protected readonly places = computed((): CutPlace[] => {
    const reading = this.piece()?.readings[0];
    if (!reading) return [];
    const told = (text: string) => /\p{L}{2}/u.test(text);
    const columns = reading.cells.filter((cell) => cell.row < Math.max(1, reading.headingRows) && cell.column > 0 && told(cell.text)).map(({ text }): CutPlace => ({ by: 'column', text }));
    const rows = reading.rows.flatMap((_, row): CutPlace[] => {
      const text = row > 0 ? reading.cells.find((cell) => cell.row === row && told(cell.text))?.text : undefined;
      return text ? [{ by: 'row', text }] : [];
    });
    return [...columns, ...rows];
  });
  protected wordsOf = (text: string) => text.split(/[,\n]/).map((word) => word.trim()).filter(Boolean);
  protected readonly pagesOf = computed(() => {
    const pages = this.rule().pages;
    return !pages ? '' : pages.from === pages.to ? String(pages.from) : `${pages.from}-${pages.to}`;
  });
  /** A page, or a stretch of pages; blank: all. What is neither is put back. */
  protected setPages(field: HTMLInputElement) {
    const [, from, to] = /^\s*([1-9]\d{0,4})\s*(?:(?:-|–|to)\s*([1-9]\d{0,4})\s*)?$/.exec(field.value) ?? [];
    if (field.value.trim() === '') this.change.emit({ pages: undefined });
    else if (from !== undefined && Number(to ?? from) >= Number(from)) this.change.emit({ pages: { from: Number(from), to: Number(to ?? from) } });
    else field.value = this.pagesOf();
  }
  protected readonly whichWays = [{ value: 'the likest', says: 'the table most like it' }, { value: 'all alike', says: 'all tables like it' }];
  protected readonly cutChoices = computed(() => this.places().map(({ by, text }, i) => ({ value: String(i), says: `${by === 'row' ? 'above the row' : 'left of the column'} “${text}”` })));
  protected cutHere() {
    const place = this.places()[Number(this.chosen())];
    this.outlining.set(false);
    this.chosen.set('');
    if (place) this.cut.emit(place);
  }
}
