create table part (
  id bigint generated always as identity primary key,
  number text not null unique,
  name text not null,
  unit text not null default '',
  price numeric(14, 4) check (price >= 0),
  vat_code text not null references vat_treatment,
  -- Held in all places together; value / quantity is the moving-average cost.
  quantity numeric(14, 3) not null default 0 check (quantity >= 0),
  value_minor bigint not null default 0 check (value_minor >= 0),
  -- Of the last ones that were put in; what a quote reckons with while the shelf is empty.
  last_unit_cost numeric(18, 8) not null default 0 check (last_unit_cost >= 0),
  -- A part that is put on record as equipment once it is fitted, with the warranty that comes with it.
  equipment_kind_id bigint references equipment_kind,
  warranty_months smallint not null default 0 check (warranty_months between 0 and 240),
  check (quantity > 0 or value_minor = 0)
);
create index part_name_search on part using gin ((number || ' ' || name) gin_trgm_ops);
create index on part (equipment_kind_id) where equipment_kind_id is not null;
create index on part (vat_code);

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
create index on stock_movement (place_id);
create trigger stock_movement_inserts_only before update or delete on stock_movement
  for each row execute function refuse_change();
create trigger stock_movement_keeps_all before truncate on stock_movement
  for each statement execute function refuse_change();

create table stock_level (
  place_id bigint not null references stock_place,
  part_id bigint not null references part,
  quantity numeric(14, 3) not null,
  primary key (place_id, part_id)
);
create index on stock_level (part_id);
