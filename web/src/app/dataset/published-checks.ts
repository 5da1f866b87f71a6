import type { ValueType } from '../../../../core/sheet/column';
import { Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { checkSentence, severities, type Check, type CheckSeverity } from '../../../../core/checks/check';
import type { Problem } from '../../../../core/sheet/problem';
import type { PublishedAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';
import { Pick, type Choice } from '../shared/pick';
import { plural } from '../shared/words';
import { CompareCheck } from './compare-check';
import { OwnCheck } from './own-check';
import { ReconciledList } from './reconciled-list';

const severityChoices: readonly Choice[] = severities.map((value) => ({ value, says: { tell: 'tell', 'hold back': 'hold the report back', stop: 'stop the refresh' }[value] }));

interface ShownCheck {
  readonly check: Check;
  readonly says: string;
  readonly stands: string;
  readonly fails: boolean;
  /** Texts that are not among those allowed. */
  readonly unlisted: readonly string[];
  readonly failing: readonly { readonly report: number; readonly path: string; readonly problems: readonly Problem[] }[];
}

/** What must hold in the dataset: how each check stands, those that would hold so far, and one written by hand. */
@Component({
  selector: 'sieve-published-checks',
  imports: [ButtonDirective, CompareCheck, FailedLine, Notice, OwnCheck, Pick, ReconciledList, RouterLink],
  template: `
    <div class="scroll list" tabindex="0" role="region" aria-label="Checks">
      @for (each of checks(); track each.check.id) {
        <article [class.fails]="each.fails">
          <p><i class="pi" [class.pi-check]="!each.fails" [class.pi-exclamation-triangle]="each.fails" aria-hidden="true"></i> {{ each.says }}. <span class="small">{{ each.stands }}</span></p>
          @if (each.check.kind === 'agrees with') {
            <details (toggle)="opened.set($any($event.target).open ? each.check.id : undefined)">
              <summary>What does not agree</summary>
              @if (opened() === each.check.id) {
                <sieve-reconciled-list [check]="each.check.id" (look)="look.emit($event)" />
              }
            </details>
          }
          @for (text of each.unlisted; track text) {
            <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="allow(each.check, text)">Allow “{{ text }}”</button>
          }
          @for (report of each.failing.slice(0, most); track report.report) {
            <ul>
              @for (problem of report.problems; track $index) {
                <li>
                  <a [routerLink]="['../bench']" [queryParams]="{ report: report.report, page: problem.page ?? 1 }">{{ report.path }}{{ problem.page ? ', page ' + problem.page : '' }}</a>{{ problem.column ? ' “' + problem.column + '”' : '' }}: {{ problem.came }}{{ problem.more ? ', and ' + problem.more + ' more' : '' }}
                </li>
              }
            </ul>
          }
          @if (each.failing.length > most) {
            <p class="small">and {{ counted(each.failing.length - most, 'more report') }}</p>
          }
          <span class="acts">
            <sieve-pick [label]="'When it fails: ' + each.says" [options]="severities" [value]="each.check.severity" (picked)="setSeverity(each.check, $any($event))" />
            <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="remove(each.check)" [attr.aria-label]="'No longer check: ' + each.says">Remove</button>
          </span>
        </article>
      } @empty {
        <p class="small">Nothing is checked yet beyond printed totals and what differs between reports.</p>
      }
      <h3>Would hold in all reports so far</h3>
      <sieve-failed-line [of]="[proposals]" />
      @if (!asks()) {
        <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="asks.set(true)">Look for checks to keep</button>
      } @else if (proposals.waiting() && !proposals.value()) {
        <sieve-notice kind="loading">Looking through all reports</sieve-notice>
      } @else {
        <ul class="proposed">
          @for (proposal of proposed(); track proposal.check.id) {
            <li>
              <span>{{ sentenceOf(proposal.check) }}, <span class="small">in {{ proposal.reports }} of {{ reports() }} reports</span></span>
              <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="keep(proposal.check)" [attr.aria-label]="'Keep: ' + sentenceOf(proposal.check)">Keep</button>
            </li>
          } @empty {
            <li class="small">Nothing else holds in all of them.</li>
          }
        </ul>
      }
      <h3>One of your own</h3>
      <sieve-own-check [columns]="names()" [sample]="sample()" (added)="keep($event)" />
      <h3>Compare with a list</h3>
      <sieve-compare-check [columns]="names()" (added)="keep($event)" />
    </div>
  `,
  styles: `
    :host {
      flex: 1;
      min-height: 0;
      display: flex;
      flex-direction: column;
    }
    .list {
      padding: 8px 12px;
    }
    article {
      padding: 6px 0;
      border-bottom: 1px solid var(--line-soft);
    }
    article p,
    article ul {
      margin: 0 0 4px;
    }
    article .pi-check {
      color: var(--verdigris);
    }
    .fails .pi,
    .fails ul {
      color: var(--ochre);
    }
    .acts {
      display: grid;
      grid-template-columns: 180px auto;
      justify-content: start;
      gap: 6px;
    }
    h3 {
      font-size: 14px;
      margin: 14px 0 6px;
    }
    .proposed {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .proposed .p-button {
      flex: none;
    }
    .proposed li {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 8px;
      padding: 3px 0;
    }
  `,
})
export class PublishedChecks {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly of = input.required<PublishedAnswer>();
  readonly columns = input.required<readonly { readonly heading: string; readonly type: ValueType }[]>();
  protected readonly names = computed(() => this.columns().map(({ heading }) => heading));
  protected readonly sample = computed(() => ({ file: '', columns: this.columns().map(({ heading, type }) => ({ name: heading, type })), rows: [], chosen: 0 }));
  protected readonly counted = plural;
  protected readonly sentenceOf = checkSentence;
  protected readonly severities = severityChoices;
  protected readonly most = 4;
  /** A row of the dataset is to be looked at, in a column. */
  readonly look = output<{ row: number; column: string | undefined }>();
  /** The comparison whose differences are shown. */
  protected readonly opened = signal<string | undefined>(undefined);

  protected readonly reports = computed(() => this.of().reports.length);
  protected readonly asks = signal(false);
  protected readonly proposals = asked(
    () => (this.asks() ? { pipeline: this.state.id(), version: this.state.version() } : undefined),
    ({ pipeline }) => this.api.proposedChecks(pipeline),
    { keeps: true },
  );

  /** Those that are not kept yet. */
  protected readonly proposed = computed(() => (this.proposals.value() ?? []).filter(({ check }) => !this.state.document()?.checks.some(({ id }) => id === check.id)));

  /** The checks of the document; how they stood when the rows were published, in reports published or held back then. */
  protected readonly checks = computed((): ShownCheck[] => {
    const waiting = (this.state.lastRun.value()?.reports ?? []).filter(({ state }) => state === 'held back' || state === 'stale');
    const all = [...this.of().reports.filter(({ report }) => !waiting.some((each) => each.report === report)), ...waiting];
    const notes = this.state.lastRun.value()?.run.notes.flatMap((note) => (note.kind === 'check' ? [note] : [])) ?? [];
    return (this.state.document()?.checks ?? []).map((check) => {
      const failing = all.flatMap(({ report, path, problems }) => {
        const own = problems.filter((problem) => problem.check === check.id);
        return own.length > 0 ? [{ report, path, problems: own }] : [];
      });
      const note = notes.find((each) => each.check === check.id);
      const isNew = this.of().version !== this.state.pipeline()?.version;
      const unlisted = check.kind === 'allowed' ? [...new Set(failing.flatMap((each) => each.problems.flatMap(({ text }) => text ?? [])))].filter((text) => !check.values.includes(text)) : [];
      return { check, says: checkSentence(check), failing, unlisted, fails: note !== undefined || failing.length > 0, stands: note ? note.came : failing.length > 0 ? `fails in ${plural(failing.length, 'report')}` : isNew ? 'holds, or counts from the next refresh on' : `holds in ${plural(this.reports(), 'report')}` };
    });
  });

  private change(checks: readonly Check[]) {
    const document = this.state.document();
    if (document) this.state.change({ ...document, checks: [...checks] });
  }

  protected keep(check: Check) {
    const there = this.state.document()?.checks ?? [];
    if (!there.some(({ id }) => id === check.id)) this.change([...there, check]);
  }

  protected remove(check: Check) {
    this.change((this.state.document()?.checks ?? []).filter(({ id }) => id !== check.id));
  }

  /** The list of what is allowed grows. */
  protected allow(check: Check, text: string) {
    this.change((this.state.document()?.checks ?? []).map((each) => (each.id === check.id && each.kind === 'allowed' ? { ...each, values: [...each.values, text] } : each)));
  }

  protected setSeverity(check: Check, severity: CheckSeverity) {
    this.change((this.state.document()?.checks ?? []).map((each) => (each.id === check.id ? { ...each, severity } : each)));
  }
}
