import { Component, DestroyRef, effect, inject, input, numberAttribute } from '@angular/core';
import { Router, RouterLink, RouterOutlet } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { changeSentence, type Change } from '../../../../core/pipeline/changes';
import { Commands, type Command } from '../finder/commands';
import { Notice } from '../shared/notice';
import { TimeRuler } from '../shared/time-ruler';
import { TopBar } from '../shared/top-bar';
import { PipelineState } from './pipeline-state';

/** What the four places of a pipeline share: the top bar and the time ruler. */
@Component({
  selector: 'sieve-pipeline-page',
  imports: [RouterLink, RouterOutlet, TopBar, TimeRuler, Notice, ButtonDirective],
  providers: [PipelineState],
  template: `
    <sieve-top-bar />
    <sieve-time-ruler [chosen]="report() ?? state.guide()?.id" (choose)="go($event)" />
    @if (state.failure(); as failure) {
      <sieve-notice kind="failed">{{ failure }}</sieve-notice>
    }
    @if (state.loading()) {
      <sieve-notice kind="loading">Opening the pipeline</sieve-notice>
    } @else if (state.document()) {
      @if (state.conflict(); as conflict) {
        <div class="ended error" role="alert">
          <span class="grow">
            This pipeline was changed somewhere else: it is at version {{ conflict.theirs.version }}. There: {{ told(conflict.theirChanges) }}. Here: {{ told(conflict.myChanges) }}. Neither is lost.
          </span>
          <button pButton severity="secondary" [outlined]="true" (click)="state.takeTheirs()" title="What was changed here comes back with Undo">Go on with that one</button>
          <button pButton severity="secondary" [outlined]="true" (click)="state.keepMine()" title="That one stays in the list of versions">Save mine on top</button>
        </div>
      }
      @if (state.running.ended(); as ended) {
        <div class="ended over" role="status" [class.error]="ended.state === 'failed' || ended.state === 'nothing published'" [class.wrong]="ended.isWrong">
          <span class="grow">Refresh: {{ ended.state }}. {{ ended.message }}</span>
          @if (ended.needsAnswer || ended.isWrong) {
            <a pButton severity="secondary" [outlined]="true" [routerLink]="['/pipelines', state.id(), 'needs']">{{ ended.needsAnswer ? 'Answer' : 'See what' }}</a>
          }
          @if (ended.canLetGo) {
            <button pButton severity="secondary" [outlined]="true" (click)="state.running.start(true)">Let them go and refresh</button>
          }
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="state.running.ended.set(undefined)" aria-label="Close this message"><i class="pi pi-times" aria-hidden="true"></i></button>
        </div>
      }
      <main><router-outlet /></main>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      height: 100vh;
    }
    main {
      flex: 1;
      min-height: 0;
      display: flex;
      flex-direction: column;
    }
    .ended {
      display: flex;
      align-items: center;
      gap: 10px;
      padding: 3px 16px;
      background: var(--verdigris-soft);
      border-bottom: 1px solid var(--line);
    }
    /* How a refresh ended lies over the page above its foot, and moves nothing. */
    .over {
      position: fixed;
      right: 16px;
      max-width: min(860px, calc(100vw - 32px));
      bottom: 48px;
      z-index: 20;
      border: 1px solid var(--line);
      border-radius: 6px;
      box-shadow: 0 4px 16px rgb(0 0 0 / 18%);
    }
    .ended.wrong {
      background: var(--ochre-soft);
    }
    .ended.error {
      background: var(--madder-soft);
    }
  `,
  host: { '(window:keydown)': 'key($event)', '(window:beforeunload)': 'leaving($event)' },
})
export class PipelinePage {
  protected readonly state = inject(PipelineState);
  private readonly router = inject(Router);
  readonly pipeline = input.required({ transform: numberAttribute });
  readonly report = input(undefined, { transform: (value: unknown) => (value === undefined ? undefined : Number(value)) });

  constructor() {
    effect(() => this.state.open(this.pipeline()));
    const leave = inject(Commands).give('pipeline', () => this.commands());
    inject(DestroyRef).onDestroy(() => {
      leave();
      this.state.close();
    });
  }

  /** May this pipeline be left? Asked of the analyst where something is not saved. */
  mayLeave(): boolean {
    return !this.state.unsaved() || window.confirm('Your last change is not saved yet. Leave all the same? It would be lost.');
  }

  protected leaving(event: BeforeUnloadEvent) {
    if (this.state.unsaved()) event.preventDefault();
  }

  protected told = (changes: readonly Change[]) => changes.map(changeSentence).join('; ') || 'nothing else';

  protected go(report: number) {
    const here = this.router.url.split('?')[0];
    const place = /\/(?:dataset|runs)/.test(here) ? `/pipelines/${this.pipeline()}/intake` : here;
    void this.router.navigate([place], { queryParams: { report, page: null }, queryParamsHandling: 'merge' });
  }

  /** What can be asked for by name anywhere in this pipeline. */
  private commands(): Command[] {
    const to = (...path: string[]) => () => void this.router.navigate(['/pipelines', this.pipeline(), ...path]);
    const places = { Intake: ['intake'], Bench: ['bench'], Dataset: ['dataset'], Summary: ['dataset', 'summary'], Runs: ['runs'], 'What needs you': ['needs'] };
    const worst = this.state.worst();
    return [
      ...Object.entries(places).map(([says, path]) => ({ says, beside: 'place', run: to(...path) })),
      { says: 'Run refresh', run: () => this.state.running.start() },
      ...(worst ? [{ says: `Report that differs most: ${worst.report.path}`, beside: worst.because, run: () => this.go(worst.report.id) }] : []),
      ...(this.state.canUndo() ? [{ says: 'Undo', beside: 'Ctrl Z', run: () => this.state.undo() }] : []),
      ...(this.state.canRedo() ? [{ says: 'Redo', beside: 'Ctrl Y', run: () => this.state.redo() }] : []),
      ...this.state.reports().map((report) => ({ says: report.path, beside: report.period ?? 'report', run: () => this.go(report.id) })),
    ];
  }

  /** Undo and redo by keyboard, but for where text is being written. */
  protected key(event: KeyboardEvent) {
    if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).matches('input, textarea, select')) return;
    const which = event.key.toLowerCase();
    if (which === 'z' && !event.shiftKey) this.state.undo();
    else if (which === 'y' || (which === 'z' && event.shiftKey)) this.state.redo();
    else return;
    event.preventDefault();
  }
}
