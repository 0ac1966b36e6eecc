-- People come and go, and set things for themselves.
alter table people add column is_active boolean not null default true;
alter table people add column settings jsonb not null default '{}';
alter table people add column added_at timestamptz not null default now();
alter table people add column last_seen_at timestamptz;

-- Sessions of before carry more of a person than the name by which rights are read; everybody signs in again.
delete from session;
alter table session add column person uuid generated always as ((sess #>> '{person}')::uuid) stored
  references people on delete cascade;
create index session_person on session (person);

-- Links by which somebody comes in once: invited, or to set a new password. Of the token only the digest is kept.
create table invitations (
  id uuid primary key default gen_random_uuid(),
  workspace uuid not null references workspaces,
  token_digest text not null unique,
  name text not null,
  role text not null check (role in ('reader', 'reviewer', 'writer', 'keeper')),
  -- Whose password is set anew; null: a new person.
  person uuid references people on delete cascade,
  -- Null: the process that found nobody in the database.
  made_by uuid references people,
  expires_at timestamptz not null
);

-- Letters as they would have been sent.
create table outbox (
  id uuid primary key default gen_random_uuid(),
  workspace uuid not null references workspaces,
  recipient text not null,
  subject text not null,
  text text not null,
  at timestamptz not null default now()
);

-- Attempts to sign in that failed or are under way, by the name that was given and the address they came from.
create table sign_in_attempts (
  id bigint generated always as identity primary key,
  sign_in text not null,
  address text not null,
  at timestamptz not null default now()
);
create index sign_in_attempts_sign_in on sign_in_attempts (sign_in, at);
create index sign_in_attempts_address on sign_in_attempts (address, at);

-- From where people signed in with success: they are let in from there whatever others try.
create table sign_in_addresses (
  person uuid not null references people on delete cascade,
  address text not null,
  at timestamptz not null default now(),
  primary key (person, address)
);

create extension if not exists pg_trgm;
create index audit_person on audit (workspace, person, id desc);
