-- One build makes the files of several formats from one numbered publication; each has its own files, digest, time and problems.
create table build_formats (
  build uuid not null references builds on delete cascade,
  format text not null,
  -- Where it stands among the formats of the recipe.
  position integer not null,
  state text not null check (state in ('done', 'failed')),
  -- Null: it failed.
  digest text,
  bytes bigint not null default 0,
  -- Of paper; null for formats without.
  pages integer,
  milliseconds integer,
  -- Of this format only.
  problems jsonb not null default '[]',
  message text,
  primary key (build, format)
);

alter table deliverable_files add column format text not null default 'html';
alter table deliverable_files drop constraint deliverable_files_pkey;
update deliverable_files set format = 'markdown', path = substr(path, 10) where path like 'markdown/%';
alter table deliverable_files alter column format drop default;
alter table deliverable_files add primary key (build, format, path);

-- What was built until now was digested as a whole.
insert into build_formats (build, format, position, state, digest, bytes)
select f.build, f.format, case f.format when 'html' then 0 else 1 end, 'done', b.digest, sum(s.size)
  from deliverable_files f join builds b on b.id = f.build join blobs s on s.digest = f.digest
 group by f.build, f.format, b.digest;
