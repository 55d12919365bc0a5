-- A week that its technician has signed off, as it stood then, in minutes.
create table week_sign_off (
  person_id bigint not null references person,
  monday date not null check (extract(isodow from monday) = 1),
  signed_at timestamptz not null,
  labour_minutes integer not null check (labour_minutes >= 0),
  other_work_minutes integer not null check (other_work_minutes >= 0),
  drive_minutes integer not null check (drive_minutes >= 0),
  break_minutes integer not null check (break_minutes >= 0),
  primary key (person_id, monday)
);

-- A part that somebody fitted and that is not on the price list; the office puts it on before the visit is checked.
create table unlisted_part (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  visit_id bigint not null references visit,
  -- What it is, in the technician's words.
  name text not null check (name <> ''),
  quantity numeric(14, 3) not null check (quantity > 0),
  noted_at timestamptz not null,
  noted_by bigint not null references person,
  to_do_id bigint not null references to_do,
  -- As which use it was priced; null while it is not.
  visit_part_id bigint unique references visit_part,
  -- When somebody said that it was none, and why.
  dropped_at timestamptz,
  reason text not null default '',
  check (visit_part_id is null or dropped_at is null),
  check ((dropped_at is null) = (reason = ''))
);
create index on unlisted_part (visit_id);
create index on unlisted_part (noted_by);
create index on unlisted_part (to_do_id);

-- What a phone kept while it had no network: taken when it came, or put before the office.
create table late_act (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  person_id bigint not null references person,
  -- Null for what is done on no visit.
  visit_id bigint references visit,
  step text not null,
  -- As it was sent.
  form text not null,
  -- By the phone's clock, as is when it was sent.
  tapped_at timestamptz not null,
  sent_at timestamptz not null,
  -- The moment of the tap by our clock.
  counted_at timestamptz not null,
  came_in_at timestamptz not null,
  state text not null check (state in ('taken', 'waiting', 'written_down', 'refused')),
  -- Why it could not be taken, in words; empty when it was.
  detail text not null default '',
  to_do_id bigint references to_do,
  answered_at timestamptz,
  reason text not null default '',
  check ((state in ('written_down', 'refused')) = (answered_at is not null)),
  check ((state = 'taken') = (detail = '')),
  check ((state = 'taken') = (to_do_id is null))
);
create index on late_act (person_id, counted_at);
create index on late_act (visit_id);
create index on late_act (to_do_id);
create index on late_act (id) where state = 'waiting';

-- What a phone has said that it still has to send of a visit; the row goes once it has sent all.
create table phone_unsent (
  person_id bigint not null references person,
  visit_id bigint not null references visit,
  things smallint not null check (things > 0),
  primary key (person_id, visit_id)
);
create index on phone_unsent (visit_id);

-- A quote for extra work that was made on a visit, with the customer beside it.
create table extra_work_offer (
  quote_id bigint primary key references quote,
  visit_id bigint not null references visit
);
create index on extra_work_offer (visit_id);

-- What whoever was there signed at the end of a visit, and how they found it.
create table visit_signature (
  id bigint generated always as identity primary key,
  visit_id bigint not null unique references visit,
  name text not null check (name <> ''),
  -- The typed name, or a drawing as PNG in a data address.
  signature text not null,
  drawn boolean not null,
  rating smallint check (rating between 1 and 5),
  rating_words text not null default '',
  signed_at timestamptz not null
);

-- Visits that somebody is to sign later, on the customer's page of the job.
create table signature_asked (
  visit_id bigint primary key references visit,
  asked_at timestamptz not null
);

-- Money that a customer said on site they would send.
create table transfer_promise (
  id bigint generated always as identity primary key,
  visit_id bigint not null references visit,
  amount_minor bigint not null check (amount_minor > 0),
  promised_at timestamptz not null,
  promised_to bigint not null references person,
  to_do_id bigint not null references to_do
);
create index on transfer_promise (visit_id);
create index on transfer_promise (promised_to);
create index on transfer_promise (to_do_id);

-- What technicians and the office say to each other about a job.
create table job_message (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  job_id bigint not null references job,
  from_side text not null check (from_side in ('site', 'office', 'customer')),
  to_side text not null check (to_side in ('site', 'office', 'customer')),
  -- The visit on which it was said; null for what is not said on site.
  visit_id bigint references visit,
  text text not null check (length(text) between 1 and 1000),
  sent_at timestamptz not null,
  sent_by bigint not null references person,
  -- By which the office was told of it.
  to_do_id bigint references to_do,
  -- When whom it is for saw it; what the office is told is a to-do instead.
  seen_at timestamptz,
  check (from_side <> to_side),
  -- Customers and technicians meet; they write through the office.
  check (from_side <> 'customer' or to_side = 'office'),
  check ((visit_id is not null) = (from_side = 'site')),
  check ((to_do_id is not null) = (to_side = 'office')),
  check (to_side <> 'office' or seen_at is null)
);
create index on job_message (job_id);
create index on job_message (visit_id) where visit_id is not null;
create index on job_message (sent_by);
create index on job_message (to_do_id) where to_do_id is not null;

-- A photo of a visit; what is taken off stays.
create table visit_photo (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  visit_id bigint not null references visit,
  part_wanted_id bigint references part_wanted,
  unlisted_part_id bigint references unlisted_part,
  -- The question of a checklist that it answers.
  checklist_item_id bigint references checklist_item,
  words text not null default '',
  taken_at timestamptz not null,
  taken_by bigint not null references person,
  kept_at timestamptz not null,
  removed_at timestamptz
);
create index on visit_photo (visit_id);
create index on visit_photo (part_wanted_id) where part_wanted_id is not null;
create index on visit_photo (unlisted_part_id) where unlisted_part_id is not null;
create index on visit_photo (checklist_item_id) where checklist_item_id is not null;
create index on visit_photo (taken_by);

-- The picture itself, as JPEG that the program wrote: as it is looked at, and as it stands in a list.
create table visit_photo_content (
  photo_id bigint primary key references visit_photo,
  large bytea not null check (length(large) between 1 and 8000000),
  small bytea not null check (length(small) between 1 and 200000)
);

-- Where a phone was when its person started or stopped a clock or took a photo; deleted after as many days as the
-- company says.
create table tap_position (
  person_id bigint not null references person,
  -- To the second; by it a clock's measured start or end is found, and a photo.
  tapped_at timestamptz not null,
  latitude numeric(9, 6) not null check (latitude between -90 and 90),
  longitude numeric(9, 6) not null check (longitude between -180 and 180),
  accuracy_metres integer not null check (accuracy_metres >= 0),
  primary key (person_id, tapped_at)
);
create index on tap_position (tapped_at);
