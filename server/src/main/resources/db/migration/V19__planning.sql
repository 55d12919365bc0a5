-- What whoever goes to a job may have to know or be certified for.
create table skill (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> '')
);

create table person_skill (
  person_id bigint not null references person,
  skill_id bigint not null references skill,
  -- The last day on which a certificate holds; null for what does not run out.
  until date,
  primary key (person_id, skill_id)
);
create index on person_skill (skill_id);

create table kind_of_job_skill (
  kind_of_job_id bigint not null references kind_of_job on delete cascade,
  skill_id bigint not null references skill,
  primary key (kind_of_job_id, skill_id)
);
create index on kind_of_job_skill (skill_id);

-- What a job asks for that does not need what its kind does.
create table job_skill (
  job_id bigint not null references job,
  skill_id bigint not null references skill,
  primary key (job_id, skill_id)
);
create index on job_skill (skill_id);

-- Which visit does a promised line that somebody said it of; null for that it needs none.
create table line_visit (
  promised_line_id bigint primary key references promised_line,
  visit_id bigint references visit
);
create index on line_visit (visit_id);

-- The postcode districts to which somebody goes; without a row, everywhere.
create table person_district (
  person_id bigint not null references person,
  district text not null check (district ~ '^[A-Z0-9]{1,8}$'),
  primary key (person_id, district)
);

-- A person's week from a day on; without one they work the company's hours. A weekday without a row is free.
create table working_pattern (
  id bigint generated always as identity primary key,
  person_id bigint not null references person,
  from_day date not null,
  unique (person_id, from_day)
);

create table working_pattern_day (
  working_pattern_id bigint not null references working_pattern on delete cascade,
  -- Monday is 1 (ISO 8601).
  weekday smallint not null check (weekday between 1 and 7),
  starts time not null,
  -- Midnight is the end of the day.
  ends time not null check (ends > starts or ends = '00:00'),
  primary key (working_pattern_id, weekday)
);

create table absence (
  id bigint generated always as identity primary key,
  person_id bigint not null references person,
  kind text not null check (kind in ('holiday', 'illness', 'training')),
  first_day date not null,
  last_day date not null,
  -- A part of each of these days; null for the whole of them.
  starts time,
  ends time,
  note text not null default '' check (length(note) <= 200),
  -- When it was taken back; what the trail points at is never deleted.
  removed_at timestamptz,
  version integer not null default 1,
  check (last_day >= first_day),
  check ((starts is null) = (ends is null)),
  check (ends > starts),
  constraint absent_once exclude using gist (
    person_id with =,
    tsrange(first_day + coalesce(starts, '00:00'), last_day + coalesce(ends, '24:00')) with &&
  ) where (removed_at is null)
);
create index on absence (person_id);

-- Where somebody's day begins and ends, such as their home or the yard; without one it does at the first and last stop.
create table work_base (
  person_id bigint primary key references person,
  district text not null check (district <> ''),
  latitude numeric(9, 6) not null check (latitude between -90 and 90),
  longitude numeric(9, 6) not null check (longitude between -180 and 180)
);

-- The middle of a district, for sites whose own place nobody knows.
create table postcode_district (
  district text primary key,
  latitude numeric(9, 6) not null check (latitude between -90 and 90),
  longitude numeric(9, 6) not null check (longitude between -180 and 180)
);

-- Where roads meet, and the roads between: the region in which the company drives, where it is known.
create table junction (
  id integer primary key,
  latitude numeric(9, 6) not null check (latitude between -90 and 90),
  longitude numeric(9, 6) not null check (longitude between -180 and 180)
);

create table road (
  from_id integer not null references junction,
  to_id integer not null references junction,
  metres integer not null check (metres > 0),
  kilometres_per_hour smallint not null check (kilometres_per_hour between 1 and 130),
  primary key (from_id, to_id),
  check (from_id < to_id)
);
create index on road (to_id);

-- When somebody is taken: by a visit that is planned, or by a time that is held while a customer chooses.
create table booking (
  id bigint generated always as identity primary key,
  person_id bigint not null references person,
  visit_id bigint references visit,
  held_by bigint references person,
  held_until timestamptz,
  -- By the company's clock.
  starts timestamp not null,
  ends timestamp not null check (ends > starts),
  overruled boolean not null default false,
  check ((visit_id is null) = (held_by is not null)),
  check ((held_by is null) = (held_until is null)),
  -- Checked when the act is done, so that two visits can change places.
  constraint booked_once exclude using gist (person_id with =, tsrange(starts, ends) with &&)
    where (not overruled) deferrable initially deferred
);
create index on booking (person_id);
create index on booking (visit_id) where visit_id is not null;
create index on booking (held_by) where held_by is not null;

-- Whoever is to come to a planned visit is booked for it; once it has begun its booking stays as it was planned.
create function book_crew() returns trigger language plpgsql as $$
begin
  if new.state in ('driving', 'on_site') then
    return null;
  end if;
  delete from booking where visit_id = new.id;
  if new.state = 'planned' then
    insert into booking (person_id, visit_id, starts, ends, overruled)
    select crew.person_id, new.id, new.day + new.start_time + make_interval(mins => crew.starts_after),
      new.day + new.start_time + make_interval(mins => crew.starts_after + crew.minutes),
      new.overruled && array['overlap', 'held']
    from (
      select new.technician_id, 0, new.expected_minutes
      union all
      select person_id, coalesce(starts_after, 0), coalesce(minutes, new.expected_minutes)
      from visit_companion where visit_id = new.id and person_id <> new.technician_id
    ) crew (person_id, starts_after, minutes);
  end if;
  return null;
end $$;
create trigger visit_books_its_technician after insert on visit
  for each row when (new.state = 'planned') execute function book_crew();
create trigger visit_books_its_crew
  after update of technician_id, day, start_time, expected_minutes, state, overruled on visit
  for each row when (old.state in ('planned', 'driving', 'on_site') or new.state = 'planned') execute function book_crew();

create function book_companion() returns trigger language plpgsql as $$
begin
  if tg_op <> 'INSERT' then
    delete from booking using visit
    where visit.id = old.visit_id and visit.technician_id <> old.person_id
      and booking.visit_id = old.visit_id and booking.person_id = old.person_id;
  end if;
  if tg_op <> 'DELETE' then
    insert into booking (person_id, visit_id, starts, ends, overruled)
    select new.person_id, visit.id, visit.day + visit.start_time + make_interval(mins => coalesce(new.starts_after, 0)),
      visit.day + visit.start_time
        + make_interval(mins => coalesce(new.starts_after, 0) + coalesce(new.minutes, visit.expected_minutes)),
      visit.overruled && array['overlap', 'held']
    from visit where visit.id = new.visit_id and visit.state = 'planned' and visit.technician_id <> new.person_id;
  end if;
  return null;
end $$;
create trigger companion_is_booked after insert or update or delete on visit_companion
  for each row execute function book_companion();

-- A plan of many visits that is searched for, and the best that was found so far. Each person has one at a time.
create table plan_proposal (
  id bigint generated always as identity primary key,
  person_id bigint not null unique references person,
  state text not null check (state in ('searching', 'found', 'failed')),
  first_day date not null,
  last_day date not null check (last_day >= first_day),
  technician_ids bigint[] not null,
  visit_ids bigint[] not null,
  seconds smallint not null check (seconds between 1 and 60),
  stop boolean not null default false,
  -- How much is driven as things stand.
  driving_minutes integer not null default 0,
  best jsonb
);
