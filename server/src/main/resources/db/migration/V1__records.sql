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
