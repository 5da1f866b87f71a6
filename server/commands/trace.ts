import { join, resolve } from 'node:path';
import { cacheIn, openHouse } from '../open';
import { publishedWindow } from '../store/dataset';
import { pipelineByName } from '../store/pipelines';
import { reportsOf } from '../store/reports';
import { pipelineFile } from './pipeline-file';

export async function trace(pipeline: string, row: number, column: string, options: { data: string; json?: boolean }): Promise<void> {
  const name = /\.json$/.test(pipeline) ? (await pipelineFile(pipeline)).name : pipeline;
  const data = resolve(options.data);
  const house = await openHouse(data, cacheIn(data), { threads: 1 });
  try {
    const stored = await pipelineByName(house.store, name);
    const published = stored && (await publishedWindow(house.store, stored.id, Math.max(0, row - 1), 1));
    if (!stored || !published) throw new Error(`“${name}” has no published dataset in ${options.data}. Run: able-sieve run ... --data ${options.data}`);
    const { publication, rows } = published;
    const heading = publication.columns.find((each) => each.heading.toLowerCase() === column.toLowerCase())?.heading;
    if (!heading) throw new Error(`The dataset has no column “${column}”. It has: ${publication.columns.map((each) => each.heading).join(', ')}.`);
    const found = row > 0 ? rows[0] : undefined;
    if (!found) throw new Error(`The dataset has rows 1 to ${publication.rows}; there is no row ${row}.`);
    const report = (await reportsOf(house.store, stored.id)).find((each) => each.id === found.report)!;
    const source = { file: join(stored.folder, report.path), sha256: report.sha256, cacheFolder: house.cacheFolder, key: String(report.id), path: report.path };
    const traced = await house.pool.run('trace', { document: JSON.stringify(stored.document), source, ordinal: found.reportOrdinal, column: heading });
    if ('unreadable' in traced) throw new Error(traced.unreadable);
    const cell = found.cells[publication.columns.findIndex((each) => each.heading === heading)];
    const value = typeof cell === 'object' && cell !== null ? cell.text : cell;
    if (options.json) {
      process.stdout.write(`${JSON.stringify({ file: report.path, row, column: heading, value, places: traced.places })}\n`);
      return;
    }
    process.stdout.write(`Row ${row}, ${heading}: ${value === null ? '(blank)' : String(value)}\n${report.path}\n`);
    for (const place of traced.places)
      process.stdout.write(`  page ${place.page}: ${place.words.map((word) => `“${word.text}” at [${word.box.map((n) => n.toFixed(1)).join(', ')}]`).join(', ')}\n`);
    if (traced.places.length === 0) process.stdout.write('  not from the paper: the value comes from the file name, or the cell is blank there.\n');
  } finally {
    await house.close();
  }
}
