-- Search that forgives: words without capitals and accents, their stems, and the words of the library to correct mistakes by.
create extension if not exists fuzzystrmatch;

-- A text as its words, apart by single spaces: small letters, accents of Latin and Greek away (in other scripts they tell letters
-- apart).
create function search_plain(text) returns text language sql immutable parallel safe as $$
  select regexp_replace(
    normalize(regexp_replace(normalize(lower($1), NFKD), '([a-zα-ω])[\u0300-\u036f]+', '\1', 'g'), NFKC),
    '[^[:alnum:]]+', ' ', 'g')
$$;

-- The stems of a word, each with the code of its language (ISO 639-1) before it.
create function word_stems(text) returns text[] language sql immutable parallel safe as $$
  select array_agg(language || ':' || stem)
    from (values
      ('da', ts_lexize('danish_stem', $1)), ('de', ts_lexize('german_stem', $1)), ('el', ts_lexize('greek_stem', $1)),
      ('en', ts_lexize('english_stem', $1)), ('es', ts_lexize('spanish_stem', $1)), ('fi', ts_lexize('finnish_stem', $1)),
      ('fr', ts_lexize('french_stem', $1)), ('hu', ts_lexize('hungarian_stem', $1)), ('it', ts_lexize('italian_stem', $1)),
      ('nl', ts_lexize('dutch_stem', $1)), ('no', ts_lexize('norwegian_stem', $1)), ('pt', ts_lexize('portuguese_stem', $1)),
      ('ro', ts_lexize('romanian_stem', $1)), ('ru', ts_lexize('russian_stem', $1)), ('sv', ts_lexize('swedish_stem', $1)),
      ('tr', ts_lexize('turkish_stem', $1))
    ) stems (language, found), unnest(found) stem
$$;

-- Titles (A) and keys (B) apart, so that most of what ranks is in a few words. A text has a limit (a tsvector holds one megabyte), so
-- that no page is too long to be saved.
alter table components add column title_words tsvector generated always as (
  setweight(to_tsvector('simple', search_plain(title)), 'A') || setweight(to_tsvector('simple', search_plain(key)), 'B')) stored;
alter table components add column words tsvector generated always as (
  strip(to_tsvector('simple', search_plain(title || ' ' || key || ' ' || left(text, 200000))))) stored;
create index components_words on components using gin (words);
create index components_title_words on components using gin (title_words);
create index components_changed on components (workspace, changed_at desc) where deleted_at is null;

-- Every word that a workspace ever used.
create table search_words (
  workspace uuid not null references workspaces,
  word text not null,
  stems text[] not null,
  primary key (workspace, word)
);
create index search_words_stems on search_words using gin (stems);
create index search_words_parts on search_words using gin (word gin_trgm_ops);

create function keep_search_words() returns trigger language plpgsql as $$
begin
  insert into search_words (workspace, word, stems)
    select new.workspace, own.word, coalesce(word_stems(own.word), '{}')
      from unnest(tsvector_to_array(new.words)) as own (word)
      -- The limit has each word looked up by its key, however little the planner knows of a table that is being filled.
      left join lateral (
        select true as is_known from search_words k where k.workspace = new.workspace and k.word = own.word limit 1) known on true
     where length(own.word) between 2 and 60 and is_known is null
     order by own.word
  on conflict do nothing;
  return null;
end $$;
create trigger keep_search_words after insert or update of title, key, text on components
  for each row execute function keep_search_words();

insert into search_words (workspace, word, stems)
  select workspace, word, coalesce(word_stems(word), '{}')
    from (select distinct workspace, unnest(tsvector_to_array(words)) as word from components) used
   where length(word) between 2 and 60;

-- What a person looks for often, under a name: the part of the library's address that says it.
create table saved_searches (
  person uuid not null references people on delete cascade,
  name text not null,
  query text not null,
  primary key (person, name)
);
