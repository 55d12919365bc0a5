-- A word that may go on is looked up as the words that it may become, for the index reads whole words much faster than
-- beginnings. So every word that anything is found by is kept, in the order of its letters.
drop index search_word_like;
alter table search_word alter column word type text collate "C";
create index search_word_like on search_word using gin (word gin_trgm_ops);

-- Words with digits are numbers, postcodes and serials: too many and too seldom the same to be kept.
create function search_words_of(words tsvector) returns setof text language sql immutable as $$
  select word from unnest(tsvector_to_array(words)) as word where word ~ '^[^0-9]+$'
$$;

create or replace function note_for_search(noted_kind text, noted_ids bigint[]) returns void language plpgsql as $$
begin
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
drop function search_query(text, boolean);
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

-- The newest jobs are wanted first: the index finds the words of each 20,000 of them by themselves.
create extension if not exists btree_gin;
drop index search_entry_job;
create index search_entry_job on search_entry using gin ((record_id / 20000), words) where kind = 'job';

insert into search_word
  select distinct found.word from search_entry, search_words_of(words) as found (word) on conflict do nothing;
