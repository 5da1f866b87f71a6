import { Component, computed, effect, ElementRef, inject, output, signal, viewChild } from '@angular/core';
import type { StoredReport, TakeMatch } from '../../../../server/contract/contract';
import { PipelineState } from '../pipeline/pipeline-state';
import { StripWindow } from '../shared/strip-window';
import { Tick } from '../shared/tick';
import { shortPeriod } from '../shared/words';

/** For every report which table each rule took, how sure, and where it found none or two. */
@Component({
  selector: 'sieve-match-strip',
  imports: [Tick],
  template: `<section aria-labelledby="strip">
    <h2 id="strip">Match strip <span class="small">what each rule takes from each report</span>
      @if (needing() > 0 && all().length > 20) {
        <label class="only"><sieve-tick [on]="only()" (ticked)="only.set($event)" label="Only what needs a look" /> only the {{ needing().toLocaleString('en') }} of {{ all().length.toLocaleString('en') }} that need a look</label>
      }
    </h2>
    @if (rows().length === 0) {
      <p class="small">Nothing is taken yet. Take a found table on the paper; its fellows in the other reports show here.</p>
    } @else {
      <div class="scroll" #frame [class.long]="!window.fits()" tabindex="0" role="region" aria-label="Match strip, scrollable" (scroll)="window.scrolled()">
        <table>
          <thead>
            <tr>
              <td></td>
              @if (window.before() > 0) {
                <td><span [style.width.px]="window.before()"></span></td>
              }
              @for (report of reports(); track report.id) {
                <th scope="col" [title]="report.report.path">{{ report.name }}</th>
              }
              @if (window.after() > 0) {
                <td><span [style.width.px]="window.after()"></span></td>
              }
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track row.rule) {
              <tr>
                <th scope="row" class="rule">{{ row.rule }}</th>
                @if (window.before() > 0) {
                  <td></td>
                }
                @for (cell of row.cells; track cell.report) {
                  <td [class]="cell.tone"><button (click)="choose.emit({ report: cell.report, page: cell.page })" [title]="cell.title">{{ cell.word }}@if (cell.sure !== undefined) {<small>sure {{ cell.sure }}</small>}</button></td>
                }
              </tr>
            }
          </tbody>
        </table>
      </div>
    }
  </section>`,
  styles: `
    section {
      border-top: 1px solid var(--line);
      background: var(--panel);
      padding: 8px 14px;
      max-height: 172px;
      display: flex;
      flex-direction: column;
    }
    h2 {
      font-size: 14px;
    }
    p {
      margin: 4px 0 6px;
    }
    table {
      border-collapse: separate;
      border-spacing: 3px;
      font-size: 12px;
    }
    .long th,
    .long td button {
      width: 66px;
      max-width: 66px;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    td span {
      display: block;
      height: 1px;
    }
    .only {
      display: inline-flex;
      gap: 6px;
      align-items: center;
      margin-left: 16px;
      font-size: 12px;
      font-weight: 400;
    }
    th {
      font-weight: 400;
      color: var(--muted);
      min-width: 66px;
      max-width: 110px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    tbody th.rule.rule {
      text-align: left;
      width: 190px;
      min-width: 190px;
      max-width: 190px;
      color: var(--ink);
      font-weight: 600;
      position: sticky;
      left: 0;
      background: var(--panel);
    }
    td {
      padding: 0;
      text-align: center;
    }
    button {
      width: 100%;
      min-height: 24px;
      border: 0;
      border-radius: 4px;
      padding: 2px 4px;
      cursor: pointer;
      background: var(--line-soft);
      color: var(--muted);
      white-space: nowrap;
    }
    button small {
      display: block;
      font-size: 12px;
      line-height: 13px;
    }
    .passes button {
      background: var(--verdigris-soft);
      color: var(--verdigris);
    }
    .needs button {
      background: var(--ochre-soft);
      color: var(--ochre);
    }
    .error button {
      background: var(--madder-soft);
      color: var(--madder);
    }
  `,
})
export class MatchStrip {
  private readonly state = inject(PipelineState);
  readonly choose = output<{ report: number; page?: number }>();

  private readonly frame = viewChild<ElementRef<HTMLElement>>('frame');
  protected readonly only = signal(false);
  protected readonly all = computed(() => this.state.counting());
  private readonly rules = computed(() => this.state.document()?.take ?? []);
  private readonly needy = computed(() => this.all().filter((report) => this.rules().some((rule) => this.cellOf(report, rule.name).tone !== 'passes')));
  protected readonly needing = computed(() => this.needy().length);
  private readonly listed = computed(() => (this.only() ? this.needy() : this.all()));
  protected readonly window = new StripWindow(() => this.listed().length, 69, 196);
  protected readonly reports = computed(() => this.listed().slice(this.window.range().first, this.window.range().last).map((report) => ({ id: report.id, name: report.period ? shortPeriod(report.period) : report.path, report })));
  protected readonly rows = computed(() => this.rules().map((rule) => ({ rule: rule.name, cells: this.reports().map(({ report }) => this.cellOf(report, rule.name)) })));

  constructor() {
    effect(() => this.frame() && this.window.watch(this.frame()!.nativeElement));
  }

  /** What a rule takes from a report, in a word. */
  private cellOf(report: StoredReport, rule: string) {
    const summary = this.state.summaryOf(report.id);
    const matches = summary?.matches.filter((match) => match.rule === rule) ?? [];
    const cell = (tone: string, word: string, title: string, page?: number, sure?: number) => ({ report: report.id, tone, word, title, page, sure });
    if (!summary || summary.scanned) {
      const { word, tone, detail } = this.state.standingOf(report);
      return cell(tone, word, `${report.path}: ${detail || word}`);
    }
    const unread = summary.pages.filter((page) => page.unread.length > 0).map((page) => page.number);
    if (matches.length === 0)
      return unread.length > 0
        ? cell('needs', 'a picture ?', `${report.path}: no table like “${rule}” was found, but a picture that may hold a table stands on page ${unread.join(', ')}`, unread[0])
        : cell('error', 'none', `${report.path}: nothing like “${rule}” was found`);
    const on = ({ pages }: TakeMatch) => `p. ${pages[0]}${pages.length > 1 ? `–${pages.at(-1)}` : ''}`;
    // Of several tables the one that is most in doubt speaks.
    const rivalled = matches.find(({ rival }) => rival);
    if (rivalled) return cell('needs', 'two ?', `${report.path}: two tables are as much alike (${rivalled.table} and ${rivalled.rival}); the first was taken`, rivalled.pages[0]);
    const lacking = matches.find(({ lacks }) => lacks.length > 0);
    if (lacking) return cell('needs', `${on(lacking)} !`, `${report.path}, ${on(lacking)}: without ${lacking.lacks.map((text) => `“${text}”`).join(', ')}`, lacking.pages[0], lacking.sure);
    const least = matches.reduce((a, b) => (b.sure < a.sure ? b : a));
    if (unread.length > 0) return cell('needs', `${on(least)} + picture`, `${report.path}: beside what was taken a picture that may hold a table stands on page ${unread.join(', ')}`, unread[0], least.sure);
    const doubt = least.sure < 0.75;
    return cell(doubt ? 'needs' : 'passes', `${matches.length > 1 ? `${matches.length} tables` : on(least)}${doubt ? ' ?' : ''}`, `${report.path}, ${on(least)}: likeness ${least.sure}`, (doubt ? least : matches[0]).pages[0], least.sure);
  }
}
