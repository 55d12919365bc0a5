-- Mail that is to go out; it stays here until it is taken or given up.
create table mail (
  id bigint generated always as identity primary key,
  to_address text not null,
  subject text not null,
  body text not null,
  -- Who it is for, and the quote that it is about.
  customer_id bigint,
  quote_id bigint,
  -- What goes into the reader's calendar (RFC 5545); null for nothing.
  calendar text,
  -- The edition of the quote that is printed from its frozen text when the message goes out.
  attached_edition smallint,
  -- The visit of which a report goes with it, and whether that says prices.
  report_visit_id bigint,
  report_with_prices boolean not null default false,
  state text not null check (state in ('waiting', 'going_out', 'sent', 'undeliverable')),
  queued_at timestamptz not null,
  -- Who is told when it cannot be delivered.
  queued_by bigint not null references person,
  attempts smallint not null default 0,
  -- When it is tried again; while it goes out, when another server may take it over.
  next_attempt_at timestamptz not null,
  sent_at timestamptz,
  last_fault text not null default '',
  check ((state = 'sent') = (sent_at is not null))
);
create index on mail (next_attempt_at) where state in ('waiting', 'going_out');
create index on mail (queued_by);
create index on mail (customer_id) where customer_id is not null;
create index on mail (quote_id, attached_edition);
create index on mail (report_visit_id) where report_visit_id is not null;

-- Which server takes our mail; no row while there is none.
create table mail_server (
  id smallint primary key default 1 check (id = 1),
  host text not null check (host <> ''),
  port integer not null check (port between 1 and 65535),
  encryption text not null check (encryption in ('none', 'starttls', 'tls')),
  -- Empty where the server asks nobody who it is.
  username text not null default '',
  password text not null default '',
  -- From whom mail comes; empty for the company's own address.
  from_address text not null default ''
);
