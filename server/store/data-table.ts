// The table that holds the rows of a pipeline's dataset, and the catalogue of its columns.
import type { ValueType } from '../../core/sheet/column';
import { dataTable, freeIdentifier, rowColumns, slug, sqlType, systemColumns } from './names';
import { batchRows, literal, quoted, StoreError, type Session, type Store } from './store';

export interface DatasetColumn {
  readonly identifier: string;
  readonly heading: string;
  readonly type: ValueType;
  /** Unit of its values, with their scale where that is kept beside. */
  readonly unit?: string;
}

export type NewColumn = Omit<DatasetColumn, 'identifier'>;

/** A table of PostgreSQL has at most 1,600 columns, those that were dropped counted (ALTER TABLE, and its limits). */
const mostColumns = 1_590;
/** From here on columns that nothing uses any more make room, at the next refresh. */
const manyColumns = 1_000;

/** What a column is called to other programs: as printed, with its unit. */
export const headingWithUnit = ({ heading, unit }: Pick<DatasetColumn, 'heading' | 'unit'>): string =>
  unit ? `${heading}, in ${unit}` : heading;

/** The rows bring more columns than a table can have. */
export class TooManyColumns extends StoreError {
  constructor(readonly wanted: number) {
    super(
      `the dataset would have ${wanted.toLocaleString('en')} columns, and can have ${mostColumns.toLocaleString('en')}`,
    );
    this.name = 'TooManyColumns';
  }
}

/** The name of the table as it is now. */
export async function dataTableOf(session: Session, pipeline: number): Promise<string> {
  const [{ generation }] = await session.query<{ generation: number }>(
    'select generation from pipeline where id = $1',
    [pipeline],
  );
  return dataTable(pipeline, generation);
}

const createTable = (table: string) =>
  `create table if not exists ${quoted(table)} (part integer not null, ordinal integer not null, report integer not null, source_table text not null, source_row integer not null, page integer not null, primary key (part, ordinal))`;

const addColumn = (table: string, { identifier, heading, type }: DatasetColumn) =>
  `alter table ${quoted(table)} add column ${quoted(identifier)} ${sqlType(type)}; comment on column ${quoted(table)}.${quoted(identifier)} is ${literal(heading)}`;

export const catalogue = async (session: Session, pipeline: number): Promise<DatasetColumn[]> =>
  (
    await session.query<Omit<DatasetColumn, 'unit'> & { unit: string | null }>(
      'select identifier, heading, type, unit from dataset_column where pipeline = $1',
      [pipeline],
    )
  ).map(({ unit, ...column }) => ({ ...column, ...(unit === null ? {} : { unit }) }));

const identifying = new WeakMap<Store, Promise<void>>();

/**
 * Gives every heading and type of a pipeline an identifier, and the data table a column for it.
 * @throws TooManyColumns
 */
export async function identify(
  store: Store,
  pipeline: number,
  columns: readonly NewColumn[],
): Promise<DatasetColumn[]> {
  // One after the other: two parts loaded at the same time may bring the same new heading.
  const mine = (identifying.get(store.patient) ?? Promise.resolve()).then(() => identifyNow(store, pipeline, columns));
  identifying.set(
    store.patient,
    mine.then(
      () => undefined,
      () => undefined,
    ),
  );
  return mine;
}

async function identifyNow(store: Store, pipeline: number, columns: readonly NewColumn[]): Promise<DatasetColumn[]> {
  const table = await dataTableOf(store, pipeline);
  await store.script(createTable(table));
  const known = await catalogue(store, pipeline);
  const same =
    ({ heading, type }: NewColumn) =>
    (each: NewColumn) =>
      each.heading === heading && each.type === type;
  const added = columns.filter((column) => !known.some(same(column))).length;
  if (known.length + added > mostColumns) throw new TooManyColumns(known.length + added);
  const taken = new Set<string>([...rowColumns, ...systemColumns, ...known.map((column) => column.identifier)]);
  const result: DatasetColumn[] = [];
  for (const { heading, type, unit } of columns) {
    let column = known.find(same({ heading, type }));
    if (!column) {
      column = { identifier: freeIdentifier(slug(heading, 'column'), taken), heading, type, ...(unit ? { unit } : {}) };
      taken.add(column.identifier);
      const made = column;
      await store.transaction(async (session) => {
        await session.script(addColumn(table, made));
        await session.execute(
          'insert into dataset_column (pipeline, identifier, heading, type, unit) values ($1, $2, $3, $4, $5)',
          [pipeline, made.identifier, heading, type, unit ?? null],
        );
      });
    } else if (column.unit !== unit) {
      await store.execute('update dataset_column set unit = $3 where pipeline = $1 and identifier = $2', [
        pipeline,
        column.identifier,
        unit ?? null,
      ]);
      column = { identifier: column.identifier, heading, type, ...(unit ? { unit } : {}) };
    }
    result.push(column);
  }
  return result;
}

/**
 * Replaces a data table that has gathered many columns by its next generation: the same rows, and the columns that a part or
 * publication uses. To be called while nothing is loaded, with what nobody needs cleared. Rows keep their part and place,
 * columns their identifier; the switch is one short transaction.
 * @param replaceView makes the view under which the rows are queried anew
 * @param many from how many columns on
 */
export async function renewDataTable(
  store: Store,
  pipeline: number,
  replaceView: (session: Session, table: string) => Promise<void>,
  many = manyColumns,
): Promise<void> {
  const known = await catalogue(store, pipeline);
  if (known.length < many) return;
  const parts = await store.query<{ id: number; rows: number; columns: string }>(
    'select id, rows, columns from part where pipeline = $1',
    [pipeline],
  );
  const publications = await store.query<{ columns: string }>('select columns from publication where pipeline = $1', [
    pipeline,
  ]);
  const used = new Set([
    ...parts.flatMap(({ columns }) => JSON.parse(columns) as string[]),
    ...publications.flatMap(({ columns }) =>
      (JSON.parse(columns) as DatasetColumn[]).map(({ identifier }) => identifier),
    ),
  ]);
  // Where most are in use it would gain nothing.
  if (used.size > 0.75 * known.length) return;
  const [{ generation }] = await store.query<{ generation: number }>('select generation from pipeline where id = $1', [
    pipeline,
  ]);
  const [from, to] = [dataTable(pipeline, generation), dataTable(pipeline, generation + 1)];
  // One that a killed process has begun.
  await store.script(`drop table if exists ${quoted(to)}; ${createTable(to)}`);
  for (const column of known) if (used.has(column.identifier)) await store.script(addColumn(to, column));
  for (const part of parts) {
    const names = [...rowColumns, ...(JSON.parse(part.columns) as string[])].map(quoted).join(', ');
    for (let start = 0; start < part.rows; start += batchRows)
      await store.patient.execute(
        `insert into ${quoted(to)} (${names}) select ${names} from ${quoted(from)} where part = $1 and ordinal >= $2 and ordinal < $3`,
        [part.id, start, start + batchRows],
      );
  }
  await store.transaction(async (session) => {
    await session.execute('update pipeline set generation = $2 where id = $1', [pipeline, generation + 1]);
    for (const { identifier } of known)
      if (!used.has(identifier))
        await session.execute('delete from dataset_column where pipeline = $1 and identifier = $2', [
          pipeline,
          identifier,
        ]);
    await replaceView(session, to);
    await session.script(`drop table ${quoted(from)}`);
  });
}
