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
  -- Used though all places together held none of it, and what stock differences bear for it until something explains it.
  unexplained_quantity numeric(14, 3) not null default 0 check (unexplained_quantity >= 0),
  unexplained_minor bigint not null default 0 check (unexplained_minor >= 0),
  check (quantity > 0 or value_minor = 0),
  check (unexplained_quantity > 0 or unexplained_minor = 0),
  check (unexplained_quantity = 0 or quantity = 0)
);
create index part_name_search on part using gin ((number || ' ' || name) gin_trgm_ops);
create index on part (equipment_kind_id) where equipment_kind_id is not null;
create index on part (vat_code);

-- What is printed on a part's box, by which a camera knows it; whoever said it last is believed.
create table part_code (
  code text primary key check (length(code) between 3 and 80),
  part_id bigint not null references part,
  noted_at timestamptz not null,
  noted_by bigint not null references person
);
create index on part_code (part_id);
create index on part_code (noted_by);

create table stock_place (
  id bigint generated always as identity primary key,
  name text not null unique,
  person_id bigint unique references person
);

-- Every change of stock, at cost. Grows only; levels are what it adds up to. What the books did not hold moves in no place:
-- a place that gave more than it held stays below zero.
create table stock_movement (
  id bigint generated always as identity primary key,
  part_id bigint not null references part,
  kind text not null,
  place_id bigint references stock_place,
  quantity numeric(14, 3) not null check (quantity <> 0),
  cost_minor bigint not null,
  moved_at timestamptz not null,
  moved_by bigint not null references person,
  check (sign(quantity) = sign(cost_minor) or cost_minor = 0),
  check ((place_id is null) = (kind in ('beyond_stock', 'explained')))
);
create index on stock_movement (moved_by);
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
create index on stock_level (place_id, part_id) where quantity < 0;

-- Parts that one side of a move has offered or asked for, until the other side says yes or no.
create table handover (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  part_id bigint not null references part,
  from_place_id bigint not null references stock_place,
  to_place_id bigint not null references stock_place,
  quantity numeric(14, 3) not null check (quantity > 0),
  state text not null check (state in ('waiting', 'agreed', 'refused', 'withdrawn')),
  asked_at timestamptz not null,
  asked_by bigint not null references person,
  -- Whose yes it waits for; null for the office, which has a to-do then.
  answer_person_id bigint references person,
  to_do_id bigint references to_do,
  answered_at timestamptz,
  answered_by bigint references person,
  check (from_place_id <> to_place_id),
  check ((state = 'waiting') = (answered_at is null) and (answered_at is null) = (answered_by is null))
);
create index on handover (part_id);
create index on handover (from_place_id);
create index on handover (to_place_id);
create index on handover (asked_by);
create index on handover (answer_person_id) where answer_person_id is not null;
create index on handover (to_do_id) where to_do_id is not null;
create index on handover (answered_by) where answered_by is not null;
create index on handover (id) where state = 'waiting';
