create table customer (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  name text not null check (name <> ''),
  phone text not null default '',
  email text not null default '',
  address text not null default '',
  postcode text not null default '',
  payment_days smallint not null default 30 check (payment_days between 0 and 180),
  credit_limit_minor bigint not null default 0 check (credit_limit_minor >= 0),
  version integer not null default 1
);
create index customer_name_search on customer using gin (name gin_trgm_ops);

create table site (
  id bigint generated always as identity primary key,
  customer_id bigint not null references customer,
  name text not null,
  address text not null,
  postcode text not null default '',
  access_notes text not null default '',
  contact_name text not null default '',
  contact_phone text not null default ''
);
create index on site (customer_id);
create index site_name_search on site using gin ((name || ' ' || address || ' ' || postcode) gin_trgm_ops);

create table equipment (
  id bigint generated always as identity primary key,
  site_id bigint not null references site,
  model text not null,
  serial_number text not null unique,
  fitted_on date not null,
  parts_warranty_until date,
  parts_warranty_share numeric(5, 4) not null default 0 check (parts_warranty_share between 0 and 1),
  labour_warranty_until date,
  labour_warranty_share numeric(5, 4) not null default 0 check (labour_warranty_share between 0 and 1)
);
create index on equipment (site_id);

create table part (
  id bigint generated always as identity primary key,
  number text not null unique,
  name text not null,
  unit text not null default '',
  price_minor bigint check (price_minor >= 0),
  vat_code text not null references vat_rate,
  -- Held in all places together; value / quantity is the moving-average cost.
  quantity numeric(14, 3) not null default 0 check (quantity >= 0),
  value_minor bigint not null default 0 check (value_minor >= 0),
  -- Of the last ones that were put in; what a quote reckons with while the shelf is empty.
  last_unit_cost numeric(18, 8) not null default 0 check (last_unit_cost >= 0),
  check (quantity > 0 or value_minor = 0)
);
create index part_name_search on part using gin ((number || ' ' || name) gin_trgm_ops);

create table cost_band (
  up_to_cost_minor bigint primary key check (up_to_cost_minor > 0),
  markup_share numeric(6, 4) not null check (markup_share >= 0)
);

create table stock_place (
  id bigint generated always as identity primary key,
  name text not null unique,
  person_id bigint unique references person
);

-- Every change of stock, at cost. Grows only; levels are what it adds up to.
create table stock_movement (
  id bigint generated always as identity primary key,
  part_id bigint not null references part,
  place_id bigint not null references stock_place,
  quantity numeric(14, 3) not null check (quantity <> 0),
  cost_minor bigint not null,
  moved_at timestamptz not null,
  check (sign(quantity) = sign(cost_minor) or cost_minor = 0)
);
create index on stock_movement (part_id, place_id);

create table stock_level (
  place_id bigint not null references stock_place,
  part_id bigint not null references part,
  quantity numeric(14, 3) not null,
  primary key (place_id, part_id)
);

create trigger stock_movement_inserts_only before update or delete on stock_movement
  for each row execute function refuse_change();
create trigger stock_movement_keeps_all before truncate on stock_movement
  for each statement execute function refuse_change();
