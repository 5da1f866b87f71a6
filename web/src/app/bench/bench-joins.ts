import { computed, inject, Injectable } from '@angular/core';
import { mergedNames, partialColumns } from '../../../../core/pipeline/append';
import { builtIn } from '../../../../core/pipeline/layers';
import type { Zone } from '../../../../core/steps/step';
import { PipelineState } from '../pipeline/pipeline-state';
import { plural } from '../shared/words';
import { BenchLook } from './bench-look';
import type { LackedColumn } from './join-panel';

/** What is appended between two zones. */
export interface Join {
  readonly id: string;
  readonly text: string;
  readonly parts: string;
  readonly problems: number;
  readonly lacked: readonly LackedColumn[];
  readonly names: readonly string[];
}

/** The appends between the zones: what they join, and which columns some of the parts lack. */
@Injectable()
export class BenchJoins {
  private readonly state = inject(PipelineState);
  private readonly at = inject(BenchLook);

  private readonly contributing = computed(() => this.state.counting().flatMap((report) => {
    const summary = this.state.summaryOf(report.id);
    return summary && summary.matches.length > 0 ? [{ path: report.path, columns: summary.columns }] : [];
  }));
  /** The appends between the zones. */
  readonly between = computed((): Partial<Record<Zone, Join>> => {
    const problems = (id: string) => this.at.layers().find((layer) => layer.id === id)?.problems ?? 0;
    const reports = this.contributing();
    const lists = reports.map(({ columns }) => columns);
    return {
      eachTable: {
        id: builtIn.joined,
        text: this.tables(),
        parts: 'tables',
        problems: problems(builtIn.joined),
        lacked: (this.at.fall()?.partial ?? []).map(({ name, lackedBy }) => ({ name, lackedBy: lackedBy.map(({ page }) => `the table on page ${page}`) })),
        names: this.at.stepShown() === builtIn.joined ? (this.at.sheet()?.columns ?? []).map((column) => column.name) : [],
      },
      eachReport: {
        id: builtIn.appended,
        text: `${plural(reports.length, 'report')} → 1 dataset`,
        parts: 'reports',
        problems: problems(builtIn.appended),
        lacked: partialColumns(lists).map(({ name, lacks }) => ({ name, lackedBy: lacks.map((i) => reports[i].path) })),
        names: mergedNames(lists),
      },
    };
  });
  private readonly tables = computed(() => {
    const guide = this.state.guide();
    const matches = (guide && this.state.summaryOf(guide.id)?.matches) ?? [];
    return `${plural(matches.length, 'found table')}, ${plural(matches.reduce((sum, match) => sum + match.pages.length, 0), 'page')}`;
  });
  /** The append that is looked at. */
  readonly shown = computed(() => Object.values(this.between()).find((join) => join.id === this.at.stepShown()));
}
