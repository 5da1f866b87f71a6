-- The unit of a column's values, as a step set it last.
alter table dataset_column add column unit text;
