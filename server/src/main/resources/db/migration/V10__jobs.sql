create extension if not exists btree_gist;

create table kind_of_job (
  id bigint generated always as identity primary key,
  name text not null unique,
  -- What its quotes promise unless they say otherwise.
  promise text not null check (promise in ('fixed_price', 'estimate', 'not_more_than')),
  default_minutes integer not null check (default_minutes between 5 and 960),
  -- How many people go together.
  crew_size smallint not null default 1 check (crew_size between 1 and 10),
  cost_centre text not null references cost_centre,
  -- How VAT applies to such jobs; null for as the customer's.
  vat_code text references vat_treatment,
  -- What a job straight from a call is taken for until somebody says otherwise.
  usual_for_calls boolean not null default false,
  -- What must be there before a technician finishes a visit.
  before_finish text[] not null default '{}' check (before_finish <@ array['photo', 'signature', 'cause']),
  -- Whether technicians start and finish the lines of the promise one by one.
  clock_per_line boolean not null default false
);
create index on kind_of_job (cost_centre);
create index on kind_of_job (vat_code) where vat_code is not null;
create unique index kind_of_job_usual_for_calls on kind_of_job (usual_for_calls) where usual_for_calls;

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

create table job (
  id bigint generated always as identity primary key,
  number bigint not null unique,
  customer_id bigint not null references customer,
  site_id bigint not null references site,
  equipment_id bigint references equipment,
  kind_of_job_id bigint not null references kind_of_job,
  -- How many people go together; null while it needs what its kind does. Otherwise its own skills count too.
  crew_size smallint check (crew_size between 1 and 10),
  -- As the kind had it when the job was opened: its books stay with one part of the company.
  cost_centre text not null references cost_centre,
  title text not null,
  notes text not null default '',
  billing_basis text not null check (billing_basis in ('fixed_price', 'time_and_parts', 'promised_on_site', 'not_charged')),
  not_charged_reason text,
  -- What the customer was told on site that it costs in all.
  told_minor bigint check (told_minor > 0),
  told_with_vat boolean,
  -- Why more is charged than was promised.
  above_promise_reason text check (above_promise_reason <> ''),
  -- How VAT applies to it, whatever its quotes say; null where nobody decided.
  vat_code text references vat_treatment,
  priority text check (priority in ('emergency', 'urgent', 'normal', 'low')),
  fault_code text references fault_code,
  cause_code text references cause_code,
  respond_by timestamptz,
  respond_around_the_clock boolean not null default false,
  -- When somebody was first on site.
  responded_at timestamptz,
  -- Of the work, as it follows from the visits.
  state text not null check (state in ('open', 'worked', 'checked', 'called_off')),
  state_since timestamptz not null,
  -- How many parts it waits for: while it does it is not done.
  parts_wanted smallint not null default 0 check (parts_wanted >= 0),
  created_at timestamptz not null,
  version integer not null default 1,
  check ((billing_basis = 'not_charged') = (not_charged_reason is not null)),
  check ((billing_basis = 'promised_on_site') = (told_minor is not null)),
  check ((told_minor is null) = (told_with_vat is null)),
  check ((priority is null) = (respond_by is null))
);
create index on job (state);
create index on job (customer_id);
create index on job (cost_centre);
create index on job (vat_code) where vat_code is not null;
create index on job (created_at);
create index on job (site_id);
create index on job (equipment_id) where equipment_id is not null;
create index on job (cause_code) where cause_code is not null;
create index on job (fault_code) where fault_code is not null;
-- What such jobs really took is read from the newest of a kind.
create index job_done_by_kind on job (kind_of_job_id, id desc) where state = 'checked';
create index job_of_a_fault on job (created_at) include (id, fault_code, cause_code) where fault_code is not null;

alter table to_do add foreign key (job_id) references job;
alter table journal_line add foreign key (job_id) references job;

-- The documents that took cost of a job out of work in progress: a bill, that it is not charged, that it was called off.
-- The one that closes the job takes all that is left, and what comes late; a job is billed while it stands. A credit that
-- takes work back opens the job again.
create table cost_release (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  kind text not null check (kind in ('invoice', 'not_charged', 'called_off')),
  invoice_number bigint,
  closes boolean not null,
  released_at timestamptz not null,
  check ((kind = 'invoice') = (invoice_number is not null)),
  check (closes or kind = 'invoice')
);
create unique index cost_release_closes_once on cost_release (job_id) where closes;
create index on cost_release (job_id);
create index on cost_release (invoice_number) where invoice_number is not null;
create function refuse_change_of_cost_release() returns trigger language plpgsql as $$
begin
  if to_jsonb(new) - 'closes' <> to_jsonb(old) - 'closes' or new.closes then
    raise exception 'cost_release % stays; it can only stop closing its job', old.id using errcode = 'PR001';
  end if;
  return new;
end $$;
create trigger cost_release_stays before update on cost_release
  for each row execute function refuse_change_of_cost_release();
create trigger cost_release_is_never_deleted before delete on cost_release
  for each row execute function refuse_change();

-- The quotes whose promise is a job's, as they were accepted: the first made it, each further one is extra work. A job
-- straight from a call has none.
create table accepted_quote (
  quote_id bigint primary key,
  job_id bigint not null references job,
  number bigint not null unique,
  -- All of a job's are of one kind.
  promise text not null check (promise in ('fixed_price', 'estimate', 'not_more_than')),
  accepted_at timestamptz not null,
  accepted_by text not null check (accepted_by <> ''),
  -- The day of the quote, whose warranties hold for the job.
  quoted_on date not null,
  net_minor bigint not null
);
create index on accepted_quote (job_id);
create trigger accepted_quote_inserts_only before update or delete on accepted_quote
  for each row execute function refuse_change();

-- What was promised, line by line as it was accepted; a job's promise is the lines of all its quotes.
create table promised_line (
  id bigint generated always as identity primary key,
  quote_id bigint not null references accepted_quote,
  position smallint not null,
  category text not null check (category in ('labour', 'drive', 'parts', 'other')),
  description text not null,
  minutes integer check (minutes >= 0),
  rate_class text check (rate_class in ('normal', 'overtime', 'night')),
  miles numeric(8, 1) check (miles >= 0),
  part_id bigint references part,
  quantity numeric(14, 3) check (quantity > 0),
  unit_cost numeric(18, 8) not null check (unit_cost >= 0),
  cost_per_mile numeric(12, 4),
  drive_charge text check (drive_charge in ('per_call_out', 'per_hour', 'per_mile', 'none')),
  unit_price numeric(14, 4) not null check (unit_price >= 0),
  vat_code text not null references vat_treatment,
  -- As on the day of the yes; a bill has the percent of its own day.
  vat_percent numeric(5, 2) not null,
  -- What came off it, in this order: its own discount, what the warranty bears, its part of the quote's discount.
  discount_minor bigint not null check (discount_minor >= 0),
  warranty_share numeric(5, 4) not null check (warranty_share between 0 and 1),
  warranty_reduction_minor bigint not null check (warranty_reduction_minor >= 0),
  discount_of_whole_minor bigint not null check (discount_of_whole_minor >= 0),
  -- Why the customer pays what the warranty was to bear; null while it bears it.
  warranty_exclusion text check (warranty_exclusion <> ''),
  unique (quote_id, position),
  check ((category in ('labour', 'drive')) = (minutes is not null)),
  check ((category = 'labour') = (rate_class is not null)),
  check ((category = 'drive') = (miles is not null and cost_per_mile is not null and drive_charge is not null)),
  check ((category = 'parts') = (part_id is not null)),
  check ((category in ('parts', 'other')) = (quantity is not null))
);
create index on promised_line (part_id) where part_id is not null;
create index on promised_line (vat_code);
create function refuse_change_of_promised_line() returns trigger language plpgsql as $$
begin
  if to_jsonb(new) - 'warranty_exclusion' <> to_jsonb(old) - 'warranty_exclusion' then
    raise exception 'promised_line % stays; it can only be taken out of warranty', old.id using errcode = 'PR001';
  end if;
  return new;
end $$;
create trigger promised_line_stays before update on promised_line
  for each row execute function refuse_change_of_promised_line();
create trigger promised_line_is_never_deleted before delete on promised_line
  for each row execute function refuse_change();

-- The parts in which a fixed price falls due, as they were accepted; the last is billed with all that is left.
create table accepted_stage (
  quote_id bigint not null references accepted_quote,
  position smallint not null check (position > 0),
  name text not null check (name <> ''),
  net_minor bigint not null,
  primary key (quote_id, position)
);
create trigger accepted_stage_inserts_only before update or delete on accepted_stage
  for each row execute function refuse_change();

create table visit (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  -- The visit that did not happen and of which this one takes the place.
  replaces_id bigint references visit,
  -- The visit that must be over before this one begins, and the day before which what it waits for is not there.
  follows_id bigint references visit check (follows_id <> id),
  not_before date,
  -- The part that it waits for; empty for none. Once it has arrived the day above counts no more.
  awaited_part text not null default '',
  part_arrived_on date,
  technician_id bigint references person,
  -- The day on which it is: as planned, or as it then began.
  day date,
  planned_day date,
  begun_at timestamptz,
  start_time time,
  expected_minutes integer not null check (expected_minutes between 5 and 960),
  state text not null
    check (state in ('unplanned', 'planned', 'driving', 'on_site', 'finished', 'checked', 'not_this_time', 'called_off')),
  -- Why the equipment's warranty does not bear its labour or its drive; null while it may.
  labour_warranty_exclusion text check (labour_warranty_exclusion <> ''),
  drive_warranty_exclusion text check (drive_warranty_exclusion <> ''),
  note text not null default '',
  reason text not null default '',
  -- What came of it, as its technician says; null until then.
  outcome text check (outcome in ('done', 'come_again', 'not_let_in', 'declined')),
  -- So many minutes after its time its technician expects to be there; null for as planned.
  -- When its technician said that they come as it is planned now.
  accepted_at timestamptz,
  late_minutes smallint check (late_minutes > 0),
  -- What its technician told the customer that the job costs in all.
  told_minor bigint check (told_minor > 0),
  told_with_vat boolean,
  check ((told_minor is null) = (told_with_vat is null)),
  -- When its customer was told that somebody comes; null where they were not, or where it was called off.
  told_day date,
  told_start time,
  -- What speaks against its time and was put up with when it was planned.
  overruled text[] not null default '{}',
  finished_at timestamptz,
  checked_at timestamptz,
  checked_by bigint references person,
  version integer not null default 1,
  check (state in ('unplanned', 'called_off') or (technician_id is not null and day is not null and start_time is not null)),
  check ((told_day is null) = (told_start is null)),
  check (part_arrived_on is null or awaited_part <> ''),
  check ((state = 'checked') = (checked_at is not null and checked_by is not null)),
  check (state not in ('not_this_time', 'called_off') or reason <> '')
);
create index on visit (job_id);
create unique index on visit (replaces_id) where replaces_id is not null;
create index on visit (follows_id) where follows_id is not null;
create index on visit (technician_id, day);
create index on visit (day);
create index visit_without_a_time on visit (job_id) where state = 'unplanned';
create index on visit (checked_by) where checked_by is not null;

-- Who comes to a visit besides the technician who is responsible for it.
create table visit_companion (
  visit_id bigint not null references visit,
  person_id bigint not null references person,
  -- For which part of it, in minutes from its start on; null for all of it.
  starts_after smallint check (starts_after >= 0),
  minutes smallint check (minutes > 0),
  check ((starts_after is null) = (minutes is null)),
  primary key (visit_id, person_id)
);
create index on visit_companion (person_id);

-- What was promised and is done, as its technician ticked it off; a tick that is taken back leaves no row.
create table line_done (
  promised_line_id bigint primary key references promised_line,
  visit_id bigint not null references visit,
  done_by bigint not null references person,
  done_at timestamptz not null
);
create index on line_done (visit_id);
create index on line_done (done_by);

create table time_entry (
  id bigint generated always as identity primary key,
  -- Null for a drive home, or for other time that belongs to no visit.
  visit_id bigint references visit,
  person_id bigint not null references person,
  -- On which it began, by the company's clock.
  day date not null,
  kind text not null check (kind in ('labour', 'drive', 'break')),
  rate_class text not null check (rate_class in ('normal', 'overtime', 'night')),
  started_at timestamptz not null,
  -- Null while the clock runs.
  ended_at timestamptz,
  -- When its clock was started and stopped, whatever was put right since; null for time that was written down.
  measured_from timestamptz,
  measured_to timestamptz,
  -- Whether the end was set by the next clock, so that its person is asked when it really was.
  end_in_doubt boolean not null default false,
  miles numeric(8, 1) not null default 0 check (miles between 0 and 1000),
  description text not null default '',
  -- The line of the promise that was worked on; null where the clock says nothing of lines.
  promised_line_id bigint references promised_line,
  -- What it cost as approved at the check; null until then.
  time_cost_minor bigint check (time_cost_minor >= 0),
  distance_cost_minor bigint check (distance_cost_minor >= 0),
  -- The document that took this cost out of work in progress; null while none has.
  cost_release_id bigint references cost_release,
  -- When somebody took it away again; what the trail points at is never deleted.
  removed_at timestamptz,
  version integer not null default 1,
  constraint ends_after_start check (ended_at >= started_at),
  constraint at_most_sixteen_hours check (ended_at - started_at <= interval '16 hours'),
  check (kind = 'drive' or miles = 0),
  check (kind <> 'break' or visit_id is null),
  check (promised_line_id is null or kind = 'labour' and visit_id is not null),
  check (measured_from is not null or measured_to is null),
  check ((time_cost_minor is null) = (distance_cost_minor is null)),
  check (time_cost_minor is null or ended_at is not null),
  check (cost_release_id is null or time_cost_minor is not null and visit_id is not null),
  constraint one_clock_per_person
    exclude using gist (person_id with =, tstzrange(started_at, ended_at) with &&) where (removed_at is null)
);
create index on time_entry (visit_id);
create index on time_entry (promised_line_id) where promised_line_id is not null;
create index on time_entry (person_id) where end_in_doubt and removed_at is null;
-- Of all that somebody has ever worked, what still runs; every tap asks for it.
create index on time_entry (person_id) where ended_at is null and removed_at is null;
create index on time_entry (person_id, day);
create index on time_entry (cost_release_id) where cost_release_id is not null;

-- The minutes of a clock: the difference of its two ends, each cut to the minute.
create function clock_minutes(started_at timestamptz, ended_at timestamptz) returns integer language sql immutable as $$
  select floor(date_part('epoch', ended_at) / 60)::integer - floor(date_part('epoch', started_at) / 60)::integer
$$;

-- What a visit bears of a drive that led to no visit. Shares are never changed: a row of the opposite sign takes one back.
create table drive_home_share (
  id bigint generated always as identity primary key,
  time_entry_id bigint not null references time_entry,
  visit_id bigint not null references visit,
  takes_back_id bigint unique references drive_home_share,
  minutes integer not null,
  miles numeric(8, 1) not null,
  time_cost_minor bigint not null,
  distance_cost_minor bigint not null,
  shared_at timestamptz not null,
  -- The document that took this cost out of work in progress; null while none has.
  cost_release_id bigint references cost_release,
  check (case when takes_back_id is null
    then minutes >= 0 and miles >= 0 and time_cost_minor >= 0 and distance_cost_minor >= 0
    else minutes <= 0 and miles <= 0 and time_cost_minor <= 0 and distance_cost_minor <= 0 end)
);
create index on drive_home_share (time_entry_id);
create index on drive_home_share (visit_id);
create index on drive_home_share (cost_release_id) where cost_release_id is not null;

-- A share stays as it was borne; only a document takes its cost out of work in progress.
create function refuse_change_of_share() returns trigger language plpgsql as $$
begin
  if to_jsonb(new) - 'cost_release_id' <> to_jsonb(old) - 'cost_release_id' then
    raise exception 'drive_home_share takes inserts only' using errcode = 'PR001';
  end if;
  return new;
end $$;
create trigger drive_home_share_stays before update on drive_home_share
  for each row execute function refuse_change_of_share();
create trigger drive_home_share_is_never_deleted before delete on drive_home_share
  for each row execute function refuse_change();

create table visit_part (
  id bigint generated always as identity primary key,
  visit_id bigint not null references visit,
  part_id bigint not null references part,
  quantity numeric(14, 3) not null check (quantity > 0),
  cost_minor bigint not null check (cost_minor >= 0),
  unit_price numeric(14, 4) not null check (unit_price >= 0),
  place_id bigint not null references stock_place,
  warranty_exclusion text check (warranty_exclusion <> ''),
  added_at timestamptz not null,
  -- The document that took this cost out of work in progress; null while none has.
  cost_release_id bigint references cost_release,
  -- When it was taken away again; what the journal and the trail point at is never deleted.
  removed_at timestamptz,
  version integer not null default 1
);
create index on visit_part (visit_id);
create index on visit_part (part_id);
create index on visit_part (cost_release_id) where cost_release_id is not null;
create index on visit_part (place_id);

alter table equipment add foreign key (visit_part_id) references visit_part;

create table other_cost (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  supplier text not null,
  description text not null,
  -- Below nothing for what a supplier bears, which is never passed on.
  cost_minor bigint not null check (cost_minor <> 0),
  vat_code text not null references vat_treatment,
  -- What the customer pays of it by time and parts.
  passed_on text not null check (passed_on in ('with_markup', 'at_cost', 'not_charged')),
  check (cost_minor > 0 or passed_on = 'not_charged'),
  added_at timestamptz not null,
  -- The document that took this cost out of work in progress; null while none has.
  cost_release_id bigint references cost_release
);
create index on other_cost (job_id);
create index on other_cost (cost_release_id) where cost_release_id is not null;
create index on other_cost (vat_code);

-- Work of a subcontractor, or a hire, that was ordered for a job and whose bill is awaited until it is among the costs.
create table work_order (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  supplier text not null check (length(supplier) between 1 and 120),
  -- Where it was sent by mail; empty for that they were told otherwise.
  email text not null,
  what text not null check (length(what) between 1 and 300),
  -- What it is to cost, without VAT; null while nobody knows.
  expected_minor bigint check (expected_minor > 0),
  wanted_on date,
  state text not null check (state in ('ordered', 'billed', 'dropped')),
  ordered_on date not null,
  -- When the bill came or it was dropped.
  closed_on date,
  reason text not null default '' check (length(reason) <= 300),
  other_cost_id bigint unique references other_cost,
  version integer not null default 1,
  check ((state = 'billed') = (other_cost_id is not null)),
  check ((state = 'ordered') = (closed_on is null))
);
create index on work_order (job_id);

-- What the customer pays by time and parts besides the work, such as a diagnosis or a certificate.
create table job_charge (
  id bigint generated always as identity primary key,
  job_id bigint not null references job,
  description text not null check (description <> ''),
  quantity numeric(12, 3) not null check (quantity > 0),
  unit_price numeric(14, 4) not null check (unit_price > 0),
  -- Null for as the job is treated.
  vat_code text references vat_treatment,
  removed_at timestamptz,
  version integer not null default 1
);
create index on job_charge (job_id);
create index on job_charge (vat_code) where vat_code is not null;

-- Every cost that was posted for a job, of each kind, with its visit or its supplier's bill, and the document that took it
-- out of work in progress.
create view cost_fact as
  select v.job_id, v.id as visit_id, null::bigint as other_cost_id, t.kind as category, t.time_cost_minor + t.distance_cost_minor as cost_minor, t.cost_release_id
    from time_entry t join visit v on v.id = t.visit_id
    where t.time_cost_minor is not null and t.removed_at is null
  union all select v.job_id, v.id, null, 'drive', s.time_cost_minor + s.distance_cost_minor, s.cost_release_id
    from drive_home_share s join visit v on v.id = s.visit_id
  union all select v.job_id, v.id, null, 'parts', p.cost_minor, p.cost_release_id
    from visit_part p join visit v on v.id = p.visit_id
    where p.removed_at is null
  union all select o.job_id, null, o.id, 'other', o.cost_minor, o.cost_release_id
    from other_cost o;
