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
  method text not null check (method in ('bank_transfer', 'card', 'cash', 'cheque')),
  card_payment_id bigint unique references card_payment,
  journal_entry_id bigint not null references journal_entry
);
create index on deposit (quote_id);
create index on deposit (journal_entry_id);

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
create index on deposit_use (journal_entry_id);
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
