-- Axes and profiles are saved against the revision that was changed, like components.
alter table axes add column revision integer not null default 1;
alter table profiles add column revision integer not null default 1;
