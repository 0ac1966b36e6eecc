-- With which version of the content schema the values in outlines and recipes were written; the ones from before this
-- column with the first.
alter table publications add column schema_version integer not null default 1;
alter table publications alter column schema_version drop default;
alter table variants add column schema_version integer not null default 1;
alter table variants alter column schema_version drop default;
alter table builds add column schema_version integer not null default 1;
alter table builds alter column schema_version drop default;
