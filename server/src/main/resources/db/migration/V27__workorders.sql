-- Which reminds the office of the bill.
alter table work_order add column to_do_id bigint not null references to_do;
create index on work_order (to_do_id);
