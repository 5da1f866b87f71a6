-- What each report looked like when it was last carried: JSON, and the content and document that it was made of.
create table report_profile (
  report integer primary key references report (id) on delete cascade,
  sha256 text not null,
  profile text not null
);
