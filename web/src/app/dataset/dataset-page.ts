import { Component, computed, effect, inject, input, linkedSignal, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { FailedLine } from '../shared/failed-line';
import { KeptSizes } from '../shared/kept-sizes';
import { Splitter } from 'primeng/splitter';
import { SelectButton } from 'primeng/selectbutton';
import type { MenuItem } from 'primeng/api';
import { ButtonDirective } from 'primeng/button';
import { everything, isEverything, type Selection } from '../../../../core/dataset/selection';
import type { CellRange, Traced } from '../../../../server/contract/contract';
import { Api, ApiFailure } from '../api';
import { EvidenceButton } from './evidence-button';
import { PublishedChecks } from './published-checks';
import { PublishedHeld } from './published-held';
import { PublishedProblems } from './published-problems';
import { PublishedTotals } from './published-totals';
import { toldProblems } from './told-problems';
import { toldTies } from './told-ties';
import { ColumnCardPane } from './column-card';
import { SelectionBar } from './selection-bar';
import { askedFor, fromAddress, inAddress, ShownRows } from './shown-rows';
import { WaysOut } from './ways-out';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Clipboard } from '../shared/clipboard';
import { Notice } from '../shared/notice';
import { Paper, type PaperFrame } from '../shared/paper';
import { SheetGrid, type GridCellPlace } from '../shared/sheet-grid';
import { Slip } from '../shared/slip';
import { dayOf, plural } from '../shared/words';

/** The result: the published rows with trace to paper, problems, and the ways out. */
@Component({
  selector: 'sieve-dataset-page',
  host: { '[class.beside]': 'side() !== undefined' },
  imports: [EvidenceButton, FailedLine, FormsModule, KeptSizes, Splitter, SelectButton, Slip, SheetGrid, Paper, Notice, PublishedChecks, PublishedHeld, PublishedProblems, PublishedTotals, RouterLink, ButtonDirective, ColumnCardPane, SelectionBar, WaysOut],
  template: `
    <p-splitter sieveSizes="dataset" [usual]="[69, 31]" [handles]="['Width of what stands beside the rows']" [gutterSize]="1" [step]="16">
    <ng-template #panel>
    <section class="pane" aria-label="Published rows">
      <div class="pane-head">
        <h2>Dataset</h2>
        @if (answer(); as answer) {
          <span class="of" [title]="'Published ' + day(answer.publishedAt)">{{ counted(answer.rows, 'row') }}, {{ counted(answer.columns.length, 'column') }}, published {{ day(answer.publishedAt) }} with version {{ answer.version }}</span>
          @if (answer.misfits > 0) {
            <span class="error" title="Their cells are blank in files; text and reason are shown here.">{{ counted(answer.misfits, 'misfit') }}</span>
          }
        }
        <span class="grow"></span>
        @if (answer()) {
          <p-selectbutton [options]="sides()" optionLabel="says" optionValue="value" [ngModel]="side()" (ngModelChange)="wanted.set($event ?? 'none')" size="small" ariaLabelledBy="beside" />
          <span id="beside" class="sr">Beside the rows</span>
          <a pButton severity="secondary" [outlined]="true" [routerLink]="['summary']">Summary</a>
          <button pButton severity="secondary" [outlined]="true" (click)="copyRows()">Copy as text</button>
          <button pButton severity="secondary" [outlined]="true" (click)="waysOut.set(true)" title="Files of many formats, and addresses for other programs">Ways out</button>
          <sieve-ways-out [(open)]="waysOut" [dataset]="state.pipeline()?.viewName ?? ''" [misfits]="answer()!.misfits" [selected]="address()" [rows]="count() ?? 0" />
        }
      </div>
      <sieve-failed-line [of]="notHad" />
      @if (answer(); as answer) {
        @for (text of fromAddress().unread; track text) {
          <p class="said error" role="alert">The address asks for “{{ text }}”, which the dataset cannot answer: rows are shown as if it did not.</p>
        }
        <sieve-selection-bar [selection]="selection()" (selectionChange)="select($event)" [(column)]="writing" [columns]="answer.columns" [rows]="count()" [all]="answer.rows" />
      }
      @if (source(); as source) {
        <sieve-slip [file]="traced() ? fileOf(traced()!.report) : ''" [content]="pageContent()" [places]="traced()?.places ?? []" [otherwise]="trace.failure() ? trace.failure()!.message : trace.waiting() ? 'Looking for the print' : traced() ? 'Not from the paper: it comes from a file name or a step, or is blank there.' : 'Choose a cell, and its line stands here as it is printed.'" />
        @if (traced(); as traced) {
          <p class="said" role="status">
            <span [title]="'Made by ' + traced.build"><b>{{ traced.file }}</b>@if (traced.places[0]; as place) {, page {{ place.page }}: “{{ wordsOf(traced) }}”}</span>
            @if (traced.error; as error) {
              <span class="error">expected {{ error.expected }}. It starts at “{{ error.title }}”.</span>
            }
            <a [routerLink]="['../bench']" [queryParams]="{ report: traced.report, page: traced.places[0]?.page, step: traced.error?.step }">{{ traced.error ? 'to that step' : 'to the bench' }}</a>
            <sieve-evidence-button [rows]="shown()!" [headings]="headings()" [cell]="cell()" [range]="range()" />
          </p>
        }
        <sieve-grid [source]="source" label="Published rows" [keptAs]="'dataset ' + state.id()" (selected)="range.set($event)" margin="report" [chosen]="cell()" (choose)="chooseCell($event)" [menuOf]="menuOf" />
      } @else if (selected.failure(); as failure) {
        <sieve-notice kind="failed" [retry]="selected.again">{{ failure.message }}</sieve-notice>
      } @else if (asked.failure(); as failure) {
        <sieve-notice [kind]="notYet() ? 'empty' : 'failed'" [retry]="notYet() ? undefined : asked.again">{{ failure.message }}</sieve-notice>
      } @else {
        <sieve-notice kind="loading">Fetching the published rows</sieve-notice>
      }
    </section>
    </ng-template>
    <ng-template #panel>
    @if (side(); as side) {
      <section class="pane side" aria-label="Trace and problems">
        <div class="pane-head">
          <h2>{{ side === 'paper' ? 'The paper' : side === 'held' ? 'Held' : side === 'totals' ? 'Printed totals' : side === 'checks' ? 'Checks' : side === 'column' ? card()! : 'Problems' }}</h2>
          <span class="grow"></span>
          <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="wanted.set('none')" aria-label="Close"><i class="pi pi-times" aria-hidden="true"></i></button>
        </div>
        @if (side === 'paper') {
          @if (traced()?.places?.[0]; as place) {
            <sieve-paper [file]="fileOf(traced()!.report)" [name]="traced()!.file" [page]="place.page" [zoom]="1.6" [frames]="frames()" />
          } @else {
            <sieve-notice kind="empty">Choose a cell, and the page it is printed on stands here.</sieve-notice>
          }
        } @else if (side === 'column') {
          <sieve-column-card [column]="card()!" [publication]="answer()!.publication" (only)="showOnly(card()!, $event)" />
        } @else if (side === 'held') {
          @if (madeOf(); as madeOf) {
            <sieve-published-held [of]="madeOf" />
          }
        } @else if (side === 'checks') {
          @if (madeOf(); as madeOf) {
            <sieve-published-checks [of]="madeOf" [columns]="answer()!.columns" (look)="lookAt($event)" />
          } @else if (waiting()) {
            <sieve-notice kind="loading">Fetching the checks</sieve-notice>
          }
        } @else if (side === 'totals' && totals()) {
          <sieve-published-totals [told]="totals()!" />
        } @else if (side === 'totals') {
          <sieve-notice kind="loading">Fetching the printed totals</sieve-notice>
        } @else {
          <sieve-published-problems [reports]="problems()" [waiting]="waiting()" [incomplete]="incomplete()" />
        }
      </section>
    }
    </ng-template>
    </p-splitter>
  `,
  styleUrl: './dataset-page.css',
})
export class DatasetPage {
  protected readonly state = inject(PipelineState);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly counted = plural;
  protected readonly day = dayOf;
  private readonly clipboard = inject(Clipboard);
  protected readonly cell = signal<GridCellPlace | undefined>(undefined);
  /** The cells that are selected. */
  protected readonly range = signal<CellRange | undefined>(undefined);

  protected readonly asked = asked(
    () => ({ pipeline: this.state.id(), publication: this.state.pipeline()?.lastRuns.find((run) => run.state === 'published')?.id }),
    ({ pipeline }) => this.api.dataset(pipeline, 0, 1),
    { keeps: true },
  );
  protected readonly answer = this.asked.value;
  protected readonly notYet = computed(() => {
    const failure = this.asked.failure();
    return failure instanceof ApiFailure && failure.kind === 'not found';
  });
  private readonly known = linkedSignal<boolean, boolean>({ source: () => this.answer() !== undefined, computation: (now, before) => now || (before?.value ?? false) });
  /** Which rows are shown, and in which order: as the address asks at first; another publication changes nothing about it. */
  protected readonly selection = linkedSignal({ source: () => JSON.stringify([this.where(), this.order(), this.known()]), computation: (): Selection => untracked(this.fromAddress).selection });
  protected readonly fromAddress = computed(() => (this.answer() ? fromAddress(this.where(), this.order(), this.headings()) : { selection: everything, unread: [] }));
  /** Conditions and order that the address asks for. */
  readonly where = input<string | string[]>([]);
  readonly order = input('');
  /** The column of which a condition is being written. */
  protected readonly writing = signal<string | undefined>(undefined);
  protected readonly address = computed(() => inAddress(this.selection()));
  protected readonly selected = asked(
    () => (this.answer() && !isEverything(this.selection()) ? { pipeline: this.state.id(), publication: this.answer()!.publication, asked: askedFor(this.selection()) } : undefined),
    ({ pipeline, asked: wanted }) => this.api.selectedRows(pipeline, wanted, 0, 1),
  );
  protected readonly count = computed(() => (isEverything(this.selection()) ? this.answer()?.rows : this.selected.value()?.rows));
  protected readonly shown = computed((): ShownRows | undefined => {
    const [answer, rows] = [this.answer(), this.count()];
    if (!answer || rows === undefined) return undefined;
    const names = new Map(this.state.reports().map((report) => [report.id, report.path.replace(/\.pdf$/i, '')]));
    return new ShownRows(this.api, this.state.id(), answer, this.selection(), rows, (report) => names.get(report) ?? String(report));
  });
  protected readonly source = computed(() => this.shown()?.source);
  /** The column whose card stands beside the rows. */
  protected readonly card = signal<string | undefined>(undefined);
  /** What can be done with a column: the rows in its order, only some of them, what it holds. */
  protected readonly menuOf = ([at]: readonly number[]): MenuItem[] => {
    const heading = this.answer()?.columns[at]?.heading;
    if (heading === undefined) return [];
    const { where, order } = this.selection();
    const inOrder = (down: boolean) => this.select({ where, order: [...order.filter(({ column }) => column !== heading), { column: heading, down }] });
    const rows: MenuItem[] = [
      { label: 'Least first', icon: 'pi pi-sort-amount-up-alt', command: () => inOrder(false) },
      { label: 'Most first', icon: 'pi pi-sort-amount-down', command: () => inOrder(true) },
      { label: 'Only some rows ...', icon: 'pi pi-filter', command: () => this.writing.set(heading) },
    ];
    return [{ label: 'Rows', items: rows }, { label: 'Column', items: [{ label: 'What it holds', icon: 'pi pi-chart-bar', command: () => (this.card.set(heading), this.wanted.set('column')) }] }];
  };
  protected readonly waysOut = signal(false);

  protected readonly trace = asked(
    () => {
      const cell = this.cell();
      const heading = cell && this.answer()?.columns[cell.column]?.heading;
      const row = cell && this.shown()?.rowOf(cell.row);
      return row !== undefined && heading !== undefined ? { pipeline: this.state.id(), publication: this.answer()!.publication, row, heading } : undefined;
    },
    ({ pipeline, row, heading }) => this.api.datasetTrace(pipeline, row, heading),
  );
  protected readonly traced = this.trace.value;
  protected readonly frames = computed((): PaperFrame[] => (this.traced()?.places ?? []).flatMap((place) => place.words.map((word): PaperFrame => ({ box: word.box, kind: 'word' }))));

  protected readonly made = asked(
    () => this.answer() && { pipeline: this.state.id(), publication: this.answer()!.publication },
    ({ pipeline }) => this.api.datasetMadeOf(pipeline),
    { keeps: true },
  );
  protected readonly madeOf = this.made.value;
  /** What could not be had: then nothing may look as if all were well. */
  protected readonly notHad = [this.state.lastRun, this.made];
  protected readonly incomplete = computed(() => this.notHad.some((each) => each.failure()));
  protected readonly waiting = computed(() => this.state.lastRun.waiting() || this.made.waiting());
  /** What needs a look: of the published rows as they were published, and of reports whose rows could not be had since. */
  protected readonly problems = computed(() => toldProblems(this.madeOf(), this.state.lastRun.value()?.reports ?? [], (problem, how) => this.state.sentenceOf(problem, how)));

  protected readonly totals = computed(() => {
    const madeOf = this.madeOf();
    return madeOf && toldTies(madeOf, this.state.document()?.accepted ?? []);
  });
  /** What stands beside the rows: what was asked for; unasked the problems, where there are some. */
  readonly beside = input<'totals' | 'checks' | undefined>(undefined);
  protected readonly headings = computed(() => this.answer()?.columns.map(({ heading }) => heading) ?? []);
  protected readonly wanted = signal<'paper' | 'problems' | 'totals' | 'checks' | 'held' | 'column' | 'none' | undefined>(undefined);
  protected readonly side = computed(() => {
    const wanted = this.wanted() ?? this.beside() ?? (this.problems().length > 0 ? 'problems' : 'none');
    return wanted === 'none' ? undefined : wanted;
  });
  protected readonly sides = computed(() => [
    { value: 'problems', says: this.incomplete() || this.waiting() ? 'Problems' : this.problems().length > 0 ? plural(this.problems().reduce((sum, { sentences }) => sum + sentences.length, 0), 'problem') : 'No problems' },
    { value: 'totals', says: this.totals()?.off ? `${plural(this.totals()!.off, 'total')} off` : 'Totals' },
    { value: 'checks', says: 'Checks' },
    { value: 'held', says: 'Held' },
    { value: 'paper', says: 'Paper' },
  ]);
  /** The page that the chosen cell is printed on, for its line. */
  protected readonly pageContent = asked(
    () => {
      const place = this.traced()?.places[0];
      return place && { report: this.traced()!.report, page: place.page };
    },
    ({ report, page }) => this.api.page(this.state.id(), report, page),
  ).value;

  /** The heading of the chosen column: after a refresh it may stand at another place. */
  private chosenHeading: string | undefined;

  constructor() {
    const publication = computed(() => this.answer()?.publication);
    effect(() => {
      publication();
      untracked(() => {
        const place = this.cell();
        const column = this.answer()?.columns.findIndex(({ heading }) => heading === this.chosenHeading) ?? -1;
        if (!place) return;
        if (column >= 0 && place.row < (this.count() ?? 0)) this.chooseCell({ row: place.row, column });
        else this.cell.set(undefined);
      });
    });
  }

  protected fileOf = (report: number) => this.api.fileAddress(this.state.id(), report);
  protected wordsOf = ({ places }: Traced) => places.flatMap((place) => place.words.map((word) => word.text)).join(' ');

  protected chooseCell(place: GridCellPlace) {
    this.chosenHeading = this.answer()?.columns[place.column]?.heading;
    this.cell.set(place);
  }

  /** Shows other rows, which the address then asks for: what was chosen may not be among them. */
  protected select(selection: Selection) {
    this.selection.set(selection);
    const { where, order } = askedFor(selection);
    void this.router.navigate([], { queryParams: { where, order: order || null }, queryParamsHandling: 'merge', replaceUrl: true });
    this.cell.set(undefined);
  }

  protected showOnly(column: string, value: string) {
    const { where, order } = this.selection();
    this.select({ where: [...where, { column, test: 'is', values: [value] }], order });
  }

  /** Chooses a cell of the whole dataset; without a heading the first of its row. */
  protected lookAt({ row, column }: { row: number; column: string | undefined }) {
    this.select(everything);
    this.chooseCell({ row, column: Math.max(0, this.headings().indexOf(column ?? '')) });
  }

  /** All rows shown, with their headings. */
  protected copyRows() {
    this.api.datasetText(this.state.id(), this.address()).subscribe({
      next: (text) => this.clipboard.put(text, `${plural(this.count() ?? 0, 'row')} copied.`),
      error: (error: Error) => this.clipboard.tell('error', error.message),
    });
  }
}
