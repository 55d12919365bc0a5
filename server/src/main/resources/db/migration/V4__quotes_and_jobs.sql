create table quote (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  customer_id bigint not null references customer,
  site_id bigint not null references site,
  equipment_id bigint references equipment,
  kind_of_job_id bigint not null references kind_of_job,
  title text not null,
  state text not null check (state in ('draft', 'sent', 'accepted', 'declined')),
  valid_until date not null,
  notes text not null default '',
  net_minor bigint not null default 0,
  vat_minor bigint not null default 0,
  cost_minor bigint not null default 0,
  created_at timestamptz not null,
  sent_at timestamptz,
  decided_at timestamptz,
  accepted_by text,
  decline_reason text,
  version integer not null default 1,
  check ((state = 'draft') = (sent_at is null)),
  check ((state in ('accepted', 'declined')) = (decided_at is not null)),
  check ((state = 'accepted') = (accepted_by is not null)),
  check ((state = 'declined') = (decline_reason is not null))
);
create index on quote (customer_id);
create index on quote (state);

create table quote_line (
  quote_id bigint not null references quote,
  position smallint not null,
  category text not null check (category in ('labour', 'drive', 'parts', 'other')),
  description text not null,
  minutes integer check (minutes >= 0),
  rate_class text check (rate_class in ('normal', 'overtime', 'night')),
  miles numeric(8, 1) check (miles >= 0),
  part_id bigint references part,
  quantity numeric(14, 3) check (quantity > 0),
  -- Per hour for labour and drive, per unit for parts and other; exact.
  unit_cost numeric(18, 8) not null check (unit_cost >= 0),
  cost_per_mile numeric(12, 4),
  unit_price_minor bigint not null check (unit_price_minor >= 0),
  vat_code text not null references vat_rate,
  primary key (quote_id, position),
  check ((category in ('labour', 'drive')) = (minutes is not null)),
  check ((category = 'labour') = (rate_class is not null)),
  check ((category = 'drive') = (miles is not null and cost_per_mile is not null)),
  check ((category = 'parts') = (part_id is not null)),
  check ((category in ('parts', 'other')) = (quantity is not null))
);

create table job (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  customer_id bigint not null references customer,
  site_id bigint not null references site,
  equipment_id bigint references equipment,
  quote_id bigint not null unique references quote,
  kind_of_job_id bigint not null references kind_of_job,
  title text not null,
  billing_basis text not null check (billing_basis in ('fixed_price', 'time_and_parts', 'not_charged')),
  not_charged_reason text,
  state text not null check (state in ('open', 'worked', 'checked', 'billed', 'settled', 'called_off')),
  state_since timestamptz not null,
  created_at timestamptz not null,
  version integer not null default 1,
  check ((billing_basis = 'not_charged') = (not_charged_reason is not null))
);
create index on job (state);
create index on job (customer_id);

alter table journal_entry add foreign key (job_id) references job;
alter table audit_entry add foreign key (job_id) references job;

create table visit (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  technician_id bigint references person,
  day date,
  start_time time,
  expected_minutes integer not null check (expected_minutes between 5 and 960),
  state text not null
    check (state in ('unplanned', 'planned', 'driving', 'on_site', 'finished', 'checked', 'not_this_time', 'called_off')),
  note text not null default '',
  reason text not null default '',
  finished_at timestamptz,
  checked_at timestamptz,
  checked_by bigint references person,
  version integer not null default 1,
  check (state = 'unplanned' or (technician_id is not null and day is not null and start_time is not null)),
  check ((state = 'checked') = (checked_at is not null and checked_by is not null)),
  check (state not in ('not_this_time', 'called_off') or reason <> '')
);
create index on visit (job_id);
create index on visit (technician_id, day);

create table time_entry (
  id bigint generated always as identity primary key,
  visit_id bigint not null references visit,
  person_id bigint not null references person,
  kind text not null check (kind in ('labour', 'drive')),
  rate_class text not null check (rate_class in ('normal', 'overtime', 'night')),
  started_at timestamptz not null,
  -- Null while the clock runs.
  ended_at timestamptz,
  miles numeric(8, 1) not null default 0 check (miles between 0 and 1000),
  description text not null default '',
  -- What it cost as approved at the check; null until then.
  time_cost_minor bigint check (time_cost_minor >= 0),
  distance_cost_minor bigint check (distance_cost_minor >= 0),
  version integer not null default 1,
  constraint ends_after_start check (ended_at >= started_at),
  constraint at_most_sixteen_hours check (ended_at - started_at <= interval '16 hours'),
  check (kind = 'drive' or miles = 0),
  check ((time_cost_minor is null) = (distance_cost_minor is null)),
  check (time_cost_minor is null or ended_at is not null),
  constraint one_clock_per_person
    exclude using gist (person_id with =, tstzrange(started_at, ended_at) with &&)
);
create index on time_entry (visit_id);

create table visit_part (
  id bigint generated always as identity primary key,
  visit_id bigint not null references visit,
  part_id bigint not null references part,
  quantity numeric(14, 3) not null check (quantity > 0),
  cost_minor bigint not null check (cost_minor >= 0),
  price_minor bigint not null check (price_minor >= 0),
  place_id bigint not null references stock_place,
  warranty_exclusion text check (warranty_exclusion <> ''),
  journal_entry_id bigint references journal_entry,
  added_at timestamptz not null,
  version integer not null default 1
);
create index on visit_part (visit_id);

create table other_cost (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  supplier text not null,
  description text not null,
  cost_minor bigint not null check (cost_minor > 0),
  vat_code text not null references vat_rate,
  added_at timestamptz not null,
  journal_entry_id bigint not null references journal_entry
);
create index on other_cost (job_id);

create table invoice (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  job_id bigint not null unique references job,
  customer_id bigint not null references customer,
  invoice_date date not null,
  due_date date not null check (due_date >= invoice_date),
  billing_basis text not null check (billing_basis in ('fixed_price', 'time_and_parts')),
  net_minor bigint not null check (net_minor >= 0),
  vat_minor bigint not null check (vat_minor >= 0),
  gross_minor bigint not null,
  owed_minor bigint not null,
  posted_at timestamptz not null,
  posted_by bigint not null references person,
  journal_entry_id bigint not null references journal_entry,
  version integer not null default 1,
  check (gross_minor = net_minor + vat_minor),
  check (owed_minor between 0 and gross_minor)
);
create index on invoice (customer_id);

create table invoice_line (
  invoice_id bigint not null references invoice,
  position smallint not null,
  category text not null check (category in ('labour', 'drive', 'parts', 'other')),
  description text not null,
  quantity numeric(14, 3) not null,
  unit text not null,
  unit_price_minor bigint not null,
  full_minor bigint not null,
  warranty_share numeric(5, 4) not null default 0,
  warranty_reduction_minor bigint not null default 0,
  net_minor bigint not null,
  vat_code text not null references vat_rate,
  primary key (invoice_id, position),
  check (net_minor = full_minor - warranty_reduction_minor)
);

create table invoice_vat (
  invoice_id bigint not null references invoice,
  vat_code text not null references vat_rate,
  percent numeric(5, 2) not null,
  net_minor bigint not null,
  vat_minor bigint not null,
  primary key (invoice_id, vat_code)
);

create table receipt (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  invoice_id bigint not null references invoice,
  received_on date not null,
  amount_minor bigint not null check (amount_minor > 0),
  method text not null check (method in ('bank transfer', 'card', 'cash', 'cheque')),
  journal_entry_id bigint not null references journal_entry
);
create index on receipt (invoice_id);

-- Lines and VAT of an invoice add up to what it says, to the penny.
create function refuse_invoice_that_does_not_add_up() returns trigger language plpgsql as $$
declare
  net_of_lines bigint := (select coalesce(sum(net_minor), 0) from invoice_line where invoice_id = new.id);
  net_of_rates bigint := (select coalesce(sum(net_minor), 0) from invoice_vat where invoice_id = new.id);
  vat_of_rates bigint := (select coalesce(sum(vat_minor), 0) from invoice_vat where invoice_id = new.id);
begin
  if new.net_minor <> net_of_lines or new.net_minor <> net_of_rates or new.vat_minor <> vat_of_rates then
    raise exception 'Invoice % does not add up: net %, lines %, rates %; VAT %, rates %',
      new.number, new.net_minor, net_of_lines, net_of_rates, new.vat_minor, vat_of_rates using errcode = 'PR004';
  end if;
  return null;
end $$;

create constraint trigger invoice_adds_up after insert on invoice
  deferrable initially deferred for each row execute function refuse_invoice_that_does_not_add_up();

-- Only what is still owed on a posted invoice ever changes.
create function refuse_change_of_posted_invoice() returns trigger language plpgsql as $$
begin
  if to_jsonb(new) - 'owed_minor' - 'version' <> to_jsonb(old) - 'owed_minor' - 'version' then
    raise exception 'Invoice % is posted: only what is owed on it changes', old.number using errcode = 'PR001';
  end if;
  return new;
end $$;

create trigger invoice_stays_as_posted before update on invoice
  for each row execute function refuse_change_of_posted_invoice();
create trigger invoice_is_never_deleted before delete on invoice
  for each row execute function refuse_change();
create trigger invoice_keeps_all before truncate on invoice
  for each statement execute function refuse_change();
create trigger invoice_vat_inserts_only before update or delete on invoice_vat
  for each row execute function refuse_change();
create trigger invoice_line_inserts_only before update or delete on invoice_line
  for each row execute function refuse_change();
create trigger receipt_inserts_only before update or delete on receipt
  for each row execute function refuse_change();
