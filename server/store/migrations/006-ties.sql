-- JSON list: each printed amount of the total beside what the dataset says.
alter table kept_total add column ties text not null default '[]';
