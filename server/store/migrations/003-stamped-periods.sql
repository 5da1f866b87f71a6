-- Views of datasets in a schema of their own: no name of a pipeline can meet one of our tables.
create schema if not exists published;
do $$
declare name text;
begin
  for name in select p.view_name from pipeline p join pg_class c on c.relname = p.view_name and c.relkind = 'v' and c.relnamespace = 'public'::regnamespace loop
    execute format('alter view public.%I set schema published', name);
  end loop;
end $$;

-- What the system says of a file's content: its inode and when it was last written.
alter table report add column mark text not null default '';

-- Periods that reports say on their pages, where file names tell none: by content and by what is looked for (JSON).

create table stamped_period (
  sha256 text not null,
  stamp text not null,
  -- Null: no line says it.
  period text,
  primary key (sha256, stamp)
);
