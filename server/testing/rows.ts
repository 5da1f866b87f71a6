import type { ValueType } from '../../core/sheet/column';
import { loadPart, publish, reservePart, type LoadedRows, type Watch } from '../store/publish';
import { startRun } from '../store/runs';
import { batchRows, type Store } from '../store/store';
import { thisBuild } from '../setup/build';

const columnsOf = (extra: number): { heading: string; type: ValueType }[] => [
  { heading: 'Code', type: 'text' },
  { heading: 'Value', type: 'decimal' },
  ...Array.from({ length: extra }, (_, i) => ({ heading: `Extra ${i + 1}`, type: 'integer' as const })),
];

/** Made-up rows of one report; the value of row n is n and a half, its extra columns hold n plus their number. */
export function madeRows(part: number, report: number, rows: number, size = batchRows, extra = 0): LoadedRows {
  const columns = columnsOf(extra);
  const more = (row: number) => Array.from({ length: extra }, (_, i) => `,${row + i + 1}`).join('');
  function* batches() {
    for (let start = 0; start < rows; start += size) {
      let csv = '';
      for (let row = start; row < Math.min(rows, start + size); row++)
        csv += `${part},${row},${report},p1t1,${row},1,"V${report}-${row}",${row}.5${more(row)}\n`;
      yield csv;
    }
  }
  return { rows, held: 0, columns, batches: batches(), misfits: [], totals: [] };
}

/** Loads one report of made-up rows and publishes it as the whole dataset. */
export async function publishMade(
  store: Store,
  pipeline: number,
  rows: number,
  options: { report?: number; size?: number; extra?: number; watch?: Watch } = {},
) {
  const run = await startRun(store, pipeline, 1);
  const part = await reservePart(store, pipeline, options.report ?? 1, `key ${rows}`, {
    version: 1,
    build: thisBuild,
    inputs: [],
  });
  await loadPart(
    store,
    pipeline,
    part,
    madeRows(part, options.report ?? 1, rows, options.size, options.extra),
    {},
    options.watch,
  );
  return publish(
    store,
    pipeline,
    run,
    1,
    [{ part, stale: false }],
    columnsOf(options.extra ?? 0),
    options.watch ?? (() => undefined),
  );
}
