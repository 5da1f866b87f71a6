-- Kept files as they were written last: the publication that each says, by its token.
create table written_file (
  pipeline integer not null references pipeline (id) on delete cascade,
  path text not null,
  token text not null,
  primary key (pipeline, path)
);
