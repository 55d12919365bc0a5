-- The office checks what was worked: what it wants to be told of finished visits.

-- A rule of which somebody has said something; what has no row is told from its usual limit on.
create table check_rule (
  oddity text primary key,
  watched boolean not null,
  -- From where on it is told; null for the usual limit.
  limit_of numeric(8, 2) check (limit_of > 0)
);
