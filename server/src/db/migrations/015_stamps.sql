-- A team's own names for what blocks and phrases are, with standing conditions where wanted.
create table stamps (
  workspace uuid not null references workspaces,
  key text not null,
  title text not null,
  stands_on text not null check (stands_on in ('blocks', 'phrases', 'both')),
  derives_from text,
  standing text,
  revision integer not null default 1,
  deleted_at timestamptz,
  deleted_by uuid references people,
  primary key (workspace, key)
);
