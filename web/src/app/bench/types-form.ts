import { Component, computed, inject, input, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Tick } from '../shared/tick';
import { Pick } from '../shared/pick';
import { asLocale, asReport, markNames } from '../../../../core/values/marks';
import { dateOrders } from '../../../../core/values/date';
import { durationUnits } from '../../../../core/values/duration';
import { describeFormat, formatOf, readTypes, scaleNames, type Format } from '../../../../core/values/format';
import { localeNames, type LocaleName } from '../../../../core/values/locale';
import type { TypeRule } from '../../../../core/steps/set-types';
import { mergedNames, partialColumns } from '../../../../core/pipeline/append';
import type { ProposedColumn } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { plural } from '../shared/words';
import type { LookPlace, OwnForm } from './own-form';
import { rulesByColumn, withFormat, withWorkedOut } from '../../../../core/suggest/type-rules';

/** The settings of set types: a line per column with its type, format, reason and misfits. */
@Component({
  selector: 'sieve-types-form',
  imports: [ButtonDirective, InputText, Pick, Tick],
  template: `
    <p class="row">
      <label for="types-locale">Printed as in</label>
      <sieve-pick inputId="types-locale" [options]="localeNames" [value]="locale()" (picked)="of().set({ locale: $event, types: types() })" />
    </p>
    <p class="row">
      <span>Work out</span>
      <span class="pair">
        <button pButton severity="secondary" [outlined]="true" type="button" [disabled]="working()" (click)="workOut('guide')">over guide</button>
        <button pButton severity="secondary" [outlined]="true" type="button" [disabled]="working()" (click)="workOut('all')">over all</button>
      </span>
    </p>
    @if (said(); as said) {
      <p class="small" role="status">{{ said }}</p>
    }
    <ul>
      @for (line of lines(); track line.name) {
        <li [class.open]="opened() === line.name">
          <div class="line">
            <button class="name" type="button" (click)="opened.set(opened() === line.name ? '' : line.name)" [attr.aria-expanded]="opened() === line.name">{{ line.name }}</button>
            <label class="sr" [for]="'type-' + $index">Type of {{ line.name }}</label>
            <sieve-pick [inputId]="'type-' + $index" [options]="readTypes" [value]="line.format.type" (picked)="set(line.name, { type: $any($event), reason: '' })" />
          </div>
          @if (line.lackedBy; as lackedBy) {
            <p class="small">{{ lackedBy }}</p>
          }
          @if (line.details) {
            <p class="small">{{ line.details }}</p>
          }
          @if (line.misfits > 0) {
            <p class="error small">
              <i class="pi pi-exclamation-triangle" aria-hidden="true"></i> {{ counted(line.misfits, 'misfit') }}:
              @for (misfit of line.first; track $index) {
                <button pButton type="button" [text]="true" size="small" severity="secondary" class="place" [title]="misfit.says" (click)="of().look(misfit.place)">“{{ misfit.text }}”</button>
              }
            </p>
          }
          @if (line.otherwise; as other) {
            <p class="needs small">
              <i class="pi pi-question-circle" aria-hidden="true"></i> Set by hand; worked out as {{ described(other.format) }}.
              <button pButton type="button" [text]="true" size="small" severity="secondary" class="place" (click)="useWorkedOut(line.name, other)">Use that</button>
            </p>
          }
          @if (line.doubt; as doubt) {
            <p class="needs small">
              <i class="pi pi-question-circle" aria-hidden="true"></i> {{ doubt }}
              <button pButton type="button" [text]="true" size="small" severity="secondary" class="place" (click)="set(line.name, { settled: doubt, byHand: line.byHand })" [attr.aria-label]="'No doubt about ' + line.name + ' any more'">It is right</button>
            </p>
          }
          @if (opened() === line.name) {
            @if (line.reason) {
              <p class="small">{{ line.reason }}</p>
            }
            @if (line.runnerUp; as other) {
              <p class="small">
                Else {{ other.says }}{{ other.misfits > 0 ? ', ' + counted(other.misfits, 'misfit') : '' }}.
                <button pButton type="button" [text]="true" size="small" severity="secondary" class="place" (click)="useOther(line.name, other.format)">Use that</button>
              </p>
            }
            <div class="format">
              @if (line.isNumber) {
                <label [for]="'marks-' + $index">Marks</label>
                <sieve-pick [inputId]="'marks-' + $index" [options]="markNames" [value]="line.format.marks" (picked)="set(line.name, { marks: $any($event) })" />
                <label [for]="'nil-' + $index">A dash is</label>
                <sieve-pick [inputId]="'nil-' + $index" [options]="['blank', 'zero']" [value]="line.format.nil" (picked)="set(line.name, { nil: $any($event) })" />
                <label [for]="'absent-' + $index">n/a, .. are</label>
                <sieve-pick [inputId]="'absent-' + $index" [options]="['blank', 'zero', 'misfit']" [value]="line.format.absent" (picked)="set(line.name, { absent: $any($event) })" />
                <label [for]="'unit-' + $index">Unit</label>
                <input pInputText [id]="'unit-' + $index" [value]="line.format.unit" (change)="set(line.name, { unit: $any($event.target).value.trim() })" />
                <label [for]="'scale-' + $index">Printed in</label>
                <sieve-pick [inputId]="'scale-' + $index" [options]="scaleNames" [value]="line.format.scale" (picked)="set(line.name, { scale: $any($event) })" />
                @if (line.format.scale !== 'as printed') {
                  <label [for]="'scaleis-' + $index">The scale is</label>
                  <sieve-pick [inputId]="'scaleis-' + $index" [options]="['applied', 'kept beside']" [value]="line.format.scaleIs" (picked)="set(line.name, { scaleIs: $any($event) })" />
                }
              }
              @if (line.format.type === 'date' || line.format.type === 'datetime') {
                <label [for]="'order-' + $index">Order</label>
                <sieve-pick [inputId]="'order-' + $index" [options]="orders" [value]="line.format.order" (picked)="set(line.name, { order: $any($event) })" />
                <label [for]="'pivot-' + $index">Years to 20..</label>
                <input pInputText type="number" min="0" max="99" [id]="'pivot-' + $index" [value]="line.format.pivot" (change)="set(line.name, { pivot: +$any($event.target).value })" />
              }
              @if (line.format.type === 'duration') {
                <label [for]="'lasts-' + $index">In</label>
                <sieve-pick [inputId]="'lasts-' + $index" [options]="durationUnits" [value]="line.format.durationIn" (picked)="set(line.name, { durationIn: $any($event) })" />
              }
              @if (line.format.type === 'period') {
                <label [for]="'days-' + $index">First, last day</label>
                <sieve-tick [inputId]="'days-' + $index" [on]="line.format.days === true" (ticked)="set(line.name, { days: $event })" />
                <label [for]="'fiscal-' + $index">Fiscal month</label>
                <input pInputText type="number" min="1" max="12" [id]="'fiscal-' + $index" [value]="line.format.fiscalStart" (change)="set(line.name, { fiscalStart: +$any($event.target).value })" />
              }
            </div>
          }
        </li>
      } @empty {
        <li class="small">The columns above this step are not known yet.</li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      container-type: inline-size;
    }
    p {
      margin: 3px 0;
    }
    @container (min-width: 640px) {
      ul {
        display: grid;
        grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
        gap: 0 18px;
      }
      .row {
        grid-template-columns: 76px minmax(0, 160px);
        display: inline-grid;
        margin-right: 18px;
      }
    }
    .row,
    .line,
    .format {
      display: grid;
      grid-template-columns: 76px minmax(0, 1fr);
      gap: 4px 8px;
      align-items: center;
    }
    .pair {
      display: flex;
      gap: 4px;
    }
    .pair .p-button {
      padding: 2px 5px;
    }
    ul {
      list-style: none;
      margin: 6px 0 0;
      padding: 0;
      border-top: 1px solid var(--line-soft);
    }
    li {
      padding: 3px 0 4px;
      border-bottom: 1px solid var(--line-soft);
    }
    .line {
      grid-template-columns: minmax(0, 1fr) 104px;
    }
    .name {
      border: 0;
      background: none;
      padding: 2px 0;
      text-align: left;
      font-weight: 600;
      cursor: pointer;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .name:hover,
    .open .name {
      color: var(--copper);
    }
    .format {
      margin-top: 4px;
    }
    label {
      color: var(--muted);
    }
    .p-inputtext {
      width: 100%;
    }
    .place {
      padding: 0 2px;
      color: inherit;
      text-decoration: underline;
    }
  `,
})
export class TypesForm {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly of = input.required<OwnForm>();

  protected readonly localeNames = localeNames;
  protected readonly readTypes = readTypes;
  protected readonly markNames = [...markNames, asReport];
  protected readonly scaleNames = scaleNames;
  protected readonly durationUnits = durationUnits;
  protected readonly orders = [asLocale, ...dateOrders];
  protected readonly counted = plural;
  protected readonly described = describeFormat;

  protected readonly opened = signal('');
  protected readonly working = signal(false);
  protected readonly said = signal('');
  private readonly worked = signal<ReadonlyMap<string, ProposedColumn>>(new Map());
  protected readonly locale = computed(() => (this.of().values['locale'] as LocaleName | undefined) ?? 'en-GB');
  protected readonly types = computed(() => (this.of().values['types'] as TypeRule[] | undefined) ?? []);

  /** The columns that come to the step in each report that counts. */
  private readonly lists = computed(() => this.state.counting().flatMap((report) => {
    const names = this.state.summaryOf(report.id)?.untyped[this.of().step];
    return names ? [names] : [];
  }));
  /** Those of the report shown first, then those that only others have. */
  private readonly names = computed(() => [...new Set([...this.of().columns, ...mergedNames(this.lists())])]);
  /** Of columns that not all reports have, in how many they are. */
  private readonly lackedBy = computed(() => {
    const all = this.lists().length;
    return new Map(partialColumns(this.lists()).map(({ name, lacks }) => [name, `in ${all - lacks.length} of ${all} reports${this.of().columns.includes(name) ? '' : ', not in the one shown'}`]));
  });
  protected readonly lines = computed(() => {
    const names = this.names();
    const rules = rulesByColumn(this.types(), names);
    return names.map((name) => {
      const rule = rules.get(name);
      const format: Format = rule ?? plainText;
      const proposed = this.worked().get(name);
      const asProposed = proposed !== undefined && describeFormat(proposed.format) === describeFormat(format);
      const here = this.of().errors.filter((error) => error.column === name && error.step === this.of().step);
      const says = describeFormat(format);
      return {
        name,
        format,
        details: says.includes(',') ? says.replace(/^[^,]*, /, '') : '',
        isNumber: ['integer', 'decimal', 'percent'].includes(format.type),
        reason: rule?.reason || proposed?.reason || '',
        byHand: rule?.byHand ?? false,
        lackedBy: this.lackedBy().get(name),
        doubt: asProposed && proposed.doubt !== rule?.settled ? proposed.doubt : undefined,
        runnerUp: asProposed ? proposed.runnerUp : undefined,
        // What was worked out beside what was set by hand.
        otherwise: rule?.byHand && proposed && !asProposed ? proposed : undefined,
        misfits: asProposed ? Math.max(proposed.misfits, here.length) : (this.of().after.find((column) => column.name === name)?.misfits ?? 0),
        first: asProposed && proposed.firstMisfits.length > 0
          ? proposed.firstMisfits.map(({ text, expected, report, page, row }) => ({ text, says: `expected ${expected}`, place: { report: Number(report), page, row, column: name } as LookPlace }))
          : here.slice(0, 3).map(({ text, expected, row, page }) => ({ text, says: `expected ${expected}`, place: { page, row, column: name } as LookPlace })),
      };
    });
  });

  protected set(column: string, changes: Partial<TypeRule>) {
    this.of().set({ locale: this.locale(), types: withFormat(this.types(), column, { byHand: true, ...changes }) });
  }
  protected useOther(column: string, format: Format) {
    this.set(column, { ...format, reason: 'Chosen by hand.' });
  }
  protected useWorkedOut(column: string, { format, reason }: ProposedColumn) {
    this.set(column, { ...format, reason, byHand: false });
  }

  /** Works the columns out and writes what came into the settings; undo takes it back. */
  protected workOut(over: 'guide' | 'all') {
    const guide = this.state.guide()?.id;
    this.working.set(true);
    this.said.set('Working out …');
    this.api.workOut(this.state.id(), { step: this.of().step, locale: this.locale(), ...(over === 'guide' && guide !== undefined ? { reports: [guide] } : {}) }).subscribe({
      next: ({ columns, rows, reports, unreadable }) => {
        this.working.set(false);
        this.worked.set(new Map(columns.map((column) => [column.name, column])));
        const byHand = rulesByColumn(this.types(), columns.map(({ name }) => name));
        const kept = columns.filter(({ name }) => byHand.get(name)?.byHand).length;
        const doubts = columns.filter((column) => column.doubt).length;
        this.said.set(`Looked at ${plural(rows, 'row')} of ${plural(reports, 'report')}.${unreadable.length > 0 ? ` ${plural(unreadable.length, 'report')} could not be read.` : ''}${kept > 0 ? ` ${plural(kept, 'column')} set by hand stayed as set.` : ''}${doubts > 0 ? ` ${plural(doubts, 'column')} could mean something else.` : ''}`);
        this.of().set({ locale: this.locale(), types: withWorkedOut(this.types(), columns) });
      },
      error: (error: Error) => {
        this.working.set(false);
        this.said.set(error.message);
      },
    });
  }
}

const plainText = formatOf({ type: 'text' });
