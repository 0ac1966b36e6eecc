-- What people have written and not saved, so that it is found again from another computer. One per person, thing and window.
create table drafts (
  person uuid not null references people on delete cascade,
  thing text not null,
  window_name text not null,
  -- As text, so that it comes back as it was sent, sign by sign.
  draft text not null,
  at timestamptz not null default now(),
  primary key (person, thing, window_name)
);
create index drafts_at on drafts (person, at);
