-- Where the money of each quote, job and open invoice stands, and what came in, with the figures that its list shows: worked out by the core whenever
-- one of them changes, so that lists of any length are sorted, filtered and added up by the database.
create table standing (
  kind text not null check (kind in ('quote', 'job', 'invoice', 'receipt')),
  record_id bigint not null,
  stage text not null
    check (stage in ('quoted', 'won', 'booked', 'worked', 'checked', 'billed', 'paid', 'settled')),
  -- Since when it stands here, or its planned or due day.
  day date not null,
  -- A sent quote's last day.
  valid_until date,
  value_minor bigint not null,
  margin_percent numeric(9, 2),
  -- What a job that nobody has billed keeps at its end; null where nothing is to be said of it.
  forecast_percent numeric(9, 2),
  technician_id bigint references person,
  -- What it says of itself, and the number of visits or of the invoice that belongs to it.
  remark text not null,
  remark_number bigint,
  -- What the list is sorted and filtered by besides: the customer's name, and number, names and title, all in small
  -- letters.
  customer_name text not null,
  words text not null,
  -- Quoted and actual cost of labour, drive, parts and other, in this order.
  rungs bigint[] not null check (cardinality(rungs) = 8),
  -- Of an invoice its job; of a receipt the job, or the quote without one, of which it is.
  job_id bigint references job,
  quote_id bigint references quote,
  primary key (kind, record_id),
  check (kind in ('invoice', 'receipt') or job_id is null and quote_id is null)
);
create index standing_by_age on standing (stage, day, kind, record_id) include (value_minor, valid_until, forecast_percent)
  where stage <> 'settled';
-- At Paid is what came in this month, few of all that ever came in: found by its day, then sorted.
create index standing_by_value on standing (stage, value_minor desc, kind, record_id)
  where stage <> 'settled' and stage <> 'paid';
create index standing_by_margin on standing (stage, coalesce(forecast_percent, margin_percent, -1000000), kind, record_id)
  where stage <> 'settled' and stage <> 'paid';
create index standing_by_customer on standing (stage, customer_name, kind, record_id)
  where stage <> 'settled' and stage <> 'paid';
-- Of all jobs those that nobody has billed, by what they keep at their end.
create index standing_by_forecast on standing (forecast_percent, record_id)
  where kind = 'job' and forecast_percent is not null;
create index standing_by_technician on standing (stage, technician_id) where stage <> 'settled';
create index on standing (technician_id) where technician_id is not null;
create index on standing (job_id) where job_id is not null;
create index on standing (quote_id) where quote_id is not null;
