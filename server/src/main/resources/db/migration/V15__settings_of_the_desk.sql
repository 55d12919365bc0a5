-- What customers are promised and pay for parts is kept by the office itself.
alter table response_terms add column version integer not null default 1;
alter table price_list add column version integer not null default 1;

-- The office's own words around what each mail about a quote has to say; empty for none.
alter table company
  add column letter_opening text not null default '' check (length(letter_opening) <= 600),
  add column letter_closing text not null default '' check (length(letter_closing) <= 600);
