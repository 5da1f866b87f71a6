import { quoted } from './store';
import type { ValueType } from '../../core/sheet/column';

/** Our own identifiers stay far below the 63 bytes at which PostgreSQL cuts names. */
const longest = 40;

/** A heading as a plain identifier: letters, digits and underscores. */
export function slug(text: string, otherwise: string): string {
  const plain = text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .slice(0, longest)
    .replace(/_+$/, '');
  return plain === '' ? otherwise : /^\d/.test(plain) ? `${otherwise}_${plain}`.slice(0, longest) : plain;
}

/** The first of name, name_2, name_3 ... that is free. */
export function freeIdentifier(wanted: string, taken: ReadonlySet<string>): string {
  if (!taken.has(wanted)) return wanted;
  let n = 2;
  while (taken.has(`${wanted}_${n}`)) n++;
  return `${wanted}_${n}`;
}

const sqlTypes: Record<ValueType, string> = {
  text: 'text',
  integer: 'bigint',
  decimal: 'numeric',
  percent: 'numeric',
  date: 'date',
  time: 'time',
  datetime: 'timestamp',
  period: 'text',
  boolean: 'boolean',
};
export const sqlType = (type: ValueType): string => sqlTypes[type];

/** Views under which other programs query datasets stand in a schema of their own: no name of a pipeline can meet one of ours. */
export const viewSchema = 'published';
export const publishedView = (name: string): string => `${quoted(viewSchema)}.${quoted(name)}`;

/** @param generation counted up each time the table is replaced by one with fewer columns */
export const dataTable = (pipeline: number, generation: number): string =>
  generation === 1 ? `data_${pipeline}` : `data_${pipeline}_${generation}`;

/** Columns that every table of the database has (PostgreSQL, 5.6). */
export const systemColumns = ['tableoid', 'xmin', 'cmin', 'xmax', 'cmax', 'ctid', 'oid'] as const;

/** Columns of every data table that are ours, before the columns of the dataset. */
export const rowColumns = ['part', 'ordinal', 'report', 'source_table', 'source_row', 'page'] as const;
