-- One row: the company whose books these are. Currency, time zone and charging rules are settings.
create table company (
  id smallint primary key default 1 check (id = 1),
  version integer not null default 0,
  name text not null,
  town text not null,
  vat_number text not null,
  currency char(3) not null,
  time_zone text not null,
  -- How phone numbers and postcodes are written here.
  dialling_code text not null default '44' check (dialling_code ~ '^[0-9]{1,3}$'),
  postcode_pattern text not null default '[A-Z]{1,2}[0-9][A-Z0-9]? [0-9][A-Z]{2}',
  postcode_example text not null default 'OS4 2TD',
  normal_days smallint[] not null,
  normal_from time not null,
  normal_to time not null,
  night_from time not null,
  night_to time not null,
  charging_step_minutes smallint not null check (charging_step_minutes between 1 and 240),
  minimum_minutes smallint not null check (minimum_minutes between 0 and 480),
  drive_charge text not null check (drive_charge in ('per_call_out', 'per_hour', 'per_mile', 'none')),
  drive_charge_price numeric(14, 4) not null check (drive_charge_price >= 0),
  other_markup_share numeric(6, 4) not null check (other_markup_share >= 0),
  standard_cost_per_hour numeric(12, 4) not null check (standard_cost_per_hour > 0),
  overhead_per_hour numeric(12, 4) not null check (overhead_per_hour >= 0),
  quote_valid_days smallint not null check (quote_valid_days between 1 and 365),
  deposit_due_days smallint not null default 7 check (deposit_due_days between 0 and 90),
  follow_up_days smallint not null default 7 check (follow_up_days between 1 and 90),
  floor_margin_percent numeric(5, 2) not null,
  -- The office's own words around what each mail about a quote has to say; empty for none.
  letter_opening text not null default '' check (length(letter_opening) <= 600),
  letter_closing text not null default '' check (length(letter_closing) <= 600)
);

create table vat_rate (
  code text primary key,
  category char(1) not null check (category in ('S', 'Z', 'E')),
  percent numeric(5, 2) not null check (percent between 0 and 100)
);

create table rate_class_terms (
  rate_class text not null check (rate_class in ('normal', 'overtime', 'night')),
  from_day date not null,
  cost_factor numeric(6, 4) not null check (cost_factor > 0),
  charge_per_hour numeric(14, 4) not null check (charge_per_hour >= 0),
  primary key (rate_class, from_day)
);

create table vehicle_cost (
  from_day date primary key,
  cost_per_mile numeric(12, 4) not null check (cost_per_mile >= 0)
);

create table holiday (
  day date primary key,
  name text not null check (name <> '')
);

-- What we promise a customer: how soon somebody is on site, by how pressing it is.
create table response_terms (
  id bigint generated always as identity primary key,
  version integer not null default 1,
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
