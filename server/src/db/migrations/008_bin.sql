-- What is deleted waits in the bin; everything in it can come back.
alter table components add column deleted_by uuid references people;
alter table publications add column deleted_at timestamptz, add column deleted_by uuid references people;
alter table variants add column deleted_at timestamptz, add column deleted_by uuid references people;
alter table axes add column deleted_at timestamptz, add column deleted_by uuid references people;
alter table profiles add column deleted_at timestamptz, add column deleted_by uuid references people;

-- A title is free again when its variant is in the bin.
alter table variants drop constraint variants_workspace_publication_title_key;
create unique index variants_title on variants (workspace, publication, title) where deleted_at is null;

-- Variants are saved against the revision that was changed, like all that people edit.
alter table variants add column revision integer not null default 1;
create index components_bin on components (workspace, deleted_at desc) where deleted_at is not null;
