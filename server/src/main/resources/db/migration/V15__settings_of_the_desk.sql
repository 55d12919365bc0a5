-- What customers are promised and pay for parts is kept by the office itself.
alter table response_terms add column version integer not null default 1;
alter table price_list add column version integer not null default 1;
