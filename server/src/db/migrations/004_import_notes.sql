-- What an import could not take over as it was, kept with the publication that it made.
alter table publications add column import_notes jsonb not null default '[]';
