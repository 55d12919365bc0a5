-- The hours of some days as they went out for the wages. What changes afterwards goes out in a later run, as what it
-- differs by.
create table wages_run (
  id bigint generated always as identity primary key,
  first_day date not null,
  last_day date not null,
  people integer not null check (people > 0),
  minutes integer not null,
  sent_at timestamptz not null,
  sent_by bigint not null references person,
  version integer not null default 1,
  check (first_day <= last_day)
);
create index on wages_run (last_day);
create index on wages_run (sent_by);
create trigger wages_run_inserts_only before update or delete on wages_run
  for each row execute function refuse_change();

create table wages_line (
  wages_run_id bigint not null references wages_run,
  position integer not null,
  person_id bigint not null references person,
  day date not null,
  pay_class text not null check (pay_class in ('normal', 'overtime', 'night', 'weekend', 'holiday')),
  percent numeric(8, 2) not null check (percent > 0),
  -- Null for what rounding adds to a day, or takes off.
  kind text check (kind in ('labour', 'drive', 'break')),
  -- Null for time on no visit.
  job_number bigint references job (number),
  what text not null,
  -- Below nothing where less stands than went out before.
  minutes integer not null check (minutes <> 0),
  primary key (wages_run_id, position)
);
create index on wages_line (person_id, day);
create index on wages_line (day);
create index on wages_line (job_number) where job_number is not null;
create trigger wages_line_inserts_only before update or delete on wages_line
  for each row execute function refuse_change();
