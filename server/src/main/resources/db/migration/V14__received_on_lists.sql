-- What came in last for a job: the day, and all that came in the month of that day. The list of what came in this month
-- then sorts and adds up by the standing alone, as every other list does.
alter table standing
  add column received_on date,
  add column received_minor bigint,
  add constraint standing_received_check check ((received_on is null) = (received_minor is null));

update standing s set received_on = came.received_on, received_minor = came.received_minor
  from (
    select i.job_id, latest.received_on, sum(r.amount_minor) as received_minor
      from receipt r
      join invoice i on i.id = r.invoice_id
      join (select invoice_id, max(received_on) as received_on from receipt group by invoice_id) latest
        on latest.invoice_id = i.id
      where date_trunc('month', r.received_on) = date_trunc('month', latest.received_on)
      group by i.job_id, latest.received_on) came
  where s.kind = 'job' and s.record_id = came.job_id;

create index standing_by_receipt on standing (received_on, kind, record_id) include (received_minor)
  where received_on is not null;
drop index receipt_received_on_invoice_id_amount_minor_idx;

-- What became of the quotes of a year, and the jobs of a fault, are read from these alone.
create index quote_of_a_year on quote (created_at) include (kind_of_job_id, state, valid_until, net_minor)
  where state <> 'draft';
create index quote_not_won on quote (created_at) include (state, valid_until, decline_reason, net_minor)
  where state in ('sent', 'declined');
create index job_of_a_fault on job (created_at) include (id, fault_code, cause_code) where fault_code is not null;
