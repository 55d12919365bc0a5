-- What closing a list of checked jobs by invoices leaves in the tables, from rows that are known beforehand ("posted").
-- It reads no job, computes nothing and tells nobody: the least that the same rows can cost with the same triggers and indexes.

insert into repeatable_request table posted.repeatable_request;

update number_series s set next_number = p.next_number
  from posted.number_series p where p.series = s.series;

insert into invoice overriding system value table posted.invoice;

insert into invoice_text table posted.invoice_text;

insert into bill table posted.bill;

insert into invoice_line table posted.invoice_line;

insert into invoice_deduction table posted.invoice_deduction;

insert into invoice_vat table posted.invoice_vat;

insert into cost_release overriding system value table posted.cost_release;

update time_entry t set cost_release_id = p.cost_release_id
  from posted.time_entry p where p.id = t.id;

update visit_part t set cost_release_id = p.cost_release_id
  from posted.visit_part p where p.id = t.id;

update other_cost t set cost_release_id = p.cost_release_id
  from posted.other_cost p where p.id = t.id;

update drive_home_share t set cost_release_id = p.cost_release_id
  from posted.drive_home_share p where p.id = t.id;

update job t set version = p.version
  from posted.job p where p.id = t.id;

insert into receivable (invoice_id, customer_id, number, invoice_date, due_date, gross_minor, credited_minor, allocated_minor, version)
  select invoice_id, customer_id, number, invoice_date, due_date, gross_minor, credited_minor, allocated_minor, version
  from posted.receivable;

insert into receivable_job table posted.receivable_job;

-- What is left of a receipt follows by a trigger.
insert into receipt_allocation overriding system value table posted.receipt_allocation;

update receipt t set version = p.version
  from posted.receipt p where p.id = t.id;

insert into journal_entry (id, number, entry_date, event, description, source_kind, source_id, source_number, reverses_id, posted_at, posted_by)
  overriding system value
  select id, number, entry_date, event, description, source_kind, source_id, source_number, reverses_id, posted_at, posted_by
  from posted.journal_entry;

insert into journal_line table posted.journal_line;

insert into audit_entry overriding system value table posted.audit_entry;

update standing t set stage = p.stage, day = p.day, value_minor = p.value_minor, remark = p.remark
  from posted.standing p where p.kind = t.kind and p.record_id = t.record_id and t.kind = 'job';

insert into standing select * from posted.standing where kind = 'invoice';
