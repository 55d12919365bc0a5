-- What is gone through on visits of a kind of job, at a kind of equipment, or of both together.
create table checklist (
  id bigint generated always as identity primary key,
  name text not null unique check (name <> ''),
  kind_of_job_id bigint references kind_of_job,
  equipment_kind_id bigint references equipment_kind,
  active boolean not null default true,
  -- The one by which visits are done that have not begun with it.
  edition integer not null check (edition > 0),
  version integer not null default 1,
  check (num_nonnulls(kind_of_job_id, equipment_kind_id) > 0)
);
create index on checklist (kind_of_job_id) where kind_of_job_id is not null;
create index on checklist (equipment_kind_id) where equipment_kind_id is not null;

-- Since when each edition is asked. Grows only, as do its questions: a visit keeps the edition by which it was done.
create table checklist_edition (
  checklist_id bigint not null references checklist,
  edition integer not null check (edition > 0),
  since timestamptz not null,
  primary key (checklist_id, edition)
);

create trigger checklist_edition_inserts_only before update or delete on checklist_edition
  for each row execute function refuse_change();

create table checklist_item (
  id bigint generated always as identity primary key,
  checklist_id bigint not null,
  edition integer not null,
  position smallint not null check (position > 0),
  question text not null check (question <> ''),
  asks text not null check (asks in ('yes_no', 'choice', 'measurement', 'text', 'photo')),
  -- Of a choice, the answers; of it and of yes and no, which of them are out of limits.
  choices text[] not null default '{}',
  wrong text[] not null default '{}',
  -- Of a measurement, its unit and what is within limits, both ends included.
  unit text not null default '',
  least numeric(14, 3),
  most numeric(14, 3),
  required boolean not null,
  raises_to_do boolean not null,
  unique (checklist_id, edition, position),
  foreign key (checklist_id, edition) references checklist_edition,
  check ((asks = 'choice') = (cardinality(choices) > 0)),
  check (asks in ('yes_no', 'choice') or cardinality(wrong) = 0),
  check (asks = 'measurement' or (unit = '' and least is null and most is null)),
  check (least <= most),
  check (not raises_to_do or cardinality(wrong) > 0 or num_nonnulls(least, most) > 0)
);

create trigger checklist_item_inserts_only before update or delete on checklist_item
  for each row execute function refuse_change();

-- By which edition a visit is done, from its first answer on.
create table visit_checklist (
  visit_id bigint not null references visit,
  checklist_id bigint not null,
  edition integer not null,
  primary key (visit_id, checklist_id),
  foreign key (checklist_id, edition) references checklist_edition
);
create index on visit_checklist (checklist_id, edition);

-- What was answered; photos are answers by being there.
create table checklist_answer (
  id bigint generated always as identity primary key,
  version integer not null default 1,
  visit_id bigint not null references visit,
  checklist_item_id bigint not null references checklist_item,
  answer text not null,
  -- Instead of an answer: there is no such thing here, as the word says.
  does_not_apply boolean not null,
  -- As it was by the limits of its question.
  out_of_limits boolean not null,
  word text not null default '' check (length(word) <= 300),
  answered_at timestamptz not null,
  answered_by bigint not null references person,
  -- By which the office was told of it.
  to_do_id bigint references to_do,
  unique (visit_id, checklist_item_id),
  check (does_not_apply = (answer = '')),
  check (not does_not_apply or not out_of_limits),
  check (word <> '' or not (does_not_apply or out_of_limits))
);
create index on checklist_answer (checklist_item_id);
create index on checklist_answer (answered_by);
create index on checklist_answer (to_do_id) where to_do_id is not null;
