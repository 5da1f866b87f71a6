import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { extname } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline as stream } from 'node:stream/promises';
import * as v from 'valibot';
import { faultsOf } from '../../core/pipeline/document';
import { csvDialect, formatFacts, formats, type CsvDialect, type Format } from '../../core/dataset/file-options';
import type { Publication } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import type { Store } from '../store/store';
import { datasetFile, type FileAsked } from './dataset-file';

/** The format of a file by its name. @throws Error saying which there are */
export function formatOf(file: string): Format {
  const extension = extname(file).slice(1).toLowerCase();
  const format = formats.find((each) => formatFacts[each].extension === extension);
  if (!format)
    throw new Error(
      `${file}: a dataset is written as ${formats.map((each) => `.${formatFacts[each].extension}`).join(', ')}.`,
    );
  return format;
}

/** How delimited text is written, as `separator=semicolon&decimal=comma`. @throws Error saying what is wrong */
export function dialectOf(text: string): CsvDialect {
  const parsed = v.safeParse(csvDialect, Object.fromEntries(new URLSearchParams(text)));
  if (!parsed.success) throw new Error(`${text}: ${faultsOf(new v.ValiError(parsed.issues))}`);
  return parsed.output;
}

/**
 * Writes the dataset to a file: whole, or not at all. What was there before stays until then, and for good where it says the same.
 * @returns whether it says something else than before
 */
export async function writeDataset(
  store: Store,
  pipeline: StoredPipeline,
  publication: Publication,
  file: string,
  asked: FileAsked,
  signal?: AbortSignal,
): Promise<boolean> {
  const part = `${file}.${crypto.randomUUID()}.part`;
  try {
    await stream(
      Readable.from(datasetFile(store, pipeline, publication, asked)),
      createWriteStream(part),
      ...(signal ? [{ signal }] : []),
    );
    if ((await hashOf(file)) === (await hashOf(part))) return false;
    await rename(part, file);
    return true;
  } finally {
    await rm(part, { force: true });
  }
}

/** Of what a file holds; undefined where there is none. */
async function hashOf(path: string): Promise<string | undefined> {
  const hash = createHash('sha256');
  return stream(createReadStream(path), hash).then(
    () => hash.digest('hex'),
    () => undefined,
  );
}
