-- What search looks through, in one column with one index: an “or” over several is answered by reading everything.
drop index components_title;
drop index components_text;
alter table components add column folded text generated always as (lower(title || E'\n' || key || E'\n' || text)) stored;
create index components_folded on components using gin (folded gin_trgm_ops);
create index components_by_title on components (workspace, lower(title), key) where deleted_at is null;
create index components_by_kind on components (workspace, kind, lower(title), key) where deleted_at is null;
create index variants_publication on variants (workspace, publication) where deleted_at is null;
create index builds_done on builds (workspace, variant, queued_at desc) where state = 'done';

-- How many problems a build had, without reading them.
alter table builds
  add column errors integer not null generated always as (jsonb_array_length(jsonb_path_query_array(problems, '$[*] ? (@.severity == "error")'))) stored,
  add column warnings integer not null generated always as (jsonb_array_length(jsonb_path_query_array(problems, '$[*] ? (@.severity == "warning")'))) stored;
