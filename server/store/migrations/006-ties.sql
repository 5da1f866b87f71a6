-- JSON list: each printed amount of the total beside what the dataset says; and how many of them are off, but for those accepted.
alter table kept_total add column ties text not null default '[]';
alter table kept_total add column amounts_off integer not null default 0;
