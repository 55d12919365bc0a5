-- As Spring Session's JDBC store expects it, so that two servers can share the signed-in people.
create table spring_session (
  primary_id char(36) not null primary key,
  session_id char(36) not null unique,
  creation_time bigint not null,
  last_access_time bigint not null,
  max_inactive_interval int not null,
  expiry_time bigint not null,
  principal_name varchar(100)
);
create index on spring_session (expiry_time);
create index on spring_session (principal_name);

create table spring_session_attributes (
  session_primary_id char(36) not null references spring_session (primary_id) on delete cascade,
  attribute_name varchar(200) not null,
  attribute_bytes bytea not null,
  primary key (session_primary_id, attribute_name)
);

-- How often an address asked for something within a minute; counted by all servers together, and no loss in a crash.
create unlogged table request_count (
  address text not null,
  minute timestamptz not null,
  requests integer not null,
  primary key (address, minute)
);
create index on request_count (minute);
