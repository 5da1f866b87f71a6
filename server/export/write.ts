import { JsonWriter } from './json';
import { ParquetFile } from './parquet';
import type { Head, Writer } from './writer';
import { XlsxWriter } from './xlsx';

/** The formats that are written cell by cell. */
export const typedFormats = ['xlsx', 'json', 'jsonl', 'parquet'] as const;
export type TypedFormat = (typeof typedFormats)[number];

const writers: Readonly<Record<TypedFormat, (head: Head) => Writer>> = {
  xlsx: (head) => new XlsxWriter(head),
  json: (head) => new JsonWriter(head, false),
  jsonl: (head) => new JsonWriter(head, true),
  parquet: (head) => new ParquetFile(head),
};

export const writerOf = (format: TypedFormat, head: Head): Writer => writers[format](head);
