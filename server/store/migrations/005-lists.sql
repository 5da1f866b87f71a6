-- Tables that steps look values up in: uploaded files, and datasets as they were when rows were made with them.

create table list_version (
  -- sha256 of the content.
  version text primary key,
  -- JSON: {name, columns: [{name, type, unit, cells}], rows}.
  content text not null,
  rows integer not null,
  -- JSON list of their names.
  columns text not null
);

create table list_file (
  name text primary key,
  version text not null references list_version (version),
  saved_at timestamptz not null default now(),
  saved_by text not null
);

-- The lists that the rows of a part were made with, by the step that looked into each.
create table part_list (
  part integer not null references part (id) on delete cascade,
  step text not null,
  version text not null references list_version (version),
  primary key (part, step)
);
