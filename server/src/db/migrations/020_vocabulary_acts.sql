-- What was done to the vocabulary with everything that names it, and what has to be put back to undo it.
create table vocabulary_acts (
  id uuid primary key default gen_random_uuid(),
  workspace uuid not null references workspaces on delete cascade,
  person uuid references people on delete set null,
  done_at timestamptz not null default now(),
  what text not null,
  before jsonb not null,
  taken_back_at timestamptz
);
create index vocabulary_acts_of_workspace on vocabulary_acts (workspace, done_at desc);
