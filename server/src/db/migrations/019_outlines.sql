-- Whether writers may change outlines; keepers give and take that right.
alter table workspaces add column writers_outline boolean not null default true;
