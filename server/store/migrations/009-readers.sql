-- Who may read the published datasets, and nothing else: a name, and the digest of the token that was handed out.
create table reader (
  name text primary key,
  digest text not null unique,
  created_at timestamptz not null default now()
);
