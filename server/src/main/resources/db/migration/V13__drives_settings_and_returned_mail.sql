-- A quoted drive keeps the rule by which it is charged; until now each was one price for a call-out.
alter table quote_line
  add column drive_charge text check (drive_charge in ('per_call_out', 'per_hour', 'per_mile', 'none'));
update quote_line set drive_charge = 'per_call_out' where category = 'drive';
alter table quote_line add check ((category = 'drive') = (drive_charge is not null));

-- Whether somebody changed the settings meanwhile.
alter table company add column version integer not null default 0;

-- Who is told when a message cannot be delivered.
alter table mail add column queued_by bigint not null references person default 0;
alter table mail alter column queued_by drop default;

-- What the program does of itself; nobody signs in as this person.
alter table person drop constraint person_role_check;
alter table person add constraint person_role_check
  check (role in ('office', 'technician', 'bookkeeper', 'owner', 'customer', 'program'));
insert into person (id, name, username, password_hash, role, active)
  overriding system value values (-1, 'Pragmata', 'pragmata', 'none', 'program', false);

-- A quote is printed from its frozen edition when the message goes out, not kept a second time with the message.
alter table mail
  drop column attachment,
  drop column attachment_name,
  add column attached_edition smallint,
  add foreign key (quote_id, attached_edition) references quote_edition;
