import { Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { switchMap } from 'rxjs';
import { Dialog } from 'primeng/dialog';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { ConfirmationService, MessageService } from 'primeng/api';
import { ConfirmDialog } from 'primeng/confirmdialog';
import { TableModule } from 'primeng/table';
import type { PipelineSummary } from '../../../../server/contract/contract';
import { Api } from '../api';
import { LightSwitch } from '../shared/light';
import { asked } from '../shared/asked';
import { Notice } from '../shared/notice';
import { Wordmark } from '../shared/wordmark';
import { dayOf, needSentence } from '../shared/words';
import { NewPipeline } from './new-pipeline';

@Component({
  selector: 'sieve-pipelines-page',
  providers: [ConfirmationService],
  imports: [ConfirmDialog, RouterLink, Wordmark, Notice, Dialog, NewPipeline, ButtonDirective, InputText, LightSwitch, TableModule],
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
          <p-table [value]="$any(pipelines)" dataKey="id">
            <ng-template #header>
              <tr>
                <th scope="col">Pipeline</th>
                <th scope="col">Folder</th>
                <th scope="col" class="number">Reports</th>
                <th scope="col" class="number">Rows</th>
                <th scope="col">Last refresh</th>
                <th scope="col">Latest runs</th>
                <th scope="col">Needs you</th>
                <th scope="col"><span class="sr">What to do</span></th>
              </tr>
            </ng-template>
            <ng-template #body let-pipeline>
                <tr>
                  <th scope="row"><a [routerLink]="['/pipelines', pipeline.id]">{{ pipeline.name }}</a></th>
                  <td class="folder" [title]="pipeline.folder"><bdi>{{ pipeline.managed ? 'dropped files' : pipeline.folder }}</bdi></td>
                  <td class="number">{{ pipeline.reports }}</td>
                  <td class="number">{{ pipeline.rows === null ? '' : pipeline.rows.toLocaleString('en') }}</td>
                  <td>{{ pipeline.lastRuns[0] ? day(pipeline.lastRuns[0].startedAt) : 'never' }}</td>
                  <td>
                    <span class="strip">
                      @for (run of pipeline.lastRuns.slice().reverse(); track run.id) {
                        <a [routerLink]="['/pipelines', pipeline.id, 'runs', run.id]" [class]="tone(run.state)" [title]="day(run.startedAt) + ': ' + run.state" [attr.aria-label]="'Run of ' + day(run.startedAt) + ': ' + run.state">{{ mark(run.state) }}</a>
                      }
                    </span>
                  </td>
                  <td>
                    @if (pipeline.needs.length > 0) {
                      <span class="needs"><i class="pi pi-exclamation-circle" aria-hidden="true"></i> {{ needsOf(pipeline) }}</span>
                    } @else {
                      <span class="small">nothing</span>
                    }
                  </td>
                  <td class="acts">
                    <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="renaming.set(pipeline); newName.set(pipeline.name)">Rename</button>
                    <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="askToDelete(pipeline)">Delete</button>
                  </td>
                </tr>
            </ng-template>
          </p-table>
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
    th,
    td {
      text-align: left;
      padding: 7px 10px;
      border-bottom: 1px solid var(--line-soft);
      vertical-align: top;
    }
    th[scope='col'] {
      font-weight: 600;
      color: var(--muted);
    }
    th[scope='row'] {
      font-weight: 600;
      white-space: nowrap;
      border-bottom: 1px solid var(--line);
    }
    .number {
      text-align: right;
    }
    .folder {
      max-width: 230px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      direction: rtl;
      text-align: left;
    }
    .strip {
      display: inline-flex;
      gap: 2px;
    }
    .strip a {
      display: inline-block;
      width: 16px;
      height: 20px;
      border-radius: 3px;
      text-align: center;
      text-decoration: none;
      font-weight: 600;
      background: var(--verdigris-soft);
      color: var(--verdigris);
    }
    .strip a.needs {
      background: var(--line-soft);
      color: var(--muted);
    }
    .strip a.error {
      background: var(--madder-soft);
      color: var(--madder);
    }
    .acts {
      white-space: nowrap;
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
  protected readonly day = dayOf;
  protected readonly needsOf = ({ needs }: PipelineSummary) => needs.map(needSentence).join('; ');

  private load() {
    this.refused.set(undefined);
    this.asked.again();
  }

  protected tone = (state: string) => (state === 'published' ? 'passes' : state === 'failed' || state === 'nothing published' ? 'error' : 'needs');
  protected mark = (state: string) => (state === 'published' ? '✓' : state === 'failed' || state === 'nothing published' ? '!' : state === 'running' ? '…' : '–');

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
