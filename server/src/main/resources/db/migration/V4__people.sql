create table person (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  name text not null,
  username text not null unique,
  role text not null check (role in ('office', 'technician', 'bookkeeper', 'owner', 'customer', 'program')),
  active boolean not null default true,
  -- Whether a technician may put their own times right, and may see what is charged.
  may_backdate boolean not null default true,
  may_see_prices boolean not null default false,
  -- On which they worked here last, or will; their history stays.
  last_day date
);

-- Whoever has none cannot sign in.
create table password (
  person_id bigint primary key references person,
  hash text not null
);

-- A link with which somebody sets a password of their own, once; only the sum of its secret is kept (SHA-256).
create table password_link (
  secret_hash text primary key,
  person_id bigint not null references person,
  good_until timestamptz not null,
  used_at timestamptz
);
create index on password_link (person_id);
create index on password_link (good_until);

-- Whoever acts through a customer's link, and what the program does of itself: nobody signs in as these.
insert into person (id, name, username, role, active) overriding system value values
  (0, 'The customer', 'customer', 'customer', false),
  (-1, 'Pragmata', 'pragmata', 'program', false);

alter table audit_entry add foreign key (person_id) references person;
alter table repeatable_request add foreign key (person_id) references person;

alter table wage add foreign key (person_id) references person;

-- From where each session was begun, so that its owner knows it again.
create table sign_in (
  id bigint generated always as identity primary key,
  session_id char(36) not null unique,
  person_id bigint not null references person,
  address text not null,
  -- What the browser says of itself.
  browser text not null check (length(browser) <= 300),
  signed_in_at timestamptz not null default now()
);
create index on sign_in (person_id);

-- Sign-ins that were refused, so that whoever guesses has to wait, on whichever server.
create table refused_sign_in (
  id bigint generated always as identity primary key,
  -- As it was typed: it need not be anybody's.
  username text not null check (length(username) <= 100),
  address text not null,
  refused_at timestamptz not null default now()
);
create index on refused_sign_in (username, refused_at);
create index on refused_sign_in (address, refused_at);
create index on refused_sign_in (refused_at);
