create table to_do (
  id bigint generated always as identity primary key,
  what text not null check (what <> ''),
  for_person_id bigint not null references person,
  due_day date not null,
  -- What it is about; each refers to what is described further down.
  customer_id bigint,
  job_id bigint,
  quote_id bigint,
  state text not null default 'open' check (state in ('open', 'done', 'dropped')),
  outcome text check (outcome <> ''),
  created_at timestamptz not null,
  created_by bigint not null references person,
  closed_at timestamptz,
  closed_by bigint references person,
  version integer not null default 1,
  check ((state = 'open') = (closed_at is null)),
  check ((closed_at is null) = (closed_by is null)),
  check ((state = 'open') = (outcome is null))
);
create index on to_do (for_person_id, due_day, id) where state = 'open';
create index on to_do (due_day, id) where state = 'open';
create index on to_do (closed_at desc, id) where state <> 'open';
create index on to_do (customer_id);
create index on to_do (job_id) where job_id is not null;
create index on to_do (quote_id) where quote_id is not null;
create index on to_do (closed_by) where closed_by is not null;
create index on to_do (created_by);
