import { afterNextRender, Component, computed, effect, ElementRef, inject, input, output, signal, untracked } from '@angular/core';
import { concatMap, from, last, map, of, switchMap } from 'rxjs';
import type { FolderAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { plural } from '../shared/words';

/** Makes a pipeline from a folder of the server, or from files dropped into the page. */
@Component({
  selector: 'sieve-new-pipeline',
  template: `
    <form (submit)="make($event)">
      <label for="name">Name</label>
      <input id="name" class="field" [value]="name()" (input)="name.set($any($event.target).value)" placeholder="What the dataset is about" />
      @if (pdfs().length > 0) {
        <p>{{ counted(pdfs().length, 'dropped PDF file') }}: {{ pdfNames() }}. They go to a folder of their own.</p>
      } @else {
        <span id="where">Folder of the reports</span>
        @if (folder(); as at) {
          <div class="at">
            <button type="button" class="btn" [disabled]="at.parent === null" (click)="look(at.parent!)" aria-label="Up to the folder above"><i class="pi pi-arrow-up" aria-hidden="true"></i></button>
            <b>{{ at.folder }}</b>
          </div>
          <ul aria-labelledby="where">
            @for (each of at.folders; track each.path) {
              <li>
                <button type="button" class="btn quiet" (click)="look(each.path)"><i class="pi pi-folder" aria-hidden="true"></i> {{ each.name }}</button>
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
          <p class="small">{{ counted(at.pdfs.length, 'PDF file') }} directly in this folder; its subfolders count too.</p>
        } @else {
          <p class="small">Looking at the folders</p>
        }
        <label for="pick">Or choose PDF files of this computer</label>
        <input id="pick" type="file" accept="application/pdf" multiple (change)="picked.set(filesOf($event))" />
      }
      <label for="template">How the file names tell the period (may be left out)</label>
      <input id="template" class="field" [value]="template()" (input)="template.set($any($event.target).value)" placeholder="week-{week}[-r{revision}].pdf" />
      <label for="year">Year of names that print none</label>
      <input id="year" class="field" inputmode="numeric" [value]="year()" (input)="year.set($any($event.target).value)" />
      @if (refused(); as refused) {
        <p class="error" role="alert">{{ refused }}</p>
      }
      <button class="btn go" [disabled]="busy() || name().trim() === ''">{{ busy() ? 'Making it' : 'Make the pipeline' }}</button>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 6px;
    }
    .btn.go {
      justify-self: start;
      margin-top: 8px;
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
      max-height: 200px;
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
      margin: 4px 0;
    }
  `,
})
export class NewPipeline {
  private readonly api = inject(Api);
  readonly files = input<readonly File[]>([]);
  readonly made = output<number>();
  protected readonly name = signal('');
  protected readonly template = signal('');
  protected readonly year = signal('');
  protected readonly picked = signal<readonly File[]>([]);
  protected readonly pdfs = computed(() => [...this.files(), ...this.picked()].filter((file) => /\.pdf$/i.test(file.name)));
  protected readonly pdfNames = computed(() => this.pdfs().map((file) => file.name).join(', '));
  protected readonly folder = signal<FolderAnswer | undefined>(undefined);
  protected readonly refused = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly counted = plural;

  constructor() {
    const form = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // At once, and not when the dialog has come to rest: what is being typed must not jump to another field.
    afterNextRender(() => form.querySelector<HTMLInputElement>('#name')?.focus());
    effect(() => {
      if (this.files().length === 0) untracked(() => this.look());
    });
  }

  protected filesOf = (event: Event) => [...((event.target as HTMLInputElement).files ?? [])];

  protected look(path?: string) {
    this.api.folders(path).subscribe({ next: (answer) => this.folder.set(answer), error: (error: Error) => this.refused.set(error.message) });
  }

  protected make(event: Event) {
    event.preventDefault();
    this.busy.set(true);
    this.refused.set(undefined);
    const files = this.pdfs();
    const template = this.template().trim();
    const year = Number(this.year());
    const document = {
      format: 'able-sieve/pipeline',
      version: 1,
      name: this.name().trim(),
      reports: { ...(template ? { template } : {}), ...(Number.isInteger(year) && year > 0 ? { year } : {}) },
      take: [],
    };
    this.api
      .addPipeline(document, files.length > 0 ? undefined : this.folder()?.folder)
      .pipe(switchMap(({ id }) => (files.length === 0 ? of(id) : from(files).pipe(concatMap((file) => this.api.dropFile(id, file)), last(), map(() => id)))))
      .subscribe({
        next: (id) => this.made.emit(id),
        error: (error: Error) => {
          this.refused.set(error.message);
          this.busy.set(false);
        },
      });
  }
}
