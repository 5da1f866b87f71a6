import { Component, inject, output, signal, viewChild } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { FileUpload, type FileUploadHandlerEvent } from 'primeng/fileupload';
import { PipelineState } from '../pipeline/pipeline-state';
import { DropFiles } from '../shared/drop-files';
import { Notice } from '../shared/notice';
import { plural } from '../shared/words';
import { FindBox } from './find-box';
import { IntakeEdit } from './intake-edit';
import { IntakeLook } from './intake-look';

/** What is in the folder, how each report stands, and a search over all. Into a folder of the pipeline's own files are put here. */
@Component({
  selector: 'sieve-reports-pane',
  host: { class: 'pane' },
  imports: [ButtonDirective, FileUpload, DropFiles, FindBox, Notice],
  template: `
    <div class="pane-head">
      <h2 id="folder">Reports</h2>
      {{ counted(state.reports().length, 'file') }}
      <span class="grow"></span>
      @if (state.reading()) {
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="state.cancelReading()">Stop reading</button>
      } @else {
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="state.lookAtFolder()">Look again</button>
      }
      <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="periods.emit()">Periods</button>
    </div>
    @if (state.pipeline()?.managed) {
      <p-fileupload class="drop" mode="basic" chooseLabel="Add PDF files" chooseIcon="pi pi-plus" accept="application/pdf" [multiple]="true" [customUpload]="true" [auto]="true" (uploadHandler)="add($event)" />
      @if (refused(); as refused) {
        <p class="error small" role="alert">{{ refused }}</p>
      }
      <sieve-drop-files />
    }
    <sieve-find-box [wanted]="at.address().find" [hits]="at.hits()" (hitsChange)="at.hits.set($event)" (step)="edit.toHit($event)" />
    <div class="scroll">
      @if (state.reports().length === 0) {
        <sieve-notice kind="empty">{{ state.pipeline()?.managed ? 'No file yet. Add PDF reports.' : 'No file in ' + state.pipeline()?.folder + ' yet. Put PDF reports there, then look again.' }}</sieve-notice>
      }
      <ul>
        @for (report of state.reports(); track report.id) {
          @let standing = state.standingOf(report);
          <li>
            <button [class.here]="report.id === at.shown()?.id" [attr.aria-current]="report.id === at.shown()?.id" [disabled]="report.standing === 'not a PDF'" (click)="edit.show(report.id, at.hits().get(report.id)?.[0]?.page)">
              <b>{{ report.path }}</b>
              <span [class]="standing.tone">
                @if (standing.tone === 'needs' || standing.tone === 'error') {
                  <i class="pi pi-exclamation-triangle" aria-hidden="true"></i>
                } @else if (standing.tone === 'passes') {
                  <i class="pi pi-check" aria-hidden="true"></i>
                }
                {{ report.id === state.guide()?.id && standing.tone === 'passes' ? 'guide' : standing.word }}</span>
              @if (at.hits().get(report.id); as found) {
                <small class="needs">{{ counted(found.length, 'hit') }}, first on page {{ found[0].page }}</small>
              } @else {
                <small>{{ standing.detail }}</small>
              }
            </button>
          </li>
        }
      </ul>
    </div>
  `,
  styles: `
    .drop {
      padding: 7px 12px 0;
    }
    p {
      margin: 4px 12px;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li button {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 8px;
      width: 100%;
      padding: 5px 12px;
      border: 0;
      border-bottom: 1px solid var(--line-soft);
      background: none;
      text-align: left;
      cursor: pointer;
    }
    li button:hover:not(:disabled) {
      background: var(--panel);
    }
    li button:disabled {
      color: var(--muted);
      cursor: default;
    }
    li button:focus-visible {
      outline-offset: -2px;
    }
    li button.here {
      background: var(--copper-soft);
      box-shadow: inset 3px 0 var(--copper);
    }
    li span {
      font-size: 12px;
    }
    li span .pi {
      font-size: 11px;
    }
    li b {
      font-weight: 600;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    li small {
      grid-column: 1 / -1;
      font-size: 12px;
      color: var(--muted);
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      max-width: 244px;
    }
  `,
})
export class ReportsPane {
  protected readonly state = inject(PipelineState);
  protected readonly at = inject(IntakeLook);
  protected readonly edit = inject(IntakeEdit);
  private readonly drops = viewChild(DropFiles);
  readonly periods = output<void>();
  protected readonly refused = signal<string | undefined>(undefined);
  protected readonly counted = plural;

  protected add({ files }: FileUploadHandlerEvent) {
    this.refused.set(undefined);
    this.drops()!
      .put(this.state.id(), files)
      .subscribe({ complete: () => this.state.lookAtFolder(), error: (error: Error) => this.refused.set(error.message) });
  }
}
