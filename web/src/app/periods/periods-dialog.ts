import { Component, computed, effect, inject, model, signal, untracked } from '@angular/core';
import { Dialog } from 'primeng/dialog';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Pick } from '../shared/pick';
import { localeNames, type LocaleName } from '../../../../core/values/locale';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { plural } from '../shared/words';
import { FolderPicker } from './folder-picker';
import { PeriodsForm } from './periods-form';

/** Where the reports of a pipeline lie, and what tells the period of each. */
@Component({
  selector: 'sieve-periods-dialog',
  imports: [Dialog, PeriodsForm, FolderPicker, ButtonDirective, InputText, Pick],
  template: `
    <p-dialog header="Periods and folder" [modal]="true" [(visible)]="open" [style]="{ width: '720px' }" [draggable]="false" closeAriaLabel="Close">
      @if (open()) {
        <form (submit)="save($event)">
          <sieve-periods-form [names]="names()" [(template)]="template" [(year)]="year" />
          <label for="stamp">What the paper says, where the name tells no period (may be left out)</label>
          <div class="stamp">
            <input pInputText id="stamp"  [value]="stamp()" (input)="stamp.set($any($event.target).value)" placeholder="Week ending {period}" aria-describedby="stamp-help" />
            <label class="sr" for="stamp-locale">Printed as in</label>
            <sieve-pick inputId="stamp-locale" [options]="locales" [value]="locale()" (picked)="locale.set($any($event))" />
          </div>
          <p id="stamp-help" class="small">The first line that fits is taken; a date is the day. {{ stamped() }}</p>
          <p class="folder">Folder: <b>{{ state.pipeline()?.folder }}</b>
            @if (!state.pipeline()?.managed) {
              <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="moving.set(!moving())" [attr.aria-expanded]="moving()">{{ moving() ? 'Stay there' : 'Another folder' }}</button>
            }
          </p>
          @if (moving()) {
            <sieve-folder-picker [start]="state.pipeline()?.folder" (chosen)="folder.set($event.folder)" />
          }
          @if (refused(); as refused) {
            <p class="error" role="alert">{{ refused }}</p>
          }
          <button pButton>Use this</button>
        </form>
      }
    </p-dialog>
  `,
  styles: `
    form {
      display: grid;
      gap: 6px;
    }
    p {
      margin: 0;
    }
    .stamp {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 110px;
      gap: 8px;
    }
    .p-button {
      justify-self: start;
      margin-top: 6px;
    }
  `,
})
export class PeriodsDialog {
  protected readonly state = inject(PipelineState);
  private readonly api = inject(Api);
  readonly open = model(false);
  protected readonly locales = localeNames;
  protected readonly template = signal('');
  protected readonly year = signal('');
  protected readonly stamp = signal('');
  protected readonly locale = signal<LocaleName>('en-GB');
  protected readonly moving = signal(false);
  protected readonly folder = signal<string | undefined>(undefined);
  protected readonly refused = signal<string | undefined>(undefined);

  protected readonly names = computed(() => this.state.reports().filter(({ standing }) => standing !== 'not a PDF').map(({ path }) => path));
  /** What the paper tells now. */
  protected readonly stamped = computed(() => {
    if (!this.state.document()?.reports.stamp) return '';
    const without = this.state.reports().filter(({ standing, period }) => standing !== 'not a PDF' && period === null).length;
    return without === 0 ? 'Every report has a period.' : `${plural(without, 'report has', 'reports have')} no period still.`;
  });

  constructor() {
    effect(() => {
      if (!this.open()) return;
      untracked(() => {
        const { template, year, stamp } = this.state.document()!.reports;
        this.template.set(template ?? '');
        this.year.set(year === undefined ? '' : String(year));
        this.stamp.set(stamp?.template ?? '');
        this.locale.set(stamp?.locale ?? 'en-GB');
        this.moving.set(false);
        this.folder.set(undefined);
        this.refused.set(undefined);
      });
    });
  }

  protected save(event: Event) {
    event.preventDefault();
    const document = this.state.document()!;
    const { template: _, year: __, stamp: ___, ...others } = document.reports;
    const [template, stamp, year] = [this.template().trim(), this.stamp().trim(), Number(this.year())];
    const reports = { ...others, ...(template ? { template } : {}), ...(Number.isInteger(year) && year > 0 ? { year } : {}), ...(stamp ? { stamp: { template: stamp, locale: this.locale() } } : {}) };
    this.state.change({ ...document, reports });
    const folder = this.moving() ? this.folder() : undefined;
    if (folder === undefined || folder === this.state.pipeline()?.folder) return this.open.set(false);
    this.api.moveToFolder(this.state.id(), folder).subscribe({
      next: (full) => {
        this.state.moved(full);
        this.open.set(false);
      },
      error: (error: Error) => this.refused.set(error.message),
    });
  }
}
