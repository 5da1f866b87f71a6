-- The build that made a part: JSON {release, stages}; null: a program that did not know.
alter table part add column build text;
-- By which reading its pages are kept; programs before counted theirs.
alter table part add column reading text;
update part set reading = 'v' || reader_version where reader_version is not null;
alter table part drop column reader_version;

-- What reports looked like, and the periods they say, are known by the stages that told.
alter table report_traits add column stages text not null default '';
alter table stamped_period add column stages text not null default '';

-- Cells of the dataset that a run published otherwise than they were, as the program itself is another: a cell, or a whole row
-- that came (only after) or went (only before).
create table changed_cell (
  run integer not null references run (id) on delete cascade,
  position integer not null,
  report integer not null,
  page integer not null,
  -- cell, row added, row removed
  kind text not null,
  heading text,
  before text,
  after text,
  -- Where the row stands: part and ordinal of the new rows; null for those that went.
  part integer,
  ordinal integer,
  primary key (run, position)
);
