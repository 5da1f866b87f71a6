import { Component, inject } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Skeleton } from 'primeng/skeleton';
import { Offers } from '../offers/offers';
import { OffersLine } from '../offers/offers-line';
import { PipelineState } from '../pipeline/pipeline-state';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';
import { SheetGrid } from '../shared/sheet-grid';
import { Slip } from '../shared/slip';
import { plural } from '../shared/words';
import { BenchLook } from './bench-look';
import { BenchSelection } from './bench-selection';
import { CorrectForm } from './correct-form';
import { FootForm } from './foot-form';
import { BenchSteps } from './bench-steps';
import { HeldPanel } from './held-panel';
import { changed } from './steps-edit';

/** The sheet as it leaves the layer looked at, the printed line of what is chosen above it, what the layer held beneath. */
@Component({
  selector: 'sieve-sheet-pane',
  host: { class: 'pane' },
  imports: [FailedLine, Skeleton, ButtonDirective, CorrectForm, FootForm, HeldPanel, Notice, OffersLine, SheetGrid, Slip],
  template: `
    <div class="pane-head">
      <h2>{{ at.bracketing() ? 'Before' : 'After' }} “{{ at.stepTitle() }}”</h2>
      @if (at.trimmed()) {
        <button pButton type="button" [text]="true" size="small" severity="secondary" [attr.aria-pressed]="at.bracketing()" (click)="at.wantsBrackets.set(!at.wantsBrackets())">{{ at.bracketing() ? 'Show the sheet after it' : 'Set with brackets' }}</button>
      }
      @if (at.bracketing() ? at.bracketed() : at.sheet(); as sheet) {
        {{ counted(sheet.rows, 'row') }}, {{ counted(sheet.columns.length, 'column') }}
      }
      @if (at.errors().length > 0) {
        <span class="error">{{ counted(at.errorCount(), 'error') }}</span>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="selection.walk(-1)" aria-label="Error before"><i class="pi pi-chevron-left" aria-hidden="true"></i></button>
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="selection.walk(1)" aria-label="Next error"><i class="pi pi-chevron-right" aria-hidden="true"></i></button>
      }
      <span class="grow"></span>
      @if (at.workingOut()) {
        <span role="status">working out</span>
      } @else if (selection.traced().length > 0) {
        {{ at.shown()?.path }}, page {{ selection.traced()[0].page }}
      }
    </div>
    @if (at.shown()) {
      <sieve-slip [file]="at.file()" [content]="at.pageContent()" [places]="selection.traced()" [otherwise]="selection.failure() ?? (selection.looking() ? 'Looking for the print' : selection.cell() ? 'Not from the paper: it comes from a file name or a step, or is blank there.' : 'Choose a cell, and its line stands here as it is printed.')" />
    }
    <sieve-failed-line [of]="at.beside" [except]="at.failure()?.message" />
    @if (at.failure(); as failure) {
      <sieve-notice kind="failed" [retry]="at.askAgain">{{ failure.message }}</sieve-notice>
    } @else if (at.source(); as source) {
      @if (source.columns.length === 0) {
        <sieve-notice kind="empty">No table of this report is taken. Take one on Intake, or choose another report above.</sieve-notice>
      } @else if (at.bracketing() && at.bracketSource(); as above) {
        <sieve-grid [source]="above" margin="page·line" [label]="'Sheet before ' + at.stepTitle()" [brackets]="at.trimmed()" (bracketed)="trim($event)" />
      } @else {
        <sieve-offers-line />
        <sieve-grid [source]="source" margin="page·line" [keptAs]="'bench ' + state.id()" [label]="'Sheet after ' + at.stepTitle()" [preview]="offers.preview()" [asks]="true" (part)="offers.part.set($event)" [(edge)]="offers.edge" (selected)="offers.selected.set($event)" [chosen]="selection.cell()?.of === 'sheet' ? selection.cell()!.place : undefined" (choose)="selection.chooseCell('sheet', $event)" (columnsSelected)="selection.columns.set($event)" [menuOf]="menuOf" />
      }
    } @else if (!at.shown() && !state.reading()) {
      <sieve-notice kind="empty">No report of this folder counts and can be read, so there is no sheet to work on. See Intake.</sieve-notice>
    } @else {
      <div class="waits" role="status">
        <span class="sr">Working out the sheet</span>
        @for (line of lines; track line) {
          <p-skeleton height="16px" [width]="line + '%'" />
        }
      </div>
    }
    @if (selection.errorHere(); as error) {
      <p class="told" role="status">
        <span class="error">“{{ error.text }}”: expected {{ error.expected }}.</span> It starts at “{{ error.title }}”.
        @if (error.step !== at.stepShown()) {
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="selection.choose(error.step)">Show that step</button>
        }
      </p>
    }
    <sieve-correct-form />
    @if (at.problems().length > 0) {
      <div class="problems" role="region" tabindex="0" aria-label="Problems of this step">
        @for (problem of at.problems(); track $index) {
          <p class="needs"><i class="pi pi-exclamation-triangle" aria-hidden="true"></i> {{ problem }}</p>
        }
      </div>
    }
    <sieve-foot-form />
    <sieve-held-panel />
  `,
  styles: `
    :host {
      border-right: 0;
    }
    sieve-grid {
      min-height: 190px;
    }
    .waits {
      display: grid;
      gap: 12px;
      padding: 18px 14px;
    }
    .told {
      margin: 0;
      padding: 5px 12px;
      border-top: 1px solid var(--line);
      background: var(--ochre-soft);
    }
    .problems {
      max-height: 84px;
      overflow: auto;
      padding: 4px 12px;
      border-top: 1px solid var(--line);
      background: var(--ochre-soft);
    }
    .problems p {
      margin: 2px 0;
    }
  `,
})
export class SheetPane {
  protected readonly state = inject(PipelineState);
  protected readonly at = inject(BenchLook);
  protected readonly selection = inject(BenchSelection);
  protected readonly offers = inject(Offers);
  private readonly steps = inject(BenchSteps);
  protected readonly counted = plural;
  /** How wide the lines are that stand for rows to come, in percent. */
  protected readonly lines = [96, 88, 93, 84, 90, 87, 95, 82];
  protected readonly menuOf = (columns: readonly number[]) => this.steps.menuOf(columns.map((at) => this.at.source()!.columns[at].name));

  /** Rows held from the top and from the bottom, as the brackets in the margin say. */
  protected trim(ends: { top: number; bottom: number }) {
    const step = this.at.step();
    if (step) this.state.change(changed(this.state.document()!, step.id, { settings: { ...step.settings, ...ends } }), step.id);
  }
}
