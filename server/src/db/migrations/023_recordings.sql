-- Films and sounds that were taken in: what the bytes say they are, and that they are kept.
create table recordings (
  workspace uuid not null references workspaces,
  digest text not null references blobs,
  media_type text not null,
  primary key (workspace, digest)
);
create index recordings_digest on recordings (digest);
