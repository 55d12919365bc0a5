-- What is said once is never said differently: such tables take inserts only.
create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% takes inserts only: nothing in it is changed or deleted', tg_table_name using errcode = 'PR001';
end $$;

-- Gapless numbers: the row is locked until the document that took the number is committed.
create table number_series (
  series text primary key,
  next_number bigint not null check (next_number > 0)
);

-- From which number on a series was counted anew, or has another prefix: none that was given is ever renamed.
create table number_range (
  series text not null references number_series,
  from_number bigint not null check (from_number > 0),
  prefix text not null default '' check (prefix ~ '^[A-Z0-9/-]{0,10}$'),
  primary key (series, from_number)
);

-- Who changed what, when, from what to what. Grows only.
create table audit_entry (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  person_id bigint not null,
  record_kind text not null,
  record_id bigint not null,
  -- What the record is a part of, whose history tells of it too.
  owner_kind text,
  owner_id bigint,
  event text not null,
  reason text not null,
  -- The values that differ, by their names in the API.
  before jsonb not null,
  after jsonb not null,
  check ((owner_kind is null) = (owner_id is null))
);
create index on audit_entry (record_kind, record_id, id);
create index on audit_entry (owner_kind, owner_id, id) where owner_id is not null;
create index on audit_entry (person_id);
create trigger audit_entry_inserts_only before update or delete on audit_entry
  for each row execute function refuse_change();
create trigger audit_entry_keeps_all before truncate on audit_entry
  for each statement execute function refuse_change();

-- Whatever happened is told to all servers when it is committed, for the pages that show it.
create function tell_what_changed() returns trigger language plpgsql as $$
begin
  perform pg_notify('live', string_agg(distinct record_kind, ',')) from told having count(*) > 0;
  return null;
end $$;
create trigger audit_entry_is_told after insert on audit_entry
  referencing new table as told for each statement execute function tell_what_changed();

-- A request that makes a document or moves money, so that sending it again makes nothing twice.
create table repeatable_request (
  person_id bigint not null,
  key text not null check (length(key) between 8 and 100),
  operation text not null,
  content text not null,
  result_id bigint,
  at timestamptz not null,
  primary key (person_id, key)
);

-- Work that is done later by whichever server is free, as db-scheduler keeps it.
create table later_work (
  task_name text not null,
  task_instance text not null,
  task_data bytea,
  execution_time timestamptz not null,
  picked boolean not null,
  picked_by text,
  last_success timestamptz,
  last_failure timestamptz,
  consecutive_failures integer,
  last_heartbeat timestamptz,
  version bigint not null,
  priority smallint,
  primary key (task_name, task_instance)
);
create index on later_work (execution_time);
create index on later_work (last_heartbeat);
