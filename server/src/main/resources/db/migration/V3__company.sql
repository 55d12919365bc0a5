-- One row: the company whose books these are, as it stands on its documents, and what holds for them until somebody says
-- otherwise.
create table company (
  id smallint primary key default 1 check (id = 1),
  version integer not null default 0,
  name text not null check (name <> ''),
  address text not null,
  phone text not null default '',
  email text not null default '',
  vat_number text not null,
  -- Where customers pay to: the account as it is written at home, and by ISO 13616 and ISO 9362; empty for none.
  bank text not null default '',
  iban text not null default '' check (iban ~ '^([A-Z]{2}[0-9]{2}[A-Z0-9]{11,30})?$'),
  bic text not null default '' check (bic ~ '^([A-Z0-9]{8}([A-Z0-9]{3})?)?$'),
  currency char(3) not null check (currency ~ '^[A-Z]{3}$'),
  time_zone text not null,
  -- How numbers, days and words are written, such as en-GB (BCP 47).
  locale text not null check (locale ~ '^[a-z]{2,3}(-[A-Z]{2})?$'),
  -- How phone numbers and postcodes are written here.
  dialling_code text not null check (dialling_code ~ '^[0-9]{1,3}$'),
  postcode_pattern text not null,
  postcode_example text not null,
  quote_valid_days smallint not null check (quote_valid_days between 1 and 365),
  deposit_due_days smallint not null default 7 check (deposit_due_days between 0 and 90),
  follow_up_days smallint not null default 7 check (follow_up_days between 1 and 90),
  -- For how many days money may stand at a stage before it is marked.
  patience_quoted_days smallint not null default 14 check (patience_quoted_days between 1 and 365),
  patience_won_days smallint not null default 5 check (patience_won_days between 1 and 365),
  patience_worked_days smallint not null default 3 check (patience_worked_days between 1 and 365),
  patience_checked_days smallint not null default 3 check (patience_checked_days between 1 and 365),
  -- In so many working days somebody is to have seen to a part that is wanted.
  part_wanted_days smallint not null default 1 check (part_wanted_days between 0 and 30),
  -- What people are paid for beside visits, as phones offer it.
  other_work text[] not null default '{}',
  -- For so many days it is kept where a phone was when a clock was tapped; 0 where nobody is to know.
  tap_position_days smallint not null default 0 check (tap_position_days between 0 and 365),
  -- When customers are reminded of the next workday's visits; null for never.
  visit_reminder_at time default '16:00',
  floor_margin_percent numeric(5, 2) not null,
  -- When all of it was last kept in a file; null for never.
  backed_up_at timestamptz,
  -- So long after the sign-in those who work at a desk sign in again.
  desk_session_hours smallint not null default 12 check (desk_session_hours between 1 and 24),
  -- The office's own words around what each mail about a quote has to say; empty for none.
  letter_opening text not null default '' check (length(letter_opening) <= 600),
  letter_closing text not null default '' check (length(letter_closing) <= 600)
);

-- All that prices or costs holds from a day on, until the next of its kind.

-- The picture at the head of documents.
create table company_logo (
  id smallint primary key default 1 check (id = 1) references company,
  png bytea not null
);

create table vat_treatment (
  code text primary key,
  -- Of EN 16931 (UNCL 5305): rated, zero, exempt, reverse charge, outside scope.
  category text not null check (category in ('S', 'Z', 'E', 'AE', 'O')),
  -- Why there is no tax, as documents say it.
  reason text not null default '' check (length(reason) <= 200),
  -- The one that is taken where nobody says another.
  usual boolean not null default false,
  check ((reason <> '') = (category in ('E', 'AE', 'O')))
);
create unique index vat_treatment_usual on vat_treatment (usual) where usual;

-- Of those that are rated.
create table vat_percent (
  vat_code text not null references vat_treatment,
  from_day date not null,
  percent numeric(5, 2) not null check (percent > 0 and percent <= 100),
  primary key (vat_code, from_day)
);

create table working_hours (
  from_day date primary key,
  -- Monday is 1 (ISO 8601).
  normal_days smallint[] not null check (cardinality(normal_days) between 1 and 7 and normal_days <@ array[1, 2, 3, 4, 5, 6, 7]::smallint[]),
  normal_from time not null,
  normal_to time not null,
  night_from time not null,
  night_to time not null,
  on_holidays text not null check (on_holidays in ('normal', 'overtime', 'night')),
  check (night_to <= normal_from and normal_from < normal_to and normal_to <= night_from)
);

-- How time is paid.
create table pay_terms (
  from_day date primary key,
  -- Normal time past which a day or a week is overtime; null for however much.
  daily_minutes smallint check (daily_minutes between 1 and 1440),
  weekly_minutes smallint check (weekly_minutes between 1 and 10080),
  -- Monday is 1 (ISO 8601).
  weekend smallint[] not null check (weekend <@ array[1, 2, 3, 4, 5, 6, 7]::smallint[]),
  breaks_paid boolean not null,
  rounding_minutes smallint not null check (rounding_minutes between 1 and 60),
  overtime_factor numeric(6, 4) not null check (overtime_factor > 0),
  night_factor numeric(6, 4) not null check (night_factor > 0),
  weekend_factor numeric(6, 4) not null check (weekend_factor > 0),
  holiday_factor numeric(6, 4) not null check (holiday_factor > 0)
);

create table charge_terms (
  from_day date primary key,
  step_minutes smallint not null check (step_minutes between 1 and 240),
  minimum_minutes smallint not null check (minimum_minutes between 0 and 480),
  drive_charge text not null check (drive_charge in ('per_call_out', 'per_hour', 'per_mile', 'none')),
  drive_charge_price numeric(14, 4) not null check (drive_charge_price >= 0),
  other_markup_share numeric(6, 4) not null check (other_markup_share >= 0),
  payment_days smallint not null check (payment_days between 0 and 180)
);

create table cost_terms (
  from_day date primary key,
  standard_cost_per_hour numeric(12, 4) not null check (standard_cost_per_hour > 0),
  overhead_per_hour numeric(12, 4) not null check (overhead_per_hour >= 0)
);

-- By how much parts without a price of their own are marked up; all bands of a day hold together.
create table markup_band (
  from_day date not null,
  up_to_cost_minor bigint not null check (up_to_cost_minor > 0),
  markup_share numeric(6, 4) not null check (markup_share >= 0),
  primary key (from_day, up_to_cost_minor)
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
  from_day date not null,
  priority text not null check (priority in ('emergency', 'urgent', 'normal', 'low')),
  minutes integer not null check (minutes between 15 and 60000),
  -- Counted in the company's working hours, or around the clock.
  around_the_clock boolean not null default false,
  primary key (response_terms_id, from_day, priority)
);

-- Counts every change of what stands above and of wages, so that whoever keeps a reading of them in memory knows when
-- it is old.
create table settings_version (
  id smallint primary key default 1 check (id = 1),
  version bigint not null
);
insert into settings_version (version) values (0);

create function settings_changed() returns trigger language plpgsql as $$
begin
  update settings_version set version = version + 1;
  return null;
end $$;

do $$
declare
  settings text;
begin
  foreach settings in array array['company', 'vat_treatment', 'vat_percent', 'working_hours', 'pay_terms', 'charge_terms', 'cost_terms',
      'markup_band', 'rate_class_terms', 'vehicle_cost', 'holiday', 'response_terms', 'response_time',
      'number_range'] loop
    execute format('create trigger settings_changed after insert or update or delete on %I
      for each statement execute function settings_changed()', settings);
  end loop;
end $$;

create table wage (
  person_id bigint not null,
  from_day date not null,
  wage_per_hour numeric(12, 4) not null check (wage_per_hour > 0),
  on_cost_share numeric(6, 4) not null check (on_cost_share >= 0),
  primary key (person_id, from_day)
);
create trigger settings_changed after insert or update or delete on wage
  for each statement execute function settings_changed();
