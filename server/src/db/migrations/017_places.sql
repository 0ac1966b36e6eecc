-- What cross-references can lead to inside components: sections, figures, tables, examples and steps, as the newest revision has
-- them, with what they are called (a step by its first words).
create table places (
  workspace uuid not null references workspaces,
  component text not null,
  id text not null,
  kind text not null,
  title text not null,
  position bigint not null,
  words tsvector generated always as (to_tsvector('simple', search_plain(title))) stored,
  primary key (workspace, component, id)
);
create index places_words on places using gin (words);

-- The words in a node of content; variables as their keys.
create function content_words(jsonb, jsonpath) returns text language sql immutable parallel safe as $$
  select string_agg(coalesce(part ->> 'text', '[' || (part #>> '{attrs,key}') || ']'), '' order by at)
    from jsonb_path_query($1, $2, '{}', true) with ordinality parts (part, at)
$$;

create function places_in(body jsonb) returns table (id text, kind text, title text, at bigint)
language sql immutable parallel safe as $$
  select distinct on (id) id, kind, title, at from (
    select node #>> '{attrs,id}' as id, node ->> 'type' as kind, at,
           left(btrim(case when node ->> 'type' = 'step'
             then content_words(node, 'strict $.content[0].** ? (exists(@.text) || @.type == "variable")')
             else content_words(node, 'strict $.content[*] ? (@.type == "title" || @.type == "caption").** ? (exists(@.text) || @.type == "variable")')
           end), 200) as title
      from jsonb_path_query(body, 'strict $.** ? (@.type == "section" || @.type == "figure" || @.type == "table"
             || @.type == "example" || @.type == "step")', '{}', true) with ordinality found (node, at)) named
   where id is not null and title <> ''
   order by id, at
$$;

create function keep_places() returns trigger language plpgsql as $$
begin
  if exists (select from revisions r where r.workspace = new.workspace and r.key = new.key and r.revision > new.revision) then
    return null;
  end if;
  delete from places where workspace = new.workspace and component = new.key;
  insert into places (workspace, component, id, kind, title, position)
    select new.workspace, new.key, id, kind, title, at from places_in(new.body);
  return null;
end $$;
create trigger keep_places after insert or update of body on revisions for each row execute function keep_places();

insert into places (workspace, component, id, kind, title, position)
  select workspace, key, id, kind, title, at
    from (select distinct on (workspace, key) workspace, key, body from revisions order by workspace, key, revision desc) newest,
         places_in(newest.body);
