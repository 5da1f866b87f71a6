import { Component, computed, inject, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { formatFacts, formats, type Format } from '../../../../core/dataset/file-options';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Clipboard } from '../shared/clipboard';
import { FailedLine } from '../shared/failed-line';
import { Pick, type Choice } from '../shared/pick';
import { DownloadLine } from './download-line';
import { KeptFiles } from './kept-files';
import { dayOf, plural } from '../shared/words';

/** What a file of each format is good for, in a sentence. */
const goodFor: Readonly<Record<Format, string>> = {
  csv: 'Text that every program reads. Texts that a spreadsheet would take for a formula get an apostrophe in front, unless that is switched off.',
  tsv: 'Text with tabs between, as spreadsheets take it from the clipboard.',
  xlsx: 'A workbook with real numbers and dates, a frozen heading with filters, and a sheet that says where all of it comes from.',
  json: 'One list of objects by heading, for scripts.',
  jsonl: 'One object a line, for programs that read as they go.',
  parquet: 'Columns with exact decimals and dates, for analytic engines.',
  sql: 'A script that makes the table in a database, with its rows and comments.',
  zip: 'A data package: CSV with its schema, units, checks, sources with their hashes, and printed totals.',
};

/** The ways out of the dataset: a file now, or an address that stays the same with every refresh, and who may read it. */
@Component({
  selector: 'sieve-ways-out',
  imports: [ButtonDirective, Checkbox, Dialog, DownloadLine, FailedLine, FormsModule, InputText, KeptFiles, Pick],
  template: `
    <p-dialog header="Ways out" [modal]="true" [(visible)]="open" [style]="{ width: '680px' }" [draggable]="false" closeAriaLabel="Close">
      <div class="form">
        <span class="label">Format</span>
        <sieve-pick label="Format" [options]="choices" [value]="format()" (picked)="format.set($any($event))" />
        <p class="small wide">{{ says() }}</p>
        @if (format() === 'csv' || format() === 'tsv') {
          @if (format() === 'csv') {
            <span class="label">Values apart by</span>
            <sieve-pick label="What parts values" [options]="['comma', 'semicolon', 'tab', 'bar']" [value]="separator()" (picked)="separate($event)" />
          }
          <span class="label">Decimal mark</span>
          <sieve-pick label="Decimal mark" [options]="['point', 'comma']" [value]="decimal()" (picked)="mark($event)" />
          <span class="label">For a spreadsheet</span>
          <span class="ticks">
            <label><p-checkbox [binary]="true" [(ngModel)]="forSpreadsheet" inputId="spreadsheet" /> byte order mark and DOS line ends</label>
            <label><p-checkbox [binary]="true" [(ngModel)]="guard" inputId="guard" /> guard against formulas</label>
            <label><p-checkbox [binary]="true" [(ngModel)]="trace" inputId="trace" /> with report, page and problems</label>
          </span>
        }
        @if (selected()) {
          <span class="label">Rows</span>
          <label><p-checkbox [binary]="true" [(ngModel)]="onlySelected" inputId="only" /> only the {{ counted(rows(), 'row') }} shown, in their order</label>
        }
        <p class="small wide">{{ misfits() === 0 ? 'The dataset has no error cells.' : counted(misfits(), 'error cell') + ' of the dataset ' + (misfits() === 1 ? 'is' : 'are') + ' blank in it' + (format() === 'xlsx' ? ', shaded, with a comment.' : format() === 'json' || format() === 'jsonl' ? ', and named beside the row.' : trace() && (format() === 'csv' || format() === 'tsv') ? ', and named beside the row.' : '.') }}</p>
        <sieve-download-line class="wide" [address]="here()" />
      </div>
      <sieve-kept-files [csv]="csv()" />
      <h3>For other programs</h3>
      <p class="small">The address stays the same with every refresh. Whoever reads it needs a token.</p>
      <p class="address"><code>{{ address() }}</code> <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="copy(address(), 'The address is copied.')">Copy</button></p>
      @if (sql.value(); as at) {
        <p class="small">With SQL, by the PostgreSQL protocol{{ at.secured ? ' (encrypted)' : '' }}: host {{ at.host }}, port {{ at.port }}, the name of a reader as user, its token as password.</p>
        <p class="address"><code>{{ table() }}</code> <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="copy(table(), 'The name of the table is copied.')">Copy</button></p>
      } @else {
        <p class="small">With SQL: start the program with <code>--sql-port</code>; it then answers the PostgreSQL protocol.</p>
      }
      <sieve-failed-line [of]="[readers, sql]" />
      <ul class="readers">
        @for (reader of readers.value() ?? []; track reader.name) {
          <li>
            <span>{{ reader.name }} <span class="small">since {{ day(reader.since) }}</span></span>
            <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="take(reader.name)">Take the token back</button>
          </li>
        }
      </ul>
      @if (given(); as given) {
        <p class="address" role="status">Token of {{ given.name }}, shown this once: <code>{{ given.token }}</code> <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="copy(address() + (address().includes('?') ? '&' : '?') + 'key=' + given.token, 'The address with the token is copied.')">Copy the address with it</button></p>
      }
      <form class="reader" (submit)="give($event)">
        <label for="reader">Who is to read it</label>
        <input pInputText id="reader" pSize="small" [ngModel]="name()" (ngModelChange)="name.set($event)" name="reader" autocomplete="off" />
        <button pButton size="small" severity="secondary" [outlined]="true" [disabled]="name().trim() === ''">Give a token</button>
      </form>
    </p-dialog>
  `,
  styleUrl: './ways-out.css',
})
export class WaysOut {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  private readonly clipboard = inject(Clipboard);
  readonly open = model(false);
  /** Name under which other programs find the dataset. */
  readonly dataset = input.required<string>();
  readonly misfits = input.required<number>();
  /** The rows that are shown, as an address asks for them; "" for all. */
  readonly selected = input('');
  readonly rows = input(0);
  protected readonly counted = plural;
  protected readonly day = dayOf;
  protected readonly choices = formats.map((format): Choice => ({ value: format, says: formatFacts[format].title }));

  protected readonly format = signal<Format>('xlsx');
  protected readonly separator = signal('comma');
  protected readonly decimal = signal('point');
  protected readonly forSpreadsheet = signal(false);
  protected readonly guard = signal(true);
  protected readonly trace = signal(false);
  protected readonly onlySelected = signal(true);
  protected readonly says = computed(() => goodFor[this.format()]);

  private readonly query = computed(() => {
    const asked = new URLSearchParams(this.onlySelected() ? this.selected() : '');
    if (this.format() === 'csv' || this.format() === 'tsv') {
      if (this.format() === 'csv' && this.separator() !== 'comma') asked.set('separator', this.separator());
      if (this.decimal() !== 'point') asked.set('decimal', this.decimal());
      if (this.format() === 'tsv' && this.decimal() !== 'point') asked.set('separator', 'tab');
      if (this.forSpreadsheet()) asked.set('mark', 'yes');
      if (this.forSpreadsheet()) asked.set('lineEnds', 'crlf');
      if (!this.guard()) asked.set('guard', 'no');
      if (this.trace()) asked.set('trace', 'yes');
    }
    return asked.size === 0 ? '' : `?${asked}`;
  });
  /** How a kept file of delimited text is written. */
  protected readonly csv = computed(() => ({ separator: this.separator(), decimal: this.decimal(), mark: this.forSpreadsheet(), lineEnds: this.forSpreadsheet() ? 'crlf' : 'lf', trace: this.trace(), guard: this.guard() }));
  private readonly extension = computed(() => formatFacts[this.format()].extension);
  protected readonly here = computed(() => `${this.api.datasetFileAddress(this.state.id(), this.extension())}${this.query()}`);
  protected readonly address = computed(() => new URL(`/datasets/${this.dataset()}.${this.extension()}${this.query()}`, location.href).href);

  private readonly changes = signal(0);
  protected readonly readers = asked(
    () => (this.open() ? { changes: this.changes() } : undefined),
    () => this.api.readers(),
    { keeps: true },
  );
  protected readonly sql = asked(
    () => (this.open() ? {} : undefined),
    () => this.api.sqlAddress(),
    { keeps: true },
  );
  protected readonly table = computed(() => `published.${this.dataset()}`);
  protected readonly name = signal('');
  protected readonly given = signal<{ readonly name: string; readonly token: string } | undefined>(undefined);

  protected separate(separator: string) {
    this.separator.set(separator);
    if (separator === 'comma') this.decimal.set('point');
  }

  /** A decimal comma needs another mark between values. */
  protected mark(decimal: string) {
    this.decimal.set(decimal);
    if (decimal === 'comma' && this.separator() === 'comma') this.separator.set('semicolon');
  }

  protected give(event: Event) {
    event.preventDefault();
    const name = this.name().trim();
    if (name === '') return;
    this.api.giveToken(name).subscribe({
      next: (given) => {
        this.given.set(given);
        this.name.set('');
        this.changes.update((n) => n + 1);
      },
      error: (error: Error) => this.clipboard.tell('error', error.message),
    });
  }

  protected take(name: string) {
    this.api.takeToken(name).subscribe({
      next: () => {
        if (this.given()?.name === name) this.given.set(undefined);
        this.changes.update((n) => n + 1);
      },
      error: (error: Error) => this.clipboard.tell('error', error.message),
    });
  }

  protected copy(text: string, says: string) {
    this.clipboard.put(text, says);
  }
}
