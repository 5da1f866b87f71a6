import type { PGlite } from '@electric-sql/pglite';

/** Role under which other programs look. */
export const readerRole = 'dataset_reader';

/** What everybody may call in PostgreSQL, and nobody here: they write, or would lift what is closed. */
const closedFunctions = `select format('revoke execute on function %s from public', oid::regprocedure) as closes from pg_proc
  where pronamespace = 'pg_catalog'::regnamespace and (proname in ('set_config', 'pg_notify', 'lowrite', 'pg_logical_emit_message') or proname like 'lo\\_%' or proname like 'pg\\_advisory%lock%' or proname like 'pg\\_try\\_advisory%')`;

/** Opens the tables with what is there before any dataset, and with no more rights than a reader has: the house takes its own when it needs them. */
export async function prepareDatabase(db: Pick<PGlite, 'exec' | 'query'>): Promise<void> {
  await withRoles(db);
  await db.exec(`set role ${readerRole}`);
}

async function withRoles(db: Pick<PGlite, 'exec' | 'query'>): Promise<void> {
  await db.exec(`reset role;
    create schema if not exists house;
    create schema if not exists published;
    create schema if not exists about;
    create table if not exists house.prepared (version integer);
    create table if not exists house.dataset (name text primary key, token text not null);
    create table if not exists about.reports (dataset text, report integer, period text, file_name text, sha256 text, rows integer, held_rows integer, stale boolean, published_at timestamptz, version integer);
    create table if not exists about.problems (dataset text, ordinal bigint, report integer, page integer, column_name text, printed text, expected text);
    create table if not exists about.printed_totals (dataset text, report integer, page integer, label text, column_name text, printed numeric, computed numeric, outcome text, why text);
    comment on table about.reports is 'The reports that the rows of each dataset came from';
    comment on table about.problems is 'Printed texts that did not fit the type of their column: null in the dataset, told here. ordinal and dataset say which row';
    comment on table about.printed_totals is 'Amounts printed as totals, and what the dataset says';`);
  if ((await db.query('select 1 from house.prepared')).rows.length > 0) return;
  await db.exec(`create role ${readerRole};
    grant usage on schema published, about to ${readerRole};
    grant select on all tables in schema about to ${readerRole};
    revoke all on schema public from public;
    do $$ begin execute format('revoke temporary on database %I from public', current_database()); end $$;
    revoke usage on language plpgsql from public;`);
  const { rows } = await db.query<{ closes: string }>(closedFunctions);
  await db.exec(`${rows.map(({ closes }) => closes).join(';')}; insert into house.prepared values (1);`);
}
