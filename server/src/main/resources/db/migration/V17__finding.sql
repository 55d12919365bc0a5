create extension if not exists unaccent;
create extension if not exists fuzzystrmatch;
create extension if not exists btree_gin;

-- Text as it is searched: small letters without accents and apostrophes, anything else between the words a blank.
create function search_text(written text) returns text language sql immutable parallel safe as $$
  select trim(regexp_replace(
    lower(unaccent('unaccent', regexp_replace(written, '[''’]', '', 'g'))), '[^[:alnum:]]+', ' ', 'g'))
$$;

-- The digits of phone numbers and serial numbers, each number after a blank; a phone number without the country's
-- code (one to three digits, ITU-T E.164) and the 0 of the trunk, so that it is found however it is said.
create function search_digits(written text) returns text language sql immutable parallel safe as $$
  select ' ' || regexp_replace(
    regexp_replace(regexp_replace(written, '\(0\)', '', 'g'), '[^0-9+]', '', 'g'),
    '^((\+|00)(1|7|2[07]|3[0123469]|4[013-9]|5[1-8]|6[0-6]|8[1246]|9[0-58]'
      || '|2[1-689][0-9]|3[578][0-9]|42[0-9]|5[09][0-9]|6[7-9][0-9]|8[035789][0-9]|9[679][0-9])|0)', '')
$$;

-- Everything that the one field finds by words or digits, as it is now.
create view search_source as
  select 'customer' as kind, c.id as record_id, coalesce(c.merged_into, c.id) as customer_id,
    concat_ws(' ', c.name, c.email, c.address, c.postcode, replace(c.postcode, ' ', ''), c.number, c.reference,
      (select string_agg(concat_ws(' ', t.name, t.email), ' ') from contact t where t.customer_id = c.id)) as text,
    search_digits(c.phone)
      || coalesce((select string_agg(search_digits(t.phone), '') from contact t where t.customer_id = c.id), '')
      as digits
  from customer c
  union all
  select 'site', s.id, s.customer_id,
    concat_ws(' ', s.name, s.address, s.postcode, replace(s.postcode, ' ', ''), s.area), ''
  from site s
  union all
  select 'equipment', e.id, s.customer_id,
    concat_ws(' ', e.serial_number, regexp_replace(e.serial_number, '[^[:alnum:]]', '', 'g'), e.model, e.position),
    search_digits(e.serial_number)
  from equipment e join site s on s.id = e.site_id
  union all
  select 'job', j.id, j.customer_id,
    concat_ws(' ', j.title, j.notes, (select string_agg(v.note, ' ') from visit v where v.job_id = j.id)), ''
  from job j;

create table search_entry (
  kind text not null check (kind in ('customer', 'site', 'equipment', 'job')),
  record_id bigint not null,
  customer_id bigint not null,
  words tsvector not null,
  digits text not null,
  primary key (kind, record_id)
);
create index search_entry_customer on search_entry using gin (words) where kind = 'customer';
create index search_entry_site on search_entry using gin (words) where kind = 'site';
create index search_entry_equipment on search_entry using gin (words) where kind = 'equipment';
-- The newest jobs are wanted first: the index finds the words of each 20,000 of them by themselves.
create index search_entry_job on search_entry using gin ((record_id / 20000), words) where kind = 'job';
create index search_entry_digits on search_entry using gin (digits gin_trgm_ops) where digits <> '';

-- A word that may go on is looked up as the words that it may become, for the index reads whole words much faster than
-- beginnings. So every word that anything is found by is kept, in the order of its letters.
create table search_word (
  word text collate "C" primary key
);
create index search_word_like on search_word using gin (word gin_trgm_ops);

-- Words with digits are numbers, postcodes and serials: too many and too seldom the same to be kept.
create function search_words_of(words tsvector) returns setof text language sql immutable as $$
  select word from unnest(tsvector_to_array(words)) as word where word ~ '^[^0-9]+$'
$$;

create function note_for_search(noted_kind text, noted_ids bigint[]) returns void language plpgsql as $$
begin
  delete from search_entry
    where kind = noted_kind and record_id = any(noted_ids)
      and not exists (select from search_source s where s.kind = noted_kind and s.record_id = search_entry.record_id);
  insert into search_entry (kind, record_id, customer_id, words, digits)
    select kind, record_id, customer_id, strip(to_tsvector('simple', search_text(text))), digits
      from search_source where kind = noted_kind and record_id = any(noted_ids)
    on conflict (kind, record_id) do update
      set customer_id = excluded.customer_id, words = excluded.words, digits = excluded.digits
      where (search_entry.customer_id, search_entry.words, search_entry.digits)
        is distinct from (excluded.customer_id, excluded.words, excluded.digits);
  insert into search_word
    select distinct found.word from search_entry, search_words_of(words) as found (word)
    where kind = noted_kind and record_id = any(noted_ids)
      and not exists (select from search_word known where known.word = found.word)
    order by found.word
    on conflict do nothing;
end $$;

-- The query of words that may go on. A word that nothing begins with is mistyped and stands for those most like it;
-- widened, so does every word.
create function search_query(written text, widened boolean) returns text language sql stable as $$
  select coalesce(string_agg('(' || case
      when known is null then typed || ':*' || coalesce(' | ' || alike, '')
      else known || coalesce(' | ' || alike, '') end || ')', ' & '), '')
  from unnest(string_to_array(search_text(written), ' ')) as said (typed)
  left join lateral (
    select case when count(*) > 300 then typed || ':*' else string_agg(word, ' | ') end as known from (
      select word from search_word where word >= typed and word < typed || U&'\+10FFFF' limit 301) beginning) words on true
  left join lateral (
    select string_agg(word, ' | ') as alike from (
      select word from search_word where (widened or known is null) and typed ~ '^[^0-9]{3,}$' and word % typed and word <> typed
        and levenshtein(left(word, 60), left(typed, 60)) <= greatest(1, length(typed) / 3)
      order by similarity(word, typed) desc, word limit 8) nearest) others on true
  where typed <> ''
$$;

