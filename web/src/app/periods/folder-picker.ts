import { Component, computed, effect, inject, input, linkedSignal, output, untracked } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import type { FolderAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { asked } from '../shared/asked';
import { plural } from '../shared/words';

/** The folders of the server below those that it may read, with their PDF files. */
@Component({
  selector: 'sieve-folder-picker',
  imports: [ButtonDirective],
  template: `
    <span id="where">Folder of the reports</span>
    @if (folder(); as at) {
      <div class="at">
        <button pButton type="button" severity="secondary" [outlined]="true" [disabled]="at.parent === null" (click)="look(at.parent!)" aria-label="Up to the folder above"><i class="pi pi-arrow-up" aria-hidden="true"></i></button>
        <b>{{ at.folder || 'Folders that may be read' }}</b>
      </div>
      <ul aria-labelledby="where">
        @for (each of at.folders; track each.path) {
          <li>
            <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="look(each.path)"><i class="pi pi-folder" aria-hidden="true"></i> {{ each.name }}</button>
            <span class="small">{{ each.pdfs > 0 ? counted(each.pdfs, 'PDF file') : '' }}</span>
          </li>
        }
        @for (file of at.pdfs.slice(0, 100); track file) {
          <li class="file"><i class="pi pi-file" aria-hidden="true"></i> {{ file }}</li>
        }
        @if (at.folders.length + at.pdfs.length === 0) {
          <li class="small">No folder and no PDF file in here.</li>
        }
      </ul>
      @if (at.folder) {
      <p class="small">{{ counted(at.pdfs.length, 'PDF file') }} directly in this folder; its subfolders count too.</p>
      }
    } @else if (refused(); as refused) {
      <p class="error" role="alert">{{ refused }} <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="look()">Look at the folders that may be read</button></p>
    } @else {
      <p class="small">Looking at the folders</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .at {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    ul {
      margin: 0;
      padding: 4px;
      list-style: none;
      max-height: 180px;
      overflow: auto;
      border: 1px solid var(--line);
      border-radius: 6px;
    }
    li {
      display: flex;
      gap: 8px;
      align-items: center;
      min-height: 26px;
    }
    .file {
      padding-left: 8px;
      color: var(--muted);
    }
    p {
      margin: 0;
    }
  `,
})
export class FolderPicker {
  private readonly api = inject(Api);
  /** Where to begin; the first folder that may be read if left out. */
  readonly start = input<string | undefined>(undefined);
  /** The folder that is looked at now. */
  readonly chosen = output<FolderAnswer>();
  private readonly path = linkedSignal(() => ({ path: this.start() }));
  private readonly asked = asked(
    () => this.path(),
    ({ path }) => this.api.folders(path),
    { keeps: true },
  );
  protected readonly folder = this.asked.value;
  protected readonly refused = computed(() => this.asked.failure()?.message);
  protected readonly counted = plural;

  constructor() {
    effect(() => {
      const folder = this.folder();
      if (folder && !this.asked.waiting()) untracked(() => this.chosen.emit(folder));
    });
  }

  protected look(path?: string) {
    this.path.set({ path });
  }
}
