-- What was agreed with a customer for work that comes again.
create table agreement (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  customer_id bigint not null references customer,
  name text not null check (length(name) between 1 and 120),
  from_day date not null,
  -- Its last day; null for without end.
  until_day date,
  version integer not null default 1,
  check (until_day >= from_day)
);
create index on agreement (customer_id);

-- Work at one site that an agreement makes come again.
create table round (
  id bigint generated always as identity primary key,
  agreement_id bigint not null references agreement,
  site_id bigint not null references site,
  equipment_id bigint references equipment,
  kind_of_job_id bigint not null references kind_of_job,
  title text not null check (length(title) between 1 and 120),
  expected_minutes integer not null check (expected_minutes between 5 and 960),
  -- What the customer pays each time, without VAT; null for by time and parts.
  price_minor bigint check (price_minor > 0),
  -- Whether that pays for the parts that are used, too.
  with_parts boolean not null,
  -- In the words that the core reads.
  repeats text not null check (length(repeats) between 1 and 400),
  from_day date not null,
  -- Null for as long as the agreement.
  until_day date,
  -- When it was written down: what was due before is nobody's to do.
  entered_on date not null,
  version integer not null default 1,
  check (until_day >= from_day),
  check (price_minor is not null or not with_parts)
);
create index on round (agreement_id);
create index on round (site_id);
create index on round (equipment_id) where equipment_id is not null;
create index on round (kind_of_job_id);

-- The days of rounds for which a job was opened, each once.
create table round_date (
  id bigint generated always as identity primary key,
  round_id bigint not null references round,
  due_on date not null,
  job_id bigint not null unique references job,
  -- Why it was not done that time, so that the round went on; empty while it did not.
  not_this_time text not null default '' check (length(not_this_time) <= 300),
  unique (round_id, due_on)
);
create index on round_date (due_on);
