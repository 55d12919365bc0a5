-- What each account adds up to, so that nobody adds up all its lines to see its balance. Entries take turns anyway, for
-- their numbers have no gaps.
create table account_total (
  account_code text primary key references account,
  debit_minor bigint not null,
  credit_minor bigint not null,
  lines bigint not null
);
insert into account_total
  select account_code, sum(debit_minor), sum(credit_minor), count(*) from journal_line group by account_code;

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
