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

-- What was asked about a quote, and answered.
create table quote_question (
  id bigint generated always as identity primary key,
  quote_id bigint not null references quote,
  question text not null check (question <> ''),
  asked_at timestamptz not null,
  to_do_id bigint references to_do,
  answer text,
  answered_at timestamptz,
  answered_by bigint references person,
  check ((answer is null) = (answered_at is null) and (answer is null) = (answered_by is null))
);
create index on quote_question (quote_id);
create index on quote_question (answered_by) where answered_by is not null;
create index on quote_question (to_do_id) where to_do_id is not null;
