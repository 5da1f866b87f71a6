import { Component, computed, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { formats, formatFacts, type KeptFile } from '../../../../core/dataset/file-options';
import { PipelineState } from '../pipeline/pipeline-state';
import { Pick } from '../shared/pick';

const endings = formats.map((format) => formatFacts[format].extension);

/** Files that are written anew after each publication: which there are, one more, one less. */
@Component({
  selector: 'sieve-kept-files',
  imports: [ButtonDirective, FormsModule, InputText, Pick],
  template: `
    <h3>Kept files</h3>
    <p class="small">Written anew after each refresh that publishes something, for spreadsheets and programs that open a file.</p>
    <ul>
      @for (file of files(); track $index) {
        <li>
          <span>{{ file.path }} <span class="small">{{ file.rows === 'new' ? 'only what is new' : 'all rows' }}</span></span>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="take(file)">Not any more</button>
        </li>
      }
    </ul>
    <form (submit)="add($event)">
      <input pInputText pSize="small" id="kept" [ngModel]="path()" (ngModelChange)="path.set($event)" name="kept" autocomplete="off" aria-label="Path of the file" placeholder="/folder/name.xlsx" />
      <sieve-pick label="Which rows" [options]="choices" [value]="rows()" (picked)="rows.set($any($event))" />
      <button pButton size="small" severity="secondary" [outlined]="true" [disabled]="refusal() !== undefined">Keep this file</button>
    </form>
    @if (path().trim() !== '' && refusal(); as refusal) {
      <p class="small needs" role="alert">{{ refusal }}</p>
    }
  `,
  styleUrl: './ways-out.css',
  styles: `
    form {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 170px auto;
      gap: 8px;
      align-items: center;
    }
  `,
})
export class KeptFiles {
  private readonly state = inject(PipelineState);
  /** How delimited text is written. */
  readonly csv = input<KeptFile['csv']>(undefined);
  protected readonly choices = [
    { value: 'all', says: 'all rows' },
    { value: 'new', says: 'only what is new' },
  ];
  protected readonly path = signal('');
  protected readonly rows = signal<'all' | 'new'>('all');
  protected readonly files = computed(() => this.state.document()?.files ?? []);
  protected readonly refusal = computed(() => {
    const path = this.path().trim();
    if (!/^(?:\/|[A-Za-z]:[\\/])/.test(path)) return 'Write the full path of the file.';
    if (!endings.includes(path.split('.').at(-1)!.toLowerCase())) return `Its name ends in ${endings.map((each) => `.${each}`).join(', ')}.`;
    return this.files().some((file) => file.path === path) ? 'It is kept already.' : undefined;
  });

  protected add(event: Event) {
    event.preventDefault();
    const document = this.state.document();
    if (this.refusal() !== undefined || !document) return;
    const csv = /\.[ct]sv$/i.test(this.path().trim()) ? this.csv() : undefined;
    this.state.answer({ ...document, files: [...this.files(), { path: this.path().trim(), rows: this.rows(), ...(csv ? { csv } : {}) }] });
    this.path.set('');
  }

  protected take(file: KeptFile) {
    const document = this.state.document();
    if (document) this.state.change({ ...document, files: this.files().filter((each) => each !== file) });
  }
}
