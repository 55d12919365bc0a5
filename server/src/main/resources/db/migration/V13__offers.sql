-- Exactly what the customer said yes to.
create table quote_acceptance (
  quote_id bigint primary key references quote,
  edition smallint not null,
  name text not null check (name <> ''),
  signature text not null check (signature <> ''),
  drawn boolean not null,
  accepted_at timestamptz not null,
  content text not null,
  content_hash text not null check (content_hash ~ '^[0-9a-f]{64}$'),
  foreign key (quote_id, edition) references quote_edition
);
create index on quote_acceptance (quote_id, edition);
create trigger quote_acceptance_inserts_only before update or delete on quote_acceptance
  for each row execute function refuse_change();
