-- The customer's page of a job: an address that nobody can guess.
create table job_page (
  job_id bigint primary key references job,
  token text not null unique,
  made_at timestamptz not null,
  -- When the customer first read it.
  opened_at timestamptz,
  withdrawn_at timestamptz
);

-- A report of a visit that went to its customer.
create table sent_report (
  id bigint generated always as identity primary key,
  visit_id bigint not null references visit,
  to_address text not null check (to_address <> ''),
  with_prices boolean not null,
  sent_at timestamptz not null,
  sent_by bigint not null references person
);
create index on sent_report (visit_id);
create index on sent_report (sent_by);

alter table mail add foreign key (report_visit_id) references visit;
