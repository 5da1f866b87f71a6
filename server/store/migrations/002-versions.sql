-- Every save of a document is a version; parts and publications name what they were made of; rows keep the name under which
-- they were taken; problems are kept as data.

create table pipeline_version (
  pipeline integer not null references pipeline (id) on delete cascade,
  version integer not null,
  -- The document as saved, kept as text so that its order of keys stays.
  document text not null,
  saved_at timestamptz not null default now(),
  -- Who saved it: the name under which the program was run.
  saved_by text not null,
  primary key (pipeline, version)
);
insert into pipeline_version (pipeline, version, document, saved_at, saved_by) select id, 1, document, created_at, '' from pipeline;
alter table pipeline add column version integer not null default 1;
alter table pipeline drop column document;

-- The version, the version of the reader, and the reports (JSON list of {report, path, sha256}) that the rows were made of;
-- null: made by a program that did not know.
alter table part add column version integer;
alter table part add column reader_version integer;
alter table part add column inputs text not null default '[]';
alter table publication add column version integer;

alter table dataset_problem rename column reason to expected;

alter table kept_total rename column page to printed_on;
alter table kept_total add column report integer;
-- The total's own row as it was taken: the found table, and its place there.
alter table kept_total add column source_table text not null default '';
alter table kept_total add column source_row integer not null default -1;
-- 1: of single rows, 2: of such totals ...
alter table kept_total add column level integer not null default 1;
-- JSON list of {report, table, from, to}: the taken rows that it stands for.
alter table kept_total add column covers text not null default '[]';
-- JSON list of {column, printed, computed}: where those rows do not add up to it.
alter table kept_total add column differs text not null default '[]';

alter table run add column version integer not null default 1;
-- JSON list of what there is to say of the run as a whole.
alter table run add column notes text not null default '[]';
update run set notes = json_build_array(json_build_object('kind', 'failed', 'error', message))::text where message is not null;
alter table run drop column message;
-- JSON: what the steps that need all reports at once did; null: there was none.
alter table run add column whole text;

-- The file that replaces the report, or that it is a copy of.
alter table run_report add column other text;

-- What was told of a report in sentences, as problems that say them.
update run_report set details = jsonb_set(details::jsonb, '{problems}', coalesce((
  select jsonb_agg(jsonb_build_object('kind', 'step', 'expected', 'no problem', 'came', told, 'remedy', '')) from jsonb_array_elements_text(details::jsonb -> 'problems') as told
), '[]'))::text where details::jsonb ? 'problems';

-- Rows know where they were taken; rows of before know it after the next refresh.
do $$
declare name text;
begin
  for name in select relname from pg_class where relkind = 'r' and relname ~ '^data_[0-9]+$' loop
    execute format('alter table %I drop column report_ordinal, add column source_table text not null default %L, add column source_row integer not null default -1', name, '');
  end loop;
end $$;
