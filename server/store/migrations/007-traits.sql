-- What each report looked like when it was last carried: JSON, and the content that it was seen in.
create table report_traits (
  report integer primary key references report (id) on delete cascade,
  sha256 text not null,
  traits text not null
);
