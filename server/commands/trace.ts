import { join, resolve } from 'node:path';
import { sentence } from '../../core/sheet/problem';
import { cacheIn } from '../setup/config';
import { openHouse } from '../house/open';
import { asPublished, publishedRow } from '../runs/as-published';
import { publicationOf } from '../store/dataset';
import { pipelineByName } from '../store/pipelines';
import { pipelineFile } from './pipeline-file';

export async function trace(
  pipeline: string,
  row: number,
  column: string,
  options: { data: string; json?: boolean },
): Promise<void> {
  const name = /\.json$/.test(pipeline) ? (await pipelineFile(pipeline)).name : pipeline;
  const data = resolve(options.data);
  const house = await openHouse(data, cacheIn(data), { threads: 1 });
  try {
    const { store, cacheFolder, pool } = house;
    const stored = await pipelineByName(store, name);
    const publication = stored && (await publicationOf(store, stored.id));
    if (!stored || !publication)
      throw new Error(
        `“${name}” has no published dataset in ${options.data}. Run: able-sieve run ... --data ${options.data}`,
      );
    const heading = publication.columns.find((each) => each.heading.toLowerCase() === column.toLowerCase())?.heading;
    if (!heading)
      throw new Error(
        `The dataset has no column “${column}”. It has: ${publication.columns.map((each) => each.heading).join(', ')}.`,
      );
    const found = row > 0 ? await publishedRow(store, stored.id, row - 1) : undefined;
    if (!found) throw new Error(`The dataset has rows 1 to ${publication.rows}; there is no row ${row}.`);
    const published = await asPublished(
      { store, cacheFolder, fileOf: async (path) => join(stored.folder, path) },
      stored,
      found.row.report,
    );
    const { version, steps: _, ...look } = published!;
    const traced = await pool.look('trace', { ...look, of: 'sheet', row: found.named, column: heading });
    if ('unreadable' in traced) throw new Error(sentence(traced.unreadable));
    const { path } = look.source;
    const cell = found.row.cells[publication.columns.findIndex((each) => each.heading === heading)];
    const value = typeof cell === 'object' && cell !== null ? cell.text : cell;
    if (options.json) {
      process.stdout.write(
        `${JSON.stringify({ file: path, row, column: heading, value, version, places: traced.places })}\n`,
      );
      return;
    }
    process.stdout.write(`Row ${row}, ${heading}: ${value === null ? '(blank)' : String(value)}\n${path}\n`);
    for (const place of traced.places)
      process.stdout.write(
        `  page ${place.page}: ${place.words.map((word) => `“${word.text}” at [${word.box.map((n) => n.toFixed(1)).join(', ')}]`).join(', ')}\n`,
      );
    if (traced.places.length === 0)
      process.stdout.write('  not from the paper: the value comes from the file name, or the cell is blank there.\n');
  } finally {
    await house.close();
  }
}
