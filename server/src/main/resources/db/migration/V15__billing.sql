create table invoice (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  customer_id bigint not null references customer,
  invoice_date date not null,
  due_date date not null check (due_date >= invoice_date),
  net_minor bigint not null check (net_minor >= 0),
  vat_minor bigint not null check (vat_minor >= 0),
  gross_minor bigint not null,
  posted_at timestamptz not null,
  posted_by bigint not null references person,
  check (gross_minor = net_minor + vat_minor)
);
create index on invoice (invoice_date, id);
create index on invoice (customer_id);
create index on invoice (posted_by);

-- What an invoice charges for each of its jobs: a stage of a fixed price ahead of work, some visits by time and parts, or
-- all that is left, which closes the job.
create table bill (
  invoice_id bigint not null references invoice,
  job_id bigint not null references job,
  kind text not null check (kind in ('stage', 'part', 'final')),
  billing_basis text not null check (billing_basis in ('fixed_price', 'time_and_parts', 'promised_on_site')),
  quote_id bigint,
  stage smallint,
  -- Of its lines, and what of them was billed ahead of work before.
  net_minor bigint not null,
  deducted_minor bigint not null check (deducted_minor >= 0),
  primary key (invoice_id, job_id),
  foreign key (quote_id, stage) references accepted_stage,
  check (case kind when 'stage' then quote_id is not null and stage is not null and billing_basis = 'fixed_price'
    else quote_id is null and stage is null end),
  check (kind <> 'part' or billing_basis = 'time_and_parts'),
  check (kind = 'final' or deducted_minor = 0)
);
create index on bill (job_id);
create index on bill (quote_id, stage) where quote_id is not null;

-- All of an invoice as it was posted, as text: seller, buyer, lines, VAT, terms and dates. Lists never read it.
create table invoice_text (
  invoice_id bigint primary key references invoice,
  content text not null,
  content_hash text not null,
  constraint content_as_posted check (content_hash = encode(sha256(convert_to(content, 'UTF8')), 'hex'))
);

create table invoice_line (
  invoice_id bigint not null references invoice,
  position smallint not null,
  job_id bigint not null references job,
  -- What it charges: a visit, a supplier's bill, else what was promised.
  visit_id bigint references visit,
  other_cost_id bigint references other_cost,
  -- None of a stage: nobody knows yet what the work takes.
  category text check (category in ('labour', 'drive', 'parts', 'other')),
  description text not null,
  quantity numeric(14, 3) not null,
  -- The price is for so many of the unit: time is in minutes, priced by the hour.
  unit text not null check (unit in ('minute', 'mile', 'piece')),
  price_base smallint not null check (price_base = case unit when 'minute' then 60 else 1 end),
  unit_price numeric(14, 4) not null,
  full_minor bigint not null,
  discount_minor bigint not null check (discount_minor >= 0),
  warranty_share numeric(5, 4) not null default 0,
  warranty_reduction_minor bigint not null default 0,
  -- What the warranty would have borne, had the line not been taken out of it.
  warranty_forgone_minor bigint not null default 0 check (warranty_forgone_minor >= 0),
  discount_of_whole_minor bigint not null default 0 check (discount_of_whole_minor >= 0),
  -- What goes beyond a promise of "not more than", or beyond what the customer was told, and is not charged.
  cut_minor bigint not null default 0 check (cut_minor >= 0),
  net_minor bigint not null,
  vat_code text not null references vat_treatment,
  -- Of EN 16931 (UNCL 5305), and as on the day of the invoice.
  vat_category text not null,
  vat_percent numeric(5, 2) not null,
  vat_reason text not null,
  -- Who said that it is treated so.
  vat_said_by text not null,
  primary key (invoice_id, position),
  foreign key (invoice_id, job_id) references bill,
  check (num_nonnulls(visit_id, other_cost_id) <= 1),
  check (net_minor = full_minor - discount_minor - warranty_reduction_minor - discount_of_whole_minor - cut_minor)
);
create index on invoice_line (vat_code);
create index on invoice_line (job_id, invoice_id);
create index on invoice_line (visit_id) where visit_id is not null;
create index on invoice_line (other_cost_id) where other_cost_id is not null;

-- What a final invoice takes off because a stage's invoice charged it before.
create table invoice_deduction (
  invoice_id bigint not null references invoice,
  position smallint not null,
  job_id bigint not null references job,
  stage_invoice_id bigint not null references invoice,
  vat_code text not null references vat_treatment,
  vat_category text not null,
  vat_percent numeric(5, 2) not null,
  vat_reason text not null,
  net_minor bigint not null check (net_minor > 0),
  primary key (invoice_id, position),
  foreign key (invoice_id, job_id) references bill,
  foreign key (stage_invoice_id, job_id) references bill
);
create index on invoice_deduction (stage_invoice_id, job_id);
create index on invoice_deduction (job_id, invoice_id);
create index on invoice_deduction (vat_code);

create table invoice_vat (
  invoice_id bigint not null references invoice,
  category text not null,
  percent numeric(5, 2) not null,
  reason text not null,
  net_minor bigint not null,
  vat_minor bigint not null,
  primary key (invoice_id, category, percent, reason)
);

alter table receivable add foreign key (invoice_id) references invoice;

-- What of an invoice is not charged after all: less of its price, or work taken back, which can then be billed again.
create table credit_note (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  invoice_id bigint not null references invoice,
  kind text not null check (kind in ('price', 'work_taken_back')),
  reason text not null check (reason <> ''),
  credit_date date not null,
  net_minor bigint not null check (net_minor >= 0),
  vat_minor bigint not null check (vat_minor >= 0),
  gross_minor bigint not null,
  posted_at timestamptz not null,
  posted_by bigint not null references person,
  check (gross_minor = net_minor + vat_minor)
);
create index on credit_note (invoice_id);
create index on credit_note (credit_date, id);
create index on credit_note (posted_by);

create table credit_note_text (
  credit_note_id bigint primary key references credit_note,
  content text not null,
  content_hash text not null,
  constraint credit_as_posted check (content_hash = encode(sha256(convert_to(content, 'UTF8')), 'hex'))
);

-- How much less is charged of a line.
create table credit_note_line (
  credit_note_id bigint not null references credit_note,
  invoice_id bigint not null,
  position smallint not null,
  net_minor bigint not null check (net_minor <> 0),
  primary key (credit_note_id, position),
  foreign key (invoice_id, position) references invoice_line
);
create index on credit_note_line (invoice_id, position);

-- What was billed ahead of work, and is again because the final invoice was taken back.
create table credit_note_deduction (
  credit_note_id bigint not null references credit_note,
  invoice_id bigint not null,
  position smallint not null,
  primary key (credit_note_id, position),
  -- Given back once, and whole.
  unique (invoice_id, position),
  foreign key (invoice_id, position) references invoice_deduction
);

create table credit_note_vat (
  credit_note_id bigint not null references credit_note,
  category text not null,
  percent numeric(5, 2) not null,
  reason text not null,
  net_minor bigint not null,
  vat_minor bigint not null,
  primary key (credit_note_id, category, percent, reason)
);

-- What is charged for jobs for good: the lines of their part and final bills, less what was credited of them.
create view sale as
  select l.job_id, l.category, l.net_minor from invoice_line l where l.category is not null
  union all select l.job_id, l.category, -c.net_minor
    from credit_note_line c join invoice_line l on l.invoice_id = c.invoice_id and l.position = c.position
    where l.category is not null;

-- What is billed ahead of the work of jobs: their stages less what was credited of them, until a final invoice takes it off.
create view billed_ahead as
  select l.job_id, l.net_minor from invoice_line l where l.category is null
  union all select l.job_id, -c.net_minor
    from credit_note_line c join invoice_line l on l.invoice_id = c.invoice_id and l.position = c.position
    where l.category is null
  union all select d.job_id, -d.net_minor from invoice_deduction d
  union all select d.job_id, d.net_minor
    from credit_note_deduction c join invoice_deduction d on d.invoice_id = c.invoice_id and d.position = c.position;

-- Lines, what comes off them and VAT of an invoice add up to what it says, to the penny.
create function refuse_invoice_that_does_not_add_up() returns trigger language plpgsql as $$
declare
  net_of_lines bigint := (select coalesce(sum(net_minor), 0) from invoice_line where invoice_id = new.id)
    - (select coalesce(sum(net_minor), 0) from invoice_deduction where invoice_id = new.id);
  net_of_bills bigint := (select coalesce(sum(net_minor - deducted_minor), 0) from bill where invoice_id = new.id);
  net_of_rates bigint := (select coalesce(sum(net_minor), 0) from invoice_vat where invoice_id = new.id);
  vat_of_rates bigint := (select coalesce(sum(vat_minor), 0) from invoice_vat where invoice_id = new.id);
begin
  if new.net_minor <> net_of_lines or new.net_minor <> net_of_bills or new.net_minor <> net_of_rates
    or new.vat_minor <> vat_of_rates then
    raise exception 'Invoice % does not add up: net %, lines %, bills %, rates %; VAT %, rates %',
      new.number, new.net_minor, net_of_lines, net_of_bills, net_of_rates, new.vat_minor, vat_of_rates
      using errcode = 'PR004';
  end if;
  return null;
end $$;

create constraint trigger invoice_adds_up after insert on invoice
  deferrable initially deferred for each row execute function refuse_invoice_that_does_not_add_up();

create function refuse_credit_that_does_not_add_up() returns trigger language plpgsql as $$
declare
  net_of_lines bigint := (select coalesce(sum(net_minor), 0) from credit_note_line where credit_note_id = new.id)
    - (select coalesce(sum(d.net_minor), 0) from credit_note_deduction c
        join invoice_deduction d using (invoice_id, position) where c.credit_note_id = new.id);
  net_of_rates bigint := (select coalesce(sum(net_minor), 0) from credit_note_vat where credit_note_id = new.id);
  vat_of_rates bigint := (select coalesce(sum(vat_minor), 0) from credit_note_vat where credit_note_id = new.id);
begin
  if new.net_minor <> net_of_lines or new.net_minor <> net_of_rates or new.vat_minor <> vat_of_rates then
    raise exception 'Credit note % does not add up: net %, lines %, rates %; VAT %, rates %',
      new.number, new.net_minor, net_of_lines, net_of_rates, new.vat_minor, vat_of_rates using errcode = 'PR004';
  end if;
  return null;
end $$;

create constraint trigger credit_note_adds_up after insert on credit_note
  deferrable initially deferred for each row execute function refuse_credit_that_does_not_add_up();

-- An invoice stays as it was posted; only it goes to the customer that took its own in.
create function refuse_change_of_posted_invoice() returns trigger language plpgsql as $$
begin
  if to_jsonb(new) - 'customer_id' <> to_jsonb(old) - 'customer_id'
    or (new.customer_id <> old.customer_id
      and not exists (select from customer where id = old.customer_id and merged_into = new.customer_id)) then
    raise exception 'Invoice % is posted: nothing on it changes', old.number using errcode = 'PR001';
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
create trigger invoice_text_inserts_only before update or delete on invoice_text
  for each row execute function refuse_change();
create trigger invoice_line_inserts_only before update or delete on invoice_line
  for each row execute function refuse_change();
create trigger bill_inserts_only before update or delete on bill
  for each row execute function refuse_change();
create trigger invoice_deduction_inserts_only before update or delete on invoice_deduction
  for each row execute function refuse_change();
create trigger credit_note_inserts_only before update or delete on credit_note
  for each row execute function refuse_change();
create trigger credit_note_text_inserts_only before update or delete on credit_note_text
  for each row execute function refuse_change();
create trigger credit_note_line_inserts_only before update or delete on credit_note_line
  for each row execute function refuse_change();
create trigger credit_note_deduction_inserts_only before update or delete on credit_note_deduction
  for each row execute function refuse_change();
create trigger credit_note_vat_inserts_only before update or delete on credit_note_vat
  for each row execute function refuse_change();

-- A supplier's bill as it came.
create table bill_file (
  other_cost_id bigint primary key references other_cost,
  name text not null check (length(name) between 1 and 200),
  media_type text not null check (media_type in ('application/pdf', 'image/jpeg', 'image/png')),
  content bytea not null check (length(content) between 1 and 8000000),
  added_at timestamptz not null
);
