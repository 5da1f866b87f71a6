import { Component, computed, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { TakeRule } from '../../../../core/intake/take-rule';
import { ruleOf } from '../../../../core/intake/take-rule';
import type { TableFacts } from '../../../../server/contract/contract';
import { plural } from '../shared/words';
import { alikeEnough, tableName } from './take-rules';

function grouped<Item, Key>(items: readonly Item[], keyOf: (item: Item) => Key): Map<Key, Item[]> {
  const groups = new Map<Key, Item[]>();
  for (const item of items) groups.set(keyOf(item), [...(groups.get(keyOf(item)) ?? []), item]);
  return groups;
}

/** Many found tables at once: all of one shape, all with one heading, all on some pages; tables of other shapes stay apart. */
@Component({
  selector: 'sieve-take-many',
  imports: [ButtonDirective, InputText],
  template: `<details>
    <summary>Take many at once</summary>
    @for (group of headings(); track group.key) {
      <p>
        <button pButton severity="secondary" [outlined]="true" (click)="take.emit([group.rule])">All {{ group.count }} with this heading</button>
        <span class="small">{{ group.says }}</span>
      </p>
    }
    @for (shape of shapes(); track shape.columns) {
      <p>
        <button pButton severity="secondary" [outlined]="true" (click)="take.emit([shape.rule])">All {{ shape.count }} of {{ says(shape.columns, 'column') }}</button>
      </p>
    }
    <p>
      <label for="many-from">On pages</label> <input pInputText id="many-from" type="number" min="1" [max]="pageCount()" [value]="page()" #from /> <label for="many-to">to</label>
      <input pInputText id="many-to" type="number" min="1" [max]="pageCount()" [value]="page()" #to />
      <button pButton severity="secondary" [outlined]="true" (click)="onPages(+from.value, +to.value)">Take all there</button>
    </p>
    <p class="small">Tables of different shapes are taken by rules of their own.</p>
  </details>`,
  styles: `
    details {
      margin: 10px 12px;
      padding: 7px 11px;
      border: 1px solid var(--line);
      border-radius: 8px;
    }
    summary {
      cursor: pointer;
      font-weight: 600;
    }
    p {
      margin: 6px 0;
    }
    .p-button {
      padding: 3px 9px;
    }
    input {
      width: 52px;
    }
  `,
})
export class TakeMany {
  readonly tables = input.required<readonly TableFacts[]>();
  readonly page = input.required<number>();
  readonly pageCount = input.required<number>();
  /** Names that rules bear already. */
  readonly names = input.required<readonly string[]>();
  readonly take = output<readonly TakeRule[]>();
  protected readonly says = plural;

  protected readonly headings = computed(() =>
    [...grouped(this.tables().filter((table) => table.heading.trim() !== ''), (table) => table.heading)]
      .filter(([, alike]) => alike.length > 1)
      .map(([key, [first, ...rest]]) => ({
        key,
        count: rest.length + 1,
        says: first.headingCells.slice(0, 4).join(', '),
        rule: ruleOf({ name: this.free(tableName(first)), heading: [...first.headingCells], which: 'all alike', least: alikeEnough }),
      })),
  );
  protected readonly shapes = computed(() =>
    [...grouped(this.tables(), (table) => table.columns)]
      .filter(([, alike]) => alike.length > 1)
      .sort(([a], [b]) => a - b)
      .map(([columns, alike]) => ({ columns, count: alike.length, rule: ruleOf({ name: this.free(`Tables of ${plural(columns, 'column')}`), columns, which: 'all alike', least: 0 }) })),
  );

  /** A rule for each shape that there is on these pages. */
  protected onPages(from: number, to: number) {
    const pages = { from: Math.max(1, Math.min(from, to)), to: Math.min(this.pageCount(), Math.max(from, to)) };
    const there = this.tables().filter((table) => table.pieces.some(({ page }) => page >= pages.from && page <= pages.to));
    const on = pages.from === pages.to ? `page ${pages.from}` : `pages ${pages.from} to ${pages.to}`;
    this.take.emit([...new Set(there.map((table) => table.columns))].map((columns) => ruleOf({ name: this.free(`Tables of ${plural(columns, 'column')} on ${on}`), columns, pages, which: 'all alike', least: 0 })));
  }

  private free(name: string): string {
    let free = name;
    for (let n = 2; this.names().includes(free); n++) free = `${name} (${n})`;
    return free;
  }
}
