-- A week that its technician has signed off, as it stood then, in minutes.
create table week_sign_off (
  person_id bigint not null references person,
  monday date not null check (extract(isodow from monday) = 1),
  signed_at timestamptz not null,
  labour_minutes integer not null check (labour_minutes >= 0),
  other_work_minutes integer not null check (other_work_minutes >= 0),
  drive_minutes integer not null check (drive_minutes >= 0),
  break_minutes integer not null check (break_minutes >= 0),
  primary key (person_id, monday)
);
