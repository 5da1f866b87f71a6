import { Component, computed, inject, input, linkedSignal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { MultiSelect } from 'primeng/multiselect';
import { charts, conditionsOf, linesInSight, periodsBy, shownAs, shows, summaryLines, summaryTable, ways, type SummaryLine, type SavedView, type SummaryAsked, type SummaryKey } from '../../../../core/dataset/summary';
import { isNumeric } from '../../../../core/sheet/column';
import { fractionDigits } from '../../../../core/values/exact';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Chart } from '../shared/chart';
import { Clipboard } from '../shared/clipboard';
import { FailedLine } from '../shared/failed-line';
import { Notice } from '../shared/notice';
import { Pick } from '../shared/pick';
import { saved } from '../shared/saved';
import { plural } from '../shared/words';
import { labelOf, leavesOut, summaryChart } from './summary-chart';

const keyText = ({ column, by }: SummaryKey): string => (by ? `${column} by ${by}` : column);
const count = 'rows counted';
const mostDigits = 4;

/** The dataset summed up: columns down and across, a figure where they meet, and a chart of it; every figure opens its rows. */
@Component({
  selector: 'sieve-summary-page',
  imports: [ButtonDirective, Chart, FailedLine, FormsModule, InputText, MultiSelect, Notice, Pick, RouterLink],
  templateUrl: './summary-page.html',
  styleUrl: './summary-page.css',
})
export class SummaryPage {
  private readonly api = inject(Api);
  protected readonly state = inject(PipelineState);
  private readonly clipboard = inject(Clipboard);
  private readonly router = inject(Router);
  protected readonly counted = plural;
  protected readonly labelOf = labelOf;
  protected readonly shows = [...shows];
  protected readonly charts = [...charts];
  /** The summary that is asked for by its name. */
  readonly view = input<string | undefined>(undefined);

  protected readonly dataset = asked(
    () => ({ pipeline: this.state.id(), publication: this.state.pipeline()?.lastRuns.find((run) => run.state === 'published')?.id }),
    ({ pipeline }) => this.api.dataset(pipeline, 0, 1),
    { keeps: true },
  );
  protected readonly columns = computed(() => this.dataset.value()?.columns ?? []);
  private readonly numbers = computed(() => this.columns().filter(({ type }) => isNumeric(type)).map(({ heading }) => heading));
  /** What may stand down or across: columns, dates also by month, quarter and year. */
  private readonly keys = computed((): SummaryKey[] => this.columns().flatMap(({ heading, type }) => [{ column: heading }, ...(type === 'date' || type === 'datetime' ? periodsBy.map((by) => ({ column: heading, by })) : [])]));
  protected readonly keyTexts = computed(() => this.keys().map(keyText));
  protected readonly values = computed(() => [count, ...this.numbers()]);

  protected readonly views = computed(() => this.state.document()?.views ?? []);
  private readonly saved = computed((): SavedView | undefined => this.views().find(({ name }) => name === this.view()));
  /** What is shown until something else is chosen: the saved summary, or the first text column with the last number summed up. */
  private readonly begun = computed((): Omit<SavedView, 'name'> => {
    const saved = this.saved();
    if (saved) return saved;
    const text = this.columns().find(({ type }) => type === 'text')?.heading;
    const value = this.numbers().at(-1);
    return { asked: { rows: text === undefined ? [] : [{ column: text }], columns: [], how: value === undefined ? 'count' : 'sum', where: [], ...(value === undefined ? {} : { value }) }, show: 'values', chart: 'bar' };
  });
  protected readonly down = linkedSignal(() => this.begun().asked.rows.map(keyText));
  protected readonly across = linkedSignal(() => this.begun().asked.columns.map(keyText));
  protected readonly value = linkedSignal(() => this.begun().asked.value ?? count);
  protected readonly how = linkedSignal(() => this.begun().asked.how);
  protected readonly show = linkedSignal(() => this.begun().show);
  protected readonly chart = linkedSignal(() => this.begun().chart);
  protected readonly where = linkedSignal(() => this.begun().asked.where);
  protected readonly name = linkedSignal(() => this.saved()?.name ?? '');
  protected readonly ways = computed(() => (this.value() === count ? ['count'] : ways.filter((each) => each !== 'count')));

  private readonly keysOf = (texts: readonly string[]) => texts.flatMap((text) => this.keys().find((key) => keyText(key) === text) ?? []);
  protected readonly wanted = computed((): SummaryAsked => {
    const counts = this.value() === count;
    return { rows: this.keysOf(this.down()), columns: this.keysOf(this.across()), how: counts ? 'count' : this.how() === 'count' ? 'sum' : this.how(), where: this.where(), ...(counts ? {} : { value: this.value() }) };
  });
  protected readonly groups = asked(
    () => (this.wanted().rows.length > 0 && this.dataset.value() ? { pipeline: this.state.id(), publication: this.dataset.value()!.publication, wanted: this.wanted() } : undefined),
    ({ pipeline, wanted }) => this.api.summary(pipeline, wanted),
    { keeps: true },
  );
  protected readonly table = computed(() => {
    const groups = this.groups.value();
    return groups && summaryTable(groups, this.wanted().rows.length, this.wanted().how);
  });
  protected readonly figures = computed(() => (this.table() ? shownAs(this.table()!, this.show()) : []));
  private readonly lines = computed(() => {
    const { rows, how } = this.wanted();
    return this.groups.value() && this.groups.value()!.every(({ keys }) => keys.length >= rows.length) ? summaryLines(this.groups.value()!, rows.length, how, this.show()) : [];
  });
  /** How many levels are open, and the lines that were folded or unfolded since, by their keys. */
  protected readonly levels = linkedSignal<unknown, number>({ source: () => [this.begun(), this.down().length], computation: () => Math.min(this.begun().levels ?? this.down().length, Math.max(1, this.down().length)) });
  private readonly turned = linkedSignal<unknown, ReadonlySet<string>>({ source: () => [this.levels(), this.wanted()], computation: () => new Set<string>() });
  protected readonly levelChoices = computed(() => this.down().map((heading, n) => ({ value: String(n + 1), says: n + 1 === this.down().length ? `all, down to ${heading}` : `down to ${heading}` })));
  protected isOpen = (keys: readonly (string | null)[]): boolean => keys.length < this.levels() !== this.turned().has(JSON.stringify(keys));
  protected readonly inSight = computed(() => linesInSight(this.lines(), this.isOpen));
  protected readonly isWhole = ({ keys }: SummaryLine) => keys.length === this.wanted().rows.length;

  /** Folds what stands under a line, or unfolds it. */
  protected turn({ keys }: SummaryLine) {
    const id = JSON.stringify(keys);
    this.turned.update((turned) => (turned.has(id) ? new Set([...turned].filter((each) => each !== id)) : new Set([...turned, id])));
  }

  protected readonly option = computed(() => this.table() && summaryChart(this.chart(), this.table()!, this.figures(), this.value()));
  protected readonly left = computed(() => (this.table() ? leavesOut(this.chart(), this.table()!) : 0));
  private readonly drawn = viewChild(Chart);

  protected without = (condition: string) => this.where().filter((each) => each !== condition);

  /** Digits behind the point of all figures: as many as any of them has, a few at most. */
  private readonly digits = computed(() => {
    const { figures = [], ofRows = [], ofColumns = [] } = this.table() ?? {};
    return Math.min(mostDigits, [...figures.flat(), ...ofRows, ...ofColumns].reduce<number>((most, n) => (n === undefined ? most : Math.max(most, fractionDigits(n))), 0));
  });

  /** A figure as it is shown; those of rows and columns together are never shares. */
  protected figure(n: number | undefined, whole = false): string {
    if (n === undefined) return '';
    const share = !whole && (this.show() === 'share of all' || this.show() === 'share of its row');
    return share ? `${n.toFixed(1)} %` : n.toLocaleString('en', { minimumFractionDigits: this.digits(), maximumFractionDigits: this.digits() });
  }

  /** Opens the rows behind a figure: those of its keys down and across, which lead to the paper. */
  protected open(down: readonly (string | null)[] = [], across: readonly (string | null)[] = []) {
    const { rows, columns, where } = this.wanted();
    const conditions = [...rows.flatMap((key, i) => (i < down.length ? conditionsOf(key, down[i]) : [])), ...columns.flatMap((key, i) => (i < across.length ? conditionsOf(key, across[i]) : []))];
    void this.router.navigate(['/pipelines', this.state.id(), 'dataset'], { queryParams: { where: [...where, ...conditions] } });
  }

  /** Keeps the summary with the pipeline, under its name and an address of its own. */
  protected keep() {
    const document = this.state.document();
    const name = this.name().trim();
    if (!document || name === '') return;
    const view: SavedView = { name, asked: this.wanted(), show: this.show(), chart: this.chart(), ...(this.levels() < this.down().length ? { levels: this.levels() } : {}) };
    this.state.change({ ...document, views: [...this.views().filter((each) => each.name !== name), view] });
    void this.router.navigate([], { queryParams: { view: name }, replaceUrl: true });
  }

  protected forget(name: string) {
    const document = this.state.document();
    if (document) this.state.change({ ...document, views: this.views().filter((each) => each.name !== name) });
  }

  private title = () => this.name().trim() || 'Summary';

  protected saveCsv() {
    const table = this.table()!;
    const cell = (text: string) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
    const heading = [...this.down(), ...table.across.map(labelOf), ...(table.across.length > 1 ? ['All'] : [])];
    const lines = table.down.map((keys, r) => [...keys.map((key) => key ?? ''), ...this.figures()[r].map((figure) => (figure === undefined ? '' : String(figure))), ...(table.across.length > 1 ? [String(table.ofRows[r] ?? '')] : [])]);
    saved(`${this.title()}.csv`, 'text/csv', [heading, ...lines].map((line) => line.map(cell).join(',')).join('\n') + '\n');
  }

  protected saveXlsx() {
    this.api.summaryWorkbook(this.state.id(), { ...this.wanted(), show: this.show() }).subscribe({
      next: (book) => saved(`${this.title()}.xlsx`, book.type, book),
      error: (error: Error) => this.clipboard.tell('error', error.message),
    });
  }

  protected saveSvg() {
    saved(`${this.title()}.svg`, 'image/svg+xml', this.drawn()!.svg());
  }

  protected savePng() {
    const picture = new Image();
    picture.onload = () => {
      const canvas = document.createElement('canvas');
      canvas.width = picture.width * 2;
      canvas.height = picture.height * 2;
      const pen = canvas.getContext('2d')!;
      pen.fillStyle = '#fff';
      pen.fillRect(0, 0, canvas.width, canvas.height);
      pen.drawImage(picture, 0, 0, canvas.width, canvas.height);
      canvas.toBlob((blob) => blob && saved(`${this.title()}.png`, 'image/png', blob));
    };
    picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(this.drawn()!.svg())}`;
  }
}
