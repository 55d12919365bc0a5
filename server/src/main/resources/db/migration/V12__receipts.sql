-- What a customer owes on an invoice that was posted.
create table receivable (
  invoice_id bigint primary key,
  customer_id bigint not null references customer,
  -- Of the invoice, and its dates.
  number bigint not null unique,
  invoice_date date not null,
  due_date date not null,
  -- Nothing where all was billed before.
  gross_minor bigint not null check (gross_minor >= 0),
  credited_minor bigint not null default 0 check (credited_minor >= 0),
  -- What of receipts went to it.
  allocated_minor bigint not null default 0,
  owed_minor bigint not null generated always as (gross_minor - credited_minor - allocated_minor) stored,
  version integer not null default 1,
  check (allocated_minor between 0 and gross_minor - credited_minor)
);
create index on receivable (customer_id);
create index on receivable (customer_id, due_date) include (owed_minor) where owed_minor > 0;
create index on receivable (due_date) include (owed_minor) where owed_minor > 0;

-- The jobs whose work an invoice charges.
create table receivable_job (
  invoice_id bigint not null references receivable,
  job_id bigint not null references job,
  -- Whether it asks for money ahead of work.
  ahead boolean not null,
  primary key (invoice_id, job_id)
);
create index on receivable_job (job_id);

-- A payment by card from the moment it was asked for, whatever becomes of the answer.
create table card_payment (
  id bigint generated always as identity primary key,
  -- What is paid: a quote by its customer, or a job on site by whoever takes the card.
  quote_id bigint references quote,
  job_id bigint references job,
  asked_by bigint references person,
  -- Where a receipt goes once the money is taken; empty for nowhere.
  receipt_to text not null default '',
  reference text not null unique,
  amount_minor bigint not null check (amount_minor > 0),
  state text not null check (state in ('asked', 'taken', 'declined', 'not_taken')),
  asked_at timestamptz not null,
  answered_at timestamptz,
  -- When the office was told that nobody knows what became of it.
  told_at timestamptz,
  check (num_nonnulls(quote_id, job_id) = 1),
  check ((job_id is null) = (asked_by is null)),
  check ((state = 'asked') = (answered_at is null))
);
-- One payment of a quote at a time: the next may begin only when the last is known to have failed.
create unique index card_payment_one_at_a_time on card_payment (quote_id) where state in ('asked', 'taken');
-- A job may be paid in several parts, one after the other.
create unique index card_payment_of_job_one_at_a_time on card_payment (job_id) where state = 'asked';
create index on card_payment (job_id) where job_id is not null;
create index on card_payment (asked_by) where asked_by is not null;

-- Money of a customer that came in.
create table receipt (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  customer_id bigint not null references customer,
  received_on date not null,
  amount_minor bigint not null check (amount_minor > 0),
  -- Neither allocated nor given back.
  left_minor bigint not null check (left_minor >= 0),
  method text not null check (method in ('bank_transfer', 'card', 'cash', 'cheque')),
  -- What it was earmarked for; until an invoice takes it, it is a deposit.
  quote_id bigint references quote,
  job_id bigint references job,
  card_payment_id bigint unique references card_payment,
  -- When it turned out not to have come after all, such as a cheque that bounced.
  taken_back_on date,
  taken_back_reason text check (taken_back_reason <> ''),
  entered_at timestamptz not null,
  version integer not null default 1,
  check (quote_id is null or job_id is null),
  check ((taken_back_on is null) = (taken_back_reason is null)),
  check (taken_back_on >= received_on)
);
create index on receipt (customer_id);
create index on receipt (quote_id) where quote_id is not null;
create index on receipt (job_id) where job_id is not null;
create index on receipt (received_on, id);
create index on receipt (received_on, id) where left_minor > 0;
create index receipt_held on receipt (number)
  where left_minor > 0 and (quote_id is not null or job_id is not null);

-- What of a receipt went to an invoice. Rows are never changed: one of the opposite sign takes one back.
create table receipt_allocation (
  id bigint generated always as identity primary key,
  receipt_id bigint not null references receipt,
  invoice_id bigint not null references receivable,
  takes_back_id bigint unique references receipt_allocation,
  amount_minor bigint not null check (amount_minor <> 0),
  allocated_on date not null,
  check ((amount_minor < 0) = (takes_back_id is not null))
);
create index on receipt_allocation (receipt_id);
create index on receipt_allocation (invoice_id);

-- What of a receipt was given back.
create table refund (
  id bigint generated always as identity primary key,
  receipt_id bigint not null references receipt,
  amount_minor bigint not null check (amount_minor > 0),
  refunded_on date not null
);
create index on refund (receipt_id);

-- What is left follows each use, and no more of a receipt is used than there is.
create function receipt_left_follows() returns trigger language plpgsql as $$
begin
  update receipt set left_minor = left_minor - new.amount_minor
    where id = new.receipt_id and left_minor >= new.amount_minor;
  if not found then
    raise exception 'Receipt % is used beyond what it holds', new.receipt_id using errcode = 'PR005';
  end if;
  return null;
end $$;
create trigger receipt_allocation_within_receipt after insert on receipt_allocation
  for each row execute function receipt_left_follows();
create trigger refund_within_receipt after insert on refund
  for each row execute function receipt_left_follows();

create trigger receipt_allocation_inserts_only before update or delete on receipt_allocation
  for each row execute function refuse_change();
create trigger refund_inserts_only before update or delete on refund
  for each row execute function refuse_change();

-- A receipt stays as it was entered; it can only be taken back, once, and goes to the customer that took its own in.
create function refuse_change_of_receipt() returns trigger language plpgsql as $$
begin
  if to_jsonb(new) - array['customer_id', 'left_minor', 'taken_back_on', 'taken_back_reason', 'version']
      <> to_jsonb(old) - array['customer_id', 'left_minor', 'taken_back_on', 'taken_back_reason', 'version']
    or old.taken_back_on is not null and new.taken_back_on is distinct from old.taken_back_on
    or new.customer_id <> old.customer_id
      and not exists (select from customer where id = old.customer_id and merged_into = new.customer_id) then
    raise exception 'Receipt % is entered: it can only be taken back', old.number using errcode = 'PR001';
  end if;
  if old.taken_back_on is null and new.taken_back_on is not null then
    if new.left_minor <> new.amount_minor then
      raise exception 'Receipt % is used beyond what it holds', old.id using errcode = 'PR005';
    end if;
    new.left_minor := 0;
  end if;
  return new;
end $$;
create trigger receipt_stays_as_entered before update on receipt
  for each row execute function refuse_change_of_receipt();
create trigger receipt_is_never_deleted before delete on receipt
  for each row execute function refuse_change();

-- The card stand-in's own memory, as an outside service would have one.
create table card_stand_in (
  reference text primary key,
  amount_minor bigint not null,
  -- Null for a card of which it never says anything.
  taken boolean,
  at timestamptz not null
);
