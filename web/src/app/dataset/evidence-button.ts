import { Component, computed, inject, input } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { firstValueFrom } from 'rxjs';
import type { CellRange } from '../../../../server/contract/contract';
import { Api } from '../api';
import { PipelineState } from '../pipeline/pipeline-state';
import type { GridCellPlace } from '../shared/sheet-grid';
import { EvidenceSlips, mostSlips } from './evidence-slips';
import type { ShownRows } from './shown-rows';

/** Saves the evidence of the chosen cell, or of all cells that are selected, as slips in one bundle. */
@Component({
  selector: 'sieve-evidence-button',
  imports: [ButtonDirective],
  template: `
    @if (cells(); as cells) {
      <button pButton type="button" [text]="true" size="small" severity="secondary" [disabled]="slips.making() !== undefined || cells > most" (click)="save()" [title]="cells > most ? 'At most ' + most + ' cells at a time' : 'With the print, the steps and the totals, to be checked later'">
        {{ slips.making() ?? (cells === 1 ? 'Evidence slip' : 'Evidence slips of ' + cells.toLocaleString('en') + ' cells') }}
      </button>
    }
  `,
})
export class EvidenceButton {
  private readonly api = inject(Api);
  private readonly state = inject(PipelineState);
  protected readonly slips = inject(EvidenceSlips);
  protected readonly most = mostSlips;
  readonly rows = input.required<ShownRows>();
  readonly headings = input.required<readonly string[]>();
  readonly cell = input<GridCellPlace | undefined>();
  readonly range = input<CellRange | undefined>();

  private readonly chosen = computed((): CellRange | undefined => {
    const [cell, range] = [this.cell(), this.range()];
    return range ?? (cell && { rows: [cell.row, cell.row], columns: [cell.column, cell.column] });
  });
  protected readonly cells = computed(() => {
    const chosen = this.chosen();
    return chosen && (chosen.rows[1] - chosen.rows[0] + 1) * (chosen.columns[1] - chosen.columns[0] + 1);
  });

  protected async save() {
    const { rows: [first, last], columns } = this.chosen()!;
    const headings = this.headings().slice(columns[0], columns[1] + 1);
    await this.slips.save(`Evidence ${headings.length === 1 ? headings[0] : `${headings.length} columns`} row ${first + 1}${last > first ? ` to ${last + 1}` : ''}`, async () => {
      const found = await firstValueFrom(this.rows().numbered(first, last - first + 1));
      return found.flatMap(({ row, report }) => headings.map((heading) => ({ asked: this.api.evidence(this.state.id(), row, heading), file: this.api.fileAddress(this.state.id(), report), name: `${heading} row ${row + 1}` })));
    });
  }
}
