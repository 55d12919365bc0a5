-- A list from another program, on its way into the records.
create table import (
  id bigint generated always as identity primary key,
  kind text not null check (kind in ('customers', 'sites', 'contacts', 'equipment', 'price_list')),
  file_name text not null,
  headings text[] not null,
  -- The column that each heading stands for; empty for one that is left out.
  mapping text[] not null,
  state text not null check (state in ('read', 'trying', 'tried', 'looking', 'taking', 'taken', 'failed')),
  row_count integer not null,
  -- How many rows the run is through with; a list goes on from here when its server was killed.
  rows_done integer not null default 0,
  added integer not null default 0,
  changed integer not null default 0,
  unchanged integer not null default 0,
  faulty integer not null default 0,
  -- Why it was not taken in, when it failed as a whole.
  problem text not null default '',
  uploaded_at timestamptz not null,
  uploaded_by bigint not null references person
);
create index on import (uploaded_at desc);
create index on import (uploaded_by);

-- The rows below the headings, numbered from 1, read once; deleted when the list is old.
create table import_row (
  import_id bigint not null references import,
  position integer not null,
  cells text[] not null,
  -- The places of the cells that hold a formula and no value, counted from 1.
  formulas smallint[] not null,
  primary key (import_id, position)
);

create table import_fault (
  import_id bigint not null references import,
  row_number integer not null,
  column_name text not null,
  message text not null
);
create index on import_fault (import_id, row_number);
