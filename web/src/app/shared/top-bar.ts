import { Component, computed, inject, signal } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { ProgressBar } from 'primeng/progressbar';
import { PipelineState } from '../pipeline/pipeline-state';
import { VersionsDialog } from '../pipeline/versions-dialog';
import { LightSwitch } from './light';
import { Wordmark } from './wordmark';
import { dayOf, progressSentence } from './words';

/** The four places in the order of the work, and the refresh. */
@Component({
  selector: 'sieve-top-bar',
  imports: [RouterLink, RouterLinkActive, Wordmark, VersionsDialog, ButtonDirective, LightSwitch, ProgressBar],
  template: `<header>
    <sieve-wordmark />
    <h1>{{ state.document()?.name }}</h1>
    <nav aria-label="Places of this pipeline">
      @for (place of places(); track place.path) {
        <a [routerLink]="['/pipelines', state.id(), place.path]" routerLinkActive="here" ariaCurrentWhenActive="page"><b>{{ place.name }}</b>{{ place.detail }}</a>
      }
    </nav>
    <span class="grow"></span>
    @if (state.refused(); as refused) {
      <span class="error small refused" role="alert" [title]="refused">Not saved: {{ refused }}</span>
    } @else {
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="versions.set(true)" title="What each version changed, and the way back to it">
        <span><span role="status">{{ state.saving() ? 'Saving' : 'Saved' }}</span><span class="version">, version {{ state.pipeline()?.version }}</span></span>
      </button>
    }
    <a pButton severity="secondary" [text]="true" size="small" [routerLink]="['/pipelines', state.id(), 'needs']" routerLinkActive="here" ariaCurrentWhenActive="page" class="needs-link">
      <i class="pi" [class.pi-exclamation-circle]="needing()" [class.pi-check]="!needing()" aria-hidden="true"></i>{{ needing() ? 'What needs you' : 'Nothing needs you' }}
    </a>
    <button pButton severity="secondary" [outlined]="true" (click)="state.undo()" [disabled]="!state.canUndo()">Undo</button>
    <button pButton severity="secondary" [outlined]="true" (click)="state.redo()" [disabled]="!state.canRedo()">Redo</button>
    @if (state.running.now(); as run) {
      <span class="run" role="status"><b>{{ run.done }} of {{ run.total }}</b> {{ says(run.now) }}{{ left() }}</span>
      <button pButton severity="secondary" [outlined]="true" (click)="state.running.cancel()">Cancel run</button>
    } @else {
      <button pButton (click)="state.running.start()" [disabled]="!state.document()">Run refresh</button>
    }
    <sieve-light />
  </header>
  @if (state.running.now(); as run) {
    <p-progressbar [value]="run.total > 0 ? (100 * run.done) / run.total : 0" [mode]="run.total > 0 ? 'determinate' : 'indeterminate'" [showValue]="false" aria-label="Reports done of this run" />
  }
  <sieve-versions-dialog [(open)]="versions" />`,
  styles: `
    header {
      height: 52px;
      display: flex;
      align-items: center;
      gap: 12px;
      padding: 0 16px;
      border-bottom: 1px solid var(--line);
      background: var(--panel);
    }
    h1 {
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    nav {
      display: flex;
      gap: 14px;
      margin-left: 6px;
    }
    nav a {
      position: relative;
      padding: 3px 11px;
      border-radius: 6px;
      color: var(--muted);
      font-size: 12px;
      text-decoration: none;
      white-space: nowrap;
    }
    nav a + a::before {
      content: '';
      position: absolute;
      left: -14px;
      top: 50%;
      width: 14px;
      border-top: 1px solid var(--line);
    }
    nav a b {
      display: block;
      color: var(--ink);
      font-size: 14px;
      font-weight: 600;
    }
    nav a.here {
      background: var(--copper-soft);
    }
    nav a.here b {
      color: var(--copper);
    }
    p-progressbar {
      position: absolute;
      left: 0;
      right: 0;
      top: 50px;
      height: 3px;
    }
    /* At twice the size, or on a small screen: the names alone. */
    @media (max-width: 960px) {
      header {
        gap: 4px;
        padding: 0 8px;
      }
      nav {
        gap: 0;
        margin: 0;
      }
      nav a {
        font-size: 0;
        padding: 6px;
      }
      nav a + a::before,
      h1,
      .version {
        display: none;
      }
    }
    .needs-link {
      white-space: nowrap;
      flex: none;
    }
    .needs-link .pi-exclamation-circle {
      color: var(--ochre);
    }
    .run,
    .refused {
      max-width: 240px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class TopBar {
  protected readonly state = inject(PipelineState);

  protected readonly versions = signal(false);
  protected readonly says = progressSentence;
  /** Nothing is said to be well before it is known. */
  protected readonly needing = computed(() => this.state.pipeline()?.needs.length !== 0);

  protected readonly places = computed(() => {
    const pipeline = this.state.pipeline();
    const last = pipeline?.lastRuns.find((run) => run.state !== 'running');
    return [
      { path: 'intake', name: 'Intake', detail: `${this.state.readCount()} of ${this.state.counting().length} reports` },
      { path: 'bench', name: 'Bench', detail: `${this.state.stepCount()} steps` },
      { path: 'dataset', name: 'Dataset', detail: pipeline?.rows === null || !pipeline ? 'not published' : `${pipeline.rows.toLocaleString('en')} rows` },
      { path: 'runs', name: 'Runs', detail: last ? dayOf(last.startedAt) : 'none yet' },
    ];
  });

  /** Time left, from the reports done so far. */
  protected readonly left = computed(() => {
    const run = this.state.running.now();
    if (!run || run.done === 0 || run.done >= run.total) return '';
    const seconds = ((performance.now() - this.state.running.started()) / run.done / 1000) * (run.total - run.done);
    return seconds < 1 ? ', almost done' : `, about ${seconds < 90 ? `${Math.ceil(seconds)} s` : `${Math.ceil(seconds / 60)} min`} left`;
  });
}
