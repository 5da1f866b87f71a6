import { Component, computed, inject, input, signal } from '@angular/core';
import { map } from 'rxjs';
import { ButtonDirective } from 'primeng/button';
import type { LayerCounts, PublishedAnswer } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import { asked } from '../shared/asked';
import { Notice } from '../shared/notice';
import { SheetGrid, type GridSource } from '../shared/sheet-grid';
import { plural } from '../shared/words';

/** What the steps held of the published reports, as they were published. */
@Component({
  selector: 'sieve-published-held',
  imports: [SheetGrid, ButtonDirective, Notice],
  template: `
    @if (wanted(); as chosen) {
      <p class="head">
        <button pButton type="button" [text]="true" size="small" severity="secondary" (click)="wanted.set(undefined)"><i class="pi pi-arrow-left" aria-hidden="true"></i> All that was held</button>
        <b>{{ chosen.path }}</b>, “{{ chosen.layer.title }}”: {{ counted(chosen.layer.held, 'row') }}
      </p>
      @if (source(); as source) {
        <sieve-grid [source]="source" label="Held rows as published" [reasons]="true" />
      } @else if (failure(); as failure) {
        <sieve-notice kind="failed" [retry]="again">{{ failure.message }}</sieve-notice>
      } @else {
        <sieve-notice kind="loading">Fetching the held rows</sieve-notice>
      }
    } @else {
      <div class="scroll list" tabindex="0" role="region" aria-label="What was held">
        @for (report of reports(); track report.report) {
          <h3>{{ report.path }} <span class="small">{{ counted(report.held, 'row') }}</span></h3>
          <ul>
            @for (layer of report.layers; track layer.id) {
              <li><button pButton type="button" [text]="true" size="small" severity="secondary" (click)="wanted.set({ report: report.report, path: report.path, layer })">{{ layer.title }}: {{ counted(layer.held, 'row') }}</button></li>
            }
          </ul>
        } @empty {
          <p class="small">No step held a row of what is published.</p>
        }
      </div>
    }
  `,
  styles: `
    :host {
      flex: 1;
      min-height: 0;
      display: flex;
      flex-direction: column;
    }
    .head {
      margin: 0;
      padding: 6px 12px;
      border-bottom: 1px solid var(--line);
    }
    .list {
      padding: 4px 12px;
    }
    h3 {
      font-size: 14px;
      margin-top: 8px;
    }
    ul {
      margin: 2px 0 6px;
      padding: 0;
      list-style: none;
    }
    li {
      padding: 1px 0;
    }
  `,
})
export class PublishedHeld {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  readonly of = input.required<PublishedAnswer>();
  protected readonly counted = plural;
  protected readonly wanted = signal<{ report: number; path: string; layer: LayerCounts } | undefined>(undefined);
  private readonly held = asked(
    () => this.wanted() && { pipeline: this.state.id(), made: this.of().reports.map(({ report, version, sha256 }) => `${report} ${version} ${sha256}`), report: this.wanted()!.report, step: this.wanted()!.layer.id },
    ({ pipeline, report, step }) => this.api.publishedSheet(pipeline, report, { step, of: 'held', start: 0, count: 1 }),
  );
  protected readonly failure = this.held.failure;
  protected readonly again = this.held.again;
  protected readonly source = computed((): GridSource | undefined => {
    const held = this.held.value()?.held;
    if (!held) return undefined;
    const [pipeline, { report, layer }] = [this.state.id(), this.wanted()!];
    return {
      rows: held.rows,
      columns: held.columns,
      fetch: (start, count) =>
        this.api
          .publishedSheet(pipeline, report, { step: layer.id, of: 'held', start, count })
          .pipe(map(({ window }) => window.map((row, i) => ({ label: `${row.page} · ${start + i + 1}`, cells: row.cells, ...(row.reason ? { reason: row.reason } : {}) })))),
    };
  });

  /** Steps over all reports held rows of every report; they are listed with the first. */
  protected readonly reports = computed(() => {
    const { reports, whole } = this.of();
    return reports
      .map(({ layers, ...report }, i) => ({ ...report, layers: [...layers, ...(i === 0 ? (whole?.layers ?? []) : [])].filter(({ held }) => held > 0) }))
      .filter(({ layers }) => layers.length > 0);
  });
}
