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
  posted_at timestamptz not null,
  posted_by bigint not null references person,
  check (gross_minor = net_minor + vat_minor)
);
create index on invoice (invoice_date, id);
create index on invoice (customer_id);
create index on invoice (posted_by);

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
  category text not null check (category in ('labour', 'drive', 'parts', 'other')),
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
  net_minor bigint not null,
  vat_code text not null references vat_rate,
  -- Of EN 16931 (UNCL 5305), and as on the day of the invoice.
  vat_category char(1) not null,
  vat_percent numeric(5, 2) not null,
  primary key (invoice_id, position),
  check (net_minor = full_minor - discount_minor - warranty_reduction_minor)
);
create index on invoice_line (vat_code);

create table invoice_vat (
  invoice_id bigint not null references invoice,
  vat_code text not null references vat_rate,
  category char(1) not null,
  percent numeric(5, 2) not null,
  net_minor bigint not null,
  vat_minor bigint not null,
  primary key (invoice_id, vat_code)
);
create index on invoice_vat (vat_code);

alter table receivable add foreign key (invoice_id) references invoice;

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
