import { JsonWriter } from './json';
import type { Head, Writer } from './writer';

/** The formats that are written cell by cell. */
export const typedFormats = ['xlsx', 'json', 'jsonl', 'parquet'] as const;
export type TypedFormat = (typeof typedFormats)[number];

/** What packs files is large: it is loaded by the thread that needs it. */
const writers: Readonly<Record<TypedFormat, (head: Head) => Writer | Promise<Writer>>> = {
  xlsx: async (head) => new (await import('./xlsx')).XlsxWriter(head),
  json: (head) => new JsonWriter(head, false),
  jsonl: (head) => new JsonWriter(head, true),
  parquet: async (head) => new (await import('./parquet')).ParquetFile(head),
};

export const writerOf = async (format: TypedFormat, head: Head): Promise<Writer> => writers[format](head);
