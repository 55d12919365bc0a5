create extension if not exists btree_gist;
create extension if not exists pg_trgm;

-- One row: the company whose books these are. Currency, time zone and charging rules are settings.
create table company (
  id smallint primary key default 1 check (id = 1),
  name text not null,
  town text not null,
  vat_number text not null,
  currency char(3) not null,
  time_zone text not null,
  normal_days smallint[] not null,
  normal_from time not null,
  normal_to time not null,
  night_from time not null,
  night_to time not null,
  charging_step_minutes smallint not null check (charging_step_minutes between 1 and 240),
  minimum_minutes smallint not null check (minimum_minutes between 0 and 480),
  drive_charge text not null check (drive_charge in ('per_call_out', 'per_hour', 'per_mile', 'none')),
  drive_charge_minor bigint not null check (drive_charge_minor >= 0),
  other_markup_share numeric(6, 4) not null check (other_markup_share >= 0),
  standard_cost_per_hour numeric(12, 4) not null check (standard_cost_per_hour > 0),
  overhead_per_hour numeric(12, 4) not null check (overhead_per_hour >= 0),
  quote_valid_days smallint not null check (quote_valid_days between 1 and 365),
  floor_margin_percent numeric(5, 2) not null
);

create table vat_rate (
  code text primary key,
  category char(1) not null check (category in ('S', 'Z', 'E')),
  percent numeric(5, 2) not null check (percent between 0 and 100)
);

create table person (
  id bigint generated always as identity primary key,
  name text not null,
  username text not null unique,
  password_hash text not null,
  role text not null check (role in ('office', 'technician', 'bookkeeper', 'owner')),
  active boolean not null default true
);

create table wage (
  person_id bigint not null references person,
  from_day date not null,
  wage_per_hour numeric(12, 4) not null check (wage_per_hour > 0),
  on_cost_share numeric(6, 4) not null check (on_cost_share >= 0),
  primary key (person_id, from_day)
);

create table rate_class_terms (
  rate_class text not null check (rate_class in ('normal', 'overtime', 'night')),
  from_day date not null,
  cost_factor numeric(6, 4) not null check (cost_factor > 0),
  charge_per_hour_minor bigint not null check (charge_per_hour_minor >= 0),
  primary key (rate_class, from_day)
);

create table vehicle_cost (
  from_day date primary key,
  cost_per_mile numeric(12, 4) not null check (cost_per_mile >= 0)
);

create table kind_of_job (
  id bigint generated always as identity primary key,
  name text not null unique,
  billing_basis text not null check (billing_basis in ('fixed_price', 'time_and_parts')),
  default_minutes integer not null check (default_minutes between 5 and 960),
  cost_centre text not null
);

-- Gapless numbers: the row is locked until the document that took the number is committed.
create table number_series (
  series text primary key,
  next_number bigint not null check (next_number > 0)
);

-- Who changed what, when, from what to what. Grows only.
create table audit_entry (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  person_id bigint not null references person,
  record_type text not null,
  record_id bigint not null,
  job_id bigint,
  action text not null,
  reason text not null default '',
  before jsonb,
  after jsonb
);
create index on audit_entry (record_type, record_id);
create index on audit_entry (job_id);

-- A request that makes a document or moves money, so that sending it again makes nothing twice.
create table repeatable_request (
  person_id bigint not null references person,
  key text not null check (length(key) between 8 and 100),
  operation text not null,
  content text not null,
  result_id bigint,
  at timestamptz not null,
  primary key (person_id, key)
);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% takes inserts only: nothing in it is changed or deleted', tg_table_name using errcode = 'PR001';
end $$;

create trigger audit_entry_inserts_only before update or delete on audit_entry
  for each row execute function refuse_change();
create trigger audit_entry_keeps_all before truncate on audit_entry
  for each statement execute function refuse_change();
