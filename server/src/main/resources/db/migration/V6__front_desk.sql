create extension if not exists unaccent;
create extension if not exists fuzzystrmatch;

-- How numbers and postcodes are written here; both are settings, as the currency is.
alter table company
  add column dialling_code text not null default '44' check (dialling_code ~ '^[0-9]{1,3}$'),
  add column postcode_pattern text not null default '[A-Z]{1,2}[0-9][A-Z0-9]? [0-9][A-Z]{2}',
  add column postcode_example text not null default 'OS4 2TD';

create table holiday (
  day date primary key,
  name text not null check (name <> '')
);

-- What we promise a customer: how soon somebody is on site, by how pressing it is.
create table response_terms (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> '')
);

create table response_time (
  response_terms_id bigint not null references response_terms,
  priority text not null check (priority in ('emergency', 'urgent', 'normal', 'low')),
  minutes integer not null check (minutes between 15 and 60000),
  -- Counted in the company's working hours, or around the clock.
  around_the_clock boolean not null default false,
  primary key (response_terms_id, priority)
);

insert into response_terms (name) values ('Standard');
insert into response_time
  select id, priority, minutes, around_the_clock from response_terms,
    (values ('emergency', 240, true), ('urgent', 480, false), ('normal', 1800, false), ('low', 6000, false))
      as promised (priority, minutes, around_the_clock);

create table price_list (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> ''),
  parts_discount_share numeric(5, 4) not null default 0 check (parts_discount_share between 0 and 1)
);

alter table customer
  add column vat_number text not null default '',
  add column stop_reason text check (stop_reason <> ''),
  add column price_list_id bigint references price_list,
  add column response_terms_id bigint references response_terms,
  -- What another program calls this customer; it keeps an import from making doubles.
  add column reference text unique check (reference <> ''),
  -- The customer that took this one in; such a row only remembers.
  add column merged_into bigint references customer check (merged_into <> id);
create index on customer (merged_into) where merged_into is not null;
create index on customer (lower(name), id) where merged_into is null;
create index on customer (number) where merged_into is null;

create table contact (
  id bigint generated always as identity primary key,
  customer_id bigint not null references customer,
  -- Null for somebody who speaks for the customer everywhere.
  site_id bigint references site,
  name text not null check (name <> ''),
  phone text not null default '',
  email text not null default '',
  pays boolean not null default false,
  opens boolean not null default false,
  decides boolean not null default false,
  version integer not null default 1
);
create index on contact (customer_id);
create index on contact (site_id);
insert into contact (customer_id, site_id, name, phone, opens)
  select customer_id, id, contact_name, contact_phone, true from site where contact_name <> '';

alter table site
  drop column contact_name,
  drop column contact_phone,
  add column area text not null default '',
  add column latitude numeric(9, 6) check (latitude between -90 and 90),
  add column longitude numeric(9, 6) check (longitude between -180 and 180),
  add column version integer not null default 1,
  add check ((latitude is null) = (longitude is null));
drop index site_name_search;

create table equipment_kind (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> '')
);
insert into equipment_kind (name) select distinct model from equipment order by model;

alter table equipment
  add column equipment_kind_id bigint references equipment_kind,
  add column position text not null default '',
  add column removed_on date,
  add column replaced_by_id bigint unique references equipment check (replaced_by_id <> id),
  -- The part whose fitting put it on record.
  add column visit_part_id bigint references visit_part,
  add column version integer not null default 1,
  add check (replaced_by_id is null or removed_on is not null);
update equipment set equipment_kind_id = (select id from equipment_kind where name = model);
create index on equipment (visit_part_id) where visit_part_id is not null;

create table equipment_photo (
  equipment_id bigint primary key references equipment,
  media_type text not null check (media_type in ('image/jpeg', 'image/png', 'image/webp')),
  content bytea not null check (length(content) between 1 and 8000000),
  added_at timestamptz not null
);

-- A part that is put on record as equipment once it is fitted, with the warranty that comes with it.
alter table part
  add column equipment_kind_id bigint references equipment_kind,
  add column warranty_months smallint not null default 0 check (warranty_months between 0 and 240);

-- What the office wants everybody to see before they promise this customer anything.
create table customer_note (
  id bigint generated always as identity primary key,
  customer_id bigint not null references customer,
  text text not null check (text <> ''),
  pinned_at timestamptz not null,
  pinned_by bigint not null references person,
  unpinned_at timestamptz
);
create index on customer_note (customer_id);

create table fault_code (
  code text primary key check (code ~ '^[A-Z0-9-]{2,12}$'),
  name text not null unique check (name <> ''),
  active boolean not null default true
);

create table cause_code (
  code text primary key check (code ~ '^[A-Z0-9-]{2,12}$'),
  name text not null unique check (name <> ''),
  active boolean not null default true
);

-- The questions that are asked on the phone about one kind of equipment.
create table fault_talk (
  id bigint generated always as identity primary key,
  equipment_kind_id bigint not null unique references equipment_kind,
  version integer not null default 1
);

create table talk_question (
  fault_talk_id bigint not null references fault_talk,
  number smallint not null check (number > 0),
  text text not null check (text <> ''),
  primary key (fault_talk_id, number)
);

-- An answer leads on to a question, or ends the talk: solved on the phone, or with a job.
create table talk_answer (
  fault_talk_id bigint not null,
  question_number smallint not null,
  position smallint not null check (position > 0),
  text text not null check (text <> ''),
  next_question smallint,
  solution text check (solution <> ''),
  fault_code text references fault_code,
  priority text check (priority in ('emergency', 'urgent', 'normal', 'low')),
  expected_minutes integer check (expected_minutes between 5 and 960),
  primary key (fault_talk_id, question_number, position),
  foreign key (fault_talk_id, question_number) references talk_question,
  foreign key (fault_talk_id, next_question) references talk_question,
  check (num_nonnulls(next_question, solution, priority) = 1),
  check ((priority is null) = (expected_minutes is null)),
  check (next_question is null or fault_code is null)
);

-- A job can come straight from a call, without a quote.
alter table job
  alter column quote_id drop not null,
  add column notes text not null default '',
  add column priority text check (priority in ('emergency', 'urgent', 'normal', 'low')),
  add column fault_code text references fault_code,
  add column cause_code text references cause_code,
  add column respond_by timestamptz,
  add column respond_around_the_clock boolean not null default false,
  -- When somebody was first on site.
  add column responded_at timestamptz,
  add check ((priority is null) = (respond_by is null)),
  add check (quote_id is not null or billing_basis <> 'fixed_price');
create index on job (site_id);
create index on job (equipment_id) where equipment_id is not null;
create index on quote (site_id);

create table to_do (
  id bigint generated always as identity primary key,
  what text not null check (what <> ''),
  for_person_id bigint not null references person,
  due_day date not null,
  customer_id bigint references customer,
  job_id bigint references job,
  quote_id bigint references quote,
  state text not null default 'open' check (state in ('open', 'done', 'dropped')),
  outcome text check (outcome <> ''),
  created_at timestamptz not null,
  created_by bigint not null references person,
  closed_at timestamptz,
  closed_by bigint references person,
  version integer not null default 1,
  check ((state = 'open') = (closed_at is null)),
  check ((closed_at is null) = (closed_by is null)),
  check ((state = 'open') = (outcome is null))
);
create index on to_do (for_person_id, due_day, id) where state = 'open';
create index on to_do (due_day, id) where state = 'open';
create index on to_do (closed_at desc, id) where state <> 'open';
create index on to_do (customer_id);
create index on to_do (job_id) where job_id is not null;
create index on to_do (quote_id) where quote_id is not null;

-- A call as it was taken, and what came of it. Grows only.
create table call (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  taken_by bigint not null references person,
  customer_id bigint not null references customer,
  site_id bigint references site,
  equipment_id bigint references equipment,
  about text not null check (about <> ''),
  outcome text not null check (outcome in ('noted', 'solved', 'job', 'quote', 'to_do')),
  -- What solved it, when it was solved on the phone.
  solution text check (solution <> ''),
  fault_code text references fault_code,
  -- The questions and answers, one a line, when a fault talk led here.
  talk text not null default '',
  job_id bigint references job,
  quote_id bigint references quote,
  to_do_id bigint references to_do,
  check ((outcome = 'solved') = (solution is not null)),
  check ((outcome = 'job') = (job_id is not null)),
  check ((outcome = 'quote') = (quote_id is not null)),
  check ((outcome = 'to_do') = (to_do_id is not null))
);
create index on call (customer_id, at desc);
create index on call (fault_code) where fault_code is not null;
create index on call (job_id) where job_id is not null;

-- A posted invoice goes to another customer only when that one took in the customer it was posted for.
create or replace function refuse_change_of_posted_invoice() returns trigger language plpgsql as $$
begin
  if to_jsonb(new) - 'owed_minor' - 'version' - 'customer_id'
      <> to_jsonb(old) - 'owed_minor' - 'version' - 'customer_id'
    or (new.customer_id <> old.customer_id
      and not exists (select from customer where id = old.customer_id and merged_into = new.customer_id)) then
    raise exception 'Invoice % is posted: only what is owed on it changes', old.number using errcode = 'PR001';
  end if;
  return new;
end $$;
create index on invoice (customer_id, due_date) where owed_minor > 0;
