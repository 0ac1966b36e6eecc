-- What a build was made of, so that it can be made again whatever becomes of the library: packed JSON.
alter table builds add column source bytea;
alter table builds alter column source set storage external;
-- The build whose record it was made from again; null: it was made from the library.
alter table builds add column again_of uuid references builds on delete set null;
-- The files of old deliverables go; what was built stays on record.
alter table builds add column files_dropped boolean not null default false;

-- Deliverables that were handed over: they stay for good, with their files and their record.
create table shipped (
  build uuid primary key references builds,
  version text not null,
  note text not null default '',
  shipped_by uuid references people,
  shipped_at timestamptz not null default now()
);

-- How many deliverables of a variant are kept, besides those that were shipped.
alter table workspaces add column kept_builds integer not null default 10 check (kept_builds between 1 and 1000);

-- Families that were deleted stay for what was built with them.
alter table fonts add column deleted_at timestamptz;

-- Whether anything still needs the bytes of a file.
create index deliverable_files_digest on deliverable_files (digest);
create index image_files_digest on image_files (digest);
