import { afterNextRender, Component, computed, ElementRef, inject, input, linkedSignal, output, signal, viewChild } from '@angular/core';
import { map, of, switchMap } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { FolderAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { FolderPicker } from '../periods/folder-picker';
import { PeriodsForm } from '../periods/periods-form';
import { DropFiles } from '../shared/drop-files';
import { proposedName } from '../../../../core/intake/propose-name';
import { plural } from '../shared/words';

/** What a file says of a pipeline, as far as the form shows it; the server checks it. */
interface BegunDocument {
  readonly name?: unknown;
  readonly reports?: { readonly template?: string; readonly year?: number };
  readonly [other: string]: unknown;
}

/** Makes a pipeline from a folder of the server, or from files dropped into the page. */
@Component({
  selector: 'sieve-new-pipeline',
  imports: [FolderPicker, PeriodsForm, ButtonDirective, InputText, DropFiles],
  template: `
    <form (submit)="make($event)">
      <label for="name">Name</label>
      <input pInputText id="name" [value]="name()" (input)="name.set($any($event.target).value)" placeholder="What the dataset is about" />
      @if (pdfs().length > 0) {
        <p>{{ counted(pdfs().length, 'dropped PDF file') }}: {{ pdfNames() }}. They go to a folder of their own.</p>
      } @else {
        <sieve-folder-picker (chosen)="folder.set($event)" />
        <label for="pick">Or choose PDF files of this computer</label>
        <input id="pick" type="file" accept="application/pdf" multiple (change)="picked.set(filesOf($event))" />
      }
      <label for="document">Begin with the document of another pipeline, if there is one</label>
      <input id="document" type="file" accept=".json,application/json" (change)="begin(filesOf($event)[0])" />
      <sieve-periods-form [names]="names()" [fill]="true" [(template)]="template" [(year)]="year" />
      @if (refused(); as refused) {
        <p class="error" role="alert">{{ refused }}</p>
      }
      <button pButton [disabled]="busy() || name().trim() === ''">{{ busy() ? 'Making it' : 'Make the pipeline' }}</button>
    </form>
    <sieve-drop-files />
  `,
  styles: `
    form {
      display: grid;
      gap: 6px;
    }
    .p-button {
      justify-self: start;
      margin-top: 8px;
    }
    p {
      margin: 4px 0;
    }
  `,
})
export class NewPipeline {
  private readonly api = inject(Api);
  private readonly drops = viewChild.required(DropFiles);
  readonly files = input<readonly File[]>([]);
  readonly made = output<number>();
  protected readonly template = signal('');
  protected readonly year = signal('');
  protected readonly picked = signal<readonly File[]>([]);
  protected readonly pdfs = computed(() => [...this.files(), ...this.picked()].filter((file) => /\.pdf$/i.test(file.name)));
  protected readonly pdfNames = computed(() => this.pdfs().map((file) => file.name).join(', '));
  /** The names that tell the periods: of what was dropped, or of what is in the folder. */
  protected readonly names = computed(() => (this.pdfs().length > 0 ? this.pdfs().map((file) => file.name) : (this.folder()?.pdfs ?? [])));
  protected readonly folder = signal<FolderAnswer | undefined>(undefined);
  /** As long as nobody has written another: that of the folder, or what the files begin with. */
  protected readonly name = linkedSignal<string, string>({ source: () => proposedName(this.names(), this.pdfs().length > 0 ? undefined : this.folder()?.folder), computation: (proposed, before) => (before === undefined || before.value === before.source ? proposed : before.value) });
  private readonly document = signal<BegunDocument | undefined>(undefined);
  protected readonly refused = signal<string | undefined>(undefined);
  protected readonly busy = signal(false);
  protected readonly counted = plural;

  constructor() {
    const form = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // At once, and not when the dialog has come to rest: what is being typed must not jump to another field.
    afterNextRender(() => {
      form.querySelector<HTMLInputElement>('#name')?.focus();
      // What was dropped says enough: name and periods are proposed, and can be changed any time.
      if (this.pdfs().length > 0 && this.pdfs().length === this.files().length && this.name().trim() !== '') this.make();
    });
  }

  protected filesOf = (event: Event) => [...((event.target as HTMLInputElement).files ?? [])];

  /** Takes over what a file says of a pipeline. */
  protected begin(file: File | undefined) {
    this.refused.set(undefined);
    this.document.set(undefined);
    void file?.text().then((text) => {
      try {
        const document = JSON.parse(text) as BegunDocument;
        this.document.set(document);
        if (this.name().trim() === '' && typeof document.name === 'string') this.name.set(document.name);
        if (document.reports?.template) this.template.set(document.reports.template);
        if (document.reports?.year) this.year.set(String(document.reports.year));
      } catch {
        this.refused.set(`${file.name} is no document of a pipeline: it cannot be read as JSON.`);
      }
    });
  }

  protected make(event?: Event) {
    event?.preventDefault();
    this.busy.set(true);
    this.refused.set(undefined);
    const files = this.pdfs();
    const template = this.template().trim();
    const year = Number(this.year());
    const begun: BegunDocument = this.document() ?? { format: 'able-sieve/pipeline', version: 1, take: [] };
    const document = {
      ...begun,
      name: this.name().trim(),
      reports: { ...begun.reports, ...(template ? { template } : {}), ...(Number.isInteger(year) && year > 0 ? { year } : {}) },
    };
    this.api
      .addPipeline(document, files.length > 0 ? undefined : this.folder()?.folder)
      .pipe(switchMap(({ id }) => (files.length === 0 ? of(id) : this.drops().put(id, files).pipe(map(() => id)))))
      .subscribe({
        next: (id) => this.made.emit(id),
        error: (error: Error) => {
          this.refused.set(error.message);
          this.busy.set(false);
        },
      });
  }
}
