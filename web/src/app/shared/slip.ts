import { Component, computed, DestroyRef, effect, ElementRef, inject, input, signal, viewChild, viewChildren } from '@angular/core';
import type { Box } from '../../../../core/page/box';
import type { Word } from '../../../../core/page/page';
import type { PageAnswer, TracedPlace } from '../../../../server/contract/contract';
import { PdfPages } from './pdf-pages';

/** Print is shown no larger than this, in pixels a point. */
const largest = 1.7;
const besideTable = 10;
/** Room above and below a line, in points. */
const aroundLine = 2.5;

/** A band of the page, from which height to which, in points. */
type Band = readonly [from: number, to: number];

/** From where to where the words reach that stand on one line with a box. */
function lineAround(words: readonly Word[], [, top, , bottom]: Box, [left, , right]: Box): Band {
  const middle = (top + bottom) / 2;
  const own = words.filter(({ box }) => box[1] <= middle && box[3] >= middle && box[2] >= left && box[0] <= right);
  return [Math.min(top, ...own.map(({ box }) => box[1])) - aroundLine, Math.max(bottom, ...own.map(({ box }) => box[3])) + aroundLine];
}

/** One frame around the words of a place, or one a word where they stand on several lines. */
const framesOf = ({ box, words }: TracedPlace): readonly Box[] => (box[3] - box[1] < 1.7 * Math.max(...words.map((word) => word.box[3] - word.box[1])) ? [box] : words.map((word) => word.box));

/** The printed line behind the chosen row, cut out of the paper at reading size, the heading of its table above. */
@Component({
  selector: 'sieve-slip',
  template: `
    <div class="slip" #frame role="group" aria-label="The printed line">
      @if (shown(); as shown) {
        @for (band of shown.bands; track band.kind) {
          <div class="band" [class]="band.kind" [style.height.px]="(band.at[1] - band.at[0]) * scale()">
            <canvas #strip role="img" [attr.aria-label]="band.kind === 'line' ? 'Printed: ' + shown.says : 'The heading of the table'" [style.left.px]="-shown.left * scale()"></canvas>
            @for (frame of band.frames; track $index) {
              <i [style.left.px]="(frame[0] - shown.left) * scale() - 3" [style.top.px]="(frame[1] - band.at[0]) * scale() - 2" [style.width.px]="(frame[2] - frame[0]) * scale() + 6" [style.height.px]="(frame[3] - frame[1]) * scale() + 4"></i>
            }
          </div>
        }
      } @else {
        <p>{{ otherwise() }}</p>
      }
      @if (failure(); as failure) {
        <p class="error" role="alert">{{ failure }}</p>
      }
    </div>
  `,
  styles: `
    .slip {
      position: relative;
      min-height: 62px;
      overflow: hidden;
      background: var(--panel);
      border-bottom: 2px solid var(--line);
    }
    .band {
      position: relative;
      overflow: hidden;
      background: #fff;
    }
    .heading {
      border-bottom: 1px dashed #d3d9d6;
    }
    canvas {
      position: absolute;
      top: 0;
    }
    i {
      position: absolute;
      outline: 2px solid var(--copper-on-paper);
      border-radius: 3px;
    }
    p {
      margin: 20px 12px;
      color: var(--muted);
    }
  `,
})
export class Slip {
  /** Address of the PDF file. */
  readonly file = input.required<string>();
  /** The page on which the places are, with its found tables. */
  readonly content = input.required<PageAnswer | undefined>();
  readonly places = input.required<readonly TracedPlace[]>();
  /** What is said while there is no line to show. */
  readonly otherwise = input.required<string>();
  private readonly pdf = inject(PdfPages);
  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');
  private readonly strips = viewChildren<ElementRef<HTMLCanvasElement>>('strip');
  private readonly wide = signal(800);
  protected readonly failure = signal<string | undefined>(undefined);

  protected readonly shown = computed(() => {
    const content = this.content();
    const places = this.places().filter(({ page }) => page === content?.page?.number);
    const [first] = places;
    if (!first || !content?.page || content.page.words.length === 0) return undefined;
    const { words, width, height } = content.page;
    const middle = (first.box[1] + first.box[3]) / 2;
    const piece = content.pieces.find(({ box }) => box[1] - 4 <= middle && box[3] + 4 >= middle && box[0] - 4 <= first.box[2] && box[2] + 4 >= first.box[0]);
    const box: Box = piece?.box ?? [0, 0, width, height];
    const line = lineAround(words, first.box, box);
    const own = words.filter(({ box: each }) => (each[1] + each[3]) / 2 > line[0] && (each[1] + each[3]) / 2 < line[1] && each[2] >= box[0] && each[0] <= box[2]);
    const reading = piece?.readings[0];
    const heading = reading && reading.headingRows > 0 ? this.headingOf([box[1], reading.rows[reading.headingRows - 1].box[3]], line) : undefined;
    return {
      page: first.page,
      left: Math.max(0, box[0] - besideTable),
      right: Math.min(width, box[2] + besideTable),
      says: own.sort((a, b) => a.box[0] - b.box[0]).map(({ text }) => text).join(' '),
      bands: [...(heading ? [{ kind: 'heading' as const, at: heading, frames: [] as readonly Box[] }] : []), { kind: 'line' as const, at: line, frames: places.flatMap(framesOf) }],
    };
  });
  /** The lowest lines of the heading, as many as stay readable; none where the line itself is one of them. */
  private headingOf(heading: Band, line: Band): Band | undefined {
    if (line[0] < heading[1]) return undefined;
    return [Math.max(heading[0] - aroundLine, heading[1] - mostHeading), heading[1] + 1];
  }
  protected readonly scale = computed(() => {
    const shown = this.shown();
    return shown ? Math.min(largest, this.wide() / (shown.right - shown.left)) : 1;
  });

  constructor() {
    const observer = new ResizeObserver(([entry]) => this.wide.set(Math.floor(entry.contentRect.width)));
    effect(() => observer.observe(this.frame().nativeElement));
    inject(DestroyRef).onDestroy(() => observer.disconnect());
    effect((onCleanup) => {
      const shown = this.shown();
      const [scale, strips, file] = [this.scale(), this.strips(), this.file()];
      if (!shown) return;
      const gone = new AbortController();
      onCleanup(() => gone.abort());
      strips.forEach(({ nativeElement: canvas }, i) => {
        const band = shown.bands[i];
        if (!band) return;
        this.pdf.draw(canvas, file, shown.page, scale, gone.signal, band.at).then(
          () => {
            canvas.style.width = `${canvas.width / (window.devicePixelRatio || 1)}px`;
            this.failure.set(undefined);
          },
          (error: Error) => !gone.signal.aborted && this.failure.set(`The line cannot be drawn: ${error.message}`),
        );
      });
    });
  }
}

/** A heading of more lines than this, in points, is cut above. */
const mostHeading = 34;
