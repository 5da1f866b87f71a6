-- Pipelines, their reports and runs, and the bookkeeping of published datasets.
-- The rows themselves are in one table per pipeline, data_<id>, made when it is first published.

create table pipeline (
  id integer generated always as identity primary key,
  name text not null unique,
  -- The document as saved, kept as text so that its order of keys stays.
  document text not null,
  folder text not null,
  -- A folder of our own that files are dropped into.
  managed boolean not null default false,
  -- The documented name under which other programs query the published dataset (a view).
  view_name text not null unique,
  -- The published pointer; null: nothing published yet.
  publication integer,
  created_at timestamptz not null default now()
);

create table report (
  id integer generated always as identity primary key,
  pipeline integer not null references pipeline (id) on delete cascade,
  path text not null,
  sha256 text not null,
  size bigint not null,
  -- Milliseconds since 1970, as the folder tells it: an unchanged size and time spares the hash.
  modified bigint not null,
  period text,
  revision integer not null default 0,
  -- counts, replaced, a copy, not a PDF, gone
  standing text not null,
  -- The path of the file that replaces this one, or that it is a copy of.
  standing_of text,
  unique (pipeline, path)
);

create table run (
  id integer generated always as identity primary key,
  pipeline integer not null references pipeline (id) on delete cascade,
  started_at timestamptz not null default now(),
  ended_at timestamptz,
  -- running, published, nothing new, nothing published, failed, cancelled, interrupted
  state text not null,
  publication integer,
  rows bigint,
  message text
);

create table run_report (
  run integer not null references run (id) on delete cascade,
  report integer not null,
  position integer not null,
  path text not null,
  period text,
  -- added, changed, unchanged, stale, failed, replaced, a copy, not a PDF, removed
  state text not null,
  -- Was the file parsed in this run, or its content taken from the cache?
  parsed boolean not null,
  rows integer not null,
  held integer not null,
  misfits integer not null,
  -- JSON: what was taken with how sure, the layers' counts, the problems.
  details text not null,
  primary key (run, report)
);

-- The rows of one report's result, loaded once and never changed: a version of that report's rows.
create table part (
  id integer generated always as identity primary key,
  pipeline integer not null references pipeline (id) on delete cascade,
  -- Null: the rows of all reports, where a step needed the whole.
  report integer,
  -- Hash of everything the rows depend on.
  result_key text not null,
  rows integer not null default 0,
  held integer not null default 0,
  misfits integer not null default 0,
  -- JSON list of the identifiers of the columns that this part fills.
  columns text not null default '[]',
  details text not null default '{}'
);

create table publication (
  id integer generated always as identity primary key,
  pipeline integer not null references pipeline (id) on delete cascade,
  run integer not null,
  rows bigint not null,
  misfits bigint not null,
  -- JSON list of {identifier, heading, type} in order.
  columns text not null,
  published_at timestamptz
);

create table publication_part (
  publication integer not null references publication (id) on delete cascade,
  position integer not null,
  part integer not null references part (id),
  -- How many rows stand before this part.
  start_row bigint not null,
  -- The report's file has changed, but its new rows could not be had: these are of the last good version.
  stale boolean not null default false,
  primary key (publication, position)
);

-- The catalogue: which heading and type each column of a data table stands for.
create table dataset_column (
  pipeline integer not null references pipeline (id) on delete cascade,
  identifier text not null,
  heading text not null,
  type text not null,
  primary key (pipeline, identifier),
  unique (pipeline, heading, type)
);

-- Error cells: the cell is null in the data table, its text and reason stand here.
create table dataset_problem (
  part integer not null references part (id) on delete cascade,
  ordinal integer not null,
  identifier text not null,
  text text not null,
  reason text not null,
  primary key (part, ordinal, identifier)
);

-- Printed totals that left the data and that it must add up to.
create table kept_total (
  part integer not null references part (id) on delete cascade,
  position integer not null,
  step text not null,
  page integer not null,
  reason text not null,
  -- JSON object: column name -> printed text.
  cells text not null,
  primary key (part, position)
);
