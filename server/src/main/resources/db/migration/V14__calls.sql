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
create index on talk_answer (fault_code) where fault_code is not null;
create index on talk_answer (fault_talk_id, next_question) where next_question is not null;

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
create index on call (equipment_id) where equipment_id is not null;
create index on call (quote_id) where quote_id is not null;
create index on call (site_id) where site_id is not null;
create index on call (taken_by);
create index on call (to_do_id) where to_do_id is not null;
