import { afterRenderEffect, Component, computed, DestroyRef, effect, ElementRef, inject, input, output, signal, viewChild } from '@angular/core';
import type { Box } from '../../../../core/page/box';
import type { Word } from '../../../../core/page/page';
import { PaperRuler, type PaperRulers } from './paper-ruler';
import { PdfPages } from './pdf-pages';

/** A found table on the page, with its corner ticks. */
export interface PaperTable {
  readonly id: string;
  readonly title: string;
  readonly box: Box;
  readonly taken: boolean;
}

/** Something shown on the paper: a traced word, a row, words that a step held. */
export interface PaperFrame {
  readonly box: Box;
  readonly kind: 'word' | 'band' | 'held' | 'hit' | 'cut' | 'unread' | 'split' | 'record';
  readonly says?: string;
}

/** Room beside a table that the paper is fitted to, in points. */
const besideTable = 14;

/** The page as printed, drawn in the browser, with what the program knows of it laid over. */
@Component({
  selector: 'sieve-paper',
  imports: [PaperRuler],
  template: `
    <div class="desk" #desk tabindex="0" role="region" [attr.aria-label]="'Page ' + page() + ' of ' + name() + (words().length > 0 ? '. Left and right arrow go from word to word.' : '')" (keydown)="key($event)">
      @if (failure(); as failure) {
        <p class="error" role="alert">{{ failure }}</p>
      }
      <div class="sheet" [style.width.px]="size().width" [style.height.px]="size().height">
        <canvas #canvas role="img" [attr.aria-label]="'Page ' + page() + ' as printed'" (click)="clicked($event)"></canvas>
        @for (frame of frames(); track $index) {
          <div class="frame" [class]="frame.kind" [style]="placed(frame.box)">@if (frame.says) {<span>{{ frame.says }}</span>}</div>
        }
        @for (mark of marks(); track $index) {
          <div class="frame" [class]="mark.kind" [style]="placed(mark.box)"></div>
        }
        @for (table of tables(); track table.id) {
          <div class="ticks" [class.taken]="table.taken" [style]="placed(table.box)"><i></i><i></i><i></i><i></i></div>
          @if (takeable()) {
            <button class="take" [class.taken]="table.taken" [style]="above(table.box)" [attr.aria-pressed]="table.taken" (click)="toggle.emit(table.id)">
              <i class="pi" [class.pi-check]="table.taken" [class.pi-plus]="!table.taken" aria-hidden="true"></i> {{ table.taken ? 'taken' : 'take' }}: {{ table.title }}
            </button>
          }
        }
        @for (line of lines(); track $index) {
          <i class="separator" [style]="placed(line)"></i>
        }
        @if (drawing()) {
          <div class="draws" (pointerdown)="startArea($event)">
            @if (dragged(); as box) {
              <div class="frame area" [style]="placed(box)"></div>
            }
          </div>
        }
        @if (rulers(); as shown) {
          <sieve-paper-ruler [rulers]="shown" [scale]="scale()" (rulersChange)="rulersChange.emit($event)" />
        }
        @if (!drawn() && !failure()) {
          <p class="small wait" role="status">Drawing the page</p>
        }
      </div>
    </div>
  `,
  styleUrl: './paper.css',
})
export class Paper {
  private readonly pdf = inject(PdfPages);
  /** Address of the PDF file. */
  readonly file = input.required<string>();
  readonly name = input.required<string>();
  readonly page = input.required<number>();
  /** 1: as wide as the pane. */
  readonly zoom = input(1);
  readonly words = input<readonly Word[]>([]);
  readonly tables = input<readonly PaperTable[]>([]);
  readonly frames = input<readonly PaperFrame[]>([]);
  /** What a step did with the lines, drawn beside them. */
  readonly marks = input<readonly PaperFrame[]>([]);
  readonly takeable = input(false);
  /** Separators that are only shown, as boxes of no width. */
  readonly lines = input<readonly Box[]>([]);
  /** Separators that can be moved. */
  readonly rulers = input<PaperRulers | undefined>(undefined);
  readonly rulersChange = output<PaperRulers>();
  /** Is an area being drawn with the pointer? */
  readonly drawing = input(false);
  readonly area = output<Box>();
  readonly toggle = output<string>();
  readonly word = output<number>();

  protected readonly failure = signal<string | undefined>(undefined);
  protected readonly drawn = signal(false);
  private readonly desk = viewChild.required<ElementRef<HTMLElement>>('desk');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly deskWidth = signal(0);
  private readonly points = signal<{ width: number; height: number }>({ width: 595, height: 842 });
  protected readonly dragged = signal<Box | undefined>(undefined);
  /** From which to which place across the page the pane is wide; the whole page if left out. */
  readonly fit = input<readonly [left: number, right: number] | undefined>();
  protected readonly scale = computed(() => {
    const [left, right] = this.fit() ?? [0, this.points().width];
    return (Math.max(120, this.deskWidth() - 32) / (right - left + (this.fit() ? 2 * besideTable : 0))) * this.zoom();
  });
  protected readonly size = computed(() => ({ width: this.points().width * this.scale(), height: this.points().height * this.scale() }));
  /** The word that the keyboard stands on. */
  private cursor = -1;

  constructor() {
    const observer = new ResizeObserver(([entry]) => this.deskWidth.set(Math.floor(entry.contentRect.width + 28)));
    effect(() => observer.observe(this.desk().nativeElement));
    effect((onCleanup) => {
      const [file, number] = [this.file(), this.page()];
      const gone = new AbortController();
      onCleanup(() => gone.abort());
      this.pdf.size(file, number).then(
        ([width, height]) => !gone.signal.aborted && this.points.set({ width, height }),
        (error: Error) => !gone.signal.aborted && this.failure.set(`The paper cannot be drawn: ${error.message}`),
      );
    });
    effect((onCleanup) => {
      const [file, number, scale] = [this.file(), this.page(), this.scale()];
      if (this.deskWidth() === 0) return;
      const gone = new AbortController();
      onCleanup(() => gone.abort());
      this.pdf.draw(this.canvas().nativeElement, file, number, scale, gone.signal).then(
        (drawn) => {
          if (!drawn) return;
          this.drawn.set(true);
          this.failure.set(undefined);
        },
        (error: Error) => !gone.signal.aborted && this.failure.set(`Page ${number} cannot be drawn: ${error.message}`),
      );
    });
    // Once the page has the width that it is scrolled in; the same place again leaves the paper where it was scrolled to meanwhile.
    let fitted = '';
    afterRenderEffect(() => {
      const fit = this.fit();
      const place = fit ? `${this.file()} ${this.page()} ${fit[0]} ${this.scale()}` : '';
      if (fit && place !== fitted) this.desk().nativeElement.scrollLeft = Math.max(0, (fit[0] - besideTable) * this.scale());
      fitted = place;
    });
    effect(() => {
      const [frame] = this.frames();
      if (!frame) return;
      // Brings what is shown into sight without moving the page when it is there already.
      const desk = this.desk().nativeElement;
      const top = frame.box[1] * this.scale();
      const left = frame.box[0] * this.scale();
      if (top < desk.scrollTop || top > desk.scrollTop + desk.clientHeight - 60) desk.scrollTop = Math.max(0, top - desk.clientHeight / 3);
      if (left < desk.scrollLeft || left > desk.scrollLeft + desk.clientWidth - 90) desk.scrollLeft = Math.max(0, left - desk.clientWidth / 2);
    });
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }

  protected placed([left, top, right, bottom]: Box) {
    const scale = this.scale();
    return { left: `${left * scale}px`, top: `${top * scale}px`, width: `${(right - left) * scale}px`, height: `${(bottom - top) * scale}px` };
  }

  /** The label of a found table stands above its right corner, where a title seldom is. */
  protected above([, top, right]: Box) {
    const scale = this.scale();
    return { right: `${(this.points().width - right) * scale}px`, top: `${Math.max(0, top * scale - 26)}px` };
  }

  /** From where the pointer goes down to where it goes up. */
  protected startArea(event: PointerEvent) {
    const sheet = event.currentTarget as HTMLElement;
    sheet.setPointerCapture(event.pointerId);
    const at = (moved: PointerEvent) => {
      const { left, top } = sheet.getBoundingClientRect();
      return [(moved.clientX - left) / this.scale(), (moved.clientY - top) / this.scale()] as const;
    };
    const [fromX, fromY] = at(event);
    const move = (moved: PointerEvent) => {
      const [x, y] = at(moved);
      this.dragged.set([Math.min(fromX, x), Math.min(fromY, y), Math.max(fromX, x), Math.max(fromY, y)]);
    };
    sheet.addEventListener('pointermove', move);
    sheet.addEventListener(
      'lostpointercapture',
      () => {
        sheet.removeEventListener('pointermove', move);
        const box = this.dragged();
        this.dragged.set(undefined);
        if (box && box[2] - box[0] > 10 && box[3] - box[1] > 8) this.area.emit(box.map((n) => Math.round(n * 10) / 10) as unknown as Box);
      },
      { once: true },
    );
  }

  /** Words by keyboard: the arrows left and right go from one to the next. */
  protected key(event: KeyboardEvent) {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    const count = this.words().length;
    if (by === 0 || count === 0 || event.target !== this.desk().nativeElement) return;
    event.preventDefault();
    this.cursor = Math.min(count - 1, Math.max(0, this.cursor + by));
    this.word.emit(this.cursor);
  }

  protected clicked(event: MouseEvent) {
    const x = event.offsetX / this.scale();
    const y = event.offsetY / this.scale();
    const at = this.words().findIndex(({ box }) => x >= box[0] - 1 && x <= box[2] + 1 && y >= box[1] - 1 && y <= box[3] + 1);
    if (at < 0) return;
    this.cursor = at;
    this.word.emit(at);
  }
}
