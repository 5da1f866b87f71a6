import { Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import type { TreeNode } from 'primeng/api';
import { ButtonDirective } from 'primeng/button';
import { Tree } from 'primeng/tree';
import { expand, EMPTY } from 'rxjs';
import type { FolderAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { plural } from '../shared/words';
import { folderTree } from './folder-tree';

/** The folders of the server below those that it may read, with their PDF files, opened one after the other. */
@Component({
  selector: 'sieve-folder-picker',
  imports: [ButtonDirective, Tree],
  template: `
    <span id="where">Folder of the reports</span>
    @if (nodes(); as nodes) {
      <p-tree
        [value]="nodes"
        selectionMode="single"
        [metaKeySelection]="false"
        [selection]="chosenNode()"
        (selectionChange)="choose($event)"
        (onNodeExpand)="unfold($event.node.key!)"
        (onNodeCollapse)="fold($event.node.key!)"
        [trackBy]="byKey"
        scrollHeight="200px"
        ariaLabelledBy="where"
      >
        <!-- Its buttons have no name of their own. -->
        <ng-template #togglericon let-open>
          <i class="pi" [class.pi-chevron-down]="open" [class.pi-chevron-right]="!open" aria-hidden="true"></i><span class="sr">{{ open ? 'Close' : 'Open' }} the folder</span>
        </ng-template>
      </p-tree>
      @if (at(); as at) {
        <p class="at"><b>{{ at.folder }}</b></p>
        <p class="small">{{ counted(at.pdfs.length, 'PDF file') }} directly in this folder; its subfolders count too.</p>
      }
    }
    @if (refused(); as refused) {
      <p class="error" role="alert">{{ refused }} <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="begin()">Look at the folders that may be read</button></p>
    } @else if (!nodes()) {
      <p class="small">Looking at the folders</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    p-tree {
      border: 1px solid var(--line);
      border-radius: 6px;
      padding: 2px;
    }
    p {
      margin: 0;
      overflow-wrap: anywhere;
    }
  `,
})
export class FolderPicker {
  private readonly api = inject(Api);
  /** Where to begin; the first folder that may be read if left out. */
  readonly start = input<string | undefined>(undefined);
  /** The folder that is chosen now. */
  readonly chosen = output<FolderAnswer>();

  /** The folders looked at so far, by path. */
  private readonly known = signal<ReadonlyMap<string, FolderAnswer>>(new Map());
  private readonly unfolded = signal<ReadonlySet<string>>(new Set());
  private readonly chosenPath = signal<string | undefined>(undefined);
  protected readonly refused = signal<string | undefined>(undefined);
  protected readonly nodes = computed(() => (this.known().size > 0 ? folderTree(this.known(), this.unfolded()) : undefined));
  protected readonly at = computed(() => this.known().get(this.chosenPath() ?? ''));
  protected readonly chosenNode = computed((): TreeNode | undefined => (this.at() ? { key: this.at()!.folder } : undefined));
  protected readonly byKey = (_: number, node: TreeNode) => node.key;
  protected readonly counted = plural;

  constructor() {
    effect(() => {
      const start = this.start();
      untracked(() => this.begin(start));
    });
  }

  /** Looks at a folder and those above it, as far as they may be read. */
  protected begin(path?: string) {
    this.refused.set(undefined);
    this.known.set(new Map());
    let first = true;
    this.api
      .folders(path)
      .pipe(expand((answer) => (answer.parent === null ? EMPTY : this.api.folders(answer.parent))))
      .subscribe({
        next: (answer) => {
          this.learn(answer);
          this.open(answer.folder, true);
          if (first) this.take(answer);
          first = false;
        },
        error: (error: Error) => this.refused.set(error.message),
      });
  }

  protected choose(node: TreeNode | TreeNode[] | null | undefined) {
    const path = Array.isArray(node) ? node[0]?.key : node?.key;
    if (path !== undefined && path !== this.chosenPath()) this.look(path, (answer) => this.take(answer));
  }
  protected unfold(path: string) {
    this.look(path, () => this.open(path, true));
  }
  protected fold(path: string) {
    this.open(path, false);
  }

  private look(path: string, then: (answer: FolderAnswer) => void) {
    const known = this.known().get(path);
    if (known) return then(known);
    this.refused.set(undefined);
    this.api.folders(path).subscribe({
      next: (answer) => {
        this.learn(answer);
        then(answer);
      },
      error: (error: Error) => this.refused.set(error.message),
    });
  }
  private learn(answer: FolderAnswer) {
    this.known.update((known) => new Map(known).set(answer.folder, answer));
  }
  private open(path: string, isOpen: boolean) {
    this.unfolded.update((all) => new Set(isOpen ? [...all, path] : [...all].filter((each) => each !== path)));
  }
  private take(answer: FolderAnswer) {
    this.chosenPath.set(answer.folder);
    this.chosen.emit(answer);
  }
}
