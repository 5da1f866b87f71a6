import { Component, computed, inject, model, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Dialog } from 'primeng/dialog';
import { ButtonDirective } from 'primeng/button';
import { changeSentence } from '../../../../core/pipeline/changes';
import { parsePipeline } from '../../../../core/pipeline/document';
import type { VersionAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { Notice } from '../shared/notice';
import { dayOf } from '../shared/words';
import { PipelineState } from './pipeline-state';

/** Versions asked for at a time. */
const atOnce = 50;

/** Every version of the document, what it changed, and the way back to it, which is a new version. */
@Component({
  selector: 'sieve-versions-dialog',
  imports: [Dialog, Notice, ButtonDirective],
  template: `
    <p-dialog header="Versions" [modal]="true" [(visible)]="open" [style]="{ width: '720px' }" [draggable]="false" closeAriaLabel="Close">
      @if (failure(); as failure) {
        <sieve-notice kind="failed">{{ failure }}</sieve-notice>
      }
      <ol>
        @for (each of versions(); track each.version) {
          <li>
            <b>{{ each.version }}</b>
            <div>
              @for (sentence of each.sentences; track $index) {
                <p>{{ sentence }}</p>
              }
              <small>{{ day(each.savedAt) }}{{ each.savedBy ? ', ' + each.savedBy : '' }}{{ each.same === null ? '' : ', says the same as version ' + each.same }}</small>
            </div>
            <span class="state">
              @if (each.published) {
                <span class="passes"><i class="pi pi-check" aria-hidden="true"></i> in the dataset</span>
              }
              @if (each.version === state.pipeline()?.version) {
                <span class="small">now</span>
              } @else {
                <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="goBack(each.version)">Go back to {{ each.version }}</button>
              }
            </span>
          </li>
        }
      </ol>
      @if (more()) {
        <button pButton severity="secondary" [outlined]="true" (click)="load(known().at(-1)?.version)">Older versions</button>
      }
    </p-dialog>
  `,
  styles: `
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 34px minmax(0, 1fr) auto;
      gap: 8px;
      align-items: start;
      padding: 6px 0;
      border-bottom: 1px solid var(--line-soft);
    }
    li > b {
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
    p {
      margin: 0;
    }
    small {
      color: var(--muted);
    }
    .state {
      display: grid;
      justify-items: end;
      gap: 2px;
    }
  `,
})
export class VersionsDialog {
  protected readonly state = inject(PipelineState);
  private readonly api = inject(Api);
  readonly open = model(false);
  protected readonly day = dayOf;
  protected readonly failure = signal<string | undefined>(undefined);
  protected readonly known = signal<readonly VersionAnswer[]>([]);
  protected readonly more = signal(false);
  protected readonly versions = computed(() =>
    this.known().map((each) => ({ ...each, sentences: each.changes.length > 0 ? each.changes.map(changeSentence) : [each.version === 1 ? 'The pipeline was made' : 'The same in other words'] })),
  );

  constructor() {
    toObservable(this.open).subscribe((open) => open && this.load());
  }

  /** @param below the version before which to go on */
  protected load(below?: number) {
    this.failure.set(undefined);
    this.api.versions(this.state.id(), below).subscribe({
      next: (versions) => {
        this.known.update((known) => [...(below === undefined ? [] : known), ...versions]);
        this.more.set(versions.length === atOnce && versions.at(-1)!.version > 1);
      },
      error: (error: Error) => this.failure.set(error.message),
    });
  }

  /** The document as it was, saved as a new version; undo takes it back. */
  protected goBack(version: number) {
    this.api.versionDocument(this.state.id(), version).subscribe({
      next: ({ document }) => {
        this.state.change(parsePipeline(document));
        this.open.set(false);
      },
      error: (error: Error) => this.failure.set(error.message),
    });
  }
}
