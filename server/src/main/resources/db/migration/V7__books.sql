create table account (
  code text primary key,
  name text not null,
  kind text not null check (kind in ('asset', 'liability', 'income', 'expense'))
);

create table posting_account (
  posting_category text primary key,
  account_code text not null references account
);
create index on posting_account (account_code);

-- A month is open until somebody closes it.
create table period (
  month date primary key check (extract(day from month) = 1),
  closed_at timestamptz
);

create table journal_entry (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  entry_date date not null,
  event text not null,
  description text not null,
  source_type text not null,
  source_id bigint not null,
  -- The job of which it is, with its number as people read it.
  job_id bigint,
  job_number bigint,
  cost_centre text not null,
  reverses_id bigint unique references journal_entry,
  posted_at timestamptz not null,
  posted_by bigint not null references person,
  -- The database transaction that posted it, by which the lines know that they belong to it.
  posted_in bigint not null default pg_current_xact_id()::text::bigint
);
create index on journal_entry (job_id);
create index on journal_entry (source_type, source_id);
create index on journal_entry (entry_date, number);
create index on journal_entry (posted_by);

create table journal_line (
  entry_id bigint not null references journal_entry,
  position smallint not null,
  account_code text not null references account,
  debit_minor bigint not null check (debit_minor >= 0),
  credit_minor bigint not null check (credit_minor >= 0),
  primary key (entry_id, position),
  check ((debit_minor > 0) <> (credit_minor > 0))
);
create index on journal_line (account_code, entry_id);

create function refuse_unbalanced_entry() returns trigger language plpgsql as $$
declare
  checked bigint := case tg_table_name when 'journal_entry' then (to_jsonb(new) ->> 'id')::bigint
                                       else (to_jsonb(new) ->> 'entry_id')::bigint end;
  debits bigint;
  credits bigint;
begin
  select coalesce(sum(debit_minor), 0), coalesce(sum(credit_minor), 0) into debits, credits
    from journal_line where entry_id = checked;
  if debits <> credits or debits = 0 then
    raise exception 'Journal entry % does not balance: debit %, credit %', checked, debits, credits
      using errcode = 'PR002';
  end if;
  return null;
end $$;

create constraint trigger journal_entry_balances after insert on journal_entry
  deferrable initially deferred for each row execute function refuse_unbalanced_entry();
create constraint trigger journal_line_balances after insert on journal_line
  deferrable initially deferred for each row execute function refuse_unbalanced_entry();

create function refuse_closed_period() returns trigger language plpgsql as $$
begin
  if exists (select from period where month = date_trunc('month', new.entry_date)::date and closed_at is not null) then
    raise exception 'The period of % is closed', new.entry_date using errcode = 'PR003';
  end if;
  return new;
end $$;

create trigger journal_entry_in_open_period before insert on journal_entry
  for each row execute function refuse_closed_period();

-- An entry is complete when its transaction ends: nothing is added to it later, balanced or not.
create function refuse_line_of_older_entry() returns trigger language plpgsql as $$
begin
  if exists (select from journal_entry where id = new.entry_id and posted_in <> pg_current_xact_id()::text::bigint) then
    raise exception 'Journal entry % is posted: nothing is added to it', new.entry_id using errcode = 'PR001';
  end if;
  return new;
end $$;

create trigger journal_line_of_new_entry before insert on journal_line
  for each row execute function refuse_line_of_older_entry();

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
