import { Component, computed, inject, output } from '@angular/core';
import { PipelineState } from '../pipeline/pipeline-state';
import { shortPeriod } from '../shared/words';

/** For every report which table each rule took, how sure, and where it found none or two. */
@Component({
  selector: 'sieve-match-strip',
  template: `<section aria-labelledby="strip">
    <h2 id="strip">Match strip <span class="small">what each rule takes from each report</span></h2>
    @if (rows().length === 0) {
      <p class="small">Nothing is taken yet. Take a found table on the paper; its fellows in the other reports show here.</p>
    } @else {
      <div class="scroll" tabindex="0" role="region" aria-label="Match strip, scrollable">
        <table>
          <thead>
            <tr>
              <td></td>
              @for (report of reports(); track report.id) {
                <th scope="col">{{ report.name }}</th>
              }
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track row.rule) {
              <tr>
                <th scope="row">{{ row.rule }}</th>
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
    th {
      font-weight: 400;
      color: var(--muted);
      min-width: 56px;
      max-width: 110px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    tbody th {
      text-align: left;
      min-width: 150px;
      max-width: 220px;
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

  protected readonly reports = computed(() => this.state.counting().map((report) => ({ id: report.id, name: report.period ? shortPeriod(report.period) : report.path, report })));
  protected readonly rows = computed(() =>
    (this.state.document()?.take ?? []).map((rule) => ({
      rule: rule.name,
      cells: this.reports().map(({ id, report }) => {
        const summary = this.state.summaryOf(id);
        const matches = summary?.matches.filter((match) => match.rule === rule.name) ?? [];
        const cell = (tone: string, word: string, title: string, page?: number, sure?: number) => ({ report: id, tone, word, title, page, sure });
        if (!summary || summary.scanned) {
          const { word, tone, detail } = this.state.standingOf(report);
          return cell(tone, word, `${report.path}: ${detail || word}`);
        }
        const unread = summary.pages.filter((page) => page.unread.length > 0).map((page) => page.number);
        if (matches.length === 0)
          return unread.length > 0
            ? cell('needs', 'a picture ?', `${report.path}: no table like “${rule.name}” was found, but a picture that may hold a table stands on page ${unread.join(', ')}`, unread[0])
            : cell('error', 'none', `${report.path}: nothing like “${rule.name}” was found`);
        const [first] = matches;
        const pages = `p. ${first.pages[0]}${first.pages.length > 1 ? `–${first.pages.at(-1)}` : ''}`;
        if (first.rival) return cell('needs', 'two ?', `${report.path}: two tables are as much alike (${first.table} and ${first.rival}); the first was taken`, first.pages[0]);
        if (first.lacks.length > 0) return cell('needs', `${pages} !`, `${report.path}, ${pages}: without ${first.lacks.map((text) => `“${text}”`).join(', ')}`, first.pages[0], first.sure);
        if (unread.length > 0) return cell('needs', `${pages} + picture`, `${report.path}: beside what was taken a picture that may hold a table stands on page ${unread.join(', ')}`, unread[0], first.sure);
        const sure = `${report.path}, ${pages}: likeness ${first.sure}`;
        if (matches.length > 1) return cell('passes', `${matches.length} tables`, sure, first.pages[0], first.sure);
        return first.sure < 0.75 ? cell('needs', `${pages} ?`, sure, first.pages[0], first.sure) : cell('passes', pages, sure, first.pages[0], first.sure);
      }),
    })),
  );
}
