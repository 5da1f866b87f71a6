import { Component, computed, effect, input, model, untracked } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { nameFacts } from '../../../../core/intake/file-names';
import { proposedTemplates } from '../../../../core/intake/propose-template';
import { template as templateOf } from '../../../../core/values/template';
import { plural } from '../shared/words';

/** How file names tell the period: a template, proposed from the names that are there, with what it tells of each. */
@Component({
  selector: 'sieve-periods-form',
  imports: [ButtonDirective, InputText],
  template: `
    <label for="template">How the file names tell the period (may be left out)</label>
    <input pInputText id="template"  [value]="template()" (input)="template.set($any($event.target).value)" placeholder="week-{week}[-r{revision}].pdf" aria-describedby="template-help" />
    <p id="template-help" class="small">Holes: {{ holes }}. What stands in [..] may be missing; {{ '{year:4}' }} is four letters long.</p>
    @if (others().length > 0) {
      <p class="offers">
        <span class="small">Read off the names:</span>
        @for (each of others(); track each.template) {
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="template.set(each.template)" [title]="'Fits ' + each.fits + ' of ' + names().length + ' names'">{{ each.template }}</button>
        }
      </p>
    }
    <label for="year">Year of names that print none</label>
    <input pInputText id="year" class="year" inputmode="numeric" [value]="year()" (input)="year.set($any($event.target).value)" />
    @if (fault(); as fault) {
      <p class="error" role="alert">{{ fault }}</p>
    } @else if (names().length > 0) {
      <p role="status" [class.needs]="misses() > 0 && template() !== ''">{{ summary() }}</p>
      <ul aria-label="What each name tells" tabindex="0">
        @for (line of lines(); track line.path) {
          <li [class.needs]="line.period === undefined">
            <span class="name">{{ line.path }}</span>
            <b>{{ line.period ?? 'no period' }}</b>
            <span class="small">{{ line.revision }}</span>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    p {
      margin: 0;
    }
    .year {
      width: 90px;
    }
    .offers {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      align-items: center;
    }
    ul {
      margin: 0;
      padding: 4px 8px;
      list-style: none;
      max-height: 150px;
      overflow: auto;
      border: 1px solid var(--line);
      border-radius: 6px;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 110px 90px;
      gap: 8px;
      min-height: 24px;
      align-items: center;
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class PeriodsForm {
  /** Names or paths of the files that are there. */
  readonly names = input.required<readonly string[]>();
  readonly template = model('');
  readonly year = model('');
  /** Is the best proposal to be taken where nothing is said yet? */
  readonly fill = input(false);
  protected readonly holes = ['year', 'quarter', 'month', 'week', 'day', 'series', 'revision'].map((hole) => `{${hole}}`).join(' ');

  private readonly reading = computed(() => ({ template: this.template().trim(), ...(Number(this.year()) > 0 ? { year: Number(this.year()) } : {}) }));
  private readonly proposed = computed(() => proposedTemplates(this.names(), this.reading().year));
  protected readonly others = computed(() => this.proposed().filter(({ template }) => template !== this.reading().template));
  protected readonly fault = computed(() => {
    try {
      if (this.reading().template) templateOf(this.reading().template);
      return undefined;
    } catch (error) {
      return (error as Error).message;
    }
  });
  /** Names that tell nothing come first. */
  protected readonly lines = computed(() =>
    this.names()
      .map((path) => {
        const { period, revision } = nameFacts(path, this.reading());
        return { path, period, revision: revision.kind === 'none' ? '' : `issue ${revision.mark}` };
      })
      .sort((a, b) => Number(a.period !== undefined) - Number(b.period !== undefined) || (a.period ?? '').localeCompare(b.period ?? '')),
  );
  protected readonly misses = computed(() => this.lines().filter(({ period }) => period === undefined).length);
  protected readonly summary = computed(() => {
    const told = this.lines().filter(({ period }) => period !== undefined);
    if (told.length === 0) return this.template() === '' ? 'Without a template the reports have no period: they stand on the ruler by name.' : 'No name tells a period so.';
    return `${plural(told.length, 'name tells', 'names tell')} a period, ${told[0].period} to ${told.at(-1)!.period}${this.misses() > 0 ? `; ${plural(this.misses(), 'name tells', 'names tell')} none` : ''}.`;
  });

  /** What was filled in last, to be filled in anew as long as nobody has written another. */
  private filled = '';

  constructor() {
    effect(() => {
      const best = this.proposed()[0];
      if (!this.fill()) return;
      untracked(() => {
        if (this.template() !== this.filled) return;
        this.filled = best?.template ?? '';
        this.template.set(this.filled);
        if (best?.needsYear && this.year() === '') this.year.set(String(new Date().getFullYear()));
      });
    });
  }
}
