create extension if not exists pg_trgm;

create table price_list (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  name text not null unique check (name <> ''),
  parts_discount_share numeric(5, 4) not null default 0 check (parts_discount_share between 0 and 1)
);

create table customer (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  name text not null check (name <> ''),
  phone text not null default '',
  email text not null default '',
  address text not null default '',
  postcode text not null default '',
  vat_number text not null default '',
  -- How VAT applies to what is supplied to them; null for as is usual.
  vat_code text references vat_treatment,
  payment_days smallint not null check (payment_days between 0 and 180),
  credit_limit_minor bigint not null default 0 check (credit_limit_minor >= 0),
  prices_with_vat boolean not null default false,
  stop_reason text check (stop_reason <> ''),
  price_list_id bigint references price_list,
  response_terms_id bigint references response_terms,
  -- How they are told of visits that are planned, and that somebody is on the way.
  plan_told_by text not null default 'nobody' check (plan_told_by in ('nobody', 'mail', 'text')),
  coming_told_by text not null default 'nobody' check (coming_told_by in ('nobody', 'mail', 'text')),
  -- Whether they get a report of each visit that is over.
  report_copy text not null default 'none' check (report_copy in ('none', 'without_prices', 'with_prices')),
  -- What another program calls this customer; it keeps an import from making doubles.
  reference text unique check (reference <> ''),
  -- The customer that took this one in; such a row only remembers.
  merged_into bigint references customer check (merged_into <> id),
  version integer not null default 1
);
create index customer_name_search on customer using gin (name gin_trgm_ops);
create index on customer (merged_into) where merged_into is not null;
create index on customer (lower(name), id) where merged_into is null;
create index on customer (number) where merged_into is null;
create index on customer (vat_code) where vat_code is not null;
create index on customer (price_list_id) where price_list_id is not null;
create index on customer (response_terms_id) where response_terms_id is not null;

create table site (
  id bigint generated always as identity primary key,
  customer_id bigint not null references customer,
  name text not null,
  address text not null,
  postcode text not null default '',
  area text not null default '',
  latitude numeric(9, 6) check (latitude between -90 and 90),
  longitude numeric(9, 6) check (longitude between -180 and 180),
  access_notes text not null default '',
  -- At which hours somebody can get in; null for all.
  opens time,
  closes time,
  version integer not null default 1,
  check ((latitude is null) = (longitude is null)),
  check ((opens is null) = (closes is null)),
  -- Midnight is the end of the day.
  check (opens < closes or closes = '00:00')
);
create index on site (customer_id);

create table contact (
  id bigint generated always as identity primary key,
  customer_id bigint not null references customer,
  -- Null for somebody who speaks for the customer everywhere.
  site_id bigint references site,
  name text not null check (name <> ''),
  phone text not null default '',
  email text not null default '',
  pays boolean not null default false,
  opens boolean not null default false,
  decides boolean not null default false,
  version integer not null default 1
);
create index on contact (customer_id);
create index on contact (site_id);

create table equipment_kind (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> '')
);

create table equipment (
  id bigint generated always as identity primary key,
  site_id bigint not null references site,
  equipment_kind_id bigint references equipment_kind,
  model text not null,
  serial_number text not null unique,
  position text not null default '',
  fitted_on date not null,
  parts_warranty_until date,
  parts_warranty_share numeric(5, 4) not null default 0 check (parts_warranty_share between 0 and 1),
  labour_warranty_until date,
  labour_warranty_share numeric(5, 4) not null default 0 check (labour_warranty_share between 0 and 1),
  removed_on date,
  replaced_by_id bigint unique references equipment check (replaced_by_id <> id),
  -- The part whose fitting put it on record.
  visit_part_id bigint,
  version integer not null default 1,
  check (replaced_by_id is null or removed_on is not null)
);
create index on equipment (site_id);
create index on equipment (visit_part_id) where visit_part_id is not null;
create index on equipment (equipment_kind_id) where equipment_kind_id is not null;

create table equipment_photo (
  equipment_id bigint primary key references equipment,
  -- JPEG, written by the program.
  content bytea not null check (length(content) between 1 and 8000000),
  added_at timestamptz not null
);

-- What the office wants everybody to see before they promise this customer anything.
create table customer_note (
  id bigint generated always as identity primary key,
  customer_id bigint not null references customer,
  text text not null check (text <> ''),
  pinned_at timestamptz not null,
  pinned_by bigint not null references person,
  unpinned_at timestamptz
);
create index on customer_note (customer_id);
create index on customer_note (pinned_by);

alter table to_do add foreign key (customer_id) references customer;

alter table mail add foreign key (customer_id) references customer;
