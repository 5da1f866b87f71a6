import { Component, computed, inject, linkedSignal, model, signal } from '@angular/core';
import { map } from 'rxjs';
import { Dialog } from 'primeng/dialog';
import { ButtonDirective } from 'primeng/button';
import { changeSentence } from '../../../../core/pipeline/changes';
import { parsePipeline } from '../../../../core/pipeline/document';
import type { VersionAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { asked } from '../shared/asked';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';
import { dayOf } from '../shared/words';
import { PipelineState } from './pipeline-state';

/** Versions asked for at a time. */
const atOnce = 50;

/** Every version of the document, what it changed, and the way back to it, which is a new version. */
@Component({
  selector: 'sieve-versions-dialog',
  imports: [Dialog, FailedLine, Notice, ButtonDirective],
  template: `
    <p-dialog header="Versions" [modal]="true" [(visible)]="open" [style]="{ width: '720px' }" [draggable]="false" closeAriaLabel="Close">
      <sieve-failed-line [of]="[asked]" />
      @if (refused(); as refused) {
        <sieve-notice kind="failed">{{ refused }}</sieve-notice>
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
      <a pButton severity="secondary" [outlined]="true" [href]="file()" download>Save the document as a file</a>
      @if (more()) {
        <button pButton severity="secondary" [outlined]="true" (click)="below.set(known().at(-1)?.version)">Older versions</button>
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
  /** Why the document of a version could not be had. */
  protected readonly refused = signal<string | undefined>(undefined);
  /** The version before which to go on; undefined: with the newest, as whenever the dialog opens or a version comes. */
  protected readonly below = linkedSignal<string, number | undefined>({ source: () => `${this.open()} ${this.state.pipeline()?.version}`, computation: () => undefined });
  protected readonly asked = asked(
    () => (this.open() ? { pipeline: this.state.id(), now: this.state.pipeline()?.version, below: this.below() } : undefined),
    ({ pipeline, below }) => this.api.versions(pipeline, below).pipe(map((versions) => ({ below, versions }))),
  );
  protected readonly known = linkedSignal<ReturnType<typeof this.asked.value>, readonly VersionAnswer[]>({
    source: this.asked.value,
    computation: (page, before) => (page === undefined ? (before?.value ?? []) : [...(before?.value ?? []).filter(({ version }) => page.below !== undefined && version >= page.below), ...page.versions]),
  });
  protected readonly more = computed(() => this.asked.value()?.versions.length === atOnce && this.known().at(-1)!.version > 1);
  protected readonly versions = computed(() =>
    this.known().map((each) => ({ ...each, sentences: each.changes.length > 0 ? each.changes.map(changeSentence) : [each.version === 1 ? 'The pipeline was made' : 'The same in other words'] })),
  );

  protected readonly file = computed(() => this.api.documentAddress(this.state.id()));

  /** The document as it was, saved as a new version; undo takes it back. */
  protected goBack(version: number) {
    this.refused.set(undefined);
    this.api.versionDocument(this.state.id(), version).subscribe({
      next: ({ document }) => {
        this.state.change(parsePipeline(document));
        this.open.set(false);
      },
      error: (error: Error) => this.refused.set(error.message),
    });
  }
}
