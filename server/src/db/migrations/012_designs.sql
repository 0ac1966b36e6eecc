-- Designs are saved against the revision that was changed, derive from one another, and can lie in the bin. What a design does
-- not say, it takes from the one that it derives from; those that came with the application are part of it.
alter table designs add column revision integer not null default 1;
alter table designs add column derives_from text;
alter table designs add column deleted_at timestamptz;
alter table designs add column deleted_by uuid references people;

delete from designs where key in ('plain', 'labelled');

-- Designs of before came from imports only, and differ in their lists and in whether sections have numbers.
update designs
   set derives_from = 'labelled',
       settings = jsonb_build_object(
         'lists.contentsDepth', settings -> 'lists' -> 'contentsDepth',
         'lists.front', '["contents"]'::jsonb,
         'lists.back', case when settings -> 'lists' -> 'index' = 'true' then '["index"]'::jsonb else '[]'::jsonb end)
       || case when settings -> 'numerals' ->> 'section' = 'none' then '{"numerals.section": "none"}'::jsonb else '{}'::jsonb end;

-- Designs use components, too: texts with variables, pictures, snippets of covers.
alter table component_references drop constraint component_references_source_kind_check;
alter table component_references add check (source_kind in ('component', 'publication', 'design'));

-- Uploaded families of fonts; their files are blobs.
create table fonts (
  workspace uuid not null references workspaces,
  key text not null,
  title text not null,
  licence text not null,
  faces jsonb not null,
  uploaded_by uuid references people,
  uploaded_at timestamptz not null default now(),
  primary key (workspace, key)
);

-- What a design would look like, for whoever looks at it now. It may be lost at any time.
create unlogged table previews (
  id uuid primary key default gen_random_uuid(),
  person uuid not null references people on delete cascade,
  media_type text not null,
  content text not null,
  made_at timestamptz not null default now()
);
create index previews_of_person on previews (person, made_at desc);
