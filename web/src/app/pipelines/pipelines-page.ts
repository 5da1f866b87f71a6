import { Component, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { interval, switchMap } from 'rxjs';
import { Dialog } from 'primeng/dialog';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { ConfirmationService, MessageService } from 'primeng/api';
import { ConfirmDialog } from 'primeng/confirmdialog';
import type { PipelineSummary } from '../../../../server/contract/contract';
import { Api } from '../api';
import { LightSwitch } from '../shared/light';
import { asked } from '../shared/asked';
import { Notice } from '../shared/notice';
import { Wordmark } from '../shared/wordmark';
import { NewPipeline } from './new-pipeline';
import { PipelineCard } from './pipeline-card';

/** Milliseconds from one look at the pipelines to the next: while one is refreshed, and else, as another place may begin it. */
const [looksOften, looksSeldom] = [1000, 10_000];

@Component({
  selector: 'sieve-pipelines-page',
  providers: [ConfirmationService],
  imports: [ConfirmDialog, Wordmark, Notice, Dialog, NewPipeline, ButtonDirective, InputText, LightSwitch, PipelineCard],
  template: `
    <header>
      <sieve-wordmark />
      <span class="grow"></span>
      <button pButton (click)="making.set(true)">New pipeline</button>
      <sieve-light />
    </header>
    <main (dragover)="$event.preventDefault()" (drop)="drop($event)">
      <h1>Pipelines</h1>
      @if (asked.failure(); as failure) {
        <sieve-notice kind="failed" [retry]="asked.again">{{ failure.message }}</sieve-notice>
      }
      @if (pipelines(); as pipelines) {
        @if (pipelines.length === 0) {
          <sieve-notice kind="empty">No pipeline yet. Make one from a folder of PDF reports, or drop PDF files here.</sieve-notice>
          <p><button pButton severity="secondary" [outlined]="true" [disabled]="opening()" (click)="openDemo()">{{ opening() ? 'Copying the demo' : 'Open the demo' }}</button> <span class="small">16 made-up weekly sheets with their pipeline, to try things on.</span></p>
        } @else {
          <ul class="cards">
            @for (pipeline of pipelines; track pipeline.id) {
              <li>
                <sieve-pipeline-card [of]="pipeline" (rename)="renaming.set(pipeline); newName.set(pipeline.name)" (remove)="askToDelete(pipeline)" />
              </li>
            }
          </ul>
        }
      } @else if (asked.waiting()) {
        <sieve-notice kind="loading">Fetching the pipelines</sieve-notice>
      }
      <p class="small">PDF files dropped on this page become a new pipeline with a folder of its own.</p>
    </main>

    <p-dialog header="New pipeline" [modal]="true" [visible]="making()" (visibleChange)="making.set($event)" [style]="{ width: '720px' }" [draggable]="false" [focusOnShow]="false" closeAriaLabel="Close">
      @if (making()) {
        <sieve-new-pipeline [files]="dropped()" (made)="open($event)" />
      }
    </p-dialog>
    <p-dialog header="Rename pipeline" [modal]="true" [visible]="renaming() !== undefined" (visibleChange)="renaming.set(undefined)" [draggable]="false" closeAriaLabel="Close">
      <form (submit)="rename($event)" class="lines">
        <label for="new-name">New name</label>
        <input pInputText id="new-name"  [value]="newName()" (input)="newName.set($any($event.target).value)" />
        @if (refused(); as refused) {
          <p class="error" role="alert">{{ refused }}</p>
        }
        <button pButton [disabled]="newName().trim() === ''">Rename</button>
      </form>
    </p-dialog>
    <p-confirmdialog [closable]="false" [style]="{ width: '480px' }" />
  `,
  styles: `
    header {
      height: 52px;
      display: flex;
      align-items: center;
      padding: 0 16px;
      border-bottom: 1px solid var(--line);
      background: var(--panel);
    }
    main {
      padding: 20px 16px;
      min-height: calc(100vh - 52px);
    }
    h1 {
      font-size: 18px;
      margin-bottom: 12px;
    }
    .cards {
      list-style: none;
      margin: 0 0 14px;
      padding: 0;
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(100%, 560px), 1fr));
      gap: 14px;
    }
    .lines {
      display: grid;
      gap: 8px;
    }
  `,
})
export class PipelinesPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly asked = asked(
    () => true,
    () => this.api.pipelines(),
    { keeps: true },
  );
  protected readonly pipelines = this.asked.value;
  protected readonly refused = signal<string | undefined>(undefined);
  protected readonly making = signal(false);
  protected readonly dropped = signal<readonly File[]>([]);
  protected readonly renaming = signal<PipelineSummary | undefined>(undefined);
  private readonly confirmation = inject(ConfirmationService);
  private readonly messages = inject(MessageService);
  protected readonly newName = signal('');

  constructor() {
    let since = 0;
    interval(looksOften)
      .pipe(takeUntilDestroyed())
      .subscribe(() => {
        since += looksOften;
        const often = this.pipelines()?.some(({ running }) => running !== null);
        if (document.visibilityState !== 'visible' || this.asked.waiting() || (!often && since < looksSeldom)) return;
        since = 0;
        this.asked.again();
      });
  }

  private load() {
    this.refused.set(undefined);
    this.asked.again();
  }

  protected open(id: number) {
    void this.router.navigate(['/pipelines', id, 'intake']);
  }

  protected drop(event: DragEvent) {
    event.preventDefault();
    this.dropped.set([...(event.dataTransfer?.files ?? [])]);
    this.making.set(true);
  }

  protected rename(event: Event) {
    event.preventDefault();
    const { id } = this.renaming()!;
    this.api
      .pipeline(id)
      .pipe(switchMap((full) => this.api.savePipeline(id, { ...(full.document as object), name: this.newName().trim() }, full.version)))
      .subscribe({ next: () => (this.renaming.set(undefined), this.load()), error: (error: Error) => this.refused.set(error.message) });
  }

  protected readonly opening = signal(false);
  protected openDemo() {
    this.opening.set(true);
    this.api.openDemo().subscribe({
      next: ({ id }) => this.open(id),
      error: (error: Error) => {
        this.opening.set(false);
        this.messages.add({ severity: 'error', detail: error.message, sticky: true });
      },
    });
  }

  /** Asks once more, then takes the pipeline away. */
  protected askToDelete(pipeline: PipelineSummary) {
    this.confirmation.confirm({
      header: 'Delete pipeline',
      message: `“${pipeline.name}” goes with its steps, its dataset and the record of its runs. ${pipeline.managed ? 'The files that were dropped for it go, too.' : 'The reports in its folder stay.'}`,
      acceptLabel: 'Delete it',
      rejectLabel: 'Keep it',
      rejectButtonProps: { severity: 'secondary', outlined: true },
      accept: () => this.api.deletePipeline(pipeline.id).subscribe({ next: () => this.load(), error: (error: Error) => this.messages.add({ severity: 'error', detail: error.message, sticky: true }) }),
    });
  }
}
