import { headingWithUnit, type DatasetColumn } from '../store/data-table';
import type { Publication } from '../store/dataset';
import { sqlType } from '../store/names';
import type { StoredPipeline } from '../store/pipelines';
import { literal, quoted, type Store } from '../store/store';
import { copyOf, type RowsAsked } from './out-rows';

/** A script for psql: the table with a comment on each column, and its rows. Error cells are null, and their number is in the comment on the table. */
export async function* sqlScript(
  store: Store,
  { document, viewName }: StoredPipeline,
  publication: Publication,
  { columns, ...rows }: RowsAsked & { columns: readonly DatasetColumn[] },
): AsyncGenerator<Uint8Array | string> {
  const table = quoted(viewName);
  const note = `${document.name}: published ${publication.publishedAt}, version ${publication.version ?? 0}, ${rows.places?.length ?? publication.rows} rows; ${publication.misfits} error cells of the dataset are null`;
  yield [
    `-- ${note.replace(/\s+/g, ' ')}`,
    "set client_encoding = 'UTF8';",
    'begin;',
    `create table ${table} (\n${columns.map(({ identifier, type }) => `  ${quoted(identifier)} ${sqlType(type)}`).join(',\n')}\n);`,
    `comment on table ${table} is ${literal(note)};`,
    ...columns.map(
      (column) => `comment on column ${table}.${quoted(column.identifier)} is ${literal(headingWithUnit(column))};`,
    ),
    `copy ${table} (${columns.map(({ identifier }) => quoted(identifier)).join(', ')}) from stdin;\n`,
  ].join('\n');
  // Psql ends the rows at a line of “\.” alone, within quotes as well, and runs what follows: in this form no text can be such a line.
  yield* copyOf(
    store,
    publication,
    columns.map(({ identifier }) => `d.${quoted(identifier)}`),
    { ...rows, escaped: true },
  );
  yield '\\.\n\ncommit;\n';
}
