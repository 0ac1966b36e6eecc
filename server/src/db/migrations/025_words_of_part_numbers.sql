-- Texts are parted into words as questions are. The database's own parser took “1e48b203” for a number and another word, so that
-- whoever looked for such a part found nothing.

-- The words of a text. Longer ones than a tsvector can hold are left out, as nobody types them. What is called stands fast when
-- this is read (“begin atomic”): a restored backup fills its tables without a search path.
create function search_words_in(said text) returns tsvector language sql immutable parallel safe begin atomic
  select coalesce(array_to_tsvector(array_agg(distinct word)), '')
    from unnest(string_to_array(btrim(search_plain(said)), ' ')) word
   where word <> '' and octet_length(word) <= 2000;
end;

-- The same with a weight, A to D, to be told from others.
create function search_words_in(said text, weight text) returns tsvector language sql immutable parallel safe begin atomic
  select coalesce(string_agg(word || ':1' || weight, ' '), '')::tsvector
    from unnest(tsvector_to_array(search_words_in(said))) word;
end;

alter table components drop column title_words, drop column words;
alter table components add column title_words tsvector generated always as (
  search_words_in(title, 'A') || search_words_in(key, 'B')) stored;
alter table components add column words tsvector generated always as (
  search_words_in(title || ' ' || key || ' ' || left(text, 200000))) stored;
create index components_words on components using gin (words);
create index components_title_words on components using gin (title_words);

alter table places drop column words;
alter table places add column words tsvector generated always as (search_words_in(title)) stored;
create index places_words on places using gin (words);

insert into search_words (workspace, word, stems)
  select workspace, word, coalesce(word_stems(word), '{}')
    from (select distinct workspace, unnest(tsvector_to_array(words)) as word from components) used
   where length(word) between 2 and 60
  on conflict do nothing;
