import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { extname } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline as stream } from 'node:stream/promises';
import * as v from 'valibot';
import { faultsOf } from '../../core/pipeline/document';
import type { Publication } from '../store/dataset';
import type { StoredPipeline } from '../store/pipelines';
import type { Store } from '../store/store';
import { datasetFile, type FileAsked } from './dataset-file';
import { csvDialect, formatFacts, formats, type CsvDialect, type Format } from '../../core/dataset/file-options';

/** The format of a file by its name. @throws Error saying which there are */
export function formatOf(file: string): Format {
  const extension = extname(file).slice(1).toLowerCase();
  const format = formats.find((each) => formatFacts[each].extension === extension);
  if (!format) throw new Error(`${file}: a dataset is written as ${formats.map((each) => `.${formatFacts[each].extension}`).join(', ')}.`);
  return format;
}

/** How delimited text is written, as `separator=semicolon&decimal=comma`. @throws Error saying what is wrong */
export function dialectOf(text: string): CsvDialect {
  const parsed = v.safeParse(csvDialect, Object.fromEntries(new URLSearchParams(text)));
  if (!parsed.success) throw new Error(`${text}: ${faultsOf(new v.ValiError(parsed.issues))}`);
  return parsed.output;
}

/** Writes the dataset to a file: whole, or not at all. What was there before stays until then. */
export async function writeDataset(store: Store, pipeline: StoredPipeline, publication: Publication, file: string, asked: FileAsked, signal?: AbortSignal): Promise<void> {
  const part = `${file}.${crypto.randomUUID()}.part`;
  try {
    await stream(Readable.from(datasetFile(store, pipeline, publication, asked)), createWriteStream(part), ...(signal ? [{ signal }] : []));
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}
