import { afterRenderEffect, Component, computed, ElementRef, inject, input, output } from '@angular/core';
import type { Box } from '../../../../core/page/box';
import type { FoundFacts } from '../../../../server/contract/contract';

/** The pages of a report in small: where ink and tables lie. */
@Component({
  selector: 'sieve-page-strip',
  template: `<nav aria-label="Pages">
    @for (page of pages(); track page.number) {
      <button [class.here]="page.number === chosen()" [attr.aria-current]="page.number === chosen() ? 'page' : null" (click)="choose.emit(page.number)" [attr.aria-label]="'Page ' + page.number">
        <svg [attr.viewBox]="'0 0 ' + page.width + ' ' + page.height" aria-hidden="true">
          @for (box of page.ink; track $index) {
            <rect class="ink" [attr.x]="box[0]" [attr.y]="box[1]" [attr.width]="box[2] - box[0]" [attr.height]="box[3] - box[1]" />
          }
          @for (box of page.pictures; track $index) {
            <rect class="picture" [attr.x]="box[0]" [attr.y]="box[1]" [attr.width]="box[2] - box[0]" [attr.height]="box[3] - box[1]" />
          }
          @for (box of page.unread; track $index) {
            <rect class="unread" [attr.x]="box[0]" [attr.y]="box[1]" [attr.width]="box[2] - box[0]" [attr.height]="box[3] - box[1]" />
          }
          @for (table of page.tables; track table.id) {
            <rect [class]="table.taken ? 'taken' : 'found'" [attr.x]="table.box[0]" [attr.y]="table.box[1]" [attr.width]="table.box[2] - table.box[0]" [attr.height]="table.box[3] - table.box[1]" />
          }
        </svg>
        @if (page.hits > 0) {
          <b class="hits"><span class="sr">hits: </span>{{ page.hits }}</b>
        }
        <span>{{ page.number }}{{ page.label ? ' “' + page.label + '”' : '' }}</span>
      </button>
    }
  </nav>`,
  styles: `
    nav {
      width: 68px;
      overflow-y: auto;
      background: var(--desk);
      padding: 12px 6px;
      height: 100%;
      display: flex;
      flex-direction: column;
      gap: 8px;
    }
    button {
      position: relative;
      padding: 0;
      border: 1px solid var(--line);
      background: var(--paper);
      cursor: pointer;
      flex: none;
      content-visibility: auto;
      contain-intrinsic-size: auto 54px auto 90px;
    }
    button.here {
      outline: 2px solid var(--copper);
    }
    svg {
      display: block;
      width: 100%;
    }
    .ink {
      fill: #c3cac7;
    }
    .picture {
      fill: #e3dfd2;
    }
    .unread {
      fill: none;
      stroke: var(--ochre);
      stroke-width: 10;
      stroke-dasharray: 12 10;
    }
    .hits {
      position: absolute;
      top: 2px;
      right: 2px;
      padding: 0 4px;
      border-radius: 7px;
      background: var(--ochre);
      color: var(--on-verdigris);
      font-size: 11px;
    }
    .found {
      fill: none;
      stroke: #77817c;
      stroke-width: 8;
      stroke-dasharray: 20 14;
    }
    .taken {
      fill: rgb(35 106 98 / 15%);
      stroke: var(--verdigris);
      stroke-width: 10;
    }
    span {
      display: block;
      font-size: 12px;
      color: var(--muted);
    }
  `,
})
export class PageStrip {
  readonly found = input.required<FoundFacts>();
  /** Ids of the found tables that are taken. */
  readonly taken = input.required<ReadonlySet<string>>();
  readonly chosen = input.required<number>();
  /** How many hits of a search stand on which page. */
  readonly hits = input<ReadonlyMap<number, number>>(new Map());
  readonly choose = output<number>();

  private readonly isIn = computed(() => this.found().pages.some((page) => page.number === this.chosen()));
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    // The page shown is in sight in the strip, wherever it was chosen; pages that come in later do not move it.
    afterRenderEffect(() => {
      if (this.chosen() && this.isIn()) this.host.nativeElement.querySelector('[aria-current]')?.scrollIntoView?.({ block: 'nearest' });
    });
  }

  protected readonly pages = computed(() => {
    const { pages, tables } = this.found();
    const onPage = new Map<number, { id: string; box: Box; taken: boolean }[]>();
    for (const table of tables)
      for (const { id, page, box } of table.pieces) onPage.set(page, [...(onPage.get(page) ?? []), { id, box, taken: this.taken().has(table.id) }]);
    return pages.map((page) => ({ ...page, tables: onPage.get(page.number) ?? [], hits: this.hits().get(page.number) ?? 0 }));
  });
}
