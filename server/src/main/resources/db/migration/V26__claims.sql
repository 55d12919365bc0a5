-- What a manufacturer is asked to bear of a job under its warranty.
create table warranty_claim (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  manufacturer text not null check (length(manufacturer) between 1 and 120),
  what text not null check (length(what) between 1 and 300),
  claimed_minor bigint not null check (claimed_minor > 0),
  state text not null check (state in ('open', 'sent', 'credited', 'refused')),
  made_on date not null,
  sent_on date,
  decided_on date,
  -- Why it was refused; empty for none.
  reason text not null default '' check (length(reason) <= 300),
  -- By which the cost of the job is less since it was credited.
  other_cost_id bigint unique references other_cost,
  -- Which reminds the office of it.
  to_do_id bigint not null references to_do,
  version integer not null default 1,
  check ((state = 'credited') = (other_cost_id is not null))
);
create index on warranty_claim (job_id);
create index on warranty_claim (to_do_id);
