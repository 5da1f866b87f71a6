import { Component, computed, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { SelectButton } from 'primeng/selectbutton';
import { FormsModule } from '@angular/forms';
import { labelsFor } from '../../../../core/intake/labels';
import { freeNames } from '../../../../core/sheet/column';
import type { LabelSetting } from '../../../../core/intake/take-rule';
import { nameOfLabel, withLabel } from '../intake/take-rules';
import { Offers } from '../offers/offers';
import { PipelineState } from '../pipeline/pipeline-state';
import { Paper, type PaperTable } from '../shared/paper';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';

/** How wide the paper stands: only its pages in small, to be read, or half of the room. */
export const paperWidths = ['edge', 'reading', 'half'] as const;
export type PaperWidth = (typeof paperWidths)[number];

/** The paper beside the sheet. At the edge it is a strip of its pages, on which the taken tables and the chosen line are marked. */
@Component({
  selector: 'sieve-paper-pane',
  host: { class: 'pane' },
  imports: [Paper, ButtonDirective, RouterLink, SelectButton, FormsModule],
  template: `
    @if (width() === 'edge') {
      <div class="pane-head"><button pButton type="button" [text]="true" size="small" severity="secondary" (click)="widthChange.emit('reading')" title="Read the paper (key p)" aria-label="Read the paper">paper <i class="pi pi-angle-double-right" aria-hidden="true"></i></button></div>
      <ol class="strip" aria-label="Pages">
        @for (page of pages(); track page.number) {
          <li>
            <button [class.here]="page.number === at.pageShown()" [attr.aria-current]="page.number === at.pageShown() ? 'page' : null" [attr.aria-label]="'Page ' + page.number + (page.boxes.length > 0 ? ', with a taken table' : '')" (click)="selection.turnTo(page.number)" (dblclick)="widthChange.emit('reading')">
              @for (box of page.boxes; track $index) {
                <u [style]="box"></u>
              }
              @for (line of page.lines; track $index) {
                <s [style.top.%]="line"></s>
              }
            </button>
            <span aria-hidden="true">{{ page.number }}</span>
          </li>
        }
      </ol>
    } @else {
      <div class="pane-head">
        <h2 class="file">{{ at.shown()?.path }}</h2>
        <span class="grow"></span>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="selection.turnTo(at.pageShown() - 1)" [disabled]="at.pageShown() <= 1" aria-label="Page before"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
        <span>{{ at.pageShown() }} of {{ at.summary()?.pageCount ?? '?' }}</span>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="selection.turnTo(at.pageShown() + 1)" [disabled]="at.pageShown() >= (at.summary()?.pageCount ?? 1)" aria-label="Next page"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
        <p-selectbutton [options]="widths" [ngModel]="width()" (ngModelChange)="widthChange.emit($event)" [allowEmpty]="false" size="small" ariaLabelledBy="paper-width" />
        <span id="paper-width" class="sr">Width of the paper (key p)</span>
      </div>
      @if (at.shown(); as shown) {
        <sieve-paper [file]="at.file()" [name]="shown.path" [page]="at.pageShown()" [fit]="fit()" [words]="at.words()" [tables]="tables()" [frames]="frames()" [marks]="at.marks()" (word)="selection.followWord($event)" />
      }
    }
    @if (selection.fate(); as fate) {
      <p class="fate" role="status">
        “{{ fate.word }}”: {{ fate.sentence }}
        @if (fate.step; as step) {
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="selection.choose(step)">Show that step</button>
        }
        @for (value of values(); track value.side) {
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="takeValue(value)" [title]="'One row of each report: what stands ' + (value.side === 'right' ? 'beside' : 'under') + ' “' + value.label + '”'">Take it as the value of “{{ value.label }}”</button>
        }
        @if (fate.word.length > 1) {
          <a pButton [text]="true" size="small" severity="secondary" [routerLink]="['/pipelines', state.id(), 'intake']" [queryParams]="{ find: fate.word }">Find it in all reports</a>
        }
      </p>
    }
  `,
  styles: `
    :host {
      background: var(--ground);
    }
    .file {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .strip {
      list-style: none;
      margin: 0;
      padding: 10px 12px;
      flex: 1;
      overflow: auto;
      background: var(--desk);
    }
    li {
      margin-bottom: 8px;
      text-align: center;
      font-size: 12px;
      color: var(--muted);
    }
    .strip button {
      position: relative;
      display: block;
      width: 100%;
      aspect-ratio: 3 / 4;
      border: 1px solid var(--line);
      background: var(--paper);
      padding: 0;
      cursor: pointer;
    }
    .strip .here {
      border: 2px solid var(--copper);
    }
    u,
    s {
      position: absolute;
    }
    u {
      background: var(--verdigris-soft-on-paper);
      border: 1px solid var(--verdigris-on-paper);
    }
    s {
      left: 4%;
      right: 4%;
      height: 3px;
      background: var(--copper-on-paper);
    }
    .fate {
      margin: 0;
      padding: 5px 12px;
      border-top: 1px solid var(--line);
      background: var(--ochre-soft);
    }
  `,
})
export class PaperPane {
  protected readonly state = inject(PipelineState);
  protected readonly at = inject(BenchLook);
  protected readonly selection = inject(BenchSelection);
  private readonly offers = inject(Offers);
  protected readonly frames = computed(() => [...this.selection.frames(), ...this.offers.frames()]);
  readonly width = input.required<PaperWidth>();
  readonly widthChange = output<PaperWidth>();
  protected readonly widths = [...paperWidths];

  /** What the word that is followed is the value of, where no table has it. */
  protected readonly values = computed(() => {
    const [loose, page] = [this.selection.loose(), this.at.pageContent()?.page];
    if (!loose || !page || !page.words[loose.word]) return [];
    return labelsFor(page, loose.word);
  });
  protected takeValue({ label, side }: Pick<LabelSetting, 'label' | 'side'>) {
    const document = this.state.document()!;
    // Another value that is called so stays.
    const name = freeNames(document.take.flatMap(({ labels }) => labels))(nameOfLabel(label));
    this.state.change(withLabel(document, { name, label, side }));
  }

  /** The page's size is not known here before it is drawn: boxes are set against the usual one. */
  private readonly size = computed(() => this.at.pageSize() ?? ([595, 842] as const));
  protected readonly pages = computed(() => {
    const [wide, high] = this.size();
    return Array.from({ length: this.at.summary()?.pageCount ?? 0 }, (_, i) => ({
      number: i + 1,
      boxes: this.at.pieces().filter(({ page }) => page === i + 1).map(({ box: [left, top, right, bottom] }) => ({ left: `${(100 * left) / wide}%`, top: `${(100 * top) / high}%`, width: `${(100 * (right - left)) / wide}%`, height: `${(100 * (bottom - top)) / high}%` })),
      lines: this.selection.traced().filter(({ page }) => page === i + 1).map(({ box }) => (100 * (box[1] + box[3])) / 2 / high),
    }));
  });
  protected readonly tables = computed((): PaperTable[] => this.at.pieces().filter(({ page }) => page === this.at.pageShown()).map(({ id, box }) => ({ id, title: '', box, taken: true })));
  /** The table's box is fitted to the pane, not the empty margins. */
  protected readonly fit = computed(() => {
    const boxes = this.tables().map(({ box }) => box);
    return boxes.length === 0 ? undefined : ([Math.min(...boxes.map(([left]) => left)), Math.max(...boxes.map(([, , right]) => right))] as const);
  });
}
