// The published dataset as a file of any format, in pieces, as fast as they are taken.
import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { plainCsv, type CsvDialect, type Format } from '../../core/dataset/file-options';
import type { DatasetColumn } from '../store/data-table';
import type { Publication } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import { builtThread } from '../setup/built';
import { threadFlags } from '../setup/engine';
import type { Store } from '../store/store';
import { csv } from './csv';
import { dataPackage } from './data-package';
import { measuredColumns, rowTexts, type RowsAsked } from './out-rows';
import type { RowText } from './row-text';
import { provenanceOf } from './provenance';
import { sqlScript } from './sql-script';
import type { Asked, ThreadData, Told } from './thread';
import type { TypedFormat } from './write';
import type { Head } from './writer';

export interface FileAsked extends RowsAsked {
  readonly format: Format;
  readonly dialect?: CsvDialect;
  /** Columns by their identifiers, in the order wanted; all if left out. */
  readonly columns?: readonly string[] | undefined;
}

/** The file in pieces. Whoever stops taking them ends the work. */
export async function* datasetFile(
  store: Store,
  pipeline: StoredPipeline,
  publication: Publication,
  { format, dialect = plainCsv, columns: wanted, places, taken }: FileAsked,
): AsyncGenerator<Uint8Array | string> {
  const chosen = <Named extends DatasetColumn>(all: readonly Named[]): Named[] =>
    wanted ? wanted.flatMap((identifier) => all.find((column) => column.identifier === identifier) ?? []) : [...all];
  const rows = places?.length ?? publication.rows;
  switch (format) {
    case 'csv':
    case 'tsv':
      return yield* csv(store, publication, format === 'tsv' ? { ...dialect, separator: '\t' } : dialect, {
        columns: chosen(publication.columns),
        places,
        taken,
      });
    case 'sql':
      return yield* sqlScript(store, pipeline, publication, { columns: chosen(publication.columns), places, taken });
  }
  const provenance = await provenanceOf(store, pipeline, publication);
  // JSON has no types that depend on how large the numbers are.
  const columns = chosen(
    format === 'json' || format === 'jsonl' ? publication.columns : await measuredColumns(store, publication),
  );
  if (format === 'zip') return yield* dataPackage(store, pipeline, publication, { columns, places, taken, provenance });
  const head: Head = { columns, rows, provenance };
  return yield* inThread(format, head, rowTexts(store, publication, { columns, places, taken }));
}

async function* inThread(format: TypedFormat, head: Head, pieces: AsyncIterable<RowText>): AsyncGenerator<Uint8Array> {
  const thread = new Worker(builtThread('export-thread'), {
    execArgv: [...threadFlags],
    workerData: { format, head } satisfies ThreadData,
  });
  const broken = new Promise<never>((_, reject) => {
    thread.on('error', reject);
    thread.on('exit', () => reject(new Error('The thread that writes the file has ended.')));
  });
  broken.catch(() => undefined);
  const ask = async (asked: Asked): Promise<Uint8Array> => {
    const answer = once(thread, 'message') as Promise<[Told]>;
    thread.postMessage(asked);
    const [told] = await Promise.race([answer, broken]);
    if ('failed' in told) throw new Error(told.failed);
    return told.bytes;
  };
  try {
    // The database copies the next piece while the thread writes this one.
    const all = pieces[Symbol.asyncIterator]();
    for (let next = all.next(); ;) {
      const { value: rows, done } = await next;
      if (done) break;
      next = all.next();
      next.catch(() => undefined);
      const bytes = await ask({ rows });
      if (bytes.length > 0) yield bytes;
    }
    yield await ask({ end: true });
  } finally {
    await thread.terminate();
  }
}
