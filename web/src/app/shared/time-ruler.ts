import { Component, computed, inject, input, output } from '@angular/core';
import { nameFacts } from '../../../../core/intake/file-names';
import { baseName } from '../../../../core/values/file-name';
import { PipelineState } from '../pipeline/pipeline-state';
import { shortPeriod } from './words';

/** One slot per period: each report with its state, a missing period as a hole, a doubled one as a double slot. */
@Component({
  selector: 'sieve-time-ruler',
  template: `<nav aria-label="Reports by time">
    <span class="label">{{ label().kind }}<br />{{ label().span }}</span>
    <div class="slots">
      @for (slot of slots(); track slot.key) {
        @if (slot.report; as report) {
          <button [class]="slot.tone" [class.here]="report.id === chosen()" [class.two]="slot.double" [attr.aria-pressed]="report.id === chosen()" [title]="report.path + ': ' + slot.word + ' ' + slot.detail" (click)="choose.emit(report.id)">
            {{ slot.name }}<b>{{ slot.word }}</b>
          </button>
        } @else {
          <span class="hole" [title]="'No report for ' + slot.key">{{ slot.name }}<b>missing</b></span>
        }
      }
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
      display: flex;
      gap: 2px;
      flex: 1;
      min-width: 0;
      overflow-x: auto;
      scrollbar-width: none;
    }
    button,
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
    button {
      cursor: pointer;
    }
    button:hover {
      background: var(--ground);
    }
    button:focus-visible {
      outline-offset: -2px;
    }
    b {
      display: block;
      font-weight: 600;
      color: var(--ink);
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .passes {
      border-top-color: var(--verdigris);
    }
    .needs {
      border-top-color: var(--ochre-line);
    }
    .needs b {
      color: var(--ochre);
    }
    .error {
      border-top-color: var(--madder);
    }
    .error b {
      color: var(--madder);
    }
    .two {
      border-top-style: double;
      border-top-width: 5px;
    }
    .here {
      background: var(--copper-soft);
    }
    .here b {
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

  protected readonly slots = computed(() =>
    this.state.slots().map(({ period, reports }) => {
      const report = reports.find((each) => each.standing === 'counts') ?? reports.find((each) => each.standing === 'undecided') ?? reports[0];
      const name = period === null ? (report?.path ?? '') : shortPeriod(period);
      if (!report) return { key: period!, name, word: '', detail: '', tone: '', double: false };
      const standing = this.state.standingOf(report);
      const rows = this.state.summaryOf(report.id)?.rows;
      const word = standing.tone === 'passes' && rows !== undefined && rows > 0 ? String(rows) : standing.word;
      const { kind, mark } = nameFacts(baseName(report.path), this.state.document()?.reports ?? {}).revision;
      const revised = reports.length > 1 && mark !== '' && standing.word !== 'two issues' ? ` · ${kind === 'number' || kind === 'letter' ? 'r' : ''}${mark}` : '';
      return { key: period ?? report.path, name, word: word + revised, detail: standing.detail, tone: standing.tone, double: reports.length > 1, report };
    }),
  );

  protected readonly label = computed(() => {
    const periods = this.state.slots().flatMap((slot) => slot.period ?? []);
    const kind = !periods[0] ? 'reports' : /W/.test(periods[0]) ? 'weekly reports' : /Q/.test(periods[0]) ? 'quarterly reports' : /-/.test(periods[0]) ? 'monthly reports' : 'yearly reports';
    const years = [...new Set(periods.map((period) => period.slice(0, 4)))];
    return { kind, span: years.length > 1 ? `${years[0]} to ${years.at(-1)}` : (years[0] ?? `${this.state.slots().length} files`) };
  });
}
