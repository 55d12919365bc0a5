create table person (
  id bigint generated always as identity primary key,
  name text not null,
  username text not null unique,
  password_hash text not null,
  role text not null check (role in ('office', 'technician', 'bookkeeper', 'owner', 'customer', 'program')),
  active boolean not null default true
);

-- Whoever acts through a customer's link, and what the program does of itself: nobody signs in as these.
insert into person (id, name, username, password_hash, role, active) overriding system value values
  (0, 'The customer', 'customer', 'none', 'customer', false),
  (-1, 'Pragmata', 'pragmata', 'none', 'program', false);

alter table audit_entry add foreign key (person_id) references person;
alter table repeatable_request add foreign key (person_id) references person;

alter table wage add foreign key (person_id) references person;

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
