import { Component, computed, effect, ElementRef, inject, input, output, untracked, viewChild } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { nameFacts } from '../../../../core/intake/file-names';
import { PipelineState } from '../pipeline/pipeline-state';
import { StripWindow } from './strip-window';
import { shortPeriod } from './words';

/** Of one slot where there are many, in pixels. */
const slotWidth = 56;

/** One slot per period: each report with its state, a missing period as a hole, a doubled one as a double slot. */
@Component({
  selector: 'sieve-time-ruler',
  imports: [ButtonDirective],
  template: `<nav aria-label="Reports by time">
    <span class="label">{{ label().kind }}<br />{{ label().span }}</span>
    @if (!window.fits()) {
      <span class="steps">
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="go(-1)" [disabled]="needing().length === 0" aria-label="Report before that needs a look"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
        <span [title]="needing().length + ' of ' + all().length + ' need a look'">{{ needing().length }}</span>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="go(1)" [disabled]="needing().length === 0" aria-label="Next report that needs a look"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
      </span>
    }
    <div class="slots" #frame [class.long]="!window.fits()" (scroll)="window.scrolled()">
      <span class="away" [style.width.px]="window.before()"></span>
      @for (slot of slots(); track slot.key) {
        @if (slot.report; as report) {
          <button [class]="slot.tone" [class.here]="report.id === chosen()" [class.two]="slot.double" [attr.aria-pressed]="report.id === chosen()" [title]="report.path + ': ' + slot.word + ' ' + slot.detail + (slot.ties === 'off' ? ', a printed total is off' : slot.ties ? ', printed totals tie out' : '')" (click)="choose.emit(report.id)">
            {{ slot.name }}<b>{{ slot.word }}@if (slot.ties) {<i class="pi" [class.pi-check]="slot.ties === 'tied out'" [class.pi-exclamation-triangle]="slot.ties === 'off'" aria-hidden="true"></i><span class="sr"> {{ slot.ties }}</span>}</b>
          </button>
        } @else {
          <span class="hole" [title]="'No report for ' + slot.key">{{ slot.name }}<b>{{ none().includes(slot.key) ? 'none' : 'missing' }}</b></span>
        }
      }
      <span class="away" [style.width.px]="window.after()"></span>
    </div>
  </nav>`,
  styles: `
    nav {
      display: flex;
      height: 42px;
      padding: 4px 16px 0;
      background: var(--panel);
      border-bottom: 1px solid var(--line);
      font-size: 12px;
    }
    .label {
      flex: none;
      width: 96px;
      color: var(--muted);
      line-height: 15px;
    }
    .slots {
      /* What only screen readers hear is placed in it, and scrolls with it. */
      position: relative;
      display: flex;
      gap: 2px;
      flex: 1;
      min-width: 0;
      overflow-x: auto;
      scrollbar-width: none;
    }
    .away {
      flex: none;
    }
    .steps {
      display: flex;
      align-items: center;
      flex: none;
      color: var(--ochre);
    }
    .slots > button,
    .hole {
      flex: 1 0 54px;
      min-width: 0;
      max-width: 140px;
      padding: 2px 4px 0;
      border: 0;
      border-top: 3px solid var(--line);
      background: none;
      text-align: left;
      color: var(--muted);
      font-size: 12px;
      line-height: 14px;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    /* Many slots are all of one width. */
    .slots.long {
      gap: 0;
      scrollbar-width: thin;
    }
    nav:has(.long) {
      height: 52px;
    }
    .long > button,
    .long > .hole {
      flex: none;
      width: 56px;
    }
    .slots > button {
      cursor: pointer;
    }
    .slots > button:hover {
      background: var(--ground);
    }
    .slots > button:focus-visible {
      outline-offset: -2px;
    }
    b {
      display: block;
      font-weight: 600;
      color: var(--ink);
      overflow: hidden;
      text-overflow: ellipsis;
    }
    b .pi {
      margin-left: 3px;
      font-size: 10px;
    }
    b .pi-exclamation-triangle {
      color: var(--ochre);
    }
    .slots > .passes {
      border-top-color: var(--verdigris);
    }
    .slots > .needs {
      border-top-color: var(--ochre-line);
    }
    .slots > .needs b {
      color: var(--ochre);
    }
    .slots > .error {
      border-top-color: var(--madder);
    }
    .slots > .error b {
      color: var(--madder);
    }
    .slots > .two {
      border-top-style: double;
      border-top-width: 5px;
    }
    .slots > .here {
      background: var(--copper-soft);
    }
    .slots > .here b {
      color: var(--copper);
    }
    .hole {
      border-top: 3px dotted var(--edge);
      background: repeating-linear-gradient(115deg, transparent 0 5px, var(--line-soft) 5px 6px);
    }
  `,
})
export class TimeRuler {
  private readonly state = inject(PipelineState);
  readonly chosen = input<number>();
  readonly choose = output<number>();

  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');
  protected readonly all = computed(() => this.state.slots());
  protected readonly window = new StripWindow(() => this.all().length, slotWidth);

  protected readonly none = computed(() => this.state.document()?.reports.none ?? []);

  /** Places of slots that need a look: a hole, or a report that is not as it should be. */
  protected readonly needing = computed(() => this.all().flatMap(({ period, reports }, at) => ((reports.length === 0 && !this.none().includes(period ?? '')) || reports.some((report) => ['needs', 'error'].includes(this.state.standingOf(report).tone)) ? [at] : [])));
  private readonly at = computed(() => this.all().findIndex(({ reports }) => reports.some(({ id }) => id === this.chosen())));

  constructor() {
    effect(() => this.window.watch(this.frame().nativeElement));
    effect(() => {
      const at = this.at();
      untracked(() => this.window.show(at));
    });
  }

  /** To the next slot that needs a look, or the one before, round the end. */
  protected go(by: 1 | -1) {
    const needing = this.needing();
    const at = by > 0 ? (needing.find((each) => each > this.at()) ?? needing[0]) : (needing.findLast((each) => each < this.at()) ?? needing.at(-1)!);
    const [report] = this.all()[at].reports;
    if (report) this.choose.emit(report.id);
    this.window.show(at);
  }

  protected readonly slots = computed(() =>
    this.all().slice(this.window.range().first, this.window.range().last).map(({ period, reports }) => {
      const report = reports.find((each) => each.standing === 'counts') ?? reports.find((each) => each.standing === 'undecided') ?? reports[0];
      const name = period === null ? (report?.path ?? '') : shortPeriod(period);
      if (!report) return { key: period!, name, word: '', detail: '', tone: '', double: false, ties: '' };
      const standing = this.state.standingOf(report);
      const rows = this.state.rowsOf(report.id);
      const word = standing.tone === 'passes' && rows !== undefined && rows > 0 ? String(rows) : standing.word;
      const { kind, mark } = nameFacts(report.path, this.state.document()?.reports ?? {}).revision;
      const revised = reports.length > 1 && mark !== '' && standing.word !== 'two issues' ? ` · ${kind === 'number' || kind === 'letter' ? 'r' : ''}${mark}` : '';
      return { key: period ?? report.path, name, word: word + revised, detail: standing.detail, tone: standing.tone, double: reports.length > 1, report, ties: standing.tone === 'passes' ? this.state.tiesOf(report.id) : '' };
    }),
  );

  protected readonly label = computed(() => {
    const periods = this.state.slots().flatMap((slot) => slot.period ?? []);
    const kind = !periods[0] ? 'reports' : /W/.test(periods[0]) ? 'weekly reports' : /Q/.test(periods[0]) ? 'quarterly reports' : /-\d\d-/.test(periods[0]) ? 'daily reports' : /-/.test(periods[0]) ? 'monthly reports' : 'yearly reports';
    const years = [...new Set(periods.map((period) => period.slice(0, 4)))];
    return { kind, span: years.length > 1 ? `${years[0]} to ${years.at(-1)}` : (years[0] ?? `${this.state.slots().length} files`) };
  });
}
