-- Where the money of each quote and job stands, with the figures that its list shows: worked out by the core whenever
-- one of them changes, so that lists of any length are sorted, filtered and added up by the database.
create table standing (
  kind text not null check (kind in ('quote', 'job')),
  record_id bigint not null,
  stage text not null
    check (stage in ('quoted', 'won', 'booked', 'worked', 'checked', 'billed', 'settled')),
  -- Since when it stands here, or its planned or due day.
  day date not null,
  -- A sent quote's last day.
  valid_until date,
  value_minor bigint not null,
  margin_percent numeric(9, 2),
  technician_id bigint references person,
  remark text not null,
  -- Quoted and actual cost of labour, drive, parts and other, in this order.
  rungs bigint[] not null check (cardinality(rungs) = 8),
  primary key (kind, record_id)
);
create index standing_by_age on standing (stage, day, kind, record_id) include (value_minor, valid_until)
  where stage <> 'settled';
create index standing_by_value on standing (stage, value_minor desc, kind, record_id) where stage <> 'settled';
create index standing_by_margin on standing (stage, coalesce(margin_percent, -1000000), kind, record_id)
  where stage <> 'settled';
create index on receipt (received_on);
create index on invoice (due_date) include (owed_minor) where owed_minor > 0;
