-- What is offered: discounts, options, a deposit and stages, all as typed, such as "10%" or "45.00"; empty for none.
alter table company
  add column deposit_due_days smallint not null default 7 check (deposit_due_days between 0 and 90),
  add column follow_up_days smallint not null default 7 check (follow_up_days between 1 and 90);

alter table customer add column prices_with_vat boolean not null default false;

alter table quote
  add column discount text not null default '',
  add column deposit text not null default '',
  add column deposit_due_days smallint not null default 7 check (deposit_due_days between 0 and 90),
  add column own_notes text not null default '',
  -- Which edition is being written or was sent last; a sent one is frozen, changing it begins the next.
  add column edition smallint not null default 1 check (edition between 1 and 999),
  add column answered_by text check (answered_by in ('customer', 'office'));
update quote set answered_by = 'office' where decided_at is not null;

alter table quote_line
  drop constraint quote_line_category_check,
  add constraint quote_line_category_check check (category in ('labour', 'drive', 'parts', 'other', 'heading', 'text')),
  add column choice text not null default 'included' check (choice in ('included', 'option', 'alternative')),
  add column choice_group text not null default '',
  add column taken boolean not null default true,
  add column discount text not null default '',
  -- All that comes off the line, of its own discount and of the quote's.
  add column reduction_minor bigint not null default 0 check (reduction_minor >= 0),
  add check (choice <> 'included' or taken),
  add check ((choice = 'alternative') = (choice_group <> ''));

create table quote_stage (
  quote_id bigint not null references quote,
  position smallint not null,
  name text not null check (name <> ''),
  part text not null check (part <> ''),
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
create trigger quote_edition_inserts_only before update or delete on quote_edition
  for each row execute function refuse_change();

-- The customer's way in without a password.
create table quote_link (
  quote_id bigint primary key references quote,
  token text not null unique check (length(token) >= 32),
  made_at timestamptz not null,
  opened_at timestamptz,
  withdrawn_at timestamptz
);

-- Exactly what the customer said yes to.
create table quote_acceptance (
  quote_id bigint primary key references quote,
  edition smallint not null,
  name text not null check (name <> ''),
  signature text not null check (signature <> ''),
  drawn boolean not null,
  accepted_at timestamptz not null,
  content text not null,
  content_hash text not null check (content_hash ~ '^[0-9a-f]{64}$'),
  foreign key (quote_id, edition) references quote_edition
);
create trigger quote_acceptance_inserts_only before update or delete on quote_acceptance
  for each row execute function refuse_change();

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

-- Mail that is to go out; it stays here until it is taken or given up.
create table mail (
  id bigint generated always as identity primary key,
  to_address text not null,
  subject text not null,
  body text not null,
  attachment_name text,
  attachment bytea,
  quote_id bigint references quote,
  state text not null check (state in ('waiting', 'sent', 'undeliverable')),
  queued_at timestamptz not null,
  attempts smallint not null default 0,
  next_attempt_at timestamptz not null,
  sent_at timestamptz,
  last_fault text not null default '',
  check ((state = 'sent') = (sent_at is not null)),
  check ((attachment is null) = (attachment_name is null))
);
create index on mail (next_attempt_at) where state = 'waiting';
create index on mail (quote_id);

-- A payment by card from the moment it was asked for, whatever becomes of the answer.
create table card_payment (
  id bigint generated always as identity primary key,
  quote_id bigint not null references quote,
  reference text not null unique,
  amount_minor bigint not null check (amount_minor > 0),
  state text not null check (state in ('asked', 'taken', 'declined', 'not_taken')),
  asked_at timestamptz not null,
  answered_at timestamptz,
  check ((state = 'asked') = (answered_at is null))
);
-- One payment of a quote at a time: the next may begin only when the last is known to have failed.
create unique index card_payment_one_at_a_time on card_payment (quote_id) where state in ('asked', 'taken');

create table deposit (
  id bigint generated always as identity primary key,
  quote_id bigint not null references quote,
  amount_minor bigint not null check (amount_minor > 0),
  received_on date not null,
  method text not null check (method in ('bank transfer', 'card', 'cash', 'cheque')),
  card_payment_id bigint unique references card_payment,
  journal_entry_id bigint not null references journal_entry
);
create index on deposit (quote_id);

-- Where a deposit went: onto an invoice, or back.
create table deposit_use (
  id bigint generated always as identity primary key,
  deposit_id bigint not null references deposit,
  amount_minor bigint not null check (amount_minor > 0),
  used_on date not null,
  invoice_id bigint references invoice,
  journal_entry_id bigint not null references journal_entry
);
create index on deposit_use (deposit_id);
create index on deposit_use (invoice_id);
create trigger deposit_inserts_only before update or delete on deposit
  for each row execute function refuse_change();
create trigger deposit_use_inserts_only before update or delete on deposit_use
  for each row execute function refuse_change();

-- No more of a deposit is used than there is.
create function refuse_use_beyond_deposit() returns trigger language plpgsql as $$
declare
  held bigint;
begin
  select d.amount_minor - (select coalesce(sum(u.amount_minor), 0) from deposit_use u where u.deposit_id = d.id) into held
    from deposit d where d.id = new.deposit_id for update;
  if held < 0 then
    raise exception 'Deposit % is used beyond what it holds', new.deposit_id using errcode = 'PR005';
  end if;
  return null;
end $$;
create trigger deposit_use_within_deposit after insert on deposit_use
  for each row execute function refuse_use_beyond_deposit();

-- The card stand-in's own memory, as an outside service would have one.
create table card_stand_in (
  reference text primary key,
  amount_minor bigint not null,
  taken boolean not null,
  at timestamptz not null
);

-- Lines that are always quoted together, as they are typed; prices and costs are those of the day on which they are used.
create table kit (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> ''),
  lines jsonb not null
);

-- What such jobs really took is read from the newest of a kind.
create index job_done_by_kind on job (kind_of_job_id, id desc) where state in ('billed', 'settled');

-- Whoever acts through a customer's link; nobody signs in as this person.
alter table person drop constraint person_role_check;
alter table person add constraint person_role_check
  check (role in ('office', 'technician', 'bookkeeper', 'owner', 'customer'));
insert into person (id, name, username, password_hash, role, active)
  overriding system value values (0, 'The customer', 'customer', 'none', 'customer', false);
