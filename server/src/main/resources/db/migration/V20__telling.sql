-- What a customer was told of a visit, in turn.
create table visit_message (
  id bigint generated always as identity primary key,
  visit_id bigint not null references visit,
  kind text not null check (kind in ('confirmed', 'changed', 'called_off', 'reminded', 'on_the_way', 'late')),
  told_by text not null check (told_by in ('mail', 'text')),
  address text not null check (address <> ''),
  -- How often the visit's entry in a calendar has changed (RFC 5545, 3.8.7.4).
  sequence smallint not null check (sequence >= 0),
  technician_id bigint not null references person,
  day date not null,
  start_time time not null,
  expected_minutes integer not null,
  told_at timestamptz not null
);
create index on visit_message (visit_id);
create index on visit_message (technician_id);

-- Text messages that are to go out or have gone.
create table text_message (
  id bigint generated always as identity primary key,
  to_number text not null check (to_number <> ''),
  body text not null check (body <> ''),
  queued_at timestamptz not null,
  -- Null while it waits.
  sent_at timestamptz
);
create index on text_message (queued_at);

-- The secret address under which somebody's own calendar reads their visits; without a row there is none.
create table calendar_feed (
  person_id bigint primary key references person,
  secret_hash bytea not null unique,
  made_at timestamptz not null
);
