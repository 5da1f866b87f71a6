import { resolve } from 'node:path';
import { columnsFrom, conditionFrom, isEverything, orderFrom } from '../../core/dataset/selection';
import { dialectOf, formatOf, writeDataset } from '../export/to-file';
import { openHouse } from '../house/open';
import { cacheIn } from '../setup/config';
import { publicationOf, type Publication } from '../store/dataset';
import { pipelineByName, type StoredPipeline } from '../store/pipelines';
import { selectedRows } from '../store/selected-rows';
import type { Store } from '../store/store';
import { pipelineFile } from './pipeline-file';

export interface OutOptions {
  readonly csv?: string;
  readonly columns?: string;
  readonly where?: readonly string[];
  readonly order?: string;
}

/** Writes a published dataset to a file, and says what is in it. */
export async function writeOut(
  store: Store,
  pipeline: StoredPipeline,
  publication: Publication,
  file: string,
  { csv = '', columns, where = [], order = '' }: OutOptions,
): Promise<string> {
  const headings = publication.columns.map(({ heading }) => heading);
  const selection = { where: where.map((text) => conditionFrom(text, headings)), order: orderFrom(order, headings) };
  const chosen =
    columns === undefined
      ? undefined
      : columnsFrom(columns, headings).map(
          (heading) => publication.columns.find((column) => column.heading === heading)!.identifier,
        );
  const places = isEverything(selection) ? undefined : await selectedRows(store, publication, selection);
  await writeDataset(store, pipeline, publication, file, {
    format: formatOf(file),
    dialect: dialectOf(csv),
    columns: chosen,
    places,
  });
  const rows = places?.length ?? publication.rows;
  return `${rows}${rows < publication.rows ? ` of ${publication.rows}` : ''} rows written to ${file}${publication.misfits > 0 ? `; ${publication.misfits} error cells ${places ? 'of the dataset ' : ''}are blank in it` : ''}.\n`;
}

export async function out(pipeline: string, file: string, options: OutOptions & { data: string }): Promise<void> {
  const name = /\.json$/.test(pipeline) ? (await pipelineFile(pipeline)).name : pipeline;
  formatOf(file);
  const data = resolve(options.data);
  const house = await openHouse(data, cacheIn(data), { threads: 1 });
  try {
    const stored = await pipelineByName(house.store, name);
    const publication = stored && (await publicationOf(house.store, stored.id));
    if (!stored || !publication)
      throw new Error(
        `“${name}” has no published dataset in ${options.data}. Run: able-sieve run ... --data ${options.data}`,
      );
    process.stdout.write(await writeOut(house.store, stored, publication, file, options));
  } finally {
    await house.close();
  }
}
