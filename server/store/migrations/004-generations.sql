-- A data table never loses a column; one that has gathered too many is replaced by the next generation, with those in use.
alter table pipeline add column generation integer not null default 1;

-- Told to other programs so that they know whether they have this very publication: unlike its number it is the same nowhere else.
alter table publication add column token text not null default gen_random_uuid()::text;
