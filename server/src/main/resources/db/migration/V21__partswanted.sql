-- A part that a job waits for, from the moment somebody says so.
create table part_wanted (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  -- On which visit it was missing; null where the office says so.
  visit_id bigint references visit,
  -- Of the price list; null for one that is not on it, or where nobody said which.
  part_id bigint references part,
  -- As whoever wants it said it; may be empty.
  words text not null default '' check (length(words) <= 300),
  quantity numeric(14, 3) not null check (quantity > 0),
  urgent boolean not null,
  equipment_id bigint references equipment,
  state text not null check (state in ('wanted', 'ordered', 'arrived', 'fitted', 'no_longer_wanted')),
  wanted_at timestamptz not null,
  wanted_by bigint not null references person,
  ordered_at timestamptz,
  ordered_by bigint references person,
  supplier text not null default '' check (length(supplier) <= 120),
  expected_on date,
  arrived_at timestamptz,
  arrived_by bigint references person,
  -- Fitted, or no longer wanted and why.
  closed_at timestamptz,
  closed_by bigint references person,
  reason text not null default '' check (length(reason) <= 300),
  -- The use by which it was fitted; null for one that is not on the price list.
  visit_part_id bigint references visit_part,
  -- By which the office was told, and the visit that fits it.
  to_do_id bigint not null references to_do,
  next_visit_id bigint references visit,
  version integer not null default 1,
  check ((ordered_at is null) = (ordered_by is null)),
  check ((arrived_at is null) = (arrived_by is null)),
  check ((closed_at is null) = (closed_by is null)),
  check ((closed_at is not null) = (state in ('fitted', 'no_longer_wanted'))),
  check (state <> 'ordered' or ordered_at is not null),
  check (state <> 'arrived' or arrived_at is not null)
);
create index on part_wanted (job_id);
create index on part_wanted (visit_id) where visit_id is not null;
create index on part_wanted (part_id) where part_id is not null;
create index on part_wanted (equipment_id) where equipment_id is not null;
create index on part_wanted (visit_part_id) where visit_part_id is not null;
create index on part_wanted (next_visit_id) where next_visit_id is not null;
create index on part_wanted (to_do_id);
create index on part_wanted (wanted_by);
create index on part_wanted (ordered_by) where ordered_by is not null;
create index on part_wanted (arrived_by) where arrived_by is not null;
create index on part_wanted (closed_by) where closed_by is not null;
create index part_wanted_open on part_wanted (wanted_at, id) where state in ('wanted', 'ordered', 'arrived');
create index part_wanted_closed on part_wanted (wanted_at desc, id desc) where closed_at is not null;
