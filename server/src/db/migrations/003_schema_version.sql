-- With which version of the content schema a body was written; the ones from before this column with the first.
alter table revisions add column schema_version integer not null default 1;
alter table revisions alter column schema_version drop default;
create index revisions_schema_version on revisions (schema_version);
