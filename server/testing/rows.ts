import type { ValueType } from '../../core/sheet/sheet';
import { batchRows, loadPart, publish, reservePart, type LoadedPart, type Watch } from '../store/publish';
import { startRun } from '../store/runs';
import type { Store } from '../store/store';

const columns: { heading: string; type: ValueType }[] = [
  { heading: 'Code', type: 'text' },
  { heading: 'Value', type: 'decimal' },
];

/** Made-up rows of one report; the value of row n is n and a half. */
export function madeRows(part: number, report: number, rows: number, size = batchRows): LoadedPart {
  function* batches() {
    for (let start = 0; start < rows; start += size) {
      let csv = '';
      for (let row = start; row < Math.min(rows, start + size); row++) csv += `${part},${row},${report},${row},1,"V${report}-${row}",${row}.5\n`;
      yield csv;
    }
  }
  return { rows, held: 0, columns, batches: batches(), misfits: [], totals: [], details: {} };
}

/** Loads one report of made-up rows and publishes it as the whole dataset. */
export async function publishMade(store: Store, pipeline: number, rows: number, options: { report?: number; size?: number; watch?: Watch } = {}) {
  const run = await startRun(store, pipeline);
  const part = await reservePart(store, pipeline, options.report ?? 1, `key ${rows}`);
  await loadPart(store, pipeline, part, madeRows(part, options.report ?? 1, rows, options.size), options.watch);
  return publish(store, pipeline, run, [{ part, stale: false }], columns, options.watch ?? (() => undefined));
}
