create extension if not exists pg_trgm;

create table workspaces (
  id uuid primary key default gen_random_uuid(),
  title text not null
);

-- What all server processes on one database share.
create table settings (
  key text primary key,
  value text not null
);

create table people (
  id uuid primary key default gen_random_uuid(),
  workspace uuid not null references workspaces,
  sign_in text not null unique,
  name text not null,
  role text not null check (role in ('reader', 'reviewer', 'writer', 'keeper')),
  password_hash text not null
);

create table session (
  sid varchar primary key,
  sess json not null,
  expire timestamp(6) not null
);
create index session_expire on session (expire);

create table components (
  workspace uuid not null references workspaces,
  key text not null,
  kind text not null check (kind in ('topic', 'snippet', 'variable', 'image', 'link')),
  title text not null,
  revision integer not null,
  text text not null default '',
  conditions text[] not null default '{}',
  changed_by uuid references people,
  changed_at timestamptz not null default now(),
  deleted_at timestamptz,
  primary key (workspace, key)
);
create index components_title on components using gin (title gin_trgm_ops);
create index components_text on components using gin (text gin_trgm_ops);

create table revisions (
  workspace uuid not null,
  key text not null,
  revision integer not null,
  title text not null,
  body jsonb not null,
  saved_by uuid references people,
  saved_at timestamptz not null default now(),
  primary key (workspace, key, revision),
  foreign key (workspace, key) references components deferrable initially deferred
);

create table component_references (
  workspace uuid not null references workspaces,
  source_kind text not null check (source_kind in ('component', 'publication')),
  source text not null,
  position integer not null,
  target text not null,
  kind text not null,
  place text,
  target_block text,
  held integer,
  primary key (workspace, source_kind, source, position)
);
create index component_references_target on component_references (workspace, target);

create table axes (
  workspace uuid not null references workspaces,
  key text not null,
  title text not null,
  position integer not null,
  axis_values jsonb not null,
  primary key (workspace, key)
);

create table profiles (
  workspace uuid not null references workspaces,
  key text not null,
  title text not null,
  axes jsonb not null,
  primary key (workspace, key)
);

create table designs (
  workspace uuid not null references workspaces,
  key text not null,
  title text not null,
  settings jsonb not null,
  primary key (workspace, key)
);

create table publications (
  workspace uuid not null references workspaces,
  key text not null,
  title text not null,
  revision integer not null,
  variable_values jsonb not null,
  entries jsonb not null,
  changed_by uuid references people,
  changed_at timestamptz not null default now(),
  primary key (workspace, key)
);

create table variants (
  id uuid primary key default gen_random_uuid(),
  workspace uuid not null,
  publication text not null,
  title text not null,
  recipe jsonb not null,
  foreign key (workspace, publication) references publications on delete cascade,
  unique (workspace, publication, title)
);

create table blobs (
  digest text primary key,
  size bigint not null,
  chunks integer not null
);

create table blob_chunks (
  digest text not null references blobs on delete cascade,
  number integer not null,
  bytes bytea not null,
  primary key (digest, number)
);
alter table blob_chunks alter column bytes set storage external;

create table builds (
  id uuid primary key default gen_random_uuid(),
  workspace uuid not null references workspaces,
  variant uuid not null references variants on delete cascade,
  variant_title text not null,
  recipe jsonb not null,
  state text not null default 'queued' check (state in ('queued', 'running', 'done', 'failed', 'broken off')),
  stage text not null default 'waiting',
  progress real not null default 0,
  attempts integer not null default 0,
  -- The advisory lock that the process running the build holds; a free lock means the process is gone.
  worker_lock integer,
  started_by uuid references people,
  queued_at timestamptz not null default now(),
  ended_at timestamptz,
  pages integer not null default 0,
  bytes bigint not null default 0,
  digest text,
  problems jsonb not null default '[]',
  message text
);
create index builds_newest on builds (workspace, queued_at desc);

create table deliverable_files (
  build uuid not null references builds on delete cascade,
  path text not null,
  media_type text not null,
  digest text not null references blobs,
  primary key (build, path)
);

create sequence worker_locks as integer;

create table audit (
  id bigint generated always as identity primary key,
  workspace uuid not null references workspaces,
  person uuid references people,
  at timestamptz not null default now(),
  action text not null,
  subject text not null,
  detail jsonb not null default '{}'
);
create index audit_newest on audit (workspace, at desc);
