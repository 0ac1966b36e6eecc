-- What slots find snippets by.
alter table components add column collection text;
alter table components add column tags jsonb not null default '{}';
create index components_collection on components (workspace, collection) where collection is not null;

-- What is kept of a build, to tell later whether it is still up to date. It is only read as a whole, and is
-- small beside the deliverable, which is not compressed either.
alter table builds add column record json;
alter table builds alter column record set storage external;
create index builds_of_variant on builds (variant, queued_at desc);

-- Designs of before say nothing of front matter, parts and generated lists.
update designs
   set settings = '{"chapters": "through", "lists": {"contentsDepth": 0, "figures": true, "tables": true,
                    "examples": false, "glossary": true, "index": true}}'::jsonb
               || settings || jsonb_build_object('numerals', '{"front": "none"}'::jsonb || (settings -> 'numerals'));
