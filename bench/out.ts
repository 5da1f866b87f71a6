// How fast a dataset of 1,000,000 rows and 12 columns leaves in each format, and how much memory that takes beside the database's own,
// as a share of what the writers of an analytic SQL engine take for the same rows on one thread. An argument: how many rows.
import { DuckDBInstance } from '@duckdb/node-api';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline as stream } from 'node:stream/promises';
import { formatFacts, formats, plainCsv, type Format } from '../core/dataset/file-options';
import { parsePipeline } from '../core/pipeline/document';
import { datasetFile } from '../server/export/dataset-file';
import { openHouse } from '../server/house/open';
import { publicationOf } from '../server/store/dataset';
import { addPipeline, pipelineById } from '../server/store/pipelines';
import { publishMade } from '../server/testing/rows';
import { sized } from './size';

const rows = sized(1_000_000, process.argv[2]);
const folder = await mkdtemp(join(tmpdir(), 'able-sieve-bench-'));
const house = await openHouse(folder, join(folder, 'cache'));
const { id } = await addPipeline(
  house.store,
  parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'Bench', take: [] }),
  folder,
);
await publishMade(house.store, id, rows, { extra: 10 });
const pipeline = (await pipelineById(house.store, id))!;
const publication = (await publicationOf(house.store, id))!;

interface Taken {
  readonly seconds: number;
  readonly megabytes: number;
  /** Most memory of the process above what it had before, in megabytes. */
  readonly memory: number;
}

async function written(format: Format, file: string): Promise<Taken> {
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50);
  const began = performance.now();
  await stream(
    Readable.from(datasetFile(house.store, pipeline, publication, { format, dialect: { ...plainCsv, guard: false } })),
    createWriteStream(file),
  );
  clearInterval(watch);
  return {
    seconds: (performance.now() - began) / 1000,
    megabytes: (await stat(file)).size / 2 ** 20,
    memory: (most - before) / 2 ** 20,
  };
}

const csv = join(folder, 'bench.csv');
await written('csv', csv);
const engine = await (await DuckDBInstance.create(':memory:', { threads: '1' })).connect();
await engine.run(`create table rows as select * from read_csv('${csv}')`);
async function theirs(options: string, extension: string): Promise<number> {
  const began = performance.now();
  await engine.run(`copy rows to '${join(folder, `engine.${extension}`)}' (${options})`);
  return (performance.now() - began) / 1000;
}
const engineTimes: Partial<Record<Format, number>> = {
  csv: await theirs('format csv', 'csv'),
  jsonl: await theirs('format json', 'json'),
  parquet: await theirs('format parquet', 'parquet'),
};

console.log(`${rows.toLocaleString('en')} rows of ${publication.columns.length} columns`);
for (const format of process.argv[3] ? formats.filter((each) => each === process.argv[3]) : formats) {
  const { seconds, megabytes, memory } = await written(format, join(folder, `bench.${formatFacts[format].extension}`));
  const engineTime = engineTimes[format];
  console.log(
    `${formatFacts[format].title.padEnd(20)} ${Math.round(rows / seconds)
      .toLocaleString('en')
      .padStart(
        9,
      )} rows a second, ${megabytes.toFixed(0).padStart(4)} MB file, ${memory.toFixed(0).padStart(4)} MB memory${engineTime === undefined ? '' : `, ${(seconds / engineTime).toFixed(1)} x the time of the engine`}`,
  );
}
engine.closeSync();
await house.close();
await rm(folder, { recursive: true, force: true });
