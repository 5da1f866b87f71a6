import { afterNextRender, Component, computed, effect, ElementRef, inject, Injector, input, output, signal, untracked, viewChild } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { CellRange } from '../../../../server/contract/contract';
import { asked } from './asked';
import { measureSentence } from './measure-sentence';
import type { GridCellPlace, GridSource } from './grid-source';
import { plural } from './words';

/** The line under a grid: what the selected cells hold, and looking for a text. */
@Component({
  selector: 'sieve-grid-foot',
  host: { '[class.away]': 'quiet() && !several() && !finding()' },
  imports: [ButtonDirective, InputText],
  template: `
    <span class="holds" role="status">
      @if (measure.failure(); as failure) {
        <span class="error">{{ failure.message }}</span>
      } @else {
        {{ sentence() }}
      }
    </span>
    @if (several()) {
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="copy.emit(false)" title="Ctrl+C">Copy</button>
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="copy.emit(true)" title="Ctrl+Shift+C">Copy with headings</button>
    }
    @if (source().find) {
      @if (finding()) {
        <span class="find" role="search">
          <input pInputText #sought type="search" aria-label="Find in the sheet" placeholder="find" [value]="text()" (input)="text.set($any($event.target).value)" (keydown.enter)="$event.preventDefault(); next($any($event).shiftKey)" (keydown.escape)="leave()" />
          <span class="small" role="status">{{ tells() }}</span>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="next(true)" aria-label="The one before"><i class="pi pi-chevron-up" aria-hidden="true"></i></button>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="next(false)" aria-label="The next one"><i class="pi pi-chevron-down" aria-hidden="true"></i></button>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="leave()" aria-label="End the search"><i class="pi pi-times" aria-hidden="true"></i></button>
        </span>
      } @else {
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="open()" title="Ctrl+F in the sheet"><i class="pi pi-search" aria-hidden="true"></i> Find</button>
      }
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 6px;
      align-items: center;
      min-height: 30px;
      padding: 0 6px 0 12px;
      border-top: 1px solid var(--line);
      background: var(--ground);
      font-size: 12.5px;
    }
    :host(.away) {
      display: none;
    }
    .holds {
      flex: 1;
      min-width: 0;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .find {
      display: flex;
      gap: 4px;
      align-items: center;
    }
    input {
      width: 150px;
      height: 26px;
    }
    .p-button {
      flex: none;
    }
  `,
})
export class GridFoot {
  private readonly injector = inject(Injector);
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('sought');
  readonly source = input.required<GridSource>();
  readonly ranges = input.required<readonly CellRange[]>();
  readonly several = input.required<boolean>();
  readonly quiet = input(false);
  /** Where the search goes on from. */
  readonly from = input<GridCellPlace | undefined>();
  readonly copy = output<boolean>();
  readonly found = output<GridCellPlace>();
  /** The search is left: the keys are for the grid again. */
  readonly left = output<void>();

  protected readonly measure = asked(
    () => (this.several() && this.source().measure ? { source: this.source(), ranges: this.ranges() } : undefined),
    ({ source, ranges }) => source.measure!(ranges),
    { keeps: true, same: (a, b) => a.source === b.source && a.ranges === b.ranges },
  );
  protected readonly sentence = computed(() => (this.several() && this.measure.value() ? measureSentence(this.measure.value()!) : ''));

  protected readonly finding = signal(false);
  protected readonly text = signal('');
  private readonly wish = signal<{ source: GridSource; text: string; from: GridCellPlace; back: boolean } | undefined>(undefined);
  private readonly search = asked(
    () => this.wish(),
    ({ source, text, from, back }) => source.find!(text, from, back),
    { same: (a, b) => a === b },
  );
  protected readonly tells = computed(() => {
    if (this.search.failure()) return this.search.failure()!.message;
    if (this.wish()?.text !== this.text().trim() || !this.wish()) return '';
    const result = this.search.value();
    return result ? (result.count === 0 ? 'nowhere' : `in ${plural(result.count, 'cell')}`) : 'looking';
  });

  constructor() {
    effect(() => {
      // What was found is gone to once, when it comes.
      const place = this.search.value()?.place;
      if (place) untracked(() => this.found.emit(place));
    });
  }

  open() {
    this.finding.set(true);
    afterNextRender(() => this.field()?.nativeElement.select(), { injector: this.injector });
  }
  protected leave() {
    this.finding.set(false);
    this.left.emit();
  }
  protected next(back: boolean) {
    const text = this.text().trim();
    if (text !== '') this.wish.set({ source: this.source(), text, from: this.from() ?? { row: -1, column: 0 }, back });
  }
}
