-- What a team wants to be told of when something is saved; null: what every team begins with.
alter table workspaces add column checks jsonb;
alter table workspaces add column checks_revision integer not null default 0;
