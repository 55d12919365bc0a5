create table quote (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  customer_id bigint not null references customer,
  site_id bigint not null references site,
  equipment_id bigint references equipment,
  kind_of_job_id bigint not null references kind_of_job,
  title text not null,
  promise text not null check (promise in ('fixed_price', 'estimate', 'not_more_than')),
  state text not null check (state in ('draft', 'sent', 'accepted', 'declined')),
  -- Which edition is being written or was sent last; a sent one is frozen, changing it begins the next.
  edition smallint not null default 1 check (edition between 1 and 999),
  valid_until date not null,
  notes text not null default '',
  own_notes text not null default '',
  -- What comes off the whole, and what is asked for before the work: an amount, a share, or nothing.
  discount_minor bigint check (discount_minor >= 0),
  discount_share numeric(5, 4) check (discount_share between 0 and 1),
  deposit_minor bigint check (deposit_minor >= 0),
  deposit_share numeric(5, 4) check (deposit_share between 0 and 1),
  deposit_due_days smallint not null default 7 check (deposit_due_days between 0 and 90),
  net_minor bigint not null default 0,
  vat_minor bigint not null default 0,
  cost_minor bigint not null default 0,
  created_at timestamptz not null,
  sent_at timestamptz,
  decided_at timestamptz,
  answered_by text check (answered_by in ('customer', 'office')),
  accepted_by text,
  decline_reason text,
  version integer not null default 1,
  check (num_nonnulls(discount_minor, discount_share) <= 1),
  check (num_nonnulls(deposit_minor, deposit_share) <= 1),
  check ((state = 'draft') = (sent_at is null)),
  check ((state in ('accepted', 'declined')) = (decided_at is not null)),
  check ((state = 'accepted') = (accepted_by is not null)),
  check ((state = 'declined') = (decline_reason is not null))
);
create index on quote (customer_id);
create index on quote (site_id);
create index on quote (state);
create index on quote (equipment_id) where equipment_id is not null;
create index on quote (kind_of_job_id);
-- What became of the quotes of a year is read from these alone.
create index quote_of_a_year on quote (created_at) include (kind_of_job_id, state, valid_until, net_minor)
  where state <> 'draft';
create index quote_not_won on quote (created_at) include (state, valid_until, decline_reason, net_minor)
  where state in ('sent', 'declined');

alter table accepted_quote add foreign key (quote_id) references quote;
alter table to_do add foreign key (quote_id) references quote;

create table quote_line (
  quote_id bigint not null references quote,
  position smallint not null,
  category text not null check (category in ('labour', 'drive', 'parts', 'other', 'heading', 'text')),
  description text not null,
  minutes integer check (minutes >= 0),
  rate_class text check (rate_class in ('normal', 'overtime', 'night')),
  miles numeric(8, 1) check (miles >= 0),
  part_id bigint references part,
  quantity numeric(14, 3) check (quantity > 0),
  -- Per hour for labour and drive, per unit for parts and other; exact.
  unit_cost numeric(18, 8) not null check (unit_cost >= 0),
  cost_per_mile numeric(12, 4),
  drive_charge text check (drive_charge in ('per_call_out', 'per_hour', 'per_mile', 'none')),
  unit_price numeric(14, 4) not null check (unit_price >= 0),
  vat_code text not null references vat_treatment,
  choice text not null default 'included' check (choice in ('included', 'option', 'alternative')),
  choice_group text not null default '',
  taken boolean not null default true,
  -- The line's own discount as it was agreed: an amount, a share, or nothing.
  agreed_discount_minor bigint check (agreed_discount_minor >= 0),
  agreed_discount_share numeric(5, 4) check (agreed_discount_share between 0 and 1),
  -- The share that the warranty covers, and why the line is not under it all the same.
  warranty_share numeric(5, 4) not null default 0 check (warranty_share between 0 and 1),
  warranty_exclusion text check (warranty_exclusion <> ''),
  -- What comes off the line, in this order: its own discount, what the warranty bears, its part of the quote's discount.
  discount_minor bigint not null default 0 check (discount_minor >= 0),
  warranty_reduction_minor bigint not null default 0 check (warranty_reduction_minor >= 0),
  discount_of_whole_minor bigint not null default 0 check (discount_of_whole_minor >= 0),
  primary key (quote_id, position),
  check ((category in ('labour', 'drive')) = (minutes is not null)),
  check ((category = 'labour') = (rate_class is not null)),
  check ((category = 'drive') = (miles is not null and cost_per_mile is not null)),
  check ((category = 'drive') = (drive_charge is not null)),
  check ((category = 'parts') = (part_id is not null)),
  check ((category in ('parts', 'other')) = (quantity is not null)),
  check (num_nonnulls(agreed_discount_minor, agreed_discount_share) <= 1),
  check (warranty_exclusion is null or warranty_reduction_minor = 0),
  check (choice <> 'included' or taken),
  check ((choice = 'alternative') = (choice_group <> ''))
);
create index on quote_line (part_id) where part_id is not null;
create index on quote_line (vat_code);

create table quote_stage (
  quote_id bigint not null references quote,
  position smallint not null,
  name text not null check (name <> ''),
  part_minor bigint check (part_minor >= 0),
  part_share numeric(5, 4) check (part_share between 0 and 1),
  check (num_nonnulls(part_minor, part_share) = 1),
  primary key (quote_id, position)
);

-- A sent quote exactly as the customer reads it.
create table quote_edition (
  quote_id bigint not null references quote,
  edition smallint not null,
  sent_at timestamptz not null,
  sent_by bigint not null references person,
  content text not null,
  content_hash text not null check (content_hash ~ '^[0-9a-f]{64}$'),
  net_minor bigint not null,
  cost_minor bigint not null,
  primary key (quote_id, edition)
);
create index on quote_edition (sent_by);
create trigger quote_edition_inserts_only before update or delete on quote_edition
  for each row execute function refuse_change();

alter table mail
  add foreign key (quote_id) references quote,
  add foreign key (quote_id, attached_edition) references quote_edition;

-- The customer's way in without a password.
create table quote_link (
  quote_id bigint primary key references quote,
  token text not null unique check (length(token) >= 32),
  made_at timestamptz not null,
  opened_at timestamptz,
  withdrawn_at timestamptz
);

-- Lines that are always quoted together, as they are typed; prices and costs are those of the day on which they are used.
create table kit (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> ''),
  lines jsonb not null
);

-- The lines with which quotes of a kind of job begin; none for labour of its length and a call-out.
alter table kind_of_job add column kit_id bigint references kit;
create index on kind_of_job (kit_id);

-- What was asked about a quote, and answered.
create table quote_question (
  id bigint generated always as identity primary key,
  quote_id bigint not null references quote,
  question text not null check (question <> ''),
  asked_at timestamptz not null,
  to_do_id bigint references to_do,
  answer text,
  answered_at timestamptz,
  answered_by bigint references person,
  check ((answer is null) = (answered_at is null) and (answer is null) = (answered_by is null))
);
create index on quote_question (quote_id);
create index on quote_question (answered_by) where answered_by is not null;
create index on quote_question (to_do_id) where to_do_id is not null;
