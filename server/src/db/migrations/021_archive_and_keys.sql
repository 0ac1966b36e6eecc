-- What is archived stays where it is used, and is offered nowhere any more.
alter table components add column archived_at timestamptz;
alter table components add column archived_by uuid references people;

-- The keys that components had before: what was written with them meanwhile, in drafts and copies, is read with the new ones.
create table former_keys (
  workspace uuid not null,
  former text not null,
  key text not null,
  changed_by uuid references people on delete set null,
  changed_at timestamptz not null default now(),
  primary key (workspace, former),
  foreign key (workspace, key) references components deferrable initially deferred
);
create index former_keys_key on former_keys (workspace, key);
