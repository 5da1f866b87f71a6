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
