create table account (
  code text primary key,
  name text not null,
  kind text not null check (kind in ('asset', 'liability', 'income', 'expense'))
);

-- Where what is posted goes, and where it went before.
create table posting_account (
  posting_category text not null,
  account_code text not null references account,
  now boolean not null default true,
  primary key (posting_category, account_code)
);
create index on posting_account (account_code);
create unique index one_account_now on posting_account (posting_category) where now;

-- The parts of the company that answer for what they sell and cost.
create table cost_centre (
  code text primary key check (code ~ '^[a-z0-9-]{2,30}$'),
  name text not null unique check (name <> '')
);

-- A month is a record from its first entry on, and open until somebody closes it.
create table period (
  month date primary key check (extract(day from month) = 1),
  closed_at timestamptz
);

create table journal_entry (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  entry_date date not null,
  period date not null references period
    generated always as (make_date(extract(year from entry_date)::integer, extract(month from entry_date)::integer, 1)) stored,
  event text not null,
  description text not null,
  -- The document or fact of which it is; its number as people read it, where it has one.
  source_kind text not null,
  source_id bigint not null,
  source_number bigint,
  reverses_id bigint unique references journal_entry,
  posted_at timestamptz not null,
  posted_by bigint not null references person
);
create index on journal_entry (source_kind, source_id);
create index on journal_entry (entry_date, number);
create index on journal_entry (period);
create index on journal_entry (posted_by);

create table journal_line (
  entry_id bigint not null references journal_entry,
  position smallint not null,
  account_code text not null references account,
  posting_category text not null,
  -- The job that it is of, with its number as people read it, and the part of the company that answers for it; null on
  -- the lines of control accounts.
  job_id bigint,
  job_number bigint,
  cost_centre text references cost_centre,
  debit_minor bigint not null check (debit_minor >= 0),
  credit_minor bigint not null check (credit_minor >= 0),
  primary key (entry_id, position),
  check ((debit_minor > 0) <> (credit_minor > 0)),
  check ((job_id is null) = (job_number is null)),
  check (job_id is null or cost_centre is not null)
);
create index on journal_line (account_code, entry_id);
create index on journal_line (job_id, posting_category) where job_id is not null;
create index on journal_line (posting_category, account_code);
create index on journal_line (cost_centre, account_code) where cost_centre is not null;

-- All lines of an entry are written by one statement, which is looked at once: they balance, and nothing is added to an
-- entry later, balanced or not.
create function refuse_unbalanced_entry() returns trigger language plpgsql as $$
declare
  bad record;
begin
  select entry_id, sum(debit_minor) as debits, sum(credit_minor) as credits into bad
    from posted group by entry_id having sum(debit_minor) <> sum(credit_minor) limit 1;
  if found then
    raise exception 'Journal entry % does not balance: debit %, credit %', bad.entry_id, bad.debits, bad.credits
      using errcode = 'PR002';
  end if;
  select p.entry_id into bad from (select entry_id, count(*) as lines from posted group by entry_id) p
    where p.lines <> (select count(*) from journal_line l where l.entry_id = p.entry_id) limit 1;
  if found then
    raise exception 'Journal entry % is posted: nothing is added to it', bad.entry_id using errcode = 'PR001';
  end if;
  return null;
end $$;
create trigger journal_line_balances after insert on journal_line
  referencing new table as posted for each statement execute function refuse_unbalanced_entry();

create function refuse_entry_without_lines() returns trigger language plpgsql as $$
begin
  if not exists (select from journal_line where entry_id = new.id) then
    raise exception 'Journal entry % has no lines', new.id using errcode = 'PR002';
  end if;
  return null;
end $$;
create constraint trigger journal_entry_has_lines after insert on journal_entry
  deferrable initially deferred for each row execute function refuse_entry_without_lines();

-- The periods are held until the entries stand, so that nobody closes one in between.
create function refuse_closed_period() returns trigger language plpgsql as $$
declare
  closed date;
begin
  perform from period where month in (select period from posted) order by month for share;
  select month into closed from period where month in (select period from posted) and closed_at is not null limit 1;
  if found then
    raise exception 'The period of % is closed', closed using errcode = 'PR003';
  end if;
  return null;
end $$;
create trigger journal_entry_in_open_period after insert on journal_entry
  referencing new table as posted for each statement execute function refuse_closed_period();

create trigger journal_entry_inserts_only before update or delete on journal_entry
  for each row execute function refuse_change();
create trigger journal_line_inserts_only before update or delete on journal_line
  for each row execute function refuse_change();
create trigger journal_entry_keeps_all before truncate on journal_entry
  for each statement execute function refuse_change();
create trigger journal_line_keeps_all before truncate on journal_line
  for each statement execute function refuse_change();

-- What each account adds up to, so that nobody adds up all its lines to see its balance. Entries take turns anyway, for
-- their numbers have no gaps.
create table account_total (
  account_code text primary key references account,
  debit_minor bigint not null,
  credit_minor bigint not null,
  lines bigint not null
);

create function account_total_follows() returns trigger language plpgsql as $$
begin
  insert into account_total
    select account_code, sum(debit_minor), sum(credit_minor), count(*) from posted group by account_code order by account_code
  on conflict (account_code) do update
    set debit_minor = account_total.debit_minor + excluded.debit_minor,
        credit_minor = account_total.credit_minor + excluded.credit_minor,
        lines = account_total.lines + excluded.lines;
  return null;
end $$;
create trigger account_total_follows after insert on journal_line
  referencing new table as posted for each statement execute function account_total_follows();
